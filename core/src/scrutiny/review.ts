import { LEAST_PEOPLE, type ScrutinisedItem } from './items';

/** What a review of an item decides: it stays, it is to be changed through the editor, or it is dealt no more. */
export const ITEM_DECISIONS = ['keep', 'change', 'retire'] as const;
export type ItemDecision = (typeof ITEM_DECISIONS)[number];

/** The newest review of an item. */
export interface ItemReview {
  decision: ItemDecision;
  /** People who had answered it when it was reviewed. */
  people: number;
  /** Since the review, a revision in which the item reads otherwise has been published. */
  changed: boolean;
}

/** Where an item stands. */
export type ItemState = 'unflagged' | 'to-review' | 'kept' | 'to-change' | 'changed' | 'retired';

/**
 * Where an item stands, by what is found of it now and its newest review. Of a changed item only answers since the change
 * may have been counted. What was kept is asked about again once as many more people have answered it as a judgement
 * needs.
 */
export function itemState(
  found: Pick<ScrutinisedItem, 'flags' | 'people'>,
  review: ItemReview | null,
): ItemState {
  const flagged = found.flags.length > 0;
  if (review === null) return flagged ? 'to-review' : 'unflagged';
  if (review.decision === 'retire') return 'retired';
  if (review.decision === 'change') {
    if (!review.changed) return 'to-change';
    return flagged ? 'to-review' : 'changed';
  }
  return flagged && found.people >= review.people + LEAST_PEOPLE ? 'to-review' : 'kept';
}
