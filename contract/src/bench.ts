import { benchAnswerSchema, BENCH_FORMS } from '@rounds/core/bench';
import { GRADES, METHODS, UNTIL_BOUNDS, USES } from '@rounds/core/catalogue';
import { FINDER_ACTS } from '@rounds/core/grading';
import { UNIT_SYSTEMS } from '@rounds/core/measuring';
import { z } from 'zod';
import { byId, instant, line, readers, uuid } from './fields';
import { drillers } from './practice';
import { route } from './route';

/** The bench: findings to grade and numbers to know, one after the other. */

/** What is put on the bench: findings in one of their forms, or the numbers of the class. */
export const BENCH_KINDS = [...BENCH_FORMS, 'numbers'] as const;
export type BenchKind = (typeof BENCH_KINDS)[number];

const drawing = z.object({ kind: z.string(), params: z.record(z.string(), z.unknown()) }).nullable();

/** A finding as it is put: nothing in it says how it is graded. */
export const findingView = z.object({
  part: z.string(),
  station: z.string(),
  uses: z.array(z.enum(USES)),
  words: z.array(z.object({ method: z.enum(METHODS), shows: z.string() })),
  drawing,
  readings: z.array(z.object({ name: z.string(), says: z.string() })),
});
export type FindingView = z.infer<typeof findingView>;

/** The key of a finding with its reasons. */
export const gradingKey = z.object({
  grade: z.enum(GRADES),
  /** The chain that leads to it: what raised it, and where each reason comes from. */
  reasons: z.array(z.object({ says: z.string(), origin: z.string(), grade: z.enum(GRADES) })),
  acts: z.array(z.enum(FINDER_ACTS)),
  /** What to do, in sentences. */
  instructions: z.array(z.string()),
  by: z.enum(UNTIL_BOUNDS).nullable(),
  until: z.string().nullable(),
  mayClear: z.enum(['operator', 'competent', 'maker']).nullable(),
});
export type GradingKey = z.infer<typeof gradingKey>;

/** A question about a number of the class. */
const numberView = z.object({ name: z.string(), meaning: z.string(), options: z.array(z.string()) });

const putFinding = z.object({ n: z.number(), finding: findingView });
const putNumber = z.object({ n: z.number(), number: numberView });
const answeredFinding = putFinding.extend({
  answer: benchAnswerSchema,
  late: z.boolean(),
  key: gradingKey,
  gradeRight: z.boolean(),
  actRight: z.boolean(),
  by: z.enum(['same', 'sooner', 'later']).nullable(),
});
const answeredNumber = putNumber.extend({
  choice: z.number(),
  late: z.boolean(),
  right: z.number(),
  origin: z.string(),
});
export type AnsweredFinding = z.infer<typeof answeredFinding>;
export type AnsweredNumber = z.infer<typeof answeredNumber>;
const answeredCase = z.union([answeredFinding, answeredNumber]);
export type AnsweredCase = z.infer<typeof answeredCase>;

/** A bench as its learner sees it: what was answered with its key, and the one case that is put now. */
export const benchView = z.object({
  id: uuid,
  classId: z.string(),
  classTitle: z.string(),
  variant: z.string(),
  kind: z.enum(BENCH_KINDS),
  person: z.object({ id: uuid, name: z.string() }).nullable(),
  startedAt: instant,
  of: z.number(),
  /** Seconds for each case; null where nobody asked for a time. */
  timed: z.number().nullable(),
  ended: z.boolean(),
  answered: z.array(answeredCase),
  /** Null once all is answered. */
  now: z.union([putFinding, putNumber]).nullable(),
});
export type BenchView = z.infer<typeof benchView>;

/** How the grades of several findings stand to their key. */
export const gradingSummary = z.object({
  n: z.number(),
  exact: z.number(),
  /** Rows = key, columns = given, in the order of the grades. */
  confusion: z.array(z.array(z.number())),
  tooLow: z.object({
    count: z.number(),
    interval: z.object({ low: z.number(), high: z.number() }).nullable(),
  }),
  tooHigh: z.number(),
  /** Linear weighted kappa; null where it is undefined. */
  kappa: z.number().nullable(),
  kappaInterval: z.object({ low: z.number(), high: z.number() }).nullable(),
  criticalMisses: z.array(z.string()),
  /** The same in sentences, with what this many findings can say. */
  says: z.array(z.string()),
});
export type GradingSummary = z.infer<typeof gradingSummary>;

export const benchOutcome = z.object({
  id: uuid,
  classId: z.string(),
  classTitle: z.string(),
  kind: z.enum(BENCH_KINDS),
  person: z.object({ id: uuid, name: z.string() }).nullable(),
  endedAt: instant,
  of: z.number(),
  answered: z.array(answeredCase),
  right: z.number(),
  /** Of findings: grades against the key, acts right, times too late. Null for numbers. */
  grading: gradingSummary.nullable(),
  actsRight: z.number(),
  tooLate: z.number(),
  /** Shares right of earlier benches of the same person, class and kind, oldest first. */
  earlier: z.array(z.object({ id: uuid, endedAt: instant, right: z.number(), of: z.number() })),
});
export type BenchOutcome = z.infer<typeof benchOutcome>;

export const benchRoutes = {
  startBench: route({
    method: 'POST',
    path: '/practice/benches',
    summary: 'Deal findings to grade or numbers to know, or answer with the same that were dealt before',
    roles: drillers,
    body: z.object({
      id: uuid,
      classId: line.max(60),
      variant: line.max(60),
      kind: z.enum(BENCH_KINDS),
      size: z.number().int().min(4).max(24),
      system: z.enum(UNIT_SYSTEMS),
      timed: z.number().int().min(5).max(180).nullable(),
      personId: uuid.nullable(),
    }),
    answer: benchView,
    problems: ['not-found', 'composition', 'forbidden', 'bench-answer'],
  }),
  bench: route({
    method: 'GET',
    path: '/practice/benches/:id',
    summary: 'A bench as far as it is answered',
    roles: drillers,
    params: byId,
    answer: benchView,
    problems: ['not-found'],
  }),
  answerBench: route({
    method: 'POST',
    path: '/practice/benches/:id/answers',
    summary: 'Answer the case that is put; the first answer counts, and is answered with the key',
    roles: drillers,
    params: byId,
    body: z.object({
      n: z.number().int().min(0).max(100),
      answer: z.union([benchAnswerSchema, z.strictObject({ choice: z.number().int().min(0).max(9) })]),
      /** How long it took, where a time was asked for. */
      seconds: z.number().min(0).max(86_400).nullable(),
    }),
    answer: benchView,
    problems: ['not-found', 'bench-answer'],
  }),
  endBench: route({
    method: 'POST',
    path: '/practice/benches/:id/end',
    summary: 'End a bench before all of it is answered',
    roles: drillers,
    params: byId,
    answer: benchView,
    problems: ['not-found', 'bench-answer'],
  }),
  benchOutcome: route({
    method: 'GET',
    path: '/practice/benches/:id/result',
    summary: 'What became of a bench that has ended',
    roles: readers,
    params: byId,
    answer: benchOutcome,
    problems: ['not-found', 'not-complete'],
  }),
};
