import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { type DeskAct, deskPackOf, type LoggedAct, placesOf, tickMachine, TICKS } from '../machine';
import { median, seededRandom } from '../statistics';
import { shippedClasses, shippedPack } from '../testing';
import { combinations } from './combinations';
import {
  answersAtDesk,
  type Call,
  callPlaces,
  CallWatch,
  type CommandDeal,
  commandResult,
  type Controls,
  controlsOf,
  dealCalls,
  dealPauses,
  fullRounds,
  isAnsweredByNothing,
  isReadyBy,
  reversalsOf,
  shortRounds,
  startControls,
  USUAL_STANDARD,
} from './index';

const every = shippedClasses().flatMap((id) => {
  const pack = shippedPack(id);
  return pack.variants.map(({ id: variant }): [string, Controls] => [
    `${id} ${variant}`,
    controlsOf(deskPackOf(compose(pack, { variant })))!,
  ]);
});
const loader = every.find(([name]) => name.startsWith('wheel-loader'))![1];
const reach = every.find(([name]) => name.startsWith('reach-truck'))![1];

const call = (id: string, control: string, opposite: string | null = null): Call => ({
  id,
  say: id,
  opposite,
  works: [control],
  control,
  controlName: control,
});
const times = (list: readonly string[]) => {
  const counts = new Map<string, number>();
  for (const each of list) counts.set(each, (counts.get(each) ?? 0) + 1);
  return counts;
};

/** What somebody does who knows the controls: whatever of them does not stand as it should is moved, the last one last. */
function answerTo(controls: Controls, { id, works }: Call, readings: readonly unknown[]): DeskAct[] {
  const { machine } = controls;
  const own = works.map((name) => machine.controls.get(name)!);
  const now = own.map((each) => readings[machine.numberOf(each.id)]);
  const ways = combinations(own).filter((values) => {
    const then = [...readings] as never[];
    own.forEach((each, i) => (then[machine.numberOf(each.id)] = values[i] as never));
    return controls.answers.get(id)!({ tick: 0, readings: then, memory: [] });
  });
  const changes = (values: readonly unknown[]) => values.filter((value, i) => value !== now[i]).length;
  const way = ways.sort((a, b) => changes(a) - changes(b))[0]!;
  const acts = own.flatMap((each, i): DeskAct[] => {
    const to = way[i]!;
    // What stands as it should is touched all the same when nothing else is to be moved.
    if (to === now[i] && changes(way) > 0) return [];
    if (each.kind === 'pedal') return [{ kind: 'pedal', control: each.id, to: Number(to) }];
    if (each.positions) return [{ kind: 'set', control: each.id, to: String(to) }];
    if (each.kind === 'hold') return [{ kind: to ? 'hold' : 'release', control: each.id }];
    return [{ kind: 'press', control: each.id }];
  });
  // Everything that would go back by itself is let go first, so that one answer is not the next one's mistake.
  return acts.sort((a, b) => Number(b.kind === 'release') - Number(a.kind === 'release'));
}

/** A set worked through at the desk: `answer` says what is done, so many ticks after the call. */
function worked(
  controls: Controls,
  deal: CommandDeal,
  answer: (call: Call, readings: readonly unknown[]) => { acts: DeskAct[]; after: number } | null,
): { log: LoggedAct[]; ticks: number } {
  const watch = new CallWatch(controls, deal, 2);
  const log: LoggedAct[] = [];
  let state = startControls(controls, deal.place);
  let plan: { acts: DeskAct[]; at: number } | null = null;
  let standing: Call | null = null;
  while (!watch.over) {
    const acts = plan && state.tick + 1 >= plan.at ? plan.acts : [];
    if (acts.length > 0) plan = null;
    // Between two calls whatever is held is let go.
    if (watch.current === null)
      for (const each of controls.machine.controls.values())
        if (each.kind === 'hold' || each.kind === 'lever' || each.kind === 'pedal')
          acts.push(...restOf(each.id, each.kind));
    log.push(...acts.map((act) => ({ tick: state.tick + 1, act })));
    const next = tickMachine(controls.machine, state, acts);
    watch.take(state, next, acts);
    state = next;
    if (watch.current && watch.current !== standing) {
      const does = answer(watch.current, state.readings);
      plan = does ? { acts: does.acts, at: state.tick + does.after } : null;
    }
    standing = watch.current;
  }
  return { log, ticks: state.tick };
}
const restOf = (control: string, kind: string): DeskAct[] =>
  kind === 'pedal' ? [{ kind: 'pedal', control, to: 0 }] : [{ kind: 'release', control }];

