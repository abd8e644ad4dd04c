/**
 * Where in a value a text stands that no database keeps (a zero character, or half of a surrogate pair), as a
 * path of keys with dots between; null when there is none, and an empty path when it is the value itself.
 *
 * @example unstorable({ notes: ['fine', 'half \ud83d'] }) // 'notes.1'
 */
export function unstorable(value: unknown): string | null {
  if (typeof value === 'string') return value.includes('\u0000') || !isWellFormed(value) ? '' : null;
  if (typeof value !== 'object' || value === null) return null;
  for (const [key, each] of Object.entries(value)) {
    if (unstorable(key) !== null) return 'a name in it';
    const below = unstorable(each);
    if (below !== null) return below === '' ? key : `${key}.${below}`;
  }
  return null;
}

/** Whether every surrogate in a text has its other half. */
export function isWellFormed(text: string): boolean {
  return !/[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/.test(text);
}
