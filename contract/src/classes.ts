import { COURSE_LAYOUTS, MAX_PACK_LENGTH, policyRaiseSchema } from '@rounds/core/catalogue';
import { ruleSetSchema } from '@rounds/core/certification';
import { z } from 'zod';
import { administrators, done, everyone, line, MAX_COUNT, office, trainers, uuid } from './fields';
import { unitSchema } from './machines';
import { route } from './route';

/** Machine classes: packs, drafts, revisions, schools, papers. */

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
export const packError = z.object({
  line: z.number(),
  path: z.string(),
  rule: z.string(),
  message: z.string(),
});

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
export const libraryRow = z.object({
  classId: z.string(),
  section: z.string(),
  part: z.string(),
  id: z.string(),
  title: z.string(),
  says: z.string(),
});

/** A dated and signed choice between schools for a site. */
export const schoolChoice = z.object({
  site: z.string(),
  schoolId: z.string(),
  optionId: z.string(),
  reason: z.string(),
  by: z.string(),
  at: z.string(),
});

export type SchoolChoice = z.infer<typeof schoolChoice>;

export const packRevisionSchema = z.object({
  hash: z.string(),
  revision: z.number(),
  publishedAt: z.string(),
  by: z.string(),
  note: z.string(),
  current: z.boolean(),
});

export type PackRevision = z.infer<typeof packRevisionSchema>;

/** A draft as YAML, with what is wrong in it. `version` guards against overwriting another's save. */
export const draftSchema = z.object({
  source: z.string(),
  version: z.number(),
  by: z.string(),
  at: z.string(),
  errors: z.array(packError),
});

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

const classById = z.object({ id: z.string().max(60) });

/**
 * The machine a paper is printed for: its fit-out (`features` as JSON) and site, or a machine by its
 * number.
 */
const paperQuery = z.object({
  variant: z.string().max(40).optional(),
  features: z.string().max(4000).optional(),
  site: z.string().max(80).optional(),
  unit: uuid.optional(),
});

