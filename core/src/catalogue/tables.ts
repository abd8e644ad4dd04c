import { packIntegrity } from './integrity';
import type { PackError } from './readPack';
import { type Checkpoint, type Fault, type Origin, type Pack, packSchema } from './schema';

/** The row kinds that travel as plain tables. */
export type TableKind = 'checkpoints' | 'faults';

/** What separates several values in one cell. */
const SEVERAL = ' | ';

interface Column<Row> {
  name: string;
  /** The field that a blank cell leaves out; null for a part of a field that stands in several columns. */
  field: (keyof Row & string) | null;
  write: (row: Row) => string | number | undefined;
  /** Sets the field from a filled cell; returns what is wrong with it. Blank cells never get here. */
  read: (row: Record<string, unknown>, cell: string) => string | null;
}

function plain<Row>(name: string, field: keyof Row & string): Column<Row> {
  return {
    name,
    field,
    write: (row) => row[field] as string | undefined,
    read: (row, cell) => ((row[field] = cell), null),
  };
}
const pieces = (cell: string) =>
  cell
    .split(/\s\|\s/)
    .map((each) => each.trim())
    .filter(Boolean);
function list<Row>(name: string, field: keyof Row & string): Column<Row> {
  return {
    name,
    field,
    write: (row) => (row[field] as readonly string[] | undefined)?.join(SEVERAL),
    read: (row, cell) => ((row[field] = pieces(cell)), null),
  };
}
function number<Row>(name: string, field: keyof Row & string): Column<Row> {
  return {
    name,
    field,
    write: (row) => row[field] as number,
    read: (row, cell) => {
      const value = Number(cell.replace(',', '.'));
      row[field] = value;
      return Number.isFinite(value) ? null : `"${cell}" is not a number`;
    },
  };
}
/** "look: what shows | press: what shows" as pairs, or what is wrong with it. */
function byMethod(cell: string): [string, string][] | string {
  const pairs: [string, string][] = [];
  for (const piece of pieces(cell)) {
    const match = /^(\w+):\s*(.+)$/s.exec(piece);
    if (!match) return `write "look: what shows", not "${piece}"`;
    pairs.push([match[1]!, match[2]!]);
  }
  return pairs;
}
/** A part of a row that is no plain value, as JSON in its cell. */
function json<Row>(
  name: string,
  field: keyof Row & string,
  take: (row: Row) => unknown,
  put: (row: Record<string, unknown>, value: never) => void,
): Column<Row> {
  return {
    name,
    field,
    write: (row) => {
      const value = take(row);
      return value === undefined ? undefined : JSON.stringify(value);
    },
    read: (row, cell) => {
      try {
        put(row, JSON.parse(cell) as never);
        return null;
      } catch {
        return `"${cell.slice(0, 40)}" is not JSON`;
      }
    },
  };
}
function originColumns<Row extends { origin: Origin }>(): Column<Row>[] {
  const part = (name: string, field: keyof Origin): Column<Row> => ({
    name,
    field: null,
    write: (row) => row.origin[field],
    read: (row, cell) => ((row['origin'] = { ...(row['origin'] as object), [field]: cell }), null),
  });
  return [part('origin', 'kind'), part('cite', 'cite'), part('origin note', 'note')];
}

const CHECKPOINT_COLUMNS: readonly Column<Checkpoint>[] = [
  plain('id', 'id'),
  plain('station', 'station'),
  list('also at', 'alsoAt'),
  plain('part', 'part'),
  plain('system', 'system'),
  list('methods', 'methods'),
  plain('sound', 'sound'),
  {
    name: 'appears',
    field: 'appears',
    write: (row) =>
      Object.entries(row.appears)
        .map(([method, shows]) => `${method}: ${shows}`)
        .join(SEVERAL),
    read: (row, cell) => {
      const pairs = byMethod(cell);
      if (typeof pairs === 'string') return pairs;
      row['appears'] = Object.fromEntries(pairs);
      return null;
    },
  },
  list('when', 'when'),
  plain('when note', 'whenNote'),
  list('needs', 'needs'),
  number('honest seconds', 'honestSeconds'),
  {
    name: 'each',
    field: 'each',
    write: (row) =>
      row.each &&
      `${row.each.of} x ${typeof row.each.count === 'number' ? row.each.count : row.each.count.feature}`,
    read: (row, cell) => {
      const match = /^(.+?) x (\S+)$/.exec(cell);
      if (!match) return `write "wheel x 4" or "column x set-size", not "${cell}"`;
      row['each'] = {
        of: match[1],
        count: /^\d+$/.test(match[2]!) ? Number(match[2]) : { feature: match[2] },
      };
      return null;
    },
  },
  number('weight', 'weight'),
  json(
    'drawing',
    'evidence',
    (row) => row.evidence,
    (row, value) => (row['evidence'] = value),
  ),
  ...originColumns<Checkpoint>(),
];

const plantColumn = (name: string, field: keyof NonNullable<Fault['plant']>): Column<Fault> => ({
  name,
  field: null,
  write: (row) => row.plant?.[field],
  read: (row, cell) => ((row['plant'] = { ...(row['plant'] as object), [field]: cell }), null),
});

