import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption, openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { axeFindings } from './axe';
import { signIn } from './house';

/** Insight: what is missed, and a key that good people fail, from its flag to the revision that puts it right. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

const DESK = { viewport: { width: 1280, height: 800 } } as const;

describe('insight', () => {
  it(
    'flags a bad key, which is reviewed, changed through the editor and followed',
    { timeout: 180_000 },
    async () => {
      const { context, close } = await openBrowser(DESK);
      try {
        const page = context.pages()[0]!;
        await signIn(page, demo.address, 'hilda');
        await page.goto(`${demo.address}/insight`);
        await page.getByRole('link', { name: 'Keys under scrutiny' }).click();
        const table = page.getByRole('group', { name: 'Items under scrutiny' });
        const bad = table
          .getByRole('row')
          .filter({ hasText: 'Those who are good at the rest fail it more often' });
        await bad.waitFor();
        expect(await bad.getByText('To review').count()).toBe(1);
        const words = await bad.locator('strong').first().innerText();
        expect(await axeFindings(page)).toEqual([]);
        await bad.getByRole('button', { name: /^Review/ }).click();
        const dialog = page.getByRole('dialog', { name: 'Review this key' });
        await dialog.getByRole('radio', { name: /^Change it/ }).check();
        const note = dialog.getByRole('button', { name: 'Note it and open the editor' });
        expect(await note.isDisabled()).toBe(true);
        expect(await axeFindings(page)).toEqual([]);
        await dialog.getByRole('textbox', { name: 'Why' }).fill('Every fitter would have it mended');
        await note.click();

        // The editor stands at the row of the fault; its wording is put right and published.
        await page.getByRole('heading', { name: /^Edit counterbalance/ }).waitFor();
        const title = page.getByRole('textbox', { name: /^Title/ });
        await title.waitFor();
        expect(words).toContain(await title.inputValue());
        await title.fill('Dry stain, nothing fresh');
        await title.blur();
        await page.getByText(/Draft saved .* by Hilda Rousay/).waitFor();
        await page.getByRole('tab', { name: /^Changes and publishing/ }).click();
        await page
          .getByRole('textbox', { name: 'Why it changes' })
          .fill('Says that nothing fresh has dripped');
        await page.getByRole('button', { name: 'Publish' }).click();
        await page.waitForURL(/\/classes\/counterbalance-forklift$/);

        await page.goto(`${demo.address}/insight/items?show=reviewed`);
        const row = page.getByRole('row').filter({ hasText: 'Dry stain, nothing fresh' });
        await row.getByText('Changed', { exact: true }).waitFor();
        await row.getByText(/reads otherwise/).waitFor();
        expect(await row.innerText()).toContain('Every fitter would have it mended');
        await page.getByText('To review', { exact: true }).click();
        await page.getByText('No item of this class stands out.').waitFor();
      } finally {
        await close();
      }
    },
  );

  it(
    'shows what is missed as table, picture and file, kept in the address',
    { timeout: 120_000 },
    async () => {
      const { context, close } = await openBrowser(DESK);
      try {
        const page = context.pages()[0]!;
        await signIn(page, demo.address, 'hilda');
        await page.goto(`${demo.address}/insight`);
        const missed = page.getByRole('region', { name: 'What is missed most' });
        await missed.getByRole('table', { name: 'Missed most, by system' }).waitFor();
        await missed.getByRole('img', { name: /^Missed most, by system/ }).waitFor();
        expect(await axeFindings(page)).toEqual([]);
        await missed.getByRole('tab', { name: 'By method' }).click();
        await missed.getByRole('table', { name: 'Missed most, by method' }).waitFor();
        await chooseOption(page, 'Class', 'Counterbalance forklift truck');
        await page.getByText('Checks of the round', { exact: true }).click();
        await page.waitForURL(/measure=checks&class=counterbalance-forklift/);
        await page.reload();
        await missed.getByRole('table', { name: 'Missed most, by method' }).getByText('Look').waitFor();
        const saved = page.waitForEvent('download');
        await missed.getByRole('button', { name: 'Save as CSV: Missed most, by method' }).click();
        expect((await saved).suggestedFilename()).toBe('missed-most-by-method.csv');
        const text = await (await saved).createReadStream();
        let csv = '';
        for await (const chunk of text) csv += String(chunk);
        expect(csv).toMatch(/Method,Count,Of,People,Share/);
      } finally {
        await close();
      }
      // A supervisor sees the own team, and no evaluator.
      const other = await openBrowser(DESK);
      try {
        const page = other.context.pages()[0]!;
        await signIn(page, demo.address, 'gordon');
        await page.goto(`${demo.address}/insight`);
        await page.getByRole('heading', { name: 'Over the months' }).waitFor();
        expect(await page.getByRole('heading', { name: 'How evaluators record' }).count()).toBe(0);
      } finally {
        await other.close();
      }
    },
  );
});
