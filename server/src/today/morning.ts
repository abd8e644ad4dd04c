import { STANDING_STATUSES, standingAt } from '@rounds/core/certification';
import { and, asc, count, eq, inArray, sql } from 'drizzle-orm';
import { type Caller, scopeOf, withinScope } from '../accounts/access';
import { waitingFor } from '../calibration/calibrations';
import { evaluatorOn } from '../calibration/standing';
import { plantedRows, summaryRows } from '../assess/summaries';
import { standingsToday } from '../certification/standings';
import { type House, siteTimeZone } from '../data/context';
import { machineClass, person, standingRow } from '../data/schema';

/** Statuses that somebody must do something about, the gravest first. */
const ATTENTION = ['suspended', 'lapsed', 'in-grace', 'due'] as const;
const LISTED_ATTENTION = 100;

/** What needs attention this morning, as far as the caller may see it. */
export async function morning(house: House, caller: Caller) {
  const today = await standingsToday(house);
  const planted = await plantedRows(house, caller);
  const scope = scopeOf(caller);
  const own = and(withinScope(scope), eq(person.active, true));
  const counted = await house.db
    .select({ status: standingRow.status, n: count() })
    .from(standingRow)
    .innerJoin(person, eq(person.id, standingRow.personId))
    .where(own)
    .groupBy(standingRow.status);
  const counts = Object.fromEntries(
    STANDING_STATUSES.flatMap((status) =>
      counted.filter((each) => each.status === status).map((each) => [status, each.n]),
    ),
  );
  const gravity = sql`array_position(array['suspended','lapsed','in-grace','due'], ${standingRow.status})`;
  const rows = await house.db
    .select({
      who: person,
      classId: standingRow.classId,
      classTitle: machineClass.title,
      body: standingRow.body,
    })
    .from(standingRow)
    .innerJoin(person, eq(person.id, standingRow.personId))
    .innerJoin(machineClass, eq(machineClass.id, standingRow.classId))
    .where(and(own, inArray(standingRow.status, [...ATTENTION])))
    .orderBy(gravity, asc(standingRow.until), person.familyName, person.givenName, standingRow.classId)
    .limit(LISTED_ATTENTION);
  return {
    today,
    attention: rows.map(({ who, classId, classTitle, body }) => ({
      personId: who.id,
      personName: `${who.givenName} ${who.familyName}`,
      team: who.team,
      classId,
      classTitle,
      standing: standingAt(body, today),
    })),
    attentionTotal: ATTENTION.reduce((sum, status) => sum + (counts[status] ?? 0), 0),
    counts,
    open: await summaryRows(house, caller, { scope, open: true }),
    planted,
    recent: await summaryRows(house, caller, { scope, open: false, limit: 8 }),
    calibration:
      caller.role === 'trainer' || caller.role === 'administrator'
        ? {
            standing: await evaluatorOn(house.db, await siteTimeZone(house), caller.id, today),
            waiting: await waitingFor(house.db, caller),
          }
        : null,
  };
}
