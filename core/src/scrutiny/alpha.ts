import { cronbachAlphaInterval, type Interval, mean } from '../statistics';

/** The answers of each person, 1 right and 0 wrong, by item. */
type Answered = ReadonlyMap<string, ReadonlyMap<string, number>>;

/** How far the items of a set measure the same, and what it would be without each. */
export interface SharedAlpha {
  alpha: number | null;
  interval: Interval | null;
  /** People on whom the least answered pair of items rests. */
  people: number;
  ifDropped: ReadonlyMap<string, number | null>;
}

/**
 * Cronbach's alpha of items that not everybody answered: variances over whoever answered an item, covariances over
 * whoever answered both (pairwise deletion, as the handbooks of item analysis describe it; from memory). Of the items
 * given, the most answered come first, and one joins only where enough people answered it together with each that is in
 * already. Where everybody answered everything it is Cronbach's alpha.
 */
export function sharedAlpha(byPerson: Answered, items: readonly string[], least: number): SharedAlpha {
  const answered = new Map(
    items.map((item) => [item, [...byPerson.values()].filter((own) => own.has(item))] as const),
  );
  const inOrder = [...items].sort((a, b) => answered.get(b)!.length - answered.get(a)!.length);
  const chosen: string[] = [];
  const covariances = new Map<string, number>();
  let people = Infinity;
  const key = (a: string, b: string) => JSON.stringify([a, b]);
  for (const item of inOrder) {
    const pairs = [...chosen, item].map((other) => {
      const both = answered.get(item)!.filter((own) => own.has(other));
      return { other, n: both.length, covariance: both.length < 2 ? 0 : covariance(both, item, other) };
    });
    if (pairs.some((each) => each.n < least)) continue;
    chosen.push(item);
    for (const { other, n, covariance: value } of pairs) {
      people = Math.min(people, n);
      covariances.set(key(item, other), value).set(key(other, item), value);
    }
  }
  const alphaOf = (list: readonly string[]): number | null => {
    const k = list.length;
    if (k < 2) return null;
    let own = 0;
    let total = 0;
    for (const a of list) {
      own += covariances.get(key(a, a))!;
      for (const b of list) total += covariances.get(key(a, b))!;
    }
    return total < 1e-12 ? null : (k / (k - 1)) * (1 - own / total);
  };
  const alpha = alphaOf(chosen);
  return {
    alpha,
    interval: alpha === null ? null : cronbachAlphaInterval(alpha, people, chosen.length),
    people: chosen.length === 0 ? 0 : people,
    ifDropped: new Map(
      chosen.map((item) => [
        item,
        chosen.length < 3 ? null : alphaOf(chosen.filter((each) => each !== item)),
      ]),
    ),
  };
}

function covariance(people: readonly ReadonlyMap<string, number>[], a: string, b: string): number {
  const [meanA, meanB] = [a, b].map((item) => mean(people.map((own) => own.get(item)!))) as [number, number];
  const products = people.map((own) => (own.get(a)! - meanA) * (own.get(b)! - meanB));
  return products.reduce((sum, each) => sum + each, 0) / (people.length - 1);
}
