import { z } from 'zod';
import { GRADES, METHODS } from '../catalogue';
import { ACT_MARKS } from '../procedure';
import { signatureProblem } from './signature';

const id = z.string().min(1).max(64);
const words = z.string().trim().max(2000);

export const DECIDED = ['competent', 'not-yet', 'stopped'] as const;
export type Decided = (typeof DECIDED)[number];

/** Why a trainer decides other than the computed outcome. */
export const OVERRIDE_KINDS = [
  'seen-otherwise',
  'sheet-does-not-fit',
  'conditions',
  'machine',
  'language',
  'other',
] as const;
export type OverrideKind = (typeof OVERRIDE_KINDS)[number];

/** Least letters of the words that go with an override, a correction of a plant, or an agreement. */
export const LEAST_REASON = 15;
const enoughWords = words.refine(
  (text) => text.replace(/\s/g, '').length >= LEAST_REASON,
  `needs at least ${LEAST_REASON} letters`,
);

/** How a recorded plant was wrong: it was never put in, or it was ticked out but is still in the machine. */
export const PLANT_CORRECTIONS = ['never-planted', 'still-in'] as const;

/**
 * How a round is recorded: each check by a tap, or by exception, where a station's checks are presumed done
 * once it is left and only what was otherwise is tapped.
 */
export const RECORDINGS = ['each-check', 'by-exception'] as const;
export type Recording = (typeof RECORDINGS)[number];

/** The parts of an evaluation in which procedures are stamped step by step. */
export const SEQUENCE_PARTS = ['start', 'stop'] as const;
export type SequencePart = (typeof SEQUENCE_PARTS)[number];

const role = z.enum(['trainer', 'operator']);

/**
 * Seconds of a clock that nobody sets, with the run of the page that they count in: between two moments of one run
 * they tell the time, whatever happens to the clock of the device.
 */
const ticks = z.strictObject({ run: id, s: z.number().nonnegative() }).optional();
/** Marks of an act; `done` takes a mark off again. */
const marks = z.enum(['done', ...ACT_MARKS]);

/**
 * What a device records in the course of an evaluation. `undone` takes an earlier event back; both stay on
 * record.
 */
const fromDevice = (reason: z.ZodType<string, string>) =>
  [
    z.strictObject({ kind: z.literal('planted'), fault: id }),
    z.strictObject({ kind: z.literal('retrieved'), fault: id }),
    z.strictObject({
      kind: z.literal('plant-corrected'),
      fault: id,
      says: z.enum(PLANT_CORRECTIONS),
      reason,
    }),
    z.strictObject({ kind: z.literal('round-started'), recording: z.enum(RECORDINGS).optional() }),
    z.strictObject({ kind: z.literal('arrived'), station: id }),
    z.strictObject({ kind: z.literal('station-done'), station: id }),
    z.strictObject({
      kind: z.literal('checked'),
      checkpoint: id,
      result: z.enum(['done', 'prompted', 'missed']),
      method: z.enum(METHODS).optional(),
    }),
    z.strictObject({
      kind: z.literal('reported'),
      checkpoint: id,
      fault: id.nullable(),
      grade: z.enum(GRADES),
      prompted: z.boolean(),
      real: z.boolean(),
      words: words.optional(),
    }),
    z.strictObject({ kind: z.literal('noted'), words: words.min(1), checkpoint: id.optional() }),
    z.strictObject({ kind: z.literal('round-ended') }),
    z.strictObject({
      kind: z.literal('scored'),
      criterion: id,
      result: z.enum(['done', 'prompted', 'not', 'na']),
      value: z.number().min(0).max(1000).optional(),
      reason: words.optional(),
    }),
    z.strictObject({ kind: z.literal('critical-error'), error: id, words: words.optional() }),
    z.strictObject({
      kind: z.literal('sequence-started'),
      procedures: z.array(id).min(1).max(20),
      part: z.enum(SEQUENCE_PARTS).optional(),
      ticks,
    }),
    z.strictObject({ kind: z.literal('act'), token: z.string().min(1).max(120), ticks }),
    z.strictObject({ kind: z.literal('act-ended'), act: id, ticks }),
    z.strictObject({
      kind: z.literal('act-marked'),
      act: id,
      mark: marks,
      failed: z.array(z.string().min(1).max(200)).max(20).optional(),
    }),
    z.strictObject({ kind: z.literal('rule-broken'), rule: id, ticks }),
    z.strictObject({
      kind: z.literal('day-condition'),
      says: words.min(3),
      lifts: z.array(id).min(1).max(50),
    }),
    z.strictObject({ kind: z.literal('sequence-ended'), ticks }),
    z.strictObject({ kind: z.literal('undone'), event: id }),
    z.strictObject({
      kind: z.literal('decided'),
      outcome: z.enum(DECIDED),
      override: z.strictObject({ kind: z.enum(OVERRIDE_KINDS), words: reason }).optional(),
    }),
  ] as const;

