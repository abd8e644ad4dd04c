import { betaBinomialTail, fQuantile } from './beta';
import { mean, median, sampleVariance } from './location';
import { normalQuantile } from './normal';
import { binomialTail, type Interval } from './proportions';

/** Analysis of items, and what a score made of them is worth. Rows are people, columns are items. */

const column = (rows: readonly (readonly number[])[], j: number): number[] => rows.map((row) => row[j]!);
const sum = (values: readonly number[]): number => values.reduce((total, each) => total + each, 0);
/** Less than this is no variance but the dust of binary fractions. */
const NOTHING = 1e-12;

/**
 * Pearson's correlation; null where one of the two does not vary.
 *
 * @example correlation([1, 2, 3], [2, 4, 7]) // 0.9934
 */
export function correlation(a: readonly number[], b: readonly number[]): number | null {
  const [ma, mb] = [mean(a), mean(b)];
  const products = sum(a.map((each, i) => (each - ma) * (b[i]! - mb)));
  const [va, vb] = [sum(a.map((each) => (each - ma) ** 2)), sum(b.map((each) => (each - mb) ** 2))];
  return va < NOTHING || vb < NOTHING ? null : products / Math.sqrt(va * vb);
}

/**
 * Interval of a correlation from `n` pairs by Fisher's z (R. A. Fisher, 1921); null for fewer than four pairs.
 *
 * @example correlationInterval(0.5, 28)?.low // 0.156
 */
export function correlationInterval(r: number, n: number, confidence = 0.95): Interval | null {
  if (n < 4) return null;
  const half = normalQuantile(1 - (1 - confidence) / 2) / Math.sqrt(n - 3);
  const z = Math.atanh(Math.max(-1 + 1e-15, Math.min(1 - 1e-15, r)));
  return { low: Math.tanh(z - half), high: Math.tanh(z + half) };
}

/** How one item did. */
export interface ItemStatistics {
  /** Share right, or mean score: high is easy. */
  difficulty: number;
  /** Correlation with the total, and with the total of the other items; null where either does not vary. */
  pointBiserial: number | null;
  correctedPointBiserial: number | null;
  /** Cronbach's alpha of the other items. */
  alphaIfDropped: number | null;
}

/**
 * Difficulty and discrimination of every item (F. M. Lord and M. R. Novick, Statistical Theories of Mental Test Scores,
 * 1968; the correction for the item's own part after S. Henrysson, 1963).
 *
 * @example itemStatistics([[1, 1], [1, 0], [0, 0]])[0].difficulty // 0.6667
 */
export function itemStatistics(responses: readonly (readonly number[])[]): ItemStatistics[] {
  const totals = responses.map(sum);
  return (responses[0] ?? []).map((_, j) => {
    const own = column(responses, j);
    const others = totals.map((total, i) => total - own[i]!);
    return {
      difficulty: mean(own),
      pointBiserial: correlation(own, totals),
      correctedPointBiserial: correlation(own, others),
      alphaIfDropped: cronbachAlpha(responses.map((row) => row.filter((_each, k) => k !== j))),
    };
  });
}

/**
 * Cronbach's alpha (L. J. Cronbach, 1951): null for fewer than two items or people, or where the totals do not vary.
 *
 * @example cronbachAlpha([[1, 1], [2, 2], [3, 4]]) // 0.9474
 */
export function cronbachAlpha(scores: readonly (readonly number[])[]): number | null {
  const k = scores[0]?.length ?? 0;
  if (k < 2 || scores.length < 2) return null;
  const total = sampleVariance(scores.map(sum))!;
  if (total < NOTHING) return null;
  const items = sum(scores[0]!.map((_, j) => sampleVariance(column(scores, j))!));
  return (k / (k - 1)) * (1 - items / total);
}

/**
 * Interval of Cronbach's alpha from the F distribution (L. S. Feldt, Psychometrika 30, 1965).
 *
 * @example cronbachAlphaInterval(0.8, 41, 26).low // 0.7001
 */
export function cronbachAlphaInterval(
  alpha: number,
  people: number,
  items: number,
  confidence = 0.95,
): Interval {
  const tail = (1 - confidence) / 2;
  const [d1, d2] = [people - 1, (people - 1) * (items - 1)];
  return {
    low: 1 - (1 - alpha) * fQuantile(1 - tail, d1, d2),
    high: 1 - (1 - alpha) * fQuantile(tail, d1, d2),
  };
}

/** Reliability of a test of right and wrong. Variances have the divisor n. */
export interface KuderRichardson {
  kr20: number | null;
  kr21: number | null;
  mean: number;
  variance: number;
  /** Standard error of measurement; null without a reliability. */
  sem: number | null;
}

/**
 * Kuder and Richardson's formulas 20 and 21 (Psychometrika 2, 1937), and the standard error of measurement.
 *
 * @example kuderRichardson([[1, 1, 1, 1], [1, 1, 1, 0], [1, 1, 0, 0], [1, 0, 0, 0], [0, 0, 0, 0]]).kr20 // 0.8
 */
export function kuderRichardson(responses: readonly (readonly number[])[]): KuderRichardson {
  const k = responses[0]?.length ?? 0;
  const totals = responses.map(sum);
  const middle = mean(totals);
  const variance = mean(totals.map((each) => (each - middle) ** 2));
  const varies = variance > NOTHING && k > 1;
  const pq = sum(
    (responses[0] ?? []).map((_, j) => {
      const p = mean(column(responses, j));
      return p * (1 - p);
    }),
  );
  const kr20 = varies ? (k / (k - 1)) * (1 - pq / variance) : null;
  return {
    kr20,
    kr21: varies ? (k / (k - 1)) * (1 - (middle * (k - middle)) / (k * variance)) : null,
    mean: middle,
    variance,
    sem: kr20 === null ? null : Math.sqrt(variance * Math.max(0, 1 - kr20)),
  };
}

