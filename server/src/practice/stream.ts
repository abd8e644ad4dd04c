import type { EffectivePack } from '@rounds/core/catalogue';
import {
  DAYS_TO_BE_READY,
  doAct,
  type DrillAct,
  DrillActError,
  drillCriterion,
  drillResult,
  type DrillState,
  doActs,
  MOST_ACTS,
  unmetCriterion,
} from '@rounds/core/drill';
import { drillReviews } from '@rounds/core/practice';
import { and, asc, countDistinct, eq, inArray } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import type { PlainDate } from '@rounds/core/calendar';
import { certificationStream } from '../certification/stream';
import { effectivePackOf } from '../classes/packs';
import { append, type StreamKind } from '../data/append';
import { type AuditLine, lock } from '../data/context';
import type { Database } from '../data/database';
import { keepReviews } from '../data/practiceReviews';
import { drill, drillActRow } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';
import type { Caller } from '../accounts/access';

export type DrillRow = typeof drill.$inferSelect;

/** An act with its identity. */
export interface DrillActEvent {
  id: string;
  act: DrillAct;
}

/** Where a drill stands. */
export interface HeldDrill {
  row: DrillRow;
  pack: EffectivePack;
  acts: DrillActEvent[];
  state: DrillState;
}

/** A drill with its acts, as far as it has gone. */
export async function readDrill(db: Database, row: DrillRow): Promise<HeldDrill> {
  const pack = await effectivePackOf(db, row.packHash);
  const rows = await db
    .select({ id: drillActRow.id, act: drillActRow.body })
    .from(drillActRow)
    .where(eq(drillActRow.drillId, row.id))
    .orderBy(asc(drillActRow.seq));
  return {
    row,
    pack,
    acts: rows,
    state: doActs(
      pack,
      row.deal,
      rows.map((each) => each.act),
    ),
  };
}

/** Does an act, or throws the problem that refuses it. */
export function actOrProblem(held: Pick<HeldDrill, 'pack' | 'row' | 'state'>, act: DrillAct) {
  try {
    return doAct(held.pack, held.row.deal, held.state, act);
  } catch (error) {
    if (error instanceof DrillActError)
      throw new ProblemError('drill-act', `${error.message} Nothing was changed.`);
    throw error;
  }
}

/** Days on which somebody met the criterion of a class. */
async function daysMet(db: Database, personId: string, classId: string): Promise<number> {
  const [row] = await db
    .select({ days: countDistinct(drill.endedOn) })
    .from(drill)
    .where(and(eq(drill.personId, personId), eq(drill.classId, classId), eq(drill.met, true)));
  return row?.days ?? 0;
}

/** The acts of one drill as a stream; what they come to is projected when it ends. `today` is the day at the site. */
export function drillStream(now: string, today: PlainDate): StreamKind<string, HeldDrill, DrillActEvent> {
  return {
    name: (id) => `drill ${id}`,
    async hold(db, id) {
      await lock(db, `drill ${id}`);
      const [row] = await db.select().from(drill).where(eq(drill.id, id));
      return readDrill(db, row!);
    },
    async recorded(db, id, ids) {
      const rows = await db
        .select({ id: drillActRow.id, drillId: drillActRow.drillId })
        .from(drillActRow)
        .where(inArray(drillActRow.id, [...ids]));
      return new Map(rows.map((each) => [each.id, each.drillId === id ? 'here' : 'elsewhere'] as const));
    },
    take(held, event) {
      if (held.acts.length >= MOST_ACTS)
        throw new ProblemError('drill-act', `A drill takes at most ${MOST_ACTS} acts. End it.`);
      held.state = actOrProblem(held, event.act).state;
      held.acts.push(event);
    },
    async write(db, drillId, events) {
      const written = await db
        .insert(drillActRow)
        .values(events.map(({ id, act }) => ({ id, drillId, at: now, body: act })))
        .onConflictDoNothing()
        .returning({ id: drillActRow.id });
      return written.length;
    },
    async project(db, drillId, { row, pack, acts, state }, _taken, caller) {
      const firstStation = state.arrivals[0]?.station ?? null;
      if (!state.ended) {
        if (row.firstStation !== firstStation)
          await db.update(drill).set({ firstStation }).where(eq(drill.id, drillId));
        return [];
      }
      const result = drillResult(
        pack,
        row.deal,
        acts.map((each) => each.act),
        row.earlierStarts,
      );
      const met = unmetCriterion(row.deal, result, drillCriterion(pack)).length === 0;
      const { personId, classId } = row;
      const before = personId && met ? await daysMet(db, personId, classId) : 0;
      await db
        .update(drill)
        .set({ endedAt: now, endedOn: today, result, met, firstStation })
        .where(eq(drill.id, drillId));
      if (personId) {
        await keepReviews(db, [
          { practiceId: drillId, personId, classId, reviews: drillReviews(pack, result.cases, now) },
        ]);
        if (met && before < DAYS_TO_BE_READY && (await daysMet(db, personId, classId)) >= DAYS_TO_BE_READY)
          await recordReady(db, caller, { personId, classId }, today);
      }
      const line: AuditLine = {
        act: 'drill-ended',
        subject: drillId,
        detail: { personId, classId, score: Math.round(result.score) },
      };
      return [line];
    },
  };
}

/** The drill standard is met: a dated fact of the person in the class. */
async function recordReady(
  db: Database,
  caller: Caller,
  key: { personId: string; classId: string },
  today: PlainDate,
): Promise<void> {
  const fact = { id: uuidv7(), on: today, body: { kind: 'drill-met' as const }, evaluationId: null };
  await append(db, certificationStream(today), key, [fact], caller);
}
