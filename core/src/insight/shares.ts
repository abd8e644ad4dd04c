import { wilsonInterval } from '../statistics';

/** Something that went right or wrong, counted under a key. */
export interface Counted {
  key: string;
  name: string;
  /** Who did it; several of one person hang together. */
  who: string;
  failed: boolean;
}

/** How many of a key failed, with Wilson's interval and in words. */
export interface FailedShare {
  key: string;
  name: string;
  count: number;
  n: number;
  people: number;
  share: number;
  low: number;
  high: number;
  says: string;
}

/** From how many on a share is judged. */
export const LEAST_COUNTED = 10;

const percent = (share: number) => `${Math.round(100 * share)} %`;

/** A share in words that fit how many it rests on. `did` says what failed, as in "missed". */
export function shareWords(
  { count, n, people, low, high }: Pick<FailedShare, 'count' | 'n' | 'people' | 'low' | 'high'>,
  did: string,
): string {
  const counted = `${count} of ${n} ${did}`;
  if (n < LEAST_COUNTED) return `${counted}: too few to judge.`;
  const range = `${counted}; by chance alone anything from ${percent(low)} to ${percent(high)}`;
  return people < 5 ? `${range}, and only ${people} ${people === 1 ? 'person' : 'people'}.` : `${range}.`;
}

/** The share that failed of everything given; null for nothing. */
export function wholeShare(counted: readonly Counted[], did: string): FailedShare | null {
  return (
    shares(
      counted.map((each) => ({ ...each, key: 'whole', name: 'All' })),
      did,
    )[0] ?? null
  );
}

/**
 * The share that failed under each key, with Wilson's interval (E. B. Wilson, 1927). First comes what surely fails most:
 * those that are enough to judge by the lower end of their interval, then those that are too few.
 */
export function shares(counted: readonly Counted[], did: string): FailedShare[] {
  const byKey = new Map<string, Counted[]>();
  for (const each of counted) {
    const own = byKey.get(each.key);
    if (own) own.push(each);
    else byKey.set(each.key, [each]);
  }
  return [...byKey]
    .map(([key, own]) => {
      const n = own.length;
      const count = own.filter((each) => each.failed).length;
      const found = {
        key,
        name: own.at(-1)!.name,
        count,
        n,
        people: new Set(own.map((each) => each.who)).size,
        share: count / n,
        ...wilsonInterval(count, n),
      };
      return { ...found, says: shareWords(found, did) };
    })
    .sort(
      (a, b) =>
        Number(b.n >= LEAST_COUNTED) - Number(a.n >= LEAST_COUNTED) ||
        b.low - a.low ||
        b.share - a.share ||
        a.name.localeCompare(b.name) ||
        a.key.localeCompare(b.key),
    );
}

/** The shares of consecutive months, oldest first, with whether they surely differ from the first to the last. */
export function trendWords(months: readonly FailedShare[]): string {
  const judged = months.filter((each) => each.n >= LEAST_COUNTED);
  const [first, last] = [judged[0], judged.at(-1)];
  if (!first || !last || judged.length < 2) return 'Too few in too few months to speak of a trend.';
  if (last.high < first.low)
    return `Better over the months: ${percent(first.share)} at first, ${percent(last.share)} lately.`;
  if (last.low > first.high)
    return `Worse over the months: ${percent(first.share)} at first, ${percent(last.share)} lately.`;
  return `Over the months from ${percent(first.share)} to ${percent(last.share)}: no more than chance would do.`;
}
