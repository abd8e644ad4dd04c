import { evaluationEvent } from '@rounds/core';
import { z } from 'zod';
import { ROLES, route, type Role } from './route';
import {
  accountSchema, certificationEventInput, classSummary, evaluationSchema, evaluationSummary, importPreview, line, personInput, personSchema, plainDate,
  ruleSetSchema, standingSchema, unitInput, unitSchema, uuid,
} from './shapes';

const everyone: readonly Role[] = ROLES;
const trainers: readonly Role[] = ['trainer', 'administrator'];
const office: readonly Role[] = ['trainer', 'supervisor', 'administrator'];
const readers: readonly Role[] = ['trainer', 'supervisor', 'operator', 'administrator'];
const administrators: readonly Role[] = ['administrator'];
const byId = z.object({ id: uuid });
const done = z.object({ done: z.literal(true) });
const password = z.string().min(10, 'a password has at least 10 characters').max(200);

export const MAX_IMPORT_BYTES = 5_000_000;

/** The person fields a CSV column may be matched to. */
export const IMPORT_FIELDS = ['payroll', 'givenName', 'familyName', 'site', 'team', 'email', 'born', 'started'] as const;
const importBody = z.object({ csv: z.string().max(MAX_IMPORT_BYTES, 'the file is larger than 5 MB'), mapping: z.partialRecord(z.enum(IMPORT_FIELDS), z.string().nullable()).optional() });
const personRow = z.object({ person: personSchema, standings: z.array(z.object({ classId: z.string(), standing: standingSchema })) });

