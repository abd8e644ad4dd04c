import { addDays, localDate, type PlainDate } from '@rounds/core/calendar';
import { foldEvaluation } from '@rounds/core/evaluation';
import { observe } from '@rounds/core/insight';
import { and, asc, eq, gte, isNull, lte, ne, or } from 'drizzle-orm';
import { type Caller, scopeOf, withinScope } from '../accounts/access';
import { eventsOf } from '../assess/stream';
import { effectivePackOf } from '../classes/packs';
import { type House, lock, siteTimeZone } from '../data/context';
import { evaluationObservation } from '../data/gradingSchema';
import { evaluation, machineClass, person } from '../data/schema';

/** Version of what is counted; with another, every evaluation is counted anew. */
const VERSION = 1;
/** Evaluations counted in one transaction. */
const BATCH = 100;

/** Counts the closed evaluations that are not counted yet. A closed evaluation never changes. */
async function countNew(house: House): Promise<void> {
  const zone = await siteTimeZone(house);
  const batch = () =>
    house.db.transaction(async (db) => {
      await lock(db, 'observations');
      const rows = await db
        .select({ row: evaluation })
        .from(evaluation)
        .leftJoin(evaluationObservation, eq(evaluationObservation.evaluationId, evaluation.id))
        .where(
          and(
            eq(evaluation.phase, 'closed'),
            eq(evaluation.purpose, 'evaluation'),
            or(isNull(evaluationObservation.version), ne(evaluationObservation.version, VERSION)),
          ),
        )
        .orderBy(asc(evaluation.packHash))
        .limit(BATCH);
      for (const { row } of rows) {
        const record = foldEvaluation(await eventsOf(db, row.id));
        const body = observe(await effectivePackOf(db, row.packHash), record);
        const on = localDate(record.decision?.at ?? new Date(row.createdAt).toISOString(), zone);
        const kept = {
          personId: row.personId,
          classId: row.classId,
          accountId: row.decidedBy ?? row.trainerId,
          on,
          version: VERSION,
          body,
        };
        await db
          .insert(evaluationObservation)
          .values({ evaluationId: row.id, ...kept })
          .onConflictDoUpdate({ target: evaluationObservation.evaluationId, set: kept });
      }
      return rows.length;
    });
  while ((await batch()) === BATCH);
}

/** What of the organisation is asked for. */
export interface Asked {
  classId: string | undefined;
  from: PlainDate;
  to: PlainDate;
}

/**
 * The days asked for, as instants: what happened from `after` on and `before` may belong to them wherever on the globe the
 * site is, and `holds` tells whether it does where the site is.
 */
export async function askedDays(house: House, { from, to }: Pick<Asked, 'from' | 'to'>) {
  const zone = await siteTimeZone(house);
  const dayOf = (at: string) => localDate(new Date(at).toISOString(), zone);
  return {
    after: `${addDays(from, -1)}T00:00:00Z`,
    before: `${addDays(to, 2)}T00:00:00Z`,
    dayOf,
    holds: (at: string) => from <= dayOf(at) && dayOf(at) <= to,
  };
}

/** The counted evaluations of some days that a caller may see, oldest first. */
export async function observations(house: House, caller: Caller, { classId, from, to }: Asked) {
  await countNew(house);
  return house.db
    .select({ row: evaluationObservation, who: person, classTitle: machineClass.title })
    .from(evaluationObservation)
    .innerJoin(person, eq(person.id, evaluationObservation.personId))
    .innerJoin(machineClass, eq(machineClass.id, evaluationObservation.classId))
    .where(
      and(
        withinScope(scopeOf(caller)),
        gte(evaluationObservation.on, from),
        lte(evaluationObservation.on, to),
        classId ? eq(evaluationObservation.classId, classId) : undefined,
      ),
    )
    .orderBy(asc(evaluationObservation.on), asc(evaluationObservation.evaluationId));
}
export type ObservationRow = Awaited<ReturnType<typeof observations>>[number];
