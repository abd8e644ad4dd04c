import { randomBytes } from 'node:crypto';
import { localDate } from '@rounds/core/calendar';
import type { CertificationEventBody } from '@rounds/core/certification';
import {
  type EvaluationEvent,
  faultNameIn,
  judgedSequence,
  ofSequence,
  phaseOf,
  practicePhase,
} from '@rounds/core/evaluation';
import { stepReviews } from '@rounds/core/practice';
import { stepResults } from '@rounds/core/procedure';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import type { Caller } from '../accounts/access';
import { type CertificationFact, certificationStream } from '../certification/stream';
import { announceWithin } from '../data/announcements';
import { append } from '../data/append';
import { type AuditLine, CHANGES } from '../data/context';
import type { Database } from '../data/database';
import { dropReviews, keepReviews } from '../data/practiceReviews';
import { certificate, evaluation, sequenceResult, unit } from '../data/schema';
import type { HeldEvaluation } from './checkEvent';
import type { EvaluationRow } from './stream';

/**
 * The site's time zone and today, with the standings as of it: what an append needs to know before its
 * transaction.
 */
export interface Day {
  zone: string;
  today: string;
}

/** What the audit trail says of an event; the run itself is its own record. */
export function auditLine(row: EvaluationRow, { body }: EvaluationEvent): AuditLine[] {
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
export async function projectEvaluation(
  db: Database,
  held: HeldEvaluation,
  caller: Caller,
  { zone, today }: Day,
): Promise<AuditLine[]> {
  const { row, pack } = held;
  const { record } = held.fold;
  if (row.purpose === 'practice') {
    await db
      .update(evaluation)
      .set({ phase: practicePhase(record) })
      .where(eq(evaluation.id, row.id));
    return [];
  }
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

/** Remakes the results of the sessions of an evaluation, for lists and trends, where one of them changed. */
export async function projectSequences(
  db: Database,
  { row, pack, fold }: HeldEvaluation,
  taken: readonly EvaluationEvent[],
): Promise<void> {
  if (!taken.some(({ body }) => ofSequence(body) || body.kind === 'undone')) return;
  const before = await db
    .delete(sequenceResult)
    .where(eq(sequenceResult.evaluationId, row.id))
    .returning({ id: sequenceResult.id });
  await dropReviews(
    db,
    before.map((each) => each.id),
  );
  const ended = fold.record.sequences.filter((each) => each.endedAt !== null);
  const results = ended.flatMap((sequence) => {
    const judged = judgedSequence(pack, sequence);
    if (!judged) return [];
    return [
      {
        id: sequence.id,
        evaluationId: row.id,
        personId: row.personId,
        classId: row.classId,
        endedAt: sequence.endedAt!,
        procedures: [...sequence.procedures],
        score: judged.judgement.score === null ? null : String(judged.judgement.score),
        critical: judged.judgement.critical,
        steps: stepResults(judged.judgement, sequence.trace),
      },
    ];
  });
  if (results.length > 0) await db.insert(sequenceResult).values(results);
  await keepReviews(
    db,
    results.map(({ id, personId, classId, endedAt, steps }) => ({
      practiceId: id,
      personId,
      classId,
      reviews: stepReviews(steps, endedAt),
    })),
  );
  announceWithin(CHANGES, { areas: ['sequences'] });
}
