import { z } from 'zod';
import { plainDateText } from '../calendar';

/** What may cut a certificate short. */
export const TRIGGERS = [
  'incident',
  'near-miss',
  'unsafe-act',
  'poor-evaluation',
  'different-type',
  'equipment-modified',
  'workplace-changed',
  'long-absence',
] as const;
export type Trigger = (typeof TRIGGERS)[number];

const effect = z.union([
  z.literal('suspend'),
  z.literal('none'),
  z.strictObject({ dueInDays: z.number().int().min(0).max(3650) }),
]);

/**
 * Rules of certification for a site and class from a date on. Months are calendar months, end-of-month
 * safe.
 */
export const ruleSetSchema = z.strictObject({
  validMonths: z.number().int().min(1).max(120),
  leadDays: z
    .number()
    .int()
    .min(0)
    .max(365)
    .describe('Days before expiry from which the person counts as due'),
  graceDays: z.number().int().min(0).max(365),
  keepAnniversaryDays: z
    .number()
    .int()
    .min(0)
    .max(365)
    .describe('A renewal this many days or fewer before expiry keeps the old anniversary'),
  endOfMonth: z.boolean().describe('Certificates run to the end of their last month'),
  minimumAge: z.number().int().min(0).max(99).nullable(),
  requireLesson: z.boolean().default(false).describe('A lesson attended before a pass certifies'),
  requireTheory: z.boolean(),
  requireDrill: z.boolean(),
  recency: z
    .strictObject({ hours: z.number().positive().max(5000), months: z.number().int().positive().max(120) })
    .nullable(),
  medicalMonths: z.number().int().positive().max(120).nullable(),
  calibrationMonths: z
    .number()
    .int()
    .positive()
    .max(120)
    .nullable()
    .default(null)
    .describe('Months after which an evaluator is to be calibrated again; null: not asked for'),
  triggers: z.record(z.enum(TRIGGERS), effect),
});
export type RuleSet = z.infer<typeof ruleSetSchema>;

/**
 * Rules a new installation starts with: three years, as 29 CFR 1910.178(l)(4)(iii) asks at least for powered
 * industrial trucks (from memory; the employer's rules and local law decide), the rest common practice.
 */
export const DEFAULT_RULES: RuleSet = {
  validMonths: 36,
  leadDays: 60,
  graceDays: 0,
  keepAnniversaryDays: 60,
  endOfMonth: false,
  minimumAge: 18,
  requireLesson: false,
  requireTheory: false,
  requireDrill: false,
  recency: null,
  medicalMonths: null,
  calibrationMonths: null,
  triggers: {
    incident: 'suspend',
    'near-miss': { dueInDays: 30 },
    'unsafe-act': { dueInDays: 14 },
    'poor-evaluation': 'suspend',
    'different-type': { dueInDays: 0 },
    'equipment-modified': { dueInDays: 30 },
    'workplace-changed': { dueInDays: 30 },
    'long-absence': { dueInDays: 0 },
  },
};

const words = z.string().trim().max(2000);

/** Dated facts about one person in one class; certification is their fold. */
export const certificationEventBody = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('training-started') }),
  /** Attended a lesson. */
  z.strictObject({ kind: z.literal('taught'), words: words.optional() }),
  z.strictObject({ kind: z.literal('theory-passed') }),
  z.strictObject({ kind: z.literal('drill-met') }),
  z.strictObject({
    kind: z.literal('evaluation-passed'),
    score: z.number().min(0).max(100).optional(),
    evaluation: z.uuid().optional(),
    /** Whether the trainer decided other than computed, and what had been computed. */
    overridden: z.boolean().optional(),
    computed: z.string().max(40).optional(),
  }),
  z.strictObject({
    kind: z.literal('evaluation-failed'),
    score: z.number().min(0).max(100).optional(),
    evaluation: z.uuid().optional(),
    overridden: z.boolean().optional(),
    computed: z.string().max(40).optional(),
  }),
  z.strictObject({
    kind: z.literal('certificate-recorded'),
    until: plainDateText.optional(),
    words: words.optional(),
  }),
  z.strictObject({ kind: z.literal('familiarised'), unit: z.string().max(80) }),
  z.strictObject({ kind: z.literal('endorsed'), words: words.min(1) }),
  z.strictObject({ kind: z.literal('hours-logged'), hours: z.number().positive().max(10_000) }),
  z.strictObject({ kind: z.literal('medical') }),
  z.strictObject({ kind: z.literal('trigger'), trigger: z.enum(TRIGGERS), words: words.optional() }),
  z.strictObject({ kind: z.literal('refresher-done') }),
  z.strictObject({ kind: z.literal('suspended'), words: words.min(3) }),
  z.strictObject({ kind: z.literal('reinstated'), words: words.min(3) }),
  z.strictObject({ kind: z.literal('withdrawn'), words: words.min(3) }),
]);
export type CertificationEventBody = z.infer<typeof certificationEventBody>;
export interface CertificationEvent {
  on: string;
  body: CertificationEventBody;
}
