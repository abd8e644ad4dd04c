import { describe, expect, it } from 'vitest';
import {
  buildMachine,
  type Desk,
  deskSchema,
  type MachineState,
  readingOf,
  runMachine,
  startMachine,
  TICKS,
} from './index';

/** A bench for components: switches by name, each off until it is put on. */
function bench(switches: readonly string[], components: Desk['components']) {
  const machine = buildMachine(
    deskSchema.parse({
      places: [{ id: 'here', name: 'Here' }],
      controls: switches.map((id) => ({
        id,
        at: 'here',
        name: id,
        kind: 'selector',
        positions: ['off', 'on'],
        start: 'off',
      })),
      components,
    }),
  );
  let state = startMachine(machine);
  return {
    /** Goes on some seconds, with switches put first. */
    run(seconds: number, put: Readonly<Record<string, 'on' | 'off'>> = {}): MachineState {
      const log = Object.entries(put).map(([control, to]) => ({
        tick: state.tick + 1,
        act: { kind: 'set' as const, control, to },
      }));
      state = runMachine(machine, state, log, state.tick + Math.round(seconds * TICKS));
      return state;
    },
    scene(name: string, to: string): void {
      state = runMachine(
        machine,
        state,
        [{ tick: state.tick + 1, act: { kind: 'scene', name, to } }],
        state.tick + 1,
      );
    },
    figure: (name: string) => readingOf(machine, state, name) as number,
    reads: (name: string) => readingOf(machine, state, name),
  };
}

describe('a generating set', () => {
  const set = (more: object = {}) =>
    bench(
      ['run', 'pump', 'fan'],
      [
        { kind: 'engine', runsWhen: 'run = on', fuel: 'diesel' },
        {
          kind: 'loads',
          firstWhen: 'pump = on',
          secondWhen: 'fan = on',
          starts: [210, 65],
          runs: [75, 30],
          rating: 300,
        },
        { kind: 'alternator', volts: 480, hz: 60, dipPercent: 15, recoverSeconds: 3, ...more },
      ],
    );

  it('comes up to its voltage and frequency, and falls to nothing when it stops', () => {
    const own = set();
    own.run(10, { run: 'on' });
    expect(own.figure('alternator.volts')).toBeCloseTo(480, 0);
    expect(own.figure('alternator.hz')).toBeCloseTo(60, 1);
    own.run(20, { run: 'off' });
    expect(own.figure('alternator.hz')).toBeLessThan(0.01);
  });

  it('takes the starting power of a load first, dips, and is back in its time', () => {
    const own = set();
    own.run(20, { run: 'on' });
    own.run(0.1, { pump: 'on' });
    expect(own.figure('loads.total')).toBe(210);
    // 15 % of the voltage for the whole rating at once; 210 of 300 is 10.5 %.
    expect(own.figure('alternator.volts')).toBeGreaterThan(480 * (1 - 0.105) - 1);
    expect(own.figure('alternator.volts')).toBeLessThan(480 * 0.92);
    own.run(3);
    expect(own.figure('loads.total')).toBe(75);
    expect(own.figure('alternator.volts')).toBeGreaterThan(480 * 0.99);
  });

  it('settles lower by its droop: 4 % of 60 Hz is 2.4 Hz at full load, half of it at half load', () => {
    const own = bench(
      ['run', 'heaters'],
      [
        { kind: 'engine', runsWhen: 'run = on' },
        { kind: 'loads', firstWhen: 'heaters = on', starts: [150], runs: [150], rating: 300 },
        { kind: 'alternator', volts: 480, hz: 60, droopPercent: 4 },
      ],
    );
    own.run(20, { run: 'on', heaters: 'on' });
    expect(own.figure('alternator.hz')).toBeCloseTo(60 - 1.2, 2);
  });

  it('labours where more starts than it can carry', () => {
    const own = bench(
      ['run', 'a', 'b'],
      [
        { kind: 'engine', runsWhen: 'run = on' },
        {
          kind: 'loads',
          firstWhen: 'a = on',
          secondWhen: 'b = on',
          starts: [210, 210],
          runs: [75, 75],
          rating: 300,
        },
        { kind: 'alternator', volts: 480, hz: 60 },
      ],
    );
    own.run(20, { run: 'on' });
    own.run(2, { a: 'on', b: 'on' });
    expect(own.figure('alternator.hz')).toBeLessThan(57);
    own.run(20);
    expect(own.figure('alternator.hz')).toBeCloseTo(60, 1);
  });

  it('lets the engine cool before it stops it', () => {
    const own = bench(
      ['run', 'stop'],
      [
        { kind: 'controller', runWhen: 'run = on', stopWhen: 'stop = on', coolDown: '60 s' },
        { kind: 'engine', runsWhen: 'controller.wanted or controller.cooling' },
      ],
    );
    own.run(5, { run: 'on' });
    own.run(1, { run: 'off' });
    expect(own.reads('engine.running')).toBe(true);
    own.run(58, { stop: 'on' });
    expect([own.reads('controller.cooling'), own.reads('engine.running')]).toEqual([true, true]);
    own.run(5);
    expect([own.reads('controller.cooling'), own.reads('engine.running')]).toEqual([false, false]);
  });
});

