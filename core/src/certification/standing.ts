import { addDays, addMonths, daysBetween, longDate, type PlainDate } from '../calendar';
import { type CertificationFold, endOf, foldCertification, prerequisitesMissing } from './fold';
import { constantRules, type RulesHistory, rulesOn } from './history';
import type { CertificationEvent, RuleSet } from './rules';

export const STANDING_STATUSES = [
  'none',
  'in-training',
  'valid',
  'due',
  'in-grace',
  'lapsed',
  'suspended',
  'withdrawn',
] as const;
export type StandingStatus = (typeof STANDING_STATUSES)[number];

/** Standings from the one that needs somebody first to the one that needs nobody. */
export const GRAVEST_FIRST: readonly StandingStatus[] = [
  'suspended',
  'lapsed',
  'in-grace',
  'due',
  'withdrawn',
  'in-training',
  'valid',
  'none',
];
export type MayOperate = 'yes' | 'supervised' | 'no';

/** Where a person stands in a class on a date, and why. `until` is the last day the certificate holds. */
export interface Standing {
  status: StandingStatus;
  /** Date from which this status holds, null for none. */
  since: PlainDate | null;
  certifiedOn: PlainDate | null;
  until: PlainDate | null;
  /** Days left on the certificate on the date asked for; negative when past. */
  daysLeft: number | null;
  /** Full length of the certificate in days, for drawing what is left of it. */
  lengthDays: number | null;
  mayOperate: MayOperate;
  /** Whether the evaluation behind the certificate was decided against the computed outcome. */
  overridden: boolean;
  /** What bars the person beside the certificate itself: age, medical, hours. */
  bars: string[];
  /** One sentence that explains the status. */
  sentence: string;
  reasons: string[];
  next: string[];
  familiarisedWith: string[];
}

/** Rules through time, or one rule set for all of it. */
type Rules = RulesHistory | RuleSet;
const through = (rules: Rules): RulesHistory => ('validMonths' in rules ? constantRules(rules) : rules);

/**
 * The standing of a person in a class on a date: a pure fold over the dated events up to that date, each
 * under the rules in force on its own date. `born` is needed only where the rules set a minimum age; an
 * unknown birth date bars there.
 */
export function standing(
  events: readonly CertificationEvent[],
  rules: Rules,
  on: PlainDate,
  born: PlainDate | null = null,
): Standing {
  return standingUntilChange(events, rules, on, born).standing;
}

/**
 * The standing on a date, and the next date on which it must be asked for again: until the day before, only
 * `daysLeft` and the sentence of a due certificate change, which `standingAt` brings up to date. Null when
 * time alone changes nothing more.
 */
export function standingUntilChange(
  events: readonly CertificationEvent[],
  rules: Rules,
  on: PlainDate,
  born: PlainDate | null = null,
): { standing: Standing; nextChange: PlainDate | null } {
  const history = through(rules);
  const fold = foldCertification(events, history, on);
  const conditions = fold.pinned ?? rulesOn(history, on);
  let nextChange: PlainDate | null = null;
  const consider = (date: PlainDate) => {
    if (date > on && (nextChange === null || date < nextChange)) nextChange = date;
  };
  turningDates(fold, conditions, born).forEach(consider);
  for (const event of events) consider(event.on);
  for (const entry of history) consider(entry.from);
  return { standing: explain(fold, conditions, on, born), nextChange };
}

/**
 * What the rules in force ask for beside the practical evaluation and is not on record: an evaluation passed before
 * it is does not certify until then.
 */
export function missingBeforeEvaluation(
  events: readonly CertificationEvent[],
  rules: Rules,
  on: PlainDate,
): string[] {
  const history = through(rules);
  return prerequisitesMissing(foldCertification(events, history, on), rulesOn(history, on));
}

/** A standing brought from the date it was computed on to a later one before its next change. */
export function standingAt(held: Standing, on: PlainDate): Standing {
  if (held.until === null) return held;
  const sentence = held.status === 'due' ? withBars(dueSentence(held.until, on), held.bars) : held.sentence;
  return { ...held, daysLeft: daysBetween(on, held.until), sentence };
}

/** Every date on which time alone may change the standing that a fold gives. */
function turningDates(fold: CertificationFold, rules: RuleSet, born: PlainDate | null): PlainDate[] {
  const dates: PlainDate[] = [];
  const until = endOfCertificate(fold);
  if (until !== null)
    dates.push(addDays(until, -rules.leadDays), addDays(until, 1), addDays(until, rules.graceDays + 1));
  if (rules.minimumAge !== null && born !== null) dates.push(addMonths(born, 12 * rules.minimumAge));
  if (rules.medicalMonths !== null && fold.medical !== null)
    dates.push(addDays(addMonths(fold.medical, rules.medicalMonths), 1));
  if (rules.recency !== null)
    for (const from of [
      ...fold.hours.map((each) => each.on),
      ...(fold.certifiedOn ? [fold.certifiedOn] : []),
    ]) {
      // Clamped months make the window's edge pass a date up to three days late.
      const leaves = addMonths(from, rules.recency.months);
      for (const days of [0, 1, 2, 3]) dates.push(addDays(leaves, days));
    }
  return dates;
}

