import { describe, expect, it } from 'vitest';
import { compose, packIntegrity, packToYaml, readPack } from '../catalogue';
import { deskSpots, planBox } from '../drawing';
import { session } from '../procedure';
import { deskScripts, forkliftPack, shippedClasses, shippedPack } from '../testing';
import {
  actProblem,
  askedOf,
  cardsOf,
  dealDesk,
  dealtMachine,
  deskCalls,
  deskPackOf,
  deskSchema,
  deskWords,
  isHandled,
  judgeDesk,
  type LoggedAct,
  machineOf,
  pedalDepths,
  programsOf,
  reactionsTo,
  tickMachine,
  tryFailures,
  tryRules,
  workThrough,
} from './index';

/** A lamp that should go out, on a machine that is the smallest there is. */
const desk = deskSchema.parse({
  places: [
    { id: 'seat', name: 'In the seat', from: ['ground'] },
    { id: 'ground', name: 'Beside it', from: ['seat'], by: 'get-down' },
  ],
  controls: [
    { id: 'key', at: 'seat', name: 'Key switch', kind: 'selector', positions: ['off', 'on'], start: 'off' },
    { id: 'brake', at: 'seat', name: 'Brake pedal', kind: 'pedal' },
  ],
  looks: [{ id: 'read-lamp', at: 'seat', name: 'Read the oil lamp', of: 'oil-lamp' }],
  shows: [
    {
      id: 'oil-lamp',
      at: 'seat',
      kind: 'lamp',
      name: 'Oil lamp',
      when: 'key = on and (engine.oilPressure < 1 bar)',
    },
    { id: 'noise', at: ['seat', 'ground'], kind: 'sound', name: 'Engine', when: 'engine.running' },
  ],
  components: [{ kind: 'engine', runsWhen: 'key = on', oilSeconds: 3, oilLostWhen: 'leak = yes' }],
  states: [{ id: 'leak', start: 'no', says: 'Oil is lost' }],
  rules: [],
  steps: { s1: { acts: ['key = on'] }, s2: { acts: ['call:all clear'], wait: { until: 'brake = 0.7' } } },
  failures: {
    'F-1': {
      begins: 'engine.running for 5 s',
      sets: { leak: 'yes' },
      seen: ['oil-lamp'],
      right: ['key = off within 10 s of oil-lamp', 'call:no oil pressure', 'read-lamp before get-down'],
      wrong: ['engine.running for 20 s', 'place = ground'],
    },
  },
});
const pack = {
  id: 'tiny',
  title: 'Tiny',
  machine: { desk, failures: [] },
  forbidden: [],
  fitOut: {},
} as unknown as Parameters<typeof machineOf>[0];
const machine = machineOf(pack)!;
const deal = { procedures: [], found: null, failures: ['F-1'] };
const put = (second: number, control: string, to: string): LoggedAct => ({
  tick: second * 10,
  act: { kind: 'set', control, to },
});
const reacted = (log: LoggedAct[], seconds: number) =>
  reactionsTo(machine, log, seconds * 10, dealtMachine(machine, deal))[0];

describe('what is done about a failure', () => {
  it('begins only when its time has come, and is seen by what differs from a sound machine', () => {
    expect(reacted([put(1, 'key', 'on')], 5)).toBeUndefined();
    const found = reacted([put(1, 'key', 'on')], 12)!;
    expect(found.begun).toBeCloseTo(6, 1);
    // The lamp lights once the pressure has gone, not when the leak begins.
    expect(found.seen).toBeGreaterThan(found.begun + 0.2);
    expect(isHandled(found)).toBe(false);
  });

  it('is handled where all of it is done in time', () => {
    const handled = reacted(
      [
        put(1, 'key', 'on'),
        { tick: 90, act: { kind: 'look', look: 'read-lamp' } },
        put(10, 'key', 'off'),
        { tick: 105, act: { kind: 'call', says: 'No oil pressure' } },
      ],
      15,
    )!;
    expect(handled.right.map((each) => each.at)).toEqual([10, 10.5, 9]);
    expect(isHandled(handled)).toBe(true);
  });

  it('is not where it comes too late, and what is wrong is named with its moment', () => {
    const late = reacted([put(1, 'key', 'on'), put(40, 'key', 'off')], 45)!;
    expect(late.right[0]!.at).toBeNull();
    expect(late.wrong.map((each) => each.at)).toEqual([26, null]);
    const ran = reacted([put(1, 'key', 'on'), { tick: 100, act: { kind: 'go', place: 'ground' } }], 12)!;
    expect(ran.wrong.map((each) => each.at)).toEqual([null, 10]);
  });

  it('takes nothing for wrong that stood so before it began', () => {
    const standing = deskSchema.parse({
      ...desk,
      failures: { 'F-1': { ...desk.failures['F-1']!, wrong: ['key = on'] } },
    });
    const other = machineOf({ ...pack, machine: { ...pack.machine, desk: standing } })!;
    const from = dealtMachine(other, deal);
    const on = put(1, 'key', 'on');
    expect(reactionsTo(other, [on], 100, from)[0]!.wrong[0]!.at).toBeNull();
    const again = [on, put(8, 'key', 'off'), put(9, 'key', 'on')];
    expect(reactionsTo(other, again, 100, from)[0]!.wrong[0]!.at).toBe(9);
  });
});

