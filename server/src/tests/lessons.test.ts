import { type RouteAnswer, routes } from '@rounds/contract';
import { compose } from '@rounds/core/catalogue';
import { proposeLesson } from '@rounds/core/teaching';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Caller, FORKLIFT, forklift, openYard } from './desk';
import { listenTo } from './listening';

let yard: Awaited<ReturnType<typeof openYard>>;
let trainer: Caller;
beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
});
afterAll(() => yard.stop());

type View = RouteAnswer<typeof routes.lesson>;
const plan = proposeLesson(compose(forklift(), { variant: 'diesel' }), { subject: 'round', minutes: 30 });

async function begin(id = uuidv7(), by = trainer): Promise<View> {
  const made = await by.call(routes.startLesson, {
    body: { id, classId: FORKLIFT, variant: 'diesel', plan },
  });
  expect(made.status).toBe(200);
  return made.body;
}
const move = (id: string, slide: number, by = trainer, more = {}) =>
  by.call(routes.moveLesson, {
    params: { id },
    body: { slide, blank: false, pointAndCall: false, answered: false, ...more },
  });
const end = (id: string, attended: string[], by = trainer) =>
  by.call(routes.endLesson, { params: { id }, body: { attended } });
/** A device that nobody is signed in on. */
async function screen(code: string) {
  const device = new Caller(yard.address);
  const joined = await device.call(routes.joinLesson, { body: { code } });
  return { device, joined };
}

describe('a lesson', () => {
  it('is followed by a screen that joins by its code, and by no other', async () => {
    const lesson = await begin();
    const other = await begin();
    expect(await begin(lesson.id)).toEqual(lesson);
    const { device, joined } = await screen(` ${lesson.code!.toLowerCase()} `);
    expect(joined.body).toEqual({ id: lesson.id });
    const seen = (await device.call(routes.lesson, { params: { id: lesson.id } })).body as View;
    expect(seen).toMatchObject({ code: null, presents: false, position: { slide: 0 }, plan });
    expect((await device.call(routes.lesson, { params: { id: other.id } })).status).toBe(404);
    expect((await move(lesson.id, 3, device)).status).toBeGreaterThanOrEqual(401);
    const heard = await listenTo(
      { address: yard.address, cookie: device.cookie },
      `/api/lessons/${lesson.id}/events`,
    );
    await heard.until((events) => events.length >= 1);
    await move(other.id, 9);
    await move(lesson.id, 4, trainer, { pointAndCall: true });
    await heard.until((events) => events.some((each) => each.event === 'message'));
    expect(heard.events.filter((each) => each.event === 'message').map((each) => each.data)).toEqual([
      { slide: 4, blank: false, pointAndCall: true, answered: false, ended: false },
    ]);
    // A screen that was away finds the right place again.
    const back = (await device.call(routes.lesson, { params: { id: lesson.id } })).body as View;
    expect(back.position).toMatchObject({ slide: 4, pointAndCall: true });
    await end(lesson.id, []);
    await heard.ended;
    expect((await device.call(routes.lesson, { params: { id: lesson.id } })).status).toBe(401);
  });

  it('lets nobody in by a wrong code, nor by one of a lesson that has ended', async () => {
    const lesson = await begin();
    expect((await screen('NOCODE')).joined.status).toBe(404);
    await end(lesson.id, []);
    expect((await screen(lesson.code!)).joined.problem.code).toBe('not-found');
    for (let n = 0; n < 12; n++) await screen('XXXXXX');
    expect((await screen('XXXXXX')).joined.problem.code).toBe('too-many-attempts');
    await yard.house.limits.unlock('lesson code');
  });

  it('is moved and ended by who gives it alone', async () => {
    const lesson = await begin();
    const second = await yard.as('trainer2');
    expect((await move(lesson.id, 2, second)).status).toBe(404);
    expect((await end(lesson.id, [], second)).status).toBe(404);
    expect((await second.call(routes.lesson, { params: { id: lesson.id } })).body).toMatchObject({
      presents: false,
      code: null,
    });
    for (const login of ['operator', 'supervisor', 'workshop'])
      expect((await (await yard.as(login)).call(routes.lesson, { params: { id: lesson.id } })).status).toBe(
        403,
      );
    await move(lesson.id, 599);
    const at = (await trainer.call(routes.lesson, { params: { id: lesson.id } })).body as View;
    expect(at.position.slide).toBe(plan.items.length - 1);
  });

  it('puts who attended on record once, and nobody when somebody on the list is unknown', async () => {
    const lesson = await begin();
    const { operatorId, otherId } = yard.ids;
    expect((await end(lesson.id, [operatorId, uuidv7()])).status).toBe(404);
    const history = async (id: string) =>
      (
        (await trainer.call(routes.person, { params: { id } })).body as RouteAnswer<typeof routes.person>
      ).history.filter((each) => each.kind === 'taught');
    expect(await history(operatorId)).toEqual([]);
    expect((await end(lesson.id, [operatorId, otherId, operatorId])).status).toBe(200);
    expect(await history(operatorId)).toMatchObject([{ words: 'Taught: walk-round', by: 'trainer' }]);
    expect(await history(otherId)).toHaveLength(1);
    const again = await end(lesson.id, [operatorId]);
    expect(again.problem.code).toBe('lesson-over');
    expect((await move(lesson.id, 1)).problem.code).toBe('lesson-over');
    expect(await history(operatorId)).toHaveLength(1);
    const { rows } = (await trainer.call(routes.lessons, {})).body as RouteAnswer<typeof routes.lessons>;
    expect(rows.find((each) => each.id === lesson.id)).toMatchObject({
      attended: 2,
      ended: true,
      presents: false,
    });
  });

  it('refuses a plan without anything to show, or with more than a day holds', async () => {
    const ask = (items: typeof plan.items) =>
      trainer.call(routes.startLesson, {
        body: { id: uuidv7(), classId: FORKLIFT, variant: 'diesel', plan: { ...plan, items } },
      });
    expect((await ask([])).problem.code).toBe('invalid');
    expect((await ask(Array.from({ length: 601 }, () => plan.items[1]!))).problem.code).toBe('invalid');
  });
});

