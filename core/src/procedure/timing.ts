import type { Timing } from '../catalogue';
import type { Explanation } from './explain';
import type { Session, SessionStep } from './session';
import type { Trace, TraceEvent } from './trace';

export const TIME_RULES = ['dwell', 'limit', 'within', 'rest', 'tries'] as const;
export type TimeRule = (typeof TIME_RULES)[number];

/** How a time rule of a step came out. */
export interface TimeVerdict {
  step: SessionStep;
  rule: TimeRule;
  /** `unknown` where the stamped moments do not tell; `lifted` by a stated condition. */
  verdict: 'kept' | 'broken' | 'unknown' | 'lifted';
  /** Seconds, or tries. Null where it is not known. */
  measured: number | null;
  /** Least seconds of a dwell or rest, most seconds of a limit or within, most tries. */
  bound: number;
  /** By how much it was broken; null where it was not. */
  by: number | null;
  /** The act that it is judged at. */
  event: number;
  /** The step of which something came before this one was over, for a dwell that was cut short. */
  cutBy: SessionStep | null;
}

const SECONDS: Readonly<Partial<Record<NonNullable<Timing['unit']>, number>>> = {
  s: 1,
  min: 60,
  h: 3600,
  day: 86_400,
};

/** Seconds of a figure of a timing; null where its unit is no time, or the figure is not given. */
export function timingSeconds(figure: number | undefined, unit: Timing['unit']): number | null {
  const seconds = unit === undefined ? undefined : SECONDS[unit];
  return figure === undefined || seconds === undefined ? null : figure * seconds;
}

/** Whether the clock can judge a timing: it has a bound in seconds and a meaning that is a rule. */
function isTimed(step: Pick<SessionStep, 'timing'>): boolean {
  const { timing } = step;
  if (!timing) return false;
  if (timing.means === 'dwell' || timing.means === 'rest')
    return timingSeconds(timing.least, timing.unit) !== null;
  return (
    (timing.means === 'limit' || timing.means === 'within') &&
    timingSeconds(timing.most, timing.unit) !== null
  );
}

/** A trace with the session it belongs to and how it is explained. */
export interface Seen {
  session: Session;
  trace: Trace;
  explanation: Explanation;
}

/**
 * Judges the times of a trace by their meaning. A stamp is the moment an act begins; its end may be stamped too.
 * - `dwell`: from the step it counts from (else from this act) until its stamped end, else until the first act that
 *   waits for it, else until all is over. Where something else than the clock ends it, the clock alone breaks nothing.
 * - `limit`, `within` since a step: from the end of that act (else its beginning) to this one. Without: from
 *   beginning to end of this act; where no end was stamped, the next act tells only that it was kept.
 * - `rest`: from this act to the next. A limit with tries: no more acts than tries, each within the limit, and
 *   between one and the next at least the rest.
 * `typical` and `count` are never judged by the clock.
 */
export function judgeTimes(seen: Seen): TimeVerdict[] {
  const lifted = new Set(seen.trace.conditions.flatMap((each) => each.lifts));
  const verdicts = seen.session.steps.flatMap((step) => timesOf(step, seen));
  return verdicts.map((each) =>
    lifted.has(each.step.id) && each.verdict !== 'kept' ? { ...each, verdict: 'lifted', by: null } : each,
  );
}

function timesOf(step: SessionStep, seen: Seen): TimeVerdict[] {
  const event = eventOf(step, seen);
  if (!step.timing || event === null) return [];
  // What it counts from was not done: that is told by itself.
  const from = countedFrom(step, event, seen);
  if (from === null) return [];
  const { means, unit } = step.timing;
  const least = timingSeconds(step.timing.least, unit);
  const most = timingSeconds(step.timing.most, unit);
  if (means === 'dwell' && least !== null) return [dwell(step, least, event, from, seen)];
  if (means === 'rest' && least !== null) return [rest(step, least, event, seen)];
  if ((means !== 'limit' && means !== 'within') || most === null) return [];
  if (step.timing.since === undefined) return attempts(step, means, most, event, seen);
  return [since(step, means, most, event, from, seen)];
}

