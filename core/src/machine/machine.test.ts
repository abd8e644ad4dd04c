import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  actProblem,
  buildMachine,
  COMPONENT_KINDS,
  type DeskAct,
  DeskError,
  deskSchema,
  type LoggedAct,
  type MachineState,
  perceived,
  readingOf,
  runMachine,
  startMachine,
  TICKS,
  tickMachine,
} from './index';

/** A small loader: enough of one to be started, warmed, lifted with and stopped. */
const LOADER = deskSchema.parse({
  places: [
    { id: 'ground', name: 'Beside the machine', from: ['cab'], by: 'climb-down' },
    { id: 'cab', name: 'In the seat', from: ['ground'], by: 'climb-up' },
  ],
  controls: [
    {
      id: 'isolator',
      at: 'ground',
      name: 'Isolator',
      kind: 'selector',
      positions: ['off', 'on'],
      start: 'on',
    },
    { id: 'key', at: 'cab', name: 'Key', kind: 'selector', positions: ['out', 'off', 'on'], start: 'out' },
    { id: 'start', at: 'cab', name: 'Starter button', kind: 'hold' },
    { id: 'gear', at: 'cab', name: 'Gear', kind: 'selector', positions: ['R', 'N', 'D'], start: 'N' },
    {
      id: 'park-brake',
      at: 'cab',
      name: 'Parking brake',
      kind: 'selector',
      positions: ['off', 'on'],
      start: 'on',
    },
    { id: 'pedal', at: 'cab', name: 'Accelerator', kind: 'pedal' },
    {
      id: 'lever',
      at: 'cab',
      name: 'Arm lever',
      kind: 'lever',
      positions: ['back', 'centre', 'forward'],
      springs: 'centre',
    },
    { id: 'horn-button', at: 'cab', name: 'Horn', kind: 'press' },
  ],
  looks: [{ id: 'look-round', at: 'cab', name: 'Look all round' }],
  shows: [
    {
      id: 'oil-gauge',
      at: 'cab',
      kind: 'gauge',
      name: 'Oil pressure',
      value: 'engine.oilPressure',
      unit: 'bar',
    },
    { id: 'note', at: ['cab', 'ground'], kind: 'sound', name: 'The engine runs', when: 'engine.running' },
    {
      id: 'buzzer',
      at: 'cab',
      kind: 'sound',
      name: 'Buzzer',
      when: '(engine.running and engine.oilPressure < 1 bar) for 6 s',
    },
  ],
  states: [
    { id: 'oil-lost', start: 'no', says: 'The oil pressure is lost' },
    { id: 'slope', start: 'level', values: ['level', 'down'], says: 'What it stands on' },
  ],
  components: [
    { kind: 'ignition', onWhen: 'key = on' },
    {
      kind: 'starter',
      turnedWhen: 'key = on and start',
      allowedWhen: 'gear = N and isolator = on',
      limit: '10 s',
      rest: '30 s',
    },
    {
      kind: 'engine',
      stopsWhen: 'not key = on or isolator = off',
      oilLostWhen: 'oil-lost = yes',
      loadedWhen: 'bucket.moving or traction.moving',
      warmMinutes: 5,
      oilSeconds: 5,
    },
    { kind: 'turbo', coolMinutes: 3 },
    { kind: 'purge', seconds: 90 },
    {
      kind: 'traction',
      allowedWhen: 'engine.running and park-brake = off',
      movesWhen: 'pedal and gear != N',
      rollsWhen: 'slope = down and gear = N and park-brake = off',
    },
    { kind: 'hydraulics', strokesToRelieve: 2, workedWhen: 'lever != centre' },
    {
      kind: 'attachment',
      id: 'bucket',
      raisedWhen: 'lever = back',
      loweredWhen: 'lever = forward',
      raiseSeconds: 6,
      most: '4 m',
    },
    { kind: 'park-brake', onWhen: 'park-brake = on' },
    { kind: 'people' },
  ],
  rules: [
    { when: 'engine.running and oil-lost = yes', then: ['slope = down after 3 s'], says: 'for the test' },
  ],
  forbidden: {
    X1: { when: 'starter.turning > 10 s' },
    X2: { when: 'not key = on and engine.sinceLoad < 180 s and done(look-round)' },
    X3: { notHere: 'A desk carries nobody' },
  },
});
const machine = buildMachine(LOADER);
const S = TICKS;
const at = (seconds: number, act: DeskAct): LoggedAct => ({ tick: Math.round(seconds * S), act });
const STARTED: LoggedAct[] = [
  at(1, { kind: 'go', place: 'cab' }),
  at(2, { kind: 'set', control: 'key', to: 'on' }),
  at(3, { kind: 'hold', control: 'start' }),
  at(5, { kind: 'release', control: 'start' }),
];
const run = (log: readonly LoggedAct[], seconds: number, from = startMachine(machine)) =>
  runMachine(machine, from, log, Math.round(seconds * S));
