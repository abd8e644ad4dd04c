import { z } from 'zod';
import { id, needs, originSchema, text } from './schemaParts';
import { MOMENTS, PROCEDURE_KINDS, TIMING_MEANS, TIMING_UNITS } from './vocabulary';

/** Startup, shutdown and other procedures in a class pack: their steps, times and forbidden states. */

/**
 * What the time or number of a step means. `least` and `most` are in `unit`, `rest` is the pause between
 * `tries` in the same unit.
 */
const timing = z.strictObject({
  means: z
    .enum(TIMING_MEANS)
    .describe(
      'dwell: wait at least; limit: never longer; within: done by then; rest: pause between tries; ' +
        'typical: for information; count: how often; none: said only',
    ),
  least: z.number().nonnegative().optional(),
  most: z.number().nonnegative().optional(),
  unit: z.enum(TIMING_UNITS).optional(),
  since: id.optional().describe('The step it counts from; this step itself when absent'),
  until: text.optional().describe('What ends a dwell, whatever the clock says'),
  tries: z.number().int().min(1).max(100).optional(),
  rest: z.number().positive().optional(),
  says: text,
});

export const step = z.strictObject({
  id,
  do: text,
  token: z
    .string()
    .optional()
    .describe('Name of the act in simulator logs and live taps; the id when absent'),
  after: z
    .array(z.union([id, z.strictObject({ anyOf: z.array(id).min(1) })]))
    .default([])
    .describe('Steps that must come before; an anyOf group needs one of its members'),
  afterNote: text.optional().describe('A prerequisite that is not a step'),
  moment: z
    .enum(MOMENTS)
    .optional()
    .describe('What this step does to the machine as a whole: it comes alive, moves, goes dead, is left'),
  timing: timing.optional(),
  holds: z
    .array(z.string())
    .default([])
    .describe('What must hold while the step is done: condition ids or words'),
  critical: z.boolean(),
  optional: z.boolean().default(false),
  why: text.optional(),
  ifFails: text.optional(),
  needs: needs.default([]),
  origin: originSchema,
});

export const procedure = z.strictObject({
  id,
  title: text,
  kind: z.enum(PROCEDURE_KINDS),
  needs: needs.default([]),
  steps: z.array(step).min(1).max(200),
  notes: z.array(text).default([]),
});

export const forbidden = z.strictObject({
  id,
  rule: text,
  state: text.optional().describe('Simulator expression that detects it'),
  procedures: z.array(id).optional(),
  needs: needs.default([]),
  origin: originSchema,
});

export type Timing = z.infer<typeof timing>;
export type Step = z.infer<typeof step>;
export type Procedure = z.infer<typeof procedure>;
