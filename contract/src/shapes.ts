import {
  GIVEN_CERTIFICATES,
  MAX_PACK_LENGTH,
  STANDING_STATUSES,
  certificationEventBody,
  evaluationEventBody,
  isWellFormed,
  plainDateText,
  ruleSetSchema,
} from '@rounds/core';
import { z } from 'zod';
import { ROLES } from './route';

/** Shapes that several routes share. */

export const uuid = z.uuid();
/** A date of any year that is answered; what is sent in must lie in `plainDateText`'s years. */
export const plainDate = z.iso.date();
export const instant = z.iso.datetime();
/** Largest whole number that a column for counts holds. */
export const MAX_COUNT = 2_147_483_647;
/** A short line of text typed by a person; control characters are refused. */
export const line = z
  .string()
  .trim()
  .min(1, 'must not be empty')
  .max(200, 'is longer than 200 characters')
  .refine((text) => !/[\u0000-\u001f\u007f]/.test(text), 'contains control characters')
  .refine(isWellFormed, 'contains half of a character');
export const optionalLine = line.nullable();

export const accountSchema = z.object({
  id: uuid,
  name: z.string(),
  login: z.string(),
  role: z.enum(ROLES),
  team: z.string().nullable(),
  personId: uuid.nullable(),
  active: z.boolean(),
});
export type Account = z.infer<typeof accountSchema>;

/** The signed-in account; `deviceKey` (base64url, 32 bytes) seals what its taps leave on a device. */
export const sessionSchema = accountSchema.extend({ deviceKey: z.string() });
export type SessionAccount = z.infer<typeof sessionSchema>;

export const personSchema = z.object({
  id: uuid,
  payroll: z.string(),
  givenName: z.string(),
  familyName: z.string(),
  site: z.string(),
  team: z.string(),
  email: z.string().nullable(),
  born: plainDate.nullable(),
  started: plainDate.nullable(),
  active: z.boolean(),
});
export type Person = z.infer<typeof personSchema>;

const personFields = z.object({
  payroll: line.max(40),
  givenName: line.max(80),
  familyName: line.max(80),
  site: line.max(80),
  team: line.max(80),
  email: z.email('is not an e-mail address').max(200).nullable(),
  born: plainDateText.nullable(),
  started: plainDateText.nullable(),
});
export const personInput = personFields.extend({
  email: personFields.shape.email.default(null),
  born: personFields.shape.born.default(null),
  started: personFields.shape.started.default(null),
});
/** Changes of a person: a field that is not sent stays as it is. */
export const personPatch = personFields.partial().extend({ active: z.boolean().optional() });

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

export const classSummary = z.object({
  id: z.string(),
  title: z.string(),
  family: z.string(),
  /** Revision of the published pack, null while the class is only a name that certificates are kept for. */
  revision: z.number().nullable(),
  checkpoints: z.number(),
  faults: z.number(),
  units: z.number(),
  outlines: z.array(z.object({ part: z.string(), points: z.array(z.array(z.number())), solid: z.boolean() })),
});
export type ClassSummary = z.infer<typeof classSummary>;

/** One thing wrong in a pack or table, with the line of the file (from 1). */
export const packError = z.object({ line: z.number(), path: z.string(), rule: z.string(), message: z.string() });

/** A row that differs between two packs. */
export const rowChange = z.object({
  section: z.string(),
  sectionName: z.string(),
  id: z.string(),
  title: z.string(),
  kind: z.enum(['added', 'removed', 'changed']),
  fields: z.array(z.object({ field: z.string(), before: z.string(), after: z.string() })),
});

/** A searchable row of a class (a LibraryRow of the core). */
export const libraryRow = z.object({ classId: z.string(), section: z.string(), part: z.string(), id: z.string(), title: z.string(), says: z.string() });

/** A dated and signed choice between schools for a site. */
export const schoolChoice = z.object({ site: z.string(), schoolId: z.string(), optionId: z.string(), reason: z.string(), by: z.string(), at: z.string() });
export type SchoolChoice = z.infer<typeof schoolChoice>;

export const packRevisionSchema = z.object({ hash: z.string(), revision: z.number(), publishedAt: z.string(), by: z.string(), note: z.string(), current: z.boolean() });
export type PackRevision = z.infer<typeof packRevisionSchema>;