const reads = (state: MachineState, name: string) => readingOf(machine, state, name);

describe('a machine at the desk', () => {
  it('starts with the key and the starter, and stops with the key', () => {
    expect(reads(run(STARTED, 3.5), 'engine.running')).toBe(false);
    const running = run(STARTED, 5);
    expect(reads(running, 'engine.running')).toBe(true);
    expect(reads(running, 'starter.turning')).toBe(0);
    const stopped = run([...STARTED, at(20, { kind: 'set', control: 'key', to: 'off' })], 21);
    expect(reads(stopped, 'engine.running')).toBe(false);
    expect(reads(stopped, 'purge.lit')).toBe(true);
    expect(reads(run([], 120, { ...stopped, tick: 0 }), 'purge.lit')).toBe(false);
  });

  it('does not turn in gear or with the isolator off, and counts tries and rest', () => {
    const inGear = [
      ...STARTED.slice(0, 2),
      at(2.5, { kind: 'set', control: 'gear', to: 'D' }),
      ...STARTED.slice(2),
    ];
    expect(reads(run(inGear, 8), 'engine.running')).toBe(false);
    const short = [0, 1].flatMap((n) => [
      at(3 + 4 * n, { kind: 'hold', control: 'start' }),
      at(3.5 + 4 * n, { kind: 'release', control: 'start' }),
    ]);
    const tried = run([...STARTED.slice(0, 2), ...short], 12);
    expect(reads(tried, 'starter.tries')).toBe(2);
    expect(reads(tried, 'starter.rest') as number).toBeCloseTo(4.6, 6);
  });

  it('reaches its temperature and oil pressure when its parameters say, by the closed form', () => {
    // I. Newton's law of cooling: T(t) = T_end + (T_0 - T_end) e^(-t / tau), here to 70 of 88 °C from 15 in 5 min.
    const begun = run(STARTED, 4);
    const from = reads(begun, 'engine.coolant') as number;
    const tau = 300 / Math.log((88 - 15) / (88 - 70));
    for (const seconds of [30, 120, 299, 600]) {
      const coolant = reads(run(STARTED, 4 + seconds), 'engine.coolant') as number;
      expect(coolant).toBeCloseTo(88 + (from - 88) * Math.exp(-seconds / tau), 4);
    }
    const fired = Array.from({ length: 400 }, (_, t) => run(STARTED, t / S)).find(
      (each) => reads(each, 'engine.running') === true,
    )!;
    const oil = (seconds: number) =>
      reads(run(STARTED, fired.tick / S + seconds), 'engine.oilPressure') as number;
    expect(oil(4.7)).toBeLessThan(3);
    expect(oil(5)).toBeGreaterThanOrEqual(2.99);
    expect(oil(1.2)).toBeGreaterThan(1);
    expect(reads(run(STARTED, fired.tick / S + 290), 'engine.warm')).toBe(false);
    expect(reads(run(STARTED, fired.tick / S + 301), 'engine.warm')).toBe(true);
  });

  it('lifts while the lever is held, which springs back, and not with the engine off', () => {
    const lift = [
      ...STARTED,
      at(10, { kind: 'set', control: 'lever', to: 'back' }),
      at(13, { kind: 'release', control: 'lever' }),
    ];
    const up = run(lift, 14);
    expect(reads(up, 'bucket.height') as number).toBeCloseTo(2, 9);
    expect(reads(up, 'lever')).toBe('centre');
    expect(reads(up, 'turbo.hot')).toBe(true);
    const cold = run(
      [at(1, { kind: 'go', place: 'cab' }), at(2, { kind: 'set', control: 'lever', to: 'back' })],
      9,
    );
    expect(reads(cold, 'bucket.height')).toBe(0);
  });

  it('lets go of everything when one leaves, and nothing works from elsewhere', () => {
    const left = [
      ...STARTED,
      at(10, { kind: 'set', control: 'lever', to: 'back' }),
      at(11, { kind: 'go', place: 'ground' }),
    ];
    const state = run(left, 15);
    expect(reads(state, 'lever')).toBe('centre');
    expect(actProblem(machine, state, { kind: 'set', control: 'key', to: 'off' })).toBe(
      'Key is out of reach from here; it is at: In the seat.',
    );
    const same = tickMachine(machine, state, [{ kind: 'set', control: 'key', to: 'off' }]);
    expect(same).toEqual(tickMachine(machine, state));
    expect(actProblem(machine, state, { kind: 'look', look: 'look-round' })).toContain('out of reach');
  });

  it('shows what can be perceived from where one stands, and no more', () => {
    const seated = run(STARTED, 20);
    expect(perceived(machine, seated)).toEqual([
      { id: 'oil-gauge', name: 'Oil pressure', kind: 'gauge', value: expect.closeTo(3.95, 1) as number },
      { id: 'note', name: 'The engine runs', kind: 'sound', value: null },
    ]);
    const outside = run([...STARTED, at(20, { kind: 'go', place: 'ground' })], 21);
    expect(perceived(machine, outside).map((each) => each.id)).toEqual(['note']);
    const failing = run([...STARTED, at(20, { kind: 'scene', name: 'oil-lost', to: 'yes' })], 28);
    expect(perceived(machine, failing).map((each) => each.id)).toContain('buzzer');
  });

  it('works rules when their time is over, and not before', () => {
    const log = [...STARTED, at(20, { kind: 'scene', name: 'oil-lost', to: 'yes' })];
    expect(reads(run(log, 22.9), 'slope')).toBe('level');
    expect(reads(run(log, 23), 'slope')).toBe('down');
    const mended = [...log, at(22, { kind: 'scene', name: 'oil-lost', to: 'no' })];
    expect(reads(run(mended, 30), 'slope')).toBe('level');
  });

  it('writes down what is forbidden, from when and for how long', () => {
    const long = [...STARTED.slice(0, 2), at(2.5, { kind: 'scene', name: 'slope', to: 'level' })];
    const cranks = buildMachine({
      ...LOADER,
      components: LOADER.components.map((each) =>
        each.kind === 'engine' ? { ...each, firesWhen: 'oil-lost = yes' } : each,
      ),
    });
    const state = runMachine(
      cranks,
      startMachine(cranks),
      [...long, at(3, { kind: 'hold', control: 'start' }), at(16, { kind: 'release', control: 'start' })],
      20 * S,
    );
    expect(state.breaches).toHaveLength(1);
    const [breach] = state.breaches;
    expect(breach!.id).toBe('X1');
    expect((breach!.to! - breach!.from) / S).toBeCloseTo(3, 1);
    expect(run(STARTED, 20).breaches).toEqual([]);
  });

  it('refuses acts that make no sense, each with its reason', () => {
    const state = run(STARTED, 8);
    for (const [act, says] of [
      [{ kind: 'go', place: 'roof' }, 'no place'],
      [{ kind: 'set', control: 'key', to: 'sideways' }, 'not worked like that'],
      [{ kind: 'hold', control: 'key' }, 'not worked like that'],
      [{ kind: 'pedal', control: 'pedal', to: 2 }, 'not worked like that'],
      [{ kind: 'press', control: 'none' }, 'no control'],
      [{ kind: 'look', look: 'none' }, 'no "none"'],
      [{ kind: 'scene', name: 'slope', to: 'sideways' }, 'cannot be'],
    ] as const)
      expect([act, actProblem(machine, state, act)]).toEqual([act, expect.stringContaining(says)]);
    expect(actProblem(machine, state, { kind: 'press', control: 'horn-button' })).toBeNull();
  });
});