/** The act that is a step: as explained, else its last one, out of order as it is. */
export function eventOf(step: SessionStep, { session, trace, explanation }: Seen): number | null {
  const { eventOf: matched, stepOf } = explanation;
  const event = matched[session.order.index.get(step.id)!] ?? null;
  if (event !== null) return event;
  const own = trace.events.findLastIndex((each, e) => each.token === step.token && stepOf[e] === null);
  return own >= 0 ? own : null;
}

type Measured = Pick<TimeVerdict, 'verdict' | 'measured' | 'cutBy'>;
const unknown: Measured = { verdict: 'unknown', measured: null, cutBy: null };

function verdict(
  step: SessionStep,
  rule: TimeRule,
  bound: number,
  event: number,
  { verdict: came, measured, cutBy }: Measured,
): TimeVerdict {
  const by = came === 'broken' ? Math.abs(measured! - bound) : null;
  return { step, rule, verdict: came, measured, bound, by, event, cutBy };
}
/** Seconds that adding up moments may be off by. */
const SLACK = 1e-6;
const atLeast = (measured: number, least: number, cutBy: SessionStep | null = null): Measured => ({
  verdict: measured < least - SLACK ? 'broken' : 'kept',
  measured,
  cutBy,
});
const atMost = (measured: number, most: number): Measured => ({
  verdict: measured > most + SLACK ? 'broken' : 'kept',
  measured,
  cutBy: null,
});

/** A moment, and whether it is not to be relied on. */
interface Moment {
  at: number;
  unsure: boolean;
}

/** The moment a step counts from: the end of the act where it was stamped. Null where it was not done. */
function countedFrom(step: SessionStep, event: number, seen: Seen): Moment | null {
  const { session, trace } = seen;
  const own = trace.events[event]!;
  const since = step.timing?.since;
  if (since === undefined || since === step.id) return { at: own.at, unsure: own.unsure ?? false };
  const from = session.steps.find((each) => each.id === since);
  const begun = from ? eventOf(from, seen) : null;
  if (begun === null) return null;
  const act = trace.events[begun]!;
  return { at: act.end ?? act.at, unsure: act.unsure ?? false };
}

function dwell(step: SessionStep, least: number, event: number, from: Moment, seen: Seen): TimeVerdict {
  const own = seen.trace.events[event]!;
  const until = step.timing?.until !== undefined;
  const tell = (measured: Measured, bound = least) => verdict(step, 'dwell', bound, event, measured);
  if (from.unsure) return tell(unknown);
  const following = firstAfter(step, event, seen);
  if (following?.event.unsure) return tell(unknown);
  if (own.end !== undefined) {
    const whole = own.end - from.at;
    // What waits for it came before it was over.
    if (following && following.event.at < own.end)
      return tell(atLeast(following.event.at - from.at, whole, following.step), whole);
    return tell(atLeast(whole, until ? 0 : least));
  }
  const over = following?.event.at ?? seen.trace.ended;
  if (over === null) {
    const passed = own.at - from.at;
    return tell(passed >= least && !own.unsure ? atLeast(passed, least) : unknown);
  }
  const measured = over - from.at;
  // Something else than the clock may have ended it, and nobody stamped that.
  if (measured < least && until) return tell({ ...unknown, measured });
  return tell(atLeast(measured, least, following?.step ?? null));
}

/** The first act, later than one, of a step that must come after a step. */
function firstAfter(
  step: SessionStep,
  event: number,
  { session: { steps, order }, trace, explanation: { stepOf, kept } }: Seen,
): { event: TraceEvent; step: SessionStep } | null {
  const own = order.index.get(step.id)!;
  for (let e = event + 1; e < trace.events.length; e++) {
    const s = stepOf[e] ?? steps.findIndex((each) => each.token === trace.events[e]!.token);
    if (s >= 0 && kept.has(own, s)) return { event: trace.events[e]!, step: steps[s]! };
  }
  return null;
}

