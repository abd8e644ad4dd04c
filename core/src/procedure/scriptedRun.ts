import type { EffectivePack } from '../catalogue';
import { rulesOf, session as sessionOf, type Session, type SessionStep } from './session';
import { timingSeconds } from './timing';
import type { Trace, TraceEvent } from './trace';

/** A number from 0 to below 1, for instance a seeded generator. */
type Draw = () => number;

/**
 * An order of steps that is allowed; with a draw, any of those that are, else as written. Optional steps are left
 * out, but for those that others wait for.
 */
export function allowedOrder({ steps, order }: Session, draw?: Draw): SessionStep[] {
  const needed = new Set(order.groups.flatMap((each) => each.members));
  const open = new Set(steps.flatMap((each, s) => (each.optional && !needed.has(s) ? [] : [s])));
  const done = new Set<number>();
  const sequence: SessionStep[] = [];
  const free = (s: number) =>
    [...open].every((t) => !order.base.has(t, s)) &&
    order.groups.every((each) => each.owner !== s || each.members.some((t) => done.has(t)));
  while (open.size > 0) {
    const able = [...open].filter(free);
    const next = able[draw ? Math.floor(draw() * able.length) : 0];
    if (next === undefined) throw new RangeError('no allowed order: a group waits for itself');
    open.delete(next);
    done.add(next);
    sequence.push(steps[next]!);
  }
  return sequence;
}

/**
 * A trace of steps in the order given that keeps every time rule as far as the order lets it: `gap` seconds from act
 * to act, waiting where a dwell or rest asks for it. The time of a step in a `hurry` is not kept.
 */
export function keptTimes(
  { steps, order }: Session,
  sequence: readonly SessionStep[],
  { gap = 1, hurry = null }: { gap?: number; hurry?: SessionStep | null } = {},
): Trace {
  const events: TraceEvent[] = [];
  const began = new Map<string, TraceEvent>();
  const from = (step: SessionStep) => {
    const event = began.get(step.timing?.since ?? step.id) ?? began.get(step.id)!;
    return event.end ?? event.at;
  };
  const least = (step: SessionStep) =>
    step !== hurry && (step.timing?.means === 'dwell' || step.timing?.means === 'rest')
      ? (timingSeconds(step.timing.least, step.timing.unit) ?? 0)
      : 0;
  /** When a wait that an act depends on is over. */
  const waited = (step: SessionStep | null) =>
    Math.max(
      0,
      ...steps
        .filter((each) => began.has(each.id) && least(each) > 0)
        .filter((each) => step === null || each.timing!.means === 'rest' || order.before(each.id, step.id))
        .map((each) => from(each) + least(each)),
    );
  for (const step of sequence) {
    const last = events.at(-1);
    const { means, since, most, unit } = step.timing ?? {};
    const limit = means === 'limit' || means === 'within' ? timingSeconds(most, unit) : null;
    // What must follow soon follows sooner.
    const pause = limit === null || since === undefined ? gap : Math.min(gap, limit / 2);
    const at = Math.max(last ? (last.end ?? last.at) + pause : 0, waited(step));
    const event: TraceEvent = {
      token: step.token,
      at,
      ...(limit !== null && since === undefined ? { end: at + Math.min(limit, gap) } : {}),
    };
    events.push(event);
    began.set(step.id, event);
  }
  const last = events.at(-1);
  const ended = Math.max(last ? (last.end ?? last.at) + gap : 0, waited(null));
  return { events, broken: [], conditions: [], ended };
}

/** A run that is right in every way, as the procedures are written. */
export function rightRun(pack: Pick<EffectivePack, 'procedures'>, procedures: readonly string[]): Trace {
  const session = sessionOf(pack, procedures);
  return keptTimes(session, allowedOrder(session));
}

/** What is wrong in a scripted run: the step it happens to, and what the judge is to speak of. */
export interface ScriptedWrong {
  kind: 'skipped' | 'order' | 'time' | 'rule' | 'wrong' | 'condition' | 'prompted';
  /** The step, or the rule, that the words must name. */
  names: string;
  trace: Trace;
}

/**
 * Five runs with one wrong each, of critical steps where there are any: a step left out, one out of order, one done
 * wrongly, a time not kept and a rule broken. Where no time is judged or no rule holds, a condition that did not hold
 * or a prompt instead.
 */
export function wrongRuns(
  pack: Pick<EffectivePack, 'procedures' | 'forbidden'>,
  procedures: readonly string[],
): ScriptedWrong[] {
  const session = sessionOf(pack, procedures);
  const sequence = allowedOrder(session);
  const right = keptTimes(session, sequence);
  const due = sequence.filter((each) => !each.optional);
  const critical = due.filter((each) => each.critical);
  const weighty = critical.length > 0 ? critical : due;
  const [first, middle] = [weighty[0]!, weighty[Math.floor(weighty.length / 2)]!];
  const others = (left: SessionStep) => sequence.filter((each) => each !== left);
  const changed = (change: Partial<TraceEvent>): Trace => ({
    ...right,
    events: right.events.map((each) => (each.token === first.token ? { ...each, ...change } : each)),
  });
  const late = due.find((each) => due.some((other) => session.order.before(each.id, other.id)));
  const timed = timeBroken(session, sequence, right);
  const [rule] = rulesOf(pack, procedures);
  const names = first.do;
  const runs: (ScriptedWrong | null)[] = [
    { kind: 'skipped', names: middle.do, trace: keptTimes(session, others(middle)) },
    late ? { kind: 'order', names: late.do, trace: keptTimes(session, [...others(late), late]) } : null,
    timed,
    rule ? { kind: 'rule', names: rule.rule, trace: { ...right, broken: [{ rule: rule.id, at: 1 }] } } : null,
    { kind: 'wrong', names, trace: changed({ mark: 'wrong' }) },
    { kind: 'condition', names, trace: changed({ failed: [first.holds[0] ?? 'nobody near'] }) },
    { kind: 'prompted', names, trace: changed({ mark: 'prompted' }) },
  ];
  return runs.filter((each) => each !== null).slice(0, 5);
}

/** The right run with one time not kept: a limit passed, or a wait cut short. */
function timeBroken(session: Session, sequence: readonly SessionStep[], right: Trace): ScriptedWrong | null {
  for (const [i, step] of sequence.entries()) {
    const most = timingSeconds(step.timing?.most, step.timing?.unit);
    const least = timingSeconds(step.timing?.least, step.timing?.unit);
    const { at, end } = right.events[i]!;
    if (end !== undefined && most !== null) {
      const longer = at + most + 11 - end;
      const events = right.events.map((each, e) => ({
        ...each,
        at: e > i ? each.at + longer : each.at,
        end: each.end !== undefined && e >= i ? each.end + longer : each.end,
      }));
      return { kind: 'time', names: step.do, trace: { ...right, events, ended: right.ended! + longer } };
    }
    if (step.timing?.means === 'dwell' && !step.timing.until && least !== null && least > sequence.length)
      return { kind: 'time', names: step.do, trace: keptTimes(session, sequence, { hurry: step }) };
  }
  return null;
}