/**
 * The share right in the best group less that in the weakest (T. L. Kelley, 1939, for the usual 27 %): ties of the
 * total keep the order of the rows.
 *
 * @example upperLower([[1, 1], [1, 0], [0, 0]], 0.27).d // [1, 1]
 */
export function upperLower(
  responses: readonly (readonly number[])[],
  fraction: number,
): { groupSize: number; d: number[] } {
  const groupSize = Math.max(1, Math.floor(responses.length * fraction + 0.5));
  const ranked = [...responses].sort((a, b) => sum(b) - sum(a));
  const share = (rows: readonly (readonly number[])[], j: number) => mean(column(rows, j));
  return {
    groupSize,
    d: (responses[0] ?? []).map(
      (_, j) => share(ranked.slice(0, groupSize), j) - share(ranked.slice(-groupSize), j),
    ),
  };
}

/**
 * Whether two tests of the same length would decide alike about people whose true shares are known.
 *
 * @example binomialConsistency([0.3, 0.6], 1, 1).groupConsistency // 0.55
 */
export function binomialConsistency(trueShares: readonly number[], items: number, cut: number) {
  const passProbability = trueShares.map((p) => binomialTail(items, p, cut, 'ge'));
  const consistency = passProbability.map((p) => p * p + (1 - p) * (1 - p));
  return { passProbability, consistency, groupConsistency: mean(consistency) };
}

/**
 * Consistency of decisions from one test (M. J. Subkoviak, Journal of Educational Measurement 13, 1976): true shares
 * are the observed ones drawn to the mean by the reliability. `kappa` null where chance alone agrees wholly.
 *
 * @example subkoviak([5, 4, 3, 2], 5, 3, 0).p0 // 0.727
 */
export function subkoviak(scores: readonly number[], items: number, cut: number, reliability: number) {
  const middle = mean(scores) / items;
  const regressed = scores.map((each) => reliability * (each / items) + (1 - reliability) * middle);
  const { passProbability, groupConsistency: p0 } = binomialConsistency(regressed, items, cut);
  const pass = mean(passProbability);
  const chance = pass * pass + (1 - pass) * (1 - pass);
  return { regressed, passProbability, p0, chance, kappa: beyondChance(p0, chance) };
}

const beyondChance = (p0: number, chance: number): number | null =>
  1 - chance < NOTHING ? null : (p0 - chance) / (1 - chance);

/**
 * Consistency of decisions from one test by the beta-binomial (H. Huynh, Journal of Educational Measurement 13, 1976).
 *
 * @example huynh(20, 16, 15.2, 0.75).p0 // 0.78
 */
export function huynh(items: number, cut: number, middle: number, kr21: number) {
  const alpha = middle * (1 / kr21 - 1);
  const beta = items / kr21 - items - alpha;
  const { pass, bothPass } = betaBinomialTail(items, cut, alpha, beta);
  const p0 = 1 - 2 * pass + 2 * bothPass;
  const chance = pass * pass + (1 - pass) * (1 - pass);
  return { alpha, beta, passRate: pass, p0, chance, kappa: beyondChance(p0, chance) };
}

/**
 * Livingston's criterion-referenced coefficient (S. A. Livingston, Journal of Educational Measurement 9, 1972).
 *
 * @example livingston(18, 4, 0.5, 15) // 0.8462
 */
export function livingston(middle: number, variance: number, reliability: number, cut: number): number {
  const apart = (middle - cut) ** 2;
  return (reliability * variance + apart) / (variance + apart);
}

/** A cut score as a panel of judges sets it. */
export interface AngoffCut {
  judgeSums: number[];
  meanCut: number;
  medianCut: number;
  /** Divisor n - 1; null for one judge. */
  spread: number | null;
  standardError: number | null;
  cutPercent: number;
  roundedUp: number;
  /** Without the lowest and the highest judge; null for fewer than three. */
  trimmedMean: number | null;
  itemMeans: number[];
}

/**
 * Angoff's method (W. H. Angoff, 1971): each judge says of each item how likely somebody just good enough is right.
 * Rows are judges.
 *
 * @example angoff([[0.5, 0.7], [0.7, 0.9]]).meanCut // 1.4
 */
export function angoff(ratings: readonly (readonly number[])[]): AngoffCut {
  const judgeSums = ratings.map(sum);
  const meanCut = mean(judgeSums);
  const variance = sampleVariance(judgeSums);
  const spread = variance === null ? null : Math.sqrt(variance);
  const ranked = [...judgeSums].sort((a, b) => a - b).slice(1, -1);
  const items = ratings[0]?.length ?? 0;
  return {
    judgeSums,
    meanCut,
    medianCut: median(judgeSums)!,
    spread,
    standardError: spread === null ? null : spread / Math.sqrt(ratings.length),
    cutPercent: (100 * meanCut) / items,
    roundedUp: Math.ceil(Number(meanCut.toFixed(9))),
    trimmedMean: ranked.length === 0 ? null : mean(ranked),
    itemMeans: (ratings[0] ?? []).map((_, j) => mean(column(ratings, j))),
  };
}
