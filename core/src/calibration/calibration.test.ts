import { describe, expect, it } from 'vitest';
import { intraclassCorrelations, mean } from '../statistics';
import { calibrate, type CalibrationCriterion, severityWords } from './index';
import { simulateScores } from './simulate';

const criteria: CalibrationCriterion[] = Array.from({ length: 24 }, (_, i) => ({
  id: `c${i}`,
  section: i < 12 ? 'round' : 'start',
  key: [1, 0.5, 1, 0, 1, 1][i % 6]!,
}));
const keyed = criteria.map((each) => each.key);
const up = (credit: number) => Math.min(1, credit + 0.5);
const down = (credit: number) => Math.max(0, credit - 0.5);

describe('calibration', () => {
  it('finds nobody mild or severe who scores as the key does', () => {
    const found = calibrate(criteria, [
      { evaluator: 'a', credits: keyed },
      { evaluator: 'b', credits: keyed },
    ]);
    for (const each of found.evaluators)
      expect(each).toMatchObject({ severity: 0, exact: 24, kappa: 1, apart: [] });
    expect(found.criteria.every((each) => each.agreed === 1 && each.severity === 0)).toBe(true);
    expect(found.says[0]).toContain('Nobody');
  });

  it('tells the mild from the severe, and on what', () => {
    const { evaluators, says } = calibrate(criteria, [
      { evaluator: 'mild', credits: keyed.map(up) },
      { evaluator: 'severe on starts', credits: keyed.map((each, i) => (i < 12 ? each : down(each))) },
    ]);
    const [mild, severe] = evaluators as [(typeof evaluators)[0], (typeof evaluators)[0]];
    expect(mild.severity).toBeCloseTo(mean(keyed.map((each) => up(each) - each)), 12);
    expect(mild.interval!.low).toBeGreaterThan(0);
    expect(severityWords(mild)).toMatch(/^Mild: gives 17 points/);
    expect(severe.apart.map((each) => each.section)).toEqual(['start']);
    expect(severityWords(severe)).toMatch(/^Severe/);
    expect(says.slice(0, 2)).toEqual([
      'Mild, beyond what chance explains: mild.',
      'Severe, beyond what chance explains: severe on starts.',
    ]);
  });

  it('has the intraclass correlations of the statistics, over what everybody scored', () => {
    const third = keyed.map((each, i) => (i === 3 ? null : i % 5 === 0 ? down(each) : each));
    const { icc, iccIntervals } = calibrate(criteria, [
      { evaluator: 'a', credits: keyed },
      { evaluator: 'b', credits: keyed.map(up) },
      { evaluator: 'c', credits: third },
    ]);
    const rows = keyed.flatMap((each, i) => (third[i] === null ? [] : [[each, up(each), third[i]!]]));
    expect(icc).toEqual(intraclassCorrelations(rows));
    for (const form of ['icc11', 'icc21', 'icc31', 'icc1k', 'icc2k', 'icc3k'] as const) {
      expect(iccIntervals![form].low).toBeLessThanOrEqual(icc![form]);
      expect(iccIntervals![form].high).toBeGreaterThanOrEqual(icc![form]);
    }
  });

  it('puts the criteria on which they differ first', () => {
    const { criteria: list } = calibrate(criteria, [
      { evaluator: 'a', credits: keyed },
      { evaluator: 'b', credits: keyed.map((each, i) => (i === 6 ? 1 - each : each)) },
      { evaluator: 'c', credits: keyed },
    ]);
    expect(list[0]).toMatchObject({ id: 'c6', n: 3, agreed: 2 / 3 });
    expect(list[1]!.agreed).toBe(1);
  });

  it('says where there is too little to say anything', () => {
    const few = calibrate(criteria.slice(0, 3), [{ evaluator: 'a', credits: [1, 1, 1] }]);
    expect(severityWords(few.evaluators[0]!)).toContain('too few');
    expect(few.icc).toBeNull();
    expect(few.says[1]).toContain('Too few criteria');
    const none = calibrate(criteria, [{ evaluator: 'a', credits: keyed.map(() => null) }]);
    expect(none.evaluators[0]).toMatchObject({ n: 0, severity: null, interval: null, kappa: null });
    expect(() => calibrate(criteria, [{ evaluator: 'a', credits: [1] }])).toThrow(RangeError);
  });

  it('recovers known severities within its interval about as often as it says', () => {
    const evaluators = [-0.2, -0.08, 0, 0.05, 0.18].map((severity, i) => ({
      evaluator: `e${i}`,
      severity,
      spread: 0.1 + 0.04 * i,
    }));
    let held = 0;
    for (let seed = 1; seed <= 40; seed++) {
      const found = calibrate(criteria, simulateScores(criteria, evaluators, seed)).evaluators;
      held += found.filter(({ interval }, i) => {
        const { severity } = evaluators[i]!;
        return interval!.low <= severity && severity <= interval!.high;
      }).length;
    }
    expect(held / 200).toBeGreaterThan(0.92);
    expect(held / 200).toBeLessThan(0.98);
  });
});
