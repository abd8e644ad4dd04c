import { seededRandom } from '../statistics';
import type { CalibrationCriterion, EvaluatorScores } from './calibrate';

/** An evaluator as a simulation has them: how much more than the key they give on the whole, and how much that varies. */
export interface SimulatedEvaluator {
  evaluator: string;
  severity: number;
  spread: number;
}

/** Two uniform numbers as a normal one (G. E. P. Box and M. E. Muller, 1958). */
function normal(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}

/**
 * Scores of simulated evaluators on a round, for trying out whether `calibrate` finds their severity again. Credits are
 * not cut off at 0 and 1, so that the severity put in is the severity there is.
 */
export function simulateScores(
  criteria: readonly CalibrationCriterion[],
  evaluators: readonly SimulatedEvaluator[],
  seed: number,
): EvaluatorScores[] {
  const random = seededRandom(seed);
  return evaluators.map(({ evaluator, severity, spread }) => ({
    evaluator,
    credits: criteria.map((each) => each.key + severity + spread * normal(random)),
  }));
}
