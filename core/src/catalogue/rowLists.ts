/**
 * The lists of rows that a class is edited by, each with its place in the pack; `*` stands for every
 * procedure or section. They work on drafts too, which may lack anything.
 */
export const ROW_LISTS = [
  { id: 'checkpoints', name: 'Checks', place: ['checkpoints'] },
  { id: 'faults', name: 'Faults', place: ['faults'] },
  { id: 'steps', name: 'Steps', place: ['procedures', '*', 'steps'] },
  { id: 'procedures', name: 'Procedures', place: ['procedures'] },
  { id: 'stations', name: 'Stations', place: ['plan', 'stations'] },
  { id: 'numbers', name: 'Numbers', place: ['numbers'] },
  { id: 'criteria', name: 'Criteria', place: ['sheet', 'sections', '*', 'criteria'] },
  { id: 'criticalErrors', name: 'Critical errors', place: ['sheet', 'criticalErrors'] },
  { id: 'forbidden', name: 'Forbidden', place: ['forbidden'] },
  { id: 'schools', name: 'Schools', place: ['schools'] },
  { id: 'cautions', name: 'Cautions', place: ['cautions'] },
  { id: 'features', name: 'Switches', place: ['features'] },
  { id: 'variants', name: 'Power variants', place: ['variants'] },
  { id: 'conditions', name: 'Conditions', place: ['conditions'] },
  { id: 'failures', name: 'Simulated failures', place: ['machine', 'failures'] },
  { id: 'ladder', name: 'Order of teaching', place: ['teaching', 'ladder'] },
  { id: 'certification', name: 'Certification notes', place: ['certification'] },
  { id: 'mistakes', name: 'Common mistakes', place: ['mistakes'] },
  { id: 'deskPlaces', name: 'Desk: places', place: ['machine', 'desk', 'places'] },
  { id: 'deskControls', name: 'Desk: controls', place: ['machine', 'desk', 'controls'] },
  { id: 'deskLooks', name: 'Desk: looks', place: ['machine', 'desk', 'looks'] },
  { id: 'deskShows', name: 'Desk: what can be perceived', place: ['machine', 'desk', 'shows'] },
  { id: 'deskComponents', name: 'Desk: components', place: ['machine', 'desk', 'components'] },
  { id: 'deskStates', name: 'Desk: further states', place: ['machine', 'desk', 'states'] },
  { id: 'deskRules', name: 'Desk: rules', place: ['machine', 'desk', 'rules'] },
  { id: 'deskSteps', name: 'Desk: how steps are done', place: ['machine', 'desk', 'steps'] },
  { id: 'deskForbidden', name: 'Desk: what shows the forbidden', place: ['machine', 'desk', 'forbidden'] },
  { id: 'deskFailures', name: 'Desk: how failures run', place: ['machine', 'desk', 'failures'] },
  { id: 'deskCommands', name: 'Desk: commands', place: ['machine', 'desk', 'commands'] },
] as const;
export type RowListId = (typeof ROW_LISTS)[number]['id'];

/** A row of a list: where it is in the pack, its id, what it is called, and what it stands under. */
export interface ListedRow {
  path: (string | number)[];
  id: string;
  title: string;
  where: string;
}

type Row = Record<string, unknown>;
/** Fields that name a row, the first that is there counts. */
const TITLES = [
  'title',
  'part',
  'name',
  'do',
  'says',
  'question',
  'point',
  'rule',
  'failure',
  'say',
  'when',
  'kind',
] as const;

function titleOf(row: Row): string {
  const [cue] = Array.isArray(row['cues']) ? (row['cues'] as { shows?: unknown }[]) : [];
  const named = TITLES.map((field) => row[field]).find((value) => value !== undefined && value !== '');
  return String(named ?? cue?.shows ?? row['id'] ?? '');
}

const asRows = (node: unknown) =>
  Array.isArray(node) ? (node as unknown[]).map((each) => (each ?? {}) as Row) : [];

/** Rows that stand under the ids of other rows, with the list those are in. */
const KEYED: Readonly<Partial<Record<RowListId, RowListId>>> = {
  deskSteps: 'steps',
  deskForbidden: 'forbidden',
  deskFailures: 'failures',
};
/** The list whose ids the rows of a keyed list stand under; null for a list of rows of their own. */
export const keyedBy = (list: RowListId): RowListId | null => KEYED[list] ?? null;

function gather(
  node: unknown,
  place: readonly string[],
  path: (string | number)[],
  where: string,
): ListedRow[] {
  const [head, ...rest] = place;
  if (head === undefined)
    return asRows(node).map((row, i) => ({
      path: [...path, i],
      id: String(row['id'] ?? ''),
      title: titleOf(row),
      where,
    }));
  if (head === '*')
    return asRows(node).flatMap((each, i) =>
      gather(each[rest[0]!], rest.slice(1), [...path, i, rest[0]!], String(each['title'] ?? '')),
    );
  return gather((node as Row | null | undefined)?.[head], rest, [...path, head], where);
}

/** Where the rows of a list stand in a pack. */
export const placeOfList = (list: RowListId): readonly string[] =>
  ROW_LISTS.find((each) => each.id === list)!.place;

/** The rows of a list in a pack or a draft of one. */
export function listedRows(pack: unknown, list: RowListId): ListedRow[] {
  const place = placeOfList(list);
  const named = KEYED[list];
  if (!named) return gather(pack, place, [], '');
  const node = place.reduce<unknown>((at, key) => (at as Row | null | undefined)?.[key], pack);
  if (typeof node !== 'object' || node === null || Array.isArray(node)) return [];
  const names = new Map(listedRows(pack, named).map((each) => [each.id, each]));
  return Object.keys(node).map((id) => ({
    path: [...place, id],
    id,
    title: names.get(id)?.title ?? id,
    where: names.get(id)?.where ?? '',
  }));
}

/** The list and row that an id belongs to; null where no list has it. */
export function findListedRow(pack: unknown, id: string): { list: RowListId; row: ListedRow } | null {
  for (const { id: list } of ROW_LISTS) {
    const row = listedRows(pack, list).find((each) => each.id === id);
    if (row) return { list, row };
  }
  return null;
}

/**
 * Which rows a field of a row points to, by the field's name and the one it stands in: a reference is chosen
 * from those rows and never typed. A desk's rows have references of their own. Null for a field that points to none.
 */
export function pointsTo(field: string, within: string, list?: RowListId): RowListId | null {
  if (list?.startsWith('desk')) return IN_DESK[field] ?? null;
  const key = `${within}.${field}`;
  return BY_PLACE[key] ?? BY_FIELD[field] ?? null;
}
const IN_DESK: Readonly<Record<string, RowListId>> = {
  at: 'deskPlaces',
  from: 'deskPlaces',
  of: 'deskShows',
  seen: 'deskShows',
  opposite: 'deskCommands',
};
const BY_FIELD: Readonly<Record<string, RowListId>> = {
  station: 'stations',
  spurFrom: 'stations',
  alsoAt: 'stations',
  stations: 'stations',
  checkpoint: 'checkpoints',
  checkpoints: 'checkpoints',
  after: 'steps',
  since: 'steps',
  when: 'conditions',
  holds: 'conditions',
  procedures: 'procedures',
};
const BY_PLACE: Readonly<Record<string, RowListId>> = { 'count.feature': 'features' };
