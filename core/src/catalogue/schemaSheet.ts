import { z } from 'zod';
import { id, needs, originSchema, text } from './schemaParts';

/** The score sheet of a class pack: its sections, criteria and critical errors. */

/** How a criterion is credited. `linked` is filled by the round's own results. */
const criterion = z.strictObject({
  id,
  says: text,
  weight: z.number().int().min(1).max(10),
  kind: z.enum(['done', 'levels', 'timed', 'errors', 'linked']).default('done'),
  levels: z.number().int().min(1).max(100).optional(),
  seconds: z.number().positive().max(86_400).optional().describe('Time limit of a timed criterion'),
  perError: z.number().positive().max(1).optional().describe('Credit lost by each error'),
  link: z
    .strictObject({
      measure: z.enum([
        'planted-faults-found-and-graded',
        'coverage',
        'start-and-closure',
        'pace',
        'detection',
        'hands-on',
        'procedure',
      ]),
      procedures: z.array(id).optional().describe('Procedures that a "procedure" link judges'),
      checkpoints: z.array(id).optional(),
      stations: z.array(id).optional(),
    })
    .optional(),
  critical: z.boolean().default(false),
  needs: needs.default([]),
});

export const sheet = z.strictObject({
  cut: z.number().min(0).max(100).describe('Overall pass mark, per cent'),
  promptCredit: z.number().min(0).max(1).default(0.5),
  notApplicableMax: z.number().min(0).max(1).default(0.25),
  sections: z
    .array(
      z.strictObject({
        id,
        title: text,
        minimum: z.number().min(0).max(100).optional(),
        criteria: z.array(criterion).min(1),
      }),
    )
    .min(1),
  criticalErrors: z.array(z.strictObject({ id, says: text, needs: needs.default([]) })),
  origin: originSchema,
});

export type Sheet = z.infer<typeof sheet>;
export type Criterion = z.infer<typeof criterion>;
