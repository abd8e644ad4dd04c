import type { Deal, DrillAct, DrillForm, DrillResult } from '@rounds/core/drill';
import type { CalledAt, DeskMode, PracticeSet, SetForm } from '@rounds/contract';
import type { CommandDeal, CommandResult } from '@rounds/core/commands';
import type { DeskDeal, DeskProgram, DeskResult, LoggedAct } from '@rounds/core/machine';
import type { PracticeOutcome } from '@rounds/core/practice';
import type { LessonPlan } from '@rounds/core/teaching';
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
import { account, effectivePack, machineClass, person, instant } from './schema';

/** Tables of lessons and of practice. */

/** A lesson: what it shows, where it is, and by which code a screen joins. */
export const lesson = pgTable(
  'lesson',
  {
    id: uuid('id').primaryKey(),
    /** Given up when the lesson ends. */
    code: text('code'),
    accountId: uuid('account_id')
      .notNull()
      .references(() => account.id),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    packHash: text('pack_hash')
      .notNull()
      .references(() => effectivePack.hash),
    plan: jsonb('plan').notNull().$type<LessonPlan>(),
    slide: integer('slide').notNull().default(0),
    blank: boolean('blank').notNull().default(false),
    pointAndCall: boolean('point_and_call').notNull().default(false),
    answered: boolean('answered').notNull().default(false),
    startedAt: instant('started_at').notNull(),
    endedAt: instant('ended_at'),
    attended: jsonb('attended').notNull().$type<string[]>(),
  },
  (t) => [uniqueIndex('lesson_code').on(t.code), index('lesson_started').on(t.startedAt)],
);

/** A lesson kept to be given again. */
export const lessonPlan = pgTable('lesson_plan', {
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
  plan: jsonb('plan').notNull().$type<LessonPlan>(),
  keptOn: date('kept_on', { mode: 'string' }).notNull(),
});

/** A walk-round drill: the machine as it was dealt, which its learner never sees, and what became of it. */
export const drill = pgTable(
  'drill',
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
    form: text('form').notNull().$type<DrillForm>(),
    deal: jsonb('deal').notNull().$type<Deal>(),
    earlierStarts: jsonb('earlier_starts').notNull().$type<string[]>(),
    startedAt: instant('started_at').notNull(),
    /** Made from the acts once it has ended. */
    endedAt: instant('ended_at'),
    /** The day at the site. */
    endedOn: date('ended_on', { mode: 'string' }),
    result: jsonb('result').$type<DrillResult>(),
    /** It met what the class asks before an assessment. */
    met: boolean('met').notNull().default(false),
    firstStation: text('first_station'),
    /** Made on a device without a network: for the learner alone, it counts for nothing. */
    offline: boolean('offline').notNull().default(false),
  },
  (t) => [index('drill_person').on(t.personId, t.classId, t.endedAt)],
);

/** A run at the desk: how the machine was found, what was done, and what became of it. */
export const deskRun = pgTable(
  'desk_run',
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
    program: text('program').notNull().$type<DeskProgram>(),
    mode: text('mode').notNull().$type<DeskMode>(),
    deal: jsonb('deal').notNull().$type<DeskDeal>(),
    log: jsonb('log').notNull().$type<LoggedAct[]>(),
    ticks: integer('ticks').notNull().default(0),
    startedAt: instant('started_at').notNull(),
    endedAt: instant('ended_at'),
    result: jsonb('result').$type<DeskResult>(),
  },
  (t) => [index('desk_run_person').on(t.personId, t.classId, t.endedAt)],
);

/** A set of commands called out, on the machine or at the desk: what was dealt, and what became of it. */
export const commandSet = pgTable(
  'command_set',
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
    calledAt: text('called_at').notNull().$type<CalledAt>(),
    deal: jsonb('deal').notNull().$type<CommandDeal>(),
    /** What was done at the desk; null where a trainer tapped the answers in. */
    log: jsonb('log').$type<LoggedAct[]>(),
    startedAt: instant('started_at').notNull(),
    endedAt: instant('ended_at'),
    result: jsonb('result').$type<CommandResult>(),
  },
  (t) => [index('command_set_person').on(t.personId, t.classId, t.endedAt)],
);

/** Sign-offs on the rungs of a class's ladder, and their taking back; append-only. */
export const rungSignOff = pgTable(
  'rung_sign_off',
  {
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    rung: text('rung').notNull(),
    /** The rung as it stood then. */
    says: text('says').notNull(),
    on: date('on', { mode: 'string' }).notNull(),
    note: text('note'),
    /** The sign-off that this row takes back; null for a sign-off. */
    takesBack: uuid('takes_back'),
    accountId: uuid('account_id')
      .notNull()
      .references(() => account.id),
    at: instant('at').notNull(),
  },
  (t) => [index('rung_sign_off_person').on(t.personId, t.classId, t.seq)],
);

/** A drill that a trainer has set somebody. */
export const practiceSet = pgTable(
  'practice_set',
  {
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    variant: text('variant').notNull(),
    form: text('form').notNull().$type<SetForm>(),
    station: text('station'),
    /** What is done at the desk, as a test; null for everything else. */
    program: text('program').$type<PracticeSet['program']>(),
    times: integer('times').notNull(),
    dueOn: date('due_on', { mode: 'string' }).notNull(),
    setBy: uuid('set_by')
      .notNull()
      .references(() => account.id),
    setAt: instant('set_at').notNull(),
  },
  (t) => [index('practice_set_of').on(t.personId, t.dueOn)],
);

/** What a learner did in a drill; append-only. */
export const drillActRow = pgTable(
  'drill_act',
  {
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    id: uuid('id').primaryKey(),
    drillId: uuid('drill_id')
      .notNull()
      .references(() => drill.id),
    at: instant('at').notNull(),
    body: jsonb('body').notNull().$type<DrillAct>(),
  },
  (t) => [index('drill_act_of').on(t.drillId, t.seq)],
);

/** How an item went when it was practised, for spacing; made from what was practised once it has ended. */
export const practiceReview = pgTable(
  'practice_review',
  {
    /** The drill, the session of start and stop or the bench in which it was practised. */
    practiceId: uuid('practice_id').notNull(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    classId: text('class_id').notNull(),
    item: text('item').notNull(),
    at: instant('at').notNull(),
    outcome: text('outcome').notNull().$type<PracticeOutcome>(),
    mistakenFor: jsonb('mistaken_for').notNull().$type<string[]>(),
  },
  (t) => [
    primaryKey({ columns: [t.practiceId, t.item] }),
    index('practice_review_person').on(t.personId, t.classId),
  ],
);
