import { routes } from '@rounds/contract';
import type { Router } from 'express';
import { accountOf } from '../accounts/access';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';
import { bindStream } from '../http/stream';
import { progressTopic } from './pool';

const ended = () => new ProblemError('not-found', 'There is no such work under way; it has ended.');

/** Routes that ask after and cancel heavy work, each account its own. */
export function jobRoutes(router: Router, house: House): void {
  bindStream(router, house, routes.jobProgress, async ({ params, principal }) => ({
    // Work that has not begun yet is listened for too: who starts it names it.
    topic: progressTopic(accountOf(principal).id, params.id),
  }));
  bind(router, house, routes.cancelJob, async ({ params, caller }) => {
    if (!house.pool.cancel(params.id, caller.id)) throw ended();
    return { done: true as const };
  });
}
