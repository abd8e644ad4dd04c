import { REPLAY_LENGTHS, REPLAY_SCORES, REPLAY_SECTIONS } from '@rounds/core/calibration';
import { GRADES } from '@rounds/core/catalogue';
import { z } from 'zod';
import { byId, done, instant, line, plainDate, trainers, uuid } from './fields';
import { route } from './route';

/**
 * Calibration of evaluators: everybody scores the same replayed round, by themselves and blind to each other; once it is
 * closed it is seen who is milder on what.
 */

/** How a replay was gone through. */
export const REPLAY_WAYS = ['in-time', 'stepped'] as const;

const score = z.enum(REPLAY_SCORES);
const range = z.object({ low: z.number(), high: z.number() });

/** Whether an evaluator is calibrated, in a sentence, by the rules in force. */
export const evaluatorCalibration = z.object({
  state: z.enum(['not-asked', 'never', 'calibrated', 'due']),
  last: plainDate.nullable(),
  until: plainDate.nullable(),
  says: z.string(),
});
export type EvaluatorCalibration = z.infer<typeof evaluatorCalibration>;

const criterion = z.object({
  id: z.string(),
  section: z.enum(REPLAY_SECTIONS),
  station: z.string().nullable(),
  title: z.string(),
  says: z.string(),
  grade: z.enum(GRADES).nullable(),
});

/** A calibration as somebody scores it: never the key, never what another gave. */
export const calibrationView = z.object({
  id: uuid,
  title: z.string(),
  classTitle: z.string(),
  madeBy: z.string(),
  /** Whether the caller may close it. */
  own: z.boolean(),
  startedAt: instant,
  closedAt: instant.nullable(),
  seconds: z.number(),
  /** The plan of the class and the stations that the round goes through. */
  plan: z.unknown(),
  moments: z.array(
    z.object({
      at: z.number(),
      station: z.string().nullable(),
      about: z.string().nullable(),
      says: z.string(),
    }),
  ),
  criteria: z.array(criterion),
  mine: z
    .object({
      scores: z.record(z.string(), score),
      way: z.enum(REPLAY_WAYS),
      handedInAt: instant.nullable(),
    })
    .nullable(),
  /** Who has handed in, by name. */
  handedIn: z.array(z.string()),
});
export type CalibrationView = z.infer<typeof calibrationView>;

const severity = z.object({
  severity: z.number().nullable(),
  interval: range.nullable(),
  n: z.number(),
  says: z.string(),
});

/** The intraclass correlations of Shrout and Fleiss, each with its interval. */
export const ICC_FORMS = ['icc11', 'icc21', 'icc31', 'icc1k', 'icc2k', 'icc3k'] as const;

/** What a closed calibration showed. */
export const calibrationReport = z.object({
  id: uuid,
  title: z.string(),
  classTitle: z.string(),
  startedAt: instant,
  closedAt: instant,
  says: z.array(z.string()),
  evaluators: z.array(
    severity.extend({
      name: z.string(),
      way: z.enum(REPLAY_WAYS),
      exact: z.number(),
      exactInterval: range.nullable(),
      kappa: z.number().nullable(),
      kappaInterval: range.nullable(),
      /** Parts of the round on which they are milder (above nothing) or more severe than the key. */
      apart: z.array(z.object({ section: z.enum(REPLAY_SECTIONS), severity: z.number() })),
    }),
  ),
  /** The least agreed first. */
  criteria: z.array(
    criterion.extend({
      key: score,
      why: z.string(),
      n: z.number(),
      agreed: z.number(),
      severity: z.number(),
      /** What each evaluator gave, in the order of `evaluators`. */
      given: z.array(score.nullable()),
    }),
  ),
  icc: z
    .array(z.object({ form: z.enum(ICC_FORMS), value: z.number(), interval: range.nullable() }))
    .nullable(),
});
export type CalibrationReport = z.infer<typeof calibrationReport>;

export const calibrationRoutes = {
  calibrations: route({
    method: 'GET',
    path: '/calibrations',
    summary: 'Calibrations under way and closed, and who is calibrated',
    roles: trainers,
    answer: z.object({
      rows: z.array(
        z.object({
          id: uuid,
          title: z.string(),
          classTitle: z.string(),
          madeBy: z.string(),
          startedAt: instant,
          closedAt: instant.nullable(),
          criteria: z.number(),
          minutes: z.number(),
          handedIn: z.number(),
          /** Criteria that the caller has scored. */
          scored: z.number(),
          mineHandedIn: z.boolean(),
        }),
      ),
      evaluators: z.array(
        z.object({
          id: uuid,
          name: z.string(),
          standing: evaluatorCalibration,
          /** Of the last one. */
          calibrationId: uuid.nullable(),
          classTitle: z.string().nullable(),
          severity: severity.nullable(),
        }),
      ),
    }),
  }),
  openCalibration: route({
    method: 'POST',
    path: '/calibrations',
    summary: 'Put a replayed round to every evaluator, or answer with the same one that was put before',
    roles: trainers,
    body: z.object({
      id: uuid,
      title: line.max(80),
      classId: line.max(60),
      variant: line.max(60),
      length: z.enum(REPLAY_LENGTHS),
    }),
    answer: z.object({ id: uuid }),
    problems: ['not-found', 'composition'],
  }),
  calibration: route({
    method: 'GET',
    path: '/calibrations/:id',
    summary: 'A calibration as the caller scores it',
    roles: trainers,
    params: byId,
    answer: calibrationView,
    problems: ['not-found'],
  }),
  scoreCalibration: route({
    method: 'PUT',
    path: '/calibrations/:id/scores',
    summary: 'Keep what the caller gives so far',
    roles: trainers,
    params: byId,
    body: z.object({
      scores: z.record(z.string().max(80), score).refine((all) => Object.keys(all).length <= 200),
      way: z.enum(REPLAY_WAYS),
    }),
    answer: z.object({ scored: z.number() }),
    problems: ['not-found', 'calibration-order', 'unknown-row'],
  }),
  handInCalibration: route({
    method: 'POST',
    path: '/calibrations/:id/hand-in',
    summary: 'Hand in what the caller gave; it is changed no more',
    roles: trainers,
    params: byId,
    answer: done,
    problems: ['not-found', 'calibration-order'],
  }),
  closeCalibration: route({
    method: 'POST',
    path: '/calibrations/:id/close',
    summary: 'Close a calibration: nobody scores any more, everybody sees what it showed',
    roles: trainers,
    params: byId,
    answer: done,
    problems: ['not-found', 'calibration-order', 'forbidden'],
  }),
  calibrationReport: route({
    method: 'GET',
    path: '/calibrations/:id/report',
    summary: 'What a closed calibration showed',
    roles: trainers,
    params: byId,
    answer: calibrationReport,
    problems: ['not-found', 'calibration-order'],
  }),
};