const setAt = (controls: Controls, seed: number): { deal: CommandDeal; calls: Call[] } => {
  const { place, calls: all } = callPlaces(controls)[0]!;
  const calls = all.filter((each) => !isAnsweredByNothing(controls, each));
  const dealt = dealCalls(calls, shortRounds(calls), seed);
  return { deal: { place, calls: dealt, pauses: dealPauses(dealt.length, seed) }, calls };
};

describe('the calls of every class', () => {
  it('are there, and every one can be made from some place', () => {
    expect(new Set(every.map(([name]) => name.split(' ')[0])).size).toBe(shippedClasses().length);
    for (const [name, controls] of every) {
      const anywhere = new Set(callPlaces(controls).flatMap((each) => each.calls.map((one) => one.id)));
      // A place with one single call makes no set; it is asked for in the steps.
      const alone = controls.calls.filter((each) => !anywhere.has(each.id)).length;
      expect([name, alone <= 8, anywhere.size >= 10]).toEqual([name, true, true]);
    }
  });

  it.each(every)(
    'of %s: every control equally often, no call after itself, every reversal in a full set',
    (_, controls) => {
      for (const { calls } of callPlaces(controls)) {
        const control = new Map(calls.map((each) => [each.id, each.control]));
        for (const rounds of [shortRounds(calls), fullRounds(calls)])
          for (const seed of [1, 2, 3, 4]) {
            if (control.size < 3 || new Set(control.values()).size < 2) continue;
            const set = dealCalls(calls, rounds, seed);
            const often = times(set.map((each) => control.get(each)!));
            expect([...often.values()].every((each) => each === rounds)).toBe(true);
            expect(often.size).toBe(new Set(control.values()).size);
            expect(set.some((each, i) => i > 0 && each === set[i - 1])).toBe(false);
            expect(dealCalls(calls, rounds, seed)).toEqual(set);
            if (rounds < fullRounds(calls)) continue;
            const followed = new Set(set.slice(1).map((each, i) => `${set[i]!} ${each}`));
            expect(reversalsOf(calls).filter(([a, b]) => !followed.has(`${a} ${b}`))).toEqual([]);
          }
      }
    },
  );

  it.each(every)(
    'of %s are right when they are answered, and late or missed when not in time',
    (_, controls) => {
      const { deal, calls } = setAt(controls, 7);
      const prompt = worked(controls, deal, (each, readings) => ({
        acts: answerTo(controls, each, readings),
        after: 8,
      }));
      const answers = answersAtDesk(controls, deal, 2, prompt.log, prompt.ticks);
      expect(answers.filter((each) => each.kind !== 'right')).toEqual([]);
      expect(answers.map((each) => each.call)).toEqual(deal.calls);
      expect(commandResult(calls, answers, USUAL_STANDARD).unmet).toEqual([]);

      const slow = worked(controls, deal, (each, readings) => ({
        acts: answerTo(controls, each, readings),
        after: 25,
      }));
      expect(
        new Set(answersAtDesk(controls, deal, 2, slow.log, slow.ticks).map((each) => each.kind)),
      ).toEqual(new Set(['late']));
      const still = worked(controls, deal, () => null);
      expect(
        answersAtDesk(controls, deal, 2, still.log, still.ticks).every((each) => each.kind === 'missed'),
      ).toBe(true);
    },
  );

  it.each(every)('of %s are wrong when the opposite is done', (_, controls) => {
    const { deal } = setAt(controls, 11);
    const known = new Map(controls.calls.map((each) => [each.id, each]));
    const turned = worked(controls, deal, (each, readings) => ({
      acts: answerTo(controls, known.get(each.opposite ?? '') ?? each, readings),
      after: 5,
    }));
    for (const { call: id, kind } of answersAtDesk(controls, deal, 2, turned.log, turned.ticks)) {
      const other = known.get(known.get(id)!.opposite ?? '');
      // The opposite at another place cannot be done from here, and to let go is to do nothing.
      const reached =
        other &&
        !isAnsweredByNothing(controls, other) &&
        other.works.every((name) => placesOf(controls.machine.controls.get(name)!.at).includes(deal.place));
      expect([id, kind]).toEqual([id, reached ? 'wrong' : other ? kind : 'right']);
    }
  });
});

