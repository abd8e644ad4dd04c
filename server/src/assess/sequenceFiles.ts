import type { RouteInput, routes } from '@rounds/contract';
import { bodiesOfTrace, foldEvaluation, type JudgedSequence, judgedSequence } from '@rounds/core/evaluation';
import { RAIL_COLOURS, railLayout, railSvg } from '@rounds/core/drawing';
import { momentWords, session } from '@rounds/core/procedure';
import { v7 as uuidv7 } from 'uuid';
import type { Caller } from '../accounts/access';
import { effectivePackOf } from '../classes/packs';
import type { House } from '../data/context';
import { ProblemError } from '../http/problem';
import { evaluationOr404, refuseOwn, seesKey } from './access';
import { noted } from './openEvaluation';
import { appendToEvaluation, eventsOf } from './stream';
import { readTraceCsv, readTraceXes, traceCsv, traceXes, UnreadableTrace } from './traceFiles';

type Asked = RouteInput<typeof routes.traceCsv>['params'];
type Imported = RouteInput<typeof routes.importTrace>;

async function judgedOf(house: House, { id, sequence }: Asked, caller: Caller): Promise<JudgedSequence> {
  const row = await evaluationOr404(house, caller, id);
  const hidden = new ProblemError('not-found', 'There is no such session, or it may not be seen yet.');
  if (!seesKey(caller, row)) throw hidden;
  const { sequences } = foldEvaluation(await eventsOf(house.db, id));
  const found = sequences.find((each) => each.id === sequence);
  const judged = found ? judgedSequence(await effectivePackOf(house.db, row.packHash), found) : null;
  if (!judged) throw hidden;
  return judged;
}
const named = ({ sequence }: Asked, ending: string) => `trace-${sequence.slice(-8)}.${ending}`;

/** The trace of a session as CSV. */
export async function traceCsvFile(house: House, params: Asked, caller: Caller) {
  const { sequence } = await judgedOf(house, params, caller);
  return { file: Buffer.from(traceCsv(sequence.trace, sequence.startedAt)), name: named(params, 'csv') };
}

/** The trace of a session as XES. */
export async function traceXesFile(house: House, params: Asked, caller: Caller) {
  const { sequence } = await judgedOf(house, params, caller);
  const text = traceXes(sequence.trace, sequence.startedAt, sequence.procedures.join(' '));
  return { file: Buffer.from(text), name: named(params, 'xes') };
}

/** The rail of a session with what was stamped, as SVG. */
export async function sequenceRailFile(house: House, params: Asked, caller: Caller) {
  const { sequence, judgement } = await judgedOf(house, params, caller);
  const svg = railSvg(railLayout(judgement.session, 640, judgement), RAIL_COLOURS, (act) =>
    momentWords(sequence.trace.events[act - 1]?.at ?? 0),
  );
  return { file: Buffer.from(svg), name: named(params, 'svg') };
}

/** Records a trace from a file as a session that has just ended; whatever was odd in it is answered. */
export async function importTrace(
  house: House,
  params: Imported['params'],
  body: Imported['body'],
  caller: Caller,
) {
  const row = await evaluationOr404(house, caller, params.id);
  refuseOwn(caller, row);
  const pack = await effectivePackOf(house.db, row.packHash);
  let read: ReturnType<typeof readTraceCsv>;
  try {
    const own = session(pack, body.procedures);
    read = body.format === 'csv' ? readTraceCsv(body.text, own) : readTraceXes(body.text, own);
  } catch (error) {
    if (error instanceof UnreadableTrace)
      throw new ProblemError('trace-unreadable', `${error.message} Nothing was recorded.`);
    if (error instanceof RangeError)
      throw new ProblemError('unknown-row', `${error.message}. Nothing was recorded.`);
    throw error;
  }
  const { trace, remarks } = read;
  if (trace.events.length === 0)
    throw new ProblemError('trace-unreadable', 'There is no act in this file. Nothing was recorded.');
  const began = house.now().getTime() - Math.round((trace.ended ?? 0) * 1000);
  const events = bodiesOfTrace(trace, body.procedures, null, uuidv7).map(({ id, at, body: event }) => ({
    id,
    at: new Date(began + Math.round(at * 1000)).toISOString(),
    body: event,
  }));
  await appendToEvaluation(house, caller, row, 'server', events);
  return {
    remarks,
    ...(await noted(
      house,
      caller,
      row,
      events.map((each) => each.id),
    )),
  };
}
