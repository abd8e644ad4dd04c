import { z } from 'zod';

const id = z.string().regex(/^[A-Za-z0-9][\w-]*$/);
const needs = z.array(z.string()).optional();
const expression = z.string().min(1).max(500);
const where = z.union([id, z.array(id).min(1)]);
/** A position, which a file may write as a number. */
const word = z.union([z.string(), z.number()]).transform(String);
const value = z.union([z.string(), z.number(), z.boolean()]);

/** How a control is worked. */
export const CONTROL_KINDS = ['selector', 'hold', 'lever', 'pedal', 'pull', 'press'] as const;
export type ControlKind = (typeof CONTROL_KINDS)[number];

/** How something is perceived. */
const SHOW_KINDS = ['lamp', 'gauge', 'display', 'sight', 'sound', 'smell', 'feel'] as const;

const place = z.strictObject({
  id,
  name: z.string(),
  /** From where one gets there, and by which act where the way differs. */
  from: z.array(z.union([id, z.strictObject({ place: id, by: id })])).optional(),
  by: id.optional(),
  /** A way that nobody should take. */
  wrong: z.boolean().optional(),
  helper: z.boolean().optional(),
  /** Where it is drawn on the plan, in metres. */
  spot: z.tuple([z.number(), z.number()]).optional(),
  needs,
});

const control = z
  .strictObject({
    id,
    at: where,
    name: z.string(),
    kind: z.enum(CONTROL_KINDS),
    positions: z.array(word).min(2).optional(),
    /** It cannot be moved while this holds. */
    lockedWhen: expression.optional(),
    start: word.optional(),
    /** Where a lever goes by itself when it is let go. */
    springs: word.optional(),
    /** It may be kept worked while the hands do something else. */
    latch: z.boolean().optional(),
    /** It is no control of the machine but something that is up to the person, and may tempt. */
    choice: z.boolean().optional(),
    needs,
  })
  .superRefine((each, context) => {
    const stays = each.kind === 'selector' || each.kind === 'lever';
    const complain = (message: string) => context.addIssue({ code: 'custom', message });
    if (stays && !each.positions) complain(`a ${each.kind} needs positions`);
    for (const name of ['start', 'springs'] as const)
      if (each[name] !== undefined && each.positions && !each.positions.includes(each[name]))
        complain(`${name} "${each[name]}" is none of its positions`);
    if (each.kind === 'lever' && each.springs === undefined) complain('a lever needs where it springs to');
  });

const look = z.strictObject({
  id,
  at: where,
  name: z.string(),
  /** What it looks at: a show. */
  of: id.optional(),
  sets: z.record(z.string(), value).optional(),
  needs,
});

/** What the sounds of a machine are like. */
const TONES = [
  'engine',
  'rough',
  'starter',
  'horn',
  'alarm',
  'buzzer',
  'beep',
  'hiss',
  'squeal',
  'clang',
  'knock',
  'whirr',
  'click',
] as const;
export type ToneName = (typeof TONES)[number];

const show = z.strictObject({
  id,
  at: where,
  kind: z.enum(SHOW_KINDS),
  name: z.string(),
  /** What a sound sounds like, for those who have sound on; without it, it is written alone. */
  tone: z.enum(TONES).optional(),
  when: expression.optional(),
  value: expression.optional(),
  unit: z.string().optional(),
  range: z.tuple([z.number(), z.number()]).optional(),
  normal: z.tuple([z.number(), z.number()]).optional(),
  says: z.string().optional(),
  needs,
});

const state = z.strictObject({
  id,
  start: value,
  /** What it may be; for a text that starts "yes" or "no" these two. */
  values: z.array(z.string()).min(2).optional(),
  says: z.string(),
  needs,
});

const fitted = z.looseObject({ kind: z.string(), id: id.optional(), needs, origin: z.unknown().optional() });

const rule = z.strictObject({
  when: expression,
  /** `name = value`, at once or `after 3 s` for which it held. */
  then: z.array(z.string()).min(1),
  says: z.string().default(''),
  needs,
});