/** A draft of a class as YAML, with what is wrong in it. `version` guards against overwriting another's save. */
export const draftSchema = z.object({ source: z.string(), version: z.number(), by: z.string(), at: z.string(), errors: z.array(packError) });
export type PackDraft = z.infer<typeof draftSchema>;

/** What an import would do. `hash` is what `importPack` must be given to carry it out. */
export const importPlan = z.object({
  classId: z.string(),
  title: z.string(),
  outcome: z.enum(['refused', 'new-class', 'new-revision', 'same']),
  hash: z.string(),
  changes: z.array(rowChange),
  errors: z.array(packError),
});
export type PackImportPlan = z.infer<typeof importPlan>;

export const packFile = z.object({
  name: z.string().trim().min(1).max(200),
  kind: z.enum(['pack', 'checkpoints', 'faults']),
  /** The class a table belongs to; a pack names its own. */
  classId: z.string().max(60).nullable(),
  source: z.string().min(1).max(MAX_PACK_LENGTH),
});

export const unitSchema = z.object({
  id: uuid,
  classId: z.string(),
  name: z.string(),
  site: z.string(),
  variant: z.string().nullable(),
  features: z.record(z.string(), z.string()),
  inService: z.boolean(),
});
export type Unit = z.infer<typeof unitSchema>;

export const unitInput = z.object({
  classId: z.string(),
  name: line.max(80),
  site: line.max(80),
  variant: z.string().max(40).nullable().default(null),
  features: z.record(z.string().max(40), z.string().max(60)).default({}),
});

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
  phase: z.enum(['prepared', 'running', 'retrieving', 'reviewing', 'signing', 'closed']),
  outcome: z.string().nullable(),
  score: z.number().nullable(),
  overridden: z.boolean(),
  /** What the rules computed when another outcome was decided. */
  computed: z.string().nullable(),
  stillPlanted: z.array(z.object({ fault: z.string(), name: z.string() })),
});
export type EvaluationSummary = z.infer<typeof evaluationSummary>;

/** An event as the server keeps it: who recorded it, and when it arrived. */
export const storedEvent = z.object({ id: uuid, at: z.string(), body: evaluationEventBody, by: z.string(), account: uuid, receivedAt: z.string() });

/** A fault that is still in a machine. `personName` is null for those who may not see whose evaluation it is. */
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

/** An evaluation opened: the composed class as it was, its events, and who holds it. The pack is an EffectivePack of the core. */
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
});

/** `id` is made by the sender, so that a repeated send records once. */
export const certificationEventInput = z.object({ id: uuid.optional(), classId: z.string().max(60), on: plainDateText, body: certificationEventBody });

/** Rules for a scope from a date on; `rules` null lifts the override of a site or class. */
export const rulesInput = z
  .object({
    site: line.max(80).nullable().default(null),
    classId: z.string().max(60).nullable().default(null),
    effectiveFrom: plainDateText,
    rules: ruleSetSchema.nullable(),
    given: z.enum(GIVEN_CERTIFICATES),
  })
  .refine((each) => each.rules !== null || each.site !== null || each.classId !== null, 'the organisation itself always has rules');
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
const standingThen = z.object({ status: z.enum(STANDING_STATUSES), until: z.string().nullable(), mayOperate: z.string() });
/** Somebody whose standing new rules would change, on the day they begin. */
export const rulesEffect = z.object({
  personId: uuid,
  personName: z.string(),
  classId: z.string(),
  classTitle: z.string(),
  before: standingThen,
  after: standingThen,
});
export { ruleSetSchema };

export const importPreview = z.object({
  columns: z.array(z.string()),
  mapping: z.record(z.string(), z.string().nullable()),
  rows: z.number(),
  accepted: z.number(),
  added: z.number(),
  changed: z.number(),
  unchanged: z.number(),
  /** How many rows are left out, and the first of them. */
  rejectedRows: z.number(),
  rejected: z.array(z.object({ row: z.number(), reasons: z.array(z.string()), values: z.array(z.string()) })),
  sample: z.array(z.record(z.string(), z.string())),
});
export type ImportPreview = z.infer<typeof importPreview>;
