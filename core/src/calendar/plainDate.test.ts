import fc from 'fast-check';
import { Temporal } from 'temporal-polyfill';
import { describe, expect, it } from 'vitest';
import {
  addDays,
  addMonths,
  dayNumber,
  daysBetween,
  endOfMonth,
  fromDayNumber,
  isoWeek,
  isPlainDate,
  isTimeZone,
  localDate,
  localTime,
} from './index';

const anyDate = fc.integer({ min: -200_000, max: 200_000 }).map(fromDayNumber);

describe('calendar dates', () => {
  it('agree with Temporal (temporal-polyfill) on months, days, weeks and differences', () => {
    fc.assert(
      fc.property(anyDate, fc.integer({ min: -600, max: 600 }), anyDate, (date, n, other) => {
        const there = Temporal.PlainDate.from(date);
        expect(addMonths(date, n)).toBe(there.add({ months: n }).toString());
        expect(addDays(date, n)).toBe(there.add({ days: n }).toString());
        expect(daysBetween(date, other)).toBe(there.until(Temporal.PlainDate.from(other)).days);
        expect(isoWeek(date).isoWeek).toBe(there.weekOfYear);
        expect(endOfMonth(date).slice(8)).toBe(String(there.daysInMonth));
      }),
      { numRuns: 2000 },
    );
  });

  it('are refused when they do not exist', () => {
    for (const text of [
      '2023-02-29',
      '2024-13-01',
      '2024-00-10',
      '2024-04-31',
      '24-04-01',
      '2024-4-1',
      '',
      'today',
    ])
      expect(isPlainDate(text)).toBe(false);
    expect(isPlainDate('2024-02-29')).toBe(true);
    expect(() => dayNumber('2023-02-29')).toThrow(/not a date/);
  });

  it('keep 29 February by clamping: three years on is 28 February, four years on is 29 February', () => {
    expect(addMonths('2024-02-29', 36)).toBe('2027-02-28');
    expect(addMonths('2024-02-29', 48)).toBe('2028-02-29');
  });
});

describe('the wall clock of a zone', () => {
  const zones = ['UTC', 'Europe/London', 'Europe/Oslo', 'America/St_Johns', 'Pacific/Apia', 'Asia/Kathmandu'];
  const instant = fc
    .integer({ min: Date.UTC(1950, 0, 1), max: Date.UTC(2200, 0, 1) })
    .map((ms) => new Date(ms).toISOString());

  it('agrees with Temporal (temporal-polyfill) on date and time', () => {
    fc.assert(
      fc.property(instant, fc.constantFrom(...zones), (at, zone) => {
        const there = Temporal.Instant.from(at).toZonedDateTimeISO(zone);
        expect(localDate(at, zone)).toBe(there.toPlainDate().toString());
        expect(localTime(at, zone)).toBe(there.toPlainTime().toString({ smallestUnit: 'minute' }));
      }),
      { numRuns: 2000 },
    );
  });

  it('shows midnight as the first hour of the day, not the last', () => {
    expect(localTime('2026-01-01T00:00:00Z', 'UTC')).toBe('00:00');
    expect(localTime('2026-01-01T12:00:00+05:45', 'Asia/Kathmandu')).toBe('12:00');
  });

  it('refuses what is no instant and no zone', () => {
    for (const text of ['', 'now', '2026-01-01', '2026-01-01T10:00:00', '2026-13-01T10:00:00Z'])
      expect(() => localDate(text, 'UTC')).toThrow(RangeError);
    for (const zone of ['', 'Quay/North', 'Europe/']) expect([zone, isTimeZone(zone)]).toEqual([zone, false]);
    expect(() => localDate('2026-01-01T10:00:00Z', 'Quay/North')).toThrow(RangeError);
  });
});
