import { type ItemState, remembered } from './spacing';

/** What even a well known item keeps, so that it is asked now and then. */
const LEAST = 0.02;
/** How much being forgotten counts of an easy item; of a hard one it counts by the square of its difficulty besides. */
const EASY = 0.1;
/** An item that was never practised is taken to be missed so often, and to be of middling difficulty. */
const UNKNOWN = { missed: 0.6, difficulty: 0.5 };
/** How much likelier two items come that were mistaken for each other, until they are told apart. */
const CONFUSED = 2;

/**
 * How much more often than others each item should come up, for `dealDrill`: the chance that it is forgotten by now,
 * the more the harder it has proved (FSRS's difficulty, which rises with every miss), and what was mistaken for what.
 * The weights were tried out against a memory that knows nothing of the scheduler: `npm run bench -- practice`.
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
      const missed = state ? 1 - remembered(state, now) : UNKNOWN.missed;
      const difficulty = state ? (state.difficulty - 1) / 9 : UNKNOWN.difficulty;
      const weight = LEAST + missed * (EASY + difficulty ** 2);
      return [item, confused.has(item) ? weight * CONFUSED : weight];
    }),
  );
}
