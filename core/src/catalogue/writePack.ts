import { Document, isCollection, isPair, isScalar, parseDocument, visit, type Node } from 'yaml';
import type { Pack } from './schema';

/** Fields whose short values read better on one line. */
const ON_ONE_LINE = new Set(
  'origin timing at spot methods when needs after holds values range plant editable each alsoAt link params points rising falling columns rows'.split(' '),
);
const LONGEST_LINE = 110;

/** Styles a pack document: short lists and small records on one line, the rest in blocks; text is never folded. Comments are kept. */
function style(document: Document): string {
  visit(document, {
    Pair(_, pair) {
      const key = isScalar(pair.key) ? String(pair.key.value) : '';
      const value = pair.value as Node | null;
      if (isCollection(value)) value.flow = ON_ONE_LINE.has(key) && JSON.stringify(value.toJSON()).length < LONGEST_LINE;
    },
    Seq(_, seq, path) {
      const parent = path.at(-1);
      if (!isPair(parent)) seq.flow = true;
      else if (
        seq.items.length > 0 &&
        seq.items.every((each) => isCollection(each) && each.items.length === 2 && each.items.every((n) => isScalar(n) && typeof n.value === 'number'))
      )
        seq.flow = true;
    },
  });
  return document.toString({ lineWidth: 0, indentSeq: true, flowCollectionPadding: true });
}

/** Writes a pack as YAML in the house style. Reading it again gives the same content hash. */
export function packToYaml(pack: Pack): string {
  return style(new Document(pack));
}

/** Puts a pack's YAML text into the house style; content and comments stay. Throws the YAML error of a text that cannot be parsed. */
export function formatPackYaml(source: string): string {
  const document = parseDocument(source);
  if (document.errors.length > 0) throw document.errors[0]!;
  return style(document);
}
