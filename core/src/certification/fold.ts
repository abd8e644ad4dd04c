import { addDays, addMonths, endOfMonth, type PlainDate } from '../calendar';
import { type RulesEntry, type RulesHistory, rulesOn } from './history';
import type { CertificationEvent, RuleSet, Trigger } from './rules';
import { TRIGGER_WORDS } from './words';

/** A passed evaluation. */
interface Pass {
  on: PlainDate;
  overridden: boolean;
}

/** What a person's events in a class come to on a date, before it is put into words. */
export interface CertificationFold {
  training: PlainDate | null;
  /** The first lesson attended. */
  lesson: PlainDate | null;
  theory: PlainDate | null;
  drill: PlainDate | null;
  /** A pass that does not certify yet, because the rules of its date ask for theory or drill. */
  waiting: Pass | null;
  certifiedOn: PlainDate | null;
  /** From when the certificate holds: later than `certifiedOn` where theory or drill came after the pass. */
  holdsFrom: PlainDate | null;
  /** The date its validity is counted from: its own, or the anniversary it kept. */
  countedFrom: PlainDate | null;
  takenOver: boolean;
  overridden: boolean;
  until: PlainDate | null;
  /** The end was stated when the certificate was taken over; no rule moves it. */
  untilStated: boolean;
  /**
   * Rules whose conditions go on for this certificate until it is renewed; null when those of the day hold.
   */
  pinned: RuleSet | null;
  /** Nearer due date set by a trigger. */
  cut: { until: PlainDate; why: string } | null;
  suspended: { on: PlainDate; why: string } | null;
  withdrawn: { on: PlainDate; why: string } | null;
  medical: PlainDate | null;
  hours: { on: PlainDate; hours: number }[];
  units: string[];
}

/**
 * Folds the events up to and on a date, in date order (events of one day in the order given), each under
 * the rules of its own date.
 */
export function foldCertification(
  events: readonly CertificationEvent[],
  history: RulesHistory,
  on: PlainDate,
): CertificationFold {
  const fold: CertificationFold = {
    training: null,
    lesson: null,
    theory: null,
    drill: null,
    waiting: null,
    certifiedOn: null,
    holdsFrom: null,
    countedFrom: null,
    takenOver: false,
    overridden: false,
    until: null,
    untilStated: false,
    pinned: null,
    cut: null,
    suspended: null,
    withdrawn: null,
    medical: null,
    hours: [],
    units: [],
  };
  let next = 1;
  const changesUpTo = (date: PlainDate) => {
    while (next < history.length && history[next]!.from <= date) {
      changeRules(fold, history[next - 1]!.rules, history[next]!);
      next += 1;
    }
  };
  for (const event of inOrder(events)) {
    if (event.on > on) break;
    changesUpTo(event.on);
    apply(fold, event, rulesOn(history, event.on));
  }
  changesUpTo(on);
  return fold;
}

function inOrder(events: readonly CertificationEvent[]): readonly CertificationEvent[] {
  const sorted = events.every((each, i) => i === 0 || events[i - 1]!.on <= each.on);
  return sorted ? events : [...events].sort((a, b) => (a.on < b.on ? -1 : Number(a.on > b.on)));
}

function changeRules(fold: CertificationFold, before: RuleSet, { from, rules, given }: RulesEntry): void {
  if (fold.until === null) return;
  if (given === 'at-renewal') {
    fold.pinned ??= before;
    return;
  }
  fold.pinned = null;
  if (given === 'keep' || fold.untilStated || fold.until < from) return;
  const anew = endOf(fold.countedFrom!, rules);
  // What the old rules allowed before this date stays allowed.
  fold.until = anew < from ? addDays(from, -1) : anew;
}

/** Last day of a certificate whose validity is counted from a date. */
export function endOf(countedFrom: PlainDate, rules: RuleSet): PlainDate {
  const until = addMonths(countedFrom, rules.validMonths);
  return rules.endOfMonth ? endOfMonth(until) : until;
}

