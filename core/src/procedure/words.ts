import type { JudgedStep, Judgement } from './judge';
import { isCriticalFlaw } from './judge';
import type { SessionStep } from './session';
import type { TimeVerdict } from './timing';
import type { Trace } from './trace';

/** One sentence of the judge, with the evidence that it rests on. */
export interface Sentence {
  says: string;
  kind:
    | 'rule'
    | 'order'
    | 'skipped'
    | 'wrong'
    | 'time'
    | 'condition'
    | 'prompted'
    | 'repeated'
    | 'extra'
    | 'note';
  /** It speaks of a critical step or of a broken rule. */
  critical: boolean;
  steps: string[];
  /** Indices of the acts it speaks of. */
  events: number[];
}

/** Whether a sentence tells of a critical flaw; a prompt at a critical step is none. */
export function tellsCriticalFlaw({ critical, kind }: Sentence): boolean {
  return critical && kind !== 'prompted' && kind !== 'note';
}

/** Seconds in words: "9.5 s", "41 s", "2 min 5 s", "1 h 20 min". */
export function spanWords(seconds: number): string {
  if (seconds < 10 && !Number.isInteger(seconds)) return `${Number(seconds.toFixed(1))} s`;
  const whole = Math.round(seconds);
  if (whole < 60) return `${whole} s`;
  const [hours, minutes, rest] = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60];
  if (hours > 0) return minutes === 0 ? `${hours} h` : `${hours} h ${minutes} min`;
  return rest === 0 ? `${minutes} min` : `${minutes} min ${rest} s`;
}

