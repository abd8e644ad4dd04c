import type { ObservedCheck, Report, RoundRecord } from '../round';
import type { EvaluationEvent, EvaluationEventBody } from './events';

type BodyOf<K extends EvaluationEventBody['kind']> = Extract<EvaluationEventBody, { kind: K }>;

/** The state of an evaluation, folded from its events. */
export interface EvaluationRecord {
  planted: string[];
  retrieved: string[];
  round: RoundRecord & { checks: ObservedCheck[]; reports: Report[] };
  startedAt: string | null;
  endedAt: string | null;
  /** Last score of each criterion. */
  scores: Map<string, BodyOf<'scored'>>;
  criticalErrors: { event: string; error: string; words: string | null }[];
  notes: { event: string; words: string; checkpoint: string | null; at: string }[];
  decision: (BodyOf<'decided'> & { at: string }) | null;
  signatures: Map<'trainer' | 'operator', { strokes: string; at: string }>;
  takenOver: { reason: string; at: string }[];
  /** Events still in force, oldest first, for undo. */
  inForce: EvaluationEvent[];
}

/** Kinds that the undo button may take back. */
const UNDOABLE = new Set<EvaluationEventBody['kind']>(['arrived', 'checked', 'reported', 'noted', 'scored', 'critical-error', 'planted', 'retrieved', 'round-ended']);

/**
 * Folds an evaluation's events, in the order given, into its state. An `undone` event takes back one earlier event; events after a decision
 * other than signatures do not change what was decided. Repeated ids count once, so that a repeated send is harmless.
 */
export function foldEvaluation(events: readonly EvaluationEvent[]): EvaluationRecord {
  const undone = new Set(events.flatMap((each) => (each.body.kind === 'undone' ? [each.body.event] : [])));
  const seen = new Set<string>();
  const inForce = events.filter((each) => {
    if (seen.has(each.id)) return false;
    seen.add(each.id);
    return each.body.kind !== 'undone' && !(undone.has(each.id) && UNDOABLE.has(each.body.kind));
  });
  const record: EvaluationRecord = {
    planted: [],
    retrieved: [],
    round: { arrivals: [], checks: [], reports: [], duration: null },
    startedAt: null,
    endedAt: null,
    scores: new Map(),
    criticalErrors: [],
    notes: [],
    decision: null,
    signatures: new Map(),
    takenOver: [],
    inForce,
  };
  const arrivals: { station: string; at: number }[] = [];
  const since = (at: string) => Date.parse(at) - Date.parse(record.startedAt ?? at);
  for (const { id, at, body } of inForce) {
    switch (body.kind) {
      case 'planted':
        if (!record.planted.includes(body.fault)) record.planted.push(body.fault);
        break;
      case 'retrieved':
        if (!record.retrieved.includes(body.fault)) record.retrieved.push(body.fault);
        break;
      case 'round-started':
        record.startedAt ??= at;
        break;
      case 'arrived':
        arrivals.push({ station: body.station, at: since(at) });
        break;
      case 'checked':
        record.round.checks.push({ checkpoint: body.checkpoint, result: body.result, method: body.method, at: since(at) });
        break;
      case 'reported':
        record.round.reports.push({ checkpoint: body.checkpoint, fault: body.fault, grade: body.grade, prompted: body.prompted, real: body.real, at: since(at) });
        break;
      case 'noted':
        record.notes.push({ event: id, words: body.words, checkpoint: body.checkpoint ?? null, at });
        break;
      case 'round-ended':
        record.endedAt = at;
        break;
      case 'scored':
        record.scores.set(body.criterion, body);
        break;
      case 'critical-error':
        record.criticalErrors.push({ event: id, error: body.error, words: body.words ?? null });
        break;
      case 'decided':
        record.decision ??= { ...body, at };
        break;
      case 'signed':
        if (!record.signatures.has(body.role)) record.signatures.set(body.role, { strokes: body.strokes, at });
        break;
      case 'taken-over':
        record.takenOver.push({ reason: body.reason, at });
        break;
      case 'undone':
        break;
    }
  }
  record.round = { ...record.round, arrivals, duration: record.endedAt === null ? null : since(record.endedAt) };
  return record;
}

/** The newest event that may be taken back, or null. */
export function lastUndoable(record: EvaluationRecord): EvaluationEvent | null {
  if (record.decision) return null;
  return record.inForce.findLast((each) => UNDOABLE.has(each.body.kind)) ?? null;
}

/** Planted faults not yet ticked out again. */
export function stillPlanted(record: EvaluationRecord): string[] {
  return record.planted.filter((each) => !record.retrieved.includes(each));
}
