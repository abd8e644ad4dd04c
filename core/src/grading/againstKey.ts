import { type Grade, GRADES, severity } from '../catalogue';
import {
  agreementTable,
  cohenKappa,
  cohenKappaInterval,
  type Interval,
  type Kappa,
  type KappaInterval,
  wilsonInterval,
} from '../statistics';

/** One graded finding: what was said and what the key says. */
export interface GradedPair {
  id: string;
  given: Grade;
  key: Grade;
}

export interface GradingComparison {
  n: number;
  /** Rows = key, columns = given, in the order sound, watch, mend, stop. */
  confusion: number[][];
  linear: Kappa;
  quadratic: Kappa;
  linearInterval: KappaInterval | null;
  exact: number;
  tooLow: { count: number; share: number | null; interval: Interval | null };
  tooHigh: number;
  /** Stops called sound or watch, listed whatever the average. */
  criticalMisses: GradedPair[];
}

/**
 * Compares a learner's grades with the key: confusion, weighted kappa with its large-sample interval, share
 * graded too low.
 */
export function compareWithKey(pairs: readonly GradedPair[]): GradingComparison {
  const confusion = agreementTable(
    pairs.map((each) => each.key),
    pairs.map((each) => each.given),
    GRADES,
  );
  const low = pairs.filter((each) => severity(each.given) < severity(each.key)).length;
  const n = pairs.length;
  return {
    n,
    confusion,
    linear: cohenKappa(confusion, 'linear'),
    quadratic: cohenKappa(confusion, 'quadratic'),
    linearInterval: n < 2 ? null : cohenKappaInterval(confusion, 'linear'),
    exact: pairs.filter((each) => each.given === each.key).length,
    tooLow: {
      count: low,
      share: n === 0 ? null : low / n,
      interval: n === 0 ? null : wilsonInterval(low, n),
    },
    tooHigh: pairs.filter((each) => severity(each.given) > severity(each.key)).length,
    criticalMisses: pairs.filter((each) => each.key === 'stop' && severity(each.given) <= severity('watch')),
  };
}
