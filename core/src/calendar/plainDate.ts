import { z } from 'zod';

/**
 * Calendar dates without a clock or a time zone, as ISO 8601 text `YYYY-MM-DD` in the proleptic Gregorian
 * calendar.
 * Text sorts as time does, so dates compare with < and >. Arithmetic goes through the day number by
 * H. Hinnant, "chrono-compatible low-level date algorithms" (2013).
 */
export type PlainDate = string;

/**
 * The years that a date given from outside may lie in: nothing that Rounds records is older, and no plan
 * reaches further.
 */
const YEARS = { first: 1900, last: 2200 } as const;

/** Schema of a date given from outside. */
export const plainDateText = z.iso
  .date()
  .refine(
    (text) => Number(text.slice(0, 4)) >= YEARS.first && Number(text.slice(0, 4)) <= YEARS.last,
    `lies outside the years ${YEARS.first} to ${YEARS.last}`,
  );

const MONTH_DAYS = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31] as const;

/**
 * Whether a Gregorian year has 366 days.
 *
 * @example isLeapYear(2000) // true
 * @example isLeapYear(1900) // false
 */
export function isLeapYear(year: number): boolean {
  return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
}

/**
 * Days in month 1 to 12 of a year.
 *
 * @example daysInMonth(2024, 2) // 29
 */
export function daysInMonth(year: number, month: number): number {
  return month === 2 && isLeapYear(year) ? 29 : MONTH_DAYS[month - 1]!;
}

/**
 * Whether the text is a date that exists, written YYYY-MM-DD.
 *
 * @example isPlainDate('2026-02-29') // false
 */
export function isPlainDate(text: string): boolean {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(text);
  if (!match) return false;
  const [year, month, day] = [Number(match[1]), Number(match[2]), Number(match[3])];
  return month >= 1 && month <= 12 && day >= 1 && day <= daysInMonth(year, month);
}

function parts(date: PlainDate): [number, number, number] {
  if (!isPlainDate(date)) throw new RangeError(`"${date}" is not a date of the form YYYY-MM-DD`);
  return [Number(date.slice(0, 4)), Number(date.slice(5, 7)), Number(date.slice(8, 10))];
}

/**
 * The date for a year, month and day that exist.
 *
 * @example plainDate(2026, 3, 9) // '2026-03-09'
 */
export function plainDate(year: number, month: number, day: number): PlainDate {
  return `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;
}

/**
 * Days since 1970-01-01.
 *
 * @example dayNumber('2000-03-01') // 11017
 */
export function dayNumber(date: PlainDate): number {
  const [year, month, day] = parts(date);
  const y = month <= 2 ? year - 1 : year;
  const era = Math.floor(y / 400);
  const yearOfEra = y - era * 400;
  const dayOfYear = Math.floor((153 * (month + (month > 2 ? -3 : 9)) + 2) / 5) + day - 1;
  const dayOfEra = yearOfEra * 365 + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100) + dayOfYear;
  return era * 146097 + dayOfEra - 719468;
}

/**
 * The inverse of `dayNumber`.
 *
 * @example fromDayNumber(11_017) // '2000-03-01'
 */
export function fromDayNumber(days: number): PlainDate {
  const z = days + 719468;
  const era = Math.floor(z / 146097);
  const dayOfEra = z - era * 146097;
  const yearOfEra = Math.floor(
    (dayOfEra - Math.floor(dayOfEra / 1460) + Math.floor(dayOfEra / 36524) - Math.floor(dayOfEra / 146096)) /
      365,
  );
  const dayOfYear = dayOfEra - (365 * yearOfEra + Math.floor(yearOfEra / 4) - Math.floor(yearOfEra / 100));
  const shifted = Math.floor((5 * dayOfYear + 2) / 153);
  const day = dayOfYear - Math.floor((153 * shifted + 2) / 5) + 1;
  const month = shifted < 10 ? shifted + 3 : shifted - 9;
  return plainDate(yearOfEra + era * 400 + (month <= 2 ? 1 : 0), month, day);
}

/**
 * Adds whole days (may be negative).
 *
 * @example addDays('2026-02-27', 3) // '2026-03-02'
 */
export function addDays(date: PlainDate, days: number): PlainDate {
  return fromDayNumber(dayNumber(date) + days);
}

/**
 * Whole days from one date to another; negative when `to` is earlier.
 *
 * @example daysBetween('2024-02-28', '2024-03-01') // 2
 */
export function daysBetween(from: PlainDate, to: PlainDate): number {
  return dayNumber(to) - dayNumber(from);
}

/**
 * Adds calendar months (may be negative); a day the month does not have becomes its last day.
 *
 * @example addMonths('2026-01-31', 1) // '2026-02-28'
 * @example addMonths('2024-02-29', 36) // '2027-02-28'
 */
export function addMonths(date: PlainDate, months: number): PlainDate {
  const [year, month, day] = parts(date);
  const index = year * 12 + (month - 1) + months;
  const targetYear = Math.floor(index / 12);
  const targetMonth = index - targetYear * 12 + 1;
  return plainDate(targetYear, targetMonth, Math.min(day, daysInMonth(targetYear, targetMonth)));
}

/**
 * Last day of the date's month.
 *
 * @example endOfMonth('2024-02-10') // '2024-02-29'
 */
export function endOfMonth(date: PlainDate): PlainDate {
  const [year, month] = parts(date);
  return plainDate(year, month, daysInMonth(year, month));
}

/**
 * Repeated due dates: `anchored` counts each from the start, `chained` each from the one before (a clamped
 * day stays clamped).
 *
 * @example recurrence('2026-01-31', 1, 2).anchored // ['2026-02-28', '2026-03-31']
 * @example recurrence('2026-01-31', 1, 2).chained // ['2026-02-28', '2026-03-28']
 */
export function recurrence(
  start: PlainDate,
  everyMonths: number,
  count: number,
): { anchored: PlainDate[]; chained: PlainDate[] } {
  const anchored = Array.from({ length: count }, (_, i) => addMonths(start, everyMonths * (i + 1)));
  const chained: PlainDate[] = [];
  for (let i = 0; i < count; i++) chained.push(addMonths(chained[i - 1] ?? start, everyMonths));
  return { anchored, chained };
}

/** ISO 8601 week date. `weekday` is 1 for Monday; `dayOfYear` starts at 1. */
export interface IsoWeek {
  isoYear: number;
  isoWeek: number;
  weekday: number;
  text: string;
  dayOfYear: number;
}

/**
 * The ISO week a date belongs to.
 *
 * @example isoWeek('2021-01-03').text // '2020-W53-7'
 */
export function isoWeek(date: PlainDate): IsoWeek {
  const days = dayNumber(date);
  const weekday = ((((days + 3) % 7) + 7) % 7) + 1;
  const thursday = fromDayNumber(days - weekday + 4);
  const isoYear = Number(thursday.slice(0, 4));
  const week = Math.floor(daysBetween(plainDate(isoYear, 1, 1), thursday) / 7) + 1;
  return {
    isoYear,
    isoWeek: week,
    weekday,
    text: `${String(isoYear).padStart(4, '0')}-W${String(week).padStart(2, '0')}-${weekday}`,
    dayOfYear: daysBetween(plainDate(Number(date.slice(0, 4)), 1, 1), date) + 1,
  };
}

/**
 * Weeks in an ISO year: 28 December is always in the last one.
 *
 * @example isoWeeksInYear(2020) // 53
 */
export function isoWeeksInYear(year: number): number {
  return isoWeek(plainDate(year, 12, 28)).isoWeek;
}
