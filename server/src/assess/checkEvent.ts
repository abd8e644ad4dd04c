import type { EffectivePack } from '@rounds/core/catalogue';
import {
  agreementNeeded,
  type Appraisal,
  type EvaluationEvent,
  type EvaluationFold,
  type EvaluationRecord,
  faultNameIn,
  ofSequence,
  sequenceProblem,
  stillPlanted,
  undoProblem,
} from '@rounds/core/evaluation';
import type { Caller } from '../accounts/access';
import { ProblemError } from '../http/problem';
import type { EvaluationRow } from './stream';

/** How far a device's clock may run ahead of the server's, or behind it at the preparation. */
const CLOCK_SKEW_MINUTES = 5;
/** How long a device may go without a connection and still send what it recorded. */
const OFFLINE_DAYS = 14;

/** Where an evaluation stands, while events are added to it. */
export interface HeldEvaluation {
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
export function checkInstant(at: string, row: EvaluationRow, now: Date): void {
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
export function checkNames({ body }: EvaluationEvent, pack: EffectivePack): void {
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
    case 'sequence-started':
      for (const each of body.procedures)
        if (!pack.procedures.some((known) => known.id === each)) throw unknown(`Procedure ${each}`);
      break;
    case 'rule-broken':
      if (!pack.forbidden.some((each) => each.id === body.rule)) throw unknown(`Rule ${body.rule}`);
      break;
    case 'day-condition': {
      const steps = new Set(pack.procedures.flatMap((each) => each.steps.map((step) => step.id)));
      for (const each of body.lifts) if (!steps.has(each)) throw unknown(`Step ${each}`);
      break;
    }
    default:
      break;
  }
}

/** What a practice of start and stop has beside its sessions. */
const OF_PRACTICE = new Set<EvaluationEvent['body']['kind']>(['noted', 'undone', 'taken-over']);

/** Refuses an event that comes out of turn. */
export function checkTurn(event: EvaluationEvent, held: HeldEvaluation, caller: Caller): void {
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
  if (held.row.purpose === 'practice' && !ofSequence(body) && !OF_PRACTICE.has(body.kind))
    throw new ProblemError(
      'not-in-practice',
      'This is a practice of start and stop, not an evaluation: it has no round, sheet or decision. ' +
        'Nothing was recorded.',
    );
  if (ofSequence(body)) {
    const problem = sequenceProblem(record.sequences, body);
    if (problem)
      throw new ProblemError('sequence-order', `This cannot be recorded: ${problem}. Nothing was recorded.`);
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
