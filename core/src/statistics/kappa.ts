import { normalQuantile } from './normal';

/** Weighting of disagreement by the distance between category indices. */
export type KappaWeights = 'unweighted' | 'linear' | 'quadratic';

/**
 * Agreement weights for `size` ordered categories: 1 on the diagonal, falling with the distance between
 * indices.
 *
 * @example agreementWeights(3, 'linear')[0] // [1, 0.5, 0]
 */
export function agreementWeights(size: number, weights: KappaWeights): number[][] {
  const span = Math.max(1, size - 1);
  return Array.from({ length: size }, (_, i) =>
    Array.from({ length: size }, (_, j) => {
      if (weights === 'unweighted') return i === j ? 1 : 0;
      const distance = Math.abs(i - j) / span;
      return weights === 'linear' ? 1 - distance : 1 - distance * distance;
    }),
  );
}

/**
 * Chance-corrected agreement of two raters. `kappa` is null where it is undefined (expected agreement 1, or
 * no ratings); `po` and `pe` are the (weighted) observed and expected agreement; `n` the number of ratings.
 */
export interface Kappa {
  kappa: number | null;
  po: number;
  pe: number;
  n: number;
}

/**
 * Cohen's kappa from a square table of counts or proportions, rows = rater A, columns = rater B.
 * J. Cohen (1960, 1968). `weights` may be a named scheme or a matrix of agreement weights. Throws
 * RangeError when the table is not square.
 *
 * @example cohenKappa([[20, 5], [10, 15]]).kappa // 0.4
 */
export function cohenKappa(
  table: readonly (readonly number[])[],
  weights: KappaWeights | number[][] = 'unweighted',
): Kappa {
  const size = table.length;
  if (table.some((row) => row.length !== size)) throw new RangeError('an agreement table is square');
  const w = typeof weights === 'string' ? agreementWeights(size, weights) : weights;
  const n = table.flat().reduce((sum, cell) => sum + cell, 0);
  if (n === 0) return { kappa: null, po: 0, pe: 0, n };
  const { rows, columns } = margins(table, n);
  let po = 0;
  let pe = 0;
  for (let i = 0; i < size; i++)
    for (let j = 0; j < size; j++) {
      po += (w[i]![j]! * table[i]![j]!) / n;
      pe += w[i]![j]! * rows[i]! * columns[j]!;
    }
  return { kappa: Math.abs(1 - pe) < 1e-14 ? null : (po - pe) / (1 - pe), po, pe, n };
}

/**
 * Kappa from disagreement weights (0 on the diagonal, may be asymmetric): 1 − observed / expected
 * disagreement (Cohen 1968).
 *
 * @example cohenKappaDisagreement([[20, 5], [10, 15]], [[0, 1], [1, 0]]) // 0.4
 */
export function cohenKappaDisagreement(
  table: readonly (readonly number[])[],
  weights: readonly (readonly number[])[],
): number | null {
  const n = table.flat().reduce((sum, cell) => sum + cell, 0);
  const { rows, columns } = margins(table, n);
  let observed = 0;
  let expected = 0;
  table.forEach((row, i) =>
    row.forEach((cell, j) => {
      observed += (weights[i]![j]! * cell) / n;
      expected += weights[i]![j]! * rows[i]! * columns[j]!;
    }),
  );
  return expected === 0 ? null : 1 - observed / expected;
}

function margins(table: readonly (readonly number[])[], n: number): { rows: number[]; columns: number[] } {
  return {
    rows: table.map((row) => row.reduce((sum, cell) => sum + cell, 0) / n),
    columns: table.map((_, j) => table.reduce((sum, row) => sum + row[j]!, 0) / n),
  };
}

/** Large-sample standard error and interval of a (weighted) kappa. `seNull` and `z` test kappa = 0. */
export interface KappaInterval {
  kappa: number;
  se: number;
  low: number;
  high: number;
  seNull: number;
  z: number;
}

/**
 * Standard errors by J. L. Fleiss, J. Cohen and B. S. Everitt, Psychological Bulletin 72 (1969). Null where
 * kappa is undefined.
 *
 * @example cohenKappaInterval([[20, 5], [10, 15]])?.se // 0.127
 */
export function cohenKappaInterval(
  table: readonly (readonly number[])[],
  weights: KappaWeights = 'unweighted',
  confidence = 0.95,
): KappaInterval | null {
  const { kappa, po, pe, n } = cohenKappa(table, weights);
  if (kappa === null) return null;
  const w = agreementWeights(table.length, weights);
  const { rows, columns } = margins(table, n);
  const meanRow = w.map((row) => row.reduce((sum, each, j) => sum + each * columns[j]!, 0));
  const meanColumn = w.map((_, j) => w.reduce((sum, row, i) => sum + row[j]! * rows[i]!, 0));
  let observed = 0;
  let underNull = 0;
  for (let i = 0; i < table.length; i++)
    for (let j = 0; j < table.length; j++) {
      const both = meanRow[i]! + meanColumn[j]!;
      observed += (table[i]![j]! / n) * (w[i]![j]! * (1 - pe) - both * (1 - po)) ** 2;
      underNull += rows[i]! * columns[j]! * (w[i]![j]! - both) ** 2;
    }
  const variance = (observed - (po * pe - 2 * pe + po) ** 2) / (n * (1 - pe) ** 4);
  const varianceNull = (underNull - pe * pe) / (n * (1 - pe) ** 2);
  const se = Math.sqrt(Math.max(0, variance));
  const seNull = Math.sqrt(Math.max(0, varianceNull));
  const z = normalQuantile(1 - (1 - confidence) / 2);
  return { kappa, se, low: kappa - z * se, high: kappa + z * se, seNull, z: kappa / seNull };
}

/**
 * Cross-tabulates two lists of labels over the declared categories (unused ones keep their place). Throws
 * RangeError for an undeclared label.
 *
 * @example agreementTable(['a', 'b', 'b'], ['a', 'b', 'a'], ['a', 'b']) // [[1, 0], [1, 1]]
 */
export function agreementTable<T>(
  raterA: readonly T[],
  raterB: readonly T[],
  categories: readonly T[],
): number[][] {
  if (raterA.length !== raterB.length) throw new RangeError('both raters must have rated the same things');
  const table = categories.map(() => categories.map(() => 0));
  raterA.forEach((a, k) => {
    const i = categories.indexOf(a);
    const j = categories.indexOf(raterB[k]!);
    if (i < 0 || j < 0)
      throw new RangeError(`a rating is not among the categories: ${String(i < 0 ? a : raterB[k])}`);
    table[i]![j]! += 1;
  });
  return table;
}
