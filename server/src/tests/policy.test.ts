import { type PolicyEffect, type RouteAnswer, type RouteInput, routes } from '@rounds/contract';
import { addDays } from '@rounds/core/calendar';
import { compose } from '@rounds/core/catalogue';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { effectivePackOf } from '../classes/packs';
import { policyLine } from '../data/gradingSchema';
import { evaluation } from '../data/schema';
import { type Caller, DEVICE, FORKLIFT, forklift, openYard } from './desk';

let yard: Awaited<ReturnType<typeof openYard>>;
let trainer: Caller;
let today: string;
beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
  today = (await policy()).today;
});
afterAll(() => yard.stop());

type Raise = RouteInput<typeof routes.raisePolicy>['body'];
const policy = async (by = trainer) =>
  (await by.call(routes.policy, {})).body as RouteAnswer<typeof routes.policy>;
const raise = (change: Partial<Raise>, by = trainer) =>
  by.call(routes.raisePolicy, {
    body: {
      id: uuidv7(),
      site: null,
      scope: { of: 'class', classId: FORKLIFT },
      atLeast: 'stop',
      from: today,
      why: 'Nobody drives a truck with anything wrong',
      ...change,
    },
  });
const end = (id: string, on = today) =>
  trainer.call(routes.endPolicy, { params: { id }, body: { on, why: 'Agreed with the safety committee' } });
const atSite = async (site?: string) =>
  (
    (await trainer.call(routes.machineClass, { params: { id: FORKLIFT }, query: { site } }))
      .body as RouteAnswer<typeof routes.machineClass>
  ).policy;
/** A fault of the forklift that is no stop, and one that is sound. */
const pack = compose(forklift(), { variant: 'diesel' });
const mild = pack.faults.find((each) => each.grade === 'watch')!;
const sound = pack.faults.find((each) => each.grade === 'sound')!;

async function evaluationPack() {
  const id = uuidv7();
  const made = await trainer.call(routes.createEvaluation, {
    body: {
      id,
      personId: yard.ids.operatorId,
      classId: FORKLIFT,
      unitId: yard.ids.unitId,
      purpose: 'evaluation',
      variant: 'diesel',
      features: {},
      conditions: '',
      device: DEVICE,
    },
  });
  expect(made.status).toBe(200);
  const [row] = await yard.house.db.select().from(evaluation).where(eq(evaluation.id, id));
  return effectivePackOf(yard.house.db, row!.packHash);
}

describe('the grading policy', () => {
  it('shows first what a line would raise, and then does exactly that', async () => {
    const look = (
      await trainer.call(routes.previewPolicy, {
        body: { site: null, scope: { of: 'class', classId: FORKLIFT }, atLeast: 'stop' },
      })
    ).body as PolicyEffect;
    expect(look.classes.map((each) => each.id)).toEqual([FORKLIFT]);
    expect(look.classes[0]!.faults.map((each) => each.id)).toContain(mild.id);
    expect(look.classes[0]!.faults.map((each) => each.id)).not.toContain(sound.id);
    const before = await evaluationPack();
    const id = uuidv7();
    expect((await raise({ id })).status).toBe(200);
    expect((await raise({ id })).status).toBe(200);
    expect((await policy()).lines.filter((each) => each.id === id)).toMatchObject([
      { state: 'in-force', about: `${pack.title}: every defect`, by: expect.any(String) },
    ]);
    const after = await evaluationPack();
    expect(after.hash).not.toBe(before.hash);
    expect(after.faults.find((each) => each.id === mild.id)).toMatchObject({
      grade: 'stop',
      raised: { from: 'watch', by: id },
    });
    expect(after.faults.find((each) => each.id === sound.id)!.grade).toBe('sound');
    expect(after.policy).toMatchObject([{ id, why: 'Nobody drives a truck with anything wrong' }]);
    // What was prepared before keeps the grades of then.
    expect(
      (await effectivePackOf(yard.house.db, before.hash)).faults.find((each) => each.id === mild.id)!.grade,
    ).toBe('watch');
    expect((await end(id)).status).toBe(200);
    expect((await evaluationPack()).hash).toBe(before.hash);
    expect((await end(id)).problem.code).toBe('policy-ended');
  });

  it('of a site holds there alone, from its day to its end', async () => {
    const [site] = (await policy()).sites;
    const id = uuidv7();
    await raise({ id, site: site!, from: addDays(today, 2) });
    expect(await atSite(site)).toEqual([]);
    yard.setClock(new Date(`${addDays(today, 2)}T10:00:00Z`));
    trainer = await yard.as('trainer');
    expect((await atSite(site)).map((each) => each.id)).toEqual([id]);
    expect(await atSite()).toEqual([]);
    await end(id, addDays(today, 4));
    expect((await policy()).lines.find((each) => each.id === id)).toMatchObject({
      state: 'in-force',
      ended: { on: addDays(today, 4) },
    });
    yard.setClock(new Date(`${addDays(today, 4)}T10:00:00Z`));
    trainer = await yard.as('trainer');
    expect(await atSite(site)).toEqual([]);
    yard.setClock(null);
    trainer = await yard.as('trainer');
  });

  it('is refused backdated, about nothing, for nobody and by others', async () => {
    const code = async (...asked: Parameters<typeof raise>) => (await raise(...asked)).problem?.code;
    expect(await code({ from: addDays(today, -1) })).toBe('date-in-past');
    expect(await code({ scope: { of: 'fault', classId: FORKLIFT, fault: sound.id } })).toBe('nothing-raised');
    expect(await code({ scope: { of: 'fault', classId: FORKLIFT, fault: 'CF-F999' } })).toBe('unknown-row');
    expect(await code({ scope: { of: 'class', classId: 'no-class' } })).toBe('not-found');
    expect(await code({ site: 'Nowhere' })).toBe('not-found');
    expect(await code({ why: 'x' })).toBe('invalid');
    expect(await code({ atLeast: 'watch' as 'mend' })).toBe('invalid');
    expect((await raise({}, await yard.as('operator'))).status).toBe(403);
    expect((await raise({}, await yard.as('supervisor'))).status).toBe(403);
    expect((await policy(await yard.as('supervisor'))).lines.length).toBeGreaterThan(0);
    expect((await end(uuidv7())).problem.code).toBe('not-found');
  });

  it('cannot be changed or taken out of the record, only ended once', async () => {
    const id = uuidv7();
    await raise({ id });
    const db = yard.house.db;
    await expect(db.update(policyLine).set({ atLeast: 'mend' })).rejects.toThrow();
    await expect(db.delete(policyLine)).rejects.toThrow();
    const both = await Promise.all([end(id), end(id)]);
    expect(both.map((each) => each.status).sort()).toEqual([200, 409]);
  });
});
