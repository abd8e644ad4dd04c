import type { BenchAnswer, BenchCase, BenchDeal, NumberQuestion } from '@rounds/core/bench';
import type { ReplayedRound, ReplayScore } from '@rounds/core/calibration';
import type { Observation } from '@rounds/core/insight';
import type { ItemDecision } from '@rounds/core/scrutiny';
import type { Grade, PolicyScope } from '@rounds/core/catalogue';
import {
  bigserial,
  boolean,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { account, effectivePack, evaluation, instant, machineClass, person } from './schema';

/** Tables of grading: the policy of the sites, the bench, the exercise of a class, the calibration of evaluators. */

/** A line of the grading policy. It is never changed, only ended. */
export const policyLine = pgTable('policy_line', {
  id: uuid('id').primaryKey(),
  /** Null for the whole organisation. */
  site: text('site'),
  scope: jsonb('scope').notNull().$type<PolicyScope>(),
  atLeast: text('at_least').notNull().$type<'mend' | 'stop'>(),
  from: date('from_day', { mode: 'string' }).notNull(),
  why: text('why').notNull(),
  accountId: uuid('account_id')
    .notNull()
    .references(() => account.id),
  madeAt: instant('made_at').notNull(),
  /** The first day on which it holds no longer. */
  endedOn: date('ended_on', { mode: 'string' }),
  endedBy: uuid('ended_by').references(() => account.id),
  endedWhy: text('ended_why'),
});

/** What is put on a bench; whoever holds it can work out the key. */
export type DealtBench = { of: 'findings'; deal: BenchDeal } | { of: 'numbers'; questions: NumberQuestion[] };

export const bench = pgTable(
  'bench',
  {
    id: uuid('id').primaryKey(),
    /** Whom it counts for; null for a trainer's try-out. */
    personId: uuid('person_id').references(() => person.id),
    accountId: uuid('account_id')
      .notNull()
      .references(() => account.id),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    packHash: text('pack_hash')
      .notNull()
      .references(() => effectivePack.hash),
    kind: text('kind').notNull(),
    dealt: jsonb('dealt').notNull().$type<DealtBench>(),
    timed: integer('timed'),
    startedAt: instant('started_at').notNull(),
    endedAt: instant('ended_at'),
    /** How many were answered and right, once it has ended. */
    answered: integer('answered').notNull().default(0),
    right: integer('right').notNull().default(0),
  },
  (t) => [index('bench_person').on(t.personId, t.classId, t.endedAt)],
);

/** The first answer to each case of a bench; append-only. */
export const benchAnswerRow = pgTable(
  'bench_answer',
  {
    benchId: uuid('bench_id')
      .notNull()
      .references(() => bench.id),
    n: integer('n').notNull(),
    body: jsonb('body').notNull().$type<BenchAnswer | { choice: number }>(),
    /** Hundredths of a second it took, where a time was asked for. */
    took: integer('took'),
    at: instant('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.benchId, t.n] })],
);

/** Findings kept to be put to a room again. */
export const exerciseSet = pgTable('exercise_set', {
  id: uuid('id').primaryKey(),
  title: text('title').notNull(),
  accountId: uuid('account_id')
    .notNull()
    .references(() => account.id),
  classId: text('class_id')
    .notNull()
    .references(() => machineClass.id),
  variant: text('variant').notNull(),
  site: text('site'),
  cases: jsonb('cases').notNull().$type<BenchCase[]>(),
  keptOn: date('kept_on', { mode: 'string' }).notNull(),
});

/** A room in which people grade the same findings, where it is, and by which code people join. */
export const exercise = pgTable(
  'exercise',
  {
    id: uuid('id').primaryKey(),
    /** Given up when it ends. */
    code: text('code'),
    title: text('title').notNull(),
    accountId: uuid('account_id')
      .notNull()
      .references(() => account.id),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    packHash: text('pack_hash')
      .notNull()
      .references(() => effectivePack.hash),
    cases: jsonb('cases').notNull().$type<BenchCase[]>(),
    /** The finding on show; null before the first. */
    n: integer('n'),
    /** Findings revealed so far, which take no more answers. */
    revealed: jsonb('revealed').notNull().$type<number[]>(),
    startedAt: instant('started_at').notNull(),
    endedAt: instant('ended_at'),
  },
  (t) => [uniqueIndex('exercise_code').on(t.code), index('exercise_started').on(t.startedAt)],
);

/** Somebody who takes part: an account's own person, or a guest whom the trainer may match to one. */
export const exercisePlace = pgTable(
  'exercise_place',
  {
    id: uuid('id').primaryKey(),
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercise.id),
    name: text('name').notNull(),
    accountId: uuid('account_id').references(() => account.id),
    /** The guest's seat, which ends with the exercise. */
    seatId: uuid('seat_id'),
    guest: boolean('guest').notNull(),
    personId: uuid('person_id').references(() => person.id),
    joinedAt: instant('joined_at').notNull(),
    /** Findings graded and right, once it has ended. */
    graded: integer('graded').notNull().default(0),
    right: integer('right').notNull().default(0),
  },
  (t) => [
    uniqueIndex('exercise_place_account').on(t.exerciseId, t.accountId),
    uniqueIndex('exercise_place_seat').on(t.exerciseId, t.seatId),
    index('exercise_place_person').on(t.personId),
  ],
);

/** What somebody graded a finding; the last before it was revealed. */
export const exerciseAnswer = pgTable(
  'exercise_answer',
  {
    placeId: uuid('place_id')
      .notNull()
      .references(() => exercisePlace.id),
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercise.id),
    n: integer('n').notNull(),
    grade: text('grade').notNull().$type<Grade>(),
    at: instant('at').notNull(),
  },
  (t) => [primaryKey({ columns: [t.placeId, t.n] }), index('exercise_answer_of').on(t.exerciseId, t.n)],
);

/** Cards that the trainer counted for a finding, in the order of the grades. */
export const exerciseCards = pgTable(
  'exercise_cards',
  {
    exerciseId: uuid('exercise_id')
      .notNull()
      .references(() => exercise.id),
    n: integer('n').notNull(),
    counts: jsonb('counts').notNull().$type<number[]>(),
  },
  (t) => [primaryKey({ columns: [t.exerciseId, t.n] })],
);

/** A replayed round that every evaluator scores, with its key. */
export const calibration = pgTable(
  'calibration',
  {
    id: uuid('id').primaryKey(),
    title: text('title').notNull(),
    accountId: uuid('account_id')
      .notNull()
      .references(() => account.id),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    packHash: text('pack_hash')
      .notNull()
      .references(() => effectivePack.hash),
    /** The run as it was recorded: what is scored stays what it was, whatever becomes of the class. */
    round: jsonb('round').notNull().$type<ReplayedRound>(),
    startedAt: instant('started_at').notNull(),
    closedAt: instant('closed_at'),
  },
  (t) => [index('calibration_started').on(t.startedAt)],
);

/** What an evaluator gives; never changed once it is handed in. */
export const calibrationScores = pgTable(
  'calibration_scores',
  {
    calibrationId: uuid('calibration_id')
      .notNull()
      .references(() => calibration.id),
    accountId: uuid('account_id')
      .notNull()
      .references(() => account.id),
    scores: jsonb('scores').notNull().$type<Record<string, ReplayScore>>(),
    way: text('way').notNull().$type<'in-time' | 'stepped'>(),
    handedInAt: instant('handed_in_at'),
  },
  (t) => [
    primaryKey({ columns: [t.calibrationId, t.accountId] }),
    index('calibration_scores_of').on(t.accountId, t.handedInAt),
  ],
);

/** What a review of an item decided. Rows are added, never changed; the newest of an item holds. */
export const itemReview = pgTable(
  'item_review',
  {
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    id: uuid('id').primaryKey(),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    item: text('item').notNull(),
    decision: text('decision').notNull().$type<ItemDecision>(),
    reason: text('reason').notNull(),
    /** People who had answered it by then. */
    people: integer('people').notNull(),
    accountId: uuid('account_id')
      .notNull()
      .references(() => account.id),
    at: instant('at').notNull(),
  },
  (t) => [index('item_review_of').on(t.classId, t.item)],
);

/** What a closed evaluation says, as it is counted over many; made from its events, once, and made anew by version. */
export const evaluationObservation = pgTable(
  'evaluation_observation',
  {
    evaluationId: uuid('evaluation_id')
      .primaryKey()
      .references(() => evaluation.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    classId: text('class_id').notNull(),
    /** Who decided it. */
    accountId: uuid('account_id')
      .notNull()
      .references(() => account.id),
    on: date('on_day', { mode: 'string' }).notNull(),
    version: integer('version').notNull(),
    body: jsonb('body').notNull().$type<Observation>(),
  },
  (t) => [index('evaluation_observation_on').on(t.on, t.classId)],
);
