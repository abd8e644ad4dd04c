import type { EffectivePack } from '../catalogue';
import { explain, type Explanation } from './explain';
import { session as sessionOf, type Session, type SessionStep, STEP_WEIGHTS } from './session';
import { eventOf, judgeTimes, type TimeVerdict } from './timing';
import type { Trace } from './trace';

/** How a step came out. `to-come` while the session goes on and nothing that waits for it was done. */
export const STEP_STATES = [
  'done',
  'prompted',
  'wrong',
  'out-of-order',
  'skipped',
  'to-come',
  'not-needed',
] as const;
export type StepState = (typeof STEP_STATES)[number];

export interface JudgedStep {
  step: SessionStep;
  state: StepState;
  /** The act that it is, also one out of order. */
  event: number | null;
  /** Whether it counts in the score. */
  due: boolean;
  /** 0 to 1 of its weight. */
  credit: number;
  times: TimeVerdict[];
  /** Conditions that did not hold. */
  failed: readonly string[];
  /** Steps that were done before this one, which they wait for. */
  lateFor: SessionStep[];
  /** Steps that it waits for and that were done only after it. */
  earlyFor: SessionStep[];
}

/** A forbidden rule that was broken. */
export interface JudgedRule {
  id: string;
  rule: string;
  at: number;
  seconds: number | null;
}

/** What the judge says of a trace. */
export interface Judgement {
  session: Session;
  explanation: Explanation;
  steps: JudgedStep[];
  rules: JudgedRule[];
  /** Acts that are a step done again, and acts that are none. Indices of events. */
  repeated: number[];
  extra: number[];
  /** Fewest acts that need moving to put what was done into an allowed order. */
  moves: number;
  /** Pairs of steps that must come one way and were done the other way round. */
  invertedPairs: number;
  /** Weighted share of the due steps that were done right, less broken rules, 0 to 100; null where nothing is due. */
  score: number | null;
  /** Critical steps that did not come out right, and broken rules. */
  critical: number;
  finished: boolean;
}

interface JudgeOptions {
  /** What a step earns that was done only after a prompt, 0 to 1. */
  promptCredit?: number;
}

/** What a step earns whose time rule was broken or a condition of which did not hold; nothing if it is critical. */
const HALF = 0.5;

/**
 * Judges a trace of one or several procedures against the steps of a class as it is fitted out: which act is which
 * step, what was left out, out of order, repeated or extra, which times and conditions were not kept, and the
 * weighted score. Pure: the same trace gives the same judgement on tablet and server. Throws RangeError for a
 * procedure that the class does not have.
 */
export function judge(
  pack: Pick<EffectivePack, 'procedures' | 'forbidden' | 'sheet'> &
    Partial<Pick<EffectivePack, 'conditions'>>,
  procedures: readonly string[],
  trace: Trace,
  { promptCredit = pack.sheet.promptCredit }: JudgeOptions = {},
): Judgement {
  const session = sessionOf(pack, procedures);
  const lastCounts = new Set(session.steps.filter((each) => each.timing?.tries).map((each) => each.id));
  const explanation = explain(
    session.order,
    trace.events.map((each) => each.token),
    { lastCounts },
  );
  const seen = { session, trace, explanation };
  const times = judgeTimes(seen);
  const finished = trace.ended !== null;
  const steps = session.steps.map((step, s): JudgedStep => {
    const event = eventOf(step, seen);
    const act = event === null ? null : trace.events[event]!;
    const own = times.filter((each) => each.step === step);
    const failed = act?.failed ?? [];
    const { lateFor, earlyFor } = conflicts(s, event, session, explanation);
    const due = explanation.due[s]!;
    const state = stateOf();
    return { step, state, event, due, credit: creditOf(), times: own, failed, lateFor, earlyFor };

    function stateOf(): StepState {
      if (act === null) {
        if (!due) return 'not-needed';
        return finished || passedBy(s, session, explanation) ? 'skipped' : 'to-come';
      }
      if (explanation.eventOf[s] === null) return 'out-of-order';
      return act.mark ?? 'done';
    }
    function creditOf(): number {
      if (state !== 'done' && state !== 'prompted') return 0;
      const flawed = failed.length > 0 || own.some((each) => each.verdict === 'broken');
      if (flawed && step.critical) return 0;
      return Math.min(state === 'prompted' ? promptCredit : 1, flawed ? HALF : 1);
    }
  });
  const rules = trace.broken.flatMap(({ rule, at, until }): JudgedRule[] => {
    const known = pack.forbidden.find((each) => each.id === rule);
    return known
      ? [{ id: rule, rule: known.rule, at, seconds: until === undefined ? null : until - at }]
      : [];
  });
  const moved = new Set(steps.flatMap(({ state, event }) => (state === 'out-of-order' ? [event] : [])));
  const again = trace.events.flatMap((_, e) => (explanation.stepOf[e] === null && !moved.has(e) ? [e] : []));
  const isStep = (e: number) => session.steps.find((each) => each.token === trace.events[e]!.token);
  return {
    session,
    explanation,
    steps,
    rules,
    // The tries of a step are no repeats.
    repeated: again.filter((e) => isStep(e) && !isStep(e)!.timing?.tries),
    extra: again.filter((e) => !isStep(e)),
    moves: moved.size,
    invertedPairs: invertedPairs(steps, explanation),
    score: percentOf(earnedShare(steps, rules)),
    critical: steps.filter(isCriticalFlaw).length + rules.length,
    finished,
  };
}

