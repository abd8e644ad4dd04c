import { join } from 'node:path';
import { compose, type EffectivePack, readPack } from '@rounds/core/catalogue';
import { caseItem, dealDrill, possibleCases } from '@rounds/core/drill';
import { itemStates, type PracticeReview, practiceWeights } from '@rounds/core/practice';
import { seededRandom } from '@rounds/core/statistics';
import { readFileSync } from 'node:fs';

type Row = (what: string, figure: string, baseline?: string) => void;

const LEARNERS = 200;
/** Four months of practice, a drill every other day; and half of them, to see where it is on the way. */
const DRILLS = [30, 60];
const DAYS_BETWEEN = 2;
const DAY = 86_400_000;
const START = Date.parse('2026-01-05T09:00:00Z');

/** Chance to miss, mean over the hard items and over all. */
interface Misses {
  hard: number;
  all: number;
}
const mean = (list: readonly number[]) => list.reduce((sum, each) => sum + each, 0) / list.length;

/**
 * A simulated memory that knows nothing of the scheduler: an item is found with a chance that halves with every
 * half-life since it was last seen, finding it lengthens the half-life, missing it and being told starts it anew. A
 * fifth of the items, others for each learner, are hard: unknown at first, quickly forgotten, slowly learnt.
 */
class Memory {
  private readonly hard: Set<string>;
  private readonly kept = new Map<string, { halfLife: number; last: number }>();
  constructor(items: readonly string[], random: () => number) {
    const shuffled = items.map((item) => ({ item, at: random() })).sort((a, b) => a.at - b.at);
    this.hard = new Set(shuffled.slice(0, Math.round(items.length / 5)).map((each) => each.item));
  }
  chance(item: string, now: number): number {
    const kept = this.kept.get(item);
    if (!kept) return this.hard.has(item) ? 0.15 : 0.7;
    return 2 ** (-(now - kept.last) / kept.halfLife);
  }
  practise(item: string, now: number, found: boolean): void {
    const hard = this.hard.has(item);
    const kept = this.kept.get(item);
    const first = hard ? 6 : 30;
    const halfLife = !kept ? first * (found ? 2 : 1) : found ? kept.halfLife * (hard ? 2 : 3) : first;
    this.kept.set(item, { halfLife, last: now });
  }
  misses(items: readonly string[], now: number): Misses {
    const missed = (list: readonly string[]) => mean(list.map((item) => 1 - this.chance(item, now)));
    return { hard: missed([...this.hard]), all: missed(items) };
  }
}

/** Practice chosen by what is forgotten and hard, beside as many cases chosen at random: 200 simulated learners. */
export function benchPractice(row: Row): void {
  const source = readFileSync(
    join(import.meta.dirname, '..', 'packs', 'counterbalance-forklift.yaml'),
    'utf8',
  );
  const pack = compose(readPack(source).pack!, { variant: 'diesel' });
  const items = possibleCases(pack).map(caseItem);
  for (const drills of DRILLS) {
    const misses = { chosen: [] as Misses[], random: [] as Misses[] };
    for (let learner = 0; learner < LEARNERS; learner++)
      for (const way of ['chosen', 'random'] as const)
        misses[way].push(practise(pack, items, { learner, drills, chooses: way === 'chosen' }));
    const compare = (what: string, of: (list: Misses[]) => number) => {
      const [chosen, random] = [of(misses.chosen), of(misses.random)];
      const percent = (share: number) => `${(100 * share).toFixed(1)} %`;
      row(
        `${what}, ${drills} drills`,
        percent(chosen),
        `random ${percent(random)}, ${(chosen / random).toFixed(2)} of random choice`,
      );
    };
    compare('Misses of the weakest fifth of the items', (list) => mean(list.map((each) => each.hard)));
    compare('Misses of all items', (list) => mean(list.map((each) => each.all)));
    compare('Misses of the weakest fifth of the learners', (list) =>
      mean(
        list
          .map((each) => each.all)
          .sort((a, b) => b - a)
          .slice(0, LEARNERS / 5),
      ),
    );
  }
}

/** One learner's drills, and what they would miss the day after the last. */
function practise(
  pack: EffectivePack,
  items: readonly string[],
  { learner, drills, chooses }: { learner: number; drills: number; chooses: boolean },
): Misses {
  const random = seededRandom(learner);
  const memory = new Memory(items, random);
  const reviews: PracticeReview[] = [];
  for (let n = 0; n < drills; n++) {
    const day = n * DAYS_BETWEEN;
    const at = new Date(START + day * DAY).toISOString();
    const weights = chooses ? practiceWeights(items, itemStates(reviews), at) : undefined;
    const deal = dealDrill(pack, {
      form: 'round',
      seed: learner * 1000 + n,
      ...(weights ? { weights } : {}),
    });
    for (const item of deal.cases.map(caseItem)) {
      const found = random() < memory.chance(item, day);
      memory.practise(item, day, found);
      reviews.push({ item, at, outcome: found ? 'right' : 'wrong' });
    }
  }
  return memory.misses(items, drills * DAYS_BETWEEN);
}