describe('a desk in words', () => {
  it('says conditions, acts and what is said aloud by the names of the desk', () => {
    expect(deskWords(desk, 'key = off within 10 s of oil-lamp')).toBe(
      'Key switch: off, and within 10 s of oil lamp',
    );
    expect(deskWords(desk, 'call:no oil pressure')).toBe('Say: "no oil pressure"');
    expect(deskWords(desk, 'brake held until not engine.running')).toBe(
      'Brake pedal, until not engine running',
    );
    expect(deskWords(desk, 'engine.running for 120 s')).toBe('Engine running, for 2 min');
    expect(deskWords(desk, 'read-lamp before get-down')).toBe('Read the oil lamp, before go: beside it');
  });

  it('knows everything that may have to be said, and how far each pedal is ever pressed', () => {
    expect(deskCalls(desk)).toEqual(['all clear', 'no oil pressure']);
    expect(pedalDepths(desk, 'brake')).toEqual([0.5, 0.7, 1]);
  });

  it('has words for every reaction of every class', () => {
    for (const id of shippedClasses()) {
      const own = shippedPack(id).machine.desk!;
      for (const row of Object.values(own.failures))
        if ('right' in row)
          for (const text of [...row.right, ...row.wrong])
            expect(deskWords(own, text)).not.toMatch(/\d+ s \d|undefined|_/);
    }
  });
});

describe('where the places of a desk are', () => {
  it.each(shippedClasses())('of %s lie apart from each other, at or near the machine', (id) => {
    const { plan, machine: own } = shippedPack(id);
    const spots = deskSpots(own.desk!, plan);
    const box = planBox(plan);
    const size = Math.max(box.width, box.height);
    expect(spots.map((each) => each.id)).toEqual(own.desk!.places.map((each) => each.id));
    spots.forEach((a, i) => {
      expect(Math.hypot(a.x - box.x - box.width / 2, a.y - box.y - box.height / 2)).toBeLessThan(1.4 * size);
      for (const b of spots.slice(i + 1))
        expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThan(0.1 * size);
    });
  });
});

describe('a run that is dealt', () => {
  const forklift = compose(forkliftPack(), { variant: 'lpg' });
  const own = deskPackOf(forklift);
  const truck = machineOf(own)!;

  it('has the programs that its desk has, and none without a desk', () => {
    expect(programsOf(own)).toEqual(['start', 'tests', 'stop', 'whole', 'free']);
    const { desk: _desk, ...without } = own.machine;
    expect(programsOf({ ...own, machine: without })).toEqual([]);
  });

  it('is judged alike however quickly its clock was run, and by nothing but its log', () => {
    const dealt = dealDesk(own, truck, 'start', { surprise: false, seed: 1 });
    const { log, state } = workThrough(truck, session(own, dealt.procedures), dealtMachine(truck, dealt));
    const judged = judgeDesk(own, truck, dealt, log, state.tick);
    const again = judgeDesk(own, truck, dealt, JSON.parse(JSON.stringify(log)) as LoggedAct[], state.tick);
    expect(again.result).toEqual(judged.result);
    expect(judged.result).toMatchObject({ score: 100, critical: 0, breaches: [], failed: 0 });
    const nothing = judgeDesk(own, truck, dealt, [], 100).result;
    expect([nothing.score, nothing.seconds]).toEqual([0, 10]);
  });

  it('has its forbidden rows done and told with their length, and its failures handled and made worse', () => {
    const trimmer = deskPackOf(compose(shippedPack('string-trimmer'), { variant: 'two-stroke' }));
    const tool = machineOf(trimmer)!;
    const rules = tryRules(trimmer, tool);
    expect(rules.filter((each) => !each.shown)).toEqual([]);
    for (const each of rules) expect(each.says).toMatch(/^after [\d.]+ s, for [\d.]+ s$/);
    const failures = tryFailures(trimmer, tool, deskScripts('string-trimmer'));
    expect(failures.filter((each) => !each.shown)).toEqual([]);
    expect(failures.length).toBeGreaterThanOrEqual(7);
  }, 120_000);
});

