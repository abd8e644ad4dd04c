import { longDate } from '../calendar';
import type { CertificationEventBody, Trigger } from './rules';
import type { StandingStatus } from './standing';

/** Standings as they stand in a table or on a filter. */
export const STATUS_WORDS: Readonly<Record<StandingStatus, string>> = {
  none: 'None',
  'in-training': 'In training',
  valid: 'Valid',
  due: 'Due',
  'in-grace': 'In grace',
  lapsed: 'Lapsed',
  suspended: 'Suspended',
  withdrawn: 'Withdrawn',
};

/** Triggers as they head a row or a choice. */
export const TRIGGER_NAMES: Readonly<Record<Trigger, string>> = {
  incident: 'Incident',
  'near-miss': 'Near miss',
  'unsafe-act': 'Unsafe act seen',
  'poor-evaluation': 'Poor evaluation',
  'different-type': 'Different type of machine',
  'equipment-modified': 'Equipment modified',
  'workplace-changed': 'Workplace changed',
  'long-absence': 'Long absence',
};

/** Triggers as they stand in a sentence. */
export const TRIGGER_WORDS: Readonly<Record<Trigger, string>> = {
  incident: 'an incident',
  'near-miss': 'a near miss',
  'unsafe-act': 'an unsafe act seen',
  'poor-evaluation': 'a poor evaluation',
  'different-type': 'a different type of machine',
  'equipment-modified': 'modified equipment',
  'workplace-changed': 'a changed workplace',
  'long-absence': 'a long absence',
};

const COMPUTED_WORDS: Readonly<Record<string, string>> = {
  competent: 'competent',
  'not-yet': 'not yet competent',
  stopped: 'stopped',
};

function evaluationWords(
  result: string,
  body: { score?: number | undefined; overridden?: boolean | undefined; computed?: string | undefined },
): string {
  const score = body.score === undefined ? '' : `, ${body.score} %`;
  const computed = body.computed === undefined ? '' : ` "${COMPUTED_WORDS[body.computed] ?? body.computed}"`;
  const overridden = body.overridden ? ` (the trainer overrode the computed outcome${computed})` : '';
  return `${result}${score}${overridden}`;
}

/** A certification event in words. */
export function certificationEventWords(body: CertificationEventBody): string {
  switch (body.kind) {
    case 'training-started':
      return 'Training started';
    case 'taught':
      return `Taught${body.words ? `: ${body.words}` : ''}`;
    case 'theory-passed':
      return 'Theory passed';
    case 'drill-met':
      return 'Drill standard met';
    case 'evaluation-passed':
      return evaluationWords('Evaluation passed', body);
    case 'evaluation-failed':
      return evaluationWords('Evaluation not passed', body);
    case 'certificate-recorded':
      return (
        'Earlier certificate taken ' +
        `over${body.until ? ` to ${longDate(body.until)}` : ''}${body.words ? `: ${body.words}` : ''}`
      );
    case 'familiarised':
      return `Familiarised with ${body.unit}`;
    case 'endorsed':
      return `Endorsed: ${body.words}`;
    case 'hours-logged':
      return `${body.hours} hours logged`;
    case 'medical':
      return 'Medical passed';
    case 'trigger':
      return `Trigger raised: ${body.trigger.replace('-', ' ')}${body.words ? ` (${body.words})` : ''}`;
    case 'refresher-done':
      return 'Refresher done';
    case 'suspended':
      return `Suspended: ${body.words}`;
    case 'reinstated':
      return `Reinstated: ${body.words}`;
    case 'withdrawn':
      return `Withdrawn: ${body.words}`;
  }
}