describe('a desk that does not hold together', () => {
  const wrong = (change: object) => {
    try {
      buildMachine(deskSchema.parse({ ...LOADER, ...change }));
    } catch (error) {
      if (error instanceof DeskError)
        return error.problems.map((each) => `${each.path.join('.')}: ${each.message}`);
      throw error;
    }
    return [];
  };
  it('is refused with every fault in its place, and what was meant', () => {
    expect(
      wrong({
        components: [
          { kind: 'engin' },
          { kind: 'starter', turnedBy: 'key = on' },
          { kind: 'ignition', onWhen: 'kee = on' },
          { kind: 'turbo', coolMinutes: 3 },
          { kind: 'turbo', coolMinutes: 3 },
        ],
        shows: [],
        rules: [{ when: 'key = on', then: ['gear = X', 'sideways'], says: 'x' }],
        forbidden: {},
      }),
    ).toEqual([
      'components.0.kind: there is no component "engin"; "engine" is meant?',
      expect.stringMatching(/^components\.1\.turnedWhen: /),
      expect.stringMatching(/^components\.1: .*turnedBy/),
      'components.4: there is a "turbo.hot" already',
      'components.2.onWhen: there is no "kee"; "key" is meant? (letter 1 of "kee = on")',
      'rules.0.then.0: "gear" cannot be "X"; "gear" is meant?',
      'rules.0.then.1: "sideways" is not "name = value", at once or "after 3 s"',
    ]);
  });

  it('reads as false what this machine is not fitted with', () => {
    const bare = buildMachine(
      {
        ...LOADER,
        components: LOADER.components.filter((each) => each.kind !== 'purge'),
        forbidden: { X9: { when: 'purge.lit or not purge.lit = yes' } },
      },
      { names: ['purge.lit'], places: [], ways: [] },
    );
    expect(startMachine(bare).breaches).toMatchObject([{ id: 'X9', to: null }]);
  });
});

