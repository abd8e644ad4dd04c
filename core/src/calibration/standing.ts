import { addMonths, longDate, type PlainDate } from '../calendar';

/** Whether an evaluator is calibrated, by what a rule set asks for. */
export interface EvaluatorStanding {
  state: 'not-asked' | 'never' | 'calibrated' | 'due';
  /** The day of the last calibration; null for none. */
  last: PlainDate | null;
  /** The first day on which it holds no longer; null where nothing is asked for or none was done. */
  until: PlainDate | null;
}

/**
 * Where an evaluator stands on a day who was last calibrated on `last`, if a rule set asks for it again after `months`
 * (null: it asks for none). A calibration of a later day than `on` is to be left out by the caller.
 */
export function evaluatorStanding(
  last: PlainDate | null,
  months: number | null,
  on: PlainDate,
): EvaluatorStanding {
  if (months === null) return { state: 'not-asked', last, until: null };
  if (last === null) return { state: 'never', last, until: null };
  const until = addMonths(last, months);
  return { state: on < until ? 'calibrated' : 'due', last, until };
}

/** The standing of an evaluator in a sentence. */
export function evaluatorStandingWords({ state, last, until }: EvaluatorStanding): string {
  switch (state) {
    case 'not-asked':
      return last ? `Calibrated on ${longDate(last)}.` : 'Not calibrated; the rules ask for none.';
    case 'never':
      return 'Not calibrated, which the rules ask for.';
    case 'calibrated':
      return `Calibrated on ${longDate(last!)}, good until ${longDate(until!)}.`;
    case 'due':
      return `Last calibrated on ${longDate(last!)}; the rules asked for it again by ${longDate(until!)}.`;
  }
}
