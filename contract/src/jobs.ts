import { z } from 'zod';
import { byId, done, everyone } from './fields';
import { route } from './route';

/** Heavy work: how far it is, and ending it. */

export const jobRoutes = {
  jobProgress: route({
    method: 'GET',
    path: '/jobs/:id/progress',
    summary: 'How far a piece of heavy work is, as it goes on',
    roles: everyone,
    params: byId,
    answer: 'text/event-stream',
    event: z.object({ done: z.number(), total: z.number() }),
  }),
  cancelJob: route({
    method: 'DELETE',
    path: '/jobs/:id',
    summary: 'Cancel a piece of heavy work that the caller started',
    roles: everyone,
    params: byId,
    answer: done,
    problems: ['not-found'],
  }),
};
