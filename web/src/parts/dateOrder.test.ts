import dayjs from 'dayjs';
import customParseFormat from 'dayjs/plugin/customParseFormat.js';
import { describe, expect, it } from 'vitest';
import { dateFormats, dateHint, dateOrder } from './dateOrder';

dayjs.extend(customParseFormat);
/** What the date field makes of a text: the first format that reads it strictly. */
const read = (text: string, language: string) =>
  dateFormats(language)
    .map((format) => dayjs(text, format, true))
    .find((each) => each.isValid())
    ?.format('YYYY-MM-DD');

describe('figures of a date', () => {
  // The orders are those of the Unicode Common Locale Data Repository, as the runtime carries it.
  it.each([
    ['en-GB', 'day-first'],
    ['de-DE', 'day-first'],
    ['fr-CA', 'year-first'],
    ['sv-SE', 'year-first'],
    ['ja-JP', 'year-first'],
    ['en-US', 'month-first'],
  ] as const)('%s writes them %s', (language, order) => {
    expect(dateOrder(language)).toBe(order);
  });

  it('mean another day in another order, and the written form is the same in all', () => {
    expect(read('3/4/2026', 'en-GB')).toBe('2026-04-03');
    expect(read('3/4/2026', 'en-US')).toBe('2026-03-04');
    expect(read('3.4.2026', 'de-DE')).toBe('2026-04-03');
    for (const language of ['en-GB', 'en-US', 'sv-SE']) {
      expect(read('2026-04-03', language)).toBe('2026-04-03');
      expect(read('3 Apr 2026', language)).toBe('2026-04-03');
      expect(dateFormats(language)[0]).toBe('D MMMM YYYY');
    }
  });

  it('that are no date are none', () => {
    expect(read('31/2/2026', 'en-GB')).toBeUndefined();
    expect(read('13/13/2026', 'en-US')).toBeUndefined();
    expect(read('soon', 'en-GB')).toBeUndefined();
  });

  it('are asked for in words', () => {
    expect(['en-GB', 'en-US', 'sv-SE'].map(dateHint)).toEqual([
      'day.month.year',
      'month/day/year',
      'year-month-day',
    ]);
  });
});
