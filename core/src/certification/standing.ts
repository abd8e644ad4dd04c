import { addDays, addMonths, daysBetween, endOfMonth, type PlainDate } from '../calendar';
import type { CertificationEvent, RuleSet, Trigger } from './rules';

export type StandingStatus = 'none' | 'in-training' | 'valid' | 'due' | 'in-grace' | 'lapsed' | 'suspended' | 'withdrawn';
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
  /** One sentence that explains the status. */
  sentence: string;
  reasons: string[];
  next: string[];
  familiarisedWith: string[];
}

const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];

/** A date as people read it: 5 March 2026. */
export function longDate(date: PlainDate): string {
  return `${Number(date.slice(8, 10))} ${MONTHS[Number(date.slice(5, 7)) - 1]} ${date.slice(0, 4)}`;
}

const TRIGGER_WORDS: Readonly<Record<Trigger, string>> = {
  incident: 'an incident',
  'near-miss': 'a near miss',
  'unsafe-act': 'an unsafe act seen',
  'poor-evaluation': 'a poor evaluation',
  'different-type': 'a different type of machine',
  'equipment-modified': 'modified equipment',
  'workplace-changed': 'a changed workplace',
  'long-absence': 'a long absence',
};

interface Fold {
  training: PlainDate | null;
  theory: PlainDate | null;
  drill: PlainDate | null;
  certifiedOn: PlainDate | null;
  /** Whether the certificate in force was taken over from elsewhere. */
  takenOver: boolean;
  until: PlainDate | null;
  /** Nearer due date set by a trigger. */
  cut: { until: PlainDate; why: string } | null;
  suspended: { on: PlainDate; why: string } | null;
  withdrawn: { on: PlainDate; why: string } | null;
  medical: PlainDate | null;
  hours: { on: PlainDate; hours: number }[];
  units: string[];
}

/**
 * The standing of a person in a class on a date: a pure fold over the dated events up to that date, in date order (events of one day in the order given),
 * under one rule set. `born` is needed only where the rules set a minimum age.
 */
export function standing(events: readonly CertificationEvent[], rules: RuleSet, on: PlainDate, born: PlainDate | null = null): Standing {
  const fold: Fold = {
    training: null,
    theory: null,
    drill: null,
    certifiedOn: null,
    takenOver: false,
    until: null,
    cut: null,
    suspended: null,
    withdrawn: null,
    medical: null,
    hours: [],
    units: [],
  };
  for (const event of ordered(events)) {
    if (event.on > on) break;
    apply(fold, event, rules);
  }
  return explain(fold, rules, on, born);
}

function ordered(events: readonly CertificationEvent[]): readonly CertificationEvent[] {
  for (let i = 1; i < events.length; i++) if (events[i]!.on < events[i - 1]!.on) return [...events].sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0));
  return events;
}

function certify(fold: Fold, on: PlainDate, rules: RuleSet): void {
  const current = fold.until;
  const keeps = current !== null && on <= current && addDays(on, rules.keepAnniversaryDays) >= current && fold.cut === null && fold.suspended === null;
  fold.until = addMonths(keeps ? current : on, rules.validMonths);
  if (rules.endOfMonth) fold.until = endOfMonth(fold.until);
  fold.certifiedOn = on;
  fold.takenOver = false;
  fold.cut = null;
  fold.suspended = null;
  fold.withdrawn = null;
}

function apply(fold: Fold, { on, body }: CertificationEvent, rules: RuleSet): void {
  const trigger = (kind: Trigger, words?: string) => {
    const effect = rules.triggers[kind];
    const why = TRIGGER_WORDS[kind] + (words ? ` (${words})` : '');
    if (effect === 'suspend') {
      if (fold.certifiedOn) fold.suspended ??= { on, why };
    } else if (effect !== 'none' && fold.certifiedOn) {
      const until = addDays(on, effect.dueInDays);
      if (until < (fold.cut?.until ?? fold.until ?? until) || fold.cut === null) if (until < (fold.until ?? '9999')) fold.cut = { until, why };
    }
  };
  switch (body.kind) {
    case 'training-started':
      fold.training ??= on;
      break;
    case 'theory-passed':
      fold.theory = on;
      break;
    case 'drill-met':
      fold.drill = on;
      break;
    case 'evaluation-passed':
      certify(fold, on, rules);
      break;
    case 'certificate-recorded':
      certify(fold, on, rules);
      fold.takenOver = true;
      if (body.until) fold.until = body.until;
      break;
    case 'evaluation-failed':
      trigger('poor-evaluation');
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
      trigger(body.trigger, body.words);
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
      break;
    case 'endorsed':
      break;
  }
}

