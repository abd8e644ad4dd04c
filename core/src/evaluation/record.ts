import type { ObservedCheck, Report, RoundRecord } from '../round';
import type { EvaluationEventBody, RecordedEvent, Recording } from './events';
import { addToSequences, ofSequence, type SequenceRecord } from './sequences';

type BodyOf<K extends EvaluationEventBody['kind']> = Extract<EvaluationEventBody, { kind: K }>;

/** Whether a recorded plant is in the machine, and whether it was when the round began. */
interface Plant {
  inMachine: boolean;
  duringRound: boolean;
}

/** A signature: drawn, or typed with the account's password given again. */
export interface Signature {
  strokes: string | null;
  typed: string | null;
  at: string;
  by: string | null;
  account: string | null;
}

/** The state of an evaluation, folded from its events. */
export interface EvaluationRecord {
  /**
   * Faults that were in the machine when the round began (before that: that are in it now): what the
   * operator is to find.
   */
  planted: string[];
  /** Faults that were put in and are out again. */
  retrieved: string[];
  /** Faults still in the machine. */
  inMachine: string[];
  /** Stated corrections of plants, with whether the round had begun. */
  corrections: {
    fault: string;
    says: BodyOf<'plant-corrected'>['says'];
    reason: string;
    at: string;
    afterStart: boolean;
  }[];
  round: RoundRecord & {
    arrivals: { station: string; at: number }[];
    stationsDone: { station: string; at: number }[];
    checks: ObservedCheck[];
    reports: Report[];
  };
  /** How the round is recorded, as was chosen when it began. */
  recording: Recording;
  startedAt: string | null;
  endedAt: string | null;
  /** Sessions of starting, testing and stopping the machine, oldest first. */
  sequences: SequenceRecord[];
  /** Last score of each criterion. */
  scores: Map<string, BodyOf<'scored'>>;
  criticalErrors: { event: string; error: string; words: string | null }[];
  notes: { event: string; words: string; checkpoint: string | null; at: string }[];
  decision: (BodyOf<'decided'> & { at: string; by: string | null; account: string | null }) | null;
  /** Second accounts that agreed to an outcome. */
  agreements: {
    outcome: BodyOf<'agreed'>['outcome'];
    words: string;
    at: string;
    by: string | null;
    account: string | null;
  }[];
  signatures: Map<'trainer' | 'operator', Signature>;
  takenOver: { reason: string; at: string; by: string | null }[];
  /** Events still in force, oldest first, for undo. */
  inForce: RecordedEvent[];
}

/** Kinds that the undo button may take back. Plants are not among them: they are corrected with a reason. */
const UNDOABLE = new Set<EvaluationEventBody['kind']>([
  'arrived',
  'station-done',
  'checked',
  'reported',
  'noted',
  'scored',
  'critical-error',
  'round-ended',
  'act',
  'act-ended',
  'act-marked',
  'rule-broken',
  'day-condition',
  'sequence-ended',
]);

/** The fold of an evaluation that events are added to one by one, in the order they were recorded. */
export class EvaluationFold {
  record = emptyRecord();
  private plants = new Map<string, Plant>();
  private readonly seen = new Set<string>();

  /** Takes in one event; one that was taken in before is passed over, so that a repeated send is harmless. */
  add(event: RecordedEvent): void {
    if (this.seen.has(event.id)) return;
    this.seen.add(event.id);
    if (event.body.kind === 'undone') {
      if (undoProblem(this.record, event.body.event) === null) this.rebuildWithout(event.body.event);
      return;
    }
    this.apply(event);
  }

  private rebuildWithout(id: string): void {
    const kept = this.record.inForce.filter((each) => each.id !== id);
    this.record = emptyRecord();
    this.plants = new Map();
    for (const event of kept) this.apply(event);
  }

