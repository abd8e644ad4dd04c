import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addDays } from '../calendar';
import {
  type CertificationEvent,
  type CertificationEventBody,
  constantRules,
  DEFAULT_RULES,
  GIVEN_CERTIFICATES,
  type GivenCertificates,
  type RuleSet,
  rulesHistory,
  type RulesHistory,
  rulesOn,
  type ScopedRules,
  standing,
  standingAt,
  standingUntilChange,
  takenOverProblem,
  TRIGGERS,
} from './index';

const BORN = '1980-05-01';
const rules = (change: Partial<RuleSet> = {}): RuleSet => ({ ...DEFAULT_RULES, ...change });
const event = (on: string, body: CertificationEventBody): CertificationEvent => ({ on, body });
const passed = (on: string) => event(on, { kind: 'evaluation-passed' });
const history = (from: string, change: Partial<RuleSet>, given: GivenCertificates): RulesHistory => [
  ...constantRules(rules()),
  { from, rules: rules(change), given },
];
const on = (events: CertificationEvent[], date: string, set: RulesHistory | RuleSet) =>
  standing(events, set, date, BORN);

describe('new rules', () => {
  const given = [passed('2025-03-10')];
  const shorter = (what: GivenCertificates) => history('2026-11-26', { validMonths: 12, leadDays: 30 }, what);

  it('do not reach back: a certificate valid to 2028 stays valid to 2028 when it is kept', () => {
    expect(on(given, '2026-11-26', shorter('keep'))).toMatchObject({ status: 'valid', until: '2028-03-10' });
    expect(on([passed('2026-11-26')], '2026-11-26', shorter('keep')).until).toBe('2027-11-26');
  });
  it('change at renewal: everything as before until then, the notice too', () => {
    expect(on(given, '2028-01-20', shorter('at-renewal')).status).toBe('due');
    expect(on(given, '2028-01-20', shorter('keep')).status).toBe('valid');
    expect(on([...given, passed('2028-02-20')], '2028-02-21', shorter('at-renewal'))).toMatchObject({
      until: '2029-03-10',
    });
  });
  it('change at once: the end is counted anew, but nothing before the date they begin changes', () => {
    expect(on(given, '2026-11-25', shorter('at-once'))).toMatchObject({
      status: 'valid',
      until: '2028-03-10',
    });
    expect(on(given, '2026-11-26', shorter('at-once'))).toMatchObject({
      status: 'lapsed',
      until: '2026-11-25',
      since: '2026-11-26',
    });
    expect(on([passed('2026-05-01')], '2026-11-26', shorter('at-once')).until).toBe('2027-05-01');
  });
  it('never revive what had ended, nor move an end that was stated with a taken-over certificate', () => {
    const longer = history('2026-11-26', { validMonths: 60 }, 'at-once');
    expect(on([passed('2022-01-10')], '2026-12-01', longer).status).toBe('lapsed');
    expect(
      on([event('2025-01-10', { kind: 'certificate-recorded', until: '2026-12-31' })], '2026-12-01', longer)
        .until,
    ).toBe('2026-12-31');
  });
  it('judge each event by the rules of its own date', () => {
    const milder = history(
      '2026-06-01',
      { triggers: { ...DEFAULT_RULES.triggers, incident: 'none' } },
      'keep',
    );
    const incident = (date: string) => [
      passed('2026-01-10'),
      event(date, { kind: 'trigger', trigger: 'incident' } as const),
    ];
    expect(on(incident('2026-05-31'), '2026-07-01', milder).status).toBe('suspended');
    expect(on(incident('2026-06-01'), '2026-07-01', milder).status).toBe('valid');
  });
});

describe('the scope of rules', () => {
  const set = (
    site: string | null,
    classId: string | null,
    from: string,
    validMonths: number | null,
  ): ScopedRules => ({
    site,
    classId,
    from,
    rules: validMonths === null ? null : rules({ validMonths }),
    given: 'keep',
  });
  const months = (all: ScopedRules[], date: string, site = 'Quay', cls = 'crane') =>
    rulesOn(rulesHistory(all, site, cls), date).validMonths;

  it('is the nearest: class at site, class, site, organisation', () => {
    const all = [
      set(null, null, '2025-01-01', 30),
      set('Quay', null, '2025-01-01', 24),
      set(null, 'crane', '2025-01-01', 18),
      set('Quay', 'crane', '2025-01-01', 12),
    ];
    expect(months(all, '2025-06-01')).toBe(12);
    expect(months(all, '2025-06-01', 'Field')).toBe(18);
    expect(months(all, '2025-06-01', 'Quay', 'mower')).toBe(24);
    expect(months(all, '2025-06-01', 'Field', 'mower')).toBe(30);
    expect(months(all, '2024-12-31')).toBe(36);
  });
  it('begins and is lifted on its dates; of two for one day the later made holds', () => {
    const all = [
      set(null, null, '2025-01-01', 30),
      set('Quay', null, '2025-03-01', 24),
      set('Quay', null, '2025-03-01', 20),
      set('Quay', null, '2025-09-01', null),
    ];
    expect(['2025-02-28', '2025-03-01', '2025-08-31', '2025-09-01'].map((date) => months(all, date))).toEqual(
      [30, 20, 20, 30],
    );
  });
});