/** A moment of a trace, for instance "1:05". */
export function momentWords(seconds: number): string {
  const whole = Math.floor(seconds);
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

const quoted = (step: Pick<SessionStep, 'do'>) => `“${step.do}”`;
const list = (steps: readonly SessionStep[]) =>
  steps.length <= 2
    ? steps.map(quoted).join(' and ')
    : `${quoted(steps[0]!)} and ${steps.length - 1} other steps`;

/**
 * The judgement as a trainer would say it: broken rules and critical steps first, then what weighs most, then in the
 * order it happened. What is free in order is never blamed. The last sentence speaks of everything else.
 */
export function judgementWords(judgement: Judgement, trace: Trace): Sentence[] {
  const { steps, rules, repeated, extra, finished, session } = judgement;
  const sentences: (Sentence & { rank: number })[] = [];
  const say = (rank: number, sentence: Sentence) => sentences.push({ ...sentence, rank });
  for (const each of rules)
    say(0, {
      says: `Rule broken: ${each.rule}${each.seconds === null ? '' : ` (for ${spanWords(each.seconds)})`}.`,
      kind: 'rule',
      critical: true,
      steps: [],
      events: [],
    });
  const told = new Set<string>();
  for (const each of steps) {
    const rank = isCriticalFlaw(each) ? 1 : each.step.critical ? 3 : 4;
    for (const sentence of stepSentences(each, trace, told, session.condition))
      say(sentence.kind === 'note' ? 7 : rank, sentence);
  }
  const conditions = trace.conditions.filter((each) => each.lifts.length > 0);
  for (const { says, lifts } of conditions) {
    const lifted = steps.filter((each) => lifts.includes(each.step.id)).map((each) => each.step);
    if (lifted.length > 0)
      say(7, {
        says: `Condition of the day: ${says}. No time was asked of ${list(lifted)}.`,
        kind: 'note',
        critical: false,
        steps: lifted.map((each) => each.id),
        events: [],
      });
  }
  for (const e of repeated) {
    const step = session.steps.find((each) => each.token === trace.events[e]!.token)!;
    say(5, {
      says: `${quoted(step)} was done again at ${momentWords(trace.events[e]!.at)}.`,
      kind: 'repeated',
      critical: false,
      steps: [step.id],
      events: [e],
    });
  }
  if (extra.length > 0)
    say(6, {
      says:
        `${extra.length === 1 ? 'One act that is no step' : `${extra.length} acts that are no step`} of this, at ` +
        `${extra.map((e) => momentWords(trace.events[e]!.at)).join(', ')}.`,
      kind: 'extra',
      critical: false,
      steps: [],
      events: extra,
    });
  const inOrder = [...sentences].sort((a, b) => a.rank - b.rank).map(({ rank: _, ...each }) => each);
  return [...inOrder, closing(inOrder, finished)];
}

function closing(sentences: readonly Sentence[], finished: boolean): Sentence {
  const faults = sentences.filter((each) => each.kind !== 'note');
  const so = finished ? '' : ' so far';
  return {
    says: faults.length === 0 ? `Everything in order${so}.` : `Everything else in order${so}.`,
    kind: 'note',
    critical: false,
    steps: [],
    events: [],
  };
}

/** What is to say of one step; an inversion is told once, at whichever of its steps comes first. */
function stepSentences(
  judged: JudgedStep,
  trace: Trace,
  told: Set<string>,
  condition: (id: string) => string,
): Sentence[] {
  const { step, state, event, times, failed, lateFor, earlyFor, due } = judged;
  const critical = step.critical;
  const found: Sentence[] = [];
  const say = (kind: Sentence['kind'], says: string, others: readonly SessionStep[] = []) =>
    found.push({
      says,
      kind,
      critical,
      steps: [step.id, ...others.map((each) => each.id)],
      events: event === null ? [] : [event],
    });
  switch (state) {
    case 'skipped':
      if (due)
        say('skipped', `Left out: ${quoted(step)}.${critical && step.why ? ` ${sentenceOf(step.why)}` : ''}`);
      break;
    case 'out-of-order':
      orderSentences();
      break;
    case 'wrong':
      say('wrong', `${quoted(step)} was done wrongly.`);
      break;
    case 'prompted':
      say('prompted', `${quoted(step)} only after a prompt.`);
      break;
    default:
  }
  if (failed.length > 0)
    say('condition', `At ${quoted(step)} this did not hold: ${failed.map(condition).join('; ')}.`);
  for (const each of times) {
    const says = timeSentence(each, trace);
    if (says) say(each.verdict === 'broken' ? 'time' : 'note', says);
  }
  return found;

  function orderSentences(): void {
    const key = (a: SessionStep, b: SessionStep) => `${a.id} ${b.id}`;
    if (lateFor.length > 0 && !lateFor.every((each) => told.has(key(each, step)))) {
      lateFor.forEach((each) => told.add(key(each, step)));
      say('order', `You did ${list(lateFor)} before ${quoted(step)}.`, lateFor);
    }
    if (earlyFor.length > 0 && !earlyFor.every((each) => told.has(key(step, each)))) {
      earlyFor.forEach((each) => told.add(key(step, each)));
      say('order', `You did ${quoted(step)} before ${list(earlyFor)}.`, earlyFor);
    }
    if (lateFor.length === 0 && earlyFor.length === 0) say('order', `${quoted(step)} was done out of order.`);
  }
}

const sentenceOf = (words: string) => (/[.!?]$/.test(words) ? words : `${words}.`);

/** What is to say of a time rule; null where it was kept or where nothing is known that needs saying. */
function timeSentence(
  { step, rule, verdict, measured, bound, by, cutBy, event }: TimeVerdict,
  trace: Trace,
): string | null {
  if (verdict === 'kept') return null;
  if (verdict === 'lifted') return null;
  const what = quoted(step);
  if (verdict === 'unknown') {
    if (trace.ended === null || rule === 'tries') return null;
    return `Not judged: the time of ${what}, since ${trace.events[event]!.unsure ? 'its clock was changed' : 'no moment was stamped that tells it'}.`;
  }
  if (rule === 'tries') return `${what} was tried ${measured} times; ${bound} at most.`;
  const [seconds, limit, off] = [spanWords(measured!), spanWords(bound), spanWords(by!)];
  if (rule === 'rest') return `Only ${seconds} of rest at ${what}; at least ${limit}.`;
  if (rule === 'dwell')
    return cutBy
      ? `${quoted(cutBy)} came ${off} before ${what} was over (${seconds} of ${limit}).`
      : `${what} lasted ${seconds}; at least ${limit}, so ${off} too short.`;
  return rule === 'limit'
    ? `${what} took ${seconds}; the limit is ${limit}, so ${off} too long.`
    : `${what} came after ${seconds}; within ${limit}, so ${off} too late.`;
}
