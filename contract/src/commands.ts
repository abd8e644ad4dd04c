import { ANSWERS } from '@rounds/core/commands';
import { loggedActSchema, MOST_DESK_ACTS } from '@rounds/core/machine';
import { z } from 'zod';
import { byId, instant, line, readers, uuid } from './fields';
import { drillers } from './practice';
import { route } from './route';

/** The command caller: a class's controls called out in random order, answered at once, right, late or wrong. */

/** On the real machine with its engine off, tapped in by the trainer; or at the desk, which sees for itself. */
export const CALLED_AT = ['machine', 'desk'] as const;
export type CalledAt = (typeof CALLED_AT)[number];

/** The longest set, and the longest that a set at the desk goes on, in ticks: half an hour. */
const MOST_CALLS = 600;
const MOST_SET_TICKS = 30 * 60 * 10;

const answer = z.object({
  call: line.max(60),
  kind: z.enum(ANSWERS),
  seconds: z.number().min(0).max(600).nullable(),
});

const commandView = z.object({
  id: uuid,
  classId: z.string(),
  classTitle: z.string(),
  calledAt: z.enum(CALLED_AT),
  /** Whom it counts for; null for a try-out that counts for nobody. */
  person: z.object({ id: uuid, name: z.string() }).nullable(),
  startedAt: instant,
  ended: z.boolean(),
  /** A DeskPack of the core. */
  pack: z.unknown(),
  /** A CommandDeal of the core. */
  deal: z.unknown(),
  /** A CommandStandard of the core. */
  standard: z.unknown(),
});
export type CommandView = z.infer<typeof commandView>;

const commandOutcome = commandView.omit({ pack: true }).extend({
  endedAt: instant,
  /** The calls of the class, by id, in words. */
  says: z.record(z.string(), z.string()),
  placeName: z.string(),
  /** A CommandResult of the core. */
  result: z.unknown(),
  /** Sets of the same person and class up to this one, oldest first. */
  sets: z.array(
    z.object({
      id: uuid,
      endedAt: instant,
      calledAt: z.enum(CALLED_AT),
      calls: z.number(),
      wrong: z.number(),
      late: z.number(),
      median: z.number().nullable(),
      meets: z.boolean(),
    }),
  ),
  ready: z.boolean(),
});
export type CommandOutcome = z.infer<typeof commandOutcome>;

export const commandRoutes = {
  startCommands: route({
    method: 'POST',
    path: '/practice/commands',
    summary: 'Deal a set of commands to call out, or answer with the same one that was dealt before',
    roles: drillers,
    body: z.object({
      id: uuid,
      classId: line.max(60),
      variant: line.max(60),
      calledAt: z.enum(CALLED_AT),
      /** Where it is answered from; null for the place with the most calls. */
      place: line.max(60).nullable(),
      /** Every reversal once and both ways, or a short set. */
      full: z.boolean(),
      personId: uuid.nullable(),
    }),
    answer: commandView,
    problems: ['not-found', 'composition', 'forbidden', 'command-set'],
  }),
  commands: route({
    method: 'GET',
    path: '/practice/commands/:id',
    summary: 'A set of commands of one’s own as it was dealt',
    roles: drillers,
    params: byId,
    answer: commandView,
    problems: ['not-found'],
  }),
  endCommands: route({
    method: 'POST',
    path: '/practice/commands/:id/end',
    summary: 'End a set: what the trainer tapped is taken as it is, what was done at the desk is judged anew',
    roles: drillers,
    params: byId,
    body: z.discriminatedUnion('calledAt', [
      z.object({ calledAt: z.literal('machine'), answers: z.array(answer).max(MOST_CALLS) }),
      z.object({
        calledAt: z.literal('desk'),
        log: z.array(loggedActSchema).max(MOST_DESK_ACTS),
        ticks: z.number().int().min(0).max(MOST_SET_TICKS),
      }),
    ]),
    answer: commandOutcome,
    problems: ['not-found', 'command-set'],
  }),
  commandOutcome: route({
    method: 'GET',
    path: '/practice/commands/:id/result',
    summary: 'What a set of commands that has ended came to',
    roles: readers,
    params: byId,
    answer: commandOutcome,
    problems: ['not-found', 'not-complete'],
  }),
};
