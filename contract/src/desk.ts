import { DESK_PROGRAMS, loggedActSchema, MOST_DESK_ACTS, MOST_TICKS } from '@rounds/core/machine';
import { z } from 'zod';
import { byId, instant, line, readers, uuid } from './fields';
import { drillers } from './practice';
import { route } from './route';

/** The desk: a machine of a class that can be started, stopped, worked and gone wrong with. */

/** How much a learner is told: nothing is judged, the next steps are shown, or nothing is shown. */
export const DESK_MODES = ['free', 'guided', 'test'] as const;
export type DeskMode = (typeof DESK_MODES)[number];

/** What was done, and how far the machine's clock had gone. */
const worked = {
  log: z.array(loggedActSchema).max(MOST_DESK_ACTS),
  ticks: z.number().int().min(0).max(MOST_TICKS),
};

const deskView = z.object({
  id: uuid,
  classId: z.string(),
  classTitle: z.string(),
  program: z.enum(DESK_PROGRAMS),
  mode: z.enum(DESK_MODES),
  /** Whom it counts for; null for a try-out that counts for nobody. */
  person: z.object({ id: uuid, name: z.string() }).nullable(),
  startedAt: instant,
  ended: z.boolean(),
  /** A DeskPack of the core. */
  pack: z.unknown(),
  /** A DeskDeal of the core. */
  deal: z.unknown(),
  ...worked,
});
export type DeskView = z.infer<typeof deskView>;

const deskOutcome = deskView.extend({
  endedAt: instant,
  /** A DeskResult of the core. */
  result: z.unknown(),
  /** Earlier runs of the same person, class and program, oldest first. */
  earlier: z.array(
    z.object({
      id: uuid,
      endedAt: instant,
      score: z.number().nullable(),
      critical: z.number(),
      seconds: z.number(),
    }),
  ),
});
export type DeskOutcome = z.infer<typeof deskOutcome>;

export const deskRoutes = {
  startDesk: route({
    method: 'POST',
    path: '/practice/desks',
    summary: 'Begin a run at the desk, or answer with the same one that was begun before',
    roles: drillers,
    body: z.object({
      id: uuid,
      classId: line.max(60),
      variant: line.max(60),
      program: z.enum(DESK_PROGRAMS),
      mode: z.enum(DESK_MODES),
      /** Whether something goes wrong that nobody is told of. */
      surprise: z.boolean(),
      personId: uuid.nullable(),
    }),
    answer: deskView,
    problems: ['not-found', 'composition', 'forbidden', 'desk-run'],
  }),
  desk: route({
    method: 'GET',
    path: '/practice/desks/:id',
    summary: 'A run at the desk as far as it has gone',
    roles: drillers,
    params: byId,
    answer: deskView,
    problems: ['not-found'],
  }),
  keepDesk: route({
    method: 'PUT',
    path: '/practice/desks/:id/log',
    summary: 'Keep what was done so far; what was kept before stays as it was',
    roles: drillers,
    params: byId,
    body: z.object(worked),
    answer: z.object({ acts: z.number(), ticks: z.number() }),
    problems: ['not-found', 'desk-run'],
  }),
  endDesk: route({
    method: 'POST',
    path: '/practice/desks/:id/end',
    summary: 'End a run: it is run anew from its log and judged',
    roles: drillers,
    params: byId,
    body: z.object(worked),
    answer: deskOutcome,
    problems: ['not-found', 'desk-run'],
  }),
  deskOutcome: route({
    method: 'GET',
    path: '/practice/desks/:id/result',
    summary: 'What became of a run at the desk that has ended',
    roles: readers,
    params: byId,
    answer: deskOutcome,
    problems: ['not-found', 'not-complete'],
  }),
};
