/** How a person writes a date with figures only. */
export type DateOrder = 'day-first' | 'month-first' | 'year-first';

/** The order in which the language of the browser writes a date. */
export function dateOrder(language: string): DateOrder {
  const parts = new Intl.DateTimeFormat(language, { year: 'numeric', month: '2-digit', day: '2-digit' })
    .formatToParts(new Date(2000, 0, 2))
    .map((each) => each.type)
    .filter((each) => each === 'day' || each === 'month' || each === 'year');
  if (parts[0] === 'year') return 'year-first';
  return parts[0] === 'month' ? 'month-first' : 'day-first';
}

const TYPED: Readonly<Record<DateOrder, readonly string[]>> = {
  'day-first': ['D.M.YYYY', 'D/M/YYYY', 'D-M-YYYY', 'D MMM YYYY'],
  'month-first': ['M/D/YYYY', 'M-D-YYYY', 'MMM D YYYY', 'D MMM YYYY'],
  'year-first': ['YYYY/M/D', 'YYYY.M.D', 'D MMM YYYY'],
};

/**
 * What a date field shows (first: the month in words, so that no reader takes it for the day) and what may
 * be typed into it: figures in the order of that language, and always YYYY-MM-DD.
 */
export function dateFormats(language: string): string[] {
  return ['D MMMM YYYY', 'YYYY-MM-DD', ...TYPED[dateOrder(language)]];
}

const HINTS: Readonly<Record<DateOrder, string>> = {
  'day-first': 'day.month.year',
  'month-first': 'month/day/year',
  'year-first': 'year-month-day',
};

/** What an empty date field says of how to type into it. */
export function dateHint(language: string): string {
  return HINTS[dateOrder(language)];
}
