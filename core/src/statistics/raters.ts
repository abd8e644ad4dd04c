import { fQuantile } from './beta';
import type { Interval } from './proportions';

/** Agreement of more than two raters. */

/**
 * Fleiss' kappa. `counts[i][j]` = raters who put subject i in category j; every subject has the same number
 * of ratings.
 * J. L. Fleiss, Psychological Bulletin 76 (1971). `kappa` null when all ratings fall in one category.
 *
 * @example fleissKappa([[3, 0], [0, 3], [2, 1], [3, 0]]).kappa // 0.625
 */
export function fleissKappa(counts: readonly (readonly number[])[]): {
  kappa: number | null;
  po: number;
  pe: number;
} {
  const subjects = counts.length;
  const raters = counts[0]?.reduce((sum, each) => sum + each, 0) ?? 0;
  if (counts.some((row) => row.reduce((sum, each) => sum + each, 0) !== raters))
    throw new RangeError('every subject needs the same number of ratings');
  const po =
    counts.reduce(
      (sum, row) => sum + row.reduce((inner, c) => inner + c * (c - 1), 0) / (raters * (raters - 1)),
      0,
    ) / subjects;
  const shares = (counts[0] ?? []).map(
    (_, j) => counts.reduce((sum, row) => sum + row[j]!, 0) / (subjects * raters),
  );
  const pe = shares.reduce((sum, p) => sum + p * p, 0);
  return { kappa: Math.abs(1 - pe) < 1e-14 ? null : (po - pe) / (1 - pe), po, pe };
}

/**
 * The six intraclass correlations with the mean squares they come from; negative values are reported as
 * they are.
 */
export interface IntraclassCorrelations {
  icc11: number;
  icc21: number;
  icc31: number;
  icc1k: number;
  icc2k: number;
  icc3k: number;
  bms: number;
  wms: number;
  jms: number;
  ems: number;
}

/**
 * Intraclass correlations; rows = subjects, columns = judges. P. E. Shrout and J. L. Fleiss, Psychological
 * Bulletin 86 (1979).
 *
 * @example
 * intraclassCorrelations([
 *   [9, 2, 5, 8], [6, 1, 3, 2], [8, 4, 6, 8], [7, 1, 2, 6], [10, 5, 6, 9], [6, 2, 4, 7],
 * ]).icc21 // 0.2898
 */
export function intraclassCorrelations(ratings: readonly (readonly number[])[]): IntraclassCorrelations {
  const n = ratings.length;
  const k = ratings[0]?.length ?? 0;
  const mean = (values: readonly number[]) => values.reduce((sum, each) => sum + each, 0) / values.length;
  const grand = mean(ratings.flat());
  const rowMeans = ratings.map(mean);
  const columnMeans = Array.from({ length: k }, (_, j) => mean(ratings.map((row) => row[j]!)));
  const square = (x: number) => x * x;
  const between = k * rowMeans.reduce((sum, each) => sum + square(each - grand), 0);
  const judges = n * columnMeans.reduce((sum, each) => sum + square(each - grand), 0);
  const within = ratings.reduce(
    (sum, row, i) => sum + row.reduce((inner, each) => inner + square(each - rowMeans[i]!), 0),
    0,
  );
  const bms = between / (n - 1);
  const wms = within / (n * (k - 1));
  const jms = judges / (k - 1);
  const ems = (within - judges) / ((n - 1) * (k - 1));
  return {
    icc11: (bms - wms) / (bms + (k - 1) * wms),
    icc21: (bms - ems) / (bms + (k - 1) * ems + (k * (jms - ems)) / n),
    icc31: (bms - ems) / (bms + (k - 1) * ems),
    icc1k: (bms - wms) / bms,
    icc2k: (bms - ems) / (bms + (jms - ems) / n),
    icc3k: (bms - ems) / bms,
    bms,
    wms,
    jms,
    ems,
  };
}

/** Intervals of the six intraclass correlations. */
export type IntraclassIntervals = Record<'icc11' | 'icc21' | 'icc31' | 'icc1k' | 'icc2k' | 'icc3k', Interval>;

/**
 * Intervals of the six intraclass correlations (Shrout and Fleiss 1979; for two random ways with the degrees of freedom
 * of F. E. Satterthwaite). Those of the means of the judges follow by the formula of Spearman and Brown. Null for fewer
 * than two subjects or judges, or where nothing varies.
 *
 * @example
 * intraclassIntervals([
 *   [9, 2, 5, 8], [6, 1, 3, 2], [8, 4, 6, 8], [7, 1, 2, 6], [10, 5, 6, 9], [6, 2, 4, 7],
 * ])?.icc21.high // 0.7611
 */
