import { IMPORT_FIELDS, type ImportPreview, MAX_IMPORT_ROWS, personInput } from '@rounds/contract';
import { isPlainDate } from '@rounds/core/calendar';
import { parse } from 'csv-parse/sync';
import { ProblemError } from '../http/problem';

type Field = (typeof IMPORT_FIELDS)[number];
export type ImportedPerson = Record<'payroll' | 'givenName' | 'familyName' | 'site' | 'team', string> &
  Record<'email' | 'born' | 'started', string | null>;

/** Most columns of a roster, and rejected rows that are listed one by one. */
const MAX_COLUMNS = 60;
const LISTED_REJECTIONS = 200;
/** Rows between two tellings of progress. */
const STEP = 500;

export type AskedColumns = Partial<Record<Field, string | null>> | undefined;

const REQUIRED: readonly Field[] = ['payroll', 'givenName', 'familyName', 'site', 'team'];
const LABELS: Record<Field, string> = {
  payroll: 'payroll number',
  givenName: 'given name',
  familyName: 'family name',
  site: 'site',
  team: 'team',
  email: 'e-mail',
  born: 'date of birth',
  started: 'start date',
};
/** Column headings that people use, lower case without punctuation. */
const GUESSES: Record<Field, readonly string[]> = {
  payroll: [
    'payroll',
    'payroll number',
    'payroll no',
    'employee number',
    'employee no',
    'employee id',
    'staff number',
    'staff no',
    'number',
    'id',
  ],
  givenName: ['given name', 'first name', 'forename', 'first', 'given'],
  familyName: ['family name', 'last name', 'surname', 'last', 'family'],
  site: ['site', 'location', 'place', 'depot'],
  team: ['team', 'department', 'crew', 'section', 'group'],
  email: ['email', 'e mail', 'mail', 'e mail address', 'email address'],
  born: ['born', 'date of birth', 'birth date', 'dob', 'birthday'],
  started: ['started', 'start date', 'joined', 'date joined', 'employed since'],
};

const plain = (heading: string) =>
  heading
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, ' ')
    .trim();

/**
 * Reads CSV text into rows (RFC 4180; comma, semicolon or tab). Throws the csv problems with the line where
 * reading stopped.
 */
export function readCsv(text: string): { columns: string[]; rows: string[][]; delimiter: string } {
  if (text.includes('\uFFFD'))
    throw new ProblemError(
      'csv-unreadable',
      'The file is not in UTF-8, so names would come out damaged. Save it as "CSV UTF-8" ' +
        'and try again. Nothing was written.',
    );
  if (text.includes('\u0000'))
    throw new ProblemError(
      'csv-unreadable',
      'The file holds zero bytes: it is not a text file, or it is UTF-16. Save it as "CSV ' +
        'UTF-8". Nothing was written.',
    );
  const first = /^\uFEFF?([^\r\n]*)/.exec(text)?.[1] ?? '';
  const delimiter = [',', ';', '\t'].reduce((best, each) =>
    first.split(each).length > first.split(best).length ? each : best,
  );
  let records: string[][];
  try {
    records = parse(text, {
      bom: true,
      delimiter,
      relax_column_count: true,
      skip_empty_lines: true,
      trim: true,
      to: MAX_IMPORT_ROWS + 2,
      max_record_size: 100_000,
    }) as string[][];
  } catch (error) {
    const { lines, message } = error as { lines?: number; message: string };
    throw new ProblemError(
      'csv-unreadable',
      `Reading stopped${lines ? ` at line ${lines}` : ''}: ${message.split('\n')[0]}. ` +
        'Usually a quotation mark is not closed. Nothing was written.',
    );
  }
  const [columns, ...rows] = records;
  if (rows.length > MAX_IMPORT_ROWS)
    throw new ProblemError(
      'csv-unreadable',
      `The file has more than ${MAX_IMPORT_ROWS} rows. Send it in parts. Nothing was written.`,
    );
  if (columns && columns.length > MAX_COLUMNS)
    throw new ProblemError(
      'csv-unreadable',
      `The heading line has ${columns.length} columns; a roster has at most ` +
        `${MAX_COLUMNS}. Nothing was written.`,
    );
  if (!columns || rows.length === 0)
    throw new ProblemError(
      'csv-empty',
      'The file needs a heading line and at least one row. Nothing was written.',
    );
  return { columns, rows, delimiter };
}

