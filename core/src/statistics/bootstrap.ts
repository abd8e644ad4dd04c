import type { Interval } from './proportions';
import { seededRandom } from './random';

/**
 * Percentile interval of a figure over things drawn anew with replacement (B. Efron, 1979); draws for which the figure
 * is undefined are left out. Null where it is undefined for half of them or more, or for fewer than two things. The
 * same seed gives the same interval.
 *
 * @example bootstrapInterval([1, 1, 1], (x) => x.length, 1)?.low // 3
 */
export function bootstrapInterval<T>(
  things: readonly T[],
  figure: (things: T[]) => number | null,
  seed: number,
  { repeats = 1000, confidence = 0.95 }: { repeats?: number; confidence?: number } = {},
): Interval | null {
  if (things.length < 2) return null;
  const random = seededRandom(seed);
  const found: number[] = [];
  for (let i = 0; i < repeats; i++) {
    const value = figure(things.map(() => things[Math.floor(random() * things.length)]!));
    if (value !== null && Number.isFinite(value)) found.push(value);
  }
  if (found.length * 2 < repeats) return null;
  found.sort((a, b) => a - b);
  const at = (p: number) =>
    found[Math.min(found.length - 1, Math.max(0, Math.round(p * (found.length - 1))))]!;
  return { low: at((1 - confidence) / 2), high: at(1 - (1 - confidence) / 2) };
}