const percentOf = (share: number | null) => (share === null ? null : 100 * share);

/** Weighted share of the due steps that was earned, less broken rules, 0 to 1; null where no step is due. */
export function earnedShare(
  steps: readonly Pick<JudgedStep, 'due' | 'step' | 'credit'>[],
  rules: readonly unknown[],
): number | null {
  const due = steps.filter((each) => each.due);
  const whole = due.reduce((sum, { step }) => sum + step.weight, 0);
  const earned = due.reduce((sum, { step, credit }) => sum + step.weight * credit, 0);
  return whole === 0 ? null : Math.max(0, (earned - rules.length * STEP_WEIGHTS.critical) / whole);
}

/** Whether a critical step was not done as it must be. A prompt is not a flaw of this kind. */
export function isCriticalFlaw({ step, state, due, times, failed }: JudgedStep): boolean {
  if (!step.critical || state === 'to-come' || state === 'not-needed') return false;
  if (state === 'skipped' || state === 'out-of-order' || state === 'wrong') return due || state !== 'skipped';
  return failed.length > 0 || times.some((each) => each.verdict === 'broken');
}

/** Whether something that waits for a step was done, so that its own time is past. */
function passedBy(s: number, { steps }: Session, { eventOf: matched, kept }: Explanation): boolean {
  return steps.some((_, t) => matched[t] !== null && kept.has(s, t));
}

/** Done steps on the wrong side of a step. */
function conflicts(
  s: number,
  event: number | null,
  { steps }: Session,
  { eventOf: matched, kept }: Explanation,
): Pick<JudgedStep, 'lateFor' | 'earlyFor'> {
  if (event === null || matched[s] !== null) return { lateFor: [], earlyFor: [] };
  const done = steps.map((_, t) => matched[t]!);
  return {
    lateFor: steps.filter((_, t) => done[t] !== null && kept.has(s, t) && done[t]! < event),
    earlyFor: steps.filter((_, t) => done[t] !== null && kept.has(t, s) && done[t]! > event),
  };
}

function invertedPairs(steps: readonly JudgedStep[], { kept }: Explanation): number {
  let pairs = 0;
  steps.forEach((a, s) =>
    steps.forEach((b, t) => {
      if (a.event !== null && b.event !== null && kept.has(s, t) && a.event > b.event) pairs++;
    }),
  );
  return pairs;
}

/**
 * Steps that may come next, the likeliest first: those that nothing still to come must precede, in their written
 * order; then the others that are to come. With no act yet, where the procedure begins.
 */
export function likelyNext({ session, explanation, steps }: Judgement): SessionStep[] {
  const open = steps.flatMap(({ state, event, due, step }, s) =>
    event === null && (state === 'to-come' || (!due && state === 'not-needed')) ? [{ s, step }] : [],
  );
  const dueOpen = open.filter(({ s }) => steps[s]!.due);
  const waits = ({ s }: { s: number }) => dueOpen.filter((other) => explanation.kept.has(other.s, s)).length;
  const last = Math.max(-1, ...steps.map(({ event }, s) => (event === null ? -1 : s)));
  // What is written after the last thing done comes before what was passed over.
  const passed = ({ s }: { s: number }) => (s < last ? 1 : 0);
  return open
    .map((each) => ({ ...each, waits: waits(each), passed: passed(each) }))
    .sort((a, b) => a.waits - b.waits || a.passed - b.passed || a.s - b.s)
    .map((each) => session.steps[each.s]!);
}
