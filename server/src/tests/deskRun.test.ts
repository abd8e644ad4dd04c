import { type DeskOutcome, type DeskView, type RouteAnswer, type RouteInput, routes } from '@rounds/contract';
import {
  type DeskDeal,
  type DeskPack,
  type DeskResult,
  dealtMachine,
  type LoggedAct,
  machineOf,
  workThrough,
} from '@rounds/core/machine';
import { session } from '@rounds/core/procedure';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { practiceReview } from '../data/teachingSchema';
import { type Caller, FORKLIFT, openYard } from './desk';

let yard: Awaited<ReturnType<typeof openYard>>;
let operator: Caller;
let trainer: Caller;
beforeAll(async () => {
  yard = await openYard();
  operator = await yard.as('operator');
  trainer = await yard.as('trainer');
});
afterAll(() => yard.stop());

type Asked = RouteInput<typeof routes.startDesk>['body'];
type Log = RouteInput<typeof routes.keepDesk>['body']['log'];
const ask = (by: Caller, asked: Partial<Asked> = {}) =>
  by.call(routes.startDesk, {
    body: {
      id: uuidv7(),
      classId: FORKLIFT,
      variant: 'lpg',
      program: 'start',
      mode: 'test',
      surprise: false,
      personId: yard.ids.operatorId,
      ...asked,
    },
  });
async function begin(by = operator, asked: Partial<Asked> = {}): Promise<DeskView> {
  const made = await ask(by, asked);
  expect([made.status, made.problem]).toEqual([200, made.problem]);
  return made.body as DeskView;
}
/** Everything done as it is meant, by whoever knows the way. */
function rightWork(view: DeskView): { log: Log; ticks: number } {
  const pack = view.pack as DeskPack;
  const deal = view.deal as DeskDeal;
  const machine = machineOf(pack)!;
  const blind = dealtMachine(machine, { ...deal, failures: [] });
  const { log, state } = workThrough(machine, session(pack, deal.procedures), blind);
  return { log: log as Log, ticks: state.tick };
}
const keep = (by: Caller, id: string, body: { log: LoggedAct[] | Log; ticks: number }) =>
  by.call(routes.keepDesk, { params: { id }, body: body as { log: Log; ticks: number } });
const end = (by: Caller, id: string, body: { log: Log; ticks: number }) =>
  by.call(routes.endDesk, { params: { id }, body });
const resultOf = (told: unknown) => (told as DeskOutcome).result as DeskResult;

