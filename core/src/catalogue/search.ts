import { packRows, SECTIONS, type Part, type SectionId } from './sections';
import type { Pack } from './schema';

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
  return packRows(pack).map(({ section, part, id, title, says }) => ({ classId: pack.id, section, part, id, title, says }));
}

const fold = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/\p{Mn}/gu, '')
    .toLowerCase()
    .replace(/[-–—‑]/g, ' ')
    .replace(/\s+/g, ' ');

const NUMBER_WORDS = ['zero', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];

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
 * Full-text search over the library, in memory. Every word of the query must stand somewhere in a row, at the start of a word;
 * the phrase as typed, words in the title and whole words count more. Spelled numbers and digits are the same ("two wraps", "2 wraps").
 */
export class LibrarySearch {
  private readonly folded: { title: string; all: string }[];

  constructor(private readonly rows: readonly LibraryRow[]) {
    this.folded = rows.map((row) => {
      const title = ` ${fold(row.title)} `;
      return { title, all: `${title} ${fold(row.says)} ${fold(row.id)} ${SECTIONS[row.section].toLowerCase()} ` };
    });
  }

  /** The best rows for a query, best first; an empty query finds nothing. */
  find(query: string, limit = 200): LibraryHit[] {
    const phrase = fold(query).trim();
    const words = phrase.split(/[^\p{L}\p{N}.%]+/u).filter(Boolean);
    if (words.length === 0) return [];
    const patterns = words.map((word) => forms(word).map((each) => starts(each)));
    const hits: LibraryHit[] = [];
    for (let i = 0; i < this.rows.length; i++) {
      const { title, all } = this.folded[i]!;
      let score = 0;
      for (const alternatives of patterns) {
        let best = 0;
        for (const pattern of alternatives) {
          pattern.lastIndex = 0;
          if (pattern.test(title)) best = Math.max(best, 3);
          else if (best === 0 && pattern.test(all)) best = 1;
        }
        if (best === 0) {
          score = -1;
          break;
        }
        score += best;
      }
      if (score < 0) continue;
      if (words.length > 1 && all.includes(phrase)) score += 4;
      if (title.includes(` ${phrase} `)) score += 3;
      hits.push({ ...this.rows[i]!, score });
    }
    return hits.sort((a, b) => b.score - a.score || a.title.length - b.title.length).slice(0, limit);
  }
}

function starts(word: string): RegExp {
  return new RegExp(`(?<![\\p{L}\\p{N}])${word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}`, 'u');
}
