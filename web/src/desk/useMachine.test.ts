import { compose } from '@rounds/core/catalogue';
import {
  deskPackOf,
  type LoggedAct,
  type MachineState,
  machineOf,
  runMachine,
  startMachine,
} from '@rounds/core/machine';
import { shippedPack } from '@rounds/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { effectScope } from 'vue';
import { type Speed, useMachine } from './useMachine';

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());

const machine = machineOf(deskPackOf(compose(shippedPack('powered-pallet-truck'), { variant: 'electric' })))!;
const [place] = machine.desk.places.filter((each) => each.from?.length);
const key = machine.desk.controls.find((each) => each.kind === 'selector')!;

/** A machine worked at a speed: some acts in given ticks, and everything it was in every tick. */
function worked(speed: Speed, acts: readonly LoggedAct[], ticks: number): MachineState[] {
  const seen: MachineState[] = [];
  const scope = effectScope();
  scope.run(() => {
    const own = useMachine(machine, startMachine(machine), {
      speed,
      stepped: (_, next) => void seen.push(next),
    });
    for (const { tick, act } of acts) {
      while (own.state.value.tick < tick - 1) {
        // As far as the next act, at whatever speed: the clock is held there, as it is before a hand is put to it.
        const left = tick - 1 - own.state.value.tick;
        own.speed.value = left < speed ? 1 : speed;
        vi.advanceTimersByTime(100);
      }
      own.speed.value = 0;
      own.act(act, 'done');
      own.speed.value = speed;
    }
    while (own.state.value.tick < ticks) {
      own.speed.value = ticks - own.state.value.tick < speed ? 1 : speed;
      vi.advanceTimersByTime(100);
    }
  });
  scope.stop();
  return seen.slice(0, ticks);
}

describe('a machine that runs by its clock', () => {
  const acts: LoggedAct[] = [
    { tick: 40, act: { kind: 'go', place: place!.id } },
    { tick: 95, act: { kind: 'set', control: key.id, to: key.positions!.at(-1)! } },
    { tick: 700, act: { kind: 'set', control: key.id, to: key.positions![0]! } },
  ];

  it('is in every tick just what it would be at its own speed, ten and sixty times as fast', () => {
    const slow = worked(1, acts, 1200);
    expect(slow.map((each) => each.tick)).toEqual(Array.from({ length: 1200 }, (_, i) => i + 1));
    for (const speed of [10, 60] as const) expect(worked(speed, acts, 1200)).toEqual(slow);
    expect(runMachine(machine, startMachine(machine), acts, 1200)).toEqual(slow.at(-1));
  });

  it('stands while it is held, and goes on from there', () => {
    const scope = effectScope();
    scope.run(() => {
      const own = useMachine(machine, startMachine(machine), { speed: 0 });
      vi.advanceTimersByTime(5000);
      expect(own.state.value.tick).toBe(0);
      own.speed.value = 1;
      vi.advanceTimersByTime(1000);
      expect(own.state.value.tick).toBeGreaterThanOrEqual(9);
      expect(own.state.value.tick).toBeLessThanOrEqual(11);
    });
    scope.stop();
  });

  it('tells what cannot be done from where one is, and changes nothing by it', () => {
    const scope = effectScope();
    scope.run(() => {
      const own = useMachine(machine, startMachine(machine), { speed: 0 });
      const far = machine.desk.controls.find((each) => !own.isHere(each.at));
      if (!far) throw new Error('everything is in reach');
      const before = own.state.value;
      expect(own.act({ kind: 'set', control: far.id, to: far.positions?.[0] ?? '' }, 'x')).toBe(false);
      expect(own.told.value[0]).toMatchObject({ refused: true });
      expect(own.state.value).toBe(before);
    });
    scope.stop();
  });
});
