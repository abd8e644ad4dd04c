import { z } from 'zod';
import { GRADES, METHODS, PLACES, PROCEDURE_KINDS, SYSTEMS } from './vocabulary';

/**
 * A machine class as data: one YAML file in `packs/`, one schema for every class, whether it is a truck, a
 * set of columns on a floor, a bridge crane or a tool held in the hands.
 */

const id = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9._-]*$/, 'an id is letters, digits, dots, hyphens or underscores');
const text = z.string().trim().min(1).max(1200);

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
const needs = z.array(
  z
    .string()
    .regex(
      /^!?[a-z][a-z0-9_-]*((!?=)[^=!|\s][^=!]*)?$/,
      'write feature, !feature, feature=value or feature!=value',
    ),
);

/** Metres from the machine's origin; no machine with its walking line is larger than this. */
const metres = z.number().min(-500).max(500);
const point = z.tuple([metres, metres]);

const outline = z.strictObject({
  part: z.string().min(1).describe('body, mast, forks, wheel, boom, leg, blade, deck, column, bridge ...'),
  points: z.array(point).min(3).max(500),
  solid: z.boolean().default(true).describe('false where a person can walk through, such as a bay line'),
});

const station = z.strictObject({
  id,
  name: text,
  at: point.optional().describe('Point looked at, metres, on the walking line'),
  place: z.enum(PLACES).optional().describe('Off the walking line'),
  spurFrom: id.optional().describe('The walking-line station this one hangs from'),
  spot: point.optional().describe('Where an off-line station is drawn, metres'),
  looks: text.optional().describe('What is looked at there'),
});

const repeated = z.strictObject({
  of: text.describe('What is repeated: wheel, column, side ...'),
  count: z.union([z.number().int().min(2).max(100), z.strictObject({ feature: id })]),
});

const limit = z.strictObject({ grade: z.enum(GRADES), at: z.number(), inclusive: z.boolean().default(true) });

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
  origin: originSchema,
});

const checkpoint = z.strictObject({
  id,
  station: id,
  alsoAt: z.array(id).optional().describe('Further stations of the same check'),
  part: text,
  system: z.enum(SYSTEMS),
  methods: z.array(z.enum(METHODS)).min(1),
  sound: text.describe('Criterion: what sound looks like'),
  when: z.array(z.string()).default([]).describe('Conditions under which the check counts'),
  whenNote: text.optional(),
  needs: needs.default([]),
  honestSeconds: z.number().positive().max(36_000).describe('Least time an honest check takes'),
  each: repeated.optional(),
  weight: z.number().int().min(1).max(5).default(3),
  gauges: z.array(gauge).optional(),
  editable: z.array(z.enum(['honestSeconds', 'weight', 'grade'])).optional(),
  origin: originSchema,
});

const cue = z.strictObject({
  method: z.enum(METHODS),
  shows: text,
  drawing: z
    .strictObject({
      kind: z.string(),
      params: z.record(z.string(), z.union([z.number(), z.string(), z.boolean()])),
    })
    .optional(),
});

const fault = z.strictObject({
  id,
  checkpoint: id,
  title: text.optional().describe('A few words for a button; made from the first cue when absent'),
  cues: z.array(cue).min(1),
  grade: z.enum(GRADES),
  limit: text.optional().describe('How far a mend may go on'),
  escalates: text.optional().describe('What turns it into a stop'),
  cure: z.enum(['operator', 'competent', 'maker']).optional().describe('Who may put it right'),
  why: text,
  do: text,
  plant: z.strictObject({ how: text, retrieve: text }).optional(),
  substitute: text
    .optional()
    .describe('How it may be shown where it must not be planted: photo, sample part, simulator'),
  needs: needs.default([]),
  origin: originSchema,
});

const timing = z.strictObject({
  says: text,
  min: z.number().nonnegative().optional(),
  max: z.number().nonnegative().optional(),
  unit: z.enum(['s', 'min', 'h', 'day', 'times', 'cycles', 'm', 'cm', 'truck-lengths']).optional(),
  since: id.optional(),
});

const step = z.strictObject({
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

const procedure = z.strictObject({
  id,
  title: text,
  kind: z.enum(PROCEDURE_KINDS),
  needs: needs.default([]),
  steps: z.array(step).min(1).max(200),
  notes: z.array(text).default([]),
});

const forbidden = z.strictObject({
  id,
  rule: text,
  state: text.optional().describe('Simulator expression that detects it'),
  procedures: z.array(id).optional(),
  needs: needs.default([]),
  origin: originSchema,
});

const machine = z.strictObject({
  components: z
    .array(z.strictObject({ kind: z.string(), params: z.record(z.string(), z.unknown()) }))
    .default([]),
  states: z.array(text).default([]),
  controls: z.array(text).default([]),
  lamps: z.array(text).default([]),
  rules: z.array(text).default([]),
  timings: z.array(text).default([]),
  failures: z
    .array(
      z.strictObject({ id, failure: text, shows: text.optional(), response: text, origin: originSchema }),
    )
    .default([]),
  origin: originSchema,
});

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
      ]),
      checkpoints: z.array(id).optional(),
      stations: z.array(id).optional(),
    })
    .optional(),
  critical: z.boolean().default(false),
  needs: needs.default([]),
});