function endOfCertificate(fold: CertificationFold): PlainDate | null {
  return fold.cut && fold.until !== null && fold.cut.until < fold.until ? fold.cut.until : fold.until;
}

function dueSentence(until: PlainDate, on: PlainDate): string {
  const left = daysBetween(on, until);
  const days = left === 0 ? 'today is the last day' : left === 1 ? '1 day left' : `${left} days left`;
  return `Valid until ${longDate(until)}, re-evaluation due: ${days}.`;
}

function withBars(sentence: string, bars: readonly string[]): string {
  return bars.length === 0 ? sentence : `${sentence} May not operate: ${bars.join('; ').toLowerCase()}.`;
}

type Said = Pick<Standing, 'status' | 'since' | 'mayOperate' | 'sentence' | 'reasons' | 'next'>;

function explain(fold: CertificationFold, rules: RuleSet, on: PlainDate, born: PlainDate | null): Standing {
  const until = endOfCertificate(fold);
  const said = say(fold, rules, until, on);
  const bars = said.mayOperate === 'no' ? [] : hindrances(fold, rules, on, born);
  return {
    ...said,
    certifiedOn: fold.certifiedOn,
    until,
    daysLeft: until === null ? null : daysBetween(on, until),
    lengthDays:
      until === null || fold.certifiedOn === null
        ? null
        : Math.max(1, daysBetween(fold.certifiedOn, fold.until!)),
    overridden: fold.certifiedOn !== null && fold.overridden,
    familiarisedWith: fold.units,
    bars,
    mayOperate: bars.length > 0 ? 'no' : said.mayOperate,
    reasons: [...bars, ...said.reasons],
    sentence: withBars(said.sentence, bars),
  };
}

function say(fold: CertificationFold, rules: RuleSet, until: PlainDate | null, on: PlainDate): Said {
  if (fold.withdrawn)
    return {
      status: 'withdrawn',
      since: fold.withdrawn.on,
      mayOperate: 'no',
      sentence: `Withdrawn on ${longDate(fold.withdrawn.on)}: ${fold.withdrawn.why}.`,
      reasons: [fold.withdrawn.why],
      next: ['A new evaluation passed certifies again'],
    };
  if (fold.suspended)
    return {
      status: 'suspended',
      since: fold.suspended.on,
      mayOperate: 'no',
      sentence: `Suspended since ${longDate(fold.suspended.on)} after ${fold.suspended.why}.`,
      reasons: fold.certifiedOn ? [certifiedWords(fold)] : [],
      next: ['A new evaluation passed, or reinstatement with its reason'],
    };
  if (fold.certifiedOn === null || until === null) return uncertified(fold, rules);
  const cutReason = fold.cut
    ? [`Due date brought forward to ${longDate(fold.cut.until)} by ${fold.cut.why}`]
    : [];
  const waiting = fold.waiting
    ? [
        `Passed again on ${longDate(fold.waiting.on)}; still needed before that counts: ` +
          `${prerequisitesMissing(fold, rules).join(', ')}`,
      ]
    : [];
  const reasons = [certifiedWords(fold), ...cutReason, ...waiting];
  const graceEnd = addDays(until, rules.graceDays);
  if (on <= until) {
    const dueFrom = addDays(until, -rules.leadDays);
    const lapse = `Lapses after ${longDate(graceEnd)} unless evaluated again`;
    const holdsFrom = fold.holdsFrom ?? fold.certifiedOn;
    if (on < dueFrom)
      return {
        status: 'valid',
        since: holdsFrom,
        mayOperate: 'yes',
        sentence: `Valid until ${longDate(until)}.`,
        reasons,
        next: [`Re-evaluation due from ${longDate(dueFrom)}`, lapse],
      };
    const since = dueFrom < holdsFrom ? holdsFrom : dueFrom;
    return {
      status: 'due',
      since,
      mayOperate: 'yes',
      sentence: dueSentence(until, on),
      reasons,
      next: [lapse],
    };
  }
  if (on <= graceEnd)
    return {
      status: 'in-grace',
      since: addDays(until, 1),
      mayOperate: 'supervised',
      sentence:
        `Expired on ${longDate(until)}; in grace until ${longDate(graceEnd)}, under ` + 'supervision only.',
      reasons,
      next: [`Lapses after ${longDate(graceEnd)}`],
    };
  return {
    status: 'lapsed',
    since: addDays(graceEnd, 1),
    mayOperate: 'no',
    sentence: `Lapsed: the certificate ended on ${longDate(until)}.`,
    reasons,
    next: ['A new evaluation passed certifies again'],
  };
}

