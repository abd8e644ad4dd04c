import type { ROSTER_ORDERS, RouteInput, routes } from '@rounds/contract';
import { GRAVEST_FIRST } from '@rounds/core/certification';
import { and, count, eq, exists, ilike, or, sql, type SQL } from 'drizzle-orm';
import { type Caller, scopeOf, withinScope } from '../accounts/access';
import { standingsOf, standingsToday } from '../certification/standings';
import type { House } from '../data/context';
import { person, standingRow } from '../data/schema';
import { afterPlace, placeOf, shown, sitesAndTeams } from './roster';

type Asked = RouteInput<typeof routes.people>;

const BY_NAME = [person.familyName, person.givenName, person.id] as const;
/** The gravest standing of a person first: 0 for suspended. */
const gravest = sql`(select min(array_position(${sql.raw(
  `array['${GRAVEST_FIRST.join("','")}']`,
)}, s.status)) from standing s where s.person_id = ${person.id})`;
const soonest = sql`(select min(s.until_date) from standing s where s.person_id = ${person.id}
  and s.status in ('valid', 'due', 'in-grace'))`;

/** The order of the roster that was asked for; people of one place stand by name. */
function rosterOrder(sort: (typeof ROSTER_ORDERS)[number], order: 'ascending' | 'descending'): SQL[] {
  const by = {
    name: [person.familyName, person.givenName],
    payroll: [person.payroll],
    team: [person.team],
    site: [person.site],
    standing: [gravest],
    until: [soonest],
  }[sort];
  const direction = order === 'descending' ? sql`desc` : sql`asc`;
  // Who has nothing on record comes last either way.
  return [...by.map((each) => sql`${each} ${direction} nulls last`), ...BY_NAME.map((each) => sql`${each}`)];
}

/** A page of the roster, in the order and narrowed as asked. */
export async function listRoster(house: House, query: Asked['query'], caller: Caller) {
  const own = withinScope(scopeOf(caller));
  const today = await standingsToday(house);
  const pattern = query.search ? `%${query.search.replace(/[%_\\]/g, '\\$&')}%` : null;
  const standsSo =
    query.status || query.classId
      ? exists(
          house.db
            .select({ one: sql`1` })
            .from(standingRow)
            .where(
              and(
                eq(standingRow.personId, person.id),
                query.status ? eq(standingRow.status, query.status) : undefined,
                query.classId ? eq(standingRow.classId, query.classId) : undefined,
              ),
            ),
        )
      : undefined;
  const filters = and(
    own,
    eq(person.active, true),
    query.site ? eq(person.site, query.site) : undefined,
    query.team ? eq(person.team, query.team) : undefined,
    standsSo,
    pattern
      ? or(
          ilike(person.familyName, pattern),
          ilike(person.givenName, pattern),
          ilike(person.payroll, pattern),
          ilike(sql`${person.givenName} || ' ' || ${person.familyName}`, pattern),
        )
      : undefined,
  );
  const rows = await house.db
    .select()
    .from(person)
    .where(and(filters, afterPlace(query.cursor)))
    .orderBy(...(query.cursor ? BY_NAME : rosterOrder(query.sort, query.order)))
    .limit(query.limit + 1)
    .offset(query.cursor ? 0 : (query.page - 1) * query.limit);
  const page = rows.slice(0, query.limit);
  const byPlace = query.sort === 'name' && query.order === 'ascending';
  const standings = await standingsOf(house.db, page, today);
  return {
    rows: page.map((row) => ({ person: shown(row), standings: standings.get(row.id) ?? [] })),
    next: byPlace && rows.length > query.limit ? placeOf(page.at(-1)!) : null,
    total: (await house.db.select({ n: count() }).from(person).where(filters))[0]?.n ?? 0,
    ...(await sitesAndTeams(house, own)),
  };
}
