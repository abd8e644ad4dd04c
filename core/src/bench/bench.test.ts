import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compose, type EffectivePack, GRADES, severity } from '../catalogue';
import { explainGrade, gradeFinding, rightActs, rightBound } from '../grading';
import { gradeOfReading, readingLines, readingsNearLimits } from '../measuring';
import { itemStates, itemWords, numberItem, practiceWeights } from '../practice';
import { forkliftPack, shippedClasses, shippedPack } from '../testing';
import {
  answerProblem,
  askableNumbers,
  type BenchAnswer,
  BENCH_FORMS,
  benchCandidates,
  benchItem,
  benchKey,
  benchResult,
  benchReviews,
  dealBench,
  dealNumbers,
  findingView,
  judgeAnswer,
  numberReviews,
} from './index';

const AT = '2026-03-02T08:00:00.000Z';
const pack = compose(forkliftPack(), { variant: 'diesel' });
const shipped = shippedClasses().map(shippedPack);
const every: EffectivePack[] = shipped.flatMap((each) =>
  each.variants.map(({ id }) => compose(each, { variant: id })),
);
const named = every.map((each) => [`${each.id} ${each.fitOut['variant']}`, each] as const);
/** The answer that a key gives. */
const rightAnswer = (each: EffectivePack, dealt: Parameters<typeof benchKey>[1]): BenchAnswer => {
  const key = benchKey(each, dealt);
  const act = rightActs(key)[0]!;
  return { grade: key.grade, act, by: act === 'go-on' || act === 'stop-and-tag' ? null : rightBound(key) };
};

