import type { Origin, Quantity } from './schema';
import type { Part } from './sections';

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
