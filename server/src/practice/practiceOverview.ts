import type { RouteAnswer, RouteInput, routes } from '@rounds/contract';
import type { Pack } from '@rounds/core/catalogue';
import { isReady, itemWords } from '@rounds/core/practice';
import { and, countDistinct, desc, eq, isNotNull, sql } from 'drizzle-orm';
import { type Caller, scopeOf, withinScope } from '../accounts/access';
import { packOrProblem, publishedPack } from '../classes/packs';
import { type House, siteToday } from '../data/context';
import { machineClass, person } from '../data/schema';
import { drill, practiceReview, practiceSet } from '../data/teachingSchema';
import { partsOf, shownBeyondRounds } from './readiness';
import { openSets } from './sets';

type Asked = RouteInput<typeof routes.practiceOverview>['query'];
type Answer = RouteAnswer<typeof routes.practiceOverview>;

/** Most drills that are looked at, and most things forgotten that are listed. */
const MOST_DRILLS = 5000;
const MOST_FORGOTTEN = 10;

/** What goes wrong most among the people whom the caller may see. */
async function forgottenIn(house: House, caller: Caller, classId: string): Promise<Answer['forgotten']> {
  const pack = await packOrProblem(house.db, classId);
  const wrong = sql<number>`count(*) filter (where ${practiceReview.outcome} = 'wrong')::int`;
  const rows = await house.db
    .select({
      item: practiceReview.item,
      times: sql<number>`count(*)::int`,
      wrong,
      people: countDistinct(practiceReview.personId),
    })
    .from(practiceReview)
    .innerJoin(person, eq(person.id, practiceReview.personId))
    .where(and(eq(practiceReview.classId, classId), withinScope(scopeOf(caller))))
    .groupBy(practiceReview.item)
    .having(sql`${wrong} > 0`)
    .orderBy(desc(wrong), practiceReview.item)
    .limit(3 * MOST_FORGOTTEN);
  return rows
    .flatMap((each) => {
      const says = itemWords(pack, each.item);
      return says ? [{ ...each, says }] : [];
    })
    .slice(0, MOST_FORGOTTEN);
}

/** Who practised what, the latest first: of the people whom the caller may see. */
export async function practiceOverview(house: House, { classId }: Asked, caller: Caller): Promise<Answer> {
  const found = await house.db
    .select({
      id: drill.id,
      personId: person.id,
      given: person.givenName,
      family: person.familyName,
      team: person.team,
      classId: drill.classId,
      classTitle: machineClass.title,
      endedAt: drill.endedAt,
      endedOn: drill.endedOn,
      met: drill.met,
      score: sql<number>`(${drill.result} ->> 'score')::float8`,
    })
    .from(drill)
    .innerJoin(person, eq(person.id, drill.personId))
    .innerJoin(machineClass, eq(machineClass.id, drill.classId))
    .where(
      and(
        isNotNull(drill.endedAt),
        eq(drill.offline, false),
        classId ? eq(drill.classId, classId) : undefined,
        withinScope(scopeOf(caller)),
      ),
    )
    .orderBy(desc(drill.endedAt))
    .limit(MOST_DRILLS);
  const groups = new Map<string, typeof found>();
  for (const each of found) {
    const key = `${each.personId} ${each.classId}`;
    groups.set(key, [...(groups.get(key) ?? []), each]);
  }
  const classes = [...new Set(found.map((each) => each.classId))];
  const packs = new Map<string, Pack | undefined>();
  for (const each of classes) packs.set(each, (await publishedPack(house.db, each))?.pack);
  const shown = await shownBeyondRounds(house, withinScope(scopeOf(caller)), classes);
  const rows = [...groups.values()].map((own) => {
    const last = own[0]!;
    const roundDays = own.flatMap((each) => (each.met ? [each.endedOn!] : []));
    const pack = packs.get(last.classId);
    const parts = pack ? partsOf(pack, last, roundDays, shown) : [];
    return {
      person: { id: last.personId, name: `${last.given} ${last.family}`, team: last.team },
      classId: last.classId,
      classTitle: last.classTitle,
      drills: own.length,
      last: { id: last.id, endedAt: new Date(last.endedAt!).toISOString(), score: last.score },
      parts,
      ready: isReady(parts),
    };
  });
  const sets = await openSets(
    house,
    await siteToday(house),
    and(withinScope(scopeOf(caller)), classId ? eq(practiceSet.classId, classId) : undefined),
  );
  return { rows, sets, forgotten: classId ? await forgottenIn(house, caller, classId) : [] };
}
