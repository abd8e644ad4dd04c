import { deskRoutes, type DeskView } from '@rounds/contract/desk';
import { compose } from '@rounds/core/catalogue';
import {
  askedOf,
  cardsOf,
  dealDesk,
  deskPackOf,
  type DeskResult,
  dealtMachine,
  judgeDesk,
  type LoggedAct,
  machineOf,
  workThrough,
} from '@rounds/core/machine';
import { session } from '@rounds/core/procedure';
import { forkliftPack, shippedPack } from '@rounds/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { fakeServer, type FakeServer } from '../testing/fakeServer';
import { all, click, eventually, show, text, the } from '../testing/mount';
import DeskResultScreen from './DeskResultScreen.vue';
import DeskScreen from './DeskScreen.vue';

const ID = '01900000-0000-7000-8000-00000000d001';
const AT = '2026-03-02T09:00:00.000Z';
let server: FakeServer;
beforeEach(() => {
  sessionStorage.clear();
  server = fakeServer();
});

const forklift = compose(forkliftPack(), { variant: 'lpg' });
const pallet = compose(shippedPack('powered-pallet-truck'), { variant: 'electric' });
function view(
  pack: typeof forklift,
  program: DeskView['program'],
  mode: DeskView['mode'],
  more: Partial<DeskView> = {},
): DeskView {
  const own = deskPackOf(pack);
  return {
    id: ID,
    classId: pack.id,
    classTitle: pack.title,
    program,
    mode,
    person: null,
    startedAt: AT,
    ended: false,
    pack: own,
    deal: dealDesk(own, machineOf(own)!, program, { surprise: false, seed: 1 }),
    log: [],
    ticks: 0,
    ...more,
  };
}
const at = { at: `/practise/desk/${ID}`, path: '/practise/desk/:id' };

describe('the desk', () => {
  it('shows what is in reach where one is, works it, and tells what cannot be done from there', async () => {
    server.answer(deskRoutes.desk, () => view(forklift, 'free', 'free'));
    server.answer(deskRoutes.keepDesk, { acts: 0, ticks: 0 });
    await show(DeskScreen, at);
    await eventually(() => the('img', /^The machine from above/));
    expect(all('button', /^Key switch: /)).toEqual([]);
    await click('button', /In the seat/);
    await eventually(() => expect(all('button', /^Key/).length).toBeGreaterThan(1));
    expect(text()).toContain('You go: In the seat');
    await click('button', /^Key.*: on$/);
    expect(the('button', /^Key.*: on$/).getAttribute('aria-pressed')).toBe('true');
  });

  it('holds what falls back while it is pressed, and keeps it for those who cannot hold', async () => {
    server.answer(deskRoutes.desk, () => view(forklift, 'free', 'free'));
    server.answer(deskRoutes.keepDesk, { acts: 0, ticks: 0 });
    await show(DeskScreen, at);
    await eventually(() => the('img', /^The machine from above/));
    await click('button', /In the seat/);
    await eventually(() => the('button', /^Horn.*: Hold$/));
    const horn = () => the('button', /^Horn.*: Hold$/);
    const event = (type: string) => horn().dispatchEvent(new Event(type, { bubbles: true }));
    event('pointerdown');
    await eventually(() => expect(horn().getAttribute('aria-pressed')).toBe('true'));
    event('pointerup');
    await eventually(() => expect(horn().getAttribute('aria-pressed')).toBe('false'));
    await click('button', /^Horn.*keep it where it is put$/);
    event('pointerdown');
    event('pointerup');
    await eventually(() => expect(horn().getAttribute('aria-pressed')).toBe('true'));
    event('pointerdown');
    await eventually(() => expect(horn().getAttribute('aria-pressed')).toBe('false'));
  });

  it('shows the way where it is guided', async () => {
    server.answer(deskRoutes.desk, () => view(pallet, 'start', 'guided'));
    server.answer(deskRoutes.keepDesk, { acts: 0, ticks: 0 });
    await show(DeskScreen, at);
    await eventually(() => expect(text()).toContain('May come next'));
  });

  it('shows nothing of the way in a test', async () => {
    server.answer(deskRoutes.desk, () => view(pallet, 'start', 'test'));
    server.answer(deskRoutes.keepDesk, { acts: 0, ticks: 0 });
    await show(DeskScreen, at);
    await eventually(() => the('img', /^The machine from above/));
    expect(text()).not.toContain('May come next');
  });

  it('goes on where it was left', async () => {
    const own = view(pallet, 'start', 'test');
    const machine = machineOf(deskPackOf(pallet))!;
    const { log, state } = workThrough(
      machine,
      session(pallet, (own.deal as { procedures: string[] }).procedures),
      dealtMachine(machine, own.deal as never),
    );
    server.answer(deskRoutes.desk, () => ({ ...own, log: log as never, ticks: state.tick }));
    server.answer(deskRoutes.keepDesk, { acts: 0, ticks: 0 });
    await show(DeskScreen, at);
    const place = machine.desk.places.find(
      (each) => each.id === String(state.readings[machine.numberOf('place')]),
    )!;
    await eventually(() => expect(text()).toContain(place.name));
    expect(the('img', /^The machine from above/).getAttribute('aria-label')).toContain(place.name);
  });
});