describe('a run at the desk', () => {
  it('is judged from its log alone, joins the record, and is compared with those before it', async () => {
    const view = await begin();
    const work = rightWork(view);
    const told = await end(operator, view.id, work);
    expect(told.status).toBe(200);
    expect(resultOf(told.body)).toMatchObject({ score: 100, critical: 0, breaches: [], failed: 0 });
    const reviews = await yard.house.db
      .select()
      .from(practiceReview)
      .where(eq(practiceReview.practiceId, view.id));
    expect(reviews.length).toBeGreaterThan(10);
    expect(new Set(reviews.map((each) => each.outcome))).toEqual(new Set(['right']));

    // Nothing done at all: every due step is left out, and the record has it as the last run.
    const idle = await begin();
    const nothing = resultOf((await end(operator, idle.id, { log: [], ticks: 50 })).body);
    expect(nothing.score).toBe(0);
    expect(nothing.critical).toBeGreaterThan(5);
    const again = (await trainer.call(routes.deskOutcome, { params: { id: idle.id } })).body as DeskOutcome;
    expect(again.earlier.map((each) => each.score)).toEqual([100]);
    const record = (await operator.call(routes.personPractice, { params: { id: yard.ids.operatorId } }))
      .body as RouteAnswer<typeof routes.personPractice>;
    const own = record.classes.find((each) => each.classId === FORKLIFT)!;
    expect(own.desks).toBe(2);
    expect(own.lastDesk).toMatchObject({ id: idle.id, score: 0, program: 'start' });
    expect(own.forgotten.some((each) => each.item.startsWith('step:'))).toBe(true);
  });

  it('keeps what was done so far, and takes nothing that differs from it', async () => {
    const view = await begin();
    const { log, ticks } = rightWork(view);
    const half = { log: log.slice(0, 6), ticks: log[5]!.tick };
    expect((await keep(operator, view.id, half)).body).toEqual({ acts: 6, ticks: half.ticks });
    const opened = (await operator.call(routes.desk, { params: { id: view.id } })).body as DeskView;
    expect([opened.log, opened.ticks, opened.ended]).toEqual([half.log, half.ticks, false]);
    const open = (
      (await operator.call(routes.personPractice, { params: { id: yard.ids.operatorId } }))
        .body as RouteAnswer<typeof routes.personPractice>
    ).open;
    expect(open).toContainEqual(expect.objectContaining({ id: view.id, what: 'desk' }));
    for (const worse of [
      { log: log.slice(0, 5), ticks },
      { log: half.log, ticks: half.ticks - 1 },
      { log: [...log].reverse(), ticks },
      {
        log: log.map((each, i) => (i === 2 ? { ...each, act: { kind: 'call', says: 'x' } } : each)) as Log,
        ticks,
      },
      { log, ticks: 3 },
    ]) {
      const refused = await keep(operator, view.id, worse);
      expect([refused.status, refused.problem.code]).toEqual([409, 'desk-run']);
    }
    // What only the scene may do is no act of a learner.
    const scene = await keep(operator, view.id, {
      log: [...log, { tick: ticks, act: { kind: 'scene', name: 'engine.running', to: 'yes' } }],
      ticks,
    });
    expect([scene.status, scene.problem.code]).toEqual([422, 'invalid']);
    const both = await Promise.all([
      end(operator, view.id, { log, ticks }),
      end(operator, view.id, { log, ticks }),
    ]);
    expect(both.map((each) => resultOf(each.body).score)).toEqual([100, 100]);
    expect((await keep(operator, view.id, { log, ticks: ticks + 5 })).problem.code).toBe('desk-run');
    expect(await yard.audited('desk-ended')).toEqual(
      expect.arrayContaining([expect.objectContaining({ subject: view.id })]),
    );
  });

  it('lets something go wrong that whoever goes on blindly does not handle', async () => {
    const view = await begin(trainer, { surprise: true, program: 'whole', personId: null });
    const deal = view.deal as DeskDeal;
    expect(deal.failures).toHaveLength(1);
    const result = resultOf((await end(trainer, view.id, rightWork(view))).body);
    expect(result.failed).toBe(1);
    expect(result.reactions[0]!.failure).toBe(deal.failures[0]);
    expect(result.reactions[0]!.right.length).toBeGreaterThan(0);
  });

  it('finds the machine at work where the stop is practised, and judges nothing where it is only tried', async () => {
    const stop = await begin(operator, { program: 'stop' });
    expect((stop.deal as DeskDeal).found).not.toBeNull();
    expect(resultOf((await end(operator, stop.id, rightWork(stop))).body).score).toBe(100);
    const free = await begin(operator, { program: 'free', mode: 'free' });
    expect(resultOf((await end(operator, free.id, { log: [], ticks: 100 })).body)).toMatchObject({
      score: null,
      seconds: 10,
    });
  });

  it("is nobody else's, and tells of a class or program that it does not have", async () => {
    const view = await begin();
    const stranger = await yard.as('trainer2');
    for (const refused of [
      await stranger.call(routes.desk, { params: { id: view.id } }),
      await keep(stranger, view.id, { log: [], ticks: 0 }),
      await end(stranger, view.id, { log: [], ticks: 0 }),
      await ask(operator, { classId: 'no-such-class' }),
    ])
      expect([refused.status, refused.problem.code]).toEqual([404, 'not-found']);
    expect((await stranger.call(routes.deskOutcome, { params: { id: view.id } })).problem.code).toBe(
      'not-complete',
    );
    expect((await ask(operator, { personId: yard.ids.otherId })).problem.code).toBe('forbidden');
    expect((await ask(operator, { variant: 'steam' })).problem.code).toBe('composition');
    // The same number is the same run.
    const same = await begin(operator, { id: view.id, program: 'whole' });
    expect(same.program).toBe('start');
  });
});
