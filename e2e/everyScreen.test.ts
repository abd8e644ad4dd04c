import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { signIn, VIEWS } from '../tools/views';
import { axeFindings } from './axe';

/**
 * Every screen at three sizes, each in three lights: axe-core finds nothing, nothing scrolls sideways, no
 * error reaches the console. What hangs on colours alone is looked at in every light, the rest in one.
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

/** Changes the light as another window of the same device does. */
const setLight = (page: Page, light: (typeof LIGHTS)[number]) =>
  page.evaluate((name) => {
    const key = 'rounds-theme';
    localStorage.setItem(key, name);
    dispatchEvent(new StorageEvent('storage', { key, newValue: name, storageArea: localStorage }));
    return new Promise((resolve) => requestAnimationFrame(() => requestAnimationFrame(resolve)));
  }, light);

describe.each(SIZES)('at $width x $height', ({ width, height }) => {
  it('every screen is accessible in every light and fits', async () => {
    const findings: string[] = [];
    let who: string | null | undefined;
    let browser: Awaited<ReturnType<typeof openBrowser>> | null = null;
    for (const [i, view] of [...VIEWS].sort((a, b) => String(a.as).localeCompare(String(b.as))).entries()) {
      if (browser === null || who !== view.as) {
        await browser?.close();
        browser = await openBrowser({ viewport: { width, height } });
        await browser.context.addInitScript(() =>
          localStorage.setItem('rounds-device', 'tablet-of-the-test'),
        );
        who = view.as;
        if (who) await signIn(browser.context.pages()[0]!, demo.address, who);
      }
      const page = browser.context.pages()[0]!;
      const errors: string[] = [];
      const hear = (error: Error) => errors.push(error.message);
      page.on('pageerror', hear);
      await view.open(page, demo.address);
      for (const light of LIGHTS) {
        await setLight(page, light);
        expect(await page.evaluate(() => document.documentElement.dataset['theme'])).toBe(light);
        const rules = light === LIGHTS[i % LIGHTS.length] ? undefined : ['color-contrast'];
        for (const violation of await axeFindings(page, rules))
          findings.push(`${view.name} in ${light}: ${violation}`);
      }
      const sideways = await page.evaluate(
        () => document.documentElement.scrollWidth - document.documentElement.clientWidth,
      );
      if (sideways > 1) findings.push(`${view.name}: scrolls sideways by ${sideways} px`);
      findings.push(...errors.map((each) => `${view.name}: ${each}`));
      page.off('pageerror', hear);
    }
    await browser?.close();
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
