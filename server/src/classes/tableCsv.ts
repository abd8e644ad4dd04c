import { type Pack, type PackError, packTable, type TableKind } from '@rounds/core/catalogue';
import { parse } from 'csv-parse/sync';
import { stringify } from 'csv-stringify/sync';

/** Most rows of a table of checks or faults that are read. */
const MAX_ROWS = 5000;

/** Spreadsheets run a cell that begins so; it goes out behind an apostrophe and comes back without it. */
const RUNS = /^[=+\-@\t\r]/;

/** Checks or faults of a class as CSV. */
export function tableCsv(pack: Pack, kind: TableKind): string {
  const inert = (cell: string) => (RUNS.test(cell) ? `'${cell}` : cell);
  return `\ufeff${stringify(packTable(pack, kind).map((row) => row.map(inert)))}`;
}

/**
 * A CSV text as cells with the line each row begins on. Comma or semicolon, as spreadsheets of the country
 * write it.
 */
export function csvCells(source: string): { cells: string[][]; lines: number[]; errors: PackError[] } {
  const head = source.split('\n', 1)[0] ?? '';
  const delimiter = (head.match(/;/g)?.length ?? 0) > (head.match(/,/g)?.length ?? 0) ? ';' : ',';
  try {
    const rows = parse(source, {
      bom: true,
      delimiter,
      relax_column_count: true,
      skip_empty_lines: true,
      info: true,
      to: MAX_ROWS + 1,
      max_record_size: 100_000,
    }) as unknown as {
      record: string[];
      info: { lines: number };
    }[];
    const cells = rows.map((row) =>
      row.record.map((cell) => (cell.startsWith("'") && RUNS.test(cell.slice(1)) ? cell.slice(1) : cell)),
    );
    const lines = rows.map(
      (row) => row.info.lines - row.record.reduce((sum, cell) => sum + (cell.match(/\n/g)?.length ?? 0), 0),
    );
    return { cells, lines, errors: [] };
  } catch (error) {
    const at = (error as { lines?: number }).lines ?? 1;
    return {
      cells: [],
      lines: [],
      errors: [
        { line: at, path: '', rule: 'csv', message: error instanceof Error ? error.message : String(error) },
      ],
    };
  }
}
