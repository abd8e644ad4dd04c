import { readdirSync, readFileSync } from 'node:fs';
import { compose, type Pack, readPack } from '@rounds/core/catalogue';
import { type CertificationEvent, DEFAULT_RULES, standing } from '@rounds/core/certification';
import { appraise, foldEvaluation, stillPlanted } from '@rounds/core/evaluation';
import { beforeAll, describe, expect, it } from 'vitest';
import { demoOrganisation, type DemoOrganisation } from './index';

const folder = new URL('../../packs/', import.meta.url);
const packs = readdirSync(folder)
  .filter((name) => name.endsWith('.yaml'))
  .map((name) => readPack(readFileSync(new URL(name, folder), 'utf8')).pack as Pack);
const TODAY = '2026-02-28';
let demo: DemoOrganisation;
beforeAll(() => {
  demo = demoOrganisation(TODAY, packs);
});

describe('the demo organisation', () => {
  it('has the people, machines and classes it promises', () => {
    expect(demo.people.length).toBe(48);
    expect(new Set(demo.people.map((each) => each.payroll)).size).toBe(48);
    expect(new Set(demo.people.map((each) => `${each.givenName} ${each.familyName}`)).size).toBe(48);
    expect(demo.units.length).toBeGreaterThanOrEqual(60);
    expect(new Set(demo.units.map((each) => each.name)).size).toBe(demo.units.length);
    const roles = (role: string) => demo.accounts.filter((each) => each.role === role).length;
    expect([roles('trainer'), roles('supervisor'), roles('workshop'), roles('administrator')]).toEqual([
      5, 4, 2, 1,
    ]);
    expect(new Set(demo.people.map((each) => each.site)).size).toBe(4);
    expect(demo.classes.length).toBe(23);
  });
  it('is the same for the same day and seed, and another for another', () => {
    expect(demoOrganisation(TODAY, packs)).toEqual(demo);
    expect(demoOrganisation(TODAY, packs, 5).evaluations[0]).not.toEqual(demo.evaluations[0]);
  });
  it('is dated relative to its day, on leap days and at the ends of months too', () => {
    for (const day of ['2028-02-29', '2026-12-31', '2027-01-01', '2026-03-31']) {
      const there = demoOrganisation(day, packs);
      expect(there.certifications.every((each) => each.on <= day)).toBe(true);
      expect(there.evaluations.every((each) => each.createdAt.slice(0, 10) <= day)).toBe(true);
      expect(
        there.evaluations.some(
          (each) => each.createdAt.slice(0, 10) > `${Number(day.slice(0, 4)) - 1}${day.slice(4)}`,
        ),
      ).toBe(true);
    }
  });
  it('has sites choose positions that exist, before today, where machines of the class are', () => {
    expect(demo.choices.length).toBeGreaterThan(0);
    for (const each of demo.choices) {
      const school = packs
        .find((pack) => pack.id === each.classId)!
        .schools.find((s) => s.id === each.schoolId)!;
      expect(school.options.map((o) => o.id)).toContain(each.optionId);
      expect(school.default).not.toBe(each.optionId);
      expect(demo.units.some((u) => u.classId === each.classId && u.site === each.site)).toBe(true);
      expect(demo.accounts.find((a) => a.login === each.by)?.role).toBe('trainer');
      expect(each.chosenAt.slice(0, 10) < TODAY).toBe(true);
    }
  });
  it('gives every id once', () => {
    const ids = [...demo.people, ...demo.units, ...demo.evaluations]
      .map((each) => each.id)
      .concat(demo.evaluations.flatMap((each) => each.events.map((event) => event.id)));
    expect(new Set(ids).size).toBe(ids.length);
  });
});

