/** What is measured with calliper, rule and gauge, worked out into what limits are stated in. */

const share = (part: number, whole: number): number => {
  if (!(whole > 0)) throw new RangeError('what it was when new must be more than nothing');
  return (100 * part) / whole;
};

/**
 * Per cent of the size when new that is worn away; negative where it measures more than new.
 * Throws RangeError unless `original` is positive.
 *
 * @example lossPercent(50, 45) // 10
 */
export function lossPercent(original: number, measured: number): number {
  return share(original - measured, original);
}

/**
 * Per cent by which it is longer or wider than when new; negative where it is less.
 * Throws RangeError unless `original` is positive.
 *
 * @example gainPercent(200, 206) // 3
 */
export function gainPercent(original: number, measured: number): number {
  return share(measured - original, original);
}

/**
 * Per cent that there is of what is wanted. Throws RangeError unless `wanted` is positive.
 *
 * @example sharePercent(8, 7.2) // 90
 */
export function sharePercent(wanted: number, measured: number): number {
  return share(measured, wanted);
}

/**
 * Wear at the heel of a fork arm. Withdrawn at 10 % of the thickness when new; bending strength goes with the square
 * of the thickness. Sources: ISO 5057 and ASME B56.1, from memory.
 *
 * @example forkHeelWear(50, 45).withdraw // true
 */
export function forkHeelWear(original: number, measured: number) {
  const wearPercent = lossPercent(original, measured);
  return {
    wearPercent,
    // In whole numbers, so that exactly a tenth is a tenth.
    withdraw: 10 * (original - measured) >= original - 1e-9,
    sectionStrengthRatio: (measured / original) ** 2,
  };
}

/**
 * Stretch of a lift chain over a number of pitches; replaced at 3 % or more. Source: ASME B29.8 and B56.1, from memory.
 *
 * @example chainElongation(25.4, 10, 262).replace // true
 */
export function chainElongation(pitch: number, pitches: number, measured: number) {
  const nominal = pitch * pitches;
  const elongationPercent = gainPercent(nominal, measured);
  return { nominal, elongationPercent, replace: elongationPercent >= 3 - 1e-9 };
}

/** By whose rule a hook is taken out of use. */
export type HookRule = 'osha' | 'asme';

/**
 * Opening of a hook's throat, in millimetres, and twist out of its plane. Taken out of use when opened by more than 15 %
 * or twisted by more than 10 degrees (29 CFR 1910.184 and 1910.179, from memory), or by the stricter rule when opened
 * by 5 %, at most 6 mm (ASME B30.10, from memory).
 *
 * @example hookThroat('osha', 40, 47).remove // true
 */
export function hookThroat(rule: HookRule, original: number, measured: number, twistDegrees = 0) {
  const increasePercent = gainPercent(original, measured);
  const increase = measured - original;
  const remove =
    rule === 'osha'
      ? increasePercent > 15 + 1e-9 || twistDegrees > 10
      : increase >= Math.min(0.05 * original, 6) - 1e-9;
  return { increasePercent, increase, remove };
}
