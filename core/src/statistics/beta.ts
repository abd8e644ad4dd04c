/** Logarithm of the gamma function for x > 0: Lanczos approximation, g = 7, nine terms (from memory). */
function logGamma(x: number): number {
  const c = [
    0.99999999999980993, 676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059,
    12.507343278686905, -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ];
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - logGamma(1 - x);
  const y = x - 1;
  let sum = c[0]!;
  for (let i = 1; i < 9; i++) sum += c[i]! / (y + i);
  const t = y + 7.5;
  return 0.5 * Math.log(2 * Math.PI) + (y + 0.5) * Math.log(t) - t + Math.log(sum);
}

/**
 * Regularised incomplete beta function I_x(a, b): the probability that a Beta(a, b) variable is at most `x`.
 * Continued fraction by the modified Lentz method (Press et al., Numerical Recipes, section 6.4, from
 * memory).
 *
 * @example betaCdf(0.5, 2, 2) // 0.5
 */
export function betaCdf(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  const front = Math.exp(logGamma(a + b) - logGamma(a) - logGamma(b) + a * Math.log(x) + b * Math.log1p(-x));
  return x < (a + 1) / (a + b + 2) ? (front * lentz(x, a, b)) / a : 1 - (front * lentz(1 - x, b, a)) / b;
}

function lentz(x: number, a: number, b: number): number {
  const tiny = 1e-300;
  let c = 1;
  let d = 1 - ((a + b) * x) / (a + 1);
  d = 1 / (Math.abs(d) < tiny ? tiny : d);
  let h = d;
  for (let m = 1; m <= 5000; m++) {
    for (const numerator of [
      (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m)),
      (-(a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1)),
    ]) {
      d = 1 + numerator * d;
      d = 1 / (Math.abs(d) < tiny ? tiny : d);
      c = 1 + numerator / c;
      if (Math.abs(c) < tiny) c = tiny;
      h *= d * c;
    }
    if (Math.abs(d * c - 1) < 1e-15) break;
  }
  return h;
}

/**
 * The x below which a share `p` of a Beta(a, b) lies, by bisection to the last bit.
 *
 * @example betaQuantile(0.975, 1, 10) // 0.3085
 */
export function betaQuantile(p: number, a: number, b: number): number {
  if (p <= 0) return 0;
  if (p >= 1) return 1;
  let low = 0;
  let high = 1;
  for (let i = 0; i < 200; i++) {
    const middle = (low + high) / 2;
    if (middle === low || middle === high) break;
    if (betaCdf(middle, a, b) < p) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}

/**
 * The x below which a share `p` of an F distribution with `d1` and `d2` degrees of freedom lies.
 *
 * @example fQuantile(0.95, 3, 10) // 3.708
 */
export function fQuantile(p: number, d1: number, d2: number): number {
  const q = betaQuantile(p, d1 / 2, d2 / 2);
  return (d2 * q) / (d1 * (1 - q));
}

/**
 * Of people whose true shares are Beta(alpha, beta): the chance to get at least `cut` of `items` right, and to do so in
 * two tests of that length.
 *
 * @example betaBinomialTail(1, 1, 1, 1).pass // 0.5
 */
export function betaBinomialTail(
  items: number,
  cut: number,
  alpha: number,
  beta: number,
): { pass: number; bothPass: number } {
  const logBeta = (a: number, b: number) => logGamma(a) + logGamma(b) - logGamma(a + b);
  const logChoose = (k: number) => logGamma(items + 1) - logGamma(k + 1) - logGamma(items - k + 1);
  const base = logBeta(alpha, beta);
  let pass = 0;
  let bothPass = 0;
  for (let x = cut; x <= items; x++) {
    pass += Math.exp(logChoose(x) + logBeta(alpha + x, beta + items - x) - base);
    for (let y = cut; y <= items; y++)
      bothPass += Math.exp(
        logChoose(x) + logChoose(y) + logBeta(alpha + x + y, beta + 2 * items - x - y) - base,
      );
  }
  return { pass, bothPass };
}

/**
 * The value below which a share `p` of Student's t distribution with `df` degrees of freedom lies.
 *
 * @example tQuantile(0.975, 10) // 2.228
 */
export function tQuantile(p: number, df: number): number {
  if (p < 0.5) return -tQuantile(1 - p, df);
  return p === 0.5 ? 0 : Math.sqrt(fQuantile(2 * p - 1, 1, df));
}
