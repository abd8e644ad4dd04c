import { certificationRoutes, peopleRoutes as routes } from '@rounds/contract';
import type { Router } from 'express';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import { addPerson, changePerson } from './changePerson';
import { exportRoster } from './exportRoster';
import { importRoster, previewRosterImport } from './importRoster';
import { listRoster } from './listRoster';
import { standingMatrix } from './matrix';
import { personRecord } from './personRecord';
import { prerequisites } from './prerequisites';
import { recordFact } from './recordFact';

/** Routes of people, roster import and export, and the standing matrix. */
export function peopleRoutes(router: Router, house: House): void {
  bind(router, house, routes.people, ({ query, caller }) => listRoster(house, query, caller));
  bind(router, house, routes.addPerson, ({ body, caller }) => addPerson(house, body, caller));
  bind(router, house, routes.changePerson, ({ params, body, caller }) =>
    changePerson(house, params, body, caller),
  );
  bind(router, house, routes.person, ({ params, caller }) => personRecord(house, params, caller));
  bind(router, house, certificationRoutes.prerequisites, ({ params, query, caller }) =>
    prerequisites(house, params, query, caller),
  );
  bind(router, house, routes.previewImport, ({ body, caller, gone }) =>
    previewRosterImport(house, body, caller, gone),
  );
  bind(router, house, routes.importPeople, ({ body, caller, gone }) =>
    importRoster(house, body, caller, gone),
  );
  bind(router, house, routes.exportPeople, ({ caller }) => exportRoster(house, caller));
  bind(router, house, certificationRoutes.matrix, ({ query, caller }) =>
    standingMatrix(house, query, caller),
  );
  bind(router, house, certificationRoutes.addCertificationEvent, ({ params, body, caller }) =>
    recordFact(house, params, body, caller),
  );
}
