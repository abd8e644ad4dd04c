import { randomBytes } from 'node:crypto';
import {
  appraise,
  faultName,
  foldEvaluation,
  localDate,
  stillPlanted,
  type Appraisal,
  type EffectivePack,
  type EvaluationEvent,
  type EvaluationEventBody,
  type EvaluationRecord,
} from '@rounds/core';
import { and, asc, eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { effectivePackOf } from '../classes/packs';
import { note, siteTimeZone, type Caller, type House } from '../house/context';
import type { Database } from '../house/database';
import { ProblemError } from '../house/problem';
import { certificate, certificationEventRow, evaluation, evaluationEventRow, unit } from '../house/schema';

export type EvaluationRow = typeof evaluation.$inferSelect;

/** Events of an evaluation in the order they were received. */
export async function eventsOf(db: Database, evaluationId: string): Promise<(EvaluationEvent & { accountId: string })[]> {
  const rows = await db.select().from(evaluationEventRow).where(eq(evaluationEventRow.evaluationId, evaluationId)).orderBy(asc(evaluationEventRow.seq));
  return rows.map((row) => ({ id: row.id, at: new Date(row.at).toISOString(), body: row.body as EvaluationEventBody, accountId: row.accountId }));
}

/** Where an evaluation stands, for lists. */
function phaseOf(record: EvaluationRecord, appraisal: Appraisal): EvaluationRow['phase'] {
  if (record.decision) return record.signatures.size === 2 ? 'closed' : 'signing';
  if (record.startedAt === null) return 'prepared';
  if (record.endedAt === null) return 'running';
  return appraisal.stillPlanted.length > 0 ? 'retrieving' : 'reviewing';
}

/** Refuses an event that names something the class does not have, or that comes out of turn. */
function check(body: EvaluationEventBody, pack: EffectivePack, record: EvaluationRecord, appraise_: () => Appraisal): void {
  const unknown = (what: string) => new ProblemError('unknown-row', `${what} is not part of this class as it was composed. The tap was not recorded.`);
  if (record.decision && body.kind !== 'signed') throw new ProblemError('evaluation-closed', 'This evaluation is decided; only signatures may be added.');
  switch (body.kind) {
    case 'planted':
    case 'retrieved':
      if (!pack.faults.some((each) => each.id === body.fault)) throw unknown(`Fault ${body.fault}`);
      break;
    case 'arrived':
      if (!pack.plan.stations.some((each) => each.id === body.station)) throw unknown(`Station ${body.station}`);
      break;
    case 'checked':
      if (!pack.checkpoints.some((each) => each.id === body.checkpoint)) throw unknown(`Checkpoint ${body.checkpoint}`);
      break;
    case 'reported':
      if (!pack.checkpoints.some((each) => each.id === body.checkpoint) || (body.fault !== null && !pack.faults.some((each) => each.id === body.fault)))
        throw unknown(`Fault ${body.fault ?? body.checkpoint}`);
      break;
    case 'scored':
      if (!pack.sheet.sections.some((section) => section.criteria.some((each) => each.id === body.criterion))) throw unknown(`Criterion ${body.criterion}`);
      break;
    case 'critical-error':
      if (!pack.sheet.criticalErrors.some((each) => each.id === body.error)) throw unknown(`Critical error ${body.error}`);
      break;
    case 'decided': {
      const left = stillPlanted(record);
      if (left.length > 0)
        throw new ProblemError(
          'planted-faults-remain',
          `No outcome yet: ${left.length === 1 ? 'one planted fault is' : `${left.length} planted faults are`} not ticked out (${left.map((id) => faultName(pack.faults.find((each) => each.id === id)!)).join('; ')}).`,
        );
      const computed = appraise_();
      if (computed.outcome === 'incomplete')
        throw new ProblemError(
          'not-complete',
          `No outcome yet: ${computed.unscored.length > 0 ? `${computed.unscored.length} criteria are not scored` : 'the round has not been started and ended'}.`,
        );
      if (computed.outcome !== body.outcome && !body.reason)
        throw new ProblemError(
          'override-needs-reason',
          `The computed outcome is "${computed.outcome}". Deciding "${body.outcome}" needs a reason, which stays on record.`,
        );
      break;
    }
    case 'signed':
      if (!record.decision) throw new ProblemError('not-decided', 'Decide first, then sign.');
      break;
    default:
      break;
  }
}

/**
 * Adds events to an evaluation in one transaction: each once by its id, checked in turn, the list columns remade, and, when both have signed,
 * the certification event and card written. All or nothing.
 */
export async function appendEvents(
  house: House,
  caller: Caller,
  row: EvaluationRow,
  device: string,
  incoming: readonly EvaluationEvent[],
): Promise<{ accepted: string[]; token: string | null }> {
  const pack = await effectivePackOf(house.db, row.packHash);
  const zone = await siteTimeZone(house);
  return house.db.transaction(async (tx) => {
    const [locked] = await tx.select().from(evaluation).where(eq(evaluation.id, row.id)).for('update');
    const before = await eventsOf(tx, row.id);
    const known = new Set(before.map((each) => each.id));
    const fresh = incoming.filter((each) => !known.has(each.id));
    if (fresh.length > 0 && locked!.holderDevice !== null && (locked!.holderDevice !== device || locked!.holderId !== caller.id))
      throw new ProblemError(
        'evaluation-held',
        'Another device holds this evaluation, so these taps were not sent. They are kept here; take the evaluation over to send them.',
      );
    let events: EvaluationEvent[] = before;
    for (const event of fresh) {
      if (Math.abs(Date.parse(event.at) - house.now().getTime()) > 400 * 86_400_000)
        throw new ProblemError('invalid', 'The clock of this device is more than a year off. Set it and send again; the taps are kept.');
      const record = foldEvaluation(events);
      check(event.body, pack, record, () => appraise(pack, record, row.earlierStarts));
      events = [...events, event];
    }
    if (fresh.length > 0)
      await tx.insert(evaluationEventRow).values(fresh.map((each) => ({ id: each.id, evaluationId: row.id, at: each.at, accountId: caller.id, body: each.body })));
    const token = await remake(tx, { row, pack, events, zone, accountId: caller.id });
    if (token?.fresh) await note(tx, caller, 'evaluation-signed', row.id);
    return { accepted: incoming.map((each) => each.id), token: token?.token ?? null };
  });
}

/** Remakes the list columns from the events and, once signed by both, the certificate. */
export async function remake(
  tx: Database,
  given: { row: EvaluationRow; pack: EffectivePack; events: readonly EvaluationEvent[]; zone: string; accountId: string },
): Promise<{ token: string; fresh: boolean } | null> {
  const { row, pack, events } = given;
  const record = foldEvaluation(events);
  const result = appraise(pack, record, row.earlierStarts);
  const phase = phaseOf(record, result);
  const overridden = record.decision !== null && record.decision.outcome !== result.outcome;
  await tx
    .update(evaluation)
    .set({
      phase,
      firstStation: result.analysis.start.station,
      outcome: record.decision?.outcome ?? null,
      score: record.decision && result.score !== null ? String(result.score) : null,
      overridden,
      stillPlanted: result.stillPlanted.map((id) => ({ fault: id, name: faultName(pack.faults.find((each) => each.id === id)!) })),
    })
    .where(eq(evaluation.id, row.id));
  if (phase !== 'closed' || !record.decision) return null;
  const [existing] = await tx
    .select()
    .from(certificationEventRow)
    .where(and(eq(certificationEventRow.evaluationId, row.id)));
  if (existing) {
    const [card] = await tx.select().from(certificate).where(eq(certificate.evaluationId, row.id));
    return card ? { token: card.token, fresh: false } : null;
  }
  const on = localDate(record.decision.at, given.zone);
  const passed = record.decision.outcome === 'competent';
  const eventId = uuidv7();
  const score = result.score === null ? {} : { score: result.score };
  await tx.insert(certificationEventRow).values({
    id: eventId,
    personId: row.personId,
    classId: row.classId,
    on,
    body: passed
      ? { kind: 'evaluation-passed', ...score, evaluation: row.id, ...(overridden ? { overridden: true } : {}) }
      : { kind: 'evaluation-failed', ...score, evaluation: row.id },
    evaluationId: row.id,
    accountId: given.accountId,
  });
  if (!passed) return null;
  const [machine] = await tx.select().from(unit).where(eq(unit.id, row.unitId));
  await tx.insert(certificationEventRow).values({
    id: uuidv7(),
    personId: row.personId,
    classId: row.classId,
    on,
    body: { kind: 'familiarised', unit: machine?.name ?? 'unknown' },
    evaluationId: row.id,
    accountId: given.accountId,
  });
  const token = randomBytes(16).toString('base64url');
  await tx.insert(certificate).values({ token, personId: row.personId, classId: row.classId, eventId, evaluationId: row.id });
  return { token, fresh: true };
}
