import type { PackError } from '@rounds/core/catalogue';
import type { StepResult } from '@rounds/core/procedure';
import type { MayOperate, Standing, StandingStatus } from '@rounds/core/certification';
import {
  bigint,
  bigserial,
  boolean,
  date,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
  uuid,
  varchar,
} from 'drizzle-orm/pg-core';

/**
 * Tables. Records that prove something (evaluation_event, certification_event, certificate, pack_revision,
 * audit) are append-only: triggers refuse update, delete and truncate. Dates that mean a calendar day are
 * `date`; instants are `timestamptz`.
 */
export const instant = (name: string) => timestamp(name, { withTimezone: true, mode: 'string' });
const created = () => instant('created_at').notNull().defaultNow();

export const setting = pgTable('setting', { key: text('key').primaryKey(), value: jsonb('value').notNull() });

export const person = pgTable(
  'person',
  {
    id: uuid('id').primaryKey(),
    payroll: text('payroll').notNull(),
    givenName: text('given_name').notNull(),
    familyName: text('family_name').notNull(),
    site: text('site').notNull(),
    team: text('team').notNull(),
    email: text('email'),
    born: date('born', { mode: 'string' }),
    started: date('started', { mode: 'string' }),
    active: boolean('active').notNull().default(true),
    createdAt: created(),
  },
  (t) => [
    uniqueIndex('person_payroll').on(t.payroll),
    index('person_name').on(t.familyName, t.givenName, t.id),
    index('person_team').on(t.team),
  ],
);

export const account = pgTable(
  'account',
  {
    id: uuid('id').primaryKey(),
    name: text('name').notNull(),
    login: text('login').notNull(),
    passwordHash: text('password_hash').notNull(),
    role: text('role').notNull(),
    team: text('team'),
    personId: uuid('person_id').references(() => person.id),
    active: boolean('active').notNull().default(true),
    /** Seals what this account's taps leave on a device; made when the account first signs in. */
    deviceKey: text('device_key'),
    createdAt: created(),
  },
  (t) => [uniqueIndex('account_login').on(t.login)],
);

export const session = pgTable(
  'session',
  {
    id: uuid('id').primaryKey(),
    tokenHash: text('token_hash').notNull(),
    previousHash: text('previous_hash'),
    accountId: uuid('account_id')
      .notNull()
      .references(() => account.id),
    expiresAt: instant('expires_at').notNull(),
    rotatedAt: instant('rotated_at').notNull().defaultNow(),
    /** Whether the newest token has come back from the device; until then the one before stays good. */
    confirmed: boolean('confirmed').notNull().default(true),
    createdAt: created(),
  },
  (t) => [uniqueIndex('session_token').on(t.tokenHash), index('session_previous').on(t.previousHash)],
);

/** Counters of the rate limiter; `expire` is in milliseconds since 1970. */
export const rateLimit = pgTable(
  'rate_limit',
  {
    key: varchar('key', { length: 255 }).primaryKey(),
    points: integer('points').notNull().default(0),
    expire: bigint('expire', { mode: 'number' }),
  },
  (t) => [index('rate_limit_expire').on(t.expire)],
);

export const machineClass = pgTable('machine_class', {
  id: text('id').primaryKey(),
  title: text('title').notNull(),
  family: text('family').notNull(),
  publishedHash: text('published_hash'),
});

/** Published packs, one row a revision, never changed. */
export const packRevision = pgTable(
  'pack_revision',
  {
    hash: text('hash').primaryKey(),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    revision: integer('revision').notNull(),
    body: jsonb('body').notNull(),
    publishedAt: instant('published_at').notNull().defaultNow(),
    /** Who published it; null for packs that ship with the product. */
    publishedBy: uuid('published_by'),
    note: text('note').notNull().default(''),
  },
  (t) => [uniqueIndex('pack_revision_number').on(t.classId, t.revision)],
);

/** The one draft of a class, as the YAML its editors see. */
export const packDraft = pgTable('pack_draft', {
  classId: text('class_id')
    .primaryKey()
    .references(() => machineClass.id),
  source: text('source').notNull(),
  version: integer('version').notNull(),
  /** What is wrong in it, found when it was saved; null for drafts of an earlier version of the product. */
  errors: jsonb('errors').$type<PackError[]>(),
  accountId: uuid('account_id').notNull(),
  savedAt: instant('saved_at').notNull().defaultNow(),
});

