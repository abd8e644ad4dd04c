import { z } from 'zod';
import { GRADES, METHODS } from '../catalogue';

const id = z.string().min(1).max(64);
const words = z.string().trim().max(2000);

/** What can happen during an evaluation. Events are only ever added; `undone` takes one back and both stay on record. */
export const evaluationEventBody = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('planted'), fault: id }),
  z.strictObject({ kind: z.literal('retrieved'), fault: id }),
  z.strictObject({ kind: z.literal('round-started') }),
  z.strictObject({ kind: z.literal('arrived'), station: id }),
  z.strictObject({ kind: z.literal('checked'), checkpoint: id, result: z.enum(['done', 'prompted', 'missed']), method: z.enum(METHODS).optional() }),
  z.strictObject({
    kind: z.literal('reported'),
    checkpoint: id,
    fault: id.nullable(),
    grade: z.enum(GRADES),
    prompted: z.boolean(),
    real: z.boolean(),
    words: words.optional(),
  }),
  z.strictObject({ kind: z.literal('noted'), words: words.min(1), checkpoint: id.optional() }),
  z.strictObject({ kind: z.literal('round-ended') }),
  z.strictObject({
    kind: z.literal('scored'),
    criterion: id,
    result: z.enum(['done', 'prompted', 'not', 'na']),
    value: z.number().min(0).max(1000).optional(),
    reason: words.optional(),
  }),
  z.strictObject({ kind: z.literal('critical-error'), error: id, words: words.optional() }),
  z.strictObject({ kind: z.literal('undone'), event: id }),
  z.strictObject({ kind: z.literal('decided'), outcome: z.enum(['competent', 'not-yet', 'stopped']), reason: words.optional() }),
  z.strictObject({
    kind: z.literal('signed'),
    role: z.enum(['trainer', 'operator']),
    strokes: z
      .string()
      .max(60_000)
      .regex(/^[ML0-9. ]+$/),
  }),
  z.strictObject({ kind: z.literal('taken-over'), reason: words.min(3) }),
]);
export type EvaluationEventBody = z.infer<typeof evaluationEventBody>;

/** An event with its identity (UUIDv7 made where it happened) and instant (ISO 8601, UTC). */
export const evaluationEvent = z.strictObject({ id: z.uuid(), at: z.iso.datetime(), body: evaluationEventBody });
export type EvaluationEvent = z.infer<typeof evaluationEvent>;
