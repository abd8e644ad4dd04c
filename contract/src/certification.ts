import { plainDateText } from '@rounds/core/calendar';
import {
  certificationEventBody,
  GIVEN_CERTIFICATES,
  ruleSetSchema,
  STANDING_STATUSES,
} from '@rounds/core/certification';
import { z } from 'zod';
import { administrators, byId, cursor, done, everyone, line, office, plainDate, uuid } from './fields';
import { route } from './route';

/** Standing, dated facts of certification, and the rules. */

export const standingSchema = z.object({
  status: z.enum(STANDING_STATUSES),
  since: z.string().nullable(),
  certifiedOn: z.string().nullable(),
  until: z.string().nullable(),
  daysLeft: z.number().nullable(),
  lengthDays: z.number().nullable(),
  mayOperate: z.enum(['yes', 'supervised', 'no']),
  overridden: z.boolean(),
  bars: z.array(z.string()),
  sentence: z.string(),
  reasons: z.array(z.string()),
  next: z.array(z.string()),
  familiarisedWith: z.array(z.string()),
});

/** `id` is made by the sender, so that a repeated send records once. */
export const certificationEventInput = z.object({
  id: uuid.optional(),
  classId: z.string().max(60),
  on: plainDateText,
  body: certificationEventBody.refine((body) => body.kind !== 'familiarised' || body.unit.trim() !== '', {
    message: 'name the machine',
    path: ['unit'],
  }),
});

/** Rules for a scope from a date on; `rules` null lifts the override of a site or class. */
export const rulesInput = z
  .object({
    site: line.max(80).nullable().default(null),
    classId: z.string().max(60).nullable().default(null),
    effectiveFrom: plainDateText,
    rules: ruleSetSchema.nullable(),
    given: z.enum(GIVEN_CERTIFICATES),
  })
  .refine(
    (each) => each.rules !== null || each.site !== null || each.classId !== null,
    'the organisation itself always has rules',
  );

export const rulesSet = z.object({
  id: uuid,
  site: z.string().nullable(),
  classId: z.string().nullable(),
  effectiveFrom: plainDate,
  rules: ruleSetSchema.nullable(),
  given: z.enum(GIVEN_CERTIFICATES),
  by: z.string(),
  madeAt: z.string(),
});

export type RulesSet = z.infer<typeof rulesSet>;

const standingThen = z.object({
  status: z.enum(STANDING_STATUSES),
  until: z.string().nullable(),
  mayOperate: z.string(),
});

/** Somebody whose standing new rules would change, on the day they begin. */
export const rulesEffect = z.object({
  personId: uuid,
  personName: z.string(),
  classId: z.string(),
  classTitle: z.string(),
  before: standingThen,
  after: standingThen,
});

export const certificationRoutes = {
  matrix: route({
    method: 'GET',
    path: '/matrix',
    summary: 'Standing of people in classes',
    roles: office,
    query: z.object({
      site: z.string().max(80).optional(),
      team: z.string().max(80).optional(),
      cursor,
      limit: z.coerce.number().int().min(1).max(500).default(200),
    }),
    answer: z.object({
      today: plainDate,
      classes: z.array(z.object({ id: z.string(), title: z.string(), family: z.string() })),
      /**
       * cells[i] = [class index, status, days left, may operate, length of the certificate in days] for
       * classes with any standing.
       */
      people: z.array(
        z.object({
          id: uuid,
          name: z.string(),
          team: z.string(),
          site: z.string(),
          cells: z.array(
            z.tuple([z.number(), z.string(), z.number().nullable(), z.string(), z.number().nullable()]),
          ),
        }),
      ),
      next: z.string().nullable(),
      total: z.number(),
      sites: z.array(z.string()),
      teams: z.array(z.string()),
    }),
  }),
  addCertificationEvent: route({
    method: 'POST',
    path: '/people/:id/certification',
    summary: 'Record a dated fact about a person in a class',
    roles: office,
    params: byId,
    body: certificationEventInput,
    answer: standingSchema,
    problems: ['not-found', 'date-in-future', 'own-record'],
  }),
  prerequisites: route({
    method: 'GET',
    path: '/people/:id/prerequisites',
    summary: 'What the rules ask of a person in a class beside the evaluation and is not on record',
    roles: office,
    params: byId,
    query: z.object({ classId: line.max(60) }),
    answer: z.object({ missing: z.array(z.string()) }),
    problems: ['not-found'],
  }),
  rules: route({
    method: 'GET',
    path: '/rules',
    summary: 'Certification rules in force for the organisation',
    roles: everyone,
    answer: z.object({ effectiveFrom: plainDate, rules: ruleSetSchema }),
  }),
  rulesSets: route({
    method: 'GET',
    path: '/rules/sets',
    summary: 'Every rule set that was made, newest first, with the sites and classes one may be made for',
    roles: office,
    answer: z.object({
      sets: z.array(rulesSet),
      sites: z.array(z.string()),
      classes: z.array(z.object({ id: z.string(), title: z.string() })),
    }),
  }),
  previewRules: route({
    method: 'POST',
    path: '/rules/preview',
    summary: 'Who would stand otherwise under new rules, on the day they begin',
    roles: administrators,
    body: rulesInput,
    answer: z.object({ on: plainDate, affected: z.number(), rows: z.array(rulesEffect) }),
    problems: ['date-in-past', 'not-found'],
  }),
  setRules: route({
    method: 'PUT',
    path: '/rules',
    summary: 'New certification rules from a date',
    roles: administrators,
    body: rulesInput,
    answer: done,
    problems: ['date-in-past', 'not-found'],
  }),
  verify: route({
    method: 'GET',
    path: '/verify/:token',
    summary: 'Is a card valid today',
    roles: 'public',
    params: z.object({ token: z.string().max(60) }),
    answer: z.object({ known: z.boolean(), valid: z.boolean(), on: plainDate }),
  }),
};