function rest(step: SessionStep, least: number, event: number, { trace }: Seen): TimeVerdict {
  const own = trace.events[event]!;
  const next = trace.events.slice(event + 1).find((each) => each.token !== step.token);
  const over = own.end ?? next?.at ?? trace.ended;
  const unsure = own.unsure || next?.unsure || over === null;
  return verdict(step, 'rest', least, event, unsure ? unknown : atLeast(over - own.at, least));
}

function since(
  step: SessionStep,
  rule: 'limit' | 'within',
  most: number,
  event: number,
  from: Moment,
  { trace }: Seen,
): TimeVerdict {
  const own = trace.events[event]!;
  const unsure = from.unsure || own.unsure || own.at < from.at;
  return verdict(step, rule, most, event, unsure ? unknown : atMost(own.at - from.at, most));
}

/** An act that has a limit of its own, with its tries and the rests between them. */
function attempts(
  step: SessionStep,
  rule: 'limit' | 'within',
  most: number,
  event: number,
  { session: { steps }, trace }: Seen,
): TimeVerdict[] {
  const shared = steps.filter((each) => each.token === step.token).length > 1;
  const all = trace.events.flatMap((each, e) =>
    each.token === step.token && (!shared || e === event) ? [e] : [],
  );
  const { tries, rest: pause, unit } = step.timing!;
  const least = timingSeconds(pause, unit);
  const found: TimeVerdict[] = all.map((e) => verdict(step, rule, most, e, lasted(e, most, trace)));
  if (tries !== undefined) found.push(verdict(step, 'tries', tries, all.at(-1)!, atMost(all.length, tries)));
  if (tries !== undefined && least !== null)
    for (let i = 1; i < all.length; i++) {
      const [before, now] = [trace.events[all[i - 1]!]!, trace.events[all[i]!]!];
      const gap = now.at - (before.end ?? before.at);
      const unsure = before.unsure || now.unsure;
      found.push(verdict(step, 'rest', least, all[i]!, unsure ? unknown : atLeast(gap, least)));
    }
  return found;
}

/** How long an act lasted; where its end was not stamped, the next act tells only that it was short enough. */
function lasted(event: number, most: number, trace: Trace): Measured {
  const own = trace.events[event]!;
  if (own.unsure) return unknown;
  if (own.end !== undefined) return atMost(own.end - own.at, most);
  const next = trace.events[event + 1];
  if (next?.unsure) return unknown;
  const over = next?.at ?? trace.ended;
  if (over === null) return unknown;
  if (over - own.at > most) return { ...unknown, measured: over - own.at };
  return { verdict: 'kept', measured: null, cutBy: null };
}

/** A clock that runs while a session goes on. */
export interface RunningClock {
  step: SessionStep;
  /** The act that it runs beside. */
  event: number;
  /** A wait that must last so long, or a limit that must not be passed. */
  means: 'wait' | 'limit';
  /** The moment it counts from, seconds since the session began. */
  from: number;
  /** Seconds. */
  bound: number;
  /** Whether the end of the act can be stamped. */
  endable: boolean;
}

/** The clocks that run: waits that nothing has cut short or ended yet, and acts with a limit whose end is to come. */
export function runningClocks(seen: Seen): RunningClock[] {
  return seen.session.steps.flatMap((step): RunningClock[] => {
    const event = eventOf(step, seen);
    if (event === null || !isTimed(step) || seen.trace.events[event]!.end !== undefined) return [];
    const { means, least, most, unit, since: counts, until } = step.timing!;
    const waits = means === 'dwell' || means === 'rest';
    // What is counted from another act is over once it is done.
    if (!waits && counts !== undefined) return [];
    const from = countedFrom(step, event, seen);
    if (from === null || (waits && firstAfter(step, event, seen) !== null)) return [];
    const bound = timingSeconds(waits ? least : most, unit)!;
    const endable = !waits || until !== undefined;
    return [{ step, event, means: waits ? 'wait' : 'limit', from: from.at, bound, endable }];
  });
}
