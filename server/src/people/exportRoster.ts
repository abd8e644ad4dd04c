import type { Standing } from '@rounds/core/certification';
import { stringify } from 'csv-stringify/sync';
import { and, eq } from 'drizzle-orm';
import { type Caller, scopeOf, withinScope } from '../accounts/access';
import { standingsOf, standingsToday } from '../certification/standings';
import { type House, note } from '../data/context';
import { machineClass, person } from '../data/schema';

/** Text that a spreadsheet would run as a formula gets a leading apostrophe. */
function safeCell(value: string | null): string {
  const text = value ?? '';
  return /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
}

/** The roster with standings as a CSV file for spreadsheets. */
export async function exportRoster(house: House, caller: Caller) {
  const today = await standingsToday(house);
  const rows = await house.db
    .select()
    .from(person)
    .where(and(withinScope(scopeOf(caller)), eq(person.active, true)))
    .orderBy(person.familyName, person.givenName, person.id);
  const standings = await standingsOf(house.db, rows, today);
  const classes = await house.db.select().from(machineClass).orderBy(machineClass.title);
  const cell = (held: Standing | undefined) => {
    if (!held) return '';
    const until = held.until ? ` until ${held.until}` : '';
    return `${held.status}${until}${held.overridden ? ' (computed outcome overridden)' : ''}`;
  };
  const used = classes.filter((each) =>
    [...standings.values()].some((list) => list.some((s) => s.classId === each.id)),
  );
  const table = [
    [
      'payroll number',
      'given name',
      'family name',
      'site',
      'team',
      'e-mail',
      'date of birth',
      'start date',
      ...used.map((each) => each.title),
    ],
    ...rows.map((row) => [
      ...[
        row.payroll,
        row.givenName,
        row.familyName,
        row.site,
        row.team,
        row.email,
        row.born,
        row.started,
      ].map(safeCell),
      ...used.map((each) => cell(standings.get(row.id)?.find((s) => s.classId === each.id)?.standing)),
    ]),
  ];
  await note(house.db, caller, 'people-exported', 'roster', { people: rows.length });
  return {
    file: `\uFEFF${stringify(table, { record_delimiter: 'windows' })}`,
    name: `roster-${today}.csv`,
  };
}
