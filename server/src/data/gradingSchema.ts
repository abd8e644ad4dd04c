import type { BenchAnswer, BenchDeal, NumberQuestion } from '@rounds/core/bench';
import type { PolicyScope } from '@rounds/core/catalogue';
import { date, index, integer, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { account, effectivePack, instant, machineClass, person } from './schema';

/** Tables of grading: the policy of the sites, and the bench. */

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