const drawn = z.string().max(60_000);
const signed = z.strictObject({ kind: z.literal('signed'), role, strokes: drawn });

/** Words that are long enough to give a reason. */
export const reasonWords = enoughWords;

/**
 * What only the server writes, because it stands for an account: signing by name, a second account's
 * agreement, a take-over.
 */
const fromServer = [
  z.strictObject({ kind: z.literal('signed-by-name'), role, name: words.min(1).max(200) }),
  z.strictObject({ kind: z.literal('agreed'), outcome: z.enum(DECIDED), words }),
  z.strictObject({ kind: z.literal('taken-over'), reason: words.min(3) }),
] as const;

/** The body of an event as a device may send it. */
export const deviceEventBody = z.discriminatedUnion('kind', [
  ...fromDevice(enoughWords),
  signed.extend({
    strokes: drawn.superRefine((path, context) => {
      const problem = signatureProblem(path);
      if (problem) context.addIssue({ code: 'custom', message: problem });
    }),
  }),
]);

/**
 * The body of an event as it is stored. Signatures and reasons of an earlier version may be shorter than
 * those asked for today.
 */
export const evaluationEventBody = z.discriminatedUnion('kind', [
  ...fromDevice(words),
  signed,
  ...fromServer,
]);
export type EvaluationEventBody = z.infer<typeof evaluationEventBody>;

/** An event with its identity (a UUID made where it happened) and instant (ISO 8601, UTC). */
export const deviceEvent = z.strictObject({ id: z.uuid(), at: z.iso.datetime(), body: deviceEventBody });
export type DeviceEventBody = z.infer<typeof deviceEventBody>;
export interface EvaluationEvent {
  id: string;
  at: string;
  body: EvaluationEventBody;
}

/** An event as the server keeps it: by whom it was recorded and when it reached the server. */
export interface RecordedEvent extends EvaluationEvent {
  /** Name of the account that recorded it. */
  by?: string;
  /** Id of that account. */
  account?: string;
  receivedAt?: string;
}

/** Version of the stored form of evaluation events that this code writes. */
export const EVENT_VERSION = 2;

/** A stored row before it is read. */
export interface StoredEvent extends Omit<RecordedEvent, 'body'> {
  body: unknown;
  version: number;
}

/**
 * Reads stored events of any version in today's form, in order. Version 1 let plants be undone, which is a
 * correction now, let an undo come before what it takes back, and gave an override as bare words. Throws
 * ZodError for a body that is none of them.
 */
export function readStoredEvents(rows: readonly StoredEvent[]): RecordedEvent[] {
  const kinds = new Map(rows.map((row) => [row.id, row.body as { kind?: string; fault?: string }]));
  const places = new Map(rows.map((row, i) => [row.id, i]));
  const read: { event: RecordedEvent; place: number }[] = rows.map(({ version, body, ...row }, i) => {
    const before = version < 2 ? fromVersion1(body as Record<string, unknown>, kinds) : body;
    const event = { ...row, body: evaluationEventBody.parse(before) };
    const takesBack = version < 2 && event.body.kind === 'undone' ? places.get(event.body.event) : undefined;
    return { event, place: takesBack !== undefined && takesBack > i ? takesBack + 0.5 : i };
  });
  if (read.some((each, i) => each.place !== i)) read.sort((a, b) => a.place - b.place);
  return read.map((each) => each.event);
}

function fromVersion1(
  body: Record<string, unknown>,
  kinds: ReadonlyMap<string, { kind?: string; fault?: string }>,
): unknown {
  if (body['kind'] === 'decided') {
    const { reason: said, ...rest } = body;
    return typeof said === 'string' && said !== ''
      ? { ...rest, override: { kind: 'other', words: said } }
      : rest;
  }
  if (body['kind'] !== 'undone') return body;
  const target = kinds.get(String(body['event']));
  if (target?.kind !== 'planted' && target?.kind !== 'retrieved') return body;
  const says = target.kind === 'planted' ? 'never-planted' : 'still-in';
  return {
    kind: 'plant-corrected',
    fault: target.fault,
    says,
    reason: 'taken back with Undo in an earlier version',
  };
}
