import { GRADES } from '../catalogue';
import { wilsonInterval } from '../statistics';
import type { GradingComparison } from './againstKey';

/** Findings from which on agreement beyond chance is spoken of. */
const ENOUGH = 10;

const percent = (share: number): string => `${Math.round(100 * share)} %`;

/** A share with what it may truly be, by as few or many as there were. */
function shareWords(count: number, n: number): string {
  const { low, high } = wilsonInterval(count, n);
  return `${count} of ${n} (95 % interval ${percent(low)} to ${percent(high)})`;
}

/**
 * What a comparison with the key says in plain words for this many findings: how many were right, what was graded too
 * low, and whether it is more than luck. Whoever says the same of everything is told so.
 */
export function comparisonWords({
  n,
  exact,
  confusion,
  linear,
  linearInterval,
  tooLow,
  tooHigh,
  criticalMisses,
}: GradingComparison): string[] {
  if (n === 0) return ['Nothing was graded.'];
  const says = [`Graded as the key has it: ${shareWords(exact, n)}.`];
  if (criticalMisses.length > 0)
    says.push(
      `${criticalMisses.length} ${criticalMisses.length === 1 ? 'stop was' : 'stops were'} called sound or watch: ` +
        'that is what hurts people, whatever the rest says.',
    );
  says.push(
    tooLow.count === 0 ? 'Nothing was graded too low.' : `Graded too low: ${shareWords(tooLow.count, n)}.`,
  );
  if (tooHigh > 0) says.push(`${tooHigh} graded too high: machines stand that might work.`);
  const used = GRADES.filter((_, j) => confusion.some((row) => row[j]! > 0));
  if (used.length === 1 && n > 3)
    says.push(`Everything was called ${used[0]}: that tells nothing apart, and is no better than chance.`);
  else if (n < ENOUGH)
    says.push(`${n} findings are too few to tell skill from luck; from ${ENOUGH} on it can be said.`);
  else if (linear.kappa === null || !linearInterval)
    says.push('Key and answers are all of one grade, so agreement beyond chance cannot be said.');
  else if (linearInterval.low <= 0)
    says.push(
      `Agreement beyond chance (weighted kappa) is ${linear.kappa.toFixed(2)}, and chance alone could do it.`,
    );
  else
    says.push(
      `Agreement beyond chance (weighted kappa) is ${linear.kappa.toFixed(2)}, ` +
        `between ${linearInterval.low.toFixed(2)} and ${Math.min(1, linearInterval.high).toFixed(2)}; 1 is the key itself.`,
    );
  return says;
}
