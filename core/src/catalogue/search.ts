import type { Pack } from './schema';
import { packRows, type Part, type SectionId, SECTIONS } from './sections';

/** One searchable row of the library, small enough to send for every class at once. */
export interface LibraryRow {
  classId: string;
  section: SectionId;
  part: Part;
  id: string;
  title: string;
  says: string;
}

/** A row found, with how well it fits (higher is better). */
export interface LibraryHit extends LibraryRow {
  score: number;
}

/** The searchable rows of a pack. */
export function libraryRows(pack: Pack): LibraryRow[] {
  return packRows(pack).map(({ section, part, id, title, says }) => ({
    classId: pack.id,
    section,
    part,
    id,
    title,
    says,
  }));
}

const fold = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/\p{Mn}/gu, '')
    .toLowerCase()
    .replace(/[-–—‑]/g, ' ')
    .replace(/\s+/g, ' ');

const NUMBER_WORDS = [
  'zero',
  'one',
  'two',
  'three',
  'four',
  'five',
  'six',
  'seven',
  'eight',
  'nine',
  'ten',
  'eleven',
  'twelve',
];

/** The ways a word of the query may stand in a text: as it is, as a digit or its word, without a plural s. */
function forms(word: string): string[] {
  const result = [word];
  const number = NUMBER_WORDS.indexOf(word);
  if (number >= 0) result.push(String(number));
  else if (/^\d+$/.test(word) && NUMBER_WORDS[Number(word)]) result.push(NUMBER_WORDS[Number(word)]!);
  if (word.length > 3 && word.endsWith('s')) result.push(word.slice(0, -1));
  return result;
}

/**
 * Full-text search over the library, in memory. Every word of the query must stand somewhere in a row, at the
 * start of a word; the phrase as typed, words in the title and whole words count more. Spelled numbers and
 * digits are the same ("two wraps", "2 wraps").
 */
export class LibrarySearch {
  /** Title and whole text of each row as words with one space before and after each. */
  private readonly folded: { title: string; all: string }[];

  constructor(private readonly rows: readonly LibraryRow[]) {
    const spaced = (text: string) => ` ${wordsOf(fold(text)).join(' ')} `;
    this.folded = rows.map((row) => {
      const title = spaced(row.title);
      return { title, all: `${title}${spaced(row.says)}${spaced(row.id)}${spaced(SECTIONS[row.section])}` };
    });
  }

  /** The best rows for a query, best first; an empty query finds nothing. */
  find(query: string, limit = 200): LibraryHit[] {
    const words = wordsOf(fold(query));
    if (words.length === 0) return [];
    const phrase = ` ${words.join(' ')}`;
    const starts = words.map((word) => forms(word).map((each) => ` ${each}`));
    const hits: { row: LibraryRow; score: number }[] = [];
    this.rows.forEach((row, i) => {
      const { title, all } = this.folded[i]!;
      let score = 0;
      for (const alternatives of starts) {
        if (alternatives.some((each) => title.includes(each))) score += 3;
        else if (alternatives.some((each) => all.includes(each))) score += 1;
        else return;
      }
      if (words.length > 1 && all.includes(phrase)) score += 4;
      if (title.includes(`${phrase} `)) score += 3;
      hits.push({ row, score });
    });
    return hits
      .sort((a, b) => b.score - a.score || a.row.title.length - b.row.title.length)
      .slice(0, limit)
      .map(({ row, score }) => ({ ...row, score }));
  }
}

function wordsOf(text: string): string[] {
  return text
    .split(/[^\p{L}\p{N}.%]+/u)
    .map((each) => each.replace(/^\.+(?!\d)|\.+$/g, ''))
    .filter(Boolean);
}
