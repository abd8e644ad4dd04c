import { type RouteAnswer, routes } from '@rounds/contract';
import { addDays, addMonths } from '@rounds/core/calendar';
import { type CertificationEvent, DEFAULT_RULES, type RuleSet, standing } from '@rounds/core/certification';
import { seededRandom } from '@rounds/core/statistics';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest';
import { projectStandings } from '../index';
import { type Caller, FORKLIFT, openYard, type Yard } from './desk';

/** Standings kept as a projection, under rules that do not rewrite the past. */
let yard: Yard;
let trainer: Caller;
let admin: Caller;
let today: string;
type Person = RouteAnswer<typeof routes.person>;
beforeAll(async () => {
  yard = await openYard();
  today = ((await yard.nobody.call(routes.installation, {})).body as { today: string }).today;
});
// A clock that ran ahead has ended every session.
beforeEach(async () => {
  yard.setClock(null);
  trainer = await yard.as('trainer');
  admin = await yard.as('administrator');
});
afterAll(() => yard.stop());

const record = (personId: string, on: string, body: object) =>
  trainer.call(routes.addCertificationEvent, {
    params: { id: personId },
    body: { classId: FORKLIFT, on, body: body as never },
  });
const person = async (id: string, by = trainer) =>
  (await by.call(routes.person, { params: { id } })).body as Person;
const held = async (id: string, by = trainer) =>
  (await person(id, by)).standings.find((each) => each.classId === FORKLIFT)!.standing;
let payroll = 5000;
const addPerson = async (site = 'Quay', born: string | null = '1985-03-04') => {
  payroll += 1;
  const body = {
    payroll: String(payroll),
    givenName: 'Per',
    familyName: `Son ${payroll}`,
    site,
    team: 'Blue',
    born,
  };
  return ((await trainer.call(routes.addPerson, { body })).body as { id: string }).id;
};
const setRules = (change: Partial<RuleSet>, more: object = {}) =>
  admin.call(routes.setRules, {
    body: { effectiveFrom: today, rules: { ...DEFAULT_RULES, ...change }, given: 'keep', ...more } as never,
  });

describe('a kept standing', () => {
  it('is what a fold of the events gives, on every day that is asked for, forwards and back', async () => {
    const id = await addPerson();
    const from = addMonths(today, -35);
    await record(id, from, { kind: 'certificate-recorded' });
    const events: CertificationEvent[] = [{ on: from, body: { kind: 'certificate-recorded' } }];
    const end = addMonths(from, 36);
    for (const date of [
      today,
      addDays(end, -60),
      addDays(end, -61),
      addDays(end, -1),
      end,
      addDays(end, 1),
      addDays(end, 400),
      today,
    ]) {
      yard.setClock(new Date(`${date}T11:00:00Z`));
      const asked = await yard.as('trainer');
      const { sentence, status, daysLeft } = await held(id, asked);
      expect([date, { sentence, status, daysLeft }]).toEqual([
        date,
        expect.objectContaining(pick(standing(events, DEFAULT_RULES, date, '1985-03-04'))),
      ]);
      const listed = (
        await asked.call(routes.people, { query: { status, classId: FORKLIFT, search: `Son ${payroll}` } })
      ).body as { total: number };
      expect([date, listed.total]).toEqual([date, 1]);
    }
  });
  it('follows a birth date and an import', async () => {
    const id = await addPerson('Quay', null);
    await record(id, today, { kind: 'certificate-recorded' });
    expect(await held(id)).toMatchObject({ mayOperate: 'no', bars: [expect.stringMatching(/not known/)] });
    await trainer.call(routes.changePerson, { params: { id }, body: { born: '1990-01-01' } });
    expect((await held(id)).mayOperate).toBe('yes');
    const csv =
      `Payroll,Given name,Family name,Site,Team,Date of birth\n${payroll},Per,Son ` +
      `${payroll},Quay,Blue,${addMonths(today, -12 * 17)}\n`;
    await trainer.call(routes.importPeople, { body: { csv } });
    expect((await held(id)).bars).toEqual(['Under the minimum age of 18']);
  });
  it('rebuilt from the events is the same', async () => {
    const rows = async () =>
      (
        (await yard.house.db.execute(
          sql`select person_id, class_id, status, may_operate, until_date, next_change, body
            from standing order by 1, 2`,
        )) as unknown as {
          rows: unknown[];
        }
      ).rows;
    const before = await rows();
    expect(before.length).toBeGreaterThan(1);
    await yard.house.db.transaction(async (db) => {
      await db.execute(sql`delete from standing`);
      await projectStandings(db, today);
    });
    expect(await rows()).toEqual(before);
  });
});

