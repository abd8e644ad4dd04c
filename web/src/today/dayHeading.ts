import { isoWeek } from '@rounds/core/calendar';
import { day } from '../parts/words';

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];

/** A date with its day of the week: Thursday 26 November 2026. */
export function dayHeading(date: string): string {
  return `${WEEKDAYS[isoWeek(date).weekday - 1]} ${day(date)}`;
}
