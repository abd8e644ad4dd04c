import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { signIn, VIEWS } from '../tools/views';
import { axeFindings } from './axe';

/**
 * Every screen at every size: axe-core finds nothing, nothing scrolls sideways, no error reaches the console.
 * The lights take turns, so that every screen is looked at in each and every size in each; with
 * ROUNDS_SCREENS=all every screen is looked at in every light at every size.
 */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

const SIZES = [
  { width: 1280, height: 800 },
  { width: 390, height: 844 },
  { width: 1920, height: 1080 },
  // A window of 1280 x 800 at 200 % zoom.
  { width: 640, height: 400 },
] as const;
const LIGHTS = ['paper', 'night', 'sun'] as const;
const all = process.env['ROUNDS_SCREENS'] === 'all';

/** Changes the light as another window of the same device does, and waits until nothing moves any more. */
const setLight = (page: Page, light: (typeof LIGHTS)[number]) =>
  page.evaluate(async (name) => {
    const key = 'rounds-theme';
    localStorage.setItem(key, name);
    dispatchEvent(new StorageEvent('storage', { key, newValue: name, storageArea: localStorage }));
    const frame = () => new Promise(requestAnimationFrame);
    // One movement may lead to the next, as of a choice that slides to its place.
    for (let still = 0; still < 3; still++) {
      await frame();
      const moving = document.getAnimations().filter((each) => each.playState === 'running');
      if (moving.length > 0 || document.querySelector('.ant-segmented-thumb')) still = -1;
      await Promise.allSettled(moving.map((each) => each.finished));
    }
  }, light);

/** What is wrong with an open screen at one size. */
async function findingsAt(page: Page, size: number, turn: number): Promise<string[]> {
  const { width, height } = SIZES[size]!;
  await page.setViewportSize({ width, height });
  const found: string[] = [];
  const inTurn = (turn + size) % 2 === 0 ? [LIGHTS[(turn + size) % LIGHTS.length]!] : [];
  for (const light of all ? LIGHTS : inTurn) {
    await setLight(page, light);
    expect(await page.evaluate(() => document.documentElement.dataset['theme'])).toBe(light);
    found.push(...(await axeFindings(page)).map((each) => `in ${light}: ${each}`));
  }
  const sideways = await page.evaluate(
    () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
  );
  if (sideways > 1) found.push(`scrolls sideways by ${sideways} px`);
  return found.map((each) => `${width} x ${height} ${each}`);
}

const LOGINS = [...new Set(VIEWS.map((each) => each.as))];

describe('every screen is accessible in every light and fits every size', () => {
  it.each(LOGINS)('as %s', { timeout: 1_200_000 }, async (login) => {
    const { context, close } = await openBrowser();
    const page = context.pages()[0]!;
    await context.addInitScript(() => localStorage.setItem('rounds-device', 'tablet-of-the-test'));
    if (login) await signIn(page, demo.address, login);
    const findings: string[] = [];
    let open = '';
    page.on('pageerror', (error) => findings.push(`${open}: ${error.message}`));
    for (const [turn, view] of VIEWS.filter((each) => each.as === login).entries()) {
      open = view.name;
      await page.setViewportSize(SIZES[0]);
      await view.open(page, demo.address);
      for (const size of SIZES.keys())
        findings.push(...(await findingsAt(page, size, turn)).map((each) => `${open}: ${each}`));
    }
    await close();
    expect(findings).toEqual([]);
  });
});

describe('the run screen', () => {
  it('has no target under 56 px at 1280 x 800', async () => {
    const { context, close } = await openBrowser();
    const page = context.pages()[0]!;
    await signIn(page, demo.address, 'hilda');
    await VIEWS.find((each) => each.name === 'run')!.open(page, demo.address);
    const small = await page.evaluate(() =>
      [...document.querySelectorAll('.run button, .run [role=button], .top button')].flatMap((each) => {
        const { width, height } = (each.querySelector('.touch') ?? each).getBoundingClientRect();
        return width < 55.5 || height < 55.5
          ? [
              `${each.getAttribute('aria-label') ?? each.textContent}: ${width.toFixed(0)} x ` +
                `${height.toFixed(0)}`,
            ]
          : [];
      }),
    );
    await close();
    expect(small).toEqual([]);
  });
});
