import type { EffectivePack } from '../catalogue';
import { caseItem, type CaseResult, possibleCases } from '../drill';
import type { StepResult } from '../procedure';
import { stepItem } from './items';
import { OUTCOMES, type PracticeOutcome, type PracticeReview } from './spacing';

function outcomeOf({ right, blind, called, key, outcome }: CaseResult): PracticeOutcome {
  if (right && !blind) return 'right';
  // A guess that was right, and a fault that was found but graded otherwise, are known by half.
  return right || (outcome === 'hit' && called !== null && key !== 'sound') ? 'nearly' : 'wrong';
}

/**
 * What a drill says about the memory of its items. A part of which nothing was called was not practised. A wrong call
 * was mistaken for the cases of the same check that have the grade called.
 */
export function drillReviews(
  pack: EffectivePack,
  cases: readonly CaseResult[],
  at: string,
): PracticeReview[] {
  const possible = possibleCases(pack);
  return cases
    .filter((each) => each.called !== null)
    .map((each) => ({
      item: caseItem({ checkpoint: each.checkpoint, fault: each.fault?.id ?? null }),
      at,
      outcome: outcomeOf(each),
      mistakenFor: each.right
        ? []
        : possible
            .filter((one) => one.checkpoint === each.checkpoint && one.grade === each.called)
            .map(caseItem),
    }));
}

/**
 * What a session of start and stop, judged, says about the memory of its steps. A step that was prompted, or done but
 * not for long enough or not in its condition, is known by half; one that was not due says nothing.
 */
export function stepReviews(steps: readonly StepResult[], at: string): PracticeReview[] {
  return steps
    .filter((each) => each.due)
    .map(({ id, flawed, state }) => ({
      item: stepItem(id),
      at,
      outcome: !flawed ? 'right' : state === 'done' || state === 'prompted' ? 'nearly' : 'wrong',
    }));
}

/** One review an item, of what was asked several times at once: it is known as well as the worst of them. */
export function worstOfEach(reviews: readonly PracticeReview[]): PracticeReview[] {
  const worst = new Map<string, PracticeReview>();
  for (const each of reviews) {
    const before = worst.get(each.item);
    if (!before || OUTCOMES.indexOf(each.outcome) > OUTCOMES.indexOf(before.outcome))
      worst.set(each.item, each);
  }
  return [...worst.values()];
}
