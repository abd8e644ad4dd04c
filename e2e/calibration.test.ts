import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption, openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { axeFindings } from './axe';
import { signIn } from './house';

/** The calibration of evaluators: put to all, scored alone step by step and in time, closed and read. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

describe('a calibration', () => {
  it(
    'goes from putting a round to its report, over a reload, and the evaluation says so',
    { timeout: 240_000 },
    async () => {
      const browser = await openBrowser({ viewport: { width: 1280, height: 800 } });
      try {
        const page = browser.context.pages()[0]!;
        await signIn(page, demo.address, 'hilda');
        await page.goto(`${demo.address}/assess`);
        await page.getByRole('link', { name: 'Calibration' }).click();
        await page.getByRole('heading', { name: 'Evaluators' }).waitFor();
        expect(await axeFindings(page)).toEqual([]);
        await chooseOption(page, 'Class', 'Wheel loader');
        await page.getByRole('textbox', { name: /^Title/ }).fill('Loader, winter');
        await page.getByRole('button', { name: 'Put it to the evaluators' }).click();
        await page.getByRole('button', { name: /^Step by step/ }).click();
        const next = page.getByRole('button', { name: /^Next/ });
        await next.click();
        await next.click();
        expect(await next.innerText()).toContain('3 of ');
        expect(await axeFindings(page)).toEqual([]);
        const sheet = page.getByRole('region', { name: 'Your sheet' });
        const groups = sheet.getByRole('group');
        const count = await groups.count();
        expect(count).toBeGreaterThan(15);
        await groups.first().getByRole('button', { name: 'Prompted' }).click();
        await page.getByRole('button', { name: `${count - 1} left to score` }).waitFor();
        // Loaded anew: the round is where it was, and so is what was given.
        await page.reload();
        await page.getByRole('button', { name: `${count - 1} left to score` }).waitFor();
        expect(await next.innerText()).toContain('3 of ');
        expect(
          await groups.first().getByRole('button', { name: 'Prompted' }).getAttribute('aria-pressed'),
        ).toBe('true');
        // No network for a while: what is given stays on the device and goes with the next.
        await browser.context.setOffline(true);
        // Only once the page itself cannot reach the server: a page just loaded anew may learn of it a moment later.
        await expect
          .poll(() =>
            page.evaluate(() =>
              fetch('/api/session').then(
                () => 'reached',
                () => 'gone',
              ),
            ),
          )
          .toBe('gone');
        await groups.nth(1).getByRole('button', { name: 'Done' }).click();
        await page.getByText('1 of your scores are kept on this device only.').waitFor();
        await browser.context.setOffline(false);
        for (let i = 2; i < count; i++) await groups.nth(i).getByRole('button', { name: 'Done' }).click();
        await page.getByText('kept on this device only').waitFor({ state: 'detached' });
        await page.getByRole('button', { name: 'Hand in' }).click();
        await page.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();
        await page.getByText('So have: Hilda Rousay.').waitFor();
        await page.getByRole('button', { name: 'Close it' }).click();
        await page.getByRole('dialog').getByRole('button', { name: 'Close it' }).click();
        await page.getByRole('heading', { name: 'Mild and severe' }).waitFor();
        await page.getByText('Mild, beyond what chance explains: Hilda Rousay.').waitFor();
        expect(await axeFindings(page)).toEqual([]);
        const saved = page.waitForEvent('download');
        await page.getByRole('button', { name: 'Save as CSV' }).click();
        expect((await saved).suggestedFilename()).toBe('calibration-loader-winter.csv');

        await page.goto(`${demo.address}/assess`);
        await page.getByRole('table').getByRole('link').first().click();
        await page.getByRole('tab', { name: /^Review/ }).click();
        await page
          .getByText(/alibrated on|Not calibrated/)
          .first()
          .waitFor();
      } finally {
        await browser.close();
      }
    },
  );
});
