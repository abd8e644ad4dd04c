import { betaCdf, betaQuantile } from './beta';
import { normalQuantile } from './normal';

/** A two-sided interval; bounds are fractions from 0 to 1. */
export interface Interval {
  low: number;
  high: number;
}

function checkCounts(x: number, n: number): void {
  if (!Number.isInteger(x) || !Number.isInteger(n) || n < 1 || x < 0 || x > n)
    throw new RangeError(`expected ${x} of ${n} to be whole counts with 0 <= x <= n and n >= 1`);
}

/**
 * Wilson's score interval for a proportion of `x` successes in `n` trials.
 * E. B. Wilson (1927); R. G. Newcombe, Statistics in Medicine 17 (1998), method 3. Throws RangeError for
 * impossible counts.
 *
 * @example wilsonInterval(81, 263).low // 0.2553
 */
export function wilsonInterval(x: number, n: number, confidence = 0.95): Interval {
  checkCounts(x, n);
  const z = normalQuantile(1 - (1 - confidence) / 2);
  const p = x / n;
  const centre = (p + (z * z) / (2 * n)) / (1 + (z * z) / n);
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n));
  return { low: x === 0 ? 0 : Math.max(0, centre - half), high: x === n ? 1 : Math.min(1, centre + half) };
}

/**
 * Wilson's interval with continuity correction (Newcombe 1998, method 4).
 *
 * @example wilsonIntervalCorrected(81, 263).low // 0.2535
 */
export function wilsonIntervalCorrected(x: number, n: number, confidence = 0.95): Interval {
  checkCounts(x, n);
  const z = normalQuantile(1 - (1 - confidence) / 2);
  const p = x / n;
  const q = 1 - p;
  const z2 = z * z;
  const low = (2 * n * p + z2 - 1 - z * Math.sqrt(z2 - 2 - 1 / n + 4 * p * (n * q + 1))) / (2 * (n + z2));
  const high = (2 * n * p + z2 + 1 + z * Math.sqrt(z2 + 2 - 1 / n + 4 * p * (n * q - 1))) / (2 * (n + z2));
  return { low: x === 0 ? 0 : Math.max(0, low), high: x === n ? 1 : Math.min(1, high) };
}

/**
 * The exact interval of C. J. Clopper and E. S. Pearson (1934), from beta quantiles.
 *
 * @example clopperPearsonInterval(81, 263).high // 0.3676
 */
export function clopperPearsonInterval(x: number, n: number, confidence = 0.95): Interval {
  checkCounts(x, n);
  const tail = (1 - confidence) / 2;
  return {
    low: x === 0 ? 0 : betaQuantile(tail, x, n - x + 1),
    high: x === n ? 1 : betaQuantile(1 - tail, x + 1, n - x),
  };
}

/**
 * Exact binomial tail: Pr(X <= k) for `le`, Pr(X >= k) for `ge`, X ~ Binomial(n, p).
 *
 * @example binomialTail(10, 0.5, 8, 'ge') // 0.0547
 */
export function binomialTail(n: number, p: number, k: number, tail: 'le' | 'ge'): number {
  if (tail === 'ge') return k <= 0 ? 1 : k > n ? 0 : betaCdf(p, k, n - k + 1);
  return k < 0 ? 0 : k >= n ? 1 : betaCdf(1 - p, n - k, k + 1);
}

/**
 * Upper bound on a rate when no event was seen in `n`: the "rule of three" and the exact one-sided bound
 * (Hanley & Lippman-Hand, JAMA 249, 1983).
 *
 * @example ruleOfThree(100).approxUpper // 0.03
 * @example ruleOfThree(100).exactUpper // 0.0295
 */
export function ruleOfThree(n: number, confidence = 0.95): { approxUpper: number; exactUpper: number } {
  return { approxUpper: Math.min(1, 3 / n), exactUpper: 1 - (1 - confidence) ** (1 / n) };
}

/**
 * Smallest number of trials which, all without failure, shows a failure rate below `maxFailureRate`.
 *
 * @example zeroFailureSampleSize(0.05, 0.95) // 59
 */
export function zeroFailureSampleSize(maxFailureRate: number, confidence: number): number {
  return Math.ceil(Math.log(1 - confidence) / Math.log1p(-maxFailureRate) - 1e-12);
}

/**
 * Beta-binomial posterior with its equal-tailed interval and the probability of exceeding `threshold`.
 *
 * @example
 * betaPosterior({ priorAlpha: 1, priorBeta: 1, x: 9, n: 10, confidence: 0.9, threshold: 0.8 }).mean // 0.8333
 */
export function betaPosterior(input: {
  priorAlpha: number;
  priorBeta: number;
  x: number;
  n: number;
  confidence: number;
  threshold: number;
}): Interval & { alpha: number; beta: number; mean: number; sd: number; probAbove: number } {
  const alpha = input.priorAlpha + input.x;
  const beta = input.priorBeta + input.n - input.x;
  const tail = (1 - input.confidence) / 2;
  const sum = alpha + beta;
  return {
    alpha,
    beta,
    mean: alpha / sum,
    sd: Math.sqrt((alpha * beta) / (sum * sum * (sum + 1))),
    low: betaQuantile(tail, alpha, beta),
    high: betaQuantile(1 - tail, alpha, beta),
    probAbove: 1 - betaCdf(input.threshold, alpha, beta),
  };
}