describe('prerequisites', () => {
  const set = rules({ requireTheory: true, requireDrill: true });
  it('bar: a pass without them does not certify until they are on record', () => {
    const before = on([passed('2026-02-01')], '2026-02-02', set);
    expect(before).toMatchObject({ status: 'in-training', mayOperate: 'supervised', certifiedOn: null });
    expect(before.sentence).toMatch(/theory passed, drill standard met/);
    const events = [
      passed('2026-02-01'),
      event('2026-02-10', { kind: 'theory-passed' }),
      event('2026-03-01', { kind: 'drill-met' }),
    ];
    expect(on(events, '2026-02-28', set).status).toBe('in-training');
    expect(on(events, '2026-03-01', set)).toMatchObject({
      status: 'valid',
      certifiedOn: '2026-02-01',
      since: '2026-03-01',
      until: '2029-02-01',
    });
  });
  it('do not bar a certificate given before they were asked for, and are not asked twice', () => {
    const from: RulesHistory = [...constantRules(rules()), { from: '2026-06-01', rules: set, given: 'keep' }];
    expect(on([passed('2026-02-01')], '2026-07-01', from).mayOperate).toBe('yes');
  });
});

describe('bars and withdrawals', () => {
  it('a birth date nobody knows does not pass the minimum age', () => {
    const held = standing([passed('2026-02-01')], rules(), '2026-03-01', null);
    expect(held).toMatchObject({ status: 'valid', mayOperate: 'no' });
    expect(held.sentence).toMatch(/birth not known/);
    expect(standing([passed('2026-02-01')], rules({ minimumAge: null }), '2026-03-01', null).mayOperate).toBe(
      'yes',
    );
  });
  it('a withdrawn person who passes again starts anew, without the old anniversary', () => {
    const events = [
      passed('2023-05-17'),
      event('2026-04-01', { kind: 'withdrawn', words: 'left the yard' }),
      passed('2026-05-01'),
    ];
    expect(on(events, '2026-05-02', rules()).until).toBe('2029-05-01');
  });
  it('an override stays visible', () => {
    const held = on(
      [event('2026-02-01', { kind: 'evaluation-passed', overridden: true, computed: 'not-yet' })],
      '2026-03-01',
      rules(),
    );
    expect(held.overridden).toBe(true);
    expect(held.reasons.join()).toMatch(/against the computed outcome/);
  });
  it('a taken-over certificate ends within the rules or says where its end comes from', () => {
    const problem = (until?: string, words?: string) =>
      takenOverProblem('2026-01-10', { until, words }, rules());
    expect(problem()).toBeNull();
    expect(problem('2029-01-10')).toBeNull();
    expect(problem('2030-01-10')).toMatch(/past 10 January 2029/);
    expect(problem('2030-01-10', 'licence of the port authority')).toBeNull();
    expect(problem('9999-01-01', 'licence of the port authority')).toMatch(/no certificate/);
    expect(problem('2025-12-31')).toMatch(/before its own date/);
  });
});

describe('a standing kept until its next change', () => {
  const bodies: CertificationEventBody[] = [
    { kind: 'training-started' },
    { kind: 'theory-passed' },
    { kind: 'drill-met' },
    { kind: 'evaluation-passed' },
    { kind: 'evaluation-passed', overridden: true },
    { kind: 'evaluation-failed' },
    { kind: 'certificate-recorded' },
    { kind: 'certificate-recorded', until: '2024-02-29' },
    { kind: 'medical' },
    { kind: 'hours-logged', hours: 12 },
    { kind: 'refresher-done' },
    { kind: 'suspended', words: 'inquiry' },
    { kind: 'reinstated', words: 'cleared' },
    { kind: 'withdrawn', words: 'left us' },
    ...TRIGGERS.map((trigger): CertificationEventBody => ({ kind: 'trigger', trigger })),
  ];
  const day = (max: number) => fc.integer({ min: 0, max }).map((n) => addDays('2022-01-01', n));
  const ruleSets = fc.record({
    validMonths: fc.integer({ min: 1, max: 40 }),
    leadDays: fc.integer({ min: 0, max: 90 }),
    graceDays: fc.integer({ min: 0, max: 40 }),
    keepAnniversaryDays: fc.integer({ min: 0, max: 90 }),
    endOfMonth: fc.boolean(),
    minimumAge: fc.constantFrom(null, 18, 24),
    requireTheory: fc.boolean(),
    requireLesson: fc.boolean(),
    requireDrill: fc.boolean(),
    recency: fc.constantFrom(null, { hours: 20, months: 6 }, { hours: 5, months: 1 }),
    medicalMonths: fc.constantFrom(null, 6, 24),
    calibrationMonths: fc.constant(null),
    triggers: fc.constant(DEFAULT_RULES.triggers),
  });
  it('is what asking on each day gives', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(day(900), fc.constantFrom(...bodies)), { maxLength: 10 }),
        fc.array(fc.tuple(day(900), ruleSets, fc.constantFrom(...GIVEN_CERTIFICATES)), { maxLength: 3 }),
        day(900),
        fc.constantFrom(null, '1980-05-01', '2004-08-17'),
        (acts, changes, from, born) => {
          const events = acts
            .map(([date, body]) => event(date, body))
            .sort((a, b) => (a.on < b.on ? -1 : Number(a.on > b.on)));
          const sets: ScopedRules[] = changes.map(([date, set, given]) => ({
            site: null,
            classId: null,
            from: date,
            rules: set,
            given,
          }));
          const through = rulesHistory(sets, 'Quay', 'crane');
          let kept = standingUntilChange(events, through, from, born);
          for (let i = 0; i < 120; i++) {
            const date = addDays(from, i);
            if (kept.nextChange !== null && kept.nextChange <= date)
              kept = standingUntilChange(events, through, date, born);
            expect(standingAt(kept.standing, date)).toEqual(standing(events, through, date, born));
          }
        },
      ),
      { numRuns: 400 },
    );
  });
});
