import { z } from 'zod';
import { byId, line, plainDate, readers, trainers, uuid } from './fields';
import { route } from './route';

/** The ladder of teaching: a class's rungs in their order, and which of them somebody was signed off on. */

const signOff = z.object({ id: uuid, on: plainDate, by: z.string(), note: z.string().nullable() });

const personLadder = z.object({
  classId: z.string(),
  classTitle: z.string(),
  rungs: z.array(
    z.object({
      id: z.string(),
      says: z.string(),
      criterion: z.string().nullable(),
      signed: signOff.nullable(),
      /** What practice by oneself says for it, in a sentence; null where nothing does. */
      shown: z.string().nullable(),
      /** The practice meets what is asked there. */
      met: z.boolean(),
    }),
  ),
  /** Signed off on rungs that the class has no longer. */
  gone: z.array(signOff.extend({ says: z.string() })),
});
export type PersonLadder = z.infer<typeof personLadder>;
export type LadderRung = PersonLadder['rungs'][number];

const ladders = z.object({
  ladders: z.array(personLadder),
  /** Classes that have a ladder, to begin another one. */
  classes: z.array(z.object({ id: z.string(), title: z.string() })),
});

export const ladderRoutes = {
  personLadders: route({
    method: 'GET',
    path: '/people/:id/ladders',
    summary: 'How far a person has come on the ladders of teaching',
    roles: readers,
    params: byId,
    /** A class whose ladder is wanted though nothing was done on it yet. */
    query: z.object({ classId: line.max(60).optional() }),
    answer: ladders,
    problems: ['not-found'],
  }),
  signRung: route({
    method: 'POST',
    path: '/people/:id/ladders',
    summary: 'Sign somebody off on a rung, or answer with what was signed before under the same number',
    roles: trainers,
    params: byId,
    body: z.object({
      id: uuid,
      classId: line.max(60),
      rung: line.max(60),
      on: plainDate,
      note: line.nullable(),
    }),
    answer: ladders,
    problems: ['not-found', 'own-record', 'date-in-future', 'signed-already', 'unknown-row'],
  }),
  takeRungBack: route({
    method: 'POST',
    path: '/people/:id/ladders/:signOff/back',
    summary: 'Take a sign-off back, with the reason; both stay on record',
    roles: trainers,
    params: z.object({ id: uuid, signOff: uuid }),
    body: z.object({ why: line }),
    answer: ladders,
    problems: ['not-found', 'own-record'],
  }),
};