describe.each(named)('the bench of %s', (_, each) => {
  it('names a limit or a row with its origin for every finding, and says what is right to do', () => {
    for (const dealt of benchCandidates(each, 'all', 'si')) {
      const key = benchKey(each, dealt);
      const chain = explainGrade(key);
      expect(chain.length).toBeGreaterThan(0);
      for (const says of chain) expect(says).toMatch(/\((Published|Common practice|From memory|Site policy)/);
      expect(key.reasons.at(-1)!.grade).toBe(key.grade);
      expect(answerProblem(rightAnswer(each, dealt))).toBeNull();
    }
  });

  it('deals every form level over the grades, nothing twice, the same for the same seed', () => {
    const candidates = benchCandidates(each, 'all', 'si');
    for (let seed = 1; seed <= 8; seed++) {
      const request = { form: 'all', seed, size: 12, system: 'si' } as const;
      const deal = dealBench(each, request);
      expect(dealBench(each, request)).toEqual(deal);
      const places = deal.cases.map((one) => `${one.checkpoint} ${one.reading?.quantity ?? ''}`);
      expect(new Set(places).size).toBe(places.length);
      const counts = GRADES.map(
        (grade) => deal.cases.filter((one) => benchKey(each, one).grade === grade).length,
      );
      // Level, but for grades of which the class has not enough.
      const most = Math.max(...counts);
      GRADES.forEach((grade, i) => {
        const checks = new Set(candidates.filter((one) => one.grade === grade).map((one) => one.checkpoint))
          .size;
        if (counts[i]! < most - 1) expect(checks).toBeLessThan(most + 3);
      });
    }
  });

  it('makes whoever always says the same right by chance alone', () => {
    for (const grade of GRADES) {
      const deal = dealBench(each, { form: 'all', seed: 7, size: 12, system: 'si' });
      const answers = deal.cases.map(() => ({ grade, act: 'go-on', by: null }) as const);
      const { grading } = benchResult(each, deal, answers);
      expect(grading.linear.kappa ?? 0).toBeCloseTo(0, 10);
      expect(grading.exact / grading.n).toBeLessThanOrEqual(0.5);
    }
  });

  it('shows of every finding something to judge by, and nothing that is the key', () => {
    for (const form of BENCH_FORMS)
      for (const dealt of benchCandidates(each, form, 'us')) {
        const view = findingView(each, dealt, form);
        expect(view.words.length + view.readings.length + Number(view.drawing !== null)).toBeGreaterThan(0);
        const fault = each.faults.find((row) => row.id === dealt.fault);
        const shown = JSON.stringify(view);
        if (fault) expect(shown).not.toContain(fault.id);
      }
  });

  it('asks for every number once, with one right answer among others', () => {
    if (askableNumbers(each).length === 0) return;
    const questions = dealNumbers(each, { seed: 3, size: 200 });
    expect(questions.map((one) => one.number).sort()).toEqual(
      askableNumbers(each)
        .map((one) => one.id)
        .sort(),
    );
    for (const { options, right } of questions) {
      expect(new Set(options).size).toBe(options.length);
      expect(options.length).toBe(4);
      expect(options[right]).toBeDefined();
    }
  });
});

describe('readings', () => {
  const gauges = every.flatMap((each) =>
    each.checkpoints.flatMap((check) => (check.gauges ?? []).map((gauge) => ({ each, check, gauge }))),
  );

  it('lie near a limit, on the scale of the reader, and are graded as they are read', () => {
    for (const { gauge } of gauges)
      for (const system of ['si', 'us'] as const) {
        const readings = readingsNearLimits(gauge, system);
        const limits = [...(gauge.rising ?? []), ...(gauge.falling ?? [])];
        const grades = new Set(readings.map((one) => one.grade));
        for (const { grade } of limits) expect(grades).toContain(grade);
        expect(grades.size).toBeGreaterThan(1);
        for (const reading of readings) {
          expect(gradeOfReading(gauge, reading).grade).toBe(reading.grade);
          for (const line of readingLines(gauge, reading))
            expect(line.says).toMatch(/^\u2212?\d+(\.\d{1,4})?( |$)/);
        }
      }
  });

  it('say the same of a thing measured in either system', () => {
    const heel = pack.checkpoints.find((each) => each.id === 'CF-11')!.gauges![0]!;
    expect(gradeOfReading(heel, { system: 'si', whole: 50, measured: 45 }).grade).toBe('stop');
    expect(gradeOfReading(heel, { system: 'us', whole: 2, measured: 1.8 }).grade).toBe('stop');
    expect(gradeOfReading(heel, { system: 'us', whole: 2, measured: 1.81 }).grade).toBe('watch');
    expect(() => gradeOfReading(heel, { system: 'si', whole: null, measured: 45 })).toThrow(/when new/);
  });
});

describe('a site policy', () => {
  const scopes = fc.oneof(
    fc.constant({ of: 'every' as const }),
    fc
      .constantFrom('counterbalance-forklift', 'wheel-loader')
      .map((classId) => ({ of: 'class' as const, classId })),
    fc
      .constantFrom('hydraulics', 'visibility', 'hoist-rope-chain')
      .map((system) => ({ of: 'system' as const, system: system as 'hydraulics' })),
    fc
      .constantFrom('damp-ring', 'glass-dirty')
      .map((kind) => ({ of: 'kind' as const, kind: kind as 'damp-ring' })),
    fc
      .constantFrom('CF-F07', 'CF-F97')
      .map((fault) => ({ of: 'fault' as const, classId: 'counterbalance-forklift', fault })),
  );
  const lines = fc.array(
    fc.record({ scope: scopes, atLeast: fc.constantFrom('mend' as const, 'stop' as const) }),
    { minLength: 1, maxLength: 4 },
  );
  const policyOf = (raises: { scope: never; atLeast: 'mend' | 'stop' }[]) =>
    raises.map((each, i) => ({
      ...each,
      id: `p${i}`,
      from: '2026-01-05',
      by: 'Una Quist',
      why: 'a strict house',
    }));

  it('only ever raises, says so with who, when and why, and leaves what it does not touch as it was', () => {
    fc.assert(
      fc.property(
        lines,
        fc.constantFrom('counterbalance-forklift', 'wheel-loader', 'mobile-crane', 'push-mower'),
        (raises, id) => {
          const whole = shipped.find((each) => each.id === id)!;
          const variant = whole.variants[0]!.id;
          const plain = compose(whole, { variant });
          const raised = compose(whole, { variant, policy: policyOf(raises as never) });
          if (!raised.policy) expect(raised).toEqual(plain);
          for (const dealt of benchCandidates(plain, 'all', 'si')) {
            const before = benchKey(plain, dealt);
            const after = benchKey(raised, dealt);
            expect(severity(after.grade)).toBeGreaterThanOrEqual(severity(before.grade));
            if (before.grade === 'sound') expect(after.grade).toBe('sound');
            if (after.grade !== before.grade) {
              expect(explainGrade(after).at(-1)).toMatch(
                /raised to (mend|stop) by site policy: a strict house \(Site policy since 5 January 2026, Una Quist\)/,
              );
              if (after.grade === 'mend') expect(after.until).not.toBeNull();
            }
          }
        },
      ),
      { numRuns: 12 },
    );
  });
});

describe('what is answered', () => {
  const deal = dealBench(pack, { form: 'all', seed: 5, size: 12, system: 'si' });
  const perfect = deal.cases.map((each) => rightAnswer(pack, each));

  it('is wholly right where grade, act and time are', () => {
    expect(benchResult(pack, deal, perfect)).toMatchObject({
      of: 12,
      answered: 12,
      wholly: 12,
      tooLate: 0,
      grading: { exact: 12, criticalMisses: [] },
    });
    expect(benchReviews(pack, deal, perfect, AT)).toEqual(
      deal.cases.map((each) => ({ item: benchItem(each), at: AT, outcome: 'right', mistakenFor: [] })),
    );
  });

  it('lists a stop that was let go on, and what it was mistaken for', () => {
    const at = deal.cases.findIndex((each) => benchKey(pack, each).grade === 'stop' && each.fault !== null);
    const answers = perfect.map((each, i) =>
      i === at ? ({ grade: 'sound', act: 'go-on', by: null } as const) : each,
    );
    expect(benchResult(pack, deal, answers).grading.criticalMisses.map((each) => each.id)).toEqual([
      String(at),
    ]);
    const review = benchReviews(pack, deal, answers, AT)[at]!;
    expect(review).toMatchObject({ outcome: 'wrong' });
    expect(review.mistakenFor).toContain(`${deal.cases[at]!.checkpoint}/sound`);
  });

  it('takes what is cured sooner than need be, and not what is cured too late', () => {
    const graded = compose(forkliftPack(), { variant: 'diesel', choices: { 'CF-D01': 'four-grades' } });
    const dealt = benchCandidates(graded, 'all', 'si').find(
      (each) => benchKey(graded, each).until?.bound === 'shift',
    )!;
    const right = rightAnswer(graded, dealt);
    expect(judgeAnswer(graded, dealt, { ...right, by: 'before-start' }).by).toBe('sooner');
    expect(judgeAnswer(graded, dealt, { ...right, by: 'days' }).by).toBe('later');
    expect(judgeAnswer(graded, dealt, right).by).toBe('same');
  });

  it('is refused where it contradicts itself', () => {
    expect(answerProblem({ grade: 'stop', act: 'go-on', by: 'today' })).toMatch(/nothing to be cured/);
    expect(answerProblem({ grade: 'mend', act: 'order-repair', by: null })).toMatch(/by when/);
    expect(answerProblem({ grade: 'sound', act: 'top-up', by: 'today' })).toMatch(/needs nothing/);
    expect(answerProblem({ grade: 'stop', act: 'stop-and-tag', by: 'today' })).toMatch(/waits for/);
  });

  it('brings back what went wrong more often than what went right', () => {
    const reviews = benchReviews(pack, deal, perfect, AT).map((each, i) =>
      i < 3 ? { ...each, outcome: 'wrong' as const } : each,
    );
    const weights = practiceWeights(
      reviews.map((each) => each.item),
      itemStates(reviews),
      '2026-03-04T08:00:00.000Z',
    );
    const wrong = Math.min(...reviews.slice(0, 3).map((each) => weights.get(each.item)!));
    const right = Math.max(...reviews.slice(3).map((each) => weights.get(each.item)!));
    expect(wrong).toBeGreaterThan(right);
    for (const { item } of reviews) expect(itemWords(pack, item)).not.toBeNull();
  });

  it('counts several readings of one gauge as one item, known as well as the worst of them', () => {
    const measured = dealBench(pack, { form: 'measured', seed: 2, size: 20, system: 'si' });
    const answers = measured.cases.map((each, i) =>
      i === 0 ? ({ grade: 'stop', act: 'go-on', by: null } as const) : rightAnswer(pack, each),
    );
    const reviews = benchReviews(pack, measured, answers, AT);
    expect(reviews.length).toBeLessThan(measured.cases.length);
    expect(new Set(reviews.map((each) => each.item)).size).toBe(reviews.length);
    expect(reviews.find((each) => each.item === benchItem(measured.cases[0]!))!.outcome).not.toBe('right');
  });

  it('of numbers is right or wrong', () => {
    const questions = dealNumbers(pack, { seed: 1, size: 2 });
    const answers = [questions[0]!.right, (questions[1]!.right + 1) % 4];
    expect(numberReviews(questions, answers, AT).map((each) => [each.item, each.outcome])).toEqual([
      [numberItem(questions[0]!.number), 'right'],
      [numberItem(questions[1]!.number), 'wrong'],
    ]);
    expect(numberReviews(questions, [null, null], AT)).toEqual([]);
  });
});

describe('a finding', () => {
  it('that no row or gauge of the class has is refused', () => {
    expect(() => gradeFinding({ checkpoint: 'CF-01', fault: 'CF-F999' }, pack)).toThrow(RangeError);
  });
});
