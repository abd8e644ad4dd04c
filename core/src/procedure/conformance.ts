import { explain } from './explain';
import type { Precedence } from './order';
import { StepOrder } from './order';

/** How a recorded trace agrees with a partial order of steps, as the literature on conformance counts it. */
export interface Conformance {
  /** Orders of all steps that the partial order allows. */
  linearExtensions: number;
  /** Fewest skips plus extras that turn an allowed order into the trace. */
  cost: number;
  skips: number;
  extras: number;
  /** 1 - cost / (steps + events); 1 where both are empty. */
  fitness: number;
  /** Pairs of steps that must come one way and whose first events are the other way round, sorted by name. */
  invertedPairs: [string, string][];
  /** Pairs of steps that must come one way and that both have an event. */
  comparablePairsPresent: number;
  /** As `invertedPairs`, of the pairs that were given. */
  invertedDirectEdges: [string, string][];
  /** Steps without an event, in their order. */
  missing: string[];
  /** Events beyond the first of each step. */
  repeats: number;
  /** Events that are no step. */
  unknown: number;
  conforms: boolean;
  /** Kendall's tau between a total order and a trace that has every step once; null otherwise. */
  kendallTau: number | null;
}

/**
 * Compares a trace with a partial order at unit cost. `before` lists pairs [a, b]: a comes before b. Throws
 * RangeError for an order that runs in a circle or names a step that is none, and for more than 24 steps, whose
 * allowed orders are not counted.
 *
 * Source of the alignment: W. van der Aalst, A. Adriansyah, B. van Dongen, "Replaying history on process models for
 * conformance checking and performance analysis", WIREs Data Mining and Knowledge Discovery 2 (2012).
 *
 * @example
 * conformance(['belt', 'engine'], [['belt', 'engine']], ['engine', 'belt']).cost; // 2
 */
export function conformance(
  steps: readonly string[],
  before: readonly (readonly [string, string])[],
  trace: readonly string[],
): Conformance {
  for (const pair of before)
    for (const each of pair) if (!steps.includes(each)) throw new RangeError(`"${each}" is no step`);
  const order = new StepOrder(
    steps.map((id) => ({
      id,
      token: id,
      weight: 1,
      optional: false,
      after: before.filter(([, later]) => later === id).map(([earlier]) => earlier),
    })),
  );
  const { eventOf } = explain(order, trace);
  const matched = eventOf.filter((each) => each !== null).length;
  const [skips, extras] = [steps.length - matched, trace.length - matched];
  const cost = skips + extras;
  const first = new Map<string, number>();
  trace.forEach((token, i) => {
    if (order.index.has(token) && !first.has(token)) first.set(token, i);
  });
  const pairs = inOrder(order).filter(([a, b]) => first.has(a) && first.has(b));
  const inverted = (given: readonly (readonly [string, string])[]) =>
    given
      .filter(([a, b]) => first.has(a) && first.has(b) && first.get(a)! > first.get(b)!)
      .map(([a, b]): [string, string] => [a, b])
      .sort((x, y) => (x.join('\0') < y.join('\0') ? -1 : 1));
  const invertedPairs = inverted(pairs);
  const total = (steps.length * (steps.length - 1)) / 2;
  const isTotal = steps.length > 1 && inOrder(order).length === total;
  const onceEach = trace.length === steps.length && first.size === steps.length;
  return {
    linearExtensions: countLinearExtensions(order.base),
    cost,
    skips,
    extras,
    fitness: steps.length + trace.length === 0 ? 1 : 1 - cost / (steps.length + trace.length),
    invertedPairs,
    comparablePairsPresent: pairs.length,
    invertedDirectEdges: inverted(before),
    missing: steps.filter((each) => !first.has(each)),
    repeats: trace.filter((each) => order.index.has(each)).length - first.size,
    unknown: trace.filter((each) => !order.index.has(each)).length,
    conforms: cost === 0,
    kendallTau: isTotal && onceEach ? 1 - (2 * invertedPairs.length) / total : null,
  };
}

/** All pairs of steps of which the first must come before the second. */
function inOrder({ steps, base }: StepOrder): [string, string][] {
  return steps.flatMap((a, i) =>
    steps.flatMap((b, j): [string, string][] => (base.has(i, j) ? [[a.id, b.id]] : [])),
  );
}

const MOST_COUNTED = 24;

/** How many orders of all elements keep a partial order, counted over the sets that may have been done first. */
function countLinearExtensions(order: Precedence): number {
  const { size } = order;
  if (size > MOST_COUNTED) throw new RangeError(`orders of more than ${MOST_COUNTED} steps are not counted`);
  const needs = Array.from({ length: size }, (_, b) => {
    let bits = 0;
    for (let a = 0; a < size; a++) if (order.has(a, b)) bits |= 1 << a;
    return bits;
  });
  let ways = new Map([[0, 1]]);
  for (let done = 0; done < size; done++) {
    const next = new Map<number, number>();
    for (const [set, count] of ways)
      for (let b = 0; b < size; b++)
        if (!(set & (1 << b)) && (needs[b]! & set) === needs[b]!)
          next.set(set | (1 << b), (next.get(set | (1 << b)) ?? 0) + count);
    ways = next;
  }
  return [...ways.values()].reduce((sum, each) => sum + each, 0);
}
