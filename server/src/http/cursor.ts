import { unstorable } from '@rounds/core/text';
import type { z } from 'zod';
import { ProblemError } from './problem';

/** Writes the place of a list's last row as an opaque text. */
export function writeCursor(place: readonly (string | number)[]): string {
  return Buffer.from(JSON.stringify(place)).toString('base64url');
}

/**
 * Reads a place that `writeCursor` wrote. Throws the invalid problem, naming the field, for anything else.
 */
export function readCursor<T extends z.ZodType>(text: string, schema: T): z.output<T> {
  let place: unknown;
  try {
    place = JSON.parse(Buffer.from(text, 'base64url').toString('utf8'));
  } catch {
    place = undefined;
  }
  const read = schema.safeParse(place);
  if (read.success && unstorable(place) === null) return read.data;
  const message = 'is not a place in this list; start from its beginning';
  throw new ProblemError('invalid', `cursor: ${message}.`, [{ path: 'cursor', message }]);
}
