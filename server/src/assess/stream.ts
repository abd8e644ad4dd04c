import { randomBytes } from 'node:crypto';
import { localDate } from '@rounds/core/calendar';
import type { EffectivePack } from '@rounds/core/catalogue';
import type { CertificationEventBody } from '@rounds/core/certification';
import {
  agreementNeeded,
  type Appraisal,
  appraise,
  type EvaluationEvent,
  EvaluationFold,
  type EvaluationRecord,
  EVENT_VERSION,
  faultNameIn,
  phaseOf,
  readStoredEvents,
  type RecordedEvent,
  stillPlanted,
  undoProblem,
} from '@rounds/core/evaluation';
import { asc, eq, inArray, sql } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import type { Caller } from '../accounts/access';
import { standingsToday } from '../certification/standings';
import { type CertificationFact, certificationStream } from '../certification/stream';
import { effectivePackOf } from '../classes/packs';
import { announceWithin } from '../data/announcements';
import { append, type StreamKind } from '../data/append';
import { type AuditLine, CHANGES, type House, siteTimeZone } from '../data/context';
import type { Database } from '../data/database';
import { account, certificate, evaluation, evaluationEventRow, unit } from '../data/schema';
import { ProblemError } from '../http/problem';

export type EvaluationRow = typeof evaluation.$inferSelect;

/** How far a device's clock may run ahead of the server's, or behind it at the preparation. */
const CLOCK_SKEW_MINUTES = 5;
/** How long a device may go without a connection and still send what it recorded. */
const OFFLINE_DAYS = 14;

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

/** Where an evaluation stands, while events are added to it. */
interface HeldEvaluation {
  row: EvaluationRow;
  pack: EffectivePack;
  fold: EvaluationFold;
  /** Appraised anew only when something was added since. */
  appraisal: () => Appraisal;
}

/**
 * Refuses an instant that lies ahead of the clock, before the preparation, or longer ago than a device may
 * be without connection.
 */
function checkInstant(at: string, row: EvaluationRow, now: Date): void {
  const skew = CLOCK_SKEW_MINUTES * 60_000;
  const instant = Date.parse(at);
  const off = (why: string) =>
    new ProblemError(
      'clock-off',
      `${why}. Nothing was recorded of this send; set the clock of the device and send again.`,
    );
  if (instant > now.getTime() + skew) throw off('This was dated ahead of the time here');
  if (instant < Date.parse(row.createdAt) - skew)
    throw off('This was dated before the evaluation was prepared');
  if (instant < now.getTime() - OFFLINE_DAYS * 86_400_000)
    throw off(`This was dated more than ${OFFLINE_DAYS} days ago`);
}

/** Refuses a name of something that the class, as it was composed, does not have. */
function checkNames({ body }: EvaluationEvent, pack: EffectivePack): void {
  const unknown = (what: string) =>
    new ProblemError(
      'unknown-row',
      `${what} is not part of this class as it was composed. The tap was not recorded.`,
    );
  const fault = (id: string) => pack.faults.some((each) => each.id === id);
  const checkpoint = (id: string) => pack.checkpoints.some((each) => each.id === id);
  switch (body.kind) {
    case 'planted':
    case 'retrieved':
    case 'plant-corrected':
      if (!fault(body.fault)) throw unknown(`Fault ${body.fault}`);
      break;
    case 'arrived':
    case 'station-done':
      if (!pack.plan.stations.some((each) => each.id === body.station))
        throw unknown(`Station ${body.station}`);
      break;
    case 'checked':
      if (!checkpoint(body.checkpoint)) throw unknown(`Checkpoint ${body.checkpoint}`);
      break;
    case 'reported':
      if (!checkpoint(body.checkpoint) || (body.fault !== null && !fault(body.fault)))
        throw unknown(`Fault ${body.fault ?? body.checkpoint}`);
      break;
    case 'scored':
      if (!pack.sheet.sections.some((section) => section.criteria.some((each) => each.id === body.criterion)))
        throw unknown(`Criterion ${body.criterion}`);
      break;
    case 'critical-error':
      if (!pack.sheet.criticalErrors.some((each) => each.id === body.error))
        throw unknown(`Critical error ${body.error}`);
      break;
    default:
      break;
  }
}