describe('a set of calls', () => {
  it('is as long as its class asks for, and says what every one of its controls is', () => {
    const { calls } = callPlaces(loader)[0]!;
    expect(shortRounds(calls) * new Set(calls.map((each) => each.control)).size).toBeGreaterThanOrEqual(24);
    expect(calls.find((each) => each.id === 'arms-up')).toMatchObject({
      control: 'arm-lever',
      opposite: 'arms-down',
    });
  });

  it('tells answers apart by what is used in the fewest of them, and by several where none is by itself', () => {
    const by = new Map(reach.calls.map((each) => [each.id, each.control]));
    expect(by.get('reach-out')).toBe('thumb-wheel+trigger');
    const basket = every.find(([name]) => name.startsWith('telescopic'))![1];
    expect(basket.calls.find((each) => each.id === 'lift-up')!.control).toBe('lift');
  });

  it('needs two calls, and says so where they cannot be called without a repeat', () => {
    expect(() => dealCalls([call('only', 'a')], 3, 1)).toThrow(/two calls/);
    expect(dealCalls([call('a', 'one'), call('b', 'two')], 12, 3)).toHaveLength(24);
  });

  it('is another one for another seed, and no call can be told from the one before it', () => {
    const { calls } = callPlaces(loader)[0]!;
    const sets = [1, 2, 3].map((seed) => dealCalls(calls, fullRounds(calls), seed).join(' '));
    expect(new Set(sets).size).toBe(3);
    // Over many sets every call comes first some time.
    const firsts = new Set(
      Array.from({ length: 400 }, (_, seed) => dealCalls(calls, shortRounds(calls), seed)[0]),
    );
    expect(firsts.size).toBe(calls.length);
  });

  it('has pauses of one to two and a half seconds that do not repeat one another', () => {
    const pauses = dealPauses(200, 4);
    expect(Math.min(...pauses)).toBeGreaterThanOrEqual(1);
    expect(Math.max(...pauses)).toBeLessThanOrEqual(2.5);
    expect(new Set(pauses).size).toBeGreaterThan(10);
  });
});

describe('answers at the desk', () => {
  const deal = (...calls: string[]): CommandDeal => ({ place: 'cab', calls, pauses: calls.map(() => 1) });
  const told = (set: CommandDeal, acts: [number, DeskAct][], seconds = 20) =>
    answersAtDesk(
      loader,
      set,
      2,
      acts.map(([at, act]) => ({ tick: Math.round(at * TICKS), act })),
      seconds * TICKS,
    );
  const lever = (to: string): DeskAct => ({ kind: 'set', control: 'arm-lever', to });

  it('are timed from the call', () => {
    expect(told(deal('arms-up'), [[1.9, lever('back')]])).toEqual([
      { call: 'arms-up', kind: 'right', seconds: 0.9 },
    ]);
  });
  it('are wrong at the first touch of anything else, and a later right one does not mend it', () => {
    const [first, second] = told(deal('arms-up', 'sound-horn'), [
      [1.5, lever('forward')],
      [1.6, lever('back')],
      [3.2, { kind: 'hold', control: 'horn' }],
    ]);
    expect(first).toMatchObject({ call: 'arms-up', kind: 'wrong', seconds: 0.5 });
    expect(second).toMatchObject({ call: 'sound-horn', kind: 'right' });
  });
  it('do not come of letting go, of what was done before the call, or of what is out of reach', () => {
    expect(
      told(deal('arms-up'), [
        [0.5, lever('back')],
        [1.5, { kind: 'release', control: 'arm-lever' }],
      ]),
    ).toEqual([{ call: 'arms-up', kind: 'missed', seconds: null }]);
  });
  it('touch what stands right already', () => {
    expect(told(deal('neutral'), [[1.4, { kind: 'set', control: 'selector', to: 'N' }]])).toMatchObject([
      { kind: 'right' },
    ]);
  });
  it('are wrong when what one did would have answered another call, though it could still become right', () => {
    const set: CommandDeal = { place: callPlaces(reach)[0]!.place, calls: ['reach-out'], pauses: [1] };
    const log: [number, DeskAct][] = [
      [0.4, { kind: 'hold', control: 'trigger' }],
      [1.6, { kind: 'set', control: 'thumb-wheel', to: 'forward' }],
      [1.7, { kind: 'release', control: 'trigger' }],
    ];
    const answers = answersAtDesk(
      reach,
      set,
      2,
      log.map(([at, act]) => ({ tick: Math.round(at * TICKS), act })),
      100,
    );
    expect(answers).toMatchObject([{ kind: 'wrong' }]);
  });
});

