import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { shippedClasses, shippedPack } from '../testing';
import {
  buildMachine,
  deskPackOf,
  deskSchema,
  fitDesk,
  type MachineState,
  readingOf,
  runMachine,
  startMachine,
  TICKS,
} from './index';
import { loadPeak } from './loadPeak';

/** The physics of the desk beside figures from outside the project; each says where its figure is published. */

/** An engine by itself, run so many minutes, and stopped again. */
function engine(warmMinutes: number) {
  const machine = buildMachine(
    deskSchema.parse({
      places: [{ id: 'here', name: 'Here' }],
      controls: [
        { id: 'run', at: 'here', name: 'Run', kind: 'selector', positions: ['off', 'on'], start: 'off' },
      ],
      components: [{ kind: 'engine', runsWhen: 'run = on', fuel: 'diesel', warmMinutes }],
    }),
  );
  let state: MachineState = startMachine(machine);
  return {
    go(seconds: number, to: 'on' | 'off') {
      const act = { kind: 'set' as const, control: 'run', to };
      state = runMachine(machine, state, [{ tick: state.tick + 1, act }], state.tick + seconds * TICKS);
    },
    read: (name: string) => Number(readingOf(machine, state, name)),
  };
}

describe('an engine warms and cools by Newton’s law of cooling', () => {
  // T(t) = T_end + (T_0 - T_end) e^(-t/tau): I. Newton, "Scala graduum caloris", Philosophical Transactions 22 (1701);
  // Incropera and DeWitt, Fundamentals of Heat and Mass Transfer, lumped capacitance (from memory).
  it.each([4, 8])('with the closed form at every minute, warm after %d minutes', (minutes) => {
    const own = engine(minutes);
    const tau = (minutes * 60) / Math.log((88 - 15) / (88 - 70));
    for (let minute = 1; minute <= 12; minute++) {
      own.go(60, 'on');
      const closed = 88 + (15 - 88) * Math.exp((-60 * minute) / tau);
      // The first tick sees the engine run only in the next: a tenth of a second.
      expect(Math.abs(own.read('engine.coolant') - closed)).toBeLessThan(0.1);
    }
  });
  it('falls by the same share in equal times when it stands', () => {
    const own = engine(4);
    own.go(1800, 'on');
    own.go(600, 'off');
    const after = [0, 1, 2].map(() => {
      own.go(900, 'off');
      return own.read('engine.coolant') - 15;
    });
    // A quarter of an hour at a time constant of three is e^(-1/3).
    for (const i of [1, 2]) expect(after[i]! / after[i - 1]!).toBeCloseTo(Math.exp(-1 / 3), 3);
  });
});

describe('a generator carries its loads', () => {
  it('one after the other, and all at once, as the sum of what runs and what starts', () => {
    // The reference set "generator_load_steps" (computed, all orders enumerated): pump 7.5/22.5, fan 4/12, lights 5/5 kW.
    const [pump, fan, lights] = [
      { runs: 7.5, starts: 22.5 },
      { runs: 4, starts: 12 },
      { runs: 5, starts: 5 },
    ] as const;
    expect(loadPeak([pump, fan, lights], 30)).toBe(22.5);
    expect(loadPeak([lights, fan, pump], 30)).toBe(31.5);
    expect(loadPeak([pump, fan, lights], 30, { together: true })).toBe(39.5);
  });
  it('no more than six of them, and at least one', () => {
    expect(() => loadPeak([], 30)).toThrow(RangeError);
    expect(() =>
      loadPeak(
        Array.from({ length: 7 }, () => ({ runs: 1, starts: 1 })),
        30,
      ),
    ).toThrow(RangeError);
  });
});

describe('a hoist keeps its wraps', () => {
  const hoists = shippedClasses().flatMap((id) => {
    const pack = shippedPack(id);
    return pack.variants.flatMap(({ id: variant }) => {
      const { machine, fitOut } = deskPackOf(compose(pack, { variant }));
      const { desk } = fitDesk(machine.desk!, fitOut);
      return desk.components
        .filter((each) => each.kind === 'hoist')
        .map((each) => ({ name: `${id} ${variant}`, given: each as Record<string, unknown> }));
    });
  });
  it('are there', () => expect(hoists.length).toBeGreaterThan(1));
  // Below the floor, in a pit, fewer may be left: lowering that far is what the class forbids.
  // "no less than two wraps of rope on the drum when the hook is in its extreme low position":
  // 29 CFR 1910.179(h)(2)(iii)(a) and ASME B30.2; cranes 29 CFR 1926.1414 and ASME B30.5 (all recalled).
  it.each(hoists)('two at least with the hook on the floor, on $name', ({ given }) => {
    const machine = buildMachine(
      deskSchema.parse({
        places: [{ id: 'here', name: 'Here' }],
        controls: [
          {
            id: 'hoist-way',
            at: 'here',
            name: 'Hoist',
            kind: 'selector',
            positions: ['still', 'up', 'down'],
          },
        ],
        components: [
          {
            ...given,
            bottom: undefined,
            needs: undefined,
            raisedWhen: 'hoist-way = up',
            loweredWhen: 'hoist-way = down',
            allowedWhen: undefined,
            limitWhen: undefined,
            fastWhen: undefined,
          },
        ],
      }),
    );
    const put = (to: string, from: MachineState, seconds: number) =>
      runMachine(
        machine,
        from,
        [{ tick: from.tick + 1, act: { kind: 'set', control: 'hoist-way', to } }],
        from.tick + seconds * TICKS,
      );
    const low = put('down', startMachine(machine), 1200);
    expect(readingOf(machine, low, 'hoist.height')).toBe(0);
    expect(Number(readingOf(machine, low, 'hoist.wraps'))).toBeGreaterThanOrEqual(2);
    const high = put('up', low, 1200);
    expect(Number(readingOf(machine, high, 'hoist.wraps'))).toBeGreaterThan(
      Number(readingOf(machine, low, 'hoist.wraps')),
    );
  });
});
