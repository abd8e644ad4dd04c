import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compose, type EffectivePack } from '../catalogue';
import { seededRandom } from '../statistics';
import { shippedClasses, shippedPack } from '../testing';
import { byHand } from './byHand';
import { explain } from './explain';
import { judge, type Judgement, likelyNext } from './judge';
import { allowedOrder, keptTimes, rightRun, wrongRuns } from './scriptedRun';
import { session } from './session';
import { runningClocks } from './timing';
import type { Trace, TraceEvent } from './trace';
import { judgementWords } from './words';

const packs = shippedClasses().map(shippedPack);
/** Every class in each of its power variants. */
const fitOuts = packs.flatMap((pack) =>
  pack.variants.map((variant) => ({
    name: `${pack.id}, ${variant.name}`,
    pack: compose(pack, { variant: variant.id }),
  })),
);
const bothEnds = (pack: EffectivePack) =>
  pack.procedures.filter((each) => each.kind === 'startup' || each.kind === 'shutdown');
const says = (pack: EffectivePack, procedures: string[], trace: Trace) =>
  judgementWords(judge(pack, procedures, trace), trace).map((each) => each.says);

describe('in every class and fit-out', () => {
  it.each(fitOuts)('any allowed order with its times kept scores 100: $name', ({ pack }) => {
    const draw = seededRandom(7);
    for (const { id } of pack.procedures) {
      const own = session(pack, [id]);
      let kept = 0;
      for (let run = 0; run < 12; run++) {
        const trace = keptTimes(own, allowedOrder(own, draw), { gap: 0.01 });
        const judgement = judge(pack, [id], trace);
        // Of some orders no timing is legal: what must follow at once stands behind a long wait.
        const timing = judgement.steps
          .flatMap((each) => each.times)
          .filter((each) => each.verdict === 'broken');
        if (timing.length > 0 && timing.every((each) => each.rule === 'within')) continue;
        kept++;
        expect(judgement.score, `${id} ${JSON.stringify(trace.events)}`).toBe(100);
        expect(judgementWords(judgement, trace).at(-1)!.says).toBe('Everything in order.');
      }
      expect(kept, id).toBeGreaterThan(0);
    }
  });

  it.each(fitOuts)('leaving out steps costs their weight and nothing else: $name', ({ pack }) => {
    const draw = seededRandom(11);
    for (const { id } of bothEnds(pack)) {
      const own = session(pack, [id]);
      const sequence = allowedOrder(own);
      const whole = own.steps.reduce((sum, each) => sum + (each.optional ? 0 : each.weight), 0);
      for (let run = 0; run < 8; run++) {
        const left = new Set(sequence.filter(() => draw() < 0.3));
        const trace = keptTimes(
          own,
          sequence.filter((each) => !left.has(each)),
          { gap: 0.01 },
        );
        const cost = [...left].reduce((sum, each) => sum + (each.optional ? 0 : each.weight), 0);
        expect(judge(pack, [id], trace).score).toBeCloseTo((100 * (whole - cost)) / whole, 9);
      }
    }
  });

  it.each(fitOuts)(
    'a scripted right run scores 100, and of wrong ones the words name the wrong: $name',
    ({ pack }) => {
      for (const { id } of bothEnds(pack)) {
        const trace = rightRun(pack, [id]);
        expect(judge(pack, [id], trace).score).toBe(100);
        const wrong = wrongRuns(pack, [id]);
        expect(wrong.map((each) => each.kind)).toHaveLength(5);
        for (const each of wrong) {
          const judgement = judge(pack, [id], each.trace);
          expect(judgement.score, each.kind).toBeLessThan(100);
          expect(judgementWords(judgement, each.trace)[0]!.says, each.kind).toContain(each.names);
        }
      }
    },
  );
});

it('equals brute force on every procedure of up to seven steps, for 2,000 seeded traces', () => {
  const short = packs.flatMap((pack) => {
    const composed = compose(pack, { variant: pack.variants[0]!.id });
    return composed.procedures
      .filter((each) => each.steps.length <= 7)
      .map((each) => session(composed, [each.id]));
  });
  expect(short.length).toBeGreaterThan(80);
  const draw = seededRandom(2000);
  for (let i = 0; i < 2000; i++) {
    const { order } = short[i % short.length]!;
    const names = [...order.steps.map((each) => each.token), 'something else'];
    const tokens = Array.from(
      { length: Math.floor(draw() * 10) },
      () => names[Math.floor(draw() * names.length)]!,
    );
    expect(explain(order, tokens).skippedWeight).toBe(byHand(order.steps, tokens).skipped);
  }
});

