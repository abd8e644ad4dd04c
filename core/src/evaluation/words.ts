import type { EffectivePack } from '../catalogue/compose';
import { faultName, type Outcome } from './appraise';
import type { EvaluationEventBody, Recording } from './events';
import type { EvaluationPart, Phase } from './phase';

/** Outcomes as they head a report, a screen and a list. */
export const OUTCOME_WORDS: Readonly<Record<Outcome, string>> = {
  competent: 'Competent',
  'not-yet': 'Not yet competent',
  stopped: 'Stopped: critical error',
  incomplete: 'Not complete',
  blocked: 'No outcome: planted faults still in',
};

export const PHASE_WORDS: Readonly<Record<Phase, string>> = {
  prepared: 'Prepared, round not started',
  running: 'Round under way',
  retrieving: 'Planted faults to take out',
  reviewing: 'To review and decide',
  signing: 'To be signed',
  closed: 'Closed',
};

export const PART_NAMES: Readonly<Record<EvaluationPart, string>> = {
  round: 'Round',
  retrieve: 'Take out',
  start: 'Start',
  sheet: 'Work',
  stop: 'Stop',
  review: 'Review',
  sign: 'Decide and sign',
};

/** How a round was recorded, as the report says it. */
export const RECORDING_WORDS: Readonly<Record<Recording, string>> = {
  'each-check': 'Recorded check by check',
  'by-exception':
    'Recorded by exception: a station’s checks are presumed done, by the method the sheet names, once it is left',
};

/** The name of a fault of a class by its id; the id itself when the class has none of it. */
export function faultNameIn(pack: EffectivePack, id: string): string {
  const found = pack.faults.find((each) => each.id === id);
  return found ? faultName(found) : id;
}

/** What an event did, short enough for the button that takes it back. */
export function eventWords(body: EvaluationEventBody, pack: EffectivePack): string {
  const station = (id: string) => pack.plan.stations.find((each) => each.id === id)?.name ?? id;
  switch (body.kind) {
    case 'checked':
      return `${body.checkpoint} ${body.result}`;
    case 'arrived':
      return `arrived at ${station(body.station)}`;
    case 'station-done':
      return `all done at ${station(body.station)}`;
    case 'reported':
      return `fault at ${body.checkpoint}`;
    case 'planted':
      return `planted ${faultNameIn(pack, body.fault)}`;
    case 'retrieved':
      return `taken out ${faultNameIn(pack, body.fault)}`;
    case 'act':
      return actName(body.token, pack);
    case 'rule-broken':
      return 'rule broken';
    case 'sequence-ended':
      return 'the end';
    default:
      return body.kind.replaceAll('-', ' ');
  }
}

/** What a token stands for in a class: the words of its step, else that it is no step. */
export function actName(token: string, pack: EffectivePack): string {
  const step = pack.procedures
    .flatMap((each) => each.steps)
    .find((each) => (each.token ?? each.id) === token);
  return step?.do ?? 'Something else';
}
