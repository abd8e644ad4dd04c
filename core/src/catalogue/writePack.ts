import { Document, isCollection, isPair, isScalar, type Node, parseDocument, visit } from 'yaml';
import { canonicalJson } from './contentHash';
import { type Pack, packJsonSchema } from './schema';

/** Fields whose short values read better on one line. */
const ON_ONE_LINE = new Set(
  (
    'origin timing at spot methods when needs after holds values range plant editable each alsoAt link ' +
    'params points rising falling columns rows excludes drawing sound uses whole'
  ).split(' '),
);
const LONGEST_LINE = 110;

/**
 * Text of a pack document in the house style: short lists and small records on one line, the rest in
 * blocks, text never folded. Comments are kept.
 */
export function packDocumentText(document: Document): string {
  visit(document, {
    Pair(_, pair, path) {
      const key = isScalar(pair.key) ? String(pair.key.value) : '';
      const value = pair.value as Node | null;
      // A desk is read as a table: every row of it on one line, however long.
      const parent = path.at(-2);
      const inDesk = isPair(parent) && isScalar(parent.key) && parent.key.value === 'desk';
      if (inDesk && isCollection(value)) {
        value.flow = false;
        for (const each of value.items) {
          const row = isPair(each) ? each.value : each;
          if (isCollection(row)) row.flow = true;
        }
        return visit.SKIP;
      }
      if (isCollection(value))
        value.flow = ON_ONE_LINE.has(key) && JSON.stringify(value.toJSON()).length < LONGEST_LINE;
      return undefined;
    },
    Seq(_, seq, path) {
      const parent = path.at(-1);
      if (!isPair(parent)) seq.flow = true;
      else if (
        seq.items.length > 0 &&
        seq.items.every(
          (each) =>
            isCollection(each) &&
            each.items.length === 2 &&
            each.items.every((n) => isScalar(n) && typeof n.value === 'number'),
        )
      )
        seq.flow = true;
    },
  });
  return document.toString({ lineWidth: 0, indentSeq: true, flowCollectionPadding: true });
}

interface Shape {
  properties?: Record<string, Shape>;
  required?: string[];
  items?: Shape | boolean;
  default?: unknown;
}

/** A value with its fields in the schema's order and without those that only repeat a default. */
function lean(value: unknown, shape: Shape | undefined): unknown {
  if (Array.isArray(value))
    return value.map((each) => lean(each, typeof shape?.items === 'object' ? shape.items : undefined));
  if (value === null || typeof value !== 'object' || !shape?.properties) return value;
  const given = value as Record<string, unknown>;
  const known = Object.keys(shape.properties).filter((key) => given[key] !== undefined);
  return Object.fromEntries(
    [...known, ...Object.keys(given).filter((key) => !(key in shape.properties!) && given[key] !== undefined)]
      .filter((key) => {
        const field = shape.properties?.[key];
        return (
          field?.default === undefined ||
          shape.required?.includes(key) ||
          canonicalJson(given[key]) !== canonicalJson(field.default)
        );
      })
      .map((key) => [key, lean(given[key], shape.properties![key])]),
  );
}

/**
 * Writes a pack as YAML in the house style, fields in the schema's order, defaults left out. Reading it
 * again gives the same content hash.
 */
export function packToYaml(pack: Pack): string {
  return packDocumentText(new Document(lean(pack, packJsonSchema() as Shape)));
}

/**
 * Puts a pack's YAML text into the house style; content and comments stay. Throws the YAML error of a text
 * that cannot be parsed.
 */
export function formatPackYaml(source: string): string {
  const document = parseDocument(source);
  if (document.errors.length > 0) throw document.errors[0]!;
  return packDocumentText(document);
}
