import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { signIn, VIEWS } from '../tools/views';
import { axeFindings } from './axe';

/**
 * Every screen at three sizes, in light and dark: axe-core finds nothing, nothing scrolls sideways, no
 * error reaches the console.
 */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

const SETTINGS = [
  { width: 1280, height: 800, theme: 'paper' },
  { width: 390, height: 844, theme: 'night' },
  { width: 1920, height: 1080, theme: 'night' },
  { width: 1280, height: 800, theme: 'sun' },
] as const;

describe.each(SETTINGS)('at $width x $height in $theme', ({ width, height, theme }) => {
  it('every screen is accessible and fits', async () => {
    const findings: string[] = [];
    let who: string | null | undefined;
    let browser: Awaited<ReturnType<typeof openBrowser>> | null = null;
    for (const view of [...VIEWS].sort((a, b) => String(a.as).localeCompare(String(b.as)))) {
      if (browser === null || who !== view.as) {
        await browser?.close();
        browser = await openBrowser({ viewport: { width, height } });
        await browser.context.addInitScript((name) => {
          localStorage.setItem('rounds-theme', name);
          localStorage.setItem('rounds-device', 'tablet-of-the-test');
        }, theme);
        who = view.as;
        if (who) await signIn(browser.context.pages()[0]!, demo.address, who);
      }
      const page = browser.context.pages()[0]!;
      const errors: string[] = [];
      const hear = (error: Error) => errors.push(error.message);
      page.on('pageerror', hear);
      await view.open(page, demo.address);
      await page.waitForTimeout(100);
      for (const violation of await axeFindings(page)) findings.push(`${view.name}: ${violation}`);
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
