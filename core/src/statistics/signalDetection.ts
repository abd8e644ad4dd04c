import { normalCdf, normalPdf, normalQuantile } from './normal';
import type { Interval } from './proportions';

/**
 * The four counts of a detection task: signal trials split into hits and misses, noise trials into false
 * alarms and correct rejections.
 */
export interface DetectionCounts {
  hits: number;
  misses: number;
  falseAlarms: number;
  correctRejections: number;
}

/**
 * Sensitivity and bias of an observer. `dPrime` = z(H) − z(F); `criterion` c = −(z(H) + z(F)) / 2,
 * positive when the observer is reluctant to report; `auc` = Φ(d′/√2). Rates are fractions.
 * H. Stanislaw and N. Todorov, Behavior Research Methods 31 (1999).
 */
export interface Sensitivity {
  dPrime: number;
  criterion: number;
  lnBeta: number;
  beta: number;
  auc: number;
  hitRate: number;
  falseAlarmRate: number;
}

/**
 * Sensitivity from two rates, both strictly between 0 and 1.
 *
 * @example sensitivityFromRates(0.8, 0.2).dPrime // 1.6832
 */
export function sensitivityFromRates(hitRate: number, falseAlarmRate: number): Sensitivity {
  const zh = normalQuantile(hitRate);
  const zf = normalQuantile(falseAlarmRate);
  const dPrime = zh - zf;
  const criterion = -(zh + zf) / 2;
  const lnBeta = dPrime * criterion;
  return {
    dPrime,
    criterion,
    lnBeta,
    beta: Math.exp(lnBeta),
    auc: normalCdf(dPrime / Math.SQRT2),
    hitRate,
    falseAlarmRate,
  };
}

/**
 * Sensitivity from counts with the log-linear correction (+0.5 to counts, +1 to totals, always applied): M.
 * J. Hautus (1995). With no trial of a kind its rate is 1/2: callers say "undefined" there.
 *
 * @example
 * sensitivityLogLinear({ hits: 10, misses: 0, falseAlarms: 1, correctRejections: 9 }).dPrime // 2.7874
 */
export function sensitivityLogLinear(counts: DetectionCounts): Sensitivity {
  const signals = counts.hits + counts.misses;
  const noises = counts.falseAlarms + counts.correctRejections;
  return sensitivityFromRates((counts.hits + 0.5) / (signals + 1), (counts.falseAlarms + 0.5) / (noises + 1));
}

/**
 * 95 % interval of the log-linear d′ from its approximate variance, H(1 − H) / (N φ(z(H))²) and the same of false
 * alarms: V. Gourevitch and E. Galanter, Psychometrika 32 (1967). Wide when there were few trials; with no trial of a
 * kind callers say "undefined".
 *
 * @example
 * sensitivityInterval({ hits: 10, misses: 0, falseAlarms: 1, correctRejections: 9 }).low // 1.2000
 */
export function sensitivityInterval(counts: DetectionCounts): Interval {
  const { dPrime, hitRate, falseAlarmRate } = sensitivityLogLinear(counts);
  const part = (rate: number, trials: number) =>
    (rate * (1 - rate)) / (trials * normalPdf(normalQuantile(rate)) ** 2);
  const variance =
    part(hitRate, counts.hits + counts.misses + 1) +
    part(falseAlarmRate, counts.falseAlarms + counts.correctRejections + 1);
  const half = normalQuantile(0.975) * Math.sqrt(variance);
  return { low: dPrime - half, high: dPrime + half };
}

/**
 * Sensitivity with only the rates 0 and 1 replaced, by 1/(2N) and 1 − 1/(2N): N. A. Macmillan and H. L.
 * Kaplan (1985).
 *
 * @example
 * sensitivityOneOver2N({ hits: 10, misses: 0, falseAlarms: 1, correctRejections: 9 })?.dPrime // 2.9264
 */
export function sensitivityOneOver2N(counts: DetectionCounts): Sensitivity | null {
  const signals = counts.hits + counts.misses;
  const noises = counts.falseAlarms + counts.correctRejections;
  if (signals === 0 || noises === 0) return null;
  const clamp = (count: number, total: number) =>
    Math.min(Math.max(count / total, 1 / (2 * total)), 1 - 1 / (2 * total));
  return sensitivityFromRates(clamp(counts.hits, signals), clamp(counts.falseAlarms, noises));
}

/**
 * Adds up the counts of several inspections by one person, the unbiased way to one d′.
 *
 * @example poolCounts([{ hits: 3, misses: 1, falseAlarms: 0, correctRejections: 5 }]).hits // 3
 */
export function poolCounts(inspections: readonly DetectionCounts[]): DetectionCounts {
  const total = { hits: 0, misses: 0, falseAlarms: 0, correctRejections: 0 };
  for (const each of inspections) {
    total.hits += each.hits;
    total.misses += each.misses;
    total.falseAlarms += each.falseAlarms;
    total.correctRejections += each.correctRejections;
  }
  return total;
}
