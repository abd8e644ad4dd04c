import { z } from 'zod';
import { drop, filledEllipse, type Mark, rustMarks, shape, stroke } from './marks';

/** One way in which a finding may look, chosen from a list; `says` has words for each, empty for the sound one. */
export interface ChoiceParam<T extends string = string> {
  type: 'choice';
  label: string;
  sound: T;
  says: Readonly<Record<T, string>>;
  /** Words for what is drawn besides and is as it should be, as a cover that is on. */
  also?: Readonly<Partial<Record<T, string>>>;
}
/** A quantity that is drawn to scale. */
export interface NumberParam {
  type: 'number';
  label: string;
  sound: number;
  least: number;
  most: number;
  step: number;
  unit: string;
  /** What can be seen of it without measuring; empty where nothing is out of the way. */
  says: (n: number) => string;
}
/** Places counted from 1, clockwise from the top or from the left. */
export interface PlacesParam {
  type: 'places';
  label: string;
  sound: readonly number[];
  /** The parameter that says how many there are. */
  of: string;
  says: (count: number) => string;
}
export interface TextParam {
  type: 'text';
  label: string;
  sound: string;
  says: (text: string) => string;
}
interface TextsParam {
  type: 'texts';
  label: string;
  sound: readonly string[];
  says: (lines: readonly string[]) => string;
}
interface LampsParam {
  type: 'lamps';
  label: string;
  sound: readonly Lamp[];
}
/** From one figure to another on a scale. */
interface RangeParam {
  type: 'range';
  label: string;
  sound: readonly [number, number];
}
/** A lamp and what it does; `expected` where it differs from what the others should do. */
export interface Lamp {
  name: string;
  state: LampState;
  expected?: LampState | undefined;
}
export const LAMP_STATES = ['off', 'on', 'flash'] as const;
type LampState = (typeof LAMP_STATES)[number];

export type EvidenceParam =
  ChoiceParam | NumberParam | PlacesParam | TextParam | TextsParam | RangeParam | LampsParam;
export type EvidenceParams = Readonly<Record<string, EvidenceParam>>;

type ValueOf<P> =
  P extends ChoiceParam<infer T>
    ? T
    : P extends NumberParam
      ? number
      : P extends PlacesParam
        ? readonly number[]
        : P extends TextParam
          ? string
          : P extends TextsParam
            ? readonly string[]
            : P extends RangeParam
              ? readonly [number, number]
              : P extends LampsParam
                ? readonly Lamp[]
                : never;
export type ValuesOf<P extends EvidenceParams> = { readonly [K in keyof P]: ValueOf<P[K]> };

/** A kind of evidence: what may differ in it, how it is drawn and how it is said. */
export interface EvidenceKind<P extends EvidenceParams = EvidenceParams> {
  id: string;
  /** What it shows, as a heading. */
  title: string;
  params: P;
  /** What is said where nothing is out of the way. */
  sound: string;
  /** Marks on a square of 100 by 100. Takes its parameters and nothing else. */
  draw: (values: ValuesOf<P>) => Mark[];
  /** Where its surface is shown, as a patch of x, y and radius; kinds without a bare surface have none. */
  surfaceAt?: readonly [number, number, number];
  /** Words in place of a parameter's own, where others have a say in them. */
  says?: { readonly [K in keyof P]?: (values: ValuesOf<P>, own: string) => string };
}

/** What may lie on a part, whatever the part is. */
const SURFACE = choice('Surface', {
  bare: '',
  scratched: 'scratched',
  'rust-film': 'a film of rust on it',
  grease: 'grease on it',
  ice: 'ice on it',
  mud: 'mud on it',
  water: 'water on it',
});

function surfaceMarks([x, y, r]: readonly [number, number, number], surface: string): Mark[] {
  switch (surface) {
    case 'scratched':
      return [0, 4, 8].map((d) => stroke(`M${x - r} ${y - r / 2 + d}l${2 * r} ${r / 3}`, 1.4));
    case 'rust-film':
      return [...rustMarks(x, y, r), ...rustMarks(x, y, r / 2)];
    case 'grease':
      return filledEllipse(x, y, r, r * 0.7, 'hatch');
    case 'ice':
      return filledEllipse(x, y, r * 1.2, r, 'bloom');
    case 'mud':
      return filledEllipse(x, y, r * 1.2, r, 'dirty');
    case 'water':
      return [-0.8, 0, 0.8].map((d) => shape(drop(x + d * r, y, r * 0.3), 'ground', 1.6));
    default:
      return [];
  }
}

