import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { judge, session } from '../procedure';
import { seededRandom } from '../statistics';
import { shippedClasses, shippedPack } from '../testing';
import {
  dealDesk,
  dealtMachine,
  type DeskAct,
  deskProcedures,
  machineOf,
  judgeDesk,
  type LoggedAct,
  type Machine,
  type MachineState,
  programsOf,
  readingOf,
  recognise,
  runMachine,
  startMachine,
  tickMachine,
  workThrough,
} from './index';

/** Every class in every variant, with its usual fit-out. */
const machines: [string, Machine][] = shippedClasses().flatMap((id) => {
  const pack = shippedPack(id);
  return pack.variants.map((variant): [string, Machine] => [
    `${id}, ${variant.id}`,
    machineOf(compose(pack, { variant: variant.id }))!,
  ]);
});

/** Acts at random, some of them out of reach. */
function randomLog({ desk }: Machine, seed: number, ticks: number): LoggedAct[] {
  const random = seededRandom(seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
  return Array.from({ length: 60 }, () => {
    const control = pick(desk.controls);
    const acts: DeskAct[] = [
      { kind: 'go', place: pick(desk.places).id },
      control.positions
        ? { kind: 'set', control: control.id, to: pick(control.positions) }
        : control.kind === 'pedal'
          ? { kind: 'pedal', control: control.id, to: random() }
          : control.kind === 'hold'
            ? { kind: random() < 0.6 ? 'hold' : 'release', control: control.id }
            : { kind: 'press', control: control.id },
    ];
    return { tick: 1 + Math.floor(random() * ticks), act: pick(acts) };
  });
}

describe('the desk of every class', () => {
  it('is there', () => {
    expect(machines.length).toBeGreaterThan(shippedClasses().length);
  });

  it.each(machines)(
    'of %s starts at rest: nothing runs, nothing moves, nothing is forbidden',
    (_, machine) => {
      const state = runMachine(machine, startMachine(machine), [], 20);
      for (const name of ['engine.running', 'traction.moving', 'cutter.spinning', 'horn.on'])
        if (machine.vocabulary.get(name)?.kind === 'truth')
          expect([name, readingOf(machine, state, name)]).toEqual([name, false]);
    },
  );

  it.each(machines)(
    'of %s gives the same states again, also kept and taken up, and none leaves its range',
    (_, machine) => {
      for (const seed of [1, 2]) {
        const log = randomLog(machine, seed, 300);
        const byTick = new Map<number, DeskAct[]>();
        for (const { tick, act } of log) byTick.set(tick, [...(byTick.get(tick) ?? []), act]);
        let state = startMachine(machine);
        let kept: MachineState | null = null;
        while (state.tick < 300) {
          state = tickMachine(machine, state, byTick.get(state.tick + 1));
          if (state.tick === 137) kept = JSON.parse(JSON.stringify(state)) as MachineState;
          machine.ranges.forEach((range, n) => {
            const value = state.readings[n];
            if (range && !(typeof value === 'number' && value >= range[0] && value <= range[1]))
              throw new Error(`${machine.compiler.names[n]} is ${String(value)} in tick ${state.tick}`);
          });
        }
        expect(runMachine(machine, startMachine(machine), log, 300)).toEqual(state);
        expect(runMachine(machine, kept!, log, 300)).toEqual(state);
      }
    },
  );

  it.each(machines)('of %s: no control works from elsewhere', (_, machine) => {
    const start = startMachine(machine);
    const here = String(readingOf(machine, start, 'place'));
    const helpers = new Set(machine.desk.places.filter((each) => each.helper).map((each) => each.id));
    for (const control of machine.desk.controls) {
      // What stands with a helper is worked by calling to them.
      if ([control.at].flat().some((place) => place === here || helpers.has(place))) continue;
      const to = control.positions?.find((each) => each !== readingOf(machine, start, control.id));
      const act: DeskAct = to
        ? { kind: 'set', control: control.id, to }
        : control.kind === 'pedal'
          ? { kind: 'pedal', control: control.id, to: 1 }
          : control.kind === 'hold'
            ? { kind: 'hold', control: control.id }
            : { kind: 'press', control: control.id };
      expect([control.id, tickMachine(machine, start, [act])]).toEqual([
        control.id,
        tickMachine(machine, start),
      ]);
    }
  });
});

/** Every program of every class in its first variant. */
const programs = shippedClasses().flatMap((id) => {
  const pack = shippedPack(id);
  const effective = compose(pack, { variant: pack.variants[0]!.id });
  return programsOf(effective)
    .filter((each) => each !== 'free')
    .map((program) => [id, program, effective] as const);
});

/** Start, function tests and stop of a class, done as they are meant and recognised again. */
function carriedOut(id: string, variant: string) {
  const pack = compose(shippedPack(id), { variant });
  const machine = machineOf(pack)!;
  const ids = deskProcedures(pack).map((each) => each.id);
  const steps = session(pack, ids);
  const work = workThrough(machine, steps);
  const { trace, state } = recognise(machine, pack, steps, work.log, work.state.tick);
  return { work, state, trace, judgement: judge(pack, ids, trace) };
}

describe('a right operator at the desk', () => {
  it.each(shippedClasses().flatMap((id) => shippedPack(id).variants.map((each) => [id, each.id] as const)))(
    'of %s, %s has 100 and no deviation, and the log replayed gives the same state',
    (id, variant) => {
      const { work, state, judgement } = carriedOut(id, variant);
      expect(work.problems).toEqual([]);
      expect(judgement.score).toBe(100);
      expect(judgement.rules).toEqual([]);
      expect(judgement.steps.filter((each) => each.due && each.state !== 'done')).toEqual([]);
      expect(
        judgement.steps.flatMap((each) => each.times).filter((each) => each.verdict === 'broken'),
      ).toEqual([]);
      expect(state).toEqual(work.state);
    },
  );

  it.each(programs)(
    'of %s finds the machine for "%s" as it should be, and does it right',
    (_, program, pack) => {
      const machine = machineOf(pack)!;
      const deal = dealDesk(pack, machine, program, { surprise: false, seed: 1 });
      const { log, problems, state } = workThrough(
        machine,
        session(pack, deal.procedures),
        dealtMachine(machine, deal),
      );
      const { result } = judgeDesk(pack, machine, deal, log, state.tick);
      expect(problems).toEqual([]);
      expect([result.score, result.critical, result.breaches, result.reactions]).toEqual([100, 0, [], []]);
    },
  );

  it('has something go wrong in every class, and whoever goes on as if nothing had happened hardly ever handles it', () => {
    let handled = 0;
    for (const [id, program, pack] of programs) {
      const machine = machineOf(pack)!;
      const deal = dealDesk(pack, machine, program, { surprise: true, seed: 7 });
      const blind = dealtMachine(machine, { ...deal, failures: [] });
      const { log, state } = workThrough(machine, session(pack, deal.procedures), blind);
      const { result } = judgeDesk(pack, machine, deal, log, state.tick);
      expect([id, program, deal.failures.length, result.failed]).toEqual([id, program, 1, 1]);
      handled += result.handled;
    }
    expect(handled / programs.length).toBeLessThan(0.1);
  }, 120_000);

  it('is told what was left out, done too soon, and done in the wrong order', () => {
    const id = 'wheel-loader';
    const pack = compose(shippedPack(id), { variant: 'diesel' });
    const machine = machineOf(pack)!;
    const startup = pack.procedures.find((each) => each.kind === 'startup')!;
    const steps = session(pack, [startup.id]);
    const { log, state } = workThrough(machine, steps);
    const judged = (changed: readonly LoggedAct[]) =>
      judge(pack, [startup.id], recognise(machine, pack, steps, changed, state.tick).trace);
    const stateOf = (changed: readonly LoggedAct[], step: string) =>
      judged(changed).steps.find((each) => each.step.id === step)!.state;
    expect(judged(log).score).toBe(100);
    const belt = log.findIndex(({ act }) => act.kind === 'set' && act.control === 'belt');
    expect(
      stateOf(
        log.filter((_, i) => i !== belt),
        'wl-su-07',
      ),
    ).toBe('skipped');
    // The belt after everything else: it was to be fastened before the engine was started.
    const late = [...log.filter((_, i) => i !== belt), { ...log[belt]!, tick: state.tick - 1 }];
    expect(stateOf(late, 'wl-su-07')).toBe('out-of-order');
    expect(judged(late).score!).toBeLessThan(100);
  });
});
