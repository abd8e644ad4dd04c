import type { EffectivePack } from './compose';
import type { Quantity, Step } from './schema';

/** Two steps or numbers side by side; one side is null where the other class has nothing like it. */
export interface Aligned<T> {
  left: T | null;
  right: T | null;
  /** How alike the two read, 0 to 1. */
  likeness: number;
}

/** Start-up or shutdown of two classes, step by step. */
export interface ProcedureComparison {
  kind: 'startup' | 'shutdown';
  rows: Aligned<Step & { procedure: string }>[];
}

/** What differs between two classes in starting, stopping and numbers. */
export interface ClassComparison {
  procedures: ProcedureComparison[];
  numbers: Aligned<Quantity>[];
}

const STOP_WORDS = new Set(
  (
    'a an and any as at be before by each every for from if in into is it its of off on one or other out ' +
    'so that the their then this to until up with'
  ).split(' '),
);

/** Words that mean the same act or thing in this trade. */
const SAME: Readonly<Record<string, string>> = {
  crank: 'start',
  cranking: 'start',
  cooldown: 'cool',
  cooling: 'cool',
  warmup: 'warm',
  warming: 'warm',
  fasten: 'belt',
  seatbelt: 'belt',
  buckle: 'belt',
  handbrake: 'brake',
  parking: 'park',
  tries: 'try',
  attempts: 'try',
  seconds: 'second',
  lamps: 'lamp',
  lights: 'lamp',
  light: 'lamp',
  gauges: 'gauge',
};

/** The telling words of a text, folded. */
function words(text: string): Set<string> {
  return new Set(
    text
      .toLowerCase()
      .replace(/cool[- ]down/g, 'cool')
      .replace(/warm[- ]up/g, 'warm')
      .split(/[^\p{L}\p{N}]+/u)
      .filter((word) => word.length > 1 && !STOP_WORDS.has(word))
      .map((word) => SAME[word] ?? (word.length > 4 && word.endsWith('s') ? word.slice(0, -1) : word)),
  );
}

/** Share of the shorter text's telling words that both have, dampened for very short texts. */
function likeness(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  if (a.size === 0 || b.size === 0) return 0;
  let common = 0;
  for (const word of a) if (b.has(word)) common += 1;
  return (2 * common) / (a.size + b.size);
}

/**
 * Aligns two ordered lists so that the sum of likenesses is greatest and order is kept (Needleman and
 * Wunsch 1970, no gap cost).
 */
function alignInOrder<T>(
  left: readonly T[],
  right: readonly T[],
  read: (each: T) => string,
  least: number,
): Aligned<T>[] {
  const a = left.map((each) => words(read(each)));
  const b = right.map((each) => words(read(each)));
  const score = a.map((x) =>
    b.map((y) => {
      const l = likeness(x, y);
      return l >= least ? l : 0;
    }),
  );
  const best = Array.from({ length: a.length + 1 }, () => new Float64Array(b.length + 1));
  for (let i = a.length - 1; i >= 0; i--)
    for (let j = b.length - 1; j >= 0; j--)
      best[i]![j] = Math.max(
        best[i + 1]![j]!,
        best[i]![j + 1]!,
        score[i]![j]! > 0 ? score[i]![j]! + best[i + 1]![j + 1]! : 0,
      );
  const rows: Aligned<T>[] = [];
  let i = 0;
  let j = 0;
  while (i < a.length || j < b.length) {
    if (
      i < a.length &&
      j < b.length &&
      score[i]![j]! > 0 &&
      best[i]![j] === score[i]![j]! + best[i + 1]![j + 1]!
    )
      rows.push({ left: left[i]!, right: right[j]!, likeness: score[i++]![j++]! });
    else if (i < a.length && (j >= b.length || best[i + 1]![j]! >= best[i]![j + 1]!))
      rows.push({ left: left[i++]!, right: null, likeness: 0 });
    else rows.push({ left: null, right: right[j++]!, likeness: 0 });
  }
  return rows;
}

/** Pairs two unordered lists, most alike first; the rest stand alone. */
function pairUp<T>(
  left: readonly T[],
  right: readonly T[],
  read: (each: T) => string,
  least: number,
): Aligned<T>[] {
  const b = right.map((each) => words(read(each)));
  const pairs = left.flatMap((each, i) => {
    const a = words(read(each));
    return b.map((other, j) => ({ i, j, l: likeness(a, other) })).filter((pair) => pair.l >= least);
  });
  pairs.sort((x, y) => y.l - x.l);
  const partner = new Map<number, { j: number; l: number }>();
  const taken = new Set<number>();
  for (const { i, j, l } of pairs)
    if (!partner.has(i) && !taken.has(j)) {
      partner.set(i, { j, l });
      taken.add(j);
    }
  return [
    ...left.map((each, i) => {
      const p = partner.get(i);
      return { left: each, right: p ? right[p.j]! : null, likeness: p?.l ?? 0 };
    }),
    ...right.filter((_, j) => !taken.has(j)).map((each) => ({ left: null, right: each, likeness: 0 })),
  ];
}

/** Compares how two composed classes are started and stopped, and their numbers. */
export function compareClasses(left: EffectivePack, right: EffectivePack): ClassComparison {
  const stepsOf = (pack: EffectivePack, kind: string) =>
    pack.procedures
      .filter((each) => each.kind === kind)
      .flatMap((each) => each.steps.map((s) => ({ ...s, procedure: each.title })));
  return {
    procedures: (['startup', 'shutdown'] as const).map((kind) => ({
      kind,
      rows: alignInOrder(stepsOf(left, kind), stepsOf(right, kind), (s) => s.do, 0.34),
    })),
    numbers: pairUp(left.numbers, right.numbers, (n) => n.name, 0.6),
  };
}