describe('its evaluations', () => {
  const judged = () =>
    demo.evaluations.map((each) => {
      const pack = compose(
        packs.find((p) => p.id === demo.units.find((u) => u.id === each.unitId)!.classId)!,
        each.composition,
      );
      const record = foldEvaluation(each.events);
      return { each, record, result: appraise(pack, record, each.earlierStarts) };
    });
  it('name only what their class has, and are decided as computed', () => {
    for (const { record, result } of judged()) {
      if (record.decision) expect(result.outcome).toBe(record.decision.outcome);
      expect(result.analysis.coverage.share).toBeGreaterThan(0.2);
    }
  });
  it('differ from person to person, so that the figures say something', () => {
    const all = judged();
    const outcomes = new Set(all.map(({ result }) => result.outcome));
    expect(outcomes.has('competent')).toBe(true);
    expect(outcomes.has('not-yet')).toBe(true);
    const coverage = all.map(({ result }) => result.analysis.coverage.share!);
    expect(Math.max(...coverage) - Math.min(...coverage)).toBeGreaterThan(0.15);
    expect(all.some(({ result }) => result.analysis.detection.falseAlarms > 0)).toBe(true);
    expect(all.some(({ result }) => result.analysis.pace.plausible === false)).toBe(true);
    expect(
      all.some(({ result }) => result.analysis.start.share !== null && result.analysis.start.share < 1),
    ).toBe(true);
  });
  it('are on every class, recorded in both ways', () => {
    const classes = new Set(
      demo.evaluations.map((each) => demo.units.find((unit) => unit.id === each.unitId)!.classId),
    );
    expect([...classes].sort()).toEqual(demo.classes.map((each) => each.id).sort());
    const ways = new Set(judged().map(({ record }) => record.recording));
    expect([...ways].sort()).toEqual(['by-exception', 'each-check']);
  });
  it('have a fault that half the people miss, and a trainer who writes few prompts down', () => {
    const all = judged();
    const planted = all.flatMap(({ result }) => result.analysis.detection.planted);
    const missed = (hard: boolean) => {
      const own = planted.filter((each) => (each.fault.id === 'CF-F24') === hard);
      return own.filter((each) => each.found !== 'found').length / own.length;
    };
    expect(planted.filter((each) => each.fault.id === 'CF-F24').length).toBeGreaterThan(12);
    expect(missed(true)).toBeGreaterThan(0.4);
    expect(missed(true)).toBeGreaterThan(2 * missed(false));
    const prompts = (mild: boolean) => {
      const own = all.filter(({ each }) => (each.trainer === 'maeve') === mild);
      return own.reduce((sum, { result }) => sum + result.analysis.coverage.prompted, 0) / own.length;
    };
    expect(prompts(true)).toBeLessThan(0.6 * prompts(false));
  });
  it('leave exactly one machine with faults still in it', () => {
    expect(judged().filter(({ record }) => stillPlanted(record).length > 0).length).toBe(1);
  });
});

describe('its certificates', () => {
  it('hold every standing a trainer meets, one of them suspended after an incident', () => {
    const events = new Map<string, CertificationEvent[]>();
    const add = (key: string, event: CertificationEvent) =>
      events.set(key, [...(events.get(key) ?? []), event]);
    for (const each of demo.certifications)
      add(`${each.personId} ${each.classId}`, { on: each.on, body: each.body });
    for (const each of demo.evaluations) {
      const decision = foldEvaluation(each.events).decision;
      if (decision)
        add(`${each.personId} ${demo.units.find((u) => u.id === each.unitId)!.classId}`, {
          on: decision.at.slice(0, 10),
          body: { kind: decision.outcome === 'competent' ? 'evaluation-passed' : 'evaluation-failed' },
        });
    }
    const held = [...events.values()].map((list) => standing(list, DEFAULT_RULES, TODAY, '1990-01-01'));
    const count = (status: string) => held.filter((each) => each.status === status).length;
    for (const status of ['valid', 'due', 'lapsed', 'in-training', 'suspended'])
      expect([status, count(status) > 0]).toEqual([status, true]);
    expect(held.some((each) => /after an incident/.test(each.sentence))).toBe(true);
    expect(held.some((each) => each.mayOperate === 'yes' && each.familiarisedWith.length === 0)).toBe(true);
  });
});
