import {
  type Appraisal,
  appraise,
  type EvaluationEvent,
  EvaluationFold,
  EVENT_VERSION,
  readStoredEvents,
  type RecordedEvent,
} from '@rounds/core/evaluation';
import { asc, eq, inArray, sql } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { standingsToday } from '../certification/standings';
import { effectivePackOf } from '../classes/packs';
import { append, type StreamKind } from '../data/append';
import { type AuditLine, type House, siteTimeZone } from '../data/context';
import type { Database } from '../data/database';
import { account, evaluation, evaluationEventRow } from '../data/schema';
import { ProblemError } from '../http/problem';
import { checkInstant, checkNames, checkTurn, type HeldEvaluation } from './checkEvent';
import { auditLine, type Day, projectEvaluation, projectSequences } from './projectEvaluation';

export type EvaluationRow = typeof evaluation.$inferSelect;

/** Events of an evaluation in the order they were received, in today's form. */
export async function eventsOf(db: Database, evaluationId: string): Promise<RecordedEvent[]> {
  const rows = await db
    .select({ event: evaluationEventRow, by: account.name })
    .from(evaluationEventRow)
    .leftJoin(account, eq(account.id, evaluationEventRow.accountId))
    .where(eq(evaluationEventRow.evaluationId, evaluationId))
    .orderBy(asc(evaluationEventRow.seq));
  return readStoredEvents(
    rows.map(({ event, by }) => ({
      id: event.id,
      at: new Date(event.at).toISOString(),
      body: event.body,
      version: event.version,
      by: by ?? 'unknown',
      account: event.accountId,
      receivedAt: new Date(event.receivedAt).toISOString(),
    })),
  );
}

/** Who writes to an evaluation: a device that holds it, or the server itself for an account. */
type Writer = { device: string } | 'server';

/**
 * Evaluations as streams; `now` is when events arrive, null for each its own instant. The projection is the
 * list columns and, once both have signed, the certification events and the card.
 */
function evaluationStream(
  now: Date | null,
  caller: Caller,
  writer: Writer,
  given: Day,
): StreamKind<EvaluationRow, HeldEvaluation, EvaluationEvent> {
  return {
    name: (row) => `evaluation ${row.id}`,
    async hold(db, key) {
      const [row] = await db.select().from(evaluation).where(eq(evaluation.id, key.id)).for('update');
      const pack = await effectivePackOf(db, row!.packHash);
      const fold = new EvaluationFold();
      for (const event of await eventsOf(db, key.id)) fold.add(event);
      let known: { events: number; appraisal: Appraisal } | null = null;
      const appraisal = () => {
        const events = fold.record.inForce.length;
        if (known?.events !== events)
          known = { events, appraisal: appraise(pack, fold.record, row!.earlierStarts) };
        return known.appraisal;
      };
      return { row: row!, pack, fold, appraisal };
    },
    async recorded(db, key, ids) {
      const rows = await db
        .select({ id: evaluationEventRow.id, of: evaluationEventRow.evaluationId })
        .from(evaluationEventRow)
        .where(inArray(evaluationEventRow.id, [...ids]));
      return new Map(rows.map((row) => [row.id, row.of === key.id ? 'here' : 'elsewhere']));
    },
    take(held, event) {
      const { row } = held;
      if (writer !== 'server') {
        if (row.holderDevice !== null && (row.holderDevice !== writer.device || row.holderId !== caller.id))
          throw new ProblemError(
            'evaluation-held',
            'Another device holds this evaluation, so these taps were not sent. They are kept ' +
              'here; take the evaluation over to send them.',
          );
        if (now) checkInstant(event.at, row, now);
      }
      checkNames(event, held.pack);
      checkTurn(event, held, caller);
      held.fold.add({ ...event, by: caller.name, account: caller.id });
    },
    async write(db, key, events) {
      const rows = events.map(({ id, at, body }) => ({
        id,
        evaluation_id: key.id,
        at,
        account_id: caller.id,
        version: EVENT_VERSION,
        body,
        received_at: now?.toISOString() ?? at,
      }));
      // One parameter however many events there are: a round is some hundred rows.
      const written = (await db.execute(sql`
        insert into ${evaluationEventRow}
          (id, evaluation_id, at, account_id, version, body, received_at)
        select id, evaluation_id, at, account_id, version, body, received_at
        from rows from (
          jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as (
            id uuid, evaluation_id uuid, at timestamptz, account_id uuid, version int, body jsonb,
            received_at timestamptz
          )
        ) with ordinality as given (id, evaluation_id, at, account_id, version, body, received_at, place)
        order by place
        on conflict do nothing returning id`)) as { rows: unknown[] };
      return written.rows.length;
    },
    async project(db, _key, held, taken) {
      await projectSequences(db, held, taken);
      const lines = taken.flatMap((event): AuditLine[] => auditLine(held.row, event));
      return [...lines, ...(await projectEvaluation(db, held, caller, given))];
    },
  };
}

export async function dayOf(house: House): Promise<Day> {
  return { zone: await siteTimeZone(house), today: await standingsToday(house) };
}

/**
 * Adds events to an evaluation within a transaction. `writer` is the device that sends them, or the server
 * where it writes for the caller.
 */
export async function appendWithin(
  db: Database,
  house: House,
  day: Day,
  caller: Caller,
  row: EvaluationRow,
  writer: Writer,
  events: readonly EvaluationEvent[],
): Promise<void> {
  await append(db, evaluationStream(house.now(), caller, writer, day), row, events, caller);
}

/** Adds events to an evaluation, all or none. */
export async function appendToEvaluation(
  house: House,
  caller: Caller,
  row: EvaluationRow,
  writer: Writer,
  events: readonly EvaluationEvent[],
): Promise<void> {
  const day = await dayOf(house);
  await house.db.transaction((db) => appendWithin(db, house, day, caller, row, writer, events));
}

/** Adds events of the past to an evaluation, for the demo: they arrived when they were made. */
export async function appendPast(
  db: Database,
  caller: Caller,
  row: EvaluationRow,
  events: readonly EvaluationEvent[],
  given: Day,
): Promise<void> {
  await append(db, evaluationStream(null, caller, 'server', given), row, events, caller);
}