function pick({ sentence, status, daysLeft }: ReturnType<typeof standing>) {
  return { sentence, status, daysLeft };
}

describe('what comes before an evaluation', () => {
  it('is what the rules of the site ask for and is not on record yet', async () => {
    const id = await addPerson('Pier');
    const missing = async (by = trainer, of = id) =>
      (
        (await by.call(routes.prerequisites, { params: { id: of }, query: { classId: FORKLIFT } }))
          .body as RouteAnswer<typeof routes.prerequisites>
      ).missing;
    expect(await missing()).toEqual([]);
    await setRules({ requireTheory: true, requireDrill: true }, { site: 'Pier', classId: null });
    expect(await missing()).toEqual(['theory passed', 'drill standard met']);
    await record(id, today, { kind: 'theory-passed' });
    expect(await missing()).toEqual(['drill standard met']);
    expect(await missing(trainer, await addPerson('Quay'))).toEqual([]);
    await setRules({}, { site: 'Pier', classId: null });
    const operator = await yard.as('operator');
    const asked = await operator.call(routes.prerequisites, { params: { id }, query: { classId: FORKLIFT } });
    expect(asked.status).toBe(403);
  });
});

describe('new rules', () => {
  it('from today do not make a certificate lapse that was given for longer', async () => {
    const id = await addPerson();
    await record(id, addMonths(today, -20), { kind: 'certificate-recorded' });
    const until = (await held(id)).until;
    await setRules({ validMonths: 12 });
    expect(await held(id)).toMatchObject({ status: 'valid', until });
    await setRules({});
  });
  it('that begin in the past are refused', async () => {
    expect((await setRules({ validMonths: 6 }, { effectiveFrom: addDays(today, -1) })).problem.code).toBe(
      'date-in-past',
    );
  });
  it('name first who is affected, and then do exactly that', async () => {
    const id = await addPerson();
    await record(id, addMonths(today, -20), { kind: 'certificate-recorded' });
    const body = {
      effectiveFrom: today,
      rules: { ...DEFAULT_RULES, validMonths: 12 },
      given: 'at-once' as const,
    };
    const look = (await admin.call(routes.previewRules, { body })).body as RouteAnswer<
      typeof routes.previewRules
    >;
    const own = look.rows.find((each) => each.personId === id)!;
    expect(own).toMatchObject({
      before: { status: 'valid' },
      after: { status: 'lapsed', until: addDays(today, -1) },
    });
    expect((await held(id)).status).toBe('valid');
    await admin.call(routes.setRules, { body });
    expect(await held(id)).toMatchObject(own.after);
    await setRules({}, { given: 'at-once' });
  });
  it('of a site or class hold there and nowhere else; screen, card check and class page agree', async () => {
    const [here, there] = [await addPerson('Quarry'), await addPerson('Quay')];
    for (const id of [here, there]) await record(id, addMonths(today, -20), { kind: 'certificate-recorded' });
    await setRules({ validMonths: 12 }, { site: 'Quarry', classId: FORKLIFT, given: 'at-once' });
    expect((await held(here)).status).toBe('lapsed');
    expect((await held(there)).status).toBe('valid');
    const rulesAt = async (site: string) =>
      (
        (await trainer.call(routes.machineClass, { params: { id: FORKLIFT }, query: { site } }))
          .body as RouteAnswer<typeof routes.machineClass>
      ).rules.validMonths;
    expect([await rulesAt('Quarry'), await rulesAt('Quay')]).toEqual([12, 36]);
    const matrix = (await trainer.call(routes.matrix, { query: { site: 'Quarry' } })).body as RouteAnswer<
      typeof routes.matrix
    >;
    expect(matrix.people.find((each) => each.id === here)!.cells[0]![1]).toBe('lapsed');
    await admin.call(routes.setRules, {
      body: { effectiveFrom: today, rules: null, given: 'keep', site: 'Quarry', classId: FORKLIFT },
    });
    expect(await rulesAt('Quarry')).toBe(36);
    expect(
      (await admin.call(routes.setRules, { body: { effectiveFrom: today, rules: null, given: 'keep' } }))
        .problem.code,
    ).toBe('invalid');
  });
  it('that begin later wait for their day', async () => {
    const id = await addPerson();
    await record(id, addMonths(today, -20), { kind: 'certificate-recorded' });
    const begin = addDays(today, 30);
    await setRules({ validMonths: 12 }, { effectiveFrom: begin, given: 'at-once' });
    expect((await held(id)).status).toBe('valid');
    yard.setClock(new Date(`${begin}T11:00:00Z`));
    expect((await held(id, await yard.as('trainer'))).status).toBe('lapsed');
    yard.setClock(null);
    admin = await yard.as('administrator');
    await setRules({}, { effectiveFrom: begin, given: 'keep' });
  });
  it('bound what is taken over: no certificate until the end of time', async () => {
    const refused = await record(await addPerson(), today, {
      kind: 'certificate-recorded',
      until: '2190-01-01',
    });
    expect(refused.problem).toMatchObject({ code: 'invalid', errors: [{ path: 'body.until' }] });
  });
});

