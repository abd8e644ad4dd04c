import { tQuantile } from './beta';
import type { Interval } from './proportions';

/**
 * The median: the middle value, or the mean of the two middle ones. Null for no values.
 *
 * @example median([3, 1, 2, 10]) // 2.5
 */
export function median(values: readonly number[]): number | null {
  if (values.length === 0) return null;
  const sorted = [...values].sort((a, b) => a - b);
  const half = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[half]! : (sorted[half - 1]! + sorted[half]!) / 2;
}

/**
 * The median absolute deviation, scaled by 1.4826 so that it estimates the standard deviation of a normal
 * distribution. Null for no values.
 *
 * Source: F. R. Hampel, "The influence curve and its role in robust estimation", JASA 69 (1974).
 *
 * @example medianAbsoluteDeviation([1, 1, 2, 2, 4, 6, 9]) // 1.4826
 */
export function medianAbsoluteDeviation(values: readonly number[]): number | null {
  const centre = median(values);
  return centre === null ? null : 1.4826 * median(values.map((each) => Math.abs(each - centre)))!;
}

/**
 * The time above which somebody was slower than they usually are: two robust deviations (1.4826 times the median
 * absolute deviation) above the median of their own times, and by `least` at any rate, however even they are. Null for
 * no times.
 *
 * Source: P. J. Huber, Robust Statistics (1981), for the scale of the median absolute deviation.
 *
 * @example hesitationAbove([1, 1, 1, 2], 0.3) // 1.3
 */
export function hesitationAbove(times: readonly number[], least: number): number | null {
  const usual = median(times);
  return usual === null ? null : usual + Math.max(least, 2 * medianAbsoluteDeviation(times)!);
}

/**
 * The arithmetic mean. Throws RangeError for no values.
 *
 * @example mean([1, 2, 6]) // 3
 */
export function mean(values: readonly number[]): number {
  if (values.length === 0) throw new RangeError('no values have no mean');
  return values.reduce((sum, each) => sum + each, 0) / values.length;
}

/**
 * Variance with the divisor n - 1; null for fewer than two values.
 *
 * @example sampleVariance([1, 2, 6]) // 7
 */
export function sampleVariance(values: readonly number[]): number | null {
  if (values.length < 2) return null;
  const middle = mean(values);
  return values.reduce((sum, each) => sum + (each - middle) ** 2, 0) / (values.length - 1);
}

/**
 * Interval of a mean by Student's t (W. S. Gosset, 1908); null for fewer than two values. Of values that are all alike
 * it is that value: so few distinct ones say no more.
 *
 * @example meanInterval([1, 2, 6])?.high // 9.572
 */
export function meanInterval(values: readonly number[], confidence = 0.95): Interval | null {
  const variance = sampleVariance(values);
  if (variance === null) return null;
  const half = tQuantile(1 - (1 - confidence) / 2, values.length - 1) * Math.sqrt(variance / values.length);
  const middle = mean(values);
  return { low: middle - half, high: middle + half };
}
