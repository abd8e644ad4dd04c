import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays, addMonths, longDate } from '../calendar';
import {
  type CertificationEvent,
  type CertificationEventBody,
  DEFAULT_RULES,
  forecast,
  type RuleSet,
  standing,
  TRIGGERS,
} from './index';

const at = (on: string, body: CertificationEventBody): CertificationEvent => ({ on, body });
const passed = (on: string) => at(on, { kind: 'evaluation-passed' });
const rules = (change: Partial<RuleSet> = {}): RuleSet => ({ ...DEFAULT_RULES, ...change });
const on = (events: CertificationEvent[], date: string, set = rules(), born: string | null = '1980-01-01') =>
  standing(events, set, date, born);

describe('standing', () => {
  it('runs from a pass to lapsed, three years on (29 CFR 1910.178(l)(4)(iii), from memory)', () => {
    const events = [passed('2023-05-17')];
    expect(on(events, '2023-05-16').status).toBe('none');
    expect(on(events, '2023-05-17')).toMatchObject({
      status: 'valid',
      until: '2026-05-17',
      mayOperate: 'yes',
    });
    expect(on(events, '2026-03-17').status).toBe('valid');
    expect(on(events, '2026-03-18').status).toBe('due');
    expect(on(events, '2026-05-17')).toMatchObject({ status: 'due', daysLeft: 0, mayOperate: 'yes' });
    expect(on(events, '2026-05-17').sentence).toMatch(/today is the last day/);
    expect(on(events, '2026-05-18')).toMatchObject({
      status: 'lapsed',
      mayOperate: 'no',
      since: '2026-05-18',
    });
  });
  it('clamps a certificate of 29 February and, where the rules say so, runs to the end of the month', () => {
    expect(on([passed('2024-02-29')], '2024-03-01').until).toBe('2027-02-28');
    expect(on([passed('2024-02-10')], '2024-03-01', rules({ endOfMonth: true })).until).toBe('2027-02-28');
  });
  it('has a supervised time of grace where the rules give one', () => {
    const set = rules({ graceDays: 14 });
    expect(on([passed('2023-05-17')], '2026-05-31', set)).toMatchObject({
      status: 'in-grace',
      mayOperate: 'supervised',
    });
    expect(on([passed('2023-05-17')], '2026-06-01', set).status).toBe('lapsed');
  });
  it('keeps the anniversary when renewed within the window, and starts anew when renewed earlier', () => {
    expect(on([passed('2023-05-17'), passed('2026-04-01')], '2026-04-02').until).toBe('2029-05-17');
    expect(on([passed('2023-05-17'), passed('2025-04-01')], '2025-04-02').until).toBe('2028-04-01');
  });
  it('is suspended at once by an incident and restored by a new pass or by reinstatement', () => {
    const events = [
      passed('2025-01-10'),
      at('2025-06-01', { kind: 'trigger', trigger: 'incident', words: 'rack struck' }),
    ];
    expect(on(events, '2025-05-31').status).toBe('valid');
    expect(on(events, '2025-06-01')).toMatchObject({ status: 'suspended', mayOperate: 'no' });
    expect(on(events, '2025-06-01').sentence).toMatch(/incident \(rack struck\)/);
    expect(on([...events, passed('2025-06-20')], '2025-06-20')).toMatchObject({
      status: 'valid',
      until: '2028-06-20',
    });
    expect(
      on([...events, at('2025-06-10', { kind: 'reinstated', words: 'inquiry closed' })], '2025-06-10'),
    ).toMatchObject({ status: 'valid', until: '2028-01-10' });
  });
  it('is cut short by a trigger with days, never lengthened, and cleared by a refresher', () => {
    const events = [passed('2025-01-10'), at('2025-06-01', { kind: 'trigger', trigger: 'near-miss' })];
    expect(on(events, '2025-06-02')).toMatchObject({ status: 'due', until: '2025-07-01' });
    expect(on(events, '2025-07-02').status).toBe('lapsed');
    expect(on([...events, at('2025-06-15', { kind: 'refresher-done' })], '2025-07-02')).toMatchObject({
      status: 'valid',
      until: '2028-01-10',
    });
    expect(
      on([passed('2022-06-20'), at('2025-06-10', { kind: 'trigger', trigger: 'near-miss' })], '2025-06-11')
        .until,
    ).toBe('2025-06-20');
  });
  it('takes every trigger and every effect without falling over', () => {
    for (const trigger of TRIGGERS)
      for (const effect of ['suspend', 'none', { dueInDays: 10 }] as const) {
        const set = rules({ triggers: { ...DEFAULT_RULES.triggers, [trigger]: effect } });
        const { status } = on(
          [passed('2025-01-10'), at('2025-02-01', { kind: 'trigger', trigger })],
          '2025-02-01',
          set,
        );
        expect(status).toBe(effect === 'suspend' ? 'suspended' : effect === 'none' ? 'valid' : 'due');
      }
  });
  it('asks for what is missing while in training, and needs supervision', () => {
    const result = on(
      [at('2025-01-10', { kind: 'training-started' }), at('2025-01-20', { kind: 'theory-passed' })],
      '2025-02-01',
      rules({ requireTheory: true, requireDrill: true }),
    );
    expect(result).toMatchObject({ status: 'in-training', mayOperate: 'supervised' });
    expect(result.next).toEqual([
      'Still needed: drill standard met',
      'Still needed: practical evaluation passed',
    ]);
  });
  it('lets a pass wait for the lesson that the rules ask for, and certifies the day it was attended', () => {
    const asked = rules({ requireLesson: true });
    const waiting = on([passed('2025-01-10')], '2025-02-01', asked);
    expect(waiting.mayOperate).not.toBe('yes');
    expect(waiting.next).toContain('Still needed: a lesson attended');
    const taught = on(
      [passed('2025-01-10'), at('2025-01-20', { kind: 'taught', words: 'walk-round' })],
      '2025-02-01',
      asked,
    );
    expect(taught).toMatchObject({ status: 'valid', mayOperate: 'yes' });
    expect(on([passed('2025-01-10')], '2025-02-01', rules()).mayOperate).toBe('yes');
  });
  it('bars by age, medical and recency, and says which', () => {
    expect(on([passed('2025-01-10')], '2025-02-01', rules(), '2008-01-01')).toMatchObject({
      status: 'valid',
      mayOperate: 'no',
    });
    expect(on([passed('2025-01-10')], '2026-01-01', rules(), '2008-01-01').mayOperate).toBe('yes');
    const medical = rules({ medicalMonths: 24 });
    expect(on([passed('2025-01-10')], '2025-02-01', medical).reasons[0]).toBe('No medical on record');
    expect(
      on([at('2024-01-31', { kind: 'medical' }), passed('2025-01-10')], '2026-01-31', medical).mayOperate,
    ).toBe('yes');
    expect(
      on([at('2024-01-31', { kind: 'medical' }), passed('2025-01-10')], '2026-02-01', medical).mayOperate,
    ).toBe('no');
    const recency = rules({ recency: { hours: 20, months: 6 } });
    expect(on([passed('2025-01-10')], '2025-06-01', recency).mayOperate).toBe('yes');
    expect(
      on([passed('2025-01-10'), at('2025-08-01', { kind: 'hours-logged', hours: 12 })], '2025-09-01', recency)
        .mayOperate,
    ).toBe('no');
    expect(
      on(
        [
          passed('2025-01-10'),
          at('2025-08-01', { kind: 'hours-logged', hours: 12 }),
          at('2025-08-09', { kind: 'hours-logged', hours: 8 }),
        ],
        '2025-09-01',
        recency,
      ).mayOperate,
    ).toBe('yes');
  });
  it('takes over an earlier certificate with its own end', () => {
    expect(
      on([at('2024-02-01', { kind: 'certificate-recorded', until: '2025-12-31' })], '2025-12-31'),
    ).toMatchObject({ status: 'due', until: '2025-12-31' });
  });
  it('does not depend on the order events are given in, and forgets what lies ahead of the date', () => {
    const kinds: CertificationEventBody[] = [
      { kind: 'training-started' },
      { kind: 'evaluation-passed' },
      { kind: 'trigger', trigger: 'incident' },
      { kind: 'refresher-done' },
      { kind: 'reinstated', words: 'done' },
      { kind: 'evaluation-failed' },
      { kind: 'medical' },
    ];
    fc.assert(
      fc.property(
        fc.uniqueArray(
          fc.tuple(fc.integer({ min: 0, max: 2000 }), fc.integer({ min: 0, max: kinds.length - 1 })),
          { selector: (each) => each[0], maxLength: 12 },
        ),
        fc.integer({ min: 0, max: 2600 }),
        (list, ask) => {
          const events = list.map(([day, k]) => at(addDays('2022-01-01', day), kinds[k]!));
          const date = addDays('2022-01-01', ask);
          const sorted = [...events].sort((a, b) => (a.on < b.on ? -1 : 1));
          const result = standing(events, rules(), date, '1980-01-01');
          expect(result).toEqual(standing(sorted, rules(), date, '1980-01-01'));
          expect(result).toEqual(
            standing(
              sorted.filter((each) => each.on <= date),
              rules(),
              date,
              '1980-01-01',
            ),
          );
          expect(result.sentence.endsWith('.')).toBe(true);
          if (result.mayOperate === 'yes') expect(['valid', 'due']).toContain(result.status);
        },
      ),
    );
  });
  it('writes dates as people read them', () => {
    expect(longDate('2026-03-05')).toBe('5 March 2026');
  });
});

describe('forecast', () => {
  it('agrees with asking day by day', () => {
    const events = [
      passed('2024-03-31'),
      at('2024-08-01', { kind: 'trigger', trigger: 'unsafe-act' }),
      passed('2024-09-01'),
    ];
    const set = rules({ validMonths: 12, graceDays: 10 });
    const from = '2024-09-02';
    const byDay: [string, string][] = [];
    let status = standing(events, set, from).status;
    for (let i = 1; i < 700; i++) {
      const date = addDays(from, i);
      const then = standing(events, set, date).status;
      if (then !== status) byDay.push([date, then]);
      status = then;
    }
    expect(forecast(events, set, from, addMonths(from, 22)).map((each) => [each.on, each.status])).toEqual(
      byDay,
    );
  });
});
