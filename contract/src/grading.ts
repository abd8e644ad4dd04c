import { plainDateText } from '@rounds/core/calendar';
import { GRADES, policyScopeSchema } from '@rounds/core/catalogue';
import { z } from 'zod';
import { byId, done, line, office, plainDate, trainers, uuid } from './fields';
import { route } from './route';

/** How a site grades: what its policy raises, from when, by whom and why. */

const words = z.string().trim().min(3, 'say why in a few words').max(500);

/** What a line of the policy is about, and how far it raises. */
const raise = {
  /** Null for the whole organisation. */
  site: line.max(80).nullable(),
  scope: policyScopeSchema,
  atLeast: z.enum(['mend', 'stop']),
};

const policyLine = z.object({
  id: uuid,
  ...raise,
  from: plainDate,
  why: z.string(),
  by: z.string(),
  madeAt: z.string(),
  /** From this day on it holds no longer, by whom and why; null while nobody has ended it. */
  ended: z.object({ on: plainDate, by: z.string(), why: z.string() }).nullable(),
  state: z.enum(['to-come', 'in-force', 'ended']),
  /** What it is about, in words. */
  about: z.string(),
});
export type PolicyLine = z.infer<typeof policyLine>;

/** What a raise would do to the faults of every class. */
const policyEffect = z.object({
  faults: z.number(),
  classes: z.array(
    z.object({
      id: z.string(),
      title: z.string(),
      faults: z.array(
        z.object({ id: z.string(), title: z.string(), from: z.enum(GRADES), to: z.enum(GRADES) }),
      ),
    }),
  ),
});
export type PolicyEffect = z.infer<typeof policyEffect>;

export const gradingRoutes = {
  policy: route({
    method: 'GET',
    path: '/policy',
    summary: 'The grading policy: every line that was made, the newest first',
    roles: office,
    answer: z.object({
      today: plainDate,
      lines: z.array(policyLine),
      sites: z.array(z.string()),
      classes: z.array(z.object({ id: z.string(), title: z.string() })),
    }),
  }),
  previewPolicy: route({
    method: 'POST',
    path: '/policy/preview',
    summary: 'Which faults a line would raise, by class',
    roles: trainers,
    body: z.object(raise),
    answer: policyEffect,
    problems: ['not-found', 'unknown-row'],
  }),
  raisePolicy: route({
    method: 'POST',
    path: '/policy',
    summary: 'Raise what is found from a day on; dated and signed',
    roles: trainers,
    /** `id` is made by the sender, so that sent again nothing is raised twice. */
    body: z.object({ id: uuid, ...raise, from: plainDateText, why: words }),
    answer: done,
    problems: ['date-in-past', 'not-found', 'unknown-row', 'nothing-raised'],
  }),
  endPolicy: route({
    method: 'POST',
    path: '/policy/:id/end',
    summary: 'Let a line of the policy hold no longer from a day on',
    roles: trainers,
    params: byId,
    body: z.object({ on: plainDateText, why: words }),
    answer: done,
    problems: ['date-in-past', 'not-found', 'policy-ended'],
  }),
};
