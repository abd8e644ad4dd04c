import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { chooseOption } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { browser, chooseMachine, signIn } from './house';

/**
 * How many taps a whole round takes from a trainer: a diesel forklift with 64 checks and four faults that are
 * all found, recorded check by check and by exception.
 */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

const PLANTED = [
  { title: 'Forks too narrow or too wide', check: 'CF-13', grade: 'Mend' },
  { title: 'Film wound on the hub', check: 'CF-25', grade: 'Stop' },
  { title: 'Rating plate gone or wrong', check: 'CF-34', grade: 'Stop' },
  { title: 'Small nick in a drive tyre', check: 'CF-22', grade: 'Watch' },
];

async function prepare(page: Page, how: RegExp): Promise<void> {
  await page.goto(`${demo.address}/assess/new`);
  await chooseOption(page, 'Operator', 'Magnus Heddle');
  await chooseMachine(page, /FLT-01/);
  const leaveOut = page.getByRole('button', { name: /^Leave out/ });
  await leaveOut.first().waitFor();
  while ((await leaveOut.count()) > 0) await leaveOut.first().click();
  for (const { title } of PLANTED) await chooseOption(page, 'Add a fault', title);
  for (let i = 0; i < PLANTED.length; i++)
    await page
      .getByRole('checkbox', { name: /^Planted: /, checked: false })
      .first()
      .click();
  await page.getByRole('button', { name: 'Go to the machine' }).click();
  await page.getByRole('button', { name: how }).click();
}

const panel = (page: Page) => page.getByRole('region', { name: 'Checks' });
/** Ids of the checks that are shown and that nothing was tapped for. */
const open = (page: Page) =>
  panel(page)
    .getByRole('group', { name: /^CF-\d+ / })
    .evaluateAll((groups) =>
      groups
        .filter((each) => each.querySelector('[aria-pressed="true"]') === null)
        .filter((each) => each.closest('li')!.querySelector('.reported') === null)
        .map((each) => each.getAttribute('aria-label')!.split(' ')[0]!),
    );
async function found(page: Page, check: string): Promise<boolean> {
  const fault = PLANTED.find((each) => each.check === check);
  if (!fault) return false;
  await page
    .getByRole('group', { name: new RegExp(`^${check} `) })
    .getByRole('button', { name: 'Fault found' })
    .click();
  await page
    .getByRole('group', { name: `Grade of: ${fault.title}` })
    .getByRole('button', { name: fault.grade })
    .click();
  await panel(page).getByText(`${fault.grade}: ${fault.title}`).waitFor();
  return true;
}

/** Counts what is pressed from here on. */
const count = (page: Page) =>
  page.evaluate(() => {
    const counted = window as unknown as { taps: number };
    counted.taps = 0;
    document.addEventListener('click', (event) => event.isTrusted && (counted.taps += 1), true);
  });
const counted = (page: Page) => page.evaluate(() => (window as unknown as { taps: number }).taps);
const next = (page: Page) => panel(page).getByRole('button', { name: /^Next: / });

async function goOn(page: Page): Promise<void> {
  const name = (await next(page).innerText()).replace('Next: ', '');
  await next(page).click();
  await panel(page).getByRole('heading', { name }).waitFor();
}

async function review(page: Page): Promise<string> {
  await page.getByText('All on the server').waitFor();
  await page.getByRole('tab', { name: /Review/ }).click();
  return page.getByRole('region', { name: 'The ring' }).innerText();
}

it('check by check: at most 85 for 64 checks and four faults', async () => {
  const tablet = await browser();
  const { page } = tablet;
  await signIn(page, demo.address, 'hilda');
  await prepare(page, /^Each check/);
  await count(page);
  await page.getByRole('button', { name: 'Start the round' }).click();
  await page.getByRole('button', { name: /^Fork arms:/ }).click();
  for (let guard = 0; guard < 200; guard++) {
    // What was tapped is on the screen once it is on the server.
    await page.getByText('All on the server').waitFor();
    const [check] = await open(page);
    if (check === undefined) {
      if ((await next(page).count()) === 0) break;
      await goOn(page);
    } else if (!(await found(page, check))) {
      const group = page.getByRole('group', { name: new RegExp(`^${check} `) });
      await group.getByRole('button', { name: 'Done' }).click();
      await expect
        .poll(() => group.getByRole('button', { name: 'Done' }).getAttribute('aria-pressed'))
        .toBe('true');
    }
  }
  await page.getByRole('button', { name: 'End the round' }).click();
  const taps = await counted(page);
  const said = await review(page);
  expect(said).toMatch(/64 done, 0 prompted, 0 missed/);
  expect(said).toMatch(/The ring is closed/);
  console.info(`check by check: ${taps} taps`);
  expect(taps).toBeLessThanOrEqual(85);
  await tablet.close();
});

it('by exception: at most 40', async () => {
  const tablet = await browser();
  const { page } = tablet;
  await signIn(page, demo.address, 'hilda');
  await prepare(page, /^By exception/);
  await count(page);
  await page.getByRole('button', { name: 'Start the round' }).click();
  await page.getByRole('button', { name: /^Fork arms:/ }).click();
  for (let guard = 0; guard < 60; guard++) {
    for (const check of await open(page)) await found(page, check);
    if (
      (await panel(page)
        .getByText(/made with the machine alive/)
        .count()) > 0
    )
      await page.getByRole('button', { name: 'All done here' }).click();
    if ((await next(page).count()) === 0) break;
    await goOn(page);
  }
  await page.getByRole('button', { name: 'End the round' }).click();
  const taps = await counted(page);
  const said = await review(page);
  expect(said).toMatch(/64 done, 0 prompted, 0 missed/);
  expect(said).toMatch(/Recorded by exception/);
  console.info(`by exception: ${taps} taps`);
  expect(taps).toBeLessThanOrEqual(40);
  await tablet.close();
});
