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