function uncertified(fold: CertificationFold, rules: RuleSet): Said {
  const begun = fold.training ?? fold.theory ?? fold.drill ?? fold.waiting?.on ?? null;
  if (begun === null)
    return {
      status: 'none',
      since: null,
      mayOperate: 'no',
      sentence: 'Has no training in this class on record.',
      reasons: ['No training on record'],
      next: ['Training started'],
    };
  const missing = prerequisitesMissing(fold, rules);
  if (fold.waiting)
    return {
      status: 'in-training',
      since: begun,
      mayOperate: 'supervised',
      sentence:
        `Passed the evaluation on ${longDate(fold.waiting.on)}; certified once this is on ` +
        `record: ${missing.join(', ')}.`,
      reasons: [
        `Evaluation passed on ${longDate(fold.waiting.on)}, but not certified without ` +
          `${missing.join(' and ')}`,
      ],
      next: missing.map((each) => `Still needed: ${each}`),
    };
  return {
    status: 'in-training',
    since: begun,
    mayOperate: 'supervised',
    sentence: `In training since ${longDate(begun)}; not yet evaluated.`,
    reasons: ['Not yet passed a practical evaluation'],
    next: [...missing, 'practical evaluation passed'].map((each) => `Still needed: ${each}`),
  };
}

function certifiedWords(fold: CertificationFold): string {
  const what = fold.takenOver ? 'Earlier certificate taken over, dated' : 'Passed the evaluation on';
  const against = fold.overridden ? ', decided by the trainer against the computed outcome' : '';
  return `${what} ${longDate(fold.certifiedOn!)}${against}`;
}

/** Bars that stand beside the certificate itself. They take away the right to operate and say so. */
function hindrances(
  fold: CertificationFold,
  rules: RuleSet,
  on: PlainDate,
  born: PlainDate | null,
): string[] {
  const bars: string[] = [];
  if (rules.minimumAge !== null) {
    if (born === null) bars.push(`Date of birth not known, and the minimum age is ${rules.minimumAge}`);
    else if (addMonths(born, 12 * rules.minimumAge) > on)
      bars.push(`Under the minimum age of ${rules.minimumAge}`);
  }
  if (rules.medicalMonths !== null) {
    if (fold.medical === null) bars.push('No medical on record');
    else if (addMonths(fold.medical, rules.medicalMonths) < on)
      bars.push(`Medical ran out on ${longDate(addMonths(fold.medical, rules.medicalMonths))}`);
  }
  if (rules.recency !== null && fold.certifiedOn !== null) {
    const from = addMonths(on, -rules.recency.months);
    const hours = fold.hours.reduce((sum, each) => (each.on > from ? sum + each.hours : sum), 0);
    if (fold.certifiedOn <= from && hours < rules.recency.hours)
      bars.push(`Only ${hours} of ${rules.recency.hours} hours in the last ${rules.recency.months} months`);
  }
  return bars;
}

/** Longest validity that a taken-over certificate may have, whatever its source says, in months. */
const LONGEST_TAKEN_OVER = 120;

/**
 * Why the stated end of a certificate that is taken over cannot be: it lies before the certificate, or beyond
 * the validity of the rules on its date without naming a source. Null when it can.
 */
export function takenOverProblem(
  on: PlainDate,
  body: { until?: string | undefined; words?: string | undefined },
  rules: RuleSet,
): string | null {
  if (body.until === undefined) return null;
  if (body.until < on) return `it would end on ${longDate(body.until)}, before its own date`;
  const longest = addMonths(on, LONGEST_TAKEN_OVER);
  if (body.until > longest) return `no certificate is taken over beyond ${longDate(longest)}`;
  const within = endOf(on, rules);
  if (body.until > within && (body.words ?? '').replace(/\s/g, '').length < 5)
    return (
      `it would run past ${longDate(within)}, which the rules give from its date; say ` +
      'where the longer end comes from'
    );
  return null;
}

/** A dated change of status if nothing happens. */
export interface ForecastChange {
  on: PlainDate;
  status: StandingStatus;
  sentence: string;
}

/**
 * What will change up to `to` if nothing happens: every date on which the status differs from the day
 * before.
 */
export function forecast(
  events: readonly CertificationEvent[],
  rules: Rules,
  from: PlainDate,
  to: PlainDate,
  born: PlainDate | null = null,
): ForecastChange[] {
  const changes: ForecastChange[] = [];
  let now = standingUntilChange(events, rules, from, born);
  while (now.nextChange !== null && now.nextChange <= to) {
    const on = now.nextChange;
    const then = standingUntilChange(events, rules, on, born);
    if (then.standing.status !== now.standing.status)
      changes.push({ on, status: then.standing.status, sentence: then.standing.sentence });
    now = then;
  }
  return changes;
}
