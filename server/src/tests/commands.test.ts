import {
  type CommandOutcome,
  type CommandView,
  type RouteAnswer,
  type RouteInput,
  routes,
} from '@rounds/contract';
import {
  type CommandDeal,
  type CommandResult,
  type CommandStandard,
  controlsOf,
} from '@rounds/core/commands';
import { type DeskPack, TICKS } from '@rounds/core/machine';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
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

type Asked = RouteInput<typeof routes.startCommands>['body'];
type End = RouteInput<typeof routes.endCommands>['body'];
const ask = (by: Caller, asked: Partial<Asked> = {}) =>
  by.call(routes.startCommands, {
    body: {
      id: uuidv7(),
      classId: FORKLIFT,
      variant: 'lpg',
      calledAt: 'machine',
      place: null,
      full: false,
      personId: yard.ids.operatorId,
      ...asked,
    },
  });
async function begin(by = trainer, asked: Partial<Asked> = {}): Promise<CommandView> {
  const made = await ask(by, asked);
  expect([made.status, made.problem]).toEqual([200, made.problem]);
  return made.body as CommandView;
}
const end = (by: Caller, id: string, body: End) => by.call(routes.endCommands, { params: { id }, body });
const dealOf = (view: CommandView) => view.deal as CommandDeal;
const resultOf = (told: unknown) => (told as CommandOutcome).result as CommandResult;
/** What a trainer taps: everything right but what is said otherwise, by its place in the set. */
const tapped = (view: CommandView, others: Record<number, 'wrong' | 'late'> = {}): End => ({
  calledAt: 'machine',
  answers: dealOf(view).calls.map((call, i) => ({
    call,
    kind: others[i] ?? 'right',
    seconds: 1 + (i % 3) / 10,
  })),
});

describe('a set of commands', () => {
  it('called on the machine joins the record, and two in a row that meet the standard make ready', async () => {
    const [bad, good, better] = [await begin(), await begin(), await begin()];
    expect((bad.standard as CommandStandard).calls).toBe(24);
    expect(dealOf(bad).calls.length).toBeGreaterThanOrEqual(24);
    const failed = (await end(trainer, bad.id, tapped(bad, { 3: 'wrong' }))).body as CommandOutcome;
    expect(resultOf(failed).unmet).toEqual(['One wrong answer; none may be.']);
    expect(failed.ready).toBe(false);
    await end(trainer, good.id, tapped(good));
    const told = (await end(trainer, better.id, tapped(better, { 0: 'late' }))).body as CommandOutcome;
    expect([told.ready, told.sets.map((each) => each.meets)]).toEqual([true, [false, true, true]]);
    expect(told.says[dealOf(better).calls[0]!]).toBeTruthy();
    // The operator sees it on their own record.
    const own = (
      (await operator.call(routes.personPractice, { params: { id: yard.ids.operatorId } }))
        .body as RouteAnswer<typeof routes.personPractice>
    ).classes.find((each) => each.classId === FORKLIFT)!;
    expect(own).toMatchObject({ commandSets: 3, commandsReady: true, lastCommands: { id: better.id } });
    expect((await operator.call(routes.commandOutcome, { params: { id: better.id } })).status).toBe(200);
    expect(await yard.audited('commands-ended')).toEqual(
      expect.arrayContaining([expect.objectContaining({ subject: better.id })]),
    );
  });

  it('ended early is taken as far as it went, and an ended one stays as it is', async () => {
    const view = await begin();
    const some = tapped(view) as Extract<End, { calledAt: 'machine' }>;
    const first = { ...some, answers: some.answers.slice(0, 5) };
    const both = await Promise.all([end(trainer, view.id, first), end(trainer, view.id, some)]);
    const lengths = new Set(both.map((each) => resultOf(each.body).answers.length));
    expect(lengths.size).toBe(1);
    expect(resultOf((await end(trainer, view.id, some)).body).answers).toHaveLength([...lengths][0]!);
  });

  it('at the desk is judged anew from what was done there', async () => {
    const view = await begin(operator, { calledAt: 'desk' });
    const deal = dealOf(view);
    const controls = controlsOf(view.pack as DeskPack)!;
    expect(controls.calls.filter((each) => deal.calls.includes(each.id)).length).toBeGreaterThan(10);
    // Nothing is done: every call is missed, however long it goes on.
    const idle = resultOf(
      (await end(operator, view.id, { calledAt: 'desk', log: [], ticks: 30 * 60 * TICKS })).body,
    );
    expect(idle.counts).toEqual({ right: 0, late: 0, wrong: 0, missed: deal.calls.length });
    const other = await begin(operator, { calledAt: 'desk' });
    const claimed = await end(operator, other.id, tapped(other));
    expect([claimed.status, claimed.problem.code]).toEqual([409, 'command-set']);
  });

  it("refuses what was not dealt, a place that calls nothing, a stranger's set and an operator at a machine", async () => {
    const view = await begin();
    const turned = tapped(view) as Extract<End, { calledAt: 'machine' }>;
    for (const answers of [[...turned.answers].reverse(), [...turned.answers, turned.answers[0]!]])
      expect((await end(trainer, view.id, { calledAt: 'machine', answers })).problem.code).toBe(
        'command-set',
      );
    expect((await ask(trainer, { place: 'roof' })).problem.code).toBe('command-set');
    expect((await ask(trainer, { variant: 'steam' })).problem.code).toBe('composition');
    expect((await ask(trainer, { classId: 'no-such' })).problem.code).toBe('not-found');
    expect((await ask(operator)).problem.code).toBe('forbidden');
    expect((await ask(operator, { calledAt: 'desk', personId: yard.ids.otherId })).problem.code).toBe(
      'forbidden',
    );
    const stranger = await yard.as('trainer2');
    for (const refused of [
      await stranger.call(routes.commands, { params: { id: view.id } }),
      await end(stranger, view.id, tapped(view)),
    ])
      expect([refused.status, refused.problem.code]).toEqual([404, 'not-found']);
    expect((await trainer.call(routes.commandOutcome, { params: { id: view.id } })).problem.code).toBe(
      'not-complete',
    );
    // The same number is the same set.
    expect(dealOf(await begin(trainer, { id: view.id, full: true })).calls).toEqual(dealOf(view).calls);
  });
});