describe('the result of a set', () => {
  const calls = [call('up', 'lift', 'down'), call('down', 'lift', 'up'), call('horn', 'horn')];
  const right = (id: string, seconds: number) => ({ call: id, kind: 'right' as const, seconds });

  it('has the middle and the spread of each control, the wrong and the slow first', () => {
    const found = commandResult(
      calls,
      [
        right('up', 0.9),
        right('down', 1.1),
        right('horn', 0.6),
        { call: 'up', kind: 'wrong', seconds: 0.5 },
        right('horn', 0.8),
      ],
      USUAL_STANDARD,
    );
    expect(found.counts).toEqual({ right: 4, late: 0, wrong: 1, missed: 0 });
    expect(found.median).toBeCloseTo(median([0.9, 1.1, 0.6, 0.8])!);
    expect(found.controls.map((each) => [each.control, each.called, each.wrong, each.median])).toEqual([
      ['lift', 3, 1, 1],
      ['horn', 2, 0, expect.closeTo(0.7)],
    ]);
    expect(found.reversals).toEqual({ seen: 1, of: 2 });
    expect(found.unmet).toEqual(['5 calls of the 24 that are asked for.', 'One wrong answer; none may be.']);
  });

  it('finds a hesitation two robust deviations above the own median, and none in somebody even', () => {
    const even = Array.from({ length: 9 }, (_, i) => right(i % 2 ? 'up' : 'down', 1));
    expect(commandResult(calls, even, USUAL_STANDARD).hesitations).toEqual([]);
    // Of 0.8 ... 1.2 the median is 1 and the scaled deviation 0.148 (0.1 times 1.4826), so that 1.3 is the limit.
    const own = [0.8, 0.9, 1, 1.1, 1.2, 0.9, 1, 1.1, 1, 1.29, 1.35].map((seconds, i) =>
      right(i % 2 ? 'up' : 'down', seconds),
    );
    expect(commandResult(calls, own, USUAL_STANDARD).hesitations).toEqual([10]);
  });

  it('makes ready with the last two sets', () => {
    const [good, bad] = [{ unmet: [] }, { unmet: ['wrong'] }];
    expect(isReadyBy([good])).toBe(false);
    expect(isReadyBy([good, bad, good])).toBe(false);
    expect(isReadyBy([bad, good, good])).toBe(true);
  });

  it('counts late and missing answers together against the standard', () => {
    const random = seededRandom(1);
    const answers = Array.from({ length: 24 }, (_, i) => ({
      call: i % 2 ? 'up' : 'down',
      kind: i < 2 ? ('late' as const) : i === 2 ? ('missed' as const) : ('right' as const),
      seconds: i === 2 ? null : 0.5 + random(),
    }));
    expect(commandResult(calls, answers, USUAL_STANDARD).unmet).toEqual([
      '3 late or missing answers; at most 2 may be.',
    ]);
  });
});
