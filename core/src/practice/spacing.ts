import { type Card, createEmptyCard, fsrs, type Grade as Rating, Rating as Ratings } from 'ts-fsrs';

/**
 * When a thing that was practised comes back. Items (a check with a fault or without, a step of a procedure, a number)
 * are scheduled by FSRS, the Free Spaced Repetition Scheduler, as the package `ts-fsrs` has it, with its usual
 * parameters and no random spread, so that the same reviews give the same dates anywhere.
 */
const scheduler = fsrs({ enable_fuzz: false });

/** How an item went: found and graded right, found but not fully, or missed. */
export const OUTCOMES = ['right', 'nearly', 'wrong'] as const;
export type PracticeOutcome = (typeof OUTCOMES)[number];

const RATING: Readonly<Record<PracticeOutcome, Rating>> = {
  right: Ratings.Good,
  nearly: Ratings.Hard,
  wrong: Ratings.Again,
};

/** One item as it was practised once. */
export interface PracticeReview {
  item: string;
  /** ISO 8601 instant. */
  at: string;
  outcome: PracticeOutcome;
  /** Items that it was mistaken for. */
  mistakenFor?: readonly string[];
}

/** What is remembered of an item. */
export interface ItemState {
  item: string;
  /** ISO 8601 instant from which it should come back. */
  due: string;
  /** Days until the chance to remember it falls to 90 %. */
  stability: number;
  /** 1 (easy) to 10. */
  difficulty: number;
  /** How often it was practised, and how often it went wrong. */
  times: number;
  wrong: number;
  last: string;
  /** Items that it was mistaken for when it was last practised. */
  mistakenFor: readonly string[];
  card: Card;
}

/** The state of every item after some reviews, which need not be in order. */
export function itemStates(reviews: readonly PracticeReview[]): Map<string, ItemState> {
  const states = new Map<string, ItemState>();
  for (const review of [...reviews].sort((a, b) => a.at.localeCompare(b.at))) {
    const before = states.get(review.item);
    const at = new Date(review.at);
    const { card } = scheduler.next(before?.card ?? createEmptyCard(at), at, RATING[review.outcome]);
    states.set(review.item, {
      item: review.item,
      due: card.due.toISOString(),
      stability: card.stability,
      difficulty: card.difficulty,
      times: (before?.times ?? 0) + 1,
      wrong: (before?.wrong ?? 0) + (review.outcome === 'wrong' ? 1 : 0),
      last: review.at,
      mistakenFor: review.mistakenFor ?? [],
      card,
    });
  }
  return states;
}

/** The chance, 0 to 1, that an item is remembered at an instant. */
export function remembered(state: ItemState, now: string): number {
  return scheduler.get_retrievability(state.card, new Date(now), false);
}

/** Whether an item should come back by an instant. */
export function isDue(state: ItemState, now: string): boolean {
  return state.due <= now;
}
