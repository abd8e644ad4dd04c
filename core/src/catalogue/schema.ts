import { z } from 'zod';
import { deskSchema } from '../machine/desk';
import { id, needs, originSchema, point, text } from './schemaParts';
import { forbidden, procedure, step } from './schemaProcedure';
import { checkpoint, fault } from './schemaRound';
import { sheet } from './schemaSheet';
import { COURSE_LAYOUTS, PLACES, READY_PARTS, USES } from './vocabulary';

export { type Origin, originSchema } from './schemaParts';
export type { Procedure, Step, Timing } from './schemaProcedure';
export type { Checkpoint, Fault, Gauge, Until } from './schemaRound';
export type { Criterion, Sheet } from './schemaSheet';

/**
 * A machine class as data: one YAML file in `packs/`, one schema for every class, whether it is a truck, a
 * set of columns on a floor, a bridge crane or a tool held in the hands.
 */

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

const machine = z.strictObject({
  desk: deskSchema.optional().describe('The machine as one can start, stop and work it at the desk'),
  failures: z
    .array(
      z.strictObject({ id, failure: text, shows: text.optional(), response: text, origin: originSchema }),
    )
    .default([]),
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
        taughtOnly: z
          .boolean()
          .optional()
          .describe('Changes nothing that is checked or scored; it is for teaching'),
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

/**
 * Version of the schema. 2 made titles, bounds, appearances and the meaning of times exact, and asks of
 * every round that it is closed and honest.
 */
export const PACK_FORMAT = 2;

/** The schema of a class pack; also published as JSON Schema (2020-12). */
export const packSchema = z.strictObject({
  format: z.literal(PACK_FORMAT).describe('Version of this schema'),
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
  conditions: z
    .array(
      z.strictObject({
        id,
        says: text,
        atStart: z
          .boolean()
          .optional()
          .describe('It holds when the machine is found at the start of a shift'),
        excludes: z
          .array(id)
          .optional()
          .describe('Conditions of this class that end when this one is brought about'),
      }),
    )
    .default([]),
  uses: z
    .array(z.enum(USES))
    .optional()
    .describe(
      'What it may be put to beside its usual work, each of which raises what hangs on it by a grade',
    ),
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
    ladder: z
      .array(
        z.strictObject({
          id,
          says: text,
          criterion: text
            .optional()
            .describe('When it is signed off; shown once alone where nothing is said'),
          shownBy: z
            .enum(READY_PARTS)
            .optional()
            .describe('What somebody practises by themselves that speaks for it'),
        }),
      )
      .describe('What is taught, in its order'),
    drills: z.array(text).default([]),
    watch: z.array(text).default([]),
    readiness: z
      .strictObject({
        score: z
          .number()
          .min(1)
          .max(100)
          .describe('Least score of a drill over the whole round, and of a run at the desk'),
        asks: z
          .array(z.enum(READY_PARTS))
          .min(1)
          .optional()
          .describe('What makes ready; everything the class can show where nothing is said'),
      })
      .optional()
      .describe('What practice must come to before an assessment; the usual where nothing is said'),
    course: z
      .strictObject({
        turns: z
          .number()
          .min(0.5)
          .max(40)
          .describe('Radius of the outermost point in the tightest turn, in metres'),
        layouts: z.array(z.enum(COURSE_LAYOUTS)).min(1),
        origin: originSchema,
      })
      .optional()
      .describe('What is set out with cones for driving; none for a machine that does not drive'),
    commands: z
      .strictObject({
        calls: z.number().int().min(2).max(200).describe('Calls of a set at least'),
        seconds: z.number().min(0.5).max(10).describe('Answers later than this are late'),
        wrong: z.number().int().min(0).max(50).describe('Most wrong answers of a set'),
        late: z.number().int().min(0).max(50).describe('Most late or missing answers of a set'),
      })
      .optional()
      .describe(
        'What two sets of called-out commands in a row must come to; the usual where nothing is said',
      ),
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
export type Rung = Pack['teaching']['ladder'][number];
export type Station = z.infer<typeof station>;
export type Quantity = z.infer<typeof quantity>;
export type School = z.infer<typeof school>;

/** The published JSON Schema (2020-12) of a class pack, made from `packSchema`. */
export function packJsonSchema(): Record<string, unknown> {
  return z.toJSONSchema(packSchema, { target: 'draft-2020-12', io: 'input' }) as Record<string, unknown>;
}