describe('a desk in its pack', () => {
  const whole = shippedPack('string-trimmer');
  const broken = (change: (own: NonNullable<typeof whole.machine.desk>) => object) => ({
    ...whole,
    machine: {
      ...whole.machine,
      desk: deskSchema.parse({ ...whole.machine.desk!, ...change(whole.machine.desk!) }),
    },
  });

  it('is refused with the row and what was meant', () => {
    const wrong = broken((own) => ({
      rules: [...own.rules, { when: 'engine.runing', then: ['swing = rest'], says: 'wrong' }],
    }));
    const [issue] = packIntegrity(wrong);
    expect(issue).toMatchObject({
      rule: 'desk',
      path: ['machine', 'desk', 'rules', wrong.machine.desk.rules.length - 1, 'when'],
    });
    expect(issue!.message).toContain('"engine.running" is meant?');
    const foreign = broken((own) => ({ steps: { ...own.steps, 'no-such-step': { away: true } } }));
    expect(packIntegrity(foreign).map((each) => [each.rule, each.message])).toEqual([
      ['desk-row', 'the class has no step "no-such-step"'],
    ]);
  });

  it('is written a row a line, and read again says the same', () => {
    const text = packToYaml(whole);
    expect(text).toContain('- { id: kit, at: tool, name: Protective kit, kind: selector');
    expect(readPack(text).pack).toEqual(whole);
  });

  it('takes the place of the prose that packs had before', () => {
    const { desk: _desk, ...rest } = whole.machine;
    const before = packToYaml({ ...whole, machine: rest }).replace(
      'machine:\n',
      'machine:\n  components:\n    - kind: head\n      params: { idleRpm: 2800 }\n  lamps: [ none ]\n',
    );
    const { pack: read, errors } = readPack(before);
    expect(errors).toEqual([]);
    expect(read!.machine).toEqual(rest);
  });
});

describe('what a desk cannot show', () => {
  const loader = deskPackOf(compose(shippedPack('wheel-loader'), { variant: 'diesel' }));
  const machine = machineOf(loader)!;
  const [rule] = cardsOf(machine.desk);
  const card = { rule: rule!, tick: 100, offers: [1, 0, 2] };
  const deal = { procedures: [], found: null, failures: [], cards: [card] };
  const answer = (tick: number, offer: number): LoggedAct => ({
    tick,
    act: { kind: 'answer', rule: rule!, offer },
  });

  it('is asked, as is much else: a situation, one right thing, and some that are wrong; and it is under a tenth', () => {
    let [asked, away, all] = [0, 0, 0];
    for (const id of shippedClasses()) {
      const desk = shippedPack(id).machine.desk!;
      for (const [row, each] of Object.entries(desk.forbidden)) {
        all += 1;
        const found = askedOf(desk, row);
        if ('notHere' in each) away += 1;
        if (!found) {
          expect([id, row, 'when' in each]).toEqual([id, row, true]);
          continue;
        }
        expect([id, row, new Set([found.right, ...found.wrong]).size]).toEqual([
          id,
          row,
          found.wrong.length + 1,
        ]);
        asked += 1;
      }
    }
    expect(asked).toBeGreaterThan(50);
    expect(away / all).toBeLessThan(0.1);
  });

  it('comes up once in a run in which something is to go wrong, between ten seconds and a minute', () => {
    const dealt = Array.from({ length: 40 }, (_, seed) =>
      dealDesk(loader, machine, 'start', { surprise: true, seed }),
    ).flatMap((each) => each.cards ?? []);
    expect(dealt).toHaveLength(40);
    expect(new Set(dealt.map((each) => each.rule))).toEqual(new Set(cardsOf(machine.desk)));
    for (const each of dealt) {
      expect(each.tick).toBeGreaterThanOrEqual(100);
      expect(each.tick).toBeLessThanOrEqual(600);
      expect([...each.offers].sort()).toEqual([0, 1, 2]);
    }
    expect(dealDesk(loader, machine, 'start', { surprise: false, seed: 1 }).cards).toBeUndefined();
  });

  it('counts by the first answer after it came up; a wrong one is critical', () => {
    const judged = (log: LoggedAct[], ticks = 300) => judgeDesk(loader, machine, deal, log, ticks).result;
    expect(judged([answer(130, 0)])).toMatchObject({
      critical: 0,
      cards: [{ rule, at: 10, answered: 13, right: true }],
    });
    expect(judged([answer(130, 2), answer(140, 0)])).toMatchObject({
      critical: 1,
      cards: [{ right: false, chose: askedOf(machine.desk, rule!)!.wrong[1] }],
    });
    expect(judged([answer(40, 0)])).toMatchObject({ critical: 0, cards: [{ chose: null, right: false }] });
    expect(judged([], 50).cards).toBeUndefined();
  });

  it('changes nothing of the machine, and refuses an answer that was not offered', () => {
    const from = dealtMachine(machine, deal);
    const still = tickMachine(machine, from);
    expect(tickMachine(machine, from, [answer(1, 0).act])).toEqual(still);
    expect(actProblem(machine, from, { kind: 'answer', rule: rule!, offer: 3 })).toMatch(/asked/);
    expect(actProblem(machine, from, { kind: 'answer', rule: 'no-such', offer: 0 })).toMatch(/asked/);
  });
});
