import type { RouteInput, routes } from '@rounds/contract';
import { daysBetween } from '@rounds/core/calendar';
import { and, count, eq, inArray, sql } from 'drizzle-orm';
import { type Caller, scopeOf, withinScope } from '../accounts/access';
import { standingsToday } from '../certification/standings';
import type { House } from '../data/context';
import { machineClass, person, standingRow } from '../data/schema';
import { afterPlace, placeOf, sitesAndTeams } from './roster';

type Asked = RouteInput<typeof routes.matrix>;

/** A page of people with where each stands in each class. */
export async function standingMatrix(house: House, query: Asked['query'], caller: Caller) {
  const own = withinScope(scopeOf(caller));
  const today = await standingsToday(house);
  const filters = and(
    own,
    eq(person.active, true),
    query.site ? eq(person.site, query.site) : undefined,
    query.team ? eq(person.team, query.team) : undefined,
  );
  const rows = await house.db
    .select()
    .from(person)
    .where(and(filters, afterPlace(query.cursor)))
    .orderBy(person.familyName, person.givenName, person.id)
    .limit(query.limit + 1);
  const page = rows.slice(0, query.limit);
  const classes = await house.db
    .select({ id: machineClass.id, title: machineClass.title, family: machineClass.family })
    .from(machineClass)
    .orderBy(machineClass.family, machineClass.title);
  const index = new Map(classes.map((each, i) => [each.id, i]));
  const held = await house.db
    .select({
      personId: standingRow.personId,
      classId: standingRow.classId,
      status: standingRow.status,
      mayOperate: standingRow.mayOperate,
      until: standingRow.until,
      lengthDays: sql<number | null>`(${standingRow.body} ->> 'lengthDays')::int`,
    })
    .from(standingRow)
    .where(
      inArray(
        standingRow.personId,
        page.map((each) => each.id),
      ),
    )
    .orderBy(standingRow.classId);
  const cells = new Map<string, [number, string, number | null, string, number | null][]>(
    page.map((each) => [each.id, []]),
  );
  for (const each of held)
    cells
      .get(each.personId)!
      .push([
        index.get(each.classId)!,
        each.status,
        each.until === null ? null : daysBetween(today, each.until),
        each.mayOperate,
        each.lengthDays,
      ]);
  return {
    today,
    classes,
    people: page.map((row) => ({
      id: row.id,
      name: `${row.familyName}, ${row.givenName}`,
      team: row.team,
      site: row.site,
      cells: cells.get(row.id)!,
    })),
    next: rows.length > query.limit ? placeOf(page.at(-1)!) : null,
    total: (await house.db.select({ n: count() }).from(person).where(filters))[0]?.n ?? 0,
    ...(await sitesAndTeams(house, own)),
  };
}
