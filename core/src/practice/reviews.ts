import type { EffectivePack } from '../catalogue';
import { caseItem, type CaseResult, possibleCases } from '../drill';
import type { PracticeOutcome, PracticeReview } from './spacing';

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
