/**
 * A small seeded generator (mulberry32 by T. Ettinger, public domain): numbers from 0 up to 1, the same for
 * the same seed.
 *
 * @example seededRandom(1)() // 0.6271
 */
export function seededRandom(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/**
 * A list in random order (R. A. Fisher and F. Yates, 1938, from the last to the first), the same for the same numbers.
 *
 * @example shuffled(['a', 'b', 'c'], () => 0) // ['b', 'c', 'a']
 */
export function shuffled<T>(list: readonly T[], random: () => number): T[] {
  const out = [...list];
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [out[i], out[j]] = [out[j]!, out[i]!];
  }
  return out;
}
