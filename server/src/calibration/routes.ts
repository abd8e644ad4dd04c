import { calibrationRoutes as routes } from '@rounds/contract';
import type { Router } from 'express';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import {
  closeCalibration,
  handIn,
  keepScores,
  listCalibrations,
  openCalibration,
  reportCalibration,
  viewCalibration,
} from './calibrations';

const done = { done: true } as const;

/** Routes of the calibration of evaluators. */
export function calibrationRoutes(router: Router, house: House): void {
  bind(router, house, routes.calibrations, ({ caller }) => listCalibrations(house, caller));
  bind(router, house, routes.openCalibration, ({ body, caller }) => openCalibration(house, body, caller));
  bind(router, house, routes.calibration, ({ params, caller }) => viewCalibration(house, params.id, caller));
  bind(router, house, routes.scoreCalibration, ({ params, body, caller }) =>
    keepScores(house, params.id, body, caller),
  );
  bind(router, house, routes.handInCalibration, async ({ params, caller }) => {
    await handIn(house, params.id, caller);
    return done;
  });
  bind(router, house, routes.closeCalibration, async ({ params, caller }) => {
    await closeCalibration(house, params.id, caller);
    return done;
  });
  bind(router, house, routes.calibrationReport, ({ params }) => reportCalibration(house, params.id));
}