export function intraclassIntervals(
  ratings: readonly (readonly number[])[],
  confidence = 0.95,
): IntraclassIntervals | null {
  const n = ratings.length;
  const k = ratings[0]?.length ?? 0;
  if (n < 2 || k < 2) return null;
  const { bms, wms, jms, ems, icc21 } = intraclassCorrelations(ratings);
  if (!(wms > 0) || !(ems > 0)) return null;
  const p = 1 - (1 - confidence) / 2;
  const oneWay = (ratio: number, d1: number, d2: number): Interval => {
    const low = ratio / fQuantile(p, d1, d2);
    const high = ratio * fQuantile(p, d2, d1);
    return { low: (low - 1) / (low + k - 1), high: (high - 1) / (high + k - 1) };
  };
  const icc11 = oneWay(bms / wms, n - 1, n * (k - 1));
  const icc31 = oneWay(bms / ems, n - 1, (n - 1) * (k - 1));
  const a = (k * icc21) / (n * (1 - icc21));
  const b = 1 + (k * icc21 * (n - 1)) / (n * (1 - icc21));
  const v = (a * jms + b * ems) ** 2 / ((a * jms) ** 2 / (k - 1) + (b * ems) ** 2 / ((n - 1) * (k - 1)));
  const rest = k * jms + (k * n - k - n) * ems;
  const [fl, fu] = [fQuantile(p, n - 1, v), fQuantile(p, v, n - 1)];
  const two: Interval = {
    low: (n * (bms - fl * ems)) / (fl * rest + n * bms),
    high: (n * (fu * bms - ems)) / (rest + n * fu * bms),
  };
  const ofMean = ({ low, high }: Interval): Interval => {
    const up = (icc: number) => (k * icc) / (1 + (k - 1) * icc);
    return { low: up(low), high: up(high) };
  };
  return {
    icc11,
    icc21: two,
    icc31,
    icc1k: ofMean(icc11),
    icc2k: ofMean(two),
    icc3k: ofMean(icc31),
  };
}

/** How far apart two values of a unit are, by level of measurement. */
export type MeasurementLevel = 'nominal' | 'ordinal' | 'interval' | 'ratio';

/**
 * Krippendorff's alpha with missing data. `units[i]` = the values the coders gave unit i, null = missing.
 * K. Krippendorff, Computing Krippendorff's Alpha-Reliability (2011). `alpha` null when nothing varies or
 * nothing can be paired.
 *
 * @example krippendorffAlpha([[1, 1], [2, 2], [1, 2], [2, null]], 'nominal').alpha // 0.4444
 */
export function krippendorffAlpha(
  units: readonly (readonly (number | null)[])[],
  level: MeasurementLevel,
): { alpha: number | null; pairableValues: number; pairableUnits: number } {
  const pairable = units
    .map((unit) => unit.filter((v): v is number => v !== null))
    .filter((unit) => unit.length > 1);
  const values = [...new Set(pairable.flat())].sort((a, b) => a - b);
  const index = new Map(values.map((value, i) => [value, i]));
  const size = values.length;
  const coincidence = values.map(() => values.map(() => 0));
  for (const unit of pairable)
    unit.forEach((a, i) =>
      unit.forEach((b, j) => {
        if (i !== j) coincidence[index.get(a)!]![index.get(b)!]! += 1 / (unit.length - 1);
      }),
    );
  const totals = coincidence.map((row) => row.reduce((sum, each) => sum + each, 0));
  const n = totals.reduce((sum, each) => sum + each, 0);
  const distance = (c: number, k: number): number => {
    const a = values[c]!;
    const b = values[k]!;
    if (c === k) return 0;
    if (level === 'nominal') return 1;
    if (level === 'interval') return (a - b) ** 2;
    if (level === 'ratio') return a + b === 0 ? 0 : ((a - b) / (a + b)) ** 2;
    let between = 0;
    for (let g = Math.min(c, k); g <= Math.max(c, k); g++) between += totals[g]!;
    return (between - (totals[c]! + totals[k]!) / 2) ** 2;
  };
  let observed = 0;
  let expected = 0;
  for (let c = 0; c < size; c++)
    for (let k = 0; k < size; k++) {
      observed += coincidence[c]![k]! * distance(c, k);
      expected += totals[c]! * totals[k]! * distance(c, k);
    }
  return {
    alpha: expected === 0 ? null : 1 - ((n - 1) * observed) / expected,
    pairableValues: pairable.flat().length,
    pairableUnits: pairable.length,
  };
}

/**
 * Gwet's AC1 with missing data: K. L. Gwet, British Journal of Mathematical and Statistical Psychology 61
 * (2008).
 *
 * @example gwetAc1([[1, 1], [2, 2], [1, 2], [1, 1]], [1, 2]).ac1 // 0.5294
 */
export function gwetAc1(
  units: readonly (readonly (number | null)[])[],
  categories: readonly number[],
): { ac1: number | null; pa: number; pe: number } {
  const rated = units
    .map((unit) => unit.filter((v): v is number => v !== null))
    .filter((unit) => unit.length > 0);
  const shared = rated.filter((unit) => unit.length > 1);
  const count = (unit: readonly number[], category: number) => unit.filter((v) => v === category).length;
  const pa =
    shared.reduce(
      (sum, unit) =>
        sum +
        categories.reduce((inner, q) => inner + count(unit, q) * (count(unit, q) - 1), 0) /
          (unit.length * (unit.length - 1)),
      0,
    ) / shared.length;
  const shares = categories.map(
    (q) => rated.reduce((sum, unit) => sum + count(unit, q) / unit.length, 0) / rated.length,
  );
  const pe = shares.reduce((sum, p) => sum + p * (1 - p), 0) / (categories.length - 1);
  return { ac1: Math.abs(1 - pe) < 1e-14 ? null : (pa - pe) / (1 - pe), pa, pe };
}
