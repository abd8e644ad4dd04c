import { describe, expect, it } from 'vitest';
import { DeviceClock } from './clock';

const NOON = Date.UTC(2026, 5, 1, 12);

function clockOf() {
  const at = { wall: NOON, monotonic: 1000 };
  const kept: number[] = [];
  const clock = new DeviceClock({ wall: () => at.wall, monotonic: () => at.monotonic }, 0, (offset) =>
    kept.push(offset),
  );
  const pass = (milliseconds: number) => {
    at.wall += milliseconds;
    at.monotonic += milliseconds;
  };
  return { clock, at, pass, kept };
}

describe('the clock of a device', () => {
  it('runs on evenly when somebody sets the wall clock back', () => {
    const { clock, at, pass } = clockOf();
    pass(60_000);
    expect(clock.now()).toBe(NOON + 60_000);
    at.wall -= 3_600_000;
    pass(60_000);
    expect(clock.now()).toBe(NOON + 120_000);
  });
  it('wakes with the wall clock after the tablet slept', () => {
    const { clock, at, pass } = clockOf();
    at.wall += 8 * 3_600_000;
    pass(1000);
    expect(clock.now()).toBe(NOON + 8 * 3_600_000 + 1000);
  });
  it('learns from the server that it is wrong, and remembers it', () => {
    const { clock, pass, kept } = clockOf();
    clock.heard(NOON - 7_200_000);
    expect(clock.now()).toBe(NOON - 7_200_000);
    pass(10_000);
    clock.heard(NOON - 7_200_000 + 10_400);
    expect(clock.now()).toBe(NOON - 7_200_000 + 10_000);
    expect(kept).toEqual([-7_200_000]);
  });
  it('takes the second that an answer is rounded to for no difference', () => {
    const { clock, kept } = clockOf();
    clock.heard(NOON - 999);
    expect(clock.now()).toBe(NOON);
    expect(kept).toEqual([]);
  });
});
