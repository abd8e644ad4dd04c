import { describe, expect, it } from 'vitest';
import { compose, type EffectivePack } from '../catalogue';
import { forkliftPack, shippedClasses, shippedPack } from '../testing';
import {
  calibrateReplay,
  evaluatorStanding,
  evaluatorStandingWords,
  recordReplay,
  REPLAY_LENGTHS,
  replayCredit,
  type ReplayCriterion,
  type ReplayedRound,
  type ReplayScore,
} from './index';

const packs: [string, EffectivePack][] = shippedClasses().map((id) => {
  const pack = shippedPack(id);
  return [id, compose(pack, { variant: pack.variants[0]!.id })];
});
const forklift = compose(forkliftPack(), { variant: forkliftPack().variants[0]!.id });

/** Scores a criterion by what is seen and heard alone, as a trainer who keeps to the rules does. */
function byEar(
  { moments }: ReplayedRound,
  { id, section, title, grade, says }: ReplayCriterion,
): ReplayScore {
  const part = section === 'findings' ? title.slice(0, title.lastIndexOf(': ')) : title;
  const heard = moments.filter((each) => each.about === part || title.startsWith(`${each.about}: `));
  const asked = heard.some((each) => each.says.startsWith('You say'));
  if (section === 'checks') {
    const made = heard.some((each) => /^The operator (?!glances|says nothing)/.test(each.says));
    return !made ? 'not' : heard.some((each) => each.says.includes('Anything else')) ? 'prompted' : 'done';
  }
  if (section === 'findings') {
    const named = heard.some((each) => each.says.endsWith(`I call that ${grade}.”`));
    return !named ? 'not' : asked ? 'prompted' : 'done';
  }
  const least = /^At least (\d+) s$/.exec(says)?.[1];
  const waited = heard.map((each) => /waits (\d+) s/.exec(each.says)?.[1]).find(Boolean);
  const done = heard.some((each) => each.says.startsWith('The operator does it'));
  expect(id).toMatch(/^step:/);
  return !done || (least !== undefined && Number(waited) < Number(least))
    ? 'not'
    : asked
      ? 'prompted'
      : 'done';
}

describe('a replayed round', () => {
  it.each(packs)('of %s can be scored by what is seen and heard, and is worth the key', (_, pack) => {
    for (const length of REPLAY_LENGTHS)
      for (const seed of [1, 2, 3]) {
        const round = recordReplay(pack, { seed, length });
        expect(new Set(round.criteria.map((each) => each.id)).size).toBe(round.criteria.length);
        expect(round.criteria.length).toBeGreaterThan(12);
        expect(round.moments.every((each, i) => i === 0 || each.at >= round.moments[i - 1]!.at)).toBe(true);
        for (const each of round.criteria) expect([each.id, byEar(round, each)]).toEqual([each.id, each.key]);
      }
  });

  it('is the same for the same seed, and another for another', () => {
    const [one, again, other] = [5, 5, 6].map((seed) => recordReplay(forklift, { seed, length: 'short' }));
    expect(again).toEqual(one);
    expect(other).not.toEqual(one);
  });

  it.each(packs)('of %s is right for nobody who always gives the same, who is told so', (_, pack) => {
    const { criteria } = recordReplay(pack, { seed: 9, length: 'whole' });
    for (const score of ['done', 'prompted', 'not'] as const) {
      const given = Object.fromEntries(criteria.map(({ id }) => [id, score]));
      const [own] = calibrateReplay(criteria, [{ evaluator: 'a', scores: given }], 0.5).evaluators;
      expect(own!.kappa).toBeCloseTo(0, 12);
      expect(own!.exact / own!.n).toBeLessThan(0.67);
      if (score === 'done') expect(own!.interval!.low).toBeGreaterThan(0);
    }
  });

  it('gives what the sheet gives for a prompt', () => {
    expect((['done', 'prompted', 'not'] as const).map((each) => replayCredit(each, 0.4))).toEqual([
      1, 0.4, 0,
    ]);
    const { criteria } = recordReplay(forklift, { seed: 4, length: 'short' });
    const key = Object.fromEntries(criteria.map((each) => [each.id, each.key]));
    const { evaluators, icc } = calibrateReplay(
      criteria,
      [
        { evaluator: 'a', scores: key },
        { evaluator: 'b', scores: key },
      ],
      forklift.sheet.promptCredit,
    );
    expect(evaluators[0]).toMatchObject({ severity: 0, exact: criteria.length, kappa: 1 });
    expect(icc!.icc21).toBeCloseTo(1, 12);
  });
});

describe('whether an evaluator is calibrated', () => {
  it.each([
    [null, null, 'not-asked', 'ask for none'],
    ['2026-03-31', null, 'not-asked', 'Calibrated on 31 March 2026.'],
    [null, 12, 'never', 'which the rules ask for'],
    ['2026-03-31', 12, 'calibrated', 'good until 31 March 2027'],
    ['2025-08-31', 6, 'due', 'again by 28 February 2026'],
    ['2025-11-27', 12, 'due', 'again by 27 November 2026'],
    ['2025-11-28', 12, 'calibrated', 'good until 28 November 2026'],
  ] as const)('on %s with %s months: %s', (last, months, state, words) => {
    const standing = evaluatorStanding(last, months, '2026-11-27');
    expect(standing.state).toBe(state);
    expect(evaluatorStandingWords(standing)).toContain(words);
  });
});
