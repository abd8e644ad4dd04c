import { daysBetween, plainDate, type PlainDate } from './plainDate';

/** A clock on the wall of a time zone: the text of each part of date and time, at an instant. */
type WallClock = (instant: string) => Readonly<Record<string, string>>;
/** A text that says where on the globe its time of day is meant. */
const WITH_ZONE = /(?:Z|[+-]\d{2}:?\d{2})$/i;
const clocks = new Map<string, WallClock>();

/** The wall clock of an IANA time zone, kept: making one is slow. Throws RangeError where there is none. */
function wallClock(timeZone: string): WallClock {
  const kept = clocks.get(timeZone);
  if (kept) return kept;
  const format = new Intl.DateTimeFormat('en-u-ca-gregory-nu-latn', {
    timeZone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
  });
  const clock: WallClock = (instant) => {
    const at = WITH_ZONE.test(instant) ? Date.parse(instant) : NaN;
    if (Number.isNaN(at)) throw new RangeError(`"${instant}" is not an instant`);
    return Object.fromEntries(format.formatToParts(at).map(({ type, value }) => [type, value]));
  };
  clocks.set(timeZone, clock);
  return clock;
}

/**
 * The calendar date at an instant (ISO text with Z) in an IANA time zone.
 *
 * @example localDate('2026-03-01T23:30:00Z', 'Europe/Oslo') // '2026-03-02'
 */
export function localDate(instant: string, timeZone: string): PlainDate {
  const { year, month, day } = wallClock(timeZone)(instant);
  return plainDate(Number(year), Number(month), Number(day));
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
 * Whether the text names a time zone that this machine knows.
 *
 * @example isTimeZone('Europe/London') // true
 * @example isTimeZone('Quay/North') // false
 */
export function isTimeZone(text: string): boolean {
  try {
    return new Intl.DateTimeFormat('en', { timeZone: text }) !== null;
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
  const { hour, minute } = wallClock(timeZone)(instant);
  return `${hour}:${minute}`;
}