const forklift = fitOuts.find(
  (each) => each.pack.id === 'counterbalance-forklift' && each.name.includes('iesel'),
)!.pack;
const START = forklift.procedures.find((each) => each.kind === 'startup')!.id;
const right = rightRun(forklift, [START]);
const changed = (token: string, change: (event: TraceEvent) => Partial<TraceEvent>): Trace => ({
  ...right,
  events: right.events.map((each) => (each.token === token ? { ...each, ...change(each) } : each)),
});
const verdicts = (judgement: Judgement, id: string) =>
  judgement.steps
    .find((each) => each.step.id === id)!
    .times.map((each) => [each.rule, each.verdict, each.by]);

describe('times of a forklift start', () => {
  const crank = right.events.find((each) => each.token === 'CF-SU-6')!;

  it('a limit passed is told by how much, and costs a critical step all it weighs', () => {
    const trace = changed('CF-SU-6', ({ at }) => ({ end: at + 41 }));
    const judgement = judge(forklift, [START], trace);
    expect(verdicts(judgement, 'CF-SU-6')[0]).toEqual(['limit', 'broken', 31]);
    expect(says(forklift, [START], trace)).toContain(
      '“Crank the engine in one short try” took 41 s; the limit is 10 s, so 31 s too long.',
    );
  });

  it('what was not stamped is not judged, and never blamed', () => {
    const trace = changed('CF-SU-6', () => ({ end: undefined }));
    const late = {
      ...trace,
      events: trace.events.map((each) => (each.at > crank.at ? { ...each, at: each.at + 40 } : each)),
      ended: trace.ended! + 40,
    };
    const judgement = judge(forklift, [START], late);
    expect(verdicts(judgement, 'CF-SU-6')[0]).toEqual(['limit', 'unknown', null]);
    expect(says(forklift, [START], late).join(' ')).toMatch(/Not judged: the time of “Crank the engine/);
  });

  it('counts tries and the rests between them, and none of them as a repeat', () => {
    const at = crank.at;
    const tries = [0, 1, 2, 3].map((i) => ({ token: 'CF-SU-6', at: at + i * 20, end: at + i * 20 + 5 }));
    const trace = {
      ...right,
      events: right.events.flatMap((each) =>
        each === crank ? tries : [each.at > at ? { ...each, at: each.at + 65, end: each.end } : each],
      ),
      ended: right.ended! + 65,
    };
    const judgement = judge(forklift, [START], trace);
    expect(judgement.repeated).toEqual([]);
    const words = says(forklift, [START], trace);
    expect(words).toContain('“Crank the engine in one short try” was tried 4 times; 3 at most.');
    expect(words.filter((each) => each.startsWith('Only 15 s of rest'))).toHaveLength(3);
  });

  it('a stated condition lifts a time for ever, and is said', () => {
    const own = session(forklift, [START]);
    const idle = own.steps.find((each) => each.id === 'CF-SU-8')!;
    const short = keptTimes(own, allowedOrder(own), { hurry: idle });
    const words = says(forklift, [START], short);
    expect(words[0]).toMatch(/before “Let a cold engine idle.*” was over|lasted/);
    const lifted = {
      ...short,
      conditions: [{ says: 'engine still warm from the morning', lifts: ['CF-SU-8'] }],
    };
    expect(judge(forklift, [START], lifted).score).toBe(100);
    expect(says(forklift, [START], lifted)[0]).toBe(
      'Condition of the day: engine still warm from the morning. No time was asked of ' +
        '“Let a cold engine idle until it runs evenly”.',
    );
  });

  it('says by how much something came before a wait was over, where its end was stamped', () => {
    const pack = fitOuts.find((each) => each.pack.id === 'motor-grader')!.pack;
    const stop = pack.procedures.find((each) => each.kind === 'shutdown')!.id;
    const run = rightRun(pack, [stop]);
    const isolate = run.events.find((each) => each.token === 'mg-sd-10')!;
    const after = run.events[run.events.indexOf(isolate) + 1];
    const trace: Trace = {
      ...run,
      events: run.events.map((each) => (each === isolate ? { ...each, end: each.at + 13 } : each)),
      ended: run.ended! + 20,
    };
    const words = says(pack, [stop], trace);
    if (after) expect(words.join(' ')).toMatch(/came 12 s before “Once every purge lamp is out/);
    else expect(words).toEqual(['Everything in order.']);
  });
});

