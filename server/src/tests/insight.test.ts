import { type Insight, type RouteAnswer, routes } from '@rounds/contract';
import { compose } from '@rounds/core/catalogue';
import { caseItem, dealDrill } from '@rounds/core/drill';
import { itemWords } from '@rounds/core/practice';
import { packSource } from '@rounds/core/testing';
import { LEAST_PEOPLE } from '@rounds/core/scrutiny';
import { wilsonInterval } from '@rounds/core/statistics';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { itemReview } from '../data/gradingSchema';
import { drill, practiceReview } from '../data/teachingSchema';
import { type Caller, FORKLIFT, forklift, openYard, send, STROKES, wholeRound, wholeSheet } from './desk';

let yard: Awaited<ReturnType<typeof openYard>>;
let trainer: Caller;
beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
});
afterAll(() => yard.stop());

const pack = forklift();
const effective = compose(pack, { variant: 'diesel' });
type Scrutiny = RouteAnswer<typeof routes.scrutiny>;
const scrutiny = async (by = trainer) =>
  (await by.call(routes.scrutiny, { query: { classId: FORKLIFT } })).body as Scrutiny;
const review = (
  item: string,
  decision: 'keep' | 'change' | 'retire',
  by = trainer,
  reason = 'asked three shops',
) => by.call(routes.reviewItem, { body: { id: uuidv7(), classId: FORKLIFT, item, decision, reason } });

/** People who answered the same items, the last of which the better ones fail. */
async function answered(items: readonly string[], people: number, at = new Date()): Promise<void> {
  for (let p = 0; p < people; p++) {
    const { id } = (
      await yard.admin.call(routes.addPerson, {
        body: {
          payroll: `S-${uuidv7()}`,
          givenName: 'Sam',
          familyName: `Sure ${p}`,
          site: 'Quay',
          team: 'Red',
          born: null,
        },
      })
    ).body as { id: string };
    await yard.house.db.insert(practiceReview).values(
      items.map((item, i) => {
        const knows = (p * 7 + i * 3) % people < p;
        return {
          practiceId: uuidv7(),
          personId: id,
          classId: FORKLIFT,
          item,
          at: at.toISOString(),
          outcome: (i === items.length - 1 ? !knows : knows) ? ('right' as const) : ('wrong' as const),
          mistakenFor: [],
        };
      }),
    );
  }
}
const itemOf = (n: number) => `${pack.faults[n]!.checkpoint}/${pack.faults[n]!.id}`;

