import { STEP_STATES } from '@rounds/core/procedure';
import { DECIDED, deviceEvent, evaluationEventBody, PHASES, reasonWords } from '@rounds/core/evaluation';
import { z } from 'zod';
import { evaluatorCalibration } from './calibration';
import { byId, cursor, line, listOrder, login, office, readers, secret, trainers, uuid } from './fields';
import { route } from './route';

/** Practical evaluations: events, signatures, reports. */

/** What a record is for: an evaluation, or a practice of start and stop that decides nothing. */
export const PURPOSES = ['evaluation', 'practice'] as const;

export const evaluationSummary = z.object({
  id: uuid,
  personId: uuid,
  personName: z.string(),
  classId: z.string(),
  classTitle: z.string(),
  unitName: z.string(),
  trainerId: uuid,
  trainerName: z.string(),
  createdAt: z.string(),
  phase: z.enum(PHASES),
  purpose: z.enum(PURPOSES),
  outcome: z.string().nullable(),
  score: z.number().nullable(),
  overridden: z.boolean(),
  /** What the rules computed when another outcome was decided. */
  computed: z.string().nullable(),
  stillPlanted: z.array(z.object({ fault: z.string(), name: z.string() })),
});

export type EvaluationSummary = z.infer<typeof evaluationSummary>;

/** An event as the server keeps it: who recorded it, and when it arrived. */
export const storedEvent = z.object({
  id: uuid,
  at: z.string(),
  body: evaluationEventBody,
  by: z.string(),
  account: uuid,
  receivedAt: z.string(),
});

/** A fault still in a machine. `personName` is null for who may not see whose evaluation it is. */
export const plantedNow = z.object({
  evaluationId: uuid,
  classTitle: z.string(),
  unitName: z.string(),
  site: z.string(),
  trainerName: z.string(),
  personName: z.string().nullable(),
  since: z.string(),
  faults: z.array(z.string()),
});

export type PlantedNow = z.infer<typeof plantedNow>;

/**
 * An evaluation opened: the composed class as it was (an EffectivePack of the core), events, who holds it.
 */
export const evaluationSchema = z.object({
  summary: evaluationSummary,
  pack: z.unknown(),
  unitId: uuid,
  conditions: z.string(),
  earlierStarts: z.array(z.string()),
  /** Empty for the person evaluated until the decision: `keyHidden` says so. */
  events: z.array(storedEvent),
  keyHidden: z.boolean(),
  holder: z.object({ name: z.string(), device: z.string(), since: z.string() }).nullable(),
  certificate: z.object({ token: z.string() }).nullable(),
  /** Whether whoever evaluates, or decided, was calibrated that day, as the rules of person and class ask for. */
  evaluator: evaluatorCalibration,
});

const noted = z.object({
  accepted: z.array(uuid),
  summary: evaluationSummary,
  certificate: z.object({ token: z.string() }).nullable(),
});

/** What the list of evaluations can be ordered by. */
export const EVALUATION_ORDERS = ['when', 'person', 'class', 'trainer', 'score'] as const;

/** What a step of a session came to. */
const stepResult = z.object({
  id: z.string(),
  procedure: z.string(),
  do: z.string(),
  state: z.enum(STEP_STATES),
  critical: z.boolean(),
  flawed: z.boolean(),
  due: z.boolean(),
  seconds: z.number().nullable(),
});

/** A judged session of procedures. */
export const sequenceSession = z.object({
  id: uuid,
  evaluationId: uuid,
  purpose: z.enum(PURPOSES),
  classId: z.string(),
  classTitle: z.string(),
  unitName: z.string(),
  endedAt: z.string(),
  procedures: z.array(z.object({ id: z.string(), title: z.string() })),
  score: z.number().nullable(),
  critical: z.number(),
  steps: z.array(stepResult),
});
export type SequenceSession = z.infer<typeof sequenceSession>;

const bySequence = z.object({ id: uuid, sequence: uuid });

