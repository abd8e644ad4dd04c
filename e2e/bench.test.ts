import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption, openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { axeFindings } from './axe';
import { signIn } from './house';

/** The grading bench: alone on a phone, by keyboard, and under a site's policy. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

const answer = (page: Page) => page.getByRole('form', { name: 'Your answer' });
const key = (page: Page) => page.getByRole('group', { name: 'The key' });

async function begin(page: Page, kind: RegExp, wanted = '6', classTitle = 'Counterbalance forklift truck') {
  await page.goto(`${demo.address}/practise?what=bench`);
  await chooseOption(page, 'Class', classTitle);
  await page
    .getByRole('group', { name: 'What is put on the bench' })
    .getByRole('button', { name: kind })
    .click();
  await page.getByText(wanted, { exact: true }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
}

describe('the grading bench', () => {
  it('is worked alone on a phone, from the first finding to what it comes to', async () => {
    const { context, close } = await openBrowser({ viewport: { width: 390, height: 844 } });
    try {
      const page = context.pages()[0]!;
      await signIn(page, demo.address, 'isla');
      await begin(page, /^As they come/);
      for (let n = 1; n <= 6; n++) {
        await page.getByText(`${n} of 6`).waitFor();
        await answer(page).waitFor();
        expect(await key(page).count()).toBe(0);
        // Nothing is cut off to the side.
        expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
        await answer(page).getByRole('button', { name: 'Mend' }).click();
        await answer(page)
          .getByRole('button', { name: /^Order repair/ })
          .click();
        expect(await answer(page).getByRole('button', { name: 'Answer' }).isDisabled()).toBe(true);
        await answer(page).getByRole('button', { name: 'Today' }).click();
        if (n === 1) expect(await axeFindings(page)).toEqual([]);
        await answer(page).getByRole('button', { name: 'Answer' }).click();
        await key(page).waitFor();
        expect(await key(page).getByRole('list', { name: 'Why' }).innerText()).toMatch(
          /Common practice|From memory|Published/,
        );
        if (n === 1) expect(await axeFindings(page)).toEqual([]);
        if (n === 3) {
          // A phone that reloads comes back to its place.
          await page.reload();
          await page.getByText('4 of 6').waitFor();
        } else await page.getByRole('button', { name: /^(Next|See what)/ }).click();
      }
      await page.getByRole('heading', { name: /of 6 graded as the key has it/ }).waitFor();
      expect(await page.getByText('Everything was called mend').count()).toBe(1);
      expect(await axeFindings(page)).toEqual([]);
      await page.goto(`${demo.address}/practise`);
      await page.getByText('Findings graded as the key').first().waitFor();
    } finally {
      await close();
    }
  });

  it('can be worked by keyboard alone, and against time', async () => {
    const { context, close } = await openBrowser({ viewport: { width: 1280, height: 800 } });
    try {
      const page = context.pages()[0]!;
      await signIn(page, demo.address, 'isla');
      await page.goto(`${demo.address}/practise?what=bench`);
      await chooseOption(page, 'Class', 'Counterbalance forklift truck');
      await page.getByRole('button', { name: /^Measured/ }).click();
      await page.getByRole('checkbox', { name: 'Against time' }).check();
      await page.getByRole('button', { name: 'Begin', exact: true }).click();
      await page.getByRole('timer').waitFor();
      for (let n = 0; n < 2; n++) {
        await answer(page).waitFor();
        await page.keyboard.press('4');
        await page.keyboard.press('8');
        await answer(page).getByRole('button', { name: 'Answer' }).press('Enter');
        await key(page).waitFor();
        // The button to go on has the focus.
        await page.keyboard.press('Enter');
        await key(page).waitFor({ state: 'detached' });
      }
      await page.getByRole('button', { name: 'End', exact: true }).click();
      await page.getByRole('button', { name: 'End it' }).click();
      await page.getByText('Ended after 2 of').waitFor();
    } finally {
      await close();
    }
  });

  it('asks for numbers and says where they come from', async () => {
    const { context, close } = await openBrowser({ viewport: { width: 390, height: 844 } });
    try {
      const page = context.pages()[0]!;
      await signIn(page, demo.address, 'isla');
      await begin(page, /^Numbers/);
      const options = page.getByRole('group', { name: 'Your answer' }).getByRole('button');
      await options.first().waitFor();
      expect(await options.count()).toBe(4);
      await options.nth(1).click();
      await page
        .getByRole('status')
        .filter({ hasText: /From memory|Common practice|Published/ })
        .waitFor();
      expect(await axeFindings(page)).toEqual([]);
    } finally {
      await close();
    }
  });

  it('grades as the site has decided: raised in the settings, seen on the class page and on the bench', async () => {
    const { context, close } = await openBrowser({ viewport: { width: 1280, height: 800 } });
    try {
      const page = context.pages()[0]!;
      await signIn(page, demo.address, 'hilda');
      await page.goto(`${demo.address}/settings?part=grading`);
      await chooseOption(page, 'What', 'A class');
      await chooseOption(page, 'Class', 'Wheel loader');
      await page.getByRole('button', { name: 'See what it raises' }).click();
      await page.getByRole('heading', { name: /faults are raised to stop in 1 class/ }).waitFor();
      await page.getByRole('textbox', { name: 'Why' }).fill('A strict month after the near miss');
      await page.getByRole('button', { name: 'Keep it' }).click();
      await page.getByText(/^Kept\. \d+ faults are graded higher/).waitFor();
      await page.getByRole('cell', { name: 'Wheel loader: every defect' }).waitFor();
      expect(await axeFindings(page)).toEqual([]);

      await page.goto(`${demo.address}/classes/wheel-loader?part=faults`);
      await page
        .getByText(/^Raised from (watch|mend) by site policy .*A strict month/)
        .first()
        .waitFor();

      // Somebody who grades everything watch is told by which line it is a stop.
      await begin(page, /^Measured/, '20', 'Wheel loader');
      await answer(page).waitFor();
      let told = 0;
      for (;;) {
        await page.keyboard.press('2');
        await page.keyboard.press('5');
        await answer(page).getByRole('button', { name: 'Answer' }).click();
        await key(page).waitFor();
        told += await key(page)
          .getByText(/raised to stop by site policy: A strict month/i)
          .count();
        const next = page.getByRole('button', { name: /^(Next|See what)/ });
        const last = (await next.innerText()).startsWith('See');
        if (told > 0 || last) break;
        await next.click();
        await answer(page).waitFor();
      }
      expect(told).toBeGreaterThan(0);

      await page.goto(`${demo.address}/settings?part=grading`);
      const line = page.getByRole('row', { name: /Wheel loader: every defect/ });
      await line.getByRole('button', { name: 'End' }).click();
      await page.getByRole('dialog').getByRole('textbox', { name: 'Why' }).fill('The month is over');
      await page.getByRole('button', { name: 'End it' }).click();
      await line.getByText('Ended', { exact: true }).waitFor();
      await page.goto(`${demo.address}/classes/wheel-loader?part=faults`);
      await page.getByRole('table').first().waitFor();
      expect(await page.getByText(/^Raised from/).count()).toBe(0);
    } finally {
      await close();
    }
  });
});
