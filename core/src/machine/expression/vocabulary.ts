import type { Measure } from './syntax';

/**
 * What a name of a desk stands for: something that holds or not, a figure, one of several positions, or what is not
 * fitted, which reads as false.
 */
export type Meaning =
  | { kind: 'truth' }
  | { kind: 'figure'; measure: Measure | null; worked?: boolean }
  | { kind: 'choice'; values: readonly string[] }
  | { kind: 'absent' };

/** Every name that an expression of a desk may use. */
export type Vocabulary = ReadonlyMap<string, Meaning>;

/** How many letters one word is from another (V. I. Levenshtein, 1966). */
function apart(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const above = row;
    row = [i];
    for (let j = 1; j <= b.length; j++)
      row.push(Math.min(above[j]! + 1, row[j - 1]! + 1, above[j - 1]! + Number(a[i - 1] !== b[j - 1])));
  }
  return row[b.length]!;
}

/**
 * The word that was probably meant, as the end of a sentence; '' where none is near.
 *
 * @example meantWords('engin.running', ['engine.running', 'key']) // '; "engine.running" is meant?'
 */
export function meantWords(word: string, known: Iterable<string>): string {
  let best = '';
  let least = Math.max(1, Math.floor(word.length / 3)) + 1;
  for (const each of known) {
    const far = apart(word.toLowerCase(), each.toLowerCase());
    if (far < least) [best, least] = [each, far];
  }
  return best ? `; "${best}" is meant?` : '';
}
