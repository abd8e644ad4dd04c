import { benchCaseSchema, BENCH_FORMS } from '@rounds/core/bench';
import { GRADES } from '@rounds/core/catalogue';
import { UNIT_SYSTEMS } from '@rounds/core/measuring';
import { z } from 'zod';
import { findingView, gradingKey, gradingSummary } from './bench';
import { byId, done, instant, line, plainDate, trainers, uuid } from './fields';
import { ROLES, route } from './route';

/** A class exercise: a room of people grades the same findings, each on a phone of their own or by show of cards. */

/** Findings of one exercise. */
const MOST_FINDINGS = 40;
const cases = z.array(benchCaseSchema).min(1, 'needs a finding').max(MOST_FINDINGS);
const counts = z.array(z.number().int().min(0).max(500)).length(GRADES.length);
const about = {
  classId: line.max(60),
  variant: line.max(60),
  site: line.max(80).nullable(),
};

/** A finding that is prepared: what it is, how it is put, and its key. For trainers alone. */
export const preparedFinding = z.object({ case: benchCaseSchema, finding: findingView, key: gradingKey });
export type PreparedFinding = z.infer<typeof preparedFinding>;

/** Somebody in the room. */
const participant = z.object({
  id: uuid,
  name: z.string(),
  guest: z.boolean(),
  /** Whose record it joins; null for a guest whom nobody has matched. */
  person: z.object({ id: uuid, name: z.string() }).nullable(),
  answered: z.boolean(),
  /** What they said; null until it is revealed. */
  grade: z.enum(GRADES).nullable(),
});
export type Participant = z.infer<typeof participant>;

/** An exercise as its trainer has it. Nobody's answer is in it before it is revealed. */
export const exerciseView = z.object({
  id: uuid,
  title: z.string(),
  classTitle: z.string(),
  /** By which people join; null once it has ended. */
  code: z.string().nullable(),
  of: z.number(),
  /** The finding on show; null before the first. */
  n: z.number().nullable(),
  revealed: z.boolean(),
  ended: z.boolean(),
  finding: findingView.nullable(),
  /** Null until it is revealed. */
  key: gradingKey.nullable(),
  spread: counts.nullable(),
  cards: counts.nullable(),
  participants: z.array(participant),
});
export type ExerciseView = z.infer<typeof exerciseView>;

/** An exercise as a phone sees it: the finding and its own answer, never a name, a key or another's answer. */
export const exercisePhone = z.object({
  id: uuid,
  title: z.string(),
  state: z.enum(['waiting', 'open', 'closed', 'ended']),
  of: z.number(),
  n: z.number().nullable(),
  finding: findingView.nullable(),
  mine: z.enum(GRADES).nullable(),
  /** Once it has ended: how many of one's own were as the key has them. */
  result: z.object({ right: z.number(), of: z.number() }).nullable(),
});
export type ExercisePhone = z.infer<typeof exercisePhone>;

const personal = z.object({
  id: uuid,
  name: z.string(),
  guest: z.boolean(),
  person: z.object({ id: uuid, name: z.string() }).nullable(),
  summary: gradingSummary,
});

/** What the room showed. */
export const exerciseReport = z.object({
  id: uuid,
  title: z.string(),
  classTitle: z.string(),
  startedAt: instant,
  endedAt: instant.nullable(),
  whole: gradingSummary,
  says: z.array(z.string()),
  alpha: z.number().nullable(),
  alphaInterval: z.object({ low: z.number(), high: z.number() }).nullable(),
  findings: z.array(
    z.object({
      n: z.number(),
      finding: findingView,
      key: gradingKey,
      spread: counts,
      split: z.boolean(),
    }),
  ),
  people: z.array(personal),
});
export type ExerciseReport = z.infer<typeof exerciseReport>;

const keptSet = z.object({
  id: uuid,
  title: z.string(),
  ...about,
  classTitle: z.string(),
  findings: z.number(),
  by: z.string(),
  own: z.boolean(),
  keptOn: plainDate,
});
export type ExerciseSet = z.infer<typeof keptSet>;

const phones = [...ROLES, 'seat'] as const;

