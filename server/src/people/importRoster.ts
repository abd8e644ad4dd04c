import type { ImportPreview, RouteInput, routes } from '@rounds/contract';
import { sql } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import type { Caller } from '../accounts/access';
import { projectStandings, standingsToday } from '../certification/standings';
import { changesBetween, type House, lock, note } from '../data/context';
import type { Database } from '../data/database';
import { person } from '../data/schema';
import type { AskedColumns, ImportedPerson } from './csvImport';

type Asked = RouteInput<typeof routes.importPeople>;
type PersonRow = typeof person.$inferSelect;

/** What accepted rows would change in the roster. */
interface RosterPlan {
  added: ImportedPerson[];
  changed: { before: PersonRow; to: ImportedPerson }[];
  unchanged: number;
}

async function compareWithRoster(
  db: Database,
  rows: readonly { person: ImportedPerson }[],
): Promise<RosterPlan> {
  const existing = new Map((await db.select().from(person)).map((row) => [row.payroll, row]));
  const plan: RosterPlan = { added: [], changed: [], unchanged: 0 };
  for (const { person: row } of rows) {
    const before = existing.get(row.payroll);
    if (!before) {
      plan.added.push(row);
      continue;
    }
    const to = {
      ...row,
      email: row.email ?? before.email,
      born: row.born ?? before.born,
      started: row.started ?? before.started,
    };
    if ((Object.keys(to) as (keyof ImportedPerson)[]).some((key) => to[key] !== before[key]))
      plan.changed.push({ before, to });
    else plan.unchanged += 1;
  }
  return plan;
}

/** Writes what a plan changes, in portions, with before and after in the audit. */
async function carryOut(db: Database, caller: Caller, plan: RosterPlan, today: string): Promise<void> {
  const added = plan.added.map((each) => ({ id: uuidv7(), ...each }));
  for (let i = 0; i < added.length; i += 500) {
    await db.insert(person).values(added.slice(i, i + 500));
    await note(db, caller, 'people-imported', 'roster', {
      added: added.slice(i, i + 500).map((each) => each.payroll),
    });
  }
  for (let i = 0; i < plan.changed.length; i += 500) {
    const portion = plan.changed.slice(i, i + 500);
    const field = (column: string) => sql.raw(`excluded."${column}"`);
    await db
      .insert(person)
      .values(portion.map(({ before, to }) => ({ ...before, ...to })))
      .onConflictDoUpdate({
        target: person.id,
        set: {
          givenName: field('given_name'),
          familyName: field('family_name'),
          site: field('site'),
          team: field('team'),
          email: field('email'),
          born: field('born'),
          started: field('started'),
        },
      });
    const changes = portion.map(({ before, to }) => ({ id: before.id, ...changesBetween(before, to) }));
    await note(db, caller, 'people-imported', 'roster', { changed: changes });
  }
  await projectStandings(
    db,
    today,
    plan.changed.map(({ before }) => before.id),
  );
}

/** Reads the file of an import away from the thread that answers others. */
const readRoster = (
  house: House,
  body: { csv: string; mapping?: AskedColumns; job?: string | undefined },
  caller: Caller,
  gone: AbortSignal,
) =>
  house.pool.run(
    'readRoster',
    { csv: body.csv, asked: body.mapping },
    { gone, job: body.job ? { id: body.job, accountId: caller.id } : undefined },
  );

const previewOf = (read: Awaited<ReturnType<typeof readRoster>>, plan: RosterPlan): ImportPreview => ({
  columns: read.columns,
  mapping: read.mapping,
  rows: read.rows,
  accepted: read.accepted.length,
  added: plan.added.length,
  changed: plan.changed.length,
  unchanged: plan.unchanged,
  rejectedRows: read.rejectedRows,
  rejected: read.rejected,
  sample: read.accepted
    .slice(0, 5)
    .map(({ person: each }) =>
      Object.fromEntries(Object.entries(each).map(([key, value]) => [key, value ?? ''])),
    ),
});

/** What an import would do; writes nothing. */
export async function previewRosterImport(
  house: House,
  body: Asked['body'],
  caller: Caller,
  gone: AbortSignal,
) {
  const read = await readRoster(house, body, caller, gone);
  return previewOf(read, await compareWithRoster(house.db, read.accepted));
}

/** Writes the accepted rows of an import, all or none. */
export async function importRoster(house: House, body: Asked['body'], caller: Caller, gone: AbortSignal) {
  const read = await readRoster(house, body, caller, gone);
  const today = await standingsToday(house);
  return house.db.transaction(async (db) => {
    await lock(db, 'standings');
    const plan = await compareWithRoster(db, read.accepted);
    await carryOut(db, caller, plan, today);
    await note(db, caller, 'people-imported', 'roster', {
      added: plan.added.length,
      changed: plan.changed.length,
      rejected: read.rejectedRows,
    });
    return previewOf(read, plan);
  });
}
