import type { BrokenRule, StatedCondition, Trace, TraceEvent } from '../procedure';
import type { EffectivePack } from '../catalogue';
import type { EvaluationEventBody, SequencePart } from './events';

type BodyOf<K extends EvaluationEventBody['kind']> = Extract<EvaluationEventBody, { kind: K }>;
const SEQUENCE_KINDS = [
  'sequence-started',
  'act',
  'act-ended',
  'act-marked',
  'rule-broken',
  'day-condition',
  'sequence-ended',
] as const;
export type SequenceBody = BodyOf<(typeof SEQUENCE_KINDS)[number]>;

/** One session of procedures as it was stamped beside the machine. */
export interface SequenceRecord {
  /** Id of the event that began it. */
  id: string;
  procedures: readonly string[];
  /** The part of an evaluation that it belongs to; null where it is by itself. */
  part: SequencePart | null;
  startedAt: string;
  endedAt: string | null;
  /** The trace, with the id of the event that each act is. */
  trace: {
    events: (TraceEvent & { id: string })[];
    broken: (BrokenRule & { id: string })[];
    conditions: (StatedCondition & { id: string })[];
    ended: number | null;
  };
  /** The newest moment in it: where its clock stands. */
  clock: { instant: number; at: number; run: string | null; ticks: number };
}

/** Whether an event belongs to a session of procedures. */
export function ofSequence(body: EvaluationEventBody): body is SequenceBody {
  return (SEQUENCE_KINDS as readonly string[]).includes(body.kind);
}

/**
 * The procedures of a class that an evaluation stamps in a part: those that the sheet's sections ask for, of the
 * section that stops the machine or of the others.
 */
export function proceduresOf(
  pack: Pick<EffectivePack, 'sheet' | 'procedures'>,
  part: SequencePart,
): string[] {
  const asked = new Set(
    pack.sheet.sections
      .filter((each) => (each.id === 'stop') === (part === 'stop'))
      .flatMap((each) => each.criteria.flatMap((criterion) => criterion.link?.procedures ?? [])),
  );
  return pack.procedures.map((each) => each.id).filter((id) => asked.has(id));
}

/** The session that is going on, or null. */
export function openSequence(sequences: readonly SequenceRecord[]): SequenceRecord | null {
  const last = sequences.at(-1);
  return last && last.endedAt === null ? last : null;
}

/** Why an event of a session comes out of turn, or null. */
export function sequenceProblem(sequences: readonly SequenceRecord[], body: SequenceBody): string | null {
  const open = openSequence(sequences);
  if (body.kind === 'sequence-started') return open ? 'another start or stop is still open' : null;
  if (!open) return 'no start or stop is open';
  if (body.kind === 'act-ended' || body.kind === 'act-marked')
    return open.trace.events.some((each) => each.id === body.act)
      ? null
      : 'the act it speaks of is not on record';
  return null;
}

/**
 * Adds an event to the sessions it belongs to. Times are counted by the ticks of a page while one page records, else
 * by the instants; where those run back, the moment stands still and is marked as unsure.
 */
export function addToSequences(
  sequences: SequenceRecord[],
  { id, at, body }: { id: string; at: string; body: SequenceBody },
): void {
  if (sequenceProblem(sequences, body) !== null) return;
  const instant = Date.parse(at);
  if (body.kind === 'sequence-started') {
    sequences.push({
      id,
      procedures: body.procedures,
      part: body.part ?? null,
      startedAt: at,
      endedAt: null,
      trace: { events: [], broken: [], conditions: [], ended: null },
      clock: { instant, at: 0, run: body.ticks?.run ?? null, ticks: body.ticks?.s ?? 0 },
    });
    return;
  }
  const open = openSequence(sequences)!;
  const { trace } = open;
  if (body.kind === 'day-condition') {
    trace.conditions.push({ id, says: body.says, lifts: body.lifts });
    return;
  }
  const of = (act: string) => trace.events.find((each) => each.id === act)!;
  if (body.kind === 'act-marked') {
    const event = of(body.act);
    event.mark = body.mark === 'done' ? undefined : body.mark;
    event.failed = body.failed;
    return;
  }
  const { seconds, unsure } = moment(open, instant, body.ticks);
  switch (body.kind) {
    case 'act':
      trace.events.push({ id, token: body.token, at: seconds, ...(unsure ? { unsure } : {}) });
      break;
    case 'act-ended':
      of(body.act).end = seconds;
      if (unsure) of(body.act).unsure = true;
      break;
    case 'rule-broken':
      trace.broken.push({ id, rule: body.rule, at: seconds });
      break;
    case 'sequence-ended':
      trace.ended = seconds;
      open.endedAt = at;
      break;
  }
}

/** A moment of a session in seconds since it began, and moves its clock there. */
function moment(
  { clock }: SequenceRecord,
  instant: number,
  ticks: { run: string; s: number } | undefined,
): { seconds: number; unsure: boolean } {
  const sameRun = ticks !== undefined && ticks.run === clock.run && ticks.s >= clock.ticks;
  const passed = sameRun ? ticks.s - clock.ticks : (instant - clock.instant) / 1000;
  const unsure = passed < 0;
  const seconds = Math.round((clock.at + Math.max(0, passed)) * 1000) / 1000;
  clock.instant = instant;
  clock.at = seconds;
  clock.run = ticks?.run ?? null;
  clock.ticks = ticks?.s ?? 0;
  return { seconds, unsure };
}

/**
 * A trace as the bodies of the events that record it, each with its moment in seconds since it began. `newId` names
 * the acts, since what follows speaks of them.
 */
export function bodiesOfTrace(
  trace: Trace,
  procedures: readonly string[],
  part: SequencePart | null,
  newId: () => string,
): { id: string; at: number; body: SequenceBody }[] {
  const made: { id: string; at: number; body: SequenceBody }[] = [];
  const add = (at: number, body: SequenceBody): string => {
    const id = newId();
    made.push({ id, at, body });
    return id;
  };
  add(0, { kind: 'sequence-started', procedures: [...procedures], ...(part ? { part } : {}) });
  for (const { says, lifts } of trace.conditions) add(0, { kind: 'day-condition', says, lifts: [...lifts] });
  for (const each of trace.events) {
    const act = add(each.at, { kind: 'act', token: each.token });
    if (each.mark || each.failed?.length)
      add(each.at, {
        kind: 'act-marked',
        act,
        mark: each.mark ?? 'done',
        ...(each.failed?.length ? { failed: [...each.failed] } : {}),
      });
    if (each.end !== undefined) add(each.end, { kind: 'act-ended', act });
  }
  for (const { rule, at } of trace.broken) add(at, { kind: 'rule-broken', rule });
  made.sort((a, b) => a.at - b.at);
  if (trace.ended !== null) add(Math.max(trace.ended, made.at(-1)!.at), { kind: 'sequence-ended' });
  return made;
}
