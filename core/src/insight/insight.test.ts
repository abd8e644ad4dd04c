import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { type EvaluationEventBody, foldEvaluation } from '../evaluation';
import { namedMethod } from '../round';
import { wilsonInterval } from '../statistics';
import { forkliftPack } from '../testing';
import { type Counted, LEAST_COUNTED, observe, shares, trendWords, wholeShare } from './index';

const pack = compose(forkliftPack(), { variant: 'diesel' });
const plantable = pack.faults.filter((each) => each.plant && each.grade !== 'sound');
function record(bodies: readonly EvaluationEventBody[]) {
  return foldEvaluation(
    bodies.map((body, i) => ({
      id: `00000000-0000-7000-8000-${String(i).padStart(12, '0')}`,
      at: new Date(Date.UTC(2026, 0, 5, 8, 0, i * 10)).toISOString(),
      body,
    })),
  );
}
const counted = (key: string, failed: number, of: number, who = of): Counted[] =>
  Array.from({ length: of }, (_, i) => ({ key, name: key, who: `p${i % who}`, failed: i < failed }));

describe('what is counted of an evaluation', () => {
  it('has every check with its result, and every planted fault with how it was graded', () => {
    const [found, low, unseen] = plantable as [
      (typeof plantable)[0],
      (typeof plantable)[0],
      (typeof plantable)[0],
    ];
    const [done, prompted] = pack.checkpoints.filter(
      (each) => ![found, low, unseen].some((fault) => fault.checkpoint === each.id),
    );
    const report = (fault: typeof found, grade: 'watch' | typeof found.grade, asked = false) =>
      ({
        kind: 'reported',
        checkpoint: fault.checkpoint,
        fault: fault.id,
        grade,
        prompted: asked,
        real: false,
      }) as const;
    const { checks, faults } = observe(
      pack,
      record([
        ...[found, low, unseen].map((each) => ({ kind: 'planted', fault: each.id }) as const),
        { kind: 'round-started' },
        { kind: 'checked', checkpoint: done!.id, result: 'done' },
        { kind: 'checked', checkpoint: prompted!.id, result: 'prompted' },
        report(found, found.grade),
        report(low, 'watch', true),
        { kind: 'round-ended' },
      ]),
    );
    expect(checks).toHaveLength(pack.checkpoints.length);
    const of = (id: string) => checks.find((each) => each.checkpoint === id)!;
    expect(of(done!.id)).toMatchObject({
      result: 'done',
      system: done!.system,
      method: namedMethod(pack, done!),
    });
    expect(of(prompted!.id).result).toBe('prompted');
    expect(of(unseen.checkpoint).result).toBe('missed');
    expect(faults.map(({ fault, found: how, given }) => [fault, how, given])).toEqual([
      [found.id, 'found', found.grade],
      [low.id, 'prompted', 'watch'],
      [unseen.id, 'missed', null],
    ]);
  });
});

describe('shares', () => {
  it('have Wilson’s interval, the surest first and what is too few last', () => {
    const list = shares(
      [...counted('few', 4, 4), ...counted('often', 30, 40), ...counted('rare', 2, 40)],
      'missed',
    );
    expect(list.map((each) => each.key)).toEqual(['often', 'rare', 'few']);
    expect(list[0]).toMatchObject({ count: 30, n: 40, share: 0.75, ...wilsonInterval(30, 40) });
    expect(list[0]!.says).toBe('30 of 40 missed; by chance alone anything from 60 % to 86 %.');
    expect(list[2]!.says).toBe('4 of 4 missed: too few to judge.');
  });

  it('say when few people are behind many', () => {
    expect(shares(counted('x', 5, LEAST_COUNTED * 2, 2), 'missed')[0]!.says).toContain('only 2 people');
    expect(wholeShare([], 'missed')).toBeNull();
    expect(wholeShare([...counted('a', 1, 2), ...counted('b', 3, 4)], 'missed')).toMatchObject({
      count: 4,
      n: 6,
    });
  });

  it('speak of a trend only where the months are apart beyond chance', () => {
    const month = (key: string, failed: number, of: number) => shares(counted(key, failed, of), 'missed')[0]!;
    expect(trendWords([month('1', 30, 60), month('2', 3, 60)])).toMatch(
      /^Better over the months: 50 % at first, 5 % lately/,
    );
    expect(trendWords([month('1', 3, 60), month('2', 30, 60)])).toMatch(/^Worse over the months/);
    expect(trendWords([month('1', 10, 30), month('2', 8, 30)])).toContain('no more than chance');
    expect(trendWords([month('1', 1, 3), month('2', 8, 30)])).toContain('Too few');
    expect(trendWords([])).toContain('Too few');
  });
});
