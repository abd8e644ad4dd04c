import { stringify } from 'csv-stringify/sync';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ProblemError } from '../http/problem';
import { checkRows, matchColumns, readCsv } from './csvImport';

const HEADINGS = [
  'Payroll',
  'Given name',
  'Family name',
  'Site',
  'Team',
  'E-mail',
  'Date of birth',
  'Start date',
];
/** Cells as people write them: commas, quotes, line breaks, other scripts. */
const cell = fc.string({
  unit: fc.constantFrom('a', 'Ö', '山', "'", '"', ',', ';', '\n', ' ', '-', '<', '='),
  minLength: 0,
  maxLength: 12,
});

describe('reading CSV', () => {
  it('gives back what was written, whatever stands in the cells and whichever delimiter (RFC 4180)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(cell, { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 8 }),
        fc.constantFrom(',', ';', '\t'),
        fc.boolean(),
        (rows, delimiter, bom) => {
          const table = [['alpha', 'beta', 'gamma'], ...rows];
          const text = stringify(table, { delimiter, record_delimiter: 'windows', quoted: true });
          const written = `${bom ? '\uFEFF' : ''}${text}`;
          const read = readCsv(written);
          expect(read.columns).toEqual(['alpha', 'beta', 'gamma']);
          expect(read.rows.map((row) => row.map((each) => each.trim()))).toEqual(
            rows.map((row) => row.map((each) => each.trim())),
          );
          expect(read.delimiter).toBe(delimiter);
        },
      ),
    );
  });
  it('either reads a text or says why not, and never falls over', () => {
    fc.assert(
      fc.property(
        fc.string({
          unit: fc.constantFrom('"', ',', '\r', '\n', 'x', '\uFFFD', '\u0000', ';'),
          maxLength: 60,
        }),
        (text) => {
          try {
            const { columns, rows } = readCsv(text);
            const { accepted, rejected } = checkRows(columns, rows, matchColumns(columns));
            expect(accepted.length + rejected.length).toBe(rows.length);
          } catch (error) {
            expect(error).toBeInstanceOf(ProblemError);
            expect((error as ProblemError).problem.detail).toMatch(/Nothing was written|stopped/);
          }
        },
      ),
      { numRuns: 400 },
    );
  });
});

describe('matching columns', () => {
  it('knows the headings people use, whatever their case and punctuation', () => {
    const found = matchColumns([
      'STAFF NO.',
      'First-Name',
      'surname',
      'Depot',
      'Crew',
      'E-Mail',
      'D.O.B',
      'start_date',
    ]);
    expect(found).toEqual({
      payroll: 'STAFF NO.',
      givenName: 'First-Name',
      familyName: 'surname',
      site: 'Depot',
      team: 'Crew',
      email: 'E-Mail',
      born: null,
      started: 'start_date',
    });
  });
  it('does as asked, and drops a wish for a column that is not there', () => {
    expect(matchColumns(HEADINGS, { team: 'Site', site: 'Nowhere', email: null })).toMatchObject({
      team: 'Site',
      site: null,
      email: null,
      payroll: 'Payroll',
    });
  });
});

describe('checking rows', () => {
  const check = (...rows: string[][]) => checkRows(HEADINGS, rows, matchColumns(HEADINGS));
  const row = (change: Partial<Record<number, string>> = {}) =>
    ['1', 'Anna', 'Berg', 'Quay', 'Blue', 'anna@yard.example', '1990-02-28', '01.03.2015'].map(
      (each, i) => change[i] ?? each,
    );

  it('takes a good row, reading dates written either way', () => {
    expect(check(row()).accepted[0]!.person).toEqual({
      payroll: '1',
      givenName: 'Anna',
      familyName: 'Berg',
      site: 'Quay',
      team: 'Blue',
      email: 'anna@yard.example',
      born: '1990-02-28',
      started: '2015-03-01',
    });
    expect(check(row({ 6: '29/02/1992' })).accepted[0]!.person.born).toBe('1992-02-29');
  });
  it.each([
    [
      'a day that does not exist',
      { 6: '29/02/1991' },
      /date of birth "29\/02\/1991" is not a date that exists/,
    ],
    ['a month first', { 7: '03/31/2015' }, /start date "03\/31\/2015"/],
    ['no payroll number', { 0: ' ' }, /payroll number is empty/],
    ['an address that is none', { 5: 'anna at yard' }, /e-mail is not an e-mail address/],
    ['an endless name', { 2: 'x'.repeat(500) }, /family name/],
    ['a control character', { 1: 'An\u0001na' }, /given name contains control characters/],
  ])('rejects %s, with the reason', (_what, change, says) => {
    const { accepted, rejected } = check(row(change as Partial<Record<number, string>>));
    expect(accepted).toEqual([]);
    expect(rejected[0]!.row).toBe(2);
    expect(rejected[0]!.reasons.join('; ')).toMatch(says);
  });
  it('gives every reason of a row, not only the first', () => {
    expect(check(row({ 0: '', 1: '', 6: 'soon' })).rejected[0]!.reasons.length).toBe(3);
  });
  it('takes the first of two equal payroll numbers and rejects the second, naming the first', () => {
    const { accepted, rejected } = check(row(), row({ 0: '2' }), row());
    expect(accepted.map((each) => each.row)).toEqual([2, 3]);
    expect(rejected).toMatchObject([{ row: 4, reasons: ['payroll number 1 stands already in row 2'] }]);
  });
  it('rejects every row while a needed column is not matched', () => {
    const { accepted, rejected } = checkRows(HEADINGS, [row()], { ...matchColumns(HEADINGS), team: null });
    expect(accepted).toEqual([]);
    expect(rejected[0]!.reasons).toContain('no column is matched to team');
  });
});
