import { Temporal } from 'temporal-polyfill';
import { daysBetween, type PlainDate } from './plainDate';

/**
 * The calendar date at an instant (ISO text with Z) in an IANA time zone.
 *
 * @example localDate('2026-03-01T23:30:00Z', 'Europe/Oslo') // '2026-03-02'
 */
export function localDate(instant: string, timeZone: string): PlainDate {
  return Temporal.Instant.from(instant).toZonedDateTimeISO(timeZone).toPlainDate().toString();
}

/**
 * Days until a due date where the person is, counted between local calendar dates; due today is 0 and not
 * overdue.
 *
 * @example daysUntilLocal('2026-03-01T23:30:00Z', 'Europe/Oslo', '2026-03-02').daysUntil // 0
 */
export function daysUntilLocal(
  instant: string,
  timeZone: string,
  due: PlainDate,
): { localDate: PlainDate; daysUntil: number; overdue: boolean } {
  const today = localDate(instant, timeZone);
  const daysUntil = daysBetween(today, due);
  return { localDate: today, daysUntil, overdue: daysUntil < 0 };
}

/**
 * Real hours between two local wall-clock times (ISO without offset), which a clock change makes differ
 * from the wall-clock difference.
 *
 * @example elapsedHours('2026-03-28T12:00', '2026-03-29T12:00', 'Europe/London').elapsedHours // 23
 */
export function elapsedHours(
  fromLocal: string,
  toLocal: string,
  timeZone: string,
): { fromUtc: string; toUtc: string; elapsedHours: number; calendarDays: number } {
  const from = Temporal.PlainDateTime.from(fromLocal).toZonedDateTime(timeZone);
  const to = Temporal.PlainDateTime.from(toLocal).toZonedDateTime(timeZone);
  return {
    fromUtc: from.toInstant().toString(),
    toUtc: to.toInstant().toString(),
    elapsedHours: (to.epochMilliseconds - from.epochMilliseconds) / 3_600_000,
    calendarDays: daysBetween(from.toPlainDate().toString(), to.toPlainDate().toString()),
  };
}

/**
 * Whether the text names a time zone that this machine knows.
 *
 * @example isTimeZone('Europe/London') // true
 * @example isTimeZone('Quay/North') // false
 */
export function isTimeZone(text: string): boolean {
  try {
    Temporal.Instant.fromEpochMilliseconds(0).toZonedDateTimeISO(text);
    return true;
  } catch {
    return false;
  }
}

/**
 * The time of day at an instant (ISO text with Z) in an IANA time zone, as 14:05.
 *
 * @example localTime('2026-07-01T12:05:59Z', 'Europe/London') // '13:05'
 */
export function localTime(instant: string, timeZone: string): string {
  return Temporal.Instant.from(instant)
    .toZonedDateTimeISO(timeZone)
    .toPlainTime()
    .toString({ smallestUnit: 'minute' });
}
