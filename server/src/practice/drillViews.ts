import type { DrillOutcome, DrillView } from '@rounds/contract';
import { drillPicture, drillStations, drillCriterion, unmetCriterion } from '@rounds/core/drill';
import { and, asc, eq, isNotNull, lt } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import type { House } from '../data/context';
import { person } from '../data/schema';
import { drill } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';
import { maySeePractised, namedLearner } from './learner';
import { type DrillRow, type HeldDrill, readDrill } from './stream';

const missing = () => new ProblemError('not-found', 'There is no such drill, or it is not yours.');

/** A drill of the account that calls; the faults it was dealt with never leave the server before they are shown. */
export async function ownDrill(house: House, caller: Caller, id: string): Promise<DrillRow> {
  const [row] = await house.db.select().from(drill).where(eq(drill.id, id));
  if (!row || row.accountId !== caller.id) throw missing();
  return row;
}

const instantOf = (text: string) => new Date(text).toISOString();

/** A drill as its learner sees it: parts by name, and what was shown so far. */
export async function drillView(house: House, { row, pack, state }: HeldDrill): Promise<DrillView> {
  return {
    id: row.id,
    person: await namedLearner(house.db, row.personId),
    startedAt: instantOf(row.startedAt),
    ...drillPicture(pack, row.deal, state),
  };
}

/** What became of a drill, for its learner and whoever may see them. Throws where it has not ended. */
export async function drillOutcome(house: House, caller: Caller, id: string): Promise<DrillOutcome> {
  const [found] = await house.db
    .select({ row: drill, team: person.team })
    .from(drill)
    .leftJoin(person, eq(person.id, drill.personId))
    .where(eq(drill.id, id));
  const row = found?.row;
  if (!row || !maySeePractised(caller, row, found.team)) throw missing();
  if (!row.endedAt || !row.result)
    throw new ProblemError('not-complete', 'This drill has not ended, so it says nothing yet.');
  const { pack } = await readDrill(house.db, row);
  const earlier = row.personId
    ? await house.db
        .select({ endedAt: drill.endedAt, result: drill.result })
        .from(drill)
        .where(
          and(
            eq(drill.personId, row.personId),
            eq(drill.classId, row.classId),
            eq(drill.form, row.form),
            isNotNull(drill.endedAt),
            lt(drill.endedAt, row.endedAt),
            eq(drill.offline, false),
          ),
        )
        .orderBy(asc(drill.endedAt))
    : [];
  return {
    id: row.id,
    classId: row.classId,
    classTitle: pack.title,
    form: row.form,
    person: await namedLearner(house.db, row.personId),
    endedAt: instantOf(row.endedAt),
    result: row.result,
    stations: drillStations(pack, row.deal).map((each) => ({ id: each.id, name: each.name })),
    plan: pack.plan,
    unmet: unmetCriterion(row.deal, row.result, drillCriterion(pack)),
    offline: row.offline,
    earlier: earlier.map((each) => ({ endedAt: instantOf(each.endedAt!), score: each.result!.score })),
  };
}