describe('items under scrutiny', () => {
  it('flags the key that good people fail; kept, it is quiet until many more have answered it', async () => {
    const items = [0, 1, 2, 3, 4, 5].map(itemOf);
    const bad = items[5]!;
    await answered(items, 24);
    const first = await scrutiny();
    expect(first.classes).toContainEqual(expect.objectContaining({ id: FORKLIFT, toReview: 1 }));
    expect(first.items[0]).toMatchObject({
      item: bad,
      words: itemWords(pack, bad),
      row: pack.faults[5]!.id,
      flags: ['against-the-able'],
      state: 'to-review',
      people: 24,
      reviews: [],
    });
    expect(first.scale!.items).toBe(6);
    expect(first.items[0]!.alphaIfDropped!).toBeGreaterThan(first.scale!.alpha);
    expect((await review(bad, 'keep', trainer, 'short')).status).toBe(422);
    expect((await review(bad, 'keep')).status).toBe(200);
    expect((await scrutiny()).items.find((each) => each.item === bad)).toMatchObject({
      state: 'kept',
      reviews: [{ decision: 'keep', reason: 'asked three shops', by: 'trainer', people: 24 }],
    });
    await answered(items, LEAST_PEOPLE + 2);
    expect((await scrutiny()).items.find((each) => each.item === bad)!.state).toBe('to-review');
    expect((await yard.audited('item-reviewed'))[0]!.detail).toMatchObject({ item: bad, decision: 'keep' });
    // What was decided stays on record for ever.
    await expect(yard.house.db.update(itemReview).set({ reason: 'another' })).rejects.toThrow();
  });

  it('counts what was answered since an item was changed through the editor, and no earlier', async () => {
    const items = [10, 11, 12, 13, 14, 15].map(itemOf);
    const bad = items[5]!;
    await answered(items, 20, new Date(Date.now() - 5_000));
    await review(bad, 'change');
    const state = async () => (await scrutiny()).items.find((each) => each.item === bad)!;
    expect(await state()).toMatchObject({ state: 'to-change', reviews: [{ revision: null }] });
    const { title } = pack.faults.find((each) => each.id === bad.split('/')[1])!;
    const source = packSource(FORKLIFT).replace(`title: ${title}`, 'title: Said otherwise');
    expect(source).toContain('Said otherwise');
    const saved = await trainer.call(routes.saveDraft, {
      params: { id: FORKLIFT },
      body: { source, version: 0 },
    });
    const { version } = saved.body as { version: number };
    const published = await trainer.call(routes.publishDraft, {
      params: { id: FORKLIFT },
      body: { version, note: 'a clearer title' },
    });
    expect([published.status, published.problem]).toEqual([200, published.problem]);
    expect(await state()).toMatchObject({
      state: 'changed',
      people: 0,
      reviews: [{ revision: pack.revision + 1 }],
    });
    await answered(items.slice(4), 3);
    expect((await state()).people).toBe(3);
  });

  it('deals what was retired no more, and deals it again once it is kept', async () => {
    const station = effective.plan.stations.find(
      (each) => effective.checkpoints.filter((check) => check.station === each.id).length === 1,
    );
    const check = effective.checkpoints.find((each) => each.station === station!.id)!;
    const all = [
      `${check.id}/sound`,
      ...effective.faults
        .filter((each) => each.checkpoint === check.id)
        .map((each) => `${check.id}/${each.id}`),
    ];
    for (const item of all) expect((await review(item, 'retire')).status).toBe(200);
    const start = (id = uuidv7()) =>
      trainer.call(routes.startDrill, {
        body: {
          id,
          classId: FORKLIFT,
          variant: 'diesel',
          form: 'station',
          station: station!.id,
          personId: null,
        },
      });
    expect((await start()).problem).toMatchObject({
      code: 'drill-act',
      detail: expect.stringContaining('not dealt just now'),
    });
    await review(all[0]!, 'keep');
    expect((await start()).status).toBe(200);
    const rows = await yard.house.db.select({ deal: drill.deal }).from(drill);
    expect(rows.flatMap((each) => each.deal.cases.map(caseItem))).toEqual([all[0]]);
    // By the same seed without the retired nothing else is dealt.
    expect(
      dealDrill(effective, { form: 'station', seed: 1, station: station!.id, without: new Set(all.slice(1)) })
        .cases,
    ).toHaveLength(1);
  });

  it('refuses a step to be left out, an item that is not there, and everybody but trainers', async () => {
    const step = `step:${pack.procedures[0]!.steps[0]!.id}`;
    expect((await review(step, 'retire')).problem.code).toBe('item-stays');
    expect((await review(step, 'keep')).status).toBe(200);
    expect((await review('CF-999/none', 'retire')).problem.code).toBe('unknown-row');
    for (const role of ['operator', 'supervisor', 'workshop']) {
      const other = await yard.as(role);
      expect((await review(itemOf(0), 'keep', other)).status).toBe(403);
      expect((await other.call(routes.scrutiny, { query: {} })).status).toBe(403);
    }
  });
});

