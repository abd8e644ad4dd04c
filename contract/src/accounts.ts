import { z } from 'zod';
import {
  administrators,
  byId,
  cursor,
  done,
  everyone,
  instant,
  line,
  login,
  password,
  plainDate,
  secret,
  uuid,
} from './fields';
import { ROLES, route } from './route';

/** Installation, sessions, accounts and the audit. */

/** Every act that the audit tells of. */
export const AUDIT_ACTS = [
  'account-added',
  'account-changed',
  'administrator-created',
  'bench-ended',
  'bench-started',
  'card-printed',
  'certification-event',
  'class-imported',
  'class-published',
  'class-withdrawn',
  'draft-dropped',
  'draft-saved',
  'drill-ended',
  'drill-brought',
  'drill-started',
  'evaluation-agreed',
  'evaluation-decided',
  'evaluation-failed',
  'evaluation-passed',
  'evaluation-prepared',
  'evaluation-signed',
  'evaluation-taken-over',
  'exercise-ended',
  'exercise-matched',
  'exercise-set-dropped',
  'exercise-set-kept',
  'exercise-started',
  'lesson-ended',
  'lesson-plan-dropped',
  'lesson-plan-kept',
  'lesson-started',
  'password-changed',
  'password-reset',
  'people-exported',
  'people-imported',
  'person-added',
  'person-changed',
  'plant-corrected',
  'report-printed',
  'policy-ended',
  'policy-raised',
  'practice-set',
  'practice-set-dropped',
  'rules-set',
  'school-chosen',
  'sign-in-failed',
  'sign-in-locked',
  'signed-in',
  'signed-out',
  'unit-added',
] as const;
export type AuditAct = (typeof AUDIT_ACTS)[number];

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

export const accountRoutes = {
  installation: route({
    method: 'GET',
    path: '/installation',
    summary: 'What this installation is',
    roles: 'public',
    answer: z.object({
      organisation: z.string().nullable(),
      demo: z.boolean(),
      needsAdministrator: z.boolean(),
      today: plainDate,
      timeZone: z.string(),
      demoAccounts: z.array(z.object({ login: z.string(), name: z.string(), role: z.enum(ROLES) })),
      demoPassword: z.string().nullable(),
    }),
  }),
  createAdministrator: route({
    method: 'POST',
    path: '/installation/administrator',
    summary: 'Create the first administrator',
    roles: 'public',
    body: z.object({
      organisation: line,
      name: line,
      login: line.max(60),
      password,
      timeZone: z.string().max(60),
    }),
    answer: sessionSchema,
    problems: ['already-set-up', 'unknown-time-zone', 'too-many-attempts'],
  }),
  signIn: route({
    method: 'POST',
    path: '/session',
    summary: 'Sign in',
    roles: 'public',
    body: z.object({ login, password: secret }),
    answer: sessionSchema,
    problems: ['wrong-sign-in', 'too-many-attempts'],
  }),
  session: route({
    method: 'GET',
    path: '/session',
    summary: 'Who is signed in',
    roles: everyone,
    answer: sessionSchema,
  }),
  signOut: route({ method: 'DELETE', path: '/session', summary: 'Sign out', roles: 'public', answer: done }),
  changePassword: route({
    method: 'PUT',
    path: '/session/password',
    summary: 'Change own password',
    roles: everyone,
    body: z.object({ current: secret, next: password }),
    answer: done,
    problems: ['wrong-sign-in', 'too-many-attempts'],
  }),
  accounts: route({
    method: 'GET',
    path: '/accounts',
    summary: 'Accounts',
    roles: administrators,
    answer: z.object({ accounts: z.array(accountSchema) }),
  }),
  addAccount: route({
    method: 'POST',
    path: '/accounts',
    summary: 'Add an account',
    roles: administrators,
    body: z.object({
      name: line,
      login: line.max(60),
      password,
      role: z.enum(ROLES),
      team: line.max(80).nullable().default(null),
      payroll: z.string().trim().max(40).nullable().default(null),
    }),
    answer: accountSchema,
    problems: ['login-taken', 'not-found'],
  }),
  changeAccount: route({
    method: 'PATCH',
    path: '/accounts/:id',
    summary: 'Close, reopen or give a new password',
    roles: administrators,
    params: byId,
    body: z.object({ active: z.boolean().optional(), password: password.optional() }),
    answer: accountSchema,
    problems: ['not-found', 'last-administrator'],
  }),
  audit: route({
    method: 'GET',
    path: '/audit',
    summary: 'What was done by whom, newest first',
    roles: administrators,
    query: z.object({
      act: z.string().max(60).optional(),
      cursor,
      limit: z.coerce.number().int().min(1).max(200).default(100),
    }),
    answer: z.object({
      rows: z.array(
        z.object({
          at: instant,
          by: z.string().nullable(),
          act: z.string(),
          subject: z.string(),
          /** Whom or what the subject is, by name; null where it has none. */
          about: z.string().nullable(),
          detail: z.unknown(),
        }),
      ),
      next: z.string().nullable(),
    }),
  }),
};