/** Declares a kind. Its parameters type what it draws. */
export function evidenceKind<const P extends EvidenceParams>(declared: EvidenceKind<P>): EvidenceKind {
  const kind = declared as unknown as EvidenceKind;
  const { surfaceAt } = kind;
  if (!surfaceAt) return kind;
  return {
    ...kind,
    params: { ...kind.params, surface: SURFACE },
    draw: (values) => [...kind.draw(values), ...surfaceMarks(surfaceAt, String(values['surface']))],
  };
}

// ---------------------------------------------------------------- parameters

/** A choice; the first value is the sound one, and empty words say that nothing is out of the way. */
export function choice<const T extends Readonly<Record<string, string>>>(
  label: string,
  says: T,
  also?: Readonly<Partial<Record<keyof T & string, string>>>,
): ChoiceParam<keyof T & string> {
  return { type: 'choice', label, sound: Object.keys(says)[0]!, says, ...(also && { also }) };
}
/** Something that is there or not: "no" is sound. */
export const fault = (label: string, says: string) => choice(label, { no: '', yes: says });
/** Something that should be: "yes" is sound. */
export const wanted = (label: string, missing: string) => choice(label, { yes: '', no: missing });

export function number(
  label: string,
  unit: string,
  [sound, least, most, step = 1]: [sound: number, least: number, most: number, step?: number],
  says: (n: number) => string,
): NumberParam {
  return { type: 'number', label, unit, sound, least, most, step, says };
}
export function places(label: string, of: string, says: (count: number) => string): PlacesParam {
  return { type: 'places', label, sound: [], of, says };
}
export const line = (
  label: string,
  sound: string,
  says: (text: string) => string = (text) => text,
): TextParam => ({ type: 'text', label, sound, says });

/** Words for how much: the last that a figure reaches; empty below the first. */
export function howMuch(...steps: [from: number, says: string][]): (n: number) => string {
  return (n) => steps.filter(([from]) => n >= from).at(-1)?.[1] ?? '';
}

/** Places as words: "2 of them" or "the third and fifth" would differ by kind; this counts. */
export const several = (one: string, many: string) => (count: number) =>
  count === 0 ? '' : count === 1 ? `one ${one}` : `${count} ${many}`;

// ---------------------------------------------------------------- reading

const lampSchema = z.strictObject({
  name: z.string().min(1).max(80),
  state: z.enum(LAMP_STATES),
  expected: z.enum(LAMP_STATES).optional(),
});

function paramSchema(param: EvidenceParam): z.ZodType {
  switch (param.type) {
    case 'choice':
      return z.enum(Object.keys(param.says) as [string, ...string[]]);
    case 'number':
      return z.number().min(param.least).max(param.most);
    case 'places':
      return z.array(z.number().int().min(1).max(60)).max(60);
    case 'text':
      return z.string().max(120);
    case 'texts':
      return z.array(z.string().max(80)).max(8);
    case 'range':
      return z.tuple([z.number(), z.number()]);
    case 'lamps':
      return z.array(lampSchema).max(12);
  }
}

/** The parameters of a kind as a schema; every one may be left out and is sound then. */
export function paramsSchema(kind: EvidenceKind): z.ZodObject {
  return z.strictObject(
    Object.fromEntries(
      Object.entries(kind.params).map(([key, param]) => [key, paramSchema(param).optional()]),
    ),
  );
}

/** Given parameters with those left out taken as sound. */
export function fullParams(
  kind: EvidenceKind,
  given: Readonly<Record<string, unknown>>,
): ValuesOf<EvidenceParams> {
  return Object.fromEntries(
    Object.entries(kind.params).map(([key, param]) => [key, given[key] ?? param.sound]),
  ) as ValuesOf<EvidenceParams>;
}
