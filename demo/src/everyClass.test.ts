import { compose } from '@rounds/core/catalogue';
import { appraise, foldEvaluation, proposePlants, seededRandom } from '@rounds/core/evaluation';
import { describe, expect, it } from 'vitest';
import { shippedClasses, shippedPack } from '../../core/src/testing';
import { simulateEvaluation } from './index';

/** Every class can be taught and assessed from end to end, whatever powers the machine. */
/** Above 1, so that the simulator leaves nothing to chance. */
const SKILLED = { thorough: 1.05, sharp: 1.05, grading: 1.05, pace: 1 };
const CARELESS = { thorough: 0.35, sharp: 0.1, grading: 0.2, pace: 0.4 };

describe.each(shippedClasses())('%s', (id) => {
  const pack = shippedPack(id);
  it.each(pack.variants.map((each) => each.id))(
    '%s: faults can be planted, a skilled operator passes, a careless one does not',
    (variant) => {
      const effective = compose(pack, { variant });
      const planted = proposePlants(effective, 4, 7).map((each) => each.id);
      expect(planted.length).toBe(4);
      expect(new Set(planted).size).toBe(4);
      const start = effective.plan.stations.find((each) => each.at)!.id;
      const run = (skill: typeof SKILLED) =>
        appraise(
          effective,
          foldEvaluation(
            simulateEvaluation(
              effective,
              { ...skill, start },
              {
                startedAt: '2026-05-05T09:00:00.000Z',
                planted,
                random: seededRandom(5),
                earlierStarts: [],
                sign: false,
              },
            ),
          ),
          [],
        );
      const good = run(SKILLED);
      expect(good.outcome, JSON.stringify(good.reasons)).toBe('competent');
      expect(good.score).toBe(100);
      const bad = run(CARELESS);
      expect(bad.outcome).not.toBe('competent');
      expect(bad.reasons.length).toBeGreaterThan(0);
      expect(bad.score!).toBeLessThan(good.score!);
    },
  );
});