/**
 * What is asked of somebody: a situation, what is right to do, and what is not. Wanted above all where a desk cannot show
 * the thing itself.
 */
const asked = z.strictObject({
  says: z.string(),
  right: z.string(),
  wrong: z.array(z.string()).min(1).max(3),
});

const forbidden = z.union([
  z.strictObject({ when: expression, says: z.string().optional(), asked: asked.optional(), needs }),
  z.strictObject({ notHere: z.string(), asked: asked.optional(), needs }),
]);

/** What doing a step looks like at the desk. */
const step = z.strictObject({
  at: where.optional(),
  /** All of them are wanted, in any order unless it says so. */
  acts: z.array(z.string()).optional(),
  inOrder: z.boolean().optional(),
  /** Touching what stands there already counts, also in a function test. */
  confirms: z.boolean().optional(),
  wait: z
    .strictObject({ until: expression.optional(), least: z.string().optional(), most: z.string().optional() })
    .optional(),
  /** One of several ways. */
  alternatives: z.array(z.array(z.string()).min(1)).min(1).optional(),
  /** A state of affairs rather than a deed. */
  rule: expression.optional(),
  /** Wanted only then. */
  if: expression.optional(),
  /** Done away from the desk, and ticked. */
  away: z.boolean().optional(),
  needs,
});

const failure = z.union([
  z.strictObject({
    begins: expression,
    sets: z.record(z.string(), value).default({}),
    seen: z.array(id).min(1),
    right: z.array(z.string()).min(1),
    wrong: z.array(z.string()).default([]),
    needs,
  }),
  z.strictObject({ notHere: z.string(), needs }),
]);

const command = z.strictObject({
  id,
  say: z.string(),
  answer: expression,
  opposite: id.optional(),
  needs,
});

/** A machine one can start and stop, as data. */
export const deskSchema = z.strictObject({
  places: z.array(place).min(1),
  controls: z.array(control),
  looks: z.array(look).default([]),
  shows: z.array(show).default([]),
  states: z.array(state).default([]),
  components: z.array(fitted).default([]),
  rules: z.array(rule).default([]),
  steps: z.record(z.string(), step).default({}),
  forbidden: z.record(z.string(), forbidden).default({}),
  failures: z.record(z.string(), failure).default({}),
  /** For a procedure practised by itself: what it begins with. */
  starts: z.record(z.string(), z.record(z.string(), value)).default({}),
  commands: z.array(command).default([]),
});
export type Desk = z.output<typeof deskSchema>;
export type Control = Desk['controls'][number];

/** The places that a row of a desk belongs to. */
export const placesOf = (at: string | readonly string[]): readonly string[] =>
  typeof at === 'string' ? [at] : at;

/** The acts by which one gets to a place. */
export const waysTo = ({ by, from = [] }: Desk['places'][number]): string[] => [
  ...(by ? [by] : []),
  ...from.flatMap((way) => (typeof way === 'string' ? [] : [way.by])),
];

/** Whether there is a way from one place straight to another. */
export const leadsTo = ({ from = [] }: Desk['places'][number], place: string): boolean =>
  from.some((way) => (typeof way === 'string' ? way : way.place) === place);

/** The places on the shortest way from one place to one of others; null where there is none. */
export function shortestWay(
  places: readonly Desk['places'][number][],
  from: string,
  goals: readonly string[],
): string[] | null {
  const came = new Map<string, string | null>([[from, null]]);
  const queue = [from];
  for (let at = queue.shift(); at !== undefined; at = queue.shift()) {
    if (goals.includes(at)) {
      const way: string[] = [];
      for (let step: string | null = at; step !== null && step !== from; step = came.get(step) ?? null)
        way.unshift(step);
      return way;
    }
    for (const place of places) {
      if (came.has(place.id) || !leadsTo(place, at)) continue;
      came.set(place.id, at);
      queue.push(place.id);
    }
  }
  return null;
}

/** The place that an act leads to; null where it leads nowhere. */
export const placeOfWay = (desk: Desk, way: string): string | null =>
  desk.places.find((each) => waysTo(each).includes(way))?.id ?? null;
