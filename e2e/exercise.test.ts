import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption, openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { axeFindings } from './axe';
import { signIn } from './house';

/** A class exercise: a trainer, the big screen and three phones, from joining to the record. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

const PHONE = { viewport: { width: 390, height: 844 } } as const;
const grade = (page: Page, name: string) =>
  page.getByRole('group', { name: 'How bad is it?' }).getByRole('button', { name });

describe('a class exercise', () => {
  it('goes from preparing and joining to reveal, report and record', { timeout: 240_000 }, async () => {
    const office = await openBrowser({ viewport: { width: 1280, height: 800 } });
    const phones = [await openBrowser(PHONE), await openBrowser(PHONE), await openBrowser(PHONE)];
    try {
      const page = office.context.pages()[0]!;
      await signIn(page, demo.address, 'hilda');
      await page.goto(`${demo.address}/teach`);
      await page.getByRole('link', { name: 'Class exercise' }).click();
      await chooseOption(page, 'Class', 'Counterbalance forklift truck');
      await page.getByRole('spinbutton', { name: 'How many' }).fill('3');
      await page.getByRole('button', { name: 'Propose findings' }).click();
      const list = page.getByRole('list', { name: 'Findings in their order' });
      await list.getByRole('listitem').nth(2).waitFor();
      await list
        .getByRole('button', { name: /^Leave out/ })
        .last()
        .click();
      await page.getByRole('textbox', { name: 'Title' }).fill('Toolbox talk');
      await page.getByRole('button', { name: 'Keep this set' }).click();
      await page.getByText('Kept as “Toolbox talk”.').waitFor();
      expect(await axeFindings(page)).toEqual([]);
      await page.getByRole('button', { name: 'Open the room' }).click();
      const join = page.getByRole('button', { name: /^Join:/ });
      await join.waitFor();
      const code = (await join.innerText()).replace(/^Join:\s*/, '');

      const [ann, ben, isla] = phones.map((each) => each.context.pages()[0]!) as [Page, Page, Page];
      await signIn(isla, demo.address, 'isla');
      await isla.goto(`${demo.address}/practise`);
      await isla.getByRole('link', { name: 'Join a class exercise' }).click();
      await isla.getByRole('textbox', { name: 'Code on the big screen' }).fill(code.toLowerCase());
      await isla.getByText('You take part as').waitFor();
      await isla.getByRole('button', { name: 'Join' }).click();
      for (const [phone, name] of [
        [ann, 'Ann Guest'],
        [ben, 'Ben Guest'],
      ] as const) {
        await phone.goto(`${demo.address}/join/${code}`);
        await phone.getByRole('textbox', { name: 'Your name' }).fill(name);
        expect(await axeFindings(phone)).toEqual([]);
        await phone.getByRole('button', { name: 'Join' }).click();
      }
      for (const phone of [ann, ben, isla]) await phone.getByText('You are in.').waitFor();

      const wall = await office.context.newPage();
      await wall.setViewportSize({ width: 1280, height: 800 });
      await wall.goto(`${page.url()}/screen`);
      await wall.getByText('3 in the room').waitFor();
      expect(await axeFindings(wall)).toEqual([]);

      await page.getByRole('button', { name: 'Show the first finding' }).click();
      for (const phone of [ann, ben, isla]) await phone.getByText('1 of 2').waitFor();
      await grade(ann, 'Watch').click();
      await ann.getByText('Kept.').waitFor();
      await page.getByRole('button', { name: 'Reveal (1 of 3 answered)' }).waitFor();
      // A phone that is loaded anew is where it was, with its answer.
      await ann.reload();
      await ann.getByText('Kept.').waitFor();
      expect(await grade(ann, 'Watch').getAttribute('aria-pressed')).toBe('true');
      await grade(ben, 'Stop').click();
      await grade(isla, 'Stop').click();
      await page.getByRole('button', { name: 'Reveal (3 of 3 answered)' }).waitFor();
      expect(await page.getByRole('list', { name: 'Who is in the room' }).getByRole('img').count()).toBe(0);
      await wall.getByText('3 of 3').waitFor();
      expect(await wall.getByText('the key', { exact: true }).count()).toBe(0);
      // A card of somebody without a phone.
      await page.getByRole('spinbutton', { name: 'Cards: Stop' }).fill('2');
      await page.getByRole('spinbutton', { name: 'Cards: Stop' }).press('Enter');
      await page.getByRole('button', { name: 'Reveal (3 of 3 answered)' }).click();
      await wall.getByText('the key', { exact: true }).waitFor();
      await page.getByRole('list', { name: 'Who is in the room' }).getByRole('img').first().waitFor();
      expect(await axeFindings(page)).toEqual([]);
      expect(await axeFindings(wall)).toEqual([]);
      await ann.getByText('Look at the big screen.').waitFor();
      for (const phone of [ann, ben])
        expect(await phone.evaluate(() => document.body.innerText)).not.toMatch(/Ann|Ben|Isla|the key/);

      await page.getByRole('button', { name: 'Next finding' }).click();
      for (const phone of [ann, ben, isla]) {
        await phone.getByText('2 of 2').waitFor();
        await grade(phone, 'Stop').click();
        await phone.getByText('Kept.').waitFor();
      }
      // The trainer's own page goes down and comes back.
      await page.reload();
      await page.getByRole('button', { name: 'Reveal (3 of 3 answered)' }).click();
      await page.getByRole('button', { name: 'That was the last' }).waitFor();
      await page.getByRole('button', { name: 'End', exact: true }).click();
      await page.getByRole('button', { name: 'End it' }).click();
      await page.getByRole('heading', { name: 'Everybody' }).waitFor();
      await ann.getByText('The exercise has ended').waitFor();
      await ann.getByText(/[0-2] of 2/).waitFor();

      await page.getByRole('button', { name: /^Ann Guest/ }).click();
      await page
        .getByText(/findings are too few/)
        .first()
        .waitFor();
      await chooseOption(page, 'Who is Ben Guest', 'Magnus Heddle');
      await page.goto(`${demo.address}/practise`);
      await chooseOption(page, 'Who practises', 'Magnus Heddle');
      await page.getByRole('region', { name: 'Class exercises' }).getByText('Toolbox talk').waitFor();
      await isla.goto(`${demo.address}/practise`);
      await isla.getByRole('region', { name: 'Class exercises' }).getByText('Toolbox talk').waitFor();
      // A guest's place ended with the exercise.
      await ben.reload();
      await ben
        .getByText(/ended|session/i)
        .first()
        .waitFor();
    } finally {
      for (const each of [...phones, office]) await each.close();
    }
  });
});