/**
 * Choices between schools, one row each time somebody chose; the newest of a site, class and school holds.
 */
export const schoolChoiceRow = pgTable(
  'school_choice',
  {
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    id: uuid('id').primaryKey(),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    site: text('site').notNull(),
    schoolId: text('school_id').notNull(),
    optionId: text('option_id').notNull(),
    reason: text('reason').notNull(),
    accountId: uuid('account_id').notNull(),
    chosenAt: instant('chosen_at').notNull().defaultNow(),
  },
  (t) => [index('school_choice_of').on(t.classId, t.site)],
);

/** Composed packs that evaluations were made with, by content hash, so that old results stay readable. */
export const effectivePack = pgTable('effective_pack', {
  hash: text('hash').primaryKey(),
  body: jsonb('body').notNull(),
});

export const unit = pgTable(
  'unit',
  {
    id: uuid('id').primaryKey(),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    name: text('name').notNull(),
    site: text('site').notNull(),
    variant: text('variant'),
    features: jsonb('features').notNull().$type<Record<string, string>>(),
    inService: boolean('in_service').notNull().default(true),
  },
  (t) => [uniqueIndex('unit_name').on(t.name), index('unit_class').on(t.classId)],
);

export const evaluation = pgTable(
  'evaluation',
  {
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    unitId: uuid('unit_id')
      .notNull()
      .references(() => unit.id),
    packHash: text('pack_hash')
      .notNull()
      .references(() => effectivePack.hash),
    trainerId: uuid('trainer_id')
      .notNull()
      .references(() => account.id),
    /** An evaluation, or a practice of start and stop that decides nothing. */
    purpose: text('purpose').notNull().default('evaluation').$type<'evaluation' | 'practice'>(),
    conditions: text('conditions').notNull(),
    earlierStarts: jsonb('earlier_starts').notNull().$type<string[]>(),
    holderId: uuid('holder_id'),
    holderDevice: text('holder_device'),
    heldSince: instant('held_since'),
    /** Fold of the events kept beside them for lists; remade from the events at every append. */
    phase: text('phase').notNull(),
    firstStation: text('first_station'),
    outcome: text('outcome'),
    score: text('score'),
    overridden: boolean('overridden').notNull().default(false),
    /** What the rules computed, once decided. */
    computed: text('computed'),
    decidedBy: uuid('decided_by'),
    stillPlanted: jsonb('still_planted').notNull().$type<{ fault: string; name: string }[]>(),
    createdAt: created(),
  },
  (t) => [
    index('evaluation_person').on(t.personId, t.classId),
    index('evaluation_created').on(t.createdAt),
    index('evaluation_phase').on(t.phase),
  ],
);

/**
 * What the judge says of each ended session of procedures, for trends; remade from the events at every append that
 * touches one.
 */
export const sequenceResult = pgTable(
  'sequence_result',
  {
    /** Id of the event that began the session. */
    id: uuid('id').primaryKey(),
    evaluationId: uuid('evaluation_id')
      .notNull()
      .references(() => evaluation.id),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    classId: text('class_id').notNull(),
    endedAt: instant('ended_at').notNull(),
    procedures: jsonb('procedures').notNull().$type<string[]>(),
    score: text('score'),
    critical: integer('critical').notNull(),
    steps: jsonb('steps').notNull().$type<StepResult[]>(),
  },
  (t) => [
    index('sequence_result_person').on(t.personId, t.endedAt),
    index('sequence_result_class').on(t.classId, t.endedAt),
    index('sequence_result_evaluation').on(t.evaluationId),
  ],
);

export const evaluationEventRow = pgTable(
  'evaluation_event',
  {
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    id: uuid('id').primaryKey(),
    evaluationId: uuid('evaluation_id')
      .notNull()
      .references(() => evaluation.id),
    at: instant('at').notNull(),
    accountId: uuid('account_id').notNull(),
    /** Version of the body's form. */
    version: integer('version').notNull().default(1),
    body: jsonb('body').notNull(),
    receivedAt: instant('received_at').notNull().defaultNow(),
  },
  (t) => [index('evaluation_event_of').on(t.evaluationId, t.seq)],
);

