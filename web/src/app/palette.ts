import type { ClassSummary } from '@rounds/contract/classes';
import type { Unit } from '@rounds/contract/machines';
import type { Person } from '@rounds/contract/people';
import type { Role } from '@rounds/contract/route';
import { type LibraryHit, SECTIONS } from '@rounds/core/catalogue';
import type { Area } from './areas';

/** One thing that can be gone to. */
export interface Destination {
  kind: 'screen' | 'act' | 'person' | 'class' | 'machine' | 'row';
  id: string;
  title: string;
  more: string;
  to: string;
}

/** What the field is asked over; lists that are not fetched yet are empty. */
export interface Everything {
  areas: readonly Area[];
  role: Role | null;
  people: readonly Person[];
  classes: readonly ClassSummary[];
  units: readonly Unit[];
  hits: readonly LibraryHit[];
}

export const KIND_WORDS: Readonly<Record<Destination['kind'], string>> = {
  screen: 'Screens',
  act: 'Acts',
  person: 'People',
  class: 'Classes',
  machine: 'Machines',
  row: 'What the classes say',
};

const ACTS: readonly { title: string; more: string; to: string; roles: readonly Role[] }[] = [
  { title: 'Prepare an evaluation', more: 'n', to: '/assess/new', roles: ['trainer', 'administrator'] },
  { title: 'Import people', more: 'from CSV', to: '/people/import', roles: ['trainer', 'administrator'] },
  {
    title: 'Import a class',
    more: 'YAML, JSON, CSV',
    to: '/classes/import',
    roles: ['trainer', 'administrator'],
  },
  {
    title: 'Compare two classes',
    more: '',
    to: '/classes/compare',
    roles: ['trainer', 'operator', 'supervisor', 'workshop', 'administrator'],
  },
];

const folded = (text: string) =>
  text
    .normalize('NFKD')
    .replace(/\p{Mn}/gu, '')
    .toLowerCase();

/** The words of a text, in small letters without accents; a hyphen parts them. */
const wordsOf = (text: string) =>
  folded(text)
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);

/** Every word stands somewhere in the text, at the start of a word of it. */
function says(text: string, words: readonly string[]): boolean {
  const parts = wordsOf(text);
  return words.every((word) => parts.some((part) => part.startsWith(word)));
}

/**
 * What the words lead to, grouped by what it is: screens and acts first, then people, classes, machines and
 * the rows of the classes; at most `most` of a kind. No words give the screens and acts.
 */
export function destinations(words: string, all: Everything, most = 6): Destination[] {
  const asked = wordsOf(words);
  const screens = all.areas.map((each): Destination => ({
    kind: 'screen',
    id: each.to,
    title: each.name,
    more: `g ${each.key}`,
    to: each.to,
  }));
  const acts = ACTS.filter((each) => all.role && each.roles.includes(all.role)).map(
    ({ title, more, to }): Destination => ({ kind: 'act', id: to, title, more, to }),
  );
  const titles = new Map(all.classes.map((each) => [each.id, each.title]));
  const own = [...screens, ...acts].filter((each) => says(each.title, asked));
  if (asked.length === 0) return own;
  const people = all.people.map((each): Destination => ({
    kind: 'person',
    id: each.id,
    title: `${each.givenName} ${each.familyName}`,
    more: `${each.payroll}, ${each.team}`,
    to: `/people/${each.id}`,
  }));
  const classes = all.classes
    .filter((each) => says(each.title, asked))
    .map((each): Destination => ({
      kind: 'class',
      id: each.id,
      title: each.title,
      more: '',
      to: `/classes/${each.id}`,
    }));
  const machines = all.units
    .filter((each) => says(`${each.name} ${titles.get(each.classId) ?? ''}`, asked))
    .map((each): Destination => ({
      kind: 'machine',
      id: each.id,
      title: each.name,
      more: `${titles.get(each.classId) ?? each.classId}, ${each.site}`,
      to: `/classes/${each.classId}?unit=${each.id}`,
    }));
  const rows = all.hits.map((each): Destination => ({
    kind: 'row',
    id: `${each.classId}/${each.id}`,
    title: each.title,
    more: `${SECTIONS[each.section]}, ${titles.get(each.classId) ?? each.classId}`,
    to: `/classes/${each.classId}?part=${each.part}&row=${encodeURIComponent(each.id)}`,
  }));
  return [own, people, classes, machines, rows].flatMap((each) => each.slice(0, most));
}
