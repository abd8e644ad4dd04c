import { calibrationRoutes, type CalibrationView } from '@rounds/contract/calibration';
import { recordReplay, type ReplayScore } from '@rounds/core/calibration';
import { compose } from '@rounds/core/catalogue';
import { forkliftPack } from '@rounds/core/testing';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, click, eventually, settled, show, text, the } from '../testing/mount';
import ReplayScreen from './ReplayScreen.vue';

const pack = compose(forkliftPack(), { variant: 'diesel' });
const round = recordReplay(pack, { seed: 3, length: 'short' });
const ID = '01900000-0000-7000-8000-00000000c001';
let kept: Record<string, ReplayScore>;
let handedIn: string | null;
let server: FakeServer;

function view(): CalibrationView {
  return {
    id: ID,
    title: 'Autumn',
    classTitle: pack.title,
    madeBy: 'Some trainer',
    own: true,
    startedAt: '2026-03-01T08:00:00.000Z',
    closedAt: null,
    seconds: round.seconds,
    plan: pack.plan,
    moments: round.moments,
    criteria: round.criteria.map(({ key: _key, why: _why, ...each }) => each),
    mine:
      Object.keys(kept).length > 0 || handedIn
        ? { scores: kept, way: 'stepped', handedInAt: handedIn }
        : null,
    handedIn: handedIn ? ['Some trainer'] : [],
  };
}
beforeEach(() => {
  kept = {};
  handedIn = null;
  sessionStorage.clear();
  server = fakeServer();
  server.answer(calibrationRoutes.calibration, view);
  server.answer(calibrationRoutes.scoreCalibration, ({ body }) => {
    kept = { ...kept, ...(body as { scores: Record<string, ReplayScore> }).scores };
    return { scored: Object.keys(kept).length };
  });
});
afterEach(() => vi.useRealTimers());
const open = () => show(ReplayScreen, { path: '/assess/calibration/:id', at: `/assess/calibration/${ID}` });
const rows = () => [...document.querySelectorAll<HTMLElement>('[role="group"].three')];
const give = async (row: number, word: string) => {
  [...rows()[row]!.querySelectorAll('button')].find((each) => each.textContent!.trim() === word)!.click();
  await settled();
};
const pressed = (row: number) =>
  rows()[row]!.querySelector('[aria-pressed="true"]')?.textContent!.trim() ?? null;
const next = () => click('button', /^Next/);

describe('a replayed round', () => {
  it('is stepped on and back, moment by moment', async () => {
    await open();
    await click('button', /^Step by step/);
    expect(text()).toContain(round.moments[0]!.says);
    await next();
    await next();
    expect(text()).toContain(round.moments[2]!.says);
    expect(the('button', /^Next/).textContent).toContain(`3 of ${round.moments.length}`);
    await click('button', 'Back');
    expect(the('button', /^Next/).textContent).toContain(`2 of ${round.moments.length}`);
    for (let i = 2; i < round.moments.length; i++) await next();
    expect((the('button', /^It is over/) as HTMLButtonElement).disabled).toBe(true);
  });

  it('plays in time, and stands still while it is held', async () => {
    vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval'] });
    await open();
    await click('button', /^Play it in time/);
    const at = round.moments[2]!.at;
    vi.advanceTimersByTime(at * 1000);
    await settled();
    const shown = round.moments.filter((each) => each.at <= at).at(-1)!;
    expect(document.querySelector('.says')!.textContent).toBe(shown.says);
    await click('button', /^Hold/);
    vi.advanceTimersByTime(60_000);
    await settled();
    expect(document.querySelector('.says')!.textContent).toBe(shown.says);
    expect(the('button', /^Go on/).textContent).toContain('of');
  });

  it('keeps each score at once, and shows no key', async () => {
    await open();
    await give(0, 'Prompted');
    await give(1, 'Not');
    await eventually(() =>
      expect(kept).toEqual({ [round.criteria[0]!.id]: 'prompted', [round.criteria[1]!.id]: 'not' }),
    );
    expect(pressed(0)).toBe('Prompted');
    expect(the('button', /left to score$/).textContent).toContain(String(round.criteria.length - 2));
    for (const { why } of round.criteria) expect(text()).not.toContain(why);
  });

  it('loses no score where the server cannot be reached, over a reload too', async () => {
    const first = await open();
    server.goOffline(true);
    await give(0, 'Done');
    await give(1, 'Not');
    await eventually(() => expect(text()).toContain('2 of your scores are kept on this device only.'));
    expect(pressed(0)).toBe('Done');
    first.wrapper.unmount();
    server.goOffline(false);
    await open();
    expect([pressed(0), pressed(1)]).toEqual(['Done', 'Not']);
    await give(2, 'Prompted');
    await eventually(() => expect(Object.keys(kept)).toHaveLength(3));
  });

  it('is handed in once everything is scored, after a question, and then waits', async () => {
    kept = Object.fromEntries(round.criteria.map((each) => [each.id, 'done' as const]));
    server.answer(calibrationRoutes.handInCalibration, () => {
      handedIn = '2026-03-02T09:00:00.000Z';
      return { done: true as const };
    });
    await open();
    await click('button', 'Hand in');
    expect(handedIn).toBeNull();
    all('button', 'Hand in').at(-1)!.click();
    await eventually(() => expect(text()).toContain('So have: Some trainer.'));
    expect(all('button', 'Close it')).toHaveLength(1);
  });

  it('says why a score was refused', async () => {
    server.answer(calibrationRoutes.scoreCalibration, () => {
      throw new Refusal('calibration-order', 'This calibration is closed; it takes no more scores.');
    });
    await open();
    await give(0, 'Done');
    await eventually(() => expect(text()).toContain('it takes no more scores'));
  });
});