describe('a kept lesson', () => {
  type Rows = RouteAnswer<typeof routes.plans>['rows'];
  const keep = (id: string, title: string, by = trainer, more = {}) =>
    by.call(routes.keepPlan, {
      params: { id },
      body: { title, classId: FORKLIFT, variant: 'diesel', site: null, plan, ...more },
    });
  const listed = async (by = trainer) => ((await by.call(routes.plans, {})).body as { rows: Rows }).rows;

  it('is there for every trainer, changed by whoever kept it, and printed', async () => {
    const id = uuidv7();
    expect((await keep(id, 'Forks and chains')).status).toBe(200);
    expect((await keep(id, 'Forks, chains and mast')).status).toBe(200);
    expect(await listed()).toEqual([
      expect.objectContaining({ id, title: 'Forks, chains and mast', plan, own: true, variant: 'diesel' }),
    ]);
    const other = await yard.as('administrator');
    expect((await listed(other))[0]).toMatchObject({ id, own: false });
    expect((await keep(id, 'Taken over', other)).status).toBe(404);
    expect((await other.call(routes.dropPlan, { params: { id } })).status).toBe(404);
    const paper = await trainer.raw('GET', `/api/lesson-plans/${id}/lesson.pdf`);
    expect([paper.status, paper.headers.get('content-type')]).toEqual([200, 'application/pdf']);
    expect((await paper.arrayBuffer()).byteLength).toBeGreaterThan(20_000);
    expect((await trainer.call(routes.dropPlan, { params: { id } })).status).toBe(200);
    expect(await listed()).toEqual([]);
    expect((await trainer.raw('GET', `/api/lesson-plans/${id}/lesson.pdf`)).status).toBe(404);
  });

  it('is refused without a name, for a kind the class does not have, and to whoever does not teach', async () => {
    expect((await keep(uuidv7(), '')).status).toBe(422);
    expect((await keep(uuidv7(), 'Steam', trainer, { variant: 'steam' })).status).toBe(422);
    expect((await keep(uuidv7(), 'Nothing', trainer, { classId: 'no-such-class' })).status).toBe(404);
    expect((await keep(uuidv7(), 'Mine', await yard.as('operator'))).status).toBe(403);
    expect(await listed()).toEqual([]);
  });
});
