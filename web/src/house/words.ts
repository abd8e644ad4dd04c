import { localDate, localTime, longDate, type Grade, type Outcome, type StandingStatus } from '@rounds/core';

/** Words and dates as people read them. */

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

export const OUTCOME_WORDS: Readonly<Record<Outcome, string>> = {
  competent: 'Competent',
  'not-yet': 'Not yet competent',
  stopped: 'Stopped',
  incomplete: 'Not complete',
  blocked: 'No outcome yet',
};

export const PHASE_WORDS: Readonly<Record<string, string>> = {
  prepared: 'Prepared, round not started',
  running: 'Round under way',
  retrieving: 'Planted faults to take out',
  reviewing: 'To review and decide',
  signing: 'To be signed',
  closed: 'Closed',
};

export const GRADE_WORDS: Readonly<Record<Grade, string>> = { sound: 'Sound', watch: 'Watch', mend: 'Mend', stop: 'Stop' };

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

export const ROLE_WORDS: Readonly<Record<string, string>> = {
  trainer: 'Trainer',
  operator: 'Operator',
  supervisor: 'Supervisor',
  workshop: 'Workshop',
  administrator: 'Administrator',
};

let siteZone = 'UTC';

/** Instants are shown in the site's time from here on, as the papers show them. */
export function showTimesOf(zone: string): void {
  siteZone = zone;
}

/** An ISO date, or the site's date at an instant, as "5 March 2026"; a dash for none. */
export function day(text: string | null | undefined): string {
  if (!text) return '–';
  return longDate(text.length > 10 ? localDate(text, siteZone) : text);
}

/** An instant as "5 March 2026, 14:05" in the site's time. */
export function moment(instant: string): string {
  return `${day(instant)}, ${localTime(instant, siteZone)}`;
}

/** Seconds as m:ss. */
export function minutes(seconds: number): string {
  return `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`;
}

/** A share as a whole per cent. */
export function percent(share: number | null): string {
  return share === null ? '–' : `${Math.round(share * 100)} %`;
}
