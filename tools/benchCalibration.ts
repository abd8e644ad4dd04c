import { calibrate, type CalibrationCriterion } from '@rounds/core/calibration';
import { simulateScores } from '../core/src/calibration/simulate';

/** Whether a calibration finds again what evaluators are known to give: five of them, over many repeats. */
const REPEATS = 500;
const CRITERIA = 30;
const EVALUATORS = [-0.2, -0.08, 0, 0.05, 0.18].map((severity, i) => ({
  evaluator: `evaluator ${i + 1}`,
  severity,
  spread: 0.1 + 0.04 * i,
}));

export function benchCalibration(row: (what: string, figure: string, baseline?: string) => void): void {
  const criteria: CalibrationCriterion[] = Array.from({ length: CRITERIA }, (_, i) => ({
    id: `c${i}`,
    section: i < CRITERIA / 2 ? 'round' : 'start',
    key: [1, 0.5, 1, 0, 1, 1][i % 6]!,
  }));
  const held = EVALUATORS.map(() => 0);
  const sums = EVALUATORS.map(() => 0);
  for (let seed = 1; seed <= REPEATS; seed++)
    calibrate(criteria, simulateScores(criteria, EVALUATORS, seed)).evaluators.forEach((each, i) => {
      const { severity } = EVALUATORS[i]!;
      sums[i]! += each.severity!;
      if (each.interval!.low <= severity && severity <= each.interval!.high) held[i]! += 1;
    });
  EVALUATORS.forEach(({ evaluator, severity }, i) =>
    row(
      `calibration: ${evaluator}, severity put in and found`,
      `${severity.toFixed(3)} / ${(sums[i]! / REPEATS).toFixed(3)}`,
      `within its interval in ${((100 * held[i]!) / REPEATS).toFixed(1)} % of ${REPEATS}`,
    ),
  );
  const all = held.reduce((sum, each) => sum + each, 0) / (REPEATS * EVALUATORS.length);
  row('calibration: within the 95 % interval, all together', `${(100 * all).toFixed(1)} %`);
}
