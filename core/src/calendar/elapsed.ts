import { Temporal } from 'temporal-polyfill';
import { daysBetween } from './plainDate';

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
