import { type RouteAnswer, routes } from '@rounds/contract';
import { addDays } from '@rounds/core/calendar';
import type { CertificationEventBody } from '@rounds/core/certification';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type Caller, FORKLIFT, openYard, type Yard } from './desk';

/** How lists are put in order, paged, narrowed and counted by the server. */
let yard: Yard;
let trainer: Caller;
const TODAY = '2026-05-20';
const NAMES = [
  ['P1', 'Ann', 'Ames', 'Quay', 'Blue'],
  ['P2', 'Bea', 'Boot', 'Quay', 'Green'],
  ['P3', 'Cid', 'Cope', 'Quarry', 'Blue'],
  ['P4', 'Dot', 'Dray', 'Quarry', 'Red'],
  ['P5', 'Eve', 'Eddy', 'Field', 'Red'],
] as const;
const ids = new Map<string, string>();

beforeAll(async () => {
  yard = await openYard();
  yard.setClock(new Date(`${TODAY}T10:00:00Z`));
  trainer = await yard.as('trainer');
  for (const [payroll, givenName, familyName, site, team] of NAMES) {
    const made = await trainer.call(routes.addPerson, {
      body: { payroll, givenName, familyName, site, team, born: '1990-04-02' },
    });
    ids.set(givenName, (made.body as { id: string }).id);
  }
  const record = async (who: string, on: string, body: CertificationEventBody) => {
    const answer = await trainer.call(routes.addCertificationEvent, {
      params: { id: ids.get(who)! },
      body: { classId: FORKLIFT, on, body },
    });
    expect([who, answer.status]).toEqual([who, 200]);
  };
  // Ann runs long, Bea is due soon, Cid lapsed, Dot is suspended, Eve has nothing on record.
  await record('Ann', addDays(TODAY, -100), { kind: 'certificate-recorded' });
  await record('Bea', addDays(TODAY, -900), { kind: 'certificate-recorded', until: addDays(TODAY, 20) });
  await record('Cid', addDays(TODAY, -1200), { kind: 'certificate-recorded', until: addDays(TODAY, -300) });
  await record('Dot', addDays(TODAY, -100), { kind: 'certificate-recorded' });
  await record('Dot', addDays(TODAY, -2), { kind: 'suspended', words: 'rack leg struck' });
});
afterAll(() => yard.stop());

type Query = Parameters<typeof peoplePage>[0];
async function peoplePage(query: {
  sort?: string;
  order?: string;
  page?: number;
  limit?: number;
  search?: string;
  status?: string;
  site?: string;
  team?: string;
}) {
  const asked = { search: 'P', ...query } as never;
  const { status, body } = await trainer.call(routes.people, { query: asked });
  expect(status).toBe(200);
  return body as RouteAnswer<typeof routes.people>;
}
const names = async (query: Query) => (await peoplePage(query)).rows.map((each) => each.person.givenName);
/** The people of this test; those of the yard stand among them. */
const own = (list: string[]) => list.filter((each) => ids.has(each));

