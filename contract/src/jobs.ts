import { z } from 'zod';
import { everyone, byId, done } from './fields';
import { route } from './route';

/** Heavy work: how far it is, and ending it. */

export const jobRoutes = {
  job: route({
    method: 'GET',
    path: '/jobs/:id',
    summary: 'How far a piece of heavy work is that the caller started',
    roles: everyone,
    params: byId,
    answer: z.object({ state: z.enum(['waiting', 'running']), done: z.number(), total: z.number() }),
    problems: ['not-found'],
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
