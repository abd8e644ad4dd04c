import { LineCounter, parseDocument, isCollection, isPair, isMap, type Node } from 'yaml';
import { packIntegrity } from './integrity';
import { packSchema, type Pack } from './schema';

/** One thing wrong in a pack file, with the line (from 1) where it stands. */
export interface PackError {
  line: number;
  path: string;
  rule: string;
  message: string;
}

export type PackReading = { pack: Pack; errors: [] } | { pack: null; errors: PackError[] };

/** Largest pack text that is read, in characters; packs are some 100 to 300 kB. */
const MAX_PACK_LENGTH = 4_000_000;

/**
 * Reads a class pack from YAML (or JSON) text and checks it wholly: syntax, schema, integrity.
 * Never throws; errors carry line, path and rule so that an author can go straight to them.
 */
export function readPack(source: string): PackReading {
  if (source.length > MAX_PACK_LENGTH)
    return { pack: null, errors: [{ line: 1, path: '', rule: 'size', message: `a pack longer than ${MAX_PACK_LENGTH} characters is not read` }] };
  const lines = new LineCounter();
  const document = parseDocument(source, { lineCounter: lines, uniqueKeys: true });
  if (document.errors.length > 0)
    return {
      pack: null,
      errors: document.errors.map((error) => ({ line: lines.linePos(error.pos[0]).line, path: '', rule: 'yaml', message: error.message.split('\n')[0]! })),
    };
  const lineOf = (path: readonly (string | number)[]): number => {
    let node: unknown = document.contents;
    let line = 1;
    for (const key of path) {
      if (!isCollection(node)) break;
      let child: unknown;
      if (isMap(node)) {
        const pair = node.items.find((item) => isPair(item) && String((item.key as { value?: unknown })?.value ?? item.key) === String(key));
        const at = (pair?.key as Node | undefined)?.range?.[0];
        if (at !== undefined) line = lines.linePos(at).line;
        child = pair?.value;
      } else child = node.get(key, true);
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
    return { pack: null, errors: [{ line: 1, path: '', rule: 'yaml', message: error instanceof Error ? error.message : String(error) }] };
  }
  const parsed = packSchema.safeParse(value);
  if (!parsed.success)
    return {
      pack: null,
      errors: parsed.error.issues.map((issue) => ({
        line: lineOf(issue.path as (string | number)[]),
        path: issue.path.join('/'),
        rule: `schema:${issue.code}`,
        message: issue.message,
      })),
    };
  const issues = packIntegrity(parsed.data);
  if (issues.length > 0)
    return { pack: null, errors: issues.map((issue) => ({ line: lineOf(issue.path), path: issue.path.join('/'), rule: issue.rule, message: issue.message })) };
  return { pack: parsed.data, errors: [] };
}
