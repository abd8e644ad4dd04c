import type { Appraisal } from './appraise';
import type { SequencePart } from './events';
import { type EvaluationRecord, stillPlanted } from './record';
import { openSequence } from './sequences';

/** Where an evaluation stands, in the order it goes through. */
export const PHASES = ['prepared', 'running', 'retrieving', 'reviewing', 'signing', 'closed'] as const;
export type Phase = (typeof PHASES)[number];

/** The parts of an evaluation that a trainer works in, in their order. */
export const EVALUATION_PARTS = ['round', 'retrieve', 'start', 'sheet', 'stop', 'review', 'sign'] as const;
export type EvaluationPart = (typeof EVALUATION_PARTS)[number];

const bothSigned = (record: EvaluationRecord) => record.signatures.size === 2;

/** Where an evaluation stands, for lists: planted faults that are still in the machine come before review. */
export function phaseOf(record: EvaluationRecord): Phase {
  if (record.decision) return bothSigned(record) ? 'closed' : 'signing';
  if (record.startedAt === null) return 'prepared';
  if (record.endedAt === null) return 'running';
  return stillPlanted(record).length > 0 ? 'retrieving' : 'reviewing';
}

/** Where a practice of start and stop stands: it is open while one of its sessions is. */
export function practicePhase({ sequences }: EvaluationRecord): Phase {
  if (sequences.length === 0) return 'prepared';
  return openSequence(sequences) ? 'running' : 'reviewing';
}

/**
 * The part to begin with when an evaluation is opened: the trainer at work goes on where the work is;
 * somebody who only reads gets the review. Planted faults come out before the machine is driven for the
 * score sheet.
 */
export function partToOpen(
  record: EvaluationRecord,
  appraisal: Pick<Appraisal, 'unscored'> | null,
  working: boolean,
): EvaluationPart {
  if (!working) return 'review';
  if (record.decision) return bothSigned(record) ? 'review' : 'sign';
  if (record.endedAt === null) return 'round';
  if (stillPlanted(record).length > 0) return 'retrieve';
  const open = openSequence(record.sequences);
  if (open?.part) return open.part;
  return (appraisal?.unscored.length ?? 0) > 0 ? 'sheet' : 'review';
}

function roundState(record: EvaluationRecord): string {
  if (record.endedAt) return 'ended';
  return record.startedAt ? 'under way' : 'to start';
}

function plantState(record: EvaluationRecord): string {
  const left = stillPlanted(record).length;
  if (left > 0) return `${left} in`;
  return record.retrieved.length > 0 ? 'all out' : 'none planted';
}

function sequenceState({ sequences }: EvaluationRecord, part: SequencePart): string {
  const last = sequences.findLast((each) => each.part === part);
  if (!last) return '';
  return last.endedAt === null ? 'under way' : 'judged';
}

function signState(record: EvaluationRecord): string {
  if (!record.decision) return '';
  return bothSigned(record) ? 'signed' : 'decided';
}

/** How far each part is, in two or three words; '' where nothing is to say. */
export function partStates(
  record: EvaluationRecord,
  appraisal: Pick<Appraisal, 'unscored'> | null,
): Record<EvaluationPart, string> {
  const unscored = appraisal?.unscored.length ?? 0;
  return {
    round: roundState(record),
    retrieve: plantState(record),
    start: sequenceState(record, 'start'),
    stop: sequenceState(record, 'stop'),
    sheet: unscored > 0 ? `${unscored} open` : 'complete',
    review: '',
    sign: signState(record),
  };
}

/**
 * Seconds from the start of the round to its end, or to `now` (milliseconds since 1970) while it goes on;
 * null before it starts, never negative.
 */
export function roundSeconds(record: EvaluationRecord, now: number): number | null {
  if (!record.startedAt) return null;
  const end = record.endedAt ? Date.parse(record.endedAt) : now;
  return Math.max(0, (end - Date.parse(record.startedAt)) / 1000);
}
