/**
 * What an expression of a desk says, as a tree. Written as `key = on and engine.oilPressure < 1 bar for 3 s`: names,
 * numbers with units, comparisons, `not`, `and`, `or`, and what looks back in time.
 */
export type Expression =
  | { kind: 'number'; value: number; unit: Unit | null; at: number }
  | { kind: 'name'; name: string; at: number }
  | { kind: 'not'; of: Expression }
  | { kind: 'and' | 'or'; parts: Expression[] }
  | { kind: 'compare'; op: Comparison; left: Expression; right: Expression; at: number }
  /** Has held so many seconds without a break. */
  | { kind: 'for'; of: Expression; seconds: number }
  /** Became true at most so many seconds ago. */
  | { kind: 'within'; of: Expression; seconds: number }
  /** At most so many seconds after the failure began; stands in reactions alone. */
  | { kind: 'soon'; seconds: number }
  /** Seconds since it was last true. */
  | { kind: 'since'; of: Expression }
  /** How often it has become true. */
  | { kind: 'count'; of: Expression }
  /** A look that was made at any time. */
  | { kind: 'done'; name: string; at: number }
  /** Has been true at any time; `before x` is that x has not. */
  | { kind: 'ever'; of: Expression }
  /** The first was true before the second ever was; stands in reactions alone. */
  | { kind: 'before'; first: Expression; then: Expression };

export const COMPARISONS = ['=', '!=', '<', '<=', '>', '>='] as const;
export type Comparison = (typeof COMPARISONS)[number];

/** What a figure measures; figures of one measure compare. */
export type Measure =
  | 'time'
  | 'length'
  | 'angle'
  | 'pressure'
  | 'temperature'
  | 'speed'
  | 'voltage'
  | 'frequency'
  | 'mass'
  | 'power'
  | 'share';

/** Units with what they measure and how many of the measure's own unit they are. */
export const UNITS = {
  s: { measure: 'time', factor: 1 },
  min: { measure: 'time', factor: 60 },
  h: { measure: 'time', factor: 3600 },
  cm: { measure: 'length', factor: 0.01 },
  m: { measure: 'length', factor: 1 },
  deg: { measure: 'angle', factor: 1 },
  bar: { measure: 'pressure', factor: 1 },
  '°C': { measure: 'temperature', factor: 1 },
  rpm: { measure: 'speed', factor: 1 },
  V: { measure: 'voltage', factor: 1 },
  Hz: { measure: 'frequency', factor: 1 },
  kg: { measure: 'mass', factor: 1 },
  kW: { measure: 'power', factor: 1 },
  '%': { measure: 'share', factor: 1 },
} as const satisfies Readonly<Record<string, { measure: Measure; factor: number }>>;
export type Unit = keyof typeof UNITS;

/** An expression that says nothing, with where: letters from its beginning, from 0. */
export class ExpressionError extends Error {
  constructor(
    message: string,
    readonly at: number,
  ) {
    super(message);
  }
}
