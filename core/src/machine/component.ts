import { z } from 'zod';
import { type Meaning, type Measure, type Reading, type Unit, UNITS } from './expression';

/** A state that a component gives, with what it reads at the start and the ends it never leaves. */
export interface StateSpec {
  meaning: Meaning;
  start: Exclude<Reading, null>;
  range?: readonly [least: number, most: number];
}

/** A state that holds or not. */
export const truth = (start = false): StateSpec => ({ meaning: { kind: 'truth' }, start });
/** A state that is a figure. */
export const figure = (
  measure: Measure | null,
  start: number,
  range: readonly [number, number],
): StateSpec => ({ meaning: { kind: 'figure', measure }, start, range });
/** A state that is one of several positions. */
export const choice = (values: readonly [string, ...string[]]): StateSpec => ({
  meaning: { kind: 'choice', values },
  start: values[0],
});

/** A parameter that is an expression: it holds or not. */
export const condition = z.string().meta({ condition: true });

/** A parameter with a unit: a number in the measure's own unit, or a text such as "30 s" or "40 cm". */
export function amount(measure: Measure) {
  return z.union([z.number(), z.string()]).transform((given, context): number => {
    if (typeof given === 'number') return given;
    const match = /^(-?\d+(?:\.\d+)?)\s*(\S+)$/.exec(given.trim());
    const unit = match?.[2];
    if (!match || !unit || !Object.hasOwn(UNITS, unit) || UNITS[unit as Unit].measure !== measure) {
      context.addIssue({ code: 'custom', message: `"${given}" is no ${measure} with its unit` });
      return z.NEVER;
    }
    return Number(match[1]) * UNITS[unit as Unit].factor;
  });
}

/** What a component reads and sets in a tick. Its own states go by their bare names. */
export interface Ticking {
  /** Seconds since the session began. */
  seconds: number;
  truth(state: string): boolean;
  figure(state: string): number;
  set(state: string, value: Exclude<Reading, null>): void;
  /** Whether a parameter that is an expression holds; false for one that is not given. */
  holds(parameter: string): boolean;
  /** What another name of the desk reads; null where the machine has none of it. */
  other(name: string): Reading;
}

/** A kind of component: its parameters, the states it gives, and what it does in a tick. */
export interface ComponentKind {
  kind: string;
  says: string;
  parameters: z.ZodObject;
  states: (parameters: Readonly<Record<string, unknown>>) => Readonly<Record<string, StateSpec>>;
  /** Names of other components' states that it looks at. */
  looksAt?: readonly string[];
  tick: (parameters: Readonly<Record<string, unknown>>) => (own: Ticking) => void;
  /** What else reads how where the machine is found with one of its states true. */
  found?: Readonly<Record<string, Readonly<Record<string, Exclude<Reading, null>>>>>;
}

/** Writes a kind with its parameters' own type. */
export function component<S extends z.ZodObject>(kind: {
  kind: string;
  says: string;
  parameters: S;
  states: (parameters: z.output<S>) => Readonly<Record<string, StateSpec>>;
  looksAt?: readonly string[];
  tick: (parameters: z.output<S>) => (own: Ticking) => void;
  found?: ComponentKind['found'];
}): ComponentKind {
  return kind as unknown as ComponentKind;
}

/** The parameters of a kind that are expressions. */
export function conditionsOf({ parameters }: ComponentKind): string[] {
  return Object.entries(parameters.shape).flatMap(([name, schema]) => {
    const inner = schema instanceof z.ZodOptional ? (schema.unwrap() as z.ZodType) : (schema as z.ZodType);
    return (inner.meta() as { condition?: boolean } | undefined)?.condition ? [name] : [];
  });
}
