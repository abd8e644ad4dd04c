import { z } from 'zod';

/** What the rows of a class pack are built of. */

export const id = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, 'an id is letters, digits, dots, hyphens or underscores');
export const text = z.string().trim().min(1).max(1200);

/**
 * Where a fact comes from: a published standard (cited), common practice of the trade, or memory (open to
 * check; may cite what was remembered).
 */
export const originSchema = z.strictObject({
  kind: z.enum(['published', 'practice', 'memory']),
  cite: text.optional().describe('Standard, clause or document'),
  note: text.optional().describe('Which part of the row this covers, when not all of it'),
});

/**
 * A condition on the machine's fit-out: `feature` (fitted), `!feature` (not fitted), `feature=value`,
 * `feature!=value`, `feature=a|b`.
 * `variant` stands for the power variant. A list is an "and".
 */
export const needs = z.array(
  z
    .string()
    .regex(
      /^!?[a-z][a-z0-9_-]*((!?=)[^=!|\s][^=!]*)?$/,
      'write feature, !feature, feature=value or feature!=value',
    ),
);

/** Metres from the machine's origin; no machine with its walking line is larger than this. */
const metres = z.number().min(-500).max(500);
export const point = z.tuple([metres, metres]);

export type Origin = z.infer<typeof originSchema>;