describe('what lifts', () => {
  it('has as many wraps as its hook is high, and stops at its upper limit while that works', () => {
    const own = bench(
      ['up', 'down', 'dead'],
      [
        {
          kind: 'hoist',
          raisedWhen: 'up = on',
          loweredWhen: 'down = on',
          limitWhen: 'dead = off',
          top: 8,
          start: 6,
          slowMetresPerSecond: 0.5,
          wrapsAtTop: 14,
          wrapsAtFloor: 3,
        },
      ],
    );
    own.run(1);
    // From 3 wraps at the floor to 14 at 8 m: 3 + 11 x 6 / 8.
    expect(own.figure('hoist.wraps')).toBeCloseTo(11.25, 9);
    own.run(10, { up: 'on' });
    expect(own.figure('hoist.height')).toBeCloseTo(7.5, 9);
    expect(own.reads('hoist.upperLimit')).toBe(true);
    own.run(10, { dead: 'on' });
    expect(own.figure('hoist.height')).toBe(8);
    own.run(60, { up: 'off', down: 'on' });
    expect(own.figure('hoist.wraps')).toBeCloseTo(3, 9);
  });

  it('keeps a boom inside its envelope, which is tighter for the higher capacity', () => {
    const own = bench(
      ['up', 'down', 'out', 'in', 'high'],
      [
        {
          kind: 'boom',
          raisedWhen: 'up = on',
          loweredWhen: 'down = on',
          extendedWhen: 'out = on',
          retractedWhen: 'in = on',
          highWhen: 'high = on',
          highestDegrees: 75,
          stroke: '900 cm',
          raiseSeconds: 60,
          extendSeconds: 90,
          envelopeLow: [
            [10, 62],
            [60, 100],
          ],
          envelopeHigh: [
            [10, 45],
            [60, 88],
          ],
        },
      ],
    );
    own.run(200, { out: 'on' });
    expect(own.figure('boom.length')).toBeCloseTo(9 * 0.62, 6);
    expect([own.reads('boom.atStop'), own.reads('boom.insideHigh')]).toEqual([true, false]);
    own.run(60, { out: 'off', up: 'on' });
    own.run(200, { up: 'off', out: 'on' });
    expect(own.figure('boom.length')).toBeCloseTo(9, 6);
    // Lowering stops where it is out too far.
    own.run(60, { out: 'off', down: 'on' });
    expect(own.figure('boom.angle')).toBeGreaterThan(59);
    own.run(100, { in: 'on' });
    expect(own.figure('boom.angle')).toBe(0);
    own.run(200, { down: 'off', in: 'off', out: 'on', high: 'on' });
    expect(own.figure('boom.length')).toBeCloseTo(9 * 0.45, 6);
  });

  it('rests columns on their locks unless these are drawn', () => {
    const own = bench(
      ['up', 'down', 'release'],
      [
        {
          kind: 'columns',
          raisedWhen: 'up = on',
          loweredWhen: 'down = on',
          locksDrawnWhen: 'release = on',
          movesWhen: 'not (up = on and down = on)',
          metresPerSecond: 0.025,
          top: '175 cm',
          lockStep: '10 cm',
        },
      ],
    );
    own.run(10, { up: 'on' });
    expect(own.figure('columns.heights')).toBeCloseTo(0.25, 9);
    expect(own.reads('columns.locked')).toBe(false);
    own.run(20, { up: 'off', down: 'on' });
    expect(own.figure('columns.heights')).toBeCloseTo(0.2, 9);
    expect(own.reads('columns.locked')).toBe(true);
    own.run(4, { release: 'on' });
    expect(own.figure('columns.heights')).toBeCloseTo(0.1, 9);
    own.run(20);
    expect(own.figure('columns.heights')).toBe(0);
  });

  it('turns a turret the other way where it is wired so, and says when it is in line', () => {
    const own = bench(['left'], [{ kind: 'turret', leftWhen: 'left = on', degreesPerSecond: 6 }]);
    own.run(10, { left: 'on' });
    expect(own.figure('turret.angle')).toBeCloseTo(300, 6);
    expect([own.reads('turret.turning'), own.reads('turret.turned')]).toEqual(['left', 'across']);
    own.scene('turret.swapped', 'yes');
    own.run(9.9);
    expect(own.reads('turret.turning')).toBe('right');
    expect(own.figure('turret.angle') % 360).toBeCloseTo(0, 6);
    own.run(1, { left: 'off' });
    expect(own.reads('turret.turned')).toBe('in-line');
  });
});