  private apply(event: RecordedEvent): void {
    const { id, at, body } = event;
    const { record } = this;
    const who = { by: event.by ?? null, account: event.account ?? null };
    const since = () => Math.max(0, Date.parse(at) - Date.parse(record.startedAt ?? at));
    record.inForce.push(event);
    if (ofSequence(body)) {
      addToSequences(record.sequences, { id, at, body });
      return;
    }
    switch (body.kind) {
      case 'planted':
        this.plant(body.fault, {
          inMachine: true,
          duringRound: this.plants.get(body.fault)?.duringRound ?? false,
        });
        break;
      case 'retrieved':
        if (this.plants.get(body.fault)?.inMachine)
          this.plant(body.fault, { ...this.plants.get(body.fault)!, inMachine: false });
        break;
      case 'plant-corrected':
        this.correct(body, at);
        break;
      case 'round-started':
        if (record.startedAt !== null) break;
        record.startedAt = at;
        record.recording = body.recording ?? 'each-check';
        for (const [fault, plant] of this.plants)
          this.plant(fault, { ...plant, duringRound: plant.inMachine });
        break;
      case 'arrived':
        record.round.arrivals.push({ station: body.station, at: since() });
        break;
      case 'station-done':
        record.round.stationsDone.push({ station: body.station, at: since() });
        break;
      case 'checked':
        record.round.checks.push({
          checkpoint: body.checkpoint,
          result: body.result,
          method: body.method,
          at: since(),
        });
        break;
      case 'reported':
        record.round.reports.push({
          checkpoint: body.checkpoint,
          fault: body.fault,
          grade: body.grade,
          prompted: body.prompted,
          real: body.real,
          at: since(),
        });
        break;
      case 'noted':
        record.notes.push({ event: id, words: body.words, checkpoint: body.checkpoint ?? null, at });
        break;
      case 'round-ended':
        record.endedAt = at;
        record.round.duration = since();
        break;
      case 'scored':
        record.scores.set(body.criterion, body);
        break;
      case 'critical-error':
        record.criticalErrors.push({ event: id, error: body.error, words: body.words ?? null });
        break;
      case 'decided':
        record.decision ??= { ...body, at, ...who };
        break;
      case 'agreed':
        record.agreements.push({ outcome: body.outcome, words: body.words, at, ...who });
        break;
      case 'signed':
        if (!record.signatures.has(body.role))
          record.signatures.set(body.role, { strokes: body.strokes, typed: null, at, ...who });
        break;
      case 'signed-by-name':
        if (!record.signatures.has(body.role))
          record.signatures.set(body.role, { strokes: null, typed: body.name, at, ...who });
        break;
      case 'taken-over':
        record.takenOver.push({ reason: body.reason, at, by: who.by });
        break;
      case 'undone':
        break;
    }
  }

  private correct({ fault, says, reason }: BodyOf<'plant-corrected'>, at: string): void {
    const plant = this.plants.get(fault);
    if (!plant) return;
    this.record.corrections.push({ fault, says, reason, at, afterStart: this.record.startedAt !== null });
    if (says === 'still-in') this.plant(fault, { ...plant, inMachine: true });
    else {
      this.plants.delete(fault);
      this.listPlants();
    }
  }

  private plant(fault: string, plant: Plant): void {
    this.plants.set(fault, plant);
    this.listPlants();
  }

  private listPlants(): void {
    const { record } = this;
    const which = (wanted: (plant: Plant) => boolean) =>
      [...this.plants].filter(([, plant]) => wanted(plant)).map(([fault]) => fault);
    record.planted = which((plant) => (record.startedAt === null ? plant.inMachine : plant.duringRound));
    record.retrieved = which((plant) => !plant.inMachine);
    record.inMachine = which((plant) => plant.inMachine);
  }
}

function emptyRecord(): EvaluationRecord {
  return {
    planted: [],
    retrieved: [],
    inMachine: [],
    corrections: [],
    round: { arrivals: [], stationsDone: [], checks: [], reports: [], duration: null },
    recording: 'each-check',
    startedAt: null,
    endedAt: null,
    sequences: [],
    scores: new Map(),
    criticalErrors: [],
    notes: [],
    decision: null,
    agreements: [],
    signatures: new Map(),
    takenOver: [],
    inForce: [],
  };
}

/**
 * Folds an evaluation's events, in the order given, into its state. Plants and retrievals count in that
 * order: a fault that was planted again after it was taken out is in the machine. An `undone` event takes
 * back one event that came before it.
 */
export function foldEvaluation(events: readonly RecordedEvent[]): EvaluationRecord {
  const fold = new EvaluationFold();
  for (const event of events) fold.add(event);
  return fold.record;
}

/**
 * Why an event cannot be undone, or null: it is not on record before the undo, was taken back already, or
 * is no act of the run.
 */
export function undoProblem(record: EvaluationRecord, eventId: string): string | null {
  const target = record.inForce.find((each) => each.id === eventId);
  if (!target) return 'what it would take back is not on record';
  if (target.body.kind === 'planted' || target.body.kind === 'retrieved')
    return 'planting and taking out are corrected with a reason, not undone';
  return UNDOABLE.has(target.body.kind) ? null : `"${target.body.kind}" cannot be undone`;
}

/** The newest event that may be taken back, or null. */
export function lastUndoable(record: EvaluationRecord): RecordedEvent | null {
  if (record.decision) return null;
  return record.inForce.findLast((each) => UNDOABLE.has(each.body.kind)) ?? null;
}

/** Planted faults not yet ticked out again. */
export function stillPlanted(record: EvaluationRecord): string[] {
  return record.inMachine;
}