export const classRoutes = {
  classes: route({
    method: 'GET',
    path: '/classes',
    summary: 'Machine classes',
    roles: everyone,
    answer: z.object({ classes: z.array(classSummary) }),
  }),
  machineClass: route({
    method: 'GET',
    path: '/classes/:id',
    summary: 'A machine class with its published pack (a Pack of the core) and the choices of a site',
    roles: everyone,
    params: classById,
    query: z.object({ site: z.string().max(80).optional() }),
    answer: z.object({
      summary: classSummary,
      pack: z.unknown().nullable(),
      publishedAt: z.string().nullable(),
      rules: ruleSetSchema,
      units: z.array(unitSchema),
      sites: z.array(z.string()),
      choices: z.record(z.string(), z.string()),
      choiceLog: z.array(schoolChoice),
      /** Lines of the grading policy in force at the site: PolicyRaise of the core. */
      policy: z.array(policyRaiseSchema),
    }),
    problems: ['not-found'],
  }),
  library: route({
    method: 'GET',
    path: '/library',
    summary: 'Every row of every published class, for searching',
    roles: everyone,
    answer: z.object({ titles: z.record(z.string(), z.string()), rows: z.array(libraryRow) }),
  }),
  chooseSchool: route({
    method: 'POST',
    path: '/classes/:id/choices',
    summary: 'Choose between schools for a site; dated and signed',
    roles: trainers,
    params: classById,
    body: z.object({
      site: line.max(80),
      schoolId: z.string().max(80),
      optionId: z.string().max(80),
      reason: z.string().trim().min(3).max(500),
      /** The option in force when it was chosen, null for none of the site's own; another is told. */
      instead: z.string().max(80).nullable().optional(),
    }),
    answer: z.object({ choices: z.record(z.string(), z.string()), choiceLog: z.array(schoolChoice) }),
    problems: ['not-found', 'unknown-row', 'choice-moved'],
  }),
  classRevisions: route({
    method: 'GET',
    path: '/classes/:id/revisions',
    summary: 'Revisions of a class, newest first',
    roles: office,
    params: classById,
    answer: z.object({ revisions: z.array(packRevisionSchema) }),
    problems: ['not-found'],
  }),
  classRevision: route({
    method: 'GET',
    path: '/classes/:id/revisions/:hash',
    summary: 'The pack of one revision',
    roles: office,
    params: z.object({ id: z.string().max(60), hash: z.string().max(64) }),
    answer: z.object({ pack: z.unknown() }),
    problems: ['not-found'],
  }),
  classDraft: route({
    method: 'GET',
    path: '/classes/:id/draft',
    summary: 'The draft of a class; null when nobody edits it',
    roles: trainers,
    params: classById,
    answer: z.object({ draft: draftSchema.nullable() }),
    problems: ['not-found'],
  }),
  saveDraft: route({
    method: 'PUT',
    path: '/classes/:id/draft',
    summary: 'Save the draft of a class; errors in it are named and kept',
    roles: trainers,
    params: classById,
    /** `version` is that of the draft last seen, 0 for a new one. */
    body: z.object({
      source: z.string().min(1).max(MAX_PACK_LENGTH),
      version: z.number().int().min(0).max(MAX_COUNT),
    }),
    answer: draftSchema,
    problems: ['not-found', 'draft-moved', 'busy', 'too-heavy'],
    bodyLimit: 3_000_000,
  }),
  dropDraft: route({
    method: 'DELETE',
    path: '/classes/:id/draft',
    summary: 'Throw the draft of a class away',
    roles: trainers,
    params: classById,
    answer: done,
    problems: ['not-found'],
  }),
  publishDraft: route({
    method: 'POST',
    path: '/classes/:id/publish',
    summary: 'Publish the draft of a class as its next revision',
    roles: trainers,
    params: classById,
    body: z.object({
      version: z.number().int().min(1).max(MAX_COUNT),
      note: z.string().trim().min(3).max(500),
    }),
    answer: z.object({ hash: z.string(), revision: z.number() }),
    problems: ['not-found', 'draft-moved', 'pack-broken', 'nothing-changed'],
  }),
  withdrawClass: route({
    method: 'POST',
    path: '/classes/:id/withdraw',
    summary: 'Take the pack of a class out of use; its name, certificates and old results stay',
    roles: administrators,
    params: classById,
    body: z.object({ reason: z.string().trim().min(3).max(500) }),
    answer: done,
    problems: ['not-found'],
  }),
  previewPack: route({
    method: 'POST',
    path: '/packs/preview',
    summary: 'What importing a pack (YAML, JSON) or a table (CSV) would change',
    roles: trainers,
    body: packFile,
    answer: importPlan,
    problems: ['not-found'],
    bodyLimit: 3_000_000,
  }),
  importPack: route({
    method: 'POST',
    path: '/packs/import',
    summary: 'Carry out a previewed import; refused wholly on any error',
    roles: trainers,
    body: packFile.extend({ hash: z.string().max(64), note: z.string().trim().max(500) }),
    answer: importPlan,
    problems: ['not-found', 'pack-broken', 'import-moved'],
    bodyLimit: 3_000_000,
  }),
  packSchema: route({
    method: 'GET',
    path: '/schema/pack.json',
    summary: 'JSON Schema (draft 2020-12) of a class pack',
    roles: 'public',
    answer: 'application/schema+json',
  }),
  classYaml: route({
    method: 'GET',
    path: '/classes/:id/pack.yaml',
    summary: 'A class as YAML',
    roles: everyone,
    params: classById,
    answer: 'application/yaml',
    problems: ['not-found'],
  }),
  classJson: route({
    method: 'GET',
    path: '/classes/:id/pack.json',
    summary: 'A class as JSON',
    roles: everyone,
    params: classById,
    answer: 'application/json',
    problems: ['not-found'],
  }),
  checkpointsCsv: route({
    method: 'GET',
    path: '/classes/:id/checkpoints.csv',
    summary: 'Checks of a class as CSV',
    roles: everyone,
    params: classById,
    answer: 'text/csv',
    problems: ['not-found'],
  }),
  faultsCsv: route({
    method: 'GET',
    path: '/classes/:id/faults.csv',
    summary: 'Faults of a class as CSV',
    roles: everyone,
    params: classById,
    answer: 'text/csv',
    problems: ['not-found'],
  }),
  procedureRail: route({
    method: 'GET',
    path: '/classes/:id/procedures/:procedure/rail.svg',
    summary: 'A procedure of a class as a rail, SVG',
    roles: everyone,
    params: z.object({ id: z.string().max(60), procedure: z.string().max(64) }),
    answer: 'image/svg+xml',
    problems: ['not-found'],
  }),
  planSvg: route({
    method: 'GET',
    path: '/classes/:id/plan.svg',
    summary: 'Plan of a class as SVG',
    roles: everyone,
    params: classById,
    answer: 'image/svg+xml',
    problems: ['not-found'],
  }),
  findingCards: route({
    method: 'GET',
    path: '/classes/:id/finding-cards.pdf',
    summary: 'Cards of findings to grade: the drawing and what shows on one side, the grade on the other',
    roles: everyone,
    params: classById,
    query: paperQuery,
    answer: 'application/pdf',
    problems: ['not-found', 'composition'],
  }),
  coursePaper: route({
    method: 'GET',
    path: '/classes/:id/course.pdf',
    summary: 'A course to be set out with cones, to scale, A4',
    roles: everyone,
    params: classById,
    query: paperQuery.extend({
      layout: z.enum(COURSE_LAYOUTS),
      /** The machine at hand, in metres, where it differs from its class. */
      length: z.coerce.number().optional(),
      width: z.coerce.number().optional(),
      turns: z.coerce.number().optional(),
    }),
    answer: 'application/pdf',
    problems: ['not-found', 'composition'],
  }),
  roundCard: route({
    method: 'GET',
    path: '/classes/:id/round-card.pdf',
    summary: 'Pocket round card, A6',
    roles: everyone,
    params: classById,
    query: paperQuery,
    answer: 'application/pdf',
    problems: ['not-found', 'composition'],
  }),
  checkSheet: route({
    method: 'GET',
    path: '/classes/:id/check-sheet.pdf',
    summary: 'Daily check sheet for a week, A4',
    roles: everyone,
    params: classById,
    query: paperQuery,
    answer: 'application/pdf',
    problems: ['not-found', 'composition'],
  }),
  startStopCard: route({
    method: 'GET',
    path: '/classes/:id/start-stop.pdf',
    summary: 'Start and stop card, A4',
    roles: everyone,
    params: classById,
    query: paperQuery,
    answer: 'application/pdf',
    problems: ['not-found', 'composition'],
  }),
};
