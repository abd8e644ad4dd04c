import { plainDateText } from '@rounds/core/calendar';
import { STANDING_STATUSES } from '@rounds/core/certification';
import { z } from 'zod';
import { evaluationSummary } from './assess';
import { standingSchema } from './certification';
import { byId, cursor, line, listOrder, office, plainDate, readers, trainers, uuid } from './fields';
import { route } from './route';

/** The roster and its import. */

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

const personRow = z.object({
  person: personSchema,
  standings: z.array(z.object({ classId: z.string(), standing: standingSchema })),
});

export const MAX_IMPORT_BYTES = 5_000_000;

/** Most rows of one import. */
export const MAX_IMPORT_ROWS = 20_000;

/** The person fields a CSV column may be matched to. */
export const IMPORT_FIELDS = [
  'payroll',
  'givenName',
  'familyName',
  'site',
  'team',
  'email',
  'born',
  'started',
] as const;

const importBody = z.object({
  csv: z.string().max(MAX_IMPORT_BYTES, 'the file is larger than 5 MB'),
  mapping: z.partialRecord(z.enum(IMPORT_FIELDS), z.string().max(400).nullable()).optional(),
  /** A name for the work, by which its progress is asked for and it is cancelled. */
  job: uuid.optional(),
});

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

/** What the roster can be ordered by; `standing` puts the gravest first, `until` the soonest end. */
export const ROSTER_ORDERS = ['name', 'payroll', 'team', 'site', 'standing', 'until'] as const;

export const peopleRoutes = {
  people: route({
    method: 'GET',
    path: '/people',
    summary: 'Roster, by name',
    roles: office,
    query: z.object({
      search: z.string().max(100).optional(),
      site: z.string().max(80).optional(),
      team: z.string().max(80).optional(),
      /** Only people who stand so, in this class or in any. */
      status: z.enum(STANDING_STATUSES).optional(),
      classId: z.string().max(60).optional(),
      /** A place in the order by name, instead of a page. */
      cursor,
      ...listOrder,
      sort: z.enum(ROSTER_ORDERS).default('name'),
      limit: z.coerce.number().int().min(1).max(200).default(50),
    }),
    answer: z.object({
      rows: z.array(personRow),
      next: z.string().nullable(),
      total: z.number(),
      sites: z.array(z.string()),
      teams: z.array(z.string()),
    }),
  }),
  addPerson: route({
    method: 'POST',
    path: '/people',
    summary: 'Add a person',
    roles: trainers,
    body: personInput,
    answer: personSchema,
    problems: ['payroll-taken'],
  }),
  person: route({
    method: 'GET',
    path: '/people/:id',
    summary: 'A person: standing per class, history',
    roles: readers,
    params: byId,
    answer: personRow.extend({
      forecast: z.array(
        z.object({ classId: z.string(), on: z.string(), status: z.string(), sentence: z.string() }),
      ),
      history: z.array(
        z.object({
          id: uuid,
          classId: z.string(),
          on: z.string(),
          kind: z.string(),
          words: z.string(),
          by: z.string(),
          evaluation: uuid.nullable(),
          token: z.string().nullable(),
        }),
      ),
      evaluations: z.array(evaluationSummary),
    }),
    problems: ['not-found'],
  }),
  changePerson: route({
    method: 'PATCH',
    path: '/people/:id',
    summary: 'Change a person',
    roles: trainers,
    params: byId,
    body: personPatch,
    answer: personSchema,
    problems: ['not-found', 'payroll-taken'],
  }),
  previewImport: route({
    method: 'POST',
    path: '/people/import/preview',
    summary: 'Show what an import would do',
    roles: trainers,
    body: importBody,
    answer: importPreview,
    bodyLimit: 12_000_000,
    files: ['csv'],
    problems: ['csv-unreadable', 'csv-empty', 'busy', 'too-heavy', 'cancelled'],
  }),
  importPeople: route({
    method: 'POST',
    path: '/people/import',
    summary: 'Import the accepted rows',
    roles: trainers,
    body: importBody,
    answer: importPreview,
    bodyLimit: 12_000_000,
    files: ['csv'],
    problems: ['csv-unreadable', 'csv-empty', 'busy', 'too-heavy', 'cancelled'],
  }),
  exportPeople: route({
    method: 'GET',
    path: '/people.csv',
    summary: 'Roster with standings as CSV',
    roles: office,
    answer: 'text/csv',
  }),
};