const FAULT_COLUMNS: readonly Column<Fault>[] = [
  plain('id', 'id'),
  plain('checkpoint', 'checkpoint'),
  plain('title', 'title'),
  {
    name: 'cues',
    field: 'cues',
    write: (row) => row.cues.map((cue) => `${cue.method}: ${cue.shows}`).join(SEVERAL),
    read: (row, cell) => {
      const known = new Map(
        ((row['cues'] as Fault['cues'] | undefined) ?? []).map((cue) => [cue.shows, cue]),
      );
      const pairs = byMethod(cell);
      if (typeof pairs === 'string') return pairs;
      row['cues'] = pairs.map(([method, shows]) => ({ ...known.get(shows), method, shows }));
      return null;
    },
  },
  plain('grade', 'grade'),
  plain('kind', 'kind'),
  plain('departs', 'departs'),
  {
    name: 'until',
    field: 'until',
    write: ({ until }) =>
      until && `${until.bound}${until.n === undefined ? '' : ` ${until.n}`}: ${until.says}`,
    read: (row, cell) => {
      const match = /^([a-z-]+)(?: (\d+(?:\.\d+)?))?:\s*(.+)$/s.exec(cell);
      if (!match) return `write "shift: what is said" or "days 3: what is said", not "${cell}"`;
      const [, bound, n, says] = match;
      row['until'] = { bound, ...(n === undefined ? {} : { n: Number(n) }), says };
      return null;
    },
  },
  plain('escalates', 'escalates'),
  plain('cure', 'cure'),
  plain('why', 'why'),
  plain('do', 'do'),
  plantColumn('planted as', 'as'),
  plantColumn('plant', 'how'),
  plantColumn('retrieve', 'retrieve'),
  plain('substitute', 'substitute'),
  list('needs', 'needs'),
  ...originColumns<Fault>(),
];

const COLUMNS = { checkpoints: CHECKPOINT_COLUMNS, faults: FAULT_COLUMNS } as const;

/**
 * A pack's checkpoints or faults as a table, header first. Gauges do not fit a table and stay with the row of
 * the same id on the way back, as a cue's drawing stays with the cue of the same words.
 */
export function packTable(pack: Pack, kind: TableKind): string[][] {
  const columns = COLUMNS[kind] as readonly Column<unknown>[];
  return [
    columns.map((each) => each.name),
    ...pack[kind].map((row) => columns.map((each) => String(each.write(row) ?? ''))),
  ];
}

/**
 * Works a table back into a pack: the table is the whole list, so a row left out is removed. Columns may
 * stand in any order; unknown ones are an error, and a column left out keeps what each known row has. Every
 * error carries the table's own line (`lines[i]` for row i, header included).
 */
export function applyTable(
  pack: Pack,
  kind: TableKind,
  cells: readonly (readonly string[])[],
  lines: readonly number[],
): { pack: Pack; errors: [] } | { pack: null; errors: PackError[] } {
  const errors: PackError[] = [];
  const columns = COLUMNS[kind] as readonly Column<unknown>[];
  const header = (cells[0] ?? []).map((each) => each.trim().toLowerCase());
  const fail = (line: number, path: string, rule: string, message: string) =>
    errors.push({ line, path, rule, message });
  if (header.length === 0) fail(1, kind, 'table-header', 'the table is empty');
  header.forEach((name, i) => {
    if (!columns.some((each) => each.name === name))
      fail(
        lines[0] ?? 1,
        kind,
        'table-header',
        `column ${i + 1} is called "${name}"; known are ${columns.map((each) => each.name).join(', ')}`,
      );
    else if (header.indexOf(name) !== i)
      fail(lines[0] ?? 1, kind, 'table-header', `column "${name}" stands twice`);
  });
  if (!header.includes('id')) fail(lines[0] ?? 1, kind, 'table-header', 'the column "id" is missing');
  if (errors.length > 0) return { pack: null, errors };

  const known = new Map<string, unknown>(pack[kind].map((row) => [row.id, row]));
  const rows = cells.slice(1).map((cellsOfRow, i) => {
    const line = lines[i + 1] ?? i + 2;
    const id = cellsOfRow[header.indexOf('id')]?.trim() ?? '';
    const row = { ...(known.get(id) as Record<string, unknown> | undefined) };
    const old = { ...row };
    if (header.includes('origin')) row['origin'] = {};

    header.forEach((name, c) => {
      const column = columns.find((each) => each.name === name)!;
      const cell = cellsOfRow[c]?.trim() ?? '';
      if (cell === '') {
        if (column.field !== null) delete row[column.field];
        return;
      }
      const wrong = column.read(name === 'cues' ? Object.assign(row, { cues: old['cues'] }) : row, cell);
      if (wrong) fail(line, `${kind}/${id}`, 'table-cell', `${name}: ${wrong}`);
    });
    // A fault whose way of planting is left blank is not planted, whatever else its columns say of it.
    const plant = header.indexOf('plant');
    if (plant >= 0 && !cellsOfRow[plant]?.trim()) delete row['plant'];
    return row;
  });
  if (errors.length > 0) return { pack: null, errors };
  const lineOf = (path: readonly PropertyKey[]) =>
    path[0] === kind && typeof path[1] === 'number' ? (lines[path[1] + 1] ?? path[1] + 2) : 1;
  const parsed = packSchema.safeParse({ ...pack, [kind]: rows });
  if (!parsed.success) {
    for (const issue of parsed.error.issues)
      fail(lineOf(issue.path), issue.path.map(String).join('/'), `schema:${issue.code}`, issue.message);
    return { pack: null, errors };
  }
  for (const issue of packIntegrity(parsed.data))
    fail(lineOf(issue.path), issue.path.join('/'), issue.rule, issue.message);
  return errors.length > 0 ? { pack: null, errors } : { pack: parsed.data, errors: [] };
}