describe('insight', () => {
  it('counts closed evaluations once, by class, system, method and check, for whom one may see', async () => {
    const [stop, mend] = ['stop', 'mend'].map((grade) =>
      effective.faults.find((each) => each.plant && each.grade === grade)!,
    ) as [(typeof effective.faults)[0], (typeof effective.faults)[0]];
    for (const personId of [yard.ids.operatorId, yard.ids.otherId]) {
      const id = await yard.prepare(trainer, personId);
      const [started, ...rest] = wholeRound(effective);
      const closed = await send(trainer, id, [
        { kind: 'planted', fault: stop.id },
        { kind: 'planted', fault: mend.id },
        started!,
        ...rest.slice(0, -1),
        {
          kind: 'reported',
          checkpoint: stop.checkpoint,
          fault: stop.id,
          grade: 'mend',
          prompted: false,
          real: false,
        },
        rest.at(-1)!,
        { kind: 'retrieved', fault: stop.id },
        { kind: 'retrieved', fault: mend.id },
        ...wholeSheet(effective),
        { kind: 'decided', outcome: 'not-yet' },
        { kind: 'signed', role: 'trainer', strokes: STROKES },
        { kind: 'signed', role: 'operator', strokes: STROKES },
      ]);
      expect([closed.status, closed.problem]).toEqual([200, closed.problem]);
    }
    const asked = async (by: Caller, query: object = {}) =>
      (await by.call(routes.insight, { query: query as never })).body as Insight;
    const faults = await asked(trainer, { measure: 'faults' });
    expect(faults).toMatchObject({ evaluations: 2, people: 2, whole: { count: 2, n: 4 } });
    expect(faults.whole).toMatchObject(wilsonInterval(2, 4));
    expect(faults.says[0]).toContain('too few to judge');
    const of = (rows: Insight['missed']['checks'], key: string) => rows.find((each) => each.key === key)!;
    expect(of(faults.missed.checks, `${FORKLIFT} ${mend.id}`)).toMatchObject({ count: 2, n: 2 });
    expect(of(faults.missed.checks, `${FORKLIFT} ${stop.id}`)).toMatchObject({ count: 0, n: 2 });
    expect(faults.missed.classes).toMatchObject([{ key: FORKLIFT, count: 2, n: 4 }]);
    expect(faults.missed.systems.reduce((sum, each) => sum + each.n, 0)).toBe(4);
    expect(faults.grading.people.map((each) => [each.count, each.n])).toEqual([
      [1, 1],
      [1, 1],
    ]);
    expect(faults.trend).toHaveLength(1);
    expect(faults.evaluators).toMatchObject([{ name: 'trainer', evaluations: 2 }]);
    // Asked again, nothing is counted twice.
    expect((await asked(trainer, { measure: 'faults' })).whole!.n).toBe(4);
    const checks = await asked(trainer, { measure: 'checks', classId: FORKLIFT });
    expect(checks.whole).toMatchObject({ count: 0, n: 2 * effective.checkpoints.length });
    expect((await asked(trainer, { classId: 'no-such-class' })).whole).toBeNull();
    const supervisor = await asked(await yard.as('supervisor'), { measure: 'faults' });
    expect(supervisor).toMatchObject({ evaluations: 1, people: 1, evaluators: null });
    expect(JSON.stringify(supervisor)).not.toContain('Pim');
    const practice = await asked(trainer, { measure: 'practice' });
    expect(practice.whole === null || practice.whole.n > 0).toBe(true);
    expect((await (await yard.as('operator')).call(routes.insight, { query: {} as never })).status).toBe(403);
    expect((await trainer.call(routes.insight, { query: { months: 0 } as never })).status).toBe(422);
  });

  it('counts practice from the first minute of the first day where the site is, and none before it', async () => {
    const zone = yard.house.known.timeZone;
    // Fourteen hours ahead the whole year: its first of a month begins on the day before.
    yard.house.known.timeZone = 'Pacific/Kiritimati';
    try {
      const asked = async () =>
        (await trainer.call(routes.insight, { query: { measure: 'practice', months: 1 } as never }))
          .body as Insight;
      const before = await asked();
      const midnight = Date.parse(`${before.from}T00:00:00+14:00`);
      await answered([itemOf(0)], 2, new Date(midnight + 60_000));
      await answered([itemOf(0)], 3, new Date(midnight - 60_000));
      expect((await asked()).whole!.n).toBe((before.whole?.n ?? 0) + 2);
    } finally {
      yard.house.known.timeZone = zone;
    }
  });
});