export const certificationEventRow = pgTable(
  'certification_event',
  {
    seq: bigserial('seq', { mode: 'number' }).notNull(),
    id: uuid('id').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    on: date('on_date', { mode: 'string' }).notNull(),
    body: jsonb('body').notNull(),
    evaluationId: uuid('evaluation_id'),
    accountId: uuid('account_id').notNull(),
    recordedAt: instant('recorded_at').notNull().defaultNow(),
  },
  (t) => [index('certification_event_of').on(t.personId, t.classId, t.on)],
);

/** A card handed out: an unguessable token that verification answers to. */
export const certificate = pgTable(
  'certificate',
  {
    token: text('token').primaryKey(),
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    classId: text('class_id').notNull(),
    eventId: uuid('event_id').notNull(),
    evaluationId: uuid('evaluation_id'),
    createdAt: created(),
  },
  (t) => [index('certificate_evaluation').on(t.evaluationId), index('certificate_event').on(t.eventId)],
);

/**
 * Rule sets as they were made, never changed. Site and class null: for the organisation; body null: an
 * override is lifted.
 */
export const ruleSetRow = pgTable('rule_set', {
  seq: bigserial('seq', { mode: 'number' }).notNull(),
  id: uuid('id').primaryKey(),
  site: text('site'),
  classId: text('class_id').references(() => machineClass.id),
  effectiveFrom: date('effective_from', { mode: 'string' }).notNull(),
  given: text('given').notNull().default('keep'),
  body: jsonb('body'),
  accountId: uuid('account_id'),
  createdAt: created(),
});

/**
 * Where each person stands in each class they have events in: a projection of certification_event and
 * rule_set, written in the event's transaction. A row holds from `as_of` until the day before `next_change`;
 * it is made again when the date of the site leaves that span.
 */
export const standingRow = pgTable(
  'standing',
  {
    personId: uuid('person_id')
      .notNull()
      .references(() => person.id),
    classId: text('class_id')
      .notNull()
      .references(() => machineClass.id),
    status: text('status').notNull().$type<StandingStatus>(),
    mayOperate: text('may_operate').notNull().$type<MayOperate>(),
    until: date('until_date', { mode: 'string' }),
    asOf: date('as_of', { mode: 'string' }).notNull(),
    nextChange: date('next_change', { mode: 'string' }),
    body: jsonb('body').notNull().$type<Standing>(),
  },
  (t) => [
    primaryKey({ columns: [t.personId, t.classId] }),
    index('standing_status').on(t.status, t.until),
    index('standing_change').on(t.nextChange),
    index('standing_as_of').on(t.asOf),
  ],
);

export const audit = pgTable(
  'audit',
  {
    seq: bigserial('seq', { mode: 'number' }).primaryKey(),
    at: instant('at').notNull().defaultNow(),
    accountId: uuid('account_id'),
    act: text('act').notNull(),
    subject: text('subject').notNull(),
    detail: jsonb('detail'),
  },
  (t) => [index('audit_act').on(t.act, t.seq)],
);

/**
 * What happened, for those who listen: kept for a day so that who was away can take it up again, and by any
 * server of the installation. Ids are in the order of commits.
 */
export const announcement = pgTable(
  'announcement',
  {
    id: bigint('id', { mode: 'number' }).primaryKey().generatedAlwaysAsIdentity(),
    topic: text('topic').notNull(),
    data: jsonb('data').notNull(),
    at: timestamp('at', { withTimezone: true, mode: 'string' }).notNull().defaultNow(),
  },
  (t) => [index('announcement_topic').on(t.topic, t.id), index('announcement_at').on(t.at)],
);

/** Guests who joined without an account: a seat in one room, by a token of its own. */
export const guestSeat = pgTable(
  'guest_seat',
  {
    id: uuid('id').primaryKey(),
    room: text('room').notNull(),
    name: text('name').notNull(),
    tokenHash: text('token_hash').notNull().unique(),
    createdAt: timestamp('created_at', { withTimezone: true, mode: 'string' }).notNull().defaultNow(),
    expiresAt: timestamp('expires_at', { withTimezone: true, mode: 'string' }).notNull(),
  },
  (t) => [index('guest_seat_room').on(t.room)],
);