describe('the clocks that run', () => {
  const clocks = (events: TraceEvent[]) => {
    const trace: Trace = { ...right, events, ended: null };
    const { session: own, explanation } = judge(forklift, [START], trace);
    return runningClocks({ session: own, explanation, trace }).map(
      ({ step, means, from, bound, endable }) => [step.id, means, from, bound, endable],
    );
  };
  const upTo = (token: string) => right.events.findIndex((each) => each.token === token);
  const before = right.events.slice(0, upTo('CF-SU-6'));

  it('are the limit of an act until its end is stamped', () => {
    expect(clocks([...before, { token: 'CF-SU-6', at: 30 }])).toEqual([['CF-SU-6', 'limit', 30, 10, true]]);
    expect(clocks([...before, { token: 'CF-SU-6', at: 30, end: 34 }])).toEqual([]);
  });

  it('are a wait from the end of what it counts from, until its own end', () => {
    const cranked = [...before, { token: 'CF-SU-6', at: 30, end: 34 }];
    const idle = { token: 'CF-SU-8', at: 40 };
    expect(clocks([...cranked, idle])).toEqual([['CF-SU-8', 'wait', 34, 180, false]]);
    expect(clocks([...cranked, { ...idle, end: 220 }])).toEqual([]);
  });
});

describe('what the trainer marks', () => {
  it('a prompt earns the prompt credit, a wrong act nothing, a condition that did not hold is named', () => {
    const plain = right.events.find(
      (each) => !session(forklift, [START]).steps.find((s) => s.token === each.token)!.critical,
    );
    const score = (trace: Trace) => judge(forklift, [START], trace, { promptCredit: 0.5 }).score!;
    const [step] = session(forklift, [START]).steps;
    const whole = session(forklift, [START]).steps.reduce(
      (sum, each) => sum + (each.optional ? 0 : each.weight),
      0,
    );
    expect(score(changed(step!.token, () => ({ mark: 'prompted' })))).toBeCloseTo(
      100 - (50 * step!.weight) / whole,
      9,
    );
    expect(score(changed(step!.token, () => ({ mark: 'wrong' })))).toBeCloseTo(
      100 - (100 * step!.weight) / whole,
      9,
    );
    if (plain) expect(score(changed(plain.token, () => ({ failed: ['seat belt on'] })))).toBeLessThan(100);
    expect(
      says(
        forklift,
        [START],
        changed(step!.token, () => ({ failed: ['seat belt on'] })),
      )[0],
    ).toMatch(/this did not hold: seat belt on\./);
  });

  it('is never worse for an act that is no step, and says where it was', () => {
    fc.assert(
      fc.property(fc.nat(right.events.length), (at) => {
        const extra = { token: 'something else', at: right.events[at - 1]?.at ?? 0 };
        const trace = { ...right, events: [...right.events.slice(0, at), extra, ...right.events.slice(at)] };
        const judgement = judge(forklift, [START], trace);
        expect(judgement.extra).toEqual([at]);
        expect(judgement.steps.every((each) => each.state === 'done' || each.state === 'not-needed')).toBe(
          true,
        );
      }),
      { seed: 5, numRuns: 40 },
    );
  });

  it('offers what may come next, the likeliest first, and follows the trace', () => {
    const begun: Trace = { ...right, events: [], ended: null };
    const sequence = allowedOrder(session(forklift, [START]));
    for (let n = 0; n < sequence.length; n++) {
      const next = likelyNext(judge(forklift, [START], { ...begun, events: right.events.slice(0, n) }));
      expect(next[0]!.id).toBe(sequence[n]!.id);
    }
  });

  it('blames nothing that may still come while the session goes on', () => {
    const half = { ...right, events: right.events.slice(0, 3), ended: null };
    expect(says(forklift, [START], half)).toEqual(['Everything in order so far.']);
    const skipped = { ...right, events: right.events.filter((_, i) => i !== 1).slice(0, 4), ended: null };
    const judgement = judge(forklift, [START], skipped);
    expect(judgement.steps.filter((each) => each.state === 'skipped').length).toBeLessThanOrEqual(1);
  });

  it('judges several procedures in a row as one, with the order that runs between them', () => {
    const ids = forklift.procedures
      .filter((each) => ['startup', 'function-test', 'shutdown'].includes(each.kind))
      .map((each) => each.id);
    const run = rightRun(forklift, ids);
    expect(judge(forklift, ids, run).score).toBe(100);
    expect(() => judge(forklift, ['CF-P99'], run)).toThrow('there is no procedure "CF-P99"');
  });
});