export const assessRoutes = {
  traceCsv: route({
    method: 'GET',
    path: '/evaluations/:id/sequences/:sequence/trace.csv',
    summary: 'The trace of a session of start and stop as CSV',
    roles: readers,
    params: bySequence,
    answer: 'text/csv',
    problems: ['not-found'],
  }),
  traceXes: route({
    method: 'GET',
    path: '/evaluations/:id/sequences/:sequence/trace.xes',
    summary: 'The trace of a session of start and stop as XES (IEEE 1849)',
    roles: readers,
    params: bySequence,
    answer: 'application/xml',
    problems: ['not-found'],
  }),
  sequenceRail: route({
    method: 'GET',
    path: '/evaluations/:id/sequences/:sequence/rail.svg',
    summary: 'A session of start and stop as a rail, SVG',
    roles: readers,
    params: bySequence,
    answer: 'image/svg+xml',
    problems: ['not-found'],
  }),
  importTrace: route({
    method: 'POST',
    path: '/evaluations/:id/traces',
    summary: 'Record a trace from a file as a session of start and stop',
    roles: trainers,
    params: byId,
    body: z.object({
      format: z.enum(['csv', 'xes']),
      procedures: z.array(z.string().max(64)).min(1).max(20),
      text: z.string().max(500_000),
    }),
    files: ['text'],
    bodyLimit: 600_000,
    answer: noted.extend({
      remarks: z.array(z.object({ line: z.number(), says: z.string(), kept: z.string() })),
    }),
    problems: [
      'not-found',
      'own-record',
      'trace-unreadable',
      'unknown-row',
      'evaluation-closed',
      'sequence-order',
    ],
  }),
  personSequences: route({
    method: 'GET',
    path: '/sequences/people/:id',
    summary: "A person's judged sessions of start and stop, newest first",
    roles: readers,
    params: byId,
    answer: z.object({ sessions: z.array(sequenceSession) }),
    problems: ['not-found'],
  }),
  classSequences: route({
    method: 'GET',
    path: '/sequences/classes/:id',
    summary: 'How often the people of a class get each step of start and stop wrong',
    roles: office,
    params: z.object({ id: z.string().max(60) }),
    answer: z.object({
      sessions: z.number(),
      people: z.number(),
      steps: z.array(
        z.object({
          id: z.string(),
          procedure: z.string(),
          do: z.string(),
          critical: z.boolean(),
          sessions: z.number(),
          flawed: z.number(),
          skipped: z.number(),
          low: z.number(),
          high: z.number(),
        }),
      ),
    }),
    problems: ['not-found'],
  }),
  evaluations: route({
    method: 'GET',
    path: '/evaluations',
    summary: 'Evaluations, newest first',
    roles: readers,
    query: z.object({
      open: z.enum(['yes', 'no']).optional(),
      /** Part of a person's, machine's or class's name. */
      search: z.string().max(100).optional(),
      classId: z.string().max(60).optional(),
      purpose: z.enum(PURPOSES).default('evaluation'),
      outcome: z.enum(DECIDED).optional(),
      /** A place in the order by time, instead of a page. */
      cursor,
      ...listOrder,
      order: listOrder.order.default('descending'),
      sort: z.enum(EVALUATION_ORDERS).default('when'),
      limit: z.coerce.number().int().min(1).max(100).default(30),
    }),
    answer: z.object({
      rows: z.array(evaluationSummary),
      next: z.string().nullable(),
      total: z.number(),
    }),
  }),
  createEvaluation: route({
    method: 'POST',
    path: '/evaluations',
    summary: 'Prepare an evaluation',
    roles: trainers,
    body: z.object({
      id: uuid,
      personId: uuid,
      classId: z.string().max(60),
      unitId: uuid,
      purpose: z.enum(PURPOSES).default('evaluation'),
      variant: z.string().max(40),
      features: z.record(z.string().max(40), z.string().max(60)),
      conditions: z.string().trim().max(2000),
      device: z.string().min(8).max(80),
    }),
    answer: evaluationSchema,
    problems: ['not-found', 'composition', 'evaluation-exists', 'own-record'],
  }),
  evaluation: route({
    method: 'GET',
    path: '/evaluations/:id',
    summary: 'An evaluation with its events',
    roles: readers,
    params: byId,
    answer: evaluationSchema,
    problems: ['not-found'],
  }),
  appendEvents: route({
    method: 'POST',
    path: '/evaluations/:id/events',
    summary: 'Add events; repeats are harmless',
    roles: trainers,
    params: byId,
    /** `as` is the account that made the events: they are not taken as anybody else's. */
    body: z.object({
      device: z.string().min(8).max(80),
      as: uuid.optional(),
      events: z.array(deviceEvent).min(1).max(500),
    }),
    bodyLimit: 2_000_000,
    answer: noted,
    problems: [
      'not-found',
      'wrong-account',
      'evaluation-held',
      'evaluation-closed',
      'event-elsewhere',
      'clock-off',
      'planted-faults-remain',
      'plant-order',
      'sequence-order',
      'not-in-practice',
      'undo-refused',
      'not-complete',
      'override-needs-reason',
      'agreement-needed',
      'unknown-row',
      'not-decided',
      'signed-already',
      'wrong-signer',
      'own-record',
    ],
  }),
  signByName: route({
    method: 'POST',
    path: '/evaluations/:id/signatures',
    summary: 'Sign by full name and password, for those who cannot draw',
    roles: trainers,
    params: byId,
    /**
     * `login` and `password` are those of the one who signs: the caller as trainer, or the operator
     * evaluated.
     */
    body: z.object({
      id: uuid,
      device: z.string().min(8).max(80),
      role: z.enum(['trainer', 'operator']),
      name: line,
      login,
      password: secret,
    }),
    answer: noted,
    problems: [
      'not-found',
      'evaluation-held',
      'not-decided',
      'signed-already',
      'wrong-signer',
      'wrong-sign-in',
      'too-many-attempts',
      'own-record',
    ],
  }),
  agree: route({
    method: 'POST',
    path: '/evaluations/:id/agreement',
    summary: 'A second trainer agrees to an outcome that lifts a critical error or a missed planted stop',
    roles: trainers,
    params: byId,
    /** `login` and `password` are those of the second account. */
    body: z.object({ id: uuid, outcome: z.enum(DECIDED), words: reasonWords, login, password: secret }),
    answer: noted,
    problems: [
      'not-found',
      'evaluation-closed',
      'wrong-signer',
      'wrong-sign-in',
      'too-many-attempts',
      'own-record',
    ],
  }),
  holdEvaluation: route({
    method: 'POST',
    path: '/evaluations/:id/hold',
    summary: 'Hold an evaluation for writing, or take it over',
    roles: trainers,
    params: byId,
    body: z.object({
      device: z.string().min(8).max(80),
      takeOver: z.string().trim().min(3).max(500).optional(),
    }),
    answer: z.object({
      held: z.boolean(),
      holder: z.object({ name: z.string(), device: z.string(), since: z.string() }),
    }),
    problems: ['not-found', 'own-record'],
  }),
  appraisal: route({
    method: 'GET',
    path: '/evaluations/:id/appraisal',
    summary: "The server's own appraisal (an Appraisal of the core)",
    roles: readers,
    params: byId,
    answer: z.object({
      score: z.number().nullable(),
      outcome: z.string(),
      reasons: z.array(z.object({ weighs: z.string(), text: z.string() })),
    }),
    problems: ['not-found', 'not-decided'],
  }),
  report: route({
    method: 'GET',
    path: '/evaluations/:id/report.pdf',
    summary: 'Evaluation report, A4',
    roles: readers,
    params: byId,
    answer: 'application/pdf',
    problems: ['not-found', 'not-decided'],
  }),
  card: route({
    method: 'GET',
    path: '/certificates/:token/card.pdf',
    summary: 'Wallet card',
    roles: readers,
    params: z.object({ token: z.string().max(60) }),
    answer: 'application/pdf',
    problems: ['not-found'],
  }),
};
