import { localDate, localTime } from '@rounds/core/calendar';
import { longDate } from '@rounds/core/calendar';
import { siteTime } from '../device/siteTime';

/** Words and dates as people read them. */

export const ROLE_WORDS: Readonly<Record<string, string>> = {
  trainer: 'Trainer',
  operator: 'Operator',
  supervisor: 'Supervisor',
  workshop: 'Workshop',
  administrator: 'Administrator',
};

/** An ISO date, or the site's date at an instant, as "5 March 2026"; a dash for none. */
export function day(text: string | null | undefined): string {
  if (!text) return '–';
  return longDate(text.length > 10 ? localDate(text, siteTime.zone) : text);
}

/** An instant as "5 March 2026, 14:05" in the site's time. */
export function moment(instant: string): string {
  return `${day(instant)}, ${localTime(instant, siteTime.zone)}`;
}

/** How many of something there are: "1 finding", "3 findings"; "2 people" of one "person" who are "people". */
export const amount = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** Seconds as "14 min 39 s", which nobody takes for the time of day. */
export function duration(seconds: number): string {
  const whole = Math.floor(seconds);
  const rest = `${whole % 60} s`;
  return whole < 60 ? rest : `${Math.floor(whole / 60)} min ${rest}`;
}

/** A share as a whole per cent. */
export function percent(share: number | null): string {
  return share === null ? '–' : `${Math.round(share * 100)} %`;
}
