import type { PlainDate } from './plainDate';

const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

/**
 * A date as people read it.
 *
 * @example longDate('2026-03-05') // '5 March 2026'
 */
export function longDate(date: PlainDate): string {
  return `${Number(date.slice(8, 10))} ${MONTHS[Number(date.slice(5, 7)) - 1]} ${date.slice(0, 4)}`;
}
