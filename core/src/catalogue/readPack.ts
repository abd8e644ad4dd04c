import {
  type Document,
  isCollection,
  isMap,
  isPair,
  isScalar,
  LineCounter,
  type Node,
  parseDocument,
  visit,
} from 'yaml';
import { unstorable } from '../text';
import { currentFile } from './earlierFormat';
import { packIntegrity } from './integrity';
import { type Pack, packSchema } from './schema';

/** One thing wrong in a pack file, with the line (from 1) where it stands. */
export interface PackError {
  line: number;
  path: string;
  rule: string;
  message: string;
}

export type PackReading = { pack: Pack; errors: [] } | { pack: null; errors: PackError[] };

/** Largest pack text that is read, in characters; packs are some 100 to 300 kB. */
export const MAX_PACK_LENGTH = 1_500_000;
/** Most lines and values of a pack text; the largest that ships has 4,600 and 12,500. */
const MAX_LINES = 30_000;
const MAX_VALUES = 60_000;
/** Errors that are listed; an author mends those and reads again. */
const LISTED_ERRORS = 200;

/**
 * Reads a class pack from YAML (or JSON) text and checks it wholly: syntax, schema, integrity.
 * Never throws; errors carry line, path and rule so that an author can go straight to them.
 */
export function readPack(source: string): PackReading {
  const tooLarge = sizeError(source);
  if (tooLarge) return refused([tooLarge]);
  const lines = new LineCounter();
  // The package compares each key with each other; a set does it once.
  const document = parseDocument(source, { lineCounter: lines, uniqueKeys: false, prettyErrors: false });
  if (document.errors.length > 0)
    return refused(
      document.errors.slice(0, LISTED_ERRORS).map((error) => ({
        line: lines.linePos(error.pos[0]).line,
        path: '',
        rule: 'yaml',
        message: error.message.split('\n')[0]!,
      })),
    );
  const keys = keyErrors(document, lines);
  if (keys.length > 0) return refused(keys);
  const lineOf = (path: readonly (string | number)[]): number => {
    let node: unknown = document.contents;
    let line = 1;
    for (const key of path) {
      if (!isCollection(node)) break;
      let child: unknown;
      if (isMap(node)) {
        const pair = node.items.find(
          (item) =>
            isPair(item) && String((item.key as { value?: unknown })?.value ?? item.key) === String(key),
        );
        const at = (pair?.key as Node | undefined)?.range?.[0];
        if (at !== undefined) line = lines.linePos(at).line;
        child = pair?.value;
      } else child = node.get(Number(key), true);
      const at = (child as Node | undefined)?.range?.[0];
      if (child !== undefined && at !== undefined && !isMap(node)) line = lines.linePos(at).line;
      if (child === undefined || child === null) break;
      node = child;
    }
    return line;
  };
  let value: unknown;
  try {
    value = document.toJS({ maxAliasCount: 100 });
  } catch (error) {
    return refused([
      { line: 1, path: '', rule: 'yaml', message: error instanceof Error ? error.message : String(error) },
    ]);
  }
  const parsed = packSchema.safeParse(currentFile(value));
  if (!parsed.success)
    return refused(
      parsed.error.issues.slice(0, LISTED_ERRORS).map((issue) => ({
        line: lineOf(issue.path as (string | number)[]),
        path: issue.path.join('/'),
        rule: `schema:${issue.code}`,
        message: issue.message,
      })),
    );
  const bad = unstorable(parsed.data);
  if (bad !== null)
    return refused([
      {
        line: lineOf(bad.split('.')),
        path: bad,
        rule: 'yaml',
        message: 'contains a zero character or half of a character',
      },
    ]);
  const issues = packIntegrity(parsed.data);
  if (issues.length > 0)
    return refused(
      issues.slice(0, LISTED_ERRORS).map((issue) => ({
        line: lineOf(issue.path),
        path: issue.path.join('/'),
        rule: issue.rule,
        message: issue.message,
      })),
    );
  return { pack: parsed.data, errors: [] };
}

function refused(errors: PackError[]): PackReading {
  return { pack: null, errors };
}

function sizeError(source: string): PackError | null {
  const error = (line: number, message: string): PackError => ({ line, path: '', rule: 'size', message });
  if (source.length > MAX_PACK_LENGTH)
    return error(1, `a pack longer than ${MAX_PACK_LENGTH} characters is not read`);
  let lines = 1;
  for (let end = source.indexOf('\n'); end >= 0; end = source.indexOf('\n', end + 1)) lines += 1;
  return lines > MAX_LINES ? error(MAX_LINES, `a pack of more than ${MAX_LINES} lines is not read`) : null;
}

/** Keys that stand twice in one map, and a text with more values than any pack has. */
function keyErrors(document: Document.Parsed, lines: LineCounter): PackError[] {
  const errors: PackError[] = [];
  let values = 0;
  visit(document, {
    Map(_, map) {
      const seen = new Set<string>();
      for (const { key } of map.items) {
        const name = isScalar(key) ? String(key.value) : null;
        if (name !== null && seen.has(name) && errors.length < LISTED_ERRORS)
          errors.push({
            line: lines.linePos((key as Node).range?.[0] ?? 0).line,
            path: '',
            rule: 'yaml',
            message: 'Map keys must be unique',
          });
        if (name !== null) seen.add(name);
      }
    },
    Value() {
      values += 1;
      return values > MAX_VALUES ? visit.BREAK : undefined;
    },
  });
  if (values > MAX_VALUES)
    errors.push({
      line: 1,
      path: '',
      rule: 'size',
      message: `a pack of more than ${MAX_VALUES} values is not read`,
    });
  return errors;
}
