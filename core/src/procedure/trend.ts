import { hesitationAbove, median, wilsonInterval } from '../statistics';
import type { Judgement, StepState } from './judge';
import { isCriticalFlaw } from './judge';
import type { Trace } from './trace';

/** What is kept of a step of a session, for trends. */
export interface StepResult {
  id: string;
  procedure: string;
  do: string;
  state: StepState;
  critical: boolean;
  /** It was due, and did not earn all that it weighs. */
  flawed: boolean;
  due: boolean;
  /** Seconds from the act before it to this one; null where it was not done, or is the first. */
  seconds: number | null;
}

/** The steps of a judged session in the form that trends are made from. */
export function stepResults({ steps }: Judgement, trace: Trace): StepResult[] {
  return steps.map((judged): StepResult => {
    const { step, state, event, due, credit } = judged;
    const [own, before] = [
      event === null ? null : trace.events[event]!,
      event ? trace.events[event - 1]! : null,
    ];
    const timed = own && before && !own.unsure;
    return {
      id: step.id,
      procedure: step.procedure,
      do: step.do,
      state,
      critical: step.critical,
      flawed: (due && credit < 1) || isCriticalFlaw(judged),
      due,
      seconds: timed ? Math.max(0, own.at - (before.end ?? before.at)) : null,
    };
  });
}

/** A step that did not come right in several sessions. */
export interface RecurringFlaw {
  id: string;
  do: string;
  critical: boolean;
  flawed: number;
  sessions: number;
}

/** Steps of one person's sessions that were flawed more than once, the most frequent and critical first. */
export function recurringFlaws(sessions: readonly (readonly StepResult[])[]): RecurringFlaw[] {
  const found = new Map<string, RecurringFlaw>();
  for (const steps of sessions)
    for (const each of steps) {
      if (!each.due) continue;
      const flaw = found.get(each.id) ?? {
        id: each.id,
        do: each.do,
        critical: each.critical,
        flawed: 0,
        sessions: 0,
      };
      found.set(each.id, { ...flaw, flawed: flaw.flawed + Number(each.flawed), sessions: flaw.sessions + 1 });
    }
  return [...found.values()]
    .filter((each) => each.flawed > 1)
    .sort((a, b) => b.flawed - a.flawed || Number(b.critical) - Number(a.critical));
}

/** Sessions of a step before there is a median of one's own to be slower than. */
const LEAST_TIMES = 4;
/** And by so much at least, in seconds. */
const LEAST_SECONDS = 1;

/**
 * Steps of a session before which a person hesitated: more than two robust deviations (1.4826 times the median
 * absolute deviation) above their own median in the sessions before, and by more than a second.
 *
 * Source: P. J. Huber, Robust Statistics (1981), for the scale of the median absolute deviation.
 */
export function hesitations(
  session: readonly StepResult[],
  earlier: readonly (readonly StepResult[])[],
): { id: string; do: string; seconds: number; usual: number }[] {
  return session.flatMap(({ id, do: what, seconds }) => {
    const own = earlier.flatMap((steps) => steps.find((each) => each.id === id)?.seconds ?? []);
    if (seconds === null || own.length < LEAST_TIMES) return [];
    const slow = hesitationAbove(own, LEAST_SECONDS)!;
    return seconds > slow ? [{ id, do: what, seconds, usual: median(own)! }] : [];
  });
}

/** How often the people of a class get a step wrong, with the Wilson 95 % interval of that share. */
export interface StepTrend {
  id: string;
  procedure: string;
  do: string;
  critical: boolean;
  sessions: number;
  flawed: number;
  skipped: number;
  low: number;
  high: number;
}

/** Steps of a class over many sessions, the most often flawed first. */
export function stepTrends(sessions: readonly (readonly StepResult[])[]): StepTrend[] {
  const found = new Map<string, Omit<StepTrend, 'low' | 'high'>>();
  for (const steps of sessions)
    for (const { id, procedure, do: what, critical, due, flawed, state } of steps) {
      if (!due) continue;
      const trend = found.get(id) ?? {
        id,
        procedure,
        do: what,
        critical,
        sessions: 0,
        flawed: 0,
        skipped: 0,
      };
      found.set(id, {
        ...trend,
        sessions: trend.sessions + 1,
        flawed: trend.flawed + Number(flawed),
        skipped: trend.skipped + Number(state === 'skipped'),
      });
    }
  return [...found.values()]
    .map((each) => {
      const { low, high } = wilsonInterval(each.flawed, each.sessions, 0.95);
      return { ...each, low: low!, high: high! };
    })
    .sort((a, b) => b.flawed / b.sessions - a.flawed / a.sessions || b.sessions - a.sessions);
}