describe('the roster', () => {
  it('stands in the order asked for, and the other way round', async () => {
    expect(own(await names({ sort: 'name' }))).toEqual(['Ann', 'Bea', 'Cid', 'Dot', 'Eve']);
    expect(own(await names({ sort: 'name', order: 'descending' }))).toEqual([
      'Eve',
      'Dot',
      'Cid',
      'Bea',
      'Ann',
    ]);
    expect(own(await names({ sort: 'payroll', order: 'descending' }))).toEqual([
      'Eve',
      'Dot',
      'Cid',
      'Bea',
      'Ann',
    ]);
    expect(own(await names({ sort: 'site' }))).toEqual(['Eve', 'Cid', 'Dot', 'Ann', 'Bea']);
    expect(own(await names({ sort: 'team', order: 'descending' }))).toEqual([
      'Dot',
      'Eve',
      'Bea',
      'Ann',
      'Cid',
    ]);
  });

  it('by standing has the gravest first and who has nothing last, either way', async () => {
    expect(own(await names({ sort: 'standing' }))).toEqual(['Dot', 'Cid', 'Bea', 'Ann', 'Eve']);
    expect(own(await names({ sort: 'standing', order: 'descending' }))).toEqual([
      'Ann',
      'Bea',
      'Cid',
      'Dot',
      'Eve',
    ]);
  });

  it('by end has what runs out first; what no longer runs stands with what never did', async () => {
    expect(own(await names({ sort: 'until' }))).toEqual(['Bea', 'Ann', 'Cid', 'Dot', 'Eve']);
    expect(own(await names({ sort: 'until', order: 'descending' }))).toEqual([
      'Ann',
      'Bea',
      'Cid',
      'Dot',
      'Eve',
    ]);
  });

  it('comes page by page, each person once, with the number of all', async () => {
    const seen: string[] = [];
    const whole = await names({ sort: 'standing', limit: 200 });
    for (let page = 1; seen.length < whole.length; page++) {
      const part = await peoplePage({ sort: 'standing', page, limit: 2 });
      expect([part.rows.length > 0, part.total]).toEqual([true, whole.length]);
      seen.push(...part.rows.map((each) => each.person.givenName));
    }
    expect(seen).toEqual(whole);
    expect((await peoplePage({ page: 99 })).rows).toEqual([]);
  });

  it('counts what a search and the choices leave', async () => {
    expect((await peoplePage({ search: 'Cid Cope' })).total).toBe(1);
    expect((await peoplePage({ search: '%' })).total).toBe(0);
    expect((await peoplePage({ search: '_' })).total).toBe(0);
    expect(await names({ status: 'suspended' })).toEqual(['Dot']);
    expect(await names({ site: 'Quarry', team: 'Blue' })).toEqual(['Cid']);
    // What may be chosen does not shrink with what was chosen.
    expect((await peoplePage({ site: 'Quarry' })).sites).toEqual(['Field', 'Quarry', 'Quay']);
  });

  it('refuses an order or a page that is none, by name', async () => {
    for (const [query, path] of [
      [{ sort: 'born' }, 'sort'],
      [{ order: 'sideways' }, 'order'],
      [{ page: 0 }, 'page'],
      [{ page: 'two' }, 'page'],
      [{ limit: 1000 }, 'limit'],
    ] as const) {
      const { status, problem } = await trainer.call(routes.people, { query: query as never });
      expect([status, problem.code, problem.errors?.[0]?.path]).toEqual([422, 'invalid', path]);
    }
  });
});

describe('the evaluations', () => {
  const list = async (query: Record<string, unknown>) => {
    const { body } = await trainer.call(routes.evaluations, { query: query as never });
    return body as RouteAnswer<typeof routes.evaluations>;
  };
  const who = async (query: Record<string, unknown>) =>
    (await list(query)).rows.map((each) => each.personName.split(' ')[0]);

  beforeAll(async () => {
    for (const name of ['Cid', 'Ann', 'Bea']) await yard.prepare(trainer, ids.get(name));
  });

  it('stand newest first, or by person, and are counted', async () => {
    expect(await who({})).toEqual(['Bea', 'Ann', 'Cid']);
    expect(await who({ order: 'ascending' })).toEqual(['Cid', 'Ann', 'Bea']);
    expect(await who({ sort: 'person', order: 'ascending' })).toEqual(['Ann', 'Bea', 'Cid']);
    expect(await who({ sort: 'person', order: 'descending', limit: 1, page: 2 })).toEqual(['Bea']);
    // Not scored yet: those of one place stand newest first.
    expect(await who({ sort: 'score', order: 'ascending' })).toEqual(['Bea', 'Ann', 'Cid']);
    expect((await list({ limit: 1 })).total).toBe(3);
  });

  it('are found by person, machine or class, and by being open', async () => {
    expect(await who({ search: 'ann am' })).toEqual(['Ann']);
    expect((await list({ search: 't-1' })).total).toBe(3);
    expect((await list({ search: 'counterbalance' })).total).toBe(3);
    expect((await list({ search: 'crane' })).total).toBe(0);
    expect((await list({ open: 'yes' })).total).toBe(3);
    expect((await list({ open: 'no' })).rows).toEqual([]);
  });

  it('go on from a place only in the order of time', async () => {
    const first = await list({ limit: 2 });
    expect((await who({ limit: 2, cursor: first.next })).length).toBe(1);
    expect((await list({ limit: 2, sort: 'person' })).next).toBeNull();
    const broken = await trainer.call(routes.evaluations, { query: { cursor: 'nowhere' } as never });
    expect(broken.status).toBe(422);
  });
});