/** Refuses an event that comes out of turn. */
function checkTurn(event: EvaluationEvent, held: HeldEvaluation, caller: Caller): void {
  const { body } = event;
  const { pack } = held;
  const { record } = held.fold;
  const signing = body.kind === 'signed' || body.kind === 'signed-by-name';
  if (record.decision && record.signatures.size === 2)
    throw new ProblemError('evaluation-closed', 'This evaluation is signed by both and closed.');
  if (record.decision && !signing && body.kind !== 'taken-over')
    throw new ProblemError('evaluation-closed', 'This evaluation is decided; only signatures may be added.');
  if (signing) {
    if (!record.decision) throw new ProblemError('not-decided', 'Decide first, then sign.');
    if (record.signatures.has(body.role))
      throw new ProblemError(
        'signed-already',
        `The ${body.role} has signed already; a signature is not replaced.`,
      );
  }
  const plantOrder = (why: string) =>
    new ProblemError('plant-order', `${why} Nothing was recorded; look at what is in the machine.`);
  if (body.kind === 'planted' && record.inMachine.includes(body.fault))
    throw plantOrder(`"${faultNameIn(pack, body.fault)}" is recorded as planted already.`);
  if (body.kind === 'retrieved' && !record.inMachine.includes(body.fault))
    throw plantOrder(`"${faultNameIn(pack, body.fault)}" is not recorded as in the machine.`);
  if (body.kind === 'plant-corrected') {
    const known = [...record.inMachine, ...record.retrieved];
    if (!known.includes(body.fault))
      throw plantOrder(`"${faultNameIn(pack, body.fault)}" is not recorded as planted.`);
    if (body.says === 'still-in' && record.inMachine.includes(body.fault))
      throw plantOrder(`"${faultNameIn(pack, body.fault)}" is recorded as in the machine already.`);
  }
  if (body.kind === 'undone') {
    const problem = undoProblem(record, body.event);
    if (problem) throw new ProblemError('undo-refused', `This cannot be taken back: ${problem}.`);
  }
  if (body.kind === 'decided') checkDecision(body, held, caller);
}

function checkDecision(
  body: Extract<EvaluationEvent['body'], { kind: 'decided' }>,
  held: HeldEvaluation,
  caller: Caller,
): void {
  const { pack } = held;
  const { record } = held.fold;
  const left = stillPlanted(record);
  if (left.length > 0)
    throw new ProblemError(
      'planted-faults-remain',
      'No outcome yet: ' +
        `${left.length === 1 ? 'one planted fault is' : `${left.length} planted faults are`} ` +
        `not ticked out (${left.map((id) => faultNameIn(pack, id)).join('; ')}).`,
    );
  const computed = held.appraisal();
  if (computed.outcome === 'incomplete') {
    const open = computed.unscored.length;
    const why = open > 0 ? `${open} criteria are not scored` : 'the round has not been started and ended';
    throw new ProblemError('not-complete', `No outcome yet: ${why}.`);
  }
  if (computed.outcome !== body.outcome && !body.override)
    throw new ProblemError(
      'override-needs-reason',
      `The computed outcome is "${computed.outcome}". Deciding "${body.outcome}" needs a ` +
        'reason, which stays on record.',
    );
  const lifted = agreementNeeded(pack, record, computed, body.outcome);
  if (lifted.length > 0 && !agreedByAnother(record, body.outcome, caller))
    throw new ProblemError(
      'agreement-needed',
      `Deciding "${body.outcome}" would pass over: ${lifted.join('; ')}. A second trainer ` +
        'must agree to it first, with their own name and password.',
    );
}

/** What an agreement must have been given in view of. */
const WEIGHTY = new Set([
  'critical-error',
  'plant-corrected',
  'reported',
  'checked',
  'station-done',
  'round-ended',
]);

function agreedByAnother(record: EvaluationRecord, outcome: string, decider: Caller): boolean {
  const agreed = record.inForce.findLastIndex(
    ({ body, account: by }) => body.kind === 'agreed' && body.outcome === outcome && by !== decider.id,
  );
  return agreed >= 0 && agreed > record.inForce.findLastIndex(({ body }) => WEIGHTY.has(body.kind));
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
      const lines = taken.flatMap((event): AuditLine[] => auditLine(held.row, event));
      return [...lines, ...(await projectEvaluation(db, held, caller, given))];
    },
  };
}

