import { describe, expect, it } from 'vitest';
import { decayed, keptInATick, TICK, towards } from './decay';

describe('decay', () => {
  it('is the exponential of the platform to the last digits, from nothing to long', () => {
    for (const x of [0, 1e-9, 1e-4, 0.01, 0.125, 0.13, 0.5, 1, 2, Math.LN2, 5, 17.3, 40, 200])
      expect(Math.abs(decayed(x) / Math.exp(-x) - 1)).toBeLessThan(1e-12);
  });

  it('is at 63.2 % of the way after one time constant, 95.0 % after three, 99.3 % after five', () => {
    // 1 - 1/e, 1 - 1/e^3 and 1 - 1/e^5: the figures of any handbook of process control.
    const kept = keptInATick(20);
    let value = 0;
    const reached = new Map<number, number>();
    for (let tick = 1; tick <= 1000; tick++) {
      value = towards(value, 1, kept);
      reached.set(tick, value);
    }
    for (const [constants, share] of [
      [1, 0.6321],
      [3, 0.9502],
      [5, 0.9933],
    ] as const)
      expect(reached.get(Math.round((constants * 20) / TICK))!).toBeCloseTo(share, 4);
  });

  it('arrives at once where there is no time constant', () => {
    expect(towards(3, 7, keptInATick(0))).toBe(7);
  });
});
