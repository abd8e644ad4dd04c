import { TICKS } from './expression';

/** Seconds of one tick. */
export const TICK = 1 / TICKS;

/**
 * e to the power of -x, for x of 0 and more. Of additions, multiplications and divisions alone, so that it is the same
 * bit for bit wherever it is worked out; the exponential of a platform need not be (ECMA-262, "implementation-approximated").
 *
 * @example decayed(1) // 0.3679
 */
export function decayed(x: number): number {
  // e^-x = (e^-(x / 2^n))^(2^n): the series is worked out where it converges fast.
  let halvings = 0;
  let small = x;
  while (small > 0.125) {
    small /= 2;
    halvings += 1;
  }
  let term = 1;
  let sum = 1;
  for (let n = 1; n <= 12; n++) {
    term *= -small / n;
    sum += term;
  }
  for (let n = 0; n < halvings; n++) sum *= sum;
  return sum;
}

/**
 * A first-order response, a tick on: what goes towards `target` with the time constant `seconds` (I. Newton's law of
 * cooling; any handbook of process control). Exact at every tick for a target that stands, whatever the step.
 */
export function towards(value: number, target: number, kept: number): number {
  return target + (value - target) * kept;
}

/** What is left of a difference after one tick, for a time constant in seconds; nothing for none. */
export function keptInATick(seconds: number): number {
  return seconds <= 0 ? 0 : decayed(TICK / seconds);
}
