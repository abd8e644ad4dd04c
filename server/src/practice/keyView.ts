import type { GradingKey, GradingSummary } from '@rounds/contract';
import {
  comparisonWords,
  type Grading,
  type GradingComparison,
  reasonOriginWords,
  rightActs,
  rightBound,
} from '@rounds/core/grading';

/** The key of a finding as it is answered: its grade, every reason with its origin, and what is to be done. */
export function keyView(key: Grading): GradingKey {
  return {
    grade: key.grade,
    reasons: key.reasons.map(({ says, origin, grade }) => ({
      says,
      grade,
      origin: reasonOriginWords(origin),
    })),
    acts: rightActs(key),
    instructions: key.act,
    by: rightBound(key),
    until: key.until?.says ?? null,
    mayClear: key.mayClear,
  };
}

/** A comparison with the key as it is answered, with its sentences. */
export function gradingSummary(comparison: GradingComparison): GradingSummary {
  const { n, exact, confusion, tooLow, tooHigh, linear, linearInterval, criticalMisses } = comparison;
  return {
    n,
    exact,
    confusion,
    tooLow: { count: tooLow.count, interval: tooLow.interval },
    tooHigh,
    kappa: linear.kappa,
    kappaInterval: linearInterval && { low: linearInterval.low, high: linearInterval.high },
    criticalMisses: criticalMisses.map((each) => each.id),
    says: comparisonWords(comparison),
  };
}
