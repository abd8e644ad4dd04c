import type { Person } from '@rounds/contract';
import { asc, eq, sql, type SQL } from 'drizzle-orm';
import { z } from 'zod';
import { type Caller, maySee } from '../accounts/access';
import type { House } from '../data/context';
import { person } from '../data/schema';
import { readCursor, writeCursor } from '../http/cursor';
import { ProblemError } from '../http/problem';

type PersonRow = typeof person.$inferSelect;

export function shown({ createdAt: _, ...row }: PersonRow): Person {
  return row;
}

/** A place in the roster's order. */
const rosterPlace = z.tuple([z.string(), z.string(), z.uuid()]);

export function placeOf(row: PersonRow): string {
  return writeCursor([row.familyName, row.givenName, row.id]);
}

export function afterPlace(cursor: string | undefined): SQL | undefined {
  if (cursor === undefined) return undefined;
  const [family, given, id] = readCursor(cursor, rosterPlace);
  return sql`(${person.familyName}, ${person.givenName}, ${person.id}) > (${family}, ${given}, ${id}::uuid)`;
}

/** A person by id. Throws the not-found problem for one who is not there or whom the caller may not see. */
export async function personOr404(house: House, caller: Caller, id: string): Promise<PersonRow> {
  const [row] = await house.db.select().from(person).where(eq(person.id, id));
  if (!row || !maySee(caller, row))
    throw new ProblemError('not-found', 'There is no such person, or you may not see them.');
  return row;
}

async function distinct(
  house: House,
  column: typeof person.site | typeof person.team,
  where: SQL | undefined,
): Promise<string[]> {
  return (
    await house.db.selectDistinct({ value: column }).from(person).where(where).orderBy(asc(column))
  ).map((each) => each.value);
}

/** Sites and teams of the people that a condition allows. */
export async function sitesAndTeams(house: House, own: SQL | undefined) {
  return {
    sites: await distinct(house, person.site, own),
    teams: await distinct(house, person.team, own),
  };
}
