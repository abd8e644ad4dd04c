import { routes } from '@rounds/contract';
import type { Router } from 'express';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';

const ended = () => new ProblemError('not-found', 'There is no such work under way; it has ended.');

/** Routes that ask after and cancel heavy work, each account its own. */
export function jobRoutes(router: Router, house: House): void {
  bind(router, house, routes.job, async ({ params, caller }) => {
    const state = house.pool.state(params.id, caller.id);
    if (!state) throw ended();
    return state;
  });
  bind(router, house, routes.cancelJob, async ({ params, caller }) => {
    if (!house.pool.cancel(params.id, caller.id)) throw ended();
    return { done: true as const };
  });
}