export const exerciseRoutes = {
  proposeFindings: route({
    method: 'POST',
    path: '/exercises/proposal',
    summary: 'Findings of a class for a room, level over the grades, with their keys',
    roles: trainers,
    body: z.object({
      ...about,
      form: z.enum(BENCH_FORMS),
      system: z.enum(UNIT_SYSTEMS),
      size: z.number().int().min(1).max(MOST_FINDINGS),
      seed: z
        .number()
        .int()
        .min(0)
        .max(2 ** 31 - 1),
    }),
    answer: z.object({ findings: z.array(preparedFinding) }),
    problems: ['not-found', 'composition', 'bench-answer'],
  }),
  exerciseSets: route({
    method: 'GET',
    path: '/exercises/sets',
    summary: 'Sets of findings that were kept',
    roles: trainers,
    answer: z.object({ sets: z.array(keptSet) }),
  }),
  exerciseSet: route({
    method: 'GET',
    path: '/exercises/sets/:id',
    summary: 'A kept set with its findings and keys',
    roles: trainers,
    params: byId,
    answer: z.object({ title: z.string(), ...about, findings: z.array(preparedFinding) }),
    problems: ['not-found', 'composition'],
  }),
  keepExerciseSet: route({
    method: 'PUT',
    path: '/exercises/sets/:id',
    summary: 'Keep a set of findings, or change one of one’s own',
    roles: trainers,
    params: byId,
    body: z.object({ title: line.max(80), ...about, cases }),
    answer: done,
    problems: ['not-found', 'composition', 'unknown-row'],
    bodyLimit: 200_000,
  }),
  dropExerciseSet: route({
    method: 'DELETE',
    path: '/exercises/sets/:id',
    summary: 'Drop a kept set of one’s own',
    roles: trainers,
    params: byId,
    answer: done,
    problems: ['not-found'],
  }),
  exercises: route({
    method: 'GET',
    path: '/exercises',
    summary: 'Exercises under way and ended, the latest first',
    roles: trainers,
    answer: z.object({
      rows: z.array(
        z.object({
          id: uuid,
          title: z.string(),
          classTitle: z.string(),
          trainer: z.string(),
          own: z.boolean(),
          startedAt: instant,
          ended: z.boolean(),
          people: z.number(),
          findings: z.number(),
        }),
      ),
    }),
  }),
  startExercise: route({
    method: 'POST',
    path: '/exercises',
    summary: 'Open a room, or answer with the same one that was opened before',
    roles: trainers,
    body: z.object({ id: uuid, title: line.max(80), ...about, cases }),
    answer: exerciseView,
    problems: ['not-found', 'composition', 'unknown-row'],
    bodyLimit: 200_000,
  }),
  joinExercise: route({
    method: 'POST',
    path: '/exercises/join',
    summary: 'Join a room by its code: signed in as oneself, else as a guest with a name',
    roles: 'public',
    body: z.object({
      code: z.string().trim().toUpperCase().min(4).max(12),
      /** For who is not signed in. */
      name: line.max(60).nullable(),
    }),
    answer: z.object({ id: uuid }),
    problems: ['not-found', 'too-many-attempts', 'own-record'],
  }),
  exercise: route({
    method: 'GET',
    path: '/exercises/:id',
    summary: 'An exercise as its trainer has it',
    roles: trainers,
    params: byId,
    answer: exerciseView,
    problems: ['not-found'],
  }),
  moveExercise: route({
    method: 'POST',
    path: '/exercises/:id/move',
    summary: 'Show a finding, or reveal the one on show',
    roles: trainers,
    params: byId,
    body: z.union([
      z.strictObject({
        show: z
          .number()
          .int()
          .min(0)
          .max(MOST_FINDINGS - 1),
      }),
      z.strictObject({ reveal: z.literal(true) }),
    ]),
    answer: exerciseView,
    problems: ['not-found', 'lesson-over', 'exercise-order'],
  }),
  countCards: route({
    method: 'POST',
    path: '/exercises/:id/cards',
    summary: 'Count the cards that were shown for the finding on show',
    roles: trainers,
    params: byId,
    body: z.object({ n: z.number().int().min(0), counts }),
    answer: exerciseView,
    problems: ['not-found', 'lesson-over', 'exercise-order'],
  }),
  matchParticipant: route({
    method: 'PUT',
    path: '/exercises/:id/participants/:participant',
    summary: 'Say who a guest was, or take it back; their result joins that record',
    roles: trainers,
    params: byId.extend({ participant: uuid }),
    body: z.object({ personId: uuid.nullable() }),
    answer: done,
    problems: ['not-found', 'own-record', 'exercise-order'],
  }),
  putOut: route({
    method: 'DELETE',
    path: '/exercises/:id/participants/:participant',
    summary: 'Put a guest out of the room: their seat, and what they graded, are gone',
    roles: trainers,
    params: byId.extend({ participant: uuid }),
    answer: exerciseView,
    problems: ['not-found', 'lesson-over', 'exercise-order'],
  }),
  endExercise: route({
    method: 'POST',
    path: '/exercises/:id/end',
    summary: 'Close the room: guests leave, everybody has their result on record',
    roles: trainers,
    params: byId,
    answer: done,
    problems: ['not-found', 'lesson-over'],
  }),
  exerciseReport: route({
    method: 'GET',
    path: '/exercises/:id/report',
    summary: 'What the room showed of the findings revealed so far',
    roles: trainers,
    params: byId,
    answer: exerciseReport,
    problems: ['not-found'],
  }),
  exercisePhone: route({
    method: 'GET',
    path: '/exercises/:id/phone',
    summary: 'An exercise as one of its phones sees it',
    roles: phones,
    params: byId,
    answer: exercisePhone,
    problems: ['not-found'],
  }),
  answerExercise: route({
    method: 'POST',
    path: '/exercises/:id/answers',
    summary: 'Grade the finding on show; the last answer before it is revealed counts',
    roles: phones,
    params: byId,
    body: z.object({ n: z.number().int().min(0).max(MOST_FINDINGS), grade: z.enum(GRADES) }),
    answer: exercisePhone,
    problems: ['not-found', 'lesson-over', 'exercise-order'],
  }),
  followExercise: route({
    method: 'GET',
    path: '/exercises/:id/following',
    summary: 'Where an exercise is, as it happens; its trainer also hears who has answered',
    roles: phones,
    params: byId,
    answer: 'text/event-stream',
    event: z.union([
      z.object({ kind: z.literal('moved'), n: z.number().nullable(), revealed: z.boolean() }),
      z.object({ kind: z.literal('joined') }),
      /** A guest was put out: told to the trainer, and to that guest's phone. */
      z.object({ kind: z.literal('left') }),
      z.object({ kind: z.literal('answered'), participant: uuid, n: z.number() }),
      z.object({
        kind: z.literal('ended'),
        result: z.object({ right: z.number(), of: z.number() }).nullable(),
      }),
    ]),
    problems: ['not-found'],
  }),
};