describe('what a run comes to', () => {
  it('is the score, what was forbidden with time and length, and what was done about what failed', async () => {
    const own = view(forklift, 'whole', 'test');
    const pack = deskPackOf(forklift);
    const machine = machineOf(pack)!;
    const deal = dealDesk(pack, machine, 'whole', { surprise: true, seed: 3 });
    const { log } = workThrough(
      machine,
      session(forklift, deal.procedures),
      dealtMachine(machine, { ...deal, failures: [] }),
    );
    const done: LoggedAct[] = log.slice(0, 60);
    const ticks = done.at(-1)!.tick + 50;
    const { result } = judgeDesk(pack, machine, deal, done, ticks);
    server.answer(deskRoutes.deskOutcome, {
      ...own,
      deal,
      log: done as never,
      ticks,
      ended: true,
      endedAt: AT,
      result: result satisfies DeskResult,
      earlier: [{ id: ID, endedAt: AT, score: 40, critical: 2, seconds: 75 }],
    });
    await show(DeskResultScreen, { at: `/practise/desk/${ID}/result`, path: '/practise/desk/:id/result' });
    await eventually(() => expect(text()).toContain('of 100'));
    expect(text()).toContain('What went how');
    expect(text()).toContain('Earlier runs');
    if (result.failed > 0) expect(text()).toMatch(/Handled|Not handled/);
    else expect(text()).toContain('never came to where it begins');
  });
});

describe('what a desk cannot show', () => {
  const own = deskPackOf(pallet);
  const { desk } = machineOf(own)!;
  const rule = cardsOf(desk)[0]!;
  const card = { rule, tick: 5, offers: [1, 0, 2] };
  const asked = askedOf(desk, rule)!;

  it('is asked while the clock stands, and goes on with the answer', async () => {
    const deal = { procedures: [], found: null, failures: [], cards: [card] };
    server.answer(deskRoutes.desk, () => view(pallet, 'free', 'free', { deal }));
    server.answer(deskRoutes.keepDesk, { acts: 0, ticks: 0 });
    await show(DeskScreen, at);
    await eventually(() => expect(text()).toContain(asked.says));
    // As they were dealt, not the right one first.
    const offers = all('button').map((each) => each.textContent?.trim() ?? '');
    expect(offers.indexOf(asked.wrong[0]!)).toBeLessThan(offers.indexOf(asked.right));
    await click('button', asked.right);
    await eventually(() => expect(text()).toContain(`You: ${asked.right}`));
    const log = JSON.parse(sessionStorage.getItem(`rounds-desk-${ID}`)!) as { log: LoggedAct[] };
    expect(log.log.map((each) => each.act)).toEqual([{ kind: 'answer', rule, offer: 0 }]);
  });

  it('is told afterwards with what it wants, where the answer was wrong', async () => {
    const deal = { procedures: [], found: null, failures: [], cards: [card] };
    const log: LoggedAct[] = [{ tick: 20, act: { kind: 'answer', rule, offer: 1 } }];
    const { result } = judgeDesk(own, machineOf(own)!, deal, log, 100);
    server.answer(deskRoutes.deskOutcome, {
      ...view(pallet, 'free', 'free', { deal }),
      log: log as never,
      ticks: 100,
      ended: true,
      endedAt: AT,
      result,
      earlier: [],
    });
    await show(DeskResultScreen, { at: `/practise/desk/${ID}/result`, path: '/practise/desk/:id/result' });
    await eventually(() => expect(text()).toContain('Answered wrong'));
    expect(text()).toContain(asked.wrong[0]!);
    expect(text()).toContain(`What it wants: ${asked.right}`);
  });
});
