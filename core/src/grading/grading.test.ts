import { describe, expect, it } from 'vitest';
import { compose, GRADES, severity, UNTIL_BOUNDS, type UntilBound } from '../catalogue';
import { forkliftPack } from '../testing';
import { gradeReading } from '../catalogue';
import { compareWithKey, dueBy, gradeFinding, GRADING_SCALES, scaleLosses } from './index';

const pack = compose(forkliftPack(), { variant: 'diesel' });
const graded = compose(forkliftPack(), { variant: 'diesel', choices: { 'CF-D01': 'four-grades' } });

describe('grading a finding', () => {
  it('takes the fork heel out of use at 10 % wear and watches it from 5 % (ISO 5057, from memory)', () => {
    const gauge = pack.checkpoints.find((each) => each.id === 'CF-11')!.gauges![0]!;
    expect([4.9, 5, 9.9, 10, 14].map((wear) => gradeReading(gauge, wear).grade)).toEqual([
      'sound',
      'watch',
      'watch',
      'stop',
      'stop',
    ]);
  });
  it('takes a two-sided gauge on both sides: fork spread by the pallet (common practice)', () => {
    const gauge = pack.checkpoints.find((each) => each.id === 'CF-13')!.gauges![0]!;
    expect([0.49, 0.5, 0.6, 0.75, 0.76].map((spread) => gradeReading(gauge, spread).grade)).toEqual([
      'mend',
      'sound',
      'sound',
      'sound',
      'mend',
    ]);
  });
  it('takes the worse of fault and reading, and names the limit used', () => {
    const graded = gradeFinding(
      { checkpoint: 'CF-11', fault: 'CF-F07', readings: [{ quantity: 'heel wear', value: 11 }] },
      pack,
    );
    expect(graded.grade).toBe('stop');
    expect(graded.limitsUsed).toMatchObject([{ quantity: 'heel wear', at: 10 }]);
  });
  it('is raised one step by what the machine is used for, where that bears on the part', () => {
    // The forklift's default withdraws the truck for damaged lenses; this site uses four grades.
    const lens = { checkpoint: 'CF-32', fault: 'CF-F97' };
    expect(gradeFinding(lens, pack).grade).toBe('stop');
    expect(gradeFinding(lens, graded).grade).toBe('mend');
    expect(gradeFinding(lens, graded, ['works-on-road'])).toMatchObject({ grade: 'stop', until: null });
    expect(gradeFinding(lens, graded, ['lifts-over-people']).grade).toBe('mend');
  });
  it('says until when a mend may go on and who may clear it', () => {
    const lens = gradeFinding({ checkpoint: 'CF-32', fault: 'CF-F97' }, graded, [], '2026-05-04');
    expect(lens).toMatchObject({
      grade: 'mend',
      until: { bound: 'shift' },
      dueBy: '2026-05-04',
      mayClear: 'competent',
    });
    expect(lens.act).toContain(lens.until!.says);
  });
  it('counts the days a bound gives on the calendar, and gives no date where it names a condition', () => {
    const due = (bound: UntilBound, n?: number) =>
      dueBy({ bound, says: 'as it is said here', ...(n === undefined ? {} : { n }) }, '2028-02-28');
    expect(UNTIL_BOUNDS.map((bound) => due(bound, 3))).toEqual([
      '2028-02-28',
      '2028-02-28',
      '2028-02-28',
      '2028-02-28',
      '2028-03-02',
      null,
      null,
    ]);
    expect([due('hours', 23.5), due('hours', 24), due('hours', 60)]).toEqual([
      '2028-02-28',
      '2028-02-29',
      '2028-03-01',
    ]);
  });
  it('refuses what the class does not have and readings that are no numbers', () => {
    expect(() => gradeFinding({ checkpoint: 'nowhere' }, pack)).toThrow(RangeError);
    expect(() =>
      gradeFinding({ checkpoint: 'CF-11', readings: [{ quantity: 'heel wear', value: Number.NaN }] }, pack),
    ).toThrow(/not a number/);
    expect(() =>
      gradeFinding({ checkpoint: 'CF-11', readings: [{ quantity: 'mood', value: 1 }] }, pack),
    ).toThrow(/no gauge/);
  });
});

describe('a learner against the key', () => {
  it('lists a stop called watch as a critical miss whatever the average', () => {
    const pairs = [
      ...Array.from({ length: 20 }, (_, i) => ({
        id: `f${i}`,
        given: 'mend' as const,
        key: 'mend' as const,
      })),
      { id: 'brake', given: 'watch' as const, key: 'stop' as const },
    ];
    const result = compareWithKey(pairs);
    expect(result.criticalMisses.map((each) => each.id)).toEqual(['brake']);
    expect(result.tooLow).toMatchObject({ count: 1 });
    expect(result.confusion[3]![1]).toBe(1);
  });
  it('says undefined for kappa when all fall in one grade, and nothing for no findings', () => {
    expect(compareWithKey([{ id: 'a', given: 'stop', key: 'stop' }]).quadratic.kappa).toBeNull();
    expect(compareWithKey([])).toMatchObject({ n: 0, tooLow: { share: null, interval: null } });
  });
  it('loses on another scale exactly the grades it names, and nothing the other way round', () => {
    for (const scale of GRADING_SCALES) {
      const losses = scaleLosses(scale);
      for (const grade of GRADES) {
        const back = scale.to[scale.from[grade]]!;
        expect(losses.find((each) => each.grade === grade)?.back ?? grade).toBe(back);
        // What is lost is read the stricter.
        expect(severity(back)).toBeGreaterThanOrEqual(severity(grade));
      }
      for (const level of scale.levels) expect(scale.from[scale.to[level]!]).toBe(level);
    }
    expect(scaleLosses(GRADING_SCALES[2]!).map((each) => each.says)).toEqual([
      'watch is written "amber", the same as mend, and is read as mend',
    ]);
  });
});