describe('whatever is done', () => {
  const acts: fc.Arbitrary<DeskAct> = fc.oneof(
    fc.constantFrom<DeskAct>({ kind: 'go', place: 'cab' }, { kind: 'go', place: 'ground' }),
    fc.constantFrom(
      ...LOADER.controls.flatMap((each): DeskAct[] =>
        each.positions
          ? each.positions.map((to) => ({ kind: 'set', control: each.id, to }))
          : [
              { kind: 'hold', control: each.id },
              { kind: 'release', control: each.id },
              { kind: 'press', control: each.id },
              { kind: 'pedal', control: each.id, to: 0.5 },
            ],
      ),
    ),
    fc.constantFrom<DeskAct>(
      { kind: 'look', look: 'look-round' },
      { kind: 'scene', name: 'oil-lost', to: 'yes' },
      { kind: 'scene', name: 'slope', to: 'down' },
    ),
  );
  const logs = fc.array(fc.tuple(fc.integer({ min: 1, max: 400 }), acts), { maxLength: 40 });

  it('gives the same states again, also split at any point and taken up from what was kept', () => {
    fc.assert(
      fc.property(logs, fc.integer({ min: 0, max: 400 }), (log, split) => {
        const done = log.map(([tick, act]) => ({ tick, act }));
        const whole = runMachine(machine, startMachine(machine), done, 400);
        const half = runMachine(machine, startMachine(machine), done, split);
        const kept = JSON.parse(JSON.stringify(half)) as MachineState;
        expect(runMachine(buildMachine(LOADER), kept, done, 400)).toEqual(whole);
      }),
      { numRuns: 60 },
    );
  });

  it('no state leaves its range, and every figure stays one', () => {
    fc.assert(
      fc.property(logs, (log) => {
        let state = startMachine(machine);
        const byTick = new Map<number, DeskAct[]>();
        for (const [tick, act] of log) byTick.set(tick, [...(byTick.get(tick) ?? []), act]);
        for (let t = 1; t <= 400; t++) {
          state = tickMachine(machine, state, byTick.get(t));
          machine.ranges.forEach((range, n) => {
            const value = state.readings[n];
            if (range && !(typeof value === 'number' && value >= range[0] && value <= range[1]))
              throw new Error(`${machine.compiler.names[n]} is ${String(value)} in tick ${t}`);
          });
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('the kinds of components', () => {
  it('say what they are, and each parameter of theirs is one', () => {
    for (const [kind, each] of COMPONENT_KINDS) {
      expect([kind, each.says.length > 5]).toEqual([kind, true]);
      expect(Object.keys(each.parameters.shape).every((name) => /^[a-z][A-Za-z]+$/.test(name))).toBe(true);
    }
  });
});