/** Matches headings to fields: what was asked for, else by the heading's words. */
export function matchColumns(
  columns: readonly string[],
  asked: AskedColumns = {},
): Record<Field, string | null> {
  const result = {} as Record<Field, string | null>;
  for (const field of IMPORT_FIELDS) {
    const wish = asked[field];
    result[field] =
      wish === undefined
        ? (columns.find((heading) => GUESSES[field].includes(plain(heading))) ?? null)
        : wish !== null && columns.includes(wish)
          ? wish
          : null;
  }
  return result;
}

/**
 * A date as sheets write it: 2026-03-05, 05/03/2026 or 5.3.2026 (day first); null when it is none that
 * exists.
 */
function readDate(text: string): string | null {
  const match = /^(\d{1,2})[./-](\d{1,2})[./-](\d{4})$/.exec(text);
  const iso = match ? `${match[3]}-${match[2]!.padStart(2, '0')}-${match[1]!.padStart(2, '0')}` : text;
  return isPlainDate(iso) ? iso : null;
}

export interface ReadRows {
  accepted: { row: number; person: ImportedPerson }[];
  /** How many rows are left out, and the first of them. */
  rejectedRows: number;
  rejected: ImportPreview['rejected'];
}

/** A roster file as it was read: columns, how they are matched to fields, and its rows. */
export interface ReadRoster extends ReadRows {
  columns: string[];
  mapping: Record<Field, string | null>;
  rows: number;
}

/**
 * Checks every row; a rejected row carries each of its reasons. Row numbers count from the heading line as
 * 1.
 */
export function checkRows(
  columns: readonly string[],
  rows: readonly string[][],
  mapping: Record<Field, string | null>,
  progress: (done: number, total: number) => void = () => undefined,
): ReadRows {
  const unmatched = REQUIRED.filter((field) => mapping[field] === null);
  const index = Object.fromEntries(
    IMPORT_FIELDS.map((field) => [field, mapping[field] === null ? -1 : columns.indexOf(mapping[field]!)]),
  ) as Record<Field, number>;
  const seen = new Map<string, number>();
  const accepted: ReadRows['accepted'] = [];
  const rejected: ReadRows['rejected'] = [];
  let rejectedRows = 0;
  rows.forEach((values, i) => {
    if (i % STEP === 0) progress(i, rows.length);
    const row = i + 2;
    const reasons: string[] = unmatched.map((field) => `no column is matched to ${LABELS[field]}`);
    if (values.length !== columns.length)
      reasons.push(`has ${values.length} cells where the heading has ${columns.length}`);
    const cell = (field: Field) => (index[field] < 0 ? '' : (values[index[field]] ?? '').trim());
    for (const field of REQUIRED)
      if (mapping[field] !== null && cell(field) === '') reasons.push(`${LABELS[field]} is empty`);
    const dates = { born: null, started: null } as Record<'born' | 'started', string | null>;
    for (const field of ['born', 'started'] as const) {
      const text = cell(field);
      if (text === '') continue;
      dates[field] = readDate(text);
      if (dates[field] === null)
        reasons.push(`${LABELS[field]} "${text.slice(0, 40)}" is not a date that exists`);
    }
    const payroll = cell('payroll');
    if (payroll !== '' && seen.has(payroll))
      reasons.push(`payroll number ${payroll.slice(0, 40)} stands already in row ${seen.get(payroll)}`);
    else if (payroll !== '') seen.set(payroll, row);
    const person: ImportedPerson = {
      payroll,
      givenName: cell('givenName'),
      familyName: cell('familyName'),
      site: cell('site'),
      team: cell('team'),
      email: cell('email') || null,
      ...dates,
    };
    if (reasons.length === 0) {
      const checked = personInput.safeParse(person);
      if (!checked.success)
        reasons.push(
          ...checked.error.issues.map(
            (issue) => `${LABELS[issue.path[0] as Field] ?? 'row'} ${issue.message}`,
          ),
        );
    }
    if (reasons.length === 0) {
      accepted.push({ row, person });
      return;
    }
    rejectedRows += 1;
    if (rejected.length < LISTED_REJECTIONS)
      rejected.push({ row, reasons, values: values.slice(0, MAX_COLUMNS).map((each) => each.slice(0, 120)) });
  });
  return { accepted, rejectedRows, rejected };
}