/** Every route of the application. The server binds them by name; the browser calls them by name; OpenAPI is made from them. */
export const routes = {
  installation: route({
    method: 'GET', path: '/installation', summary: 'What this installation is', roles: 'public',
    answer: z.object({ organisation: z.string().nullable(), demo: z.boolean(), needsAdministrator: z.boolean(), today: plainDate, timeZone: z.string(), demoAccounts: z.array(z.object({ login: z.string(), name: z.string(), role: z.enum(ROLES) })), demoPassword: z.string().nullable() }),
  }),
  createAdministrator: route({
    method: 'POST', path: '/installation/administrator', summary: 'Create the first administrator', roles: 'public',
    body: z.object({ organisation: line, name: line, login: line.max(60), password, timeZone: z.string().max(60) }), answer: accountSchema, problems: ['already-set-up', 'unknown-time-zone'],
  }),
  signIn: route({ method: 'POST', path: '/session', summary: 'Sign in', roles: 'public', body: z.object({ login: z.string().max(200), password: z.string().max(200) }), answer: accountSchema, problems: ['wrong-sign-in', 'too-many-attempts'] }),
  session: route({ method: 'GET', path: '/session', summary: 'Who is signed in', roles: everyone, answer: accountSchema }),
  signOut: route({ method: 'DELETE', path: '/session', summary: 'Sign out', roles: 'public', answer: done }),
  changePassword: route({ method: 'PUT', path: '/session/password', summary: 'Change own password', roles: everyone, body: z.object({ current: z.string().max(200), next: password }), answer: done, problems: ['wrong-sign-in'] }),

  today: route({
    method: 'GET', path: '/today', summary: 'What needs attention this morning', roles: everyone,
    answer: z.object({
      today: plainDate,
      attention: z.array(z.object({ personId: uuid, personName: z.string(), team: z.string(), classId: z.string(), classTitle: z.string(), standing: standingSchema })),
      counts: z.record(z.string(), z.number()),
      open: z.array(evaluationSummary),
      planted: z.array(evaluationSummary),
      recent: z.array(evaluationSummary),
    }),
  }),

  people: route({
    method: 'GET', path: '/people', summary: 'Roster, by name', roles: office,
    query: z.object({ search: z.string().max(100).optional(), site: z.string().max(80).optional(), team: z.string().max(80).optional(), cursor: z.string().max(300).optional(), limit: z.coerce.number().int().min(1).max(200).default(50) }),
    answer: z.object({ rows: z.array(personRow), next: z.string().nullable(), total: z.number(), sites: z.array(z.string()), teams: z.array(z.string()) }),
  }),
  addPerson: route({ method: 'POST', path: '/people', summary: 'Add a person', roles: trainers, body: personInput, answer: personSchema, problems: ['payroll-taken'] }),
  person: route({
    method: 'GET', path: '/people/:id', summary: 'A person: standing per class, history', roles: readers, params: byId,
    answer: personRow.extend({
      forecast: z.array(z.object({ classId: z.string(), on: z.string(), status: z.string(), sentence: z.string() })),
      history: z.array(z.object({ id: uuid, classId: z.string(), on: z.string(), kind: z.string(), words: z.string(), by: z.string(), evaluation: uuid.nullable(), token: z.string().nullable() })),
      evaluations: z.array(evaluationSummary),
    }),
    problems: ['not-found'],
  }),
  changePerson: route({ method: 'PATCH', path: '/people/:id', summary: 'Change a person', roles: trainers, params: byId, body: personInput.partial().extend({ active: z.boolean().optional() }), answer: personSchema, problems: ['not-found', 'payroll-taken'] }),
  previewImport: route({ method: 'POST', path: '/people/import/preview', summary: 'Show what an import would do', roles: trainers, body: importBody, answer: importPreview, bodyLimit: 12_000_000, problems: ['csv-unreadable', 'csv-empty'] }),
  importPeople: route({ method: 'POST', path: '/people/import', summary: 'Import the accepted rows', roles: trainers, body: importBody, answer: importPreview, bodyLimit: 12_000_000, problems: ['csv-unreadable', 'csv-empty'] }),
  exportPeople: route({ method: 'GET', path: '/people.csv', summary: 'Roster with standings as CSV', roles: office, answer: 'text/csv' }),
  matrix: route({
    method: 'GET', path: '/matrix', summary: 'Standing of people in classes', roles: office,
    query: z.object({ site: z.string().max(80).optional(), team: z.string().max(80).optional() }),
    answer: z.object({
      today: plainDate,
      classes: z.array(z.object({ id: z.string(), title: z.string(), family: z.string() })),
      /** cells[i] = [class index, status, days left, may operate] for classes with any standing. */
      people: z.array(z.object({ id: uuid, name: z.string(), team: z.string(), site: z.string(), cells: z.array(z.tuple([z.number(), z.string(), z.number().nullable(), z.string()])) })),
      sites: z.array(z.string()),
      teams: z.array(z.string()),
    }),
  }),
  addCertificationEvent: route({ method: 'POST', path: '/people/:id/certification', summary: 'Record a dated fact about a person in a class', roles: office, params: byId, body: certificationEventInput, answer: standingSchema, problems: ['not-found', 'date-in-future', 'not-yours'] }),

  classes: route({ method: 'GET', path: '/classes', summary: 'Machine classes', roles: everyone, answer: z.object({ classes: z.array(classSummary) }) }),
  machineClass: route({
    method: 'GET', path: '/classes/:id', summary: 'A machine class with its published pack (a Pack of the core)', roles: everyone, params: z.object({ id: z.string().max(60) }),
    answer: z.object({ summary: classSummary, pack: z.unknown().nullable(), publishedAt: z.string().nullable(), rules: ruleSetSchema, units: z.array(unitSchema) }), problems: ['not-found'],
  }),
  units: route({ method: 'GET', path: '/units', summary: 'Machines', roles: everyone, query: z.object({ classId: z.string().max(60).optional() }), answer: z.object({ units: z.array(unitSchema) }) }),
  addUnit: route({ method: 'POST', path: '/units', summary: 'Add a machine', roles: trainers, body: unitInput, answer: unitSchema, problems: ['not-found', 'unit-taken', 'composition'] }),

  evaluations: route({
    method: 'GET', path: '/evaluations', summary: 'Evaluations, newest first', roles: readers,
    query: z.object({ open: z.enum(['yes', 'no']).optional(), cursor: z.string().max(80).optional(), limit: z.coerce.number().int().min(1).max(100).default(30) }),
    answer: z.object({ rows: z.array(evaluationSummary), next: z.string().nullable() }),
  }),
  createEvaluation: route({
    method: 'POST', path: '/evaluations', summary: 'Prepare an evaluation', roles: trainers,
    body: z.object({ id: uuid, personId: uuid, classId: z.string().max(60), unitId: uuid, variant: z.string().max(40), features: z.record(z.string(), z.string()), conditions: z.string().trim().max(2000), device: z.string().min(8).max(80) }),
    answer: evaluationSchema, problems: ['not-found', 'composition', 'evaluation-exists'],
  }),
  evaluation: route({ method: 'GET', path: '/evaluations/:id', summary: 'An evaluation with its events', roles: readers, params: byId, answer: evaluationSchema, problems: ['not-found'] }),
  appendEvents: route({
    method: 'POST', path: '/evaluations/:id/events', summary: 'Add events; repeats are harmless', roles: trainers, params: byId,
    body: z.object({ device: z.string().min(8).max(80), events: z.array(evaluationEvent).min(1).max(500) }), bodyLimit: 2_000_000,
    answer: z.object({ accepted: z.array(uuid), summary: evaluationSummary, certificate: z.object({ token: z.string() }).nullable() }),
    problems: ['not-found', 'evaluation-held', 'evaluation-closed', 'planted-faults-remain', 'not-complete', 'override-needs-reason', 'unknown-row', 'not-decided'],
  }),
  holdEvaluation: route({
    method: 'POST', path: '/evaluations/:id/hold', summary: 'Hold an evaluation for writing, or take it over', roles: trainers, params: byId,
    body: z.object({ device: z.string().min(8).max(80), takeOver: z.string().trim().min(3).max(500).optional() }), answer: z.object({ held: z.boolean(), holder: z.object({ name: z.string(), device: z.string(), since: z.string() }) }), problems: ['not-found'],
  }),
  appraisal: route({ method: 'GET', path: '/evaluations/:id/appraisal', summary: 'The server\'s own appraisal (an Appraisal of the core)', roles: readers, params: byId, answer: z.object({ score: z.number().nullable(), outcome: z.string(), reasons: z.array(z.object({ weighs: z.string(), text: z.string() })) }), problems: ['not-found'] }),
  report: route({ method: 'GET', path: '/evaluations/:id/report.pdf', summary: 'Evaluation report, A4', roles: readers, params: byId, answer: 'application/pdf', problems: ['not-found', 'not-decided'] }),
  card: route({ method: 'GET', path: '/certificates/:token/card.pdf', summary: 'Wallet card', roles: readers, params: z.object({ token: z.string().max(60) }), answer: 'application/pdf', problems: ['not-found'] }),
  verify: route({ method: 'GET', path: '/verify/:token', summary: 'Is a card valid today', roles: 'public', params: z.object({ token: z.string().max(60) }), answer: z.object({ known: z.boolean(), valid: z.boolean(), on: plainDate }) }),

  accounts: route({ method: 'GET', path: '/accounts', summary: 'Accounts', roles: administrators, answer: z.object({ accounts: z.array(accountSchema) }) }),
  addAccount: route({
    method: 'POST', path: '/accounts', summary: 'Add an account', roles: administrators,
    body: z.object({ name: line, login: line.max(60), password, role: z.enum(ROLES), team: line.max(80).nullable().default(null), payroll: z.string().trim().max(40).nullable().default(null) }), answer: accountSchema, problems: ['login-taken', 'not-found'],
  }),
  changeAccount: route({ method: 'PATCH', path: '/accounts/:id', summary: 'Close, reopen or give a new password', roles: administrators, params: byId, body: z.object({ active: z.boolean().optional(), password: password.optional() }), answer: accountSchema, problems: ['not-found', 'last-administrator'] }),
  rules: route({ method: 'GET', path: '/rules', summary: 'Certification rules in force', roles: everyone, answer: z.object({ effectiveFrom: plainDate, rules: ruleSetSchema }) }),
  setRules: route({ method: 'PUT', path: '/rules', summary: 'New certification rules from a date', roles: administrators, body: z.object({ effectiveFrom: plainDate, rules: ruleSetSchema }), answer: done }),
};
