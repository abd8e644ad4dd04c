import { GRADES, TRIGGERS, certificationEventBody, evaluationEvent, ruleSetSchema } from '@rounds/core';
import { z } from 'zod';
import { ROLES } from './route';

/** Shapes that several routes share. */

export const uuid = z.uuid();
export const plainDate = z.iso.date();
/** A short line of text typed by a person; control characters are refused. */
export const line = z
  .string()
  .trim()
  .min(1, 'must not be empty')
  .max(200, 'is longer than 200 characters')
  .refine((text) => !/[\u0000-\u001f\u007f]/.test(text), 'contains control characters');
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

export const personInput = z.object({
  payroll: line.max(40),
  givenName: line.max(80),
  familyName: line.max(80),
  site: line.max(80),
  team: line.max(80),
  email: z.email('is not an e-mail address').max(200).nullable().default(null),
  born: plainDate.nullable().default(null),
  started: plainDate.nullable().default(null),
});

export const standingSchema = z.object({
  status: z.enum(['none', 'in-training', 'valid', 'due', 'in-grace', 'lapsed', 'suspended', 'withdrawn']),
  since: z.string().nullable(),
  certifiedOn: z.string().nullable(),
  until: z.string().nullable(),
  daysLeft: z.number().nullable(),
  lengthDays: z.number().nullable(),
  mayOperate: z.enum(['yes', 'supervised', 'no']),
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
  source: z.string().min(1).max(4_000_000),
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
  stillPlanted: z.array(z.object({ fault: z.string(), name: z.string() })),
});
export type EvaluationSummary = z.infer<typeof evaluationSummary>;

export const storedEvent = evaluationEvent.extend({ by: z.string() });

/** An evaluation opened: the composed class as it was, its events, and who holds it. The pack is an EffectivePack of the core. */
export const evaluationSchema = z.object({
  summary: evaluationSummary,
  pack: z.unknown(),
  unitId: uuid,
  conditions: z.string(),
  earlierStarts: z.array(z.string()),
  events: z.array(storedEvent),
  holder: z.object({ name: z.string(), device: z.string(), since: z.string() }).nullable(),
  certificate: z.object({ token: z.string() }).nullable(),
});

export const certificationEventInput = z.object({ classId: z.string().max(60), on: plainDate, body: certificationEventBody });
export { GRADES, TRIGGERS, ruleSetSchema };

export const importPreview = z.object({
  columns: z.array(z.string()),
  mapping: z.record(z.string(), z.string().nullable()),
  rows: z.number(),
  accepted: z.number(),
  added: z.number(),
  changed: z.number(),
  unchanged: z.number(),
  rejected: z.array(z.object({ row: z.number(), reasons: z.array(z.string()), values: z.array(z.string()) })),
  sample: z.array(z.record(z.string(), z.string())),
});
export type ImportPreview = z.infer<typeof importPreview>;