describe('what is held, filled or left over', () => {
  it('pairs a radio when its button comes neither too soon nor too late after the guard, and loses it without power', () => {
    const own = bench(
      ['power', 'guard', 'button'],
      [
        {
          kind: 'radio-link',
          armedWhen: 'guard = on',
          pairedWhen: 'button = on',
          poweredWhen: 'power = on',
          least: '3 s',
          most: '5 s',
        },
      ],
    );
    for (const [seconds, paired] of [
      [2, false],
      [6, false],
      [4, true],
    ] as const) {
      own.run(1, { power: 'on', guard: 'off', button: 'off' });
      own.run(seconds, { guard: 'on' });
      own.run(0.1, { button: 'on' });
      own.run(1, { button: 'off' });
      expect([seconds, own.reads('radio-link.paired')]).toEqual([seconds, paired]);
    }
    own.run(1, { power: 'off' });
    expect(own.reads('radio-link.paired')).toBe(false);
  });

  it('fills air brakes in their time and sounds the buzzer below its pressure', () => {
    const own = bench(
      ['run', 'leak'],
      [
        { kind: 'engine', runsWhen: 'run = on' },
        { kind: 'air-brakes', fillSeconds: 240, fullBar: 8, buzzerBelow: '4 bar', leaksWhen: 'leak = on' },
      ],
    );
    own.run(100, { run: 'on' });
    expect(own.figure('air-brakes.bar')).toBeCloseTo(3.33, 1);
    expect(own.reads('air-brakes.buzzer')).toBe(true);
    own.run(150);
    expect([own.figure('air-brakes.bar'), own.reads('air-brakes.buzzer')]).toEqual([8, false]);
    own.run(60, { run: 'off', leak: 'on' });
    expect(own.figure('air-brakes.bar')).toBeCloseTo(7.6, 6);
  });

  it('lets blades run down, and pressure stay until the wheel was turned', () => {
    const own = bench(
      ['run', 'blades', 'left', 'right'],
      [
        { kind: 'engine', runsWhen: 'run = on' },
        { kind: 'cutter', engagedWhen: 'engine.running and blades = on', rundownSeconds: 5 },
        { kind: 'steering', leftWhen: 'left = on', rightWhen: 'right = on', turnsToRelieve: 2 },
      ],
    );
    own.run(5, { run: 'on', blades: 'on' });
    own.run(4, { run: 'off' });
    expect([own.reads('cutter.engaged'), own.reads('cutter.spinning')]).toEqual([false, true]);
    own.run(2);
    expect(own.reads('cutter.spinning')).toBe(false);
    expect(own.figure('steering.residual')).toBe(2);
    own.run(2, { left: 'on' });
    own.run(2, { left: 'off', right: 'on' });
    expect(own.figure('steering.residual')).toBe(0);
  });

  it('tests a drive before it is ready, and takes hold again some time after it let go', () => {
    const own = bench(
      ['power', 'lever', 'brake'],
      [
        {
          kind: 'traction',
          readyWhen: 'power = on',
          seconds: 3,
          movesWhen: 'lever = on',
          droppedWhen: 'brake = on',
          takeUpSeconds: 1,
        },
      ],
    );
    own.run(2, { power: 'on', lever: 'on' });
    expect([own.reads('traction.selfTest'), own.reads('traction.moving')]).toEqual([true, false]);
    own.run(2);
    expect([own.reads('traction.ready'), own.reads('traction.moving')]).toEqual([true, true]);
    own.run(1, { brake: 'on' });
    expect(own.reads('traction.moving')).toBe(false);
    own.run(0.5, { brake: 'off' });
    expect(own.reads('traction.moving')).toBe(false);
    own.run(1);
    expect(own.reads('traction.moving')).toBe(true);
  });

  it('fires a cord start after its pulls, and floods one that is choked too long', () => {
    const own = bench(
      ['cord', 'choke'],
      [
        {
          kind: 'pull-start',
          pulledWhen: 'cord = on',
          chokedWhen: 'choke = on',
          pulls: 2,
          coldPulls: 6,
          floodsAfter: 8,
        },
        {
          kind: 'engine',
          warmMinutes: 1,
          fuel: 'petrol',
          stopsWhen: 'choke = on and pull-start.strokes >= 100',
        },
      ],
    );
    const pull = () => {
      own.run(0.5, { cord: 'on' });
      own.run(0.5, { cord: 'off' });
    };
    own.run(1, { choke: 'on' });
    pull();
    expect(own.reads('engine.running')).toBe(false);
    pull();
    expect(own.reads('engine.running')).toBe(true);
    const cold = bench(
      ['cord'],
      [
        { kind: 'pull-start', pulledWhen: 'cord = on', primedWhen: 'cord = off', pulls: 2, coldPulls: 4 },
        { kind: 'engine', fuel: 'petrol' },
      ],
    );
    for (let i = 0; i < 3; i++) {
      cold.run(0.5, { cord: 'on' });
      cold.run(0.5, { cord: 'off' });
    }
    expect(cold.reads('engine.running')).toBe(false);
    cold.run(0.5, { cord: 'on' });
    expect(cold.reads('engine.running')).toBe(true);
  });
});
