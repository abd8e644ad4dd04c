/**
 * The standard normal distribution.
 */

/**
 * Coefficients of the continued-fraction/rational error function by W. J. Cody, "Rational Chebyshev
 * approximation for the error function", Math. Comp. 23 (1969).
 */
const P1 = [
  3.1611237438705656, 1.1386415415105016e2, 3.77485237685302e2, 3.209377589138469e3, 1.857777061846032e-1,
];
const Q1 = [2.3601290952344122e1, 2.440246379344442e2, 1.282616526077372e3, 2.844236833439171e3];
const P2 = [
  5.641884969886701e-1, 8.883149794388376, 6.611919063714163e1, 2.986351381974e2, 8.81952221241769e2,
  1.712047612634071e3, 2.051078377826071e3, 1.230339354797997e3, 2.1531153547440385e-8,
];
const Q2 = [
  1.574492611070983e1, 1.176939508913122e2, 5.371811018620099e2, 1.62138957456669e3, 3.29079923573346e3,
  4.362619090143247e3, 3.439367674143722e3, 1.230339354803749e3,
];
const P3 = [
  3.053266349612323e-1, 3.603448999498044e-1, 1.257817261112292e-1, 1.608378514874228e-2,
  6.587491615298378e-4, 1.63153871373021e-2,
];
const Q3 = [
  2.568520192289822, 1.87295284992346, 5.279051029514284e-1, 6.051834131244132e-2, 2.335204976268692e-3,
];

/** Complementary error function, relative error below 1e-14 (Cody 1969). */
function erfc(x: number): number {
  const y = Math.abs(x);
  let result: number;
  if (y <= 0.46875) {
    const z = y * y;
    let num = P1[4]! * z;
    let den = z;
    for (let i = 0; i < 3; i++) {
      num = (num + P1[i]!) * z;
      den = (den + Q1[i]!) * z;
    }
    return 1 - (x * (num + P1[3]!)) / (den + Q1[3]!);
  }
  if (y <= 4) {
    let num = P2[8]! * y;
    let den = y;
    for (let i = 0; i < 7; i++) {
      num = (num + P2[i]!) * y;
      den = (den + Q2[i]!) * y;
    }
    result = (num + P2[7]!) / (den + Q2[7]!);
  } else {
    if (y > 26.5) return x > 0 ? 0 : 2;
    const z = 1 / (y * y);
    let num = P3[5]! * z;
    let den = z;
    for (let i = 0; i < 4; i++) {
      num = (num + P3[i]!) * z;
      den = (den + Q3[i]!) * z;
    }
    result = (z * (num + P3[4]!)) / (den + Q3[4]!);
    result = (1 / Math.sqrt(Math.PI) - result) / y;
  }
  const ysq = Math.trunc(y * 16) / 16;
  const del = (y - ysq) * (y + ysq);
  result *= Math.exp(-ysq * ysq) * Math.exp(-del);
  return x < 0 ? 2 - result : result;
}

/**
 * Probability that a standard normal variable is at most `z`.
 *
 * @example normalCdf(1.96) // 0.975
 */
export function normalCdf(z: number): number {
  return 0.5 * erfc(-z / Math.SQRT2);
}

/**
 * Density φ(z) of the standard normal distribution.
 *
 * @example normalPdf(0) // 0.3989
 */
export function normalPdf(z: number): number {
  return Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI);
}

/**
 * The z below which a share `p` of a standard normal lies.
 * Starting value by P. J. Acklam's rational approximation (from memory), polished by two Halley steps on
 * `normalCdf`.
 * Returns -Infinity for 0 and Infinity for 1; throws RangeError outside [0, 1].
 *
 * @example normalQuantile(0.975) // 1.96
 */
export function normalQuantile(p: number): number {
  if (!(p >= 0 && p <= 1)) throw new RangeError(`a probability lies between 0 and 1, not ${p}`);
  if (p === 0) return -Infinity;
  if (p === 1) return Infinity;
  if (p > 0.5) return -normalQuantile(1 - p);
  const a = [
    -3.969683028665376e1, 2.209460984245205e2, -2.759285104469687e2, 1.38357751867269e2, -3.066479806614716e1,
    2.506628277459239,
  ];
  const b = [
    -5.447609879822406e1, 1.615858368580409e2, -1.556989798598866e2, 6.680131188771972e1,
    -1.328068155288572e1,
  ];
  const c = [
    -7.784894002430293e-3, -3.223964580411365e-1, -2.400758277161838, -2.549732539343734, 4.374664141464968,
    2.938163982698783,
  ];
  const d = [7.784695709041462e-3, 3.224671290700398e-1, 2.445134137142996, 3.754408661907416];
  let z: number;
  if (p < 0.02425) {
    const q = Math.sqrt(-2 * Math.log(p));
    z =
      (((((c[0]! * q + c[1]!) * q + c[2]!) * q + c[3]!) * q + c[4]!) * q + c[5]!) /
      ((((d[0]! * q + d[1]!) * q + d[2]!) * q + d[3]!) * q + 1);
  } else {
    const q = p - 0.5;
    const r = q * q;
    z =
      ((((((a[0]! * r + a[1]!) * r + a[2]!) * r + a[3]!) * r + a[4]!) * r + a[5]!) * q) /
      (((((b[0]! * r + b[1]!) * r + b[2]!) * r + b[3]!) * r + b[4]!) * r + 1);
  }
  for (let i = 0; i < 2; i++) {
    const u = (normalCdf(z) - p) / normalPdf(z);
    z -= u / (1 + (z * u) / 2);
  }
  return z;
}