function certify(fold: CertificationFold, pass: Pass, holdsFrom: PlainDate, rules: RuleSet): void {
  const { until } = fold;
  const interrupted = fold.cut !== null || fold.suspended !== null || fold.withdrawn !== null;
  const keeps =
    until !== null &&
    pass.on <= until &&
    addDays(pass.on, rules.keepAnniversaryDays) >= until &&
    !interrupted;
  fold.countedFrom = keeps ? until : pass.on;
  fold.until = endOf(fold.countedFrom, rules);
  fold.untilStated = false;
  fold.certifiedOn = pass.on;
  fold.holdsFrom = holdsFrom;
  fold.takenOver = false;
  fold.overridden = pass.overridden;
  fold.waiting = null;
  fold.pinned = null;
  fold.cut = null;
  fold.suspended = null;
  fold.withdrawn = null;
}

/** What the rules ask for beside the practical evaluation and is not on record. */
export function prerequisitesMissing(fold: CertificationFold, rules: RuleSet): string[] {
  return [
    ...(rules.requireLesson && fold.lesson === null ? ['a lesson attended'] : []),
    ...(rules.requireTheory && fold.theory === null ? ['theory passed'] : []),
    ...(rules.requireDrill && fold.drill === null ? ['drill standard met'] : []),
  ];
}

function pass(fold: CertificationFold, passed: Pass, on: PlainDate, rules: RuleSet): void {
  if (prerequisitesMissing(fold, rules).length === 0) certify(fold, passed, on, rules);
  else fold.waiting = passed;
}

function apply(fold: CertificationFold, { on, body }: CertificationEvent, rules: RuleSet): void {
  const raise = (kind: Trigger, words?: string) => {
    const effect = rules.triggers[kind];
    const why = TRIGGER_WORDS[kind] + (words ? ` (${words})` : '');
    if (fold.certifiedOn === null || effect === 'none') return;
    if (effect === 'suspend') fold.suspended ??= { on, why };
    else {
      const until = addDays(on, effect.dueInDays);
      if (until < (fold.cut?.until ?? fold.until!) && until < fold.until!) fold.cut = { until, why };
    }
  };
  switch (body.kind) {
    case 'training-started':
      fold.training ??= on;
      break;
    case 'taught':
      fold.training ??= on;
      fold.lesson ??= on;
      if (fold.waiting) pass(fold, fold.waiting, on, rules);
      break;
    case 'theory-passed':
      fold.theory = on;
      if (fold.waiting) pass(fold, fold.waiting, on, rules);
      break;
    case 'drill-met':
      fold.drill = on;
      if (fold.waiting) pass(fold, fold.waiting, on, rules);
      break;
    case 'evaluation-passed':
      pass(fold, { on, overridden: body.overridden ?? false }, on, rules);
      break;
    case 'certificate-recorded':
      certify(fold, { on, overridden: false }, on, rules);
      fold.takenOver = true;
      if (body.until) {
        fold.until = body.until;
        fold.untilStated = true;
      }
      break;
    case 'evaluation-failed':
      raise('poor-evaluation');
      fold.training ??= on;
      break;
    case 'familiarised':
      if (!fold.units.includes(body.unit)) fold.units.push(body.unit);
      break;
    case 'hours-logged':
      fold.hours.push({ on, hours: body.hours });
      break;
    case 'medical':
      fold.medical = on;
      break;
    case 'trigger':
      raise(body.trigger, body.words);
      break;
    case 'refresher-done':
      fold.cut = null;
      break;
    case 'suspended':
      fold.suspended = { on, why: body.words };
      break;
    case 'reinstated':
      fold.suspended = null;
      break;
    case 'withdrawn':
      fold.withdrawn = { on, why: body.words };
      fold.waiting = null;
      break;
    case 'endorsed':
      break;
  }
}
