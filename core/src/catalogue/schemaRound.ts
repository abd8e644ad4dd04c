import { z } from 'zod';
import { GRADE_KIND_IDS } from './gradeKinds';
import { id, needs, originSchema, text } from './schemaParts';
import { GRADES, METHODS, PLANT_MEANS, SYSTEMS, UNTIL_BOUNDS } from './vocabulary';

/** The walk-around in a class pack: what is checked, what it is measured by, and what may be wrong with it. */

const repeated = z.strictObject({
  of: text.describe('What is repeated: wheel, column, side ...'),
  count: z.union([z.number().int().min(2).max(100), z.strictObject({ feature: id })]),
});

const limit = z.strictObject({ grade: z.enum(GRADES), at: z.number(), inclusive: z.boolean().default(true) });

/** How a quantity in per cent is worked out from what is measured and what it was new, or ought to be. */
const worked = z.strictObject({
  as: z
    .enum(['loss', 'gain', 'share'])
    .describe('loss: what is gone of it when new; gain: what is added; share: how much of it there is'),
  what: text.describe('What is measured: thickness at the heel, length over ten links ...'),
  unit: z.string().min(1),
  whole: z.array(z.number().positive()).min(1).max(20).describe('Figures new or wanted, as they come'),
  name: z.enum(['new', 'wanted']).default('new'),
});

/**
 * A measured quantity. `rising` limits bite at or above their value, `falling` ones at or below; both for a
 * two-sided gauge.
 */
const gauge = z.strictObject({
  quantity: text,
  unit: z.string(),
  kind: z.enum([
    'wear',
    'elongation',
    'opening',
    'twist',
    'broken-wires',
    'pressure',
    'level',
    'deflection',
    'temperature',
    'voltage',
    'angle',
    'ratio',
    'time',
    'speed',
    'charge',
    'tread',
  ]),
  rising: z.array(limit).optional(),
  falling: z.array(limit).optional(),
  step: z.number().positive().optional().describe('How finely it is read, in its unit or that of `worked`'),
  worked: worked.optional(),
  origin: originSchema,
});

/** Parameters of a drawing: figures, states, places, words, or lamps by name. */
const drawingParams = z.record(
  z.string(),
  z.union([
    z.number(),
    z.string(),
    z.array(z.number()),
    z.array(z.string()),
    z.array(z.strictObject({ name: z.string(), state: z.string(), expected: z.string().optional() })),
  ]),
);

/** What a check's part looks like while it is sound. */
const evidence = z.strictObject({
  kind: z.string().describe('Kind of drawing'),
  sound: drawingParams,
  by: z
    .partialRecord(z.enum(METHODS), drawingParams)
    .optional()
    .describe('What differs in the sound drawing for one method'),
});

export const checkpoint = z.strictObject({
  id,
  station: id,
  alsoAt: z.array(id).optional().describe('Further stations of the same check'),
  part: text,
  system: z.enum(SYSTEMS),
  methods: z.array(z.enum(METHODS)).min(1),
  sound: text.describe('Criterion: what makes it sound'),
  appears: z
    .partialRecord(z.enum(METHODS), text)
    .describe('What a sound part shows to each method the check allows, and to no other sense'),
  when: z.array(z.string()).default([]).describe('Conditions under which the check counts'),
  whenNote: text.optional(),
  needs: needs.default([]),
  honestSeconds: z.number().positive().max(36_000).describe('Least time an honest check takes'),
  each: repeated.optional(),
  weight: z.number().int().min(1).max(5).default(3),
  gauges: z.array(gauge).optional(),
  evidence: evidence.optional(),
  editable: z.array(z.enum(['honestSeconds', 'weight', 'grade'])).optional(),
  origin: originSchema,
});

const cue = z.strictObject({
  method: z.enum(METHODS),
  shows: text,
  drawing: z
    .strictObject({
      kind: z.string().optional().describe('Another kind than that of the check'),
      params: drawingParams,
    })
    .optional()
    .describe('What differs in the drawing of the check'),
});

/** How far a mend may go on. */
const until = z.strictObject({
  bound: z.enum(UNTIL_BOUNDS),
  n: z.number().positive().max(10_000).optional().describe('How many hours or days'),
  says: text.describe('The bound as a sentence'),
});

const plant = z.strictObject({
  as: z
    .enum(PLANT_MEANS)
    .describe(
      'mark: drawn, smeared or stuck on; card: a tag, sheet, photo or words; sample: a spare, a training part ' +
        'or a helper; shown: what the machine does anyway; change: something is set or taken off',
    ),
  how: text,
  retrieve: text,
});

export const fault = z.strictObject({
  id,
  checkpoint: id,
  title: text.describe('Two to six words for a button: the part and what is wrong with it'),
  cues: z.array(cue).min(1),
  grade: z.enum(GRADES),
  kind: z.enum(GRADE_KIND_IDS).optional().describe('Kind of fault whose grade is the same in every class'),
  departs: text.optional().describe('Why this row keeps another grade than its kind'),
  until: until.optional().describe('How far a mend may go on; every mend has one'),
  escalates: text.optional().describe('What turns it into a stop'),
  cure: z.enum(['operator', 'competent', 'maker']).optional().describe('Who may put it right'),
  why: text.describe('The consequence'),
  do: text.describe('The full instruction'),
  plant: plant.optional(),
  substitute: text
    .optional()
    .describe('How it may be shown where it must not be planted: photo, sample part, desk'),
  needs: needs.default([]),
  origin: originSchema,
});

export type Checkpoint = z.infer<typeof checkpoint>;
export type Gauge = z.infer<typeof gauge>;
export type Fault = z.infer<typeof fault>;
export type Until = z.infer<typeof until>;