describe('lists', () => {
  it('page through everybody once, in order, filter and count', async () => {
    const random = seededRandom(5);
    for (let i = 0; i < 30; i++) {
      const id = await addPerson(i % 3 === 0 ? 'Field' : 'Quay');
      if (random() < 0.7)
        await record(id, addMonths(today, -Math.floor(random() * 50)), { kind: 'certificate-recorded' });
    }
    const names: string[] = [];
    let cursor: string | undefined;
    let total = 0;
    do {
      const page = (await trainer.call(routes.matrix, { query: { limit: 7, ...(cursor ? { cursor } : {}) } }))
        .body as RouteAnswer<typeof routes.matrix>;
      names.push(...page.people.map((each) => each.name));
      total = page.total;
      cursor = page.next ?? undefined;
    } while (cursor);
    expect(names.length).toBe(total);
    expect(new Set(names).size).toBe(total);
    const morning = (await trainer.call(routes.today, {})).body as RouteAnswer<typeof routes.today>;
    for (const status of ['lapsed', 'due', 'valid'] as const) {
      const listed = (await trainer.call(routes.people, { query: { status, limit: 200 } }))
        .body as RouteAnswer<typeof routes.people>;
      expect([status, listed.total]).toEqual([status, morning.counts[status] ?? 0]);
      expect(listed.rows.every((row) => row.standings.some((each) => each.standing.status === status))).toBe(
        true,
      );
    }
    expect(morning.attentionTotal).toBe(morning.attention.length);
    const order = morning.attention.map((each) =>
      ['suspended', 'lapsed', 'in-grace', 'due'].indexOf(each.standing.status),
    );
    expect(order).toEqual([...order].sort((a, b) => a - b));
  });
  it('of evaluations page by a place that no two share', async () => {
    for (let i = 0; i < 7; i++) await yard.prepare(trainer);
    const ids: string[] = [];
    let cursor: string | undefined;
    do {
      const page = (
        await trainer.call(routes.evaluations, { query: { limit: 2, ...(cursor ? { cursor } : {}) } })
      ).body as RouteAnswer<typeof routes.evaluations>;
      ids.push(...page.rows.map((each) => each.id));
      cursor = page.next ?? undefined;
    } while (cursor);
    expect(ids.length).toBe(7);
    expect(new Set(ids).size).toBe(7);
  });
});