function explain(fold: Fold, rules: RuleSet, on: PlainDate, born: PlainDate | null): Standing {
  const until = fold.cut && fold.until !== null && fold.cut.until < fold.until ? fold.cut.until : fold.until;
  const base = {
    certifiedOn: fold.certifiedOn,
    until,
    daysLeft: until === null ? null : daysBetween(on, until),
    lengthDays: until === null || fold.certifiedOn === null ? null : Math.max(1, daysBetween(fold.certifiedOn, fold.until!)),
    familiarisedWith: fold.units,
  };
  const make = (status: StandingStatus, since: PlainDate | null, mayOperate: MayOperate, sentence: string, reasons: string[], next: string[]): Standing => {
    const held = { status, since, mayOperate, sentence, reasons, next, ...base };
    return hindrances(held, fold, rules, on, born);
  };
  const cutReason = fold.cut ? [`Due date brought forward to ${longDate(fold.cut.until)} by ${fold.cut.why}`] : [];
  if (fold.withdrawn)
    return make(
      'withdrawn',
      fold.withdrawn.on,
      'no',
      `Withdrawn on ${longDate(fold.withdrawn.on)}: ${fold.withdrawn.why}.`,
      [fold.withdrawn.why],
      ['A new evaluation passed certifies again'],
    );
  if (fold.suspended)
    return make(
      'suspended',
      fold.suspended.on,
      'no',
      `Suspended since ${longDate(fold.suspended.on)} after ${fold.suspended.why}.`,
      fold.certifiedOn ? [certifiedWords(fold)] : [],
      ['A new evaluation passed, or reinstatement with its reason'],
    );
  if (fold.certifiedOn === null || until === null) {
    const begun = fold.training ?? fold.theory ?? fold.drill;
    if (begun === null) return make('none', null, 'no', 'Has no training in this class on record.', ['No training on record'], ['Training started']);
    const missing = [
      ...(rules.requireTheory && !fold.theory ? ['theory passed'] : []),
      ...(rules.requireDrill && !fold.drill ? ['drill standard met'] : []),
      'practical evaluation passed',
    ];
    return make(
      'in-training',
      begun,
      'supervised',
      `In training since ${longDate(begun)}; not yet evaluated.`,
      ['Not yet passed a practical evaluation'],
      missing.map((each) => `Still needed: ${each}`),
    );
  }
  const certified = certifiedWords(fold);
  if (on <= until) {
    const dueFrom = addDays(until, -rules.leadDays);
    const left = daysBetween(on, until);
    const days = left === 0 ? 'today is the last day' : left === 1 ? '1 day left' : `${left} days left`;
    const lapse = `Lapses after ${longDate(addDays(until, rules.graceDays))} unless evaluated again`;
    if (on >= dueFrom)
      return make(
        'due',
        dueFrom < fold.certifiedOn ? fold.certifiedOn : dueFrom,
        'yes',
        `Valid until ${longDate(until)}, re-evaluation due: ${days}.`,
        [certified, ...cutReason],
        [lapse],
      );
    return make('valid', fold.certifiedOn, 'yes', `Valid until ${longDate(until)}.`, [certified, ...cutReason], [`Re-evaluation due from ${longDate(dueFrom)}`, lapse]);
  }
  const graceEnd = addDays(until, rules.graceDays);
  if (on <= graceEnd)
    return make(
      'in-grace',
      addDays(until, 1),
      'supervised',
      `Expired on ${longDate(until)}; in grace until ${longDate(graceEnd)}, under supervision only.`,
      [certified, ...cutReason],
      [`Lapses after ${longDate(graceEnd)}`],
    );
  return make(
    'lapsed',
    addDays(graceEnd, 1),
    'no',
    `Lapsed: the certificate ended on ${longDate(until)}.`,
    [certified, ...cutReason],
    ['A new evaluation passed certifies again'],
  );
}

function certifiedWords(fold: Fold): string {
  return `${fold.takenOver ? 'Earlier certificate taken over, dated' : 'Passed the evaluation on'} ${longDate(fold.certifiedOn!)}`;
}

/** Bars that stand beside the certificate itself: age, medical, recency. They take away the right to operate and say so. */
function hindrances(held: Standing, fold: Fold, rules: RuleSet, on: PlainDate, born: PlainDate | null): Standing {
  if (held.mayOperate === 'no') return held;
  const bars: string[] = [];
  if (rules.minimumAge !== null && born !== null && addMonths(born, 12 * rules.minimumAge) > on) bars.push(`Under the minimum age of ${rules.minimumAge}`);
  if (rules.medicalMonths !== null) {
    if (fold.medical === null) bars.push('No medical on record');
    else if (addMonths(fold.medical, rules.medicalMonths) < on) bars.push(`Medical ran out on ${longDate(addMonths(fold.medical, rules.medicalMonths))}`);
  }
  if (rules.recency !== null && fold.certifiedOn !== null) {
    const from = addMonths(on, -rules.recency.months);
    const hours = fold.hours.reduce((sum, each) => (each.on > from ? sum + each.hours : sum), 0);
    if (fold.certifiedOn <= from && hours < rules.recency.hours) bars.push(`Only ${hours} of ${rules.recency.hours} hours in the last ${rules.recency.months} months`);
  }
  if (bars.length === 0) return held;
  return { ...held, mayOperate: 'no', reasons: [...bars, ...held.reasons], sentence: `${held.sentence} May not operate: ${bars.join('; ').toLowerCase()}.` };
}

/** A dated change of status if nothing happens. */
export interface ForecastChange {
  on: PlainDate;
  status: StandingStatus;
  sentence: string;
}

/** What will change up to `to` if nothing happens: every date on which the status differs from the day before. */
export function forecast(events: readonly CertificationEvent[], rules: RuleSet, from: PlainDate, to: PlainDate, born: PlainDate | null = null): ForecastChange[] {
  const now = standing(events, rules, from, born);
  const dates = new Set<PlainDate>(events.map((each) => each.on));
  if (now.until) for (const shift of [-rules.leadDays, 1, rules.graceDays + 1]) dates.add(addDays(now.until, shift));
  const changes: ForecastChange[] = [];
  let status = now.status;
  for (const on of [...dates].filter((each) => each > from && each <= to).sort()) {
    const then = standing(events, rules, on, born);
    if (then.status !== status) {
      changes.push({ on, status: then.status, sentence: then.sentence });
      status = then.status;
    }
  }
  return changes;
}
