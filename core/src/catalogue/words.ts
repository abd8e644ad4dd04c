import type { Origin, Pack, Quantity, Timing, Until } from './schema';
import type { Part } from './sections';
import {
  COMMON_CONDITIONS,
  type Method,
  type Moment,
  type PlantMeans,
  type System,
  type TimingMeans,
  type UntilBound,
} from './vocabulary';

/** Systems of a machine and of the work, as a heading has them. */
export const SYSTEM_WORDS: Readonly<Record<System, string>> = {
  access: 'Access',
  'air-intake': 'Air intake',
  attachment: 'Attachment',
  brakes: 'Brakes',
  cooling: 'Cooling',
  documents: 'Documents',
  electrical: 'Electrical',
  engine: 'Engine',
  fuel: 'Fuel',
  'hoist-rope-chain': 'Hoist, rope and chain',
  housekeeping: 'Housekeeping',
  hydraulics: 'Hydraulics',
  lubrication: 'Lubrication',
  'operator-station': "Operator's station",
  'safety-device': 'Safety device',
  site: 'Site',
  steering: 'Steering',
  structure: 'Structure',
  transmission: 'Transmission',
  'tyres-wheels': 'Tyres and wheels',
  undercarriage: 'Undercarriage',
  visibility: 'Visibility',
};

/** Families of machine classes. */
export const FAMILY_WORDS: Readonly<Record<string, string>> = {
  lifting: 'Lifting',
  earthmoving: 'Earthmoving',
  access: 'Access',
  workshop: 'Workshop',
  'road-and-winter': 'Road and winter',
  grounds: 'Grounds',
  power: 'Power',
  hauling: 'Hauling',
  towing: 'Towing',
};

/** Names of the parts of a class page. */
export const PART_WORDS: Readonly<Record<Part, string>> = {
  round: 'Round',
  faults: 'Faults',
  'start-stop': 'Start and stop',
  procedures: 'Other procedures',
  numbers: 'Numbers',
  sheet: 'Score sheet',
  schools: 'Schools',
  cautions: 'Cautions',
  teaching: 'Teaching',
};

/** Where a fact comes from, in words. */
export function originWords(origin: Origin): string {
  return [
    { published: 'Published', practice: 'Common practice', memory: 'From memory' }[origin.kind],
    origin.cite,
    origin.note,
  ]
    .filter(Boolean)
    .join(', ');
}

/** A number as it is said, with its unit. */
export function valueWords(number: Quantity): string {
  const value =
    number.says ?? (number.range ? `${number.range[0]} to ${number.range[1]}` : String(number.value));
  return number.unit === '-' ? value : `${value} ${number.unit}`;
}

/** How far a mend may go on, in a few words. */
export const BOUND_WORDS: Readonly<Record<UntilBound, string>> = {
  'before-start': 'before it is started',
  today: 'today',
  shift: 'this shift',
  hours: 'some hours',
  days: 'some days',
  'next-service': 'the next service',
  'only-if': 'only under a condition',
};

/** What the figure of a step's timing means. */
export const TIMING_WORDS: Readonly<Record<TimingMeans, string>> = {
  dwell: 'wait at least',
  limit: 'never longer',
  within: 'done by then',
  rest: 'pause between tries',
  typical: 'for information',
  count: 'how often',
  none: 'said only',
};

/** A condition in words: of the class, else of those that many share, else the words that stand for it. */
export function conditionIn(pack: { conditions?: Pack['conditions'] | undefined }, id: string): string {
  const own = pack.conditions?.find((each) => each.id === id)?.says;
  return own ?? (COMMON_CONDITIONS as Readonly<Record<string, string>>)[id] ?? id.replaceAll('-', ' ');
}

/** How a fault is planted. */
export const PLANT_WORDS: Readonly<Record<PlantMeans, string>> = {
  mark: 'mark or smear',
  card: 'card, sheet or photo',
  sample: 'spare part or helper',
  shown: 'shown as it is',
  change: 'machine set otherwise',
};

/** Turning points of starting and stopping. */
export const MOMENT_WORDS: Readonly<Record<Moment, string>> = {
  'power-on': 'the machine comes alive',
  'first-motion': 'it first moves, or takes its first load',
  'power-off': 'the machine goes dead',
  dismount: 'the operator leaves it',
};

/** How a check is made, as it is said aloud. */
export const METHOD_WORDS: Readonly<Record<Method, string>> = {
  look: 'Look',
  touch: 'Touch',
  press: 'Press',
  pull: 'Pull',
  turn: 'Turn',
  wipe: 'Wipe',
  operate: 'Work it',
  listen: 'Listen',
  smell: 'Smell',
  measure: 'Measure',
  read: 'Read',
};

/** A mend's bound as it heads a line: the number where it has one. */
export function boundWords({ bound, n }: Until): string {
  if (bound === 'hours' || bound === 'days') return `${n} ${n === 1 ? bound.slice(0, -1) : bound}`;
  return BOUND_WORDS[bound];
}

/** The judged figures of a timing, as "at least 3 min" or "at most 30 s, 3 tries, 120 s rest"; '' for none. */
export function timingFigures({ least, most, unit, tries, rest, until }: Timing): string {
  const figure = (n: number) => `${n} ${unit ?? ''}`.trim();
  const span =
    least !== undefined && most !== undefined && least > 0
      ? least === most
        ? figure(least)
        : `${least} to ${figure(most)}`
      : most !== undefined
        ? `at most ${figure(most)}`
        : least
          ? `at least ${figure(least)}`
          : '';
  return [
    span,
    until ? `until ${until}` : '',
    tries ? `${tries} tries` : '',
    rest ? `${figure(rest)} rest` : '',
  ]
    .filter(Boolean)
    .join(', ');
}
