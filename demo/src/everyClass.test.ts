import { compose, type EffectivePack } from '@rounds/core/catalogue';
import {
  appraise,
  type EvaluationEvent,
  foldEvaluation,
  proposePlants,
  type Recording,
} from '@rounds/core/evaluation';
import { seededRandom } from '@rounds/core/statistics';
import { describe, expect, it } from 'vitest';
import { shippedClasses, shippedPack } from '../../core/src/testing';
import { simulateEvaluation, type Skill } from './index';

/** Every class can be taught and assessed from end to end, whatever powers the machine. */
/** Above 1, so that the simulator leaves nothing to chance. */
const SKILLED = { thorough: 1.05, hands: 1.05, sharp: 1.05, grading: 1.05, pace: 1 };
const CARELESS = { thorough: 0.35, hands: 0.2, sharp: 0.1, grading: 0.2, pace: 0.4 };

function events(effective: EffectivePack, skill: Omit<Skill, 'start'>, recording?: Recording) {
  const planted = proposePlants(effective, 4, 7).map((each) => each.id);
  const start = effective.plan.stations.find((each) => each.at)!.id;
  return simulateEvaluation(
    effective,
    { ...skill, start },
    {
      startedAt: '2026-05-05T09:00:00.000Z',
      planted,
      random: seededRandom(5),
      earlierStarts: [],
      sign: false,
      ...(recording ? { recording } : {}),
    },
  );
}
const judge = (effective: EffectivePack, of: readonly EvaluationEvent[]) =>
  appraise(effective, foldEvaluation(of), []);

/** Score lost by whoever makes every check with the eyes alone, worked out from the class by itself. */
function lookingLoses(effective: EffectivePack): number {
  let weight = 0;
  let seen = 0;
  for (const check of effective.checkpoints) {
    const faults = effective.faults.filter((each) => each.checkpoint === check.id && each.grade !== 'sound');
    if (faults.length === 0) continue;
    weight += check.weight;
    const showsToEyes = faults.some((each) => each.cues.some((cue) => cue.method === 'look'));
    // Where the check does not allow a look, the operator does what it asks for.
    if (!check.methods.includes('look') || showsToEyes) seen += check.weight;
  }
  const criteria = effective.sheet.sections.flatMap((each) => each.criteria);
  const total = criteria.reduce((sum, each) => sum + each.weight, 0);
  const handsOn = criteria.find((each) => each.link?.measure === 'hands-on')!.weight;
  return (100 * handsOn * (1 - seen / weight)) / total;
}

it('has classes where the eye alone loses points, and one in which every check shows something to it', () => {
  const loses = shippedClasses().map((id) => {
    const pack = shippedPack(id);
    return lookingLoses(compose(pack, { variant: pack.variants[0]!.id }));
  });
  expect(loses.filter((each) => each > 0).length).toBeGreaterThanOrEqual(6);
  expect(Math.min(...loses)).toBe(0);
});

describe.each(shippedClasses())('%s', (id) => {
  const pack = shippedPack(id);
  it.each(pack.variants.map((each) => each.id))(
    '%s: faults can be planted, a skilled operator has all points either way, a careless one does not pass',
    (variant) => {
      const effective = compose(pack, { variant });
      const planted = proposePlants(effective, 4, 7).map((each) => each.id);
      expect(planted.length).toBeGreaterThanOrEqual(3);
      expect(new Set(planted).size).toBe(planted.length);
      for (const recording of ['each-check', 'by-exception'] as const) {
        const good = judge(effective, events(effective, SKILLED, recording));
        expect(good.outcome, JSON.stringify(good.reasons)).toBe('competent');
        expect(good.score).toBe(100);
        expect(good.analysis.handsOn.blind).toEqual([]);
        expect(good.analysis.pace.hurriedStations).toEqual([]);
      }
      const bad = judge(effective, events(effective, CARELESS));
      expect(bad.outcome).not.toBe('competent');
      expect(bad.reasons.length).toBeGreaterThan(0);
      expect(bad.score!).toBeLessThan(100);
    },
  );

  const effective = compose(pack, { variant: pack.variants[0]!.id });
  it('takes from whoever only looks what hands-on predicts', () => {
    const looked = judge(
      effective,
      events(effective, SKILLED).map((each) =>
        each.body.kind === 'checked' &&
        effective.checkpoints
          .find((c) => c.id === (each.body as { checkpoint: string }).checkpoint)!
          .methods.includes('look')
          ? { ...each, body: { ...each.body, method: 'look' as const } }
          : each,
      ),
    );
    const loses = lookingLoses(effective);
    expect(looked.score).toBeCloseTo(100 - loses, 1);
  });

  it('does not pass who leaves out the last station, or who ticks faster than can be', () => {
    const whole = events(effective, SKILLED);
    const ring = judge(effective, whole).analysis.path.sequence;
    const last = ring.at(-1)!;
    const own = new Set(effective.checkpoints.filter((c) => c.station === last).map((c) => c.id));
    const skipped = judge(
      effective,
      whole.filter(
        ({ body }) =>
          !(body.kind === 'arrived' && body.station === last) &&
          !('checkpoint' in body && body.checkpoint !== undefined && own.has(body.checkpoint)),
      ),
    );
    expect(skipped.outcome).toBe('not-yet');
    expect(skipped.reasons.some((each) => each.weighs === 'against' && /not closed/.test(each.text))).toBe(
      true,
    );
    const begun = Date.parse(whole.find((each) => each.body.kind === 'round-started')!.at);
    const hurried = judge(
      effective,
      whole.map((each) => ({
        ...each,
        at: new Date(begun + (Date.parse(each.at) - begun) / 3).toISOString(),
      })),
    );
    expect(hurried.outcome).toBe('not-yet');
    expect(
      hurried.reasons.some((each) => each.weighs === 'against' && /Faster than honest/.test(each.text)),
    ).toBe(true);
  });
});
