import { isDue, type ItemState, remembered } from './spacing';

/** How heavy each reason for a case weighs; a case without any reason weighs 1. Tried out in `npm run bench -- practice`. */
const FORGOTTEN = 6;
const DUE = 3;
const WEAK = 8;
const CONFUSED = 4;
const NEVER = 3;

/**
 * How much more often than others each item should come up: those that are forgotten by now, due, weak (often wrong, the
 * last times most), mistaken for another or the one it was mistaken for, and those never seen. For `dealDrill`.
 */
export function practiceWeights(
  items: Iterable<string>,
  states: ReadonlyMap<string, ItemState>,
  now: string,
): Map<string, number> {
  const confused = new Set(
    [...states.values()].flatMap((each) =>
      each.mistakenFor.length > 0 ? [each.item, ...each.mistakenFor] : [],
    ),
  );
  return new Map(
    [...items].map((item) => {
      const state = states.get(item);
      const partner = confused.has(item) ? CONFUSED : 0;
      if (!state) return [item, 1 + NEVER + partner];
      const weakness = (state.difficulty - 1) / 9;
      return [
        item,
        1 +
          FORGOTTEN * (1 - remembered(state, now)) +
          (isDue(state, now) ? DUE : 0) +
          WEAK * weakness * (state.wrong / state.times) +
          partner,
      ];
    }),
  );
}