/** What the audit trail says of an event; the run itself is its own record. */
function auditLine(row: EvaluationRow, { body }: EvaluationEvent): AuditLine[] {
  switch (body.kind) {
    case 'decided':
      return [
        {
          act: 'evaluation-decided',
          subject: row.id,
          detail: { outcome: body.outcome, override: body.override ?? null },
        },
      ];
    case 'agreed':
      return [
        { act: 'evaluation-agreed', subject: row.id, detail: { outcome: body.outcome, words: body.words } },
      ];
    case 'taken-over':
      return [{ act: 'evaluation-taken-over', subject: row.id, detail: { reason: body.reason } }];
    case 'plant-corrected':
      return [
        {
          act: 'plant-corrected',
          subject: row.id,
          detail: { fault: body.fault, says: body.says, reason: body.reason },
        },
      ];
    case 'signed':
    case 'signed-by-name':
      return [
        {
          act: 'evaluation-signed',
          subject: row.id,
          detail: { role: body.role, typed: body.kind === 'signed-by-name' },
        },
      ];
    default:
      return [];
  }
}

/**
 * Remakes the list columns from the events and, once signed by both, records the outcome and hands out the
 * card.
 */
async function projectEvaluation(
  db: Database,
  held: HeldEvaluation,
  caller: Caller,
  { zone, today }: Day,
): Promise<AuditLine[]> {
  const { row, pack } = held;
  const { record } = held.fold;
  const result = held.appraisal();
  const phase = phaseOf(record);
  const { decision } = record;
  const overridden = decision !== null && decision.outcome !== result.outcome;
  await db
    .update(evaluation)
    .set({
      phase,
      firstStation: result.analysis.start.station,
      outcome: decision?.outcome ?? null,
      score: decision && result.score !== null ? String(result.score) : null,
      overridden,
      computed: decision ? result.outcome : null,
      decidedBy: decision?.account ?? null,
      stillPlanted: result.stillPlanted.map((id) => ({ fault: id, name: faultNameIn(pack, id) })),
    })
    .where(eq(evaluation.id, row.id));
  if (phase !== row.phase) announceWithin(CHANGES, { areas: ['evaluations', 'today'] });
  if (phase !== 'closed' || !decision) return [];

  const on = localDate(decision.at, zone);
  const passed = decision.outcome === 'competent';
  const [machine] = await db.select({ name: unit.name }).from(unit).where(eq(unit.id, row.unitId));
  const body: CertificationEventBody = {
    kind: passed ? 'evaluation-passed' : 'evaluation-failed',
    evaluation: row.id,
    ...(result.score === null ? {} : { score: result.score }),
    ...(overridden ? { overridden: true, computed: result.outcome } : {}),
  };
  const fact = (event: CertificationEventBody): CertificationFact => ({
    id: uuidv7(),
    on,
    body: event,
    evaluationId: row.id,
  });
  const outcome = fact(body);
  const facts = passed
    ? [outcome, fact({ kind: 'familiarised', unit: machine?.name ?? 'unknown' })]
    : [outcome];
  // Whoever signs last, the outcome is that of the one who decided.
  const decider = { ...caller, id: decision.account ?? caller.id };
  await append(
    db,
    certificationStream(today),
    { personId: row.personId, classId: row.classId },
    facts,
    decider,
  );
  const closed: AuditLine = {
    act: passed ? 'evaluation-passed' : 'evaluation-failed',
    subject: row.id,
    detail: { outcome: decision.outcome, overridden },
  };
  if (!passed) return [closed];
  const token = randomBytes(16).toString('base64url');
  await db.insert(certificate).values({
    token,
    personId: row.personId,
    classId: row.classId,
    eventId: outcome.id,
    evaluationId: row.id,
  });
  return [closed];
}

/**
 * The site's time zone and today, with the standings as of it: what an append needs to know before its
 * transaction.
 */
export interface Day {
  zone: string;
  today: string;
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