const sheet = z.strictObject({
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

const quantity = z.strictObject({
  id,
  name: text,
  value: z.number().optional(),
  range: z.tuple([z.number(), z.number()]).optional(),
  says: text.optional().describe('The value in words, where a number alone would mislead'),
  unit: z.string(),
  meaning: text,
  needs: needs.default([]),
  origin: originSchema,
});

const school = z.strictObject({
  id,
  question: text,
  options: z
    .array(
      z.strictObject({
        id,
        says: text,
        sets: z
          .array(
            z.strictObject({
              path: z.string().regex(/^(numbers|steps|checkpoints|faults|policy)\/[^/]+\/[a-zA-Z]+$/),
              value: z.unknown(),
            }),
          )
          .default([]),
        origin: originSchema.optional(),
      }),
    )
    .min(2),
  default: id,
});

const note = z.strictObject({ id, says: text, helps: text.optional(), origin: originSchema });

/** The schema of a class pack; also published as JSON Schema (2020-12). */
export const packSchema = z.strictObject({
  id: z.string().regex(/^[a-z][a-z0-9-]*$/),
  revision: z.number().int().positive().max(1_000_000),
  title: text,
  family: z.enum([
    'lifting',
    'earthmoving',
    'access',
    'workshop',
    'road-and-winter',
    'grounds',
    'power',
    'hauling',
    'towing',
  ]),
  summary: text,
  provenance: z.array(text).default([]),
  variants: z.array(z.strictObject({ id, name: text, note: text.optional() })).min(1),
  features: z.array(
    z.strictObject({
      id: z.string().regex(/^[a-z][a-z0-9_-]*$/),
      name: text,
      values: z.array(z.string()).min(2).describe('Possible fits; ["no", "yes"] for a plain switch'),
      default: z.string(),
      changes: text.optional(),
      needs: needs.default([]),
    }),
  ),
  conditions: z.array(z.strictObject({ id, says: text })).default([]),
  cautions: z
    .array(
      z.strictObject({
        id,
        kind: z.enum(['hazard', 'stand', 'wear', 'defer']).default('hazard'),
        point: text,
        detail: text,
        origin: originSchema,
      }),
    )
    .min(1),
  ppe: z.array(text),
  plan: z.strictObject({
    note: text,
    outlines: z.array(outline).min(1).max(100),
    stations: z.array(station).min(1).max(100),
    units: z
      .array(z.strictObject({ id, name: text, at: point }))
      .default([])
      .describe('Members of a set, such as columns'),
    origin: originSchema,
  }),
  /** Several times what the largest class has: more is no round that anybody walks. */
  checkpoints: z.array(checkpoint).min(1).max(500),
  faults: z.array(fault).min(1).max(2000),
  procedures: z.array(procedure).min(1).max(100),
  forbidden: z.array(forbidden),
  machine,
  sheet,
  numbers: z.array(quantity),
  workings: z
    .array(z.strictObject({ id, title: text, says: text, example: text.optional(), origin: originSchema }))
    .default([]),
  tables: z
    .array(
      z.strictObject({
        id,
        title: text,
        columns: z.array(text),
        rows: z.array(z.array(z.string())),
        origin: originSchema,
      }),
    )
    .default([]),
  teaching: z.strictObject({
    ladder: z.array(text),
    drills: z.array(text).default([]),
    watch: z.array(text).default([]),
  }),
  certification: z.array(note),
  schools: z.array(school),
  mistakes: z.array(note),
});

/** Schemas of the rows a school's choice may change, by the first part of its path. */
export const CHANGEABLE_ROWS = {
  numbers: quantity,
  steps: step,
  checkpoints: checkpoint,
  faults: fault,
} as const;

export type Pack = z.infer<typeof packSchema>;
export type Origin = z.infer<typeof originSchema>;
export type Station = z.infer<typeof station>;
export type Checkpoint = z.infer<typeof checkpoint>;
export type Gauge = z.infer<typeof gauge>;
export type Fault = z.infer<typeof fault>;
export type Procedure = z.infer<typeof procedure>;
export type Step = z.infer<typeof step>;
export type Sheet = z.infer<typeof sheet>;
export type Criterion = z.infer<typeof criterion>;
export type Quantity = z.infer<typeof quantity>;
export type School = z.infer<typeof school>;

/** The published JSON Schema (2020-12) of a class pack, made from `packSchema`. */
export function packJsonSchema(): Record<string, unknown> {
  return z.toJSONSchema(packSchema, { target: 'draft-2020-12', io: 'input' }) as Record<string, unknown>;
}
