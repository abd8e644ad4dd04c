import type { Session } from './session';
import {
  ACT_MARKS,
  type ActMark,
  type BrokenRule,
  type StatedCondition,
  type Trace,
  type TraceEvent,
} from './trace';

/**
 * One line of a trace as a table: an act, a broken rule, a condition of the day, or the end. All fields are text; ''
 * is nothing.
 */
export interface TraceRow {
  /** `act`, `rule`, `condition` or `end`; '' is an act. */
  kind: string;
  /** Token of a step, id of a rule, or the words of a condition. */
  token: string;
  /** Seconds since the trace began, by a clock that only runs on. */
  at: string;
  /** When the act ended, or a broken rule was over. */
  end: string;
  /** ISO 8601; used where `at` is missing. */
  time: string;
  mark: string;
  /** Conditions that did not hold, or steps that a condition lifts, separated by "; ". */
  more: string;
  device: string;
}
export const TRACE_COLUMNS = ['kind', 'token', 'at', 'end', 'time', 'mark', 'more', 'device'] as const;

/** What was odd in a trace that was read. Nothing of it is lost: `kept` says what became of it. */
export interface TraceRemark {
  line: number;
  says: string;
  kept: string;
}

/** Seconds by which a wall clock may drift from one that only runs on before it counts as changed. */
const DRIFT = 2;
const seconds = (value: number) => String(Math.round(value * 1000) / 1000);

/** A trace as lines of a table. */
export function traceRows(trace: Trace, startedAt?: string): TraceRow[] {
  const began = startedAt === undefined ? null : Date.parse(startedAt);
  const row = (kind: string, token: string, at: number, rest: Partial<TraceRow> = {}): TraceRow => ({
    kind,
    token,
    at: seconds(at),
    end: '',
    time: began === null ? '' : new Date(began + at * 1000).toISOString(),
    mark: '',
    more: '',
    device: '',
    ...rest,
  });
  const moments = [
    ...trace.events.map((each) =>
      row('act', each.token, each.at, {
        end: each.end === undefined ? '' : seconds(each.end),
        mark: each.mark ?? '',
        more: (each.failed ?? []).join('; '),
      }),
    ),
    ...trace.broken.map((each) =>
      row('rule', each.rule, each.at, { end: each.until === undefined ? '' : seconds(each.until) }),
    ),
  ].sort((a, b) => Number(a.at) - Number(b.at));
  return [
    ...trace.conditions.map((each) => row('condition', each.says, 0, { more: each.lifts.join('; ') })),
    ...moments,
    ...(trace.ended === null ? [] : [row('end', '', trace.ended)]),
  ];
}

/**
 * Reads lines of a table as a trace against the steps of a session. Whatever is odd is kept and told: an unknown
 * token as an act that is no step, a time that runs back as one that nothing is judged by. Lines of several devices
 * are put in the order of their times. `line` of a remark is that of the table, its heading being line 1.
 */
export function traceFromRows(
  rows: readonly Partial<TraceRow>[],
  session: Session,
): { trace: Trace; remarks: TraceRemark[] } {
  const remarks: TraceRemark[] = [];
  const remark = (line: number, says: string, kept: string) => remarks.push({ line, says, kept });
  const numbered = rows.map((row, i) => ({ line: i + 2, row, wall: Date.parse(row.time ?? '') }));
  const firstWall = numbered.find((each) => Number.isFinite(each.wall))?.wall ?? null;
  const timeOf = ({ row, wall }: (typeof numbered)[number]): number | null => {
    const at = row.at?.trim() ? Number(row.at) : NaN;
    if (Number.isFinite(at)) return at;
    return Number.isFinite(wall) && firstWall !== null ? (wall - firstWall) / 1000 : null;
  };
  let lines = numbered.map((each) => ({ ...each, at: timeOf(each), device: each.row.device?.trim() ?? '' }));
  const devices = new Set(lines.map((each) => each.device));
  if (devices.size > 1) {
    remark(
      1,
      `there are lines of ${devices.size} devices`,
      'put in the order of their times; between two devices that is as good as their clocks',
    );
    lines = [...lines].sort((a, b) => (a.at ?? 0) - (b.at ?? 0) || a.line - b.line);
  }

  const known = new Set(session.steps.map((each) => each.token));
  const events: TraceEvent[] = [];
  const broken: BrokenRule[] = [];
  const conditions: StatedCondition[] = [];
  let ended: number | null = null;
  let last: { at: number; wall: number; device: string; line: number } | null = null;
  for (const { line, row, at: given, wall, device } of lines) {
    const kind = row.kind?.trim() || 'act';
    const token = row.token?.trim() ?? '';
    const more = (row.more ?? '').split(';').flatMap((each) => each.trim() || []);
    if (kind === 'condition') {
      conditions.push({ says: token, lifts: more });
      continue;
    }
    let at: number = given ?? last?.at ?? 0;
    let unsure = false;
    if (given === null) {
      unsure = true;
      remark(line, 'it has no time that can be read', 'kept in its place; no time is judged by it');
    } else if (last && given < last.at) {
      unsure = true;
      at = last.at;
      remark(
        line,
        `its time, ${seconds(given)} s, lies before ${seconds(last.at)} s on line ${last.line}`,
        'kept in its place; no time is judged by it',
      );
    } else if (last && row.at?.trim() && Number.isFinite(wall) && Number.isFinite(last.wall)) {
      const apart = (wall - last.wall) / 1000 - (given - last.at);
      if (last.device === device && Math.abs(apart) > DRIFT)
        remark(
          line,
          `the clock of the device was changed by ${seconds(apart)} s`,
          'the seconds that run on are used',
        );
    }
    last = { at, wall, device, line };
    const until = row.end?.trim() ? Number(row.end) : NaN;
    const end = Number.isFinite(until) && until >= at ? until : undefined;
    if (row.end?.trim() && end === undefined)
      remark(line, `its end, "${row.end}", is no time after its beginning`, 'kept without an end');
    if (kind === 'rule') broken.push({ rule: token, at, until: end });
    else if (kind === 'end') ended = at;
    else {
      if (kind !== 'act') remark(line, `"${kind}" is no kind of line`, 'kept as an act');
      if (!known.has(token)) remark(line, `"${token}" is no step of this`, 'kept as an act that is no step');
      const mark = ACT_MARKS.find((each) => each === row.mark?.trim());
      if (row.mark?.trim() && row.mark.trim() !== 'done' && !mark)
        remark(line, `"${row.mark}" is no mark`, 'kept without a mark');
      events.push(act(token, at, end, mark, more, unsure));
    }
  }
  return { trace: { events, broken, conditions, ended: ended ?? endOf(events) }, remarks };
}

function act(
  token: string,
  at: number,
  end: number | undefined,
  mark: ActMark | undefined,
  failed: string[],
  unsure: boolean,
): TraceEvent {
  return {
    token,
    at,
    ...(end === undefined ? {} : { end }),
    ...(mark ? { mark } : {}),
    ...(failed.length > 0 ? { failed } : {}),
    ...(unsure ? { unsure } : {}),
  };
}

/** A trace that does not say when it was over ended with its last moment. */
function endOf(events: readonly TraceEvent[]): number {
  return Math.max(0, ...events.map((each) => each.end ?? each.at));
}
