import type { Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption, openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { browser, chooseMachine, signIn } from './house';

/** Starting and stopping a machine, stamped beside it: by touch and by keyboard, with the network cut and restored. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

/** A class whose startup has twelve steps, one of them with a limit. */
const TWELVE = { title: 'Mining shovel', unit: /-01/ };

const tokens = (page: Page) => page.getByRole('group', { name: 'Next acts' }).getByRole('button');
const bar = (page: Page, name: string) =>
  page.getByRole('group', { name: 'Acts of the trainer' }).getByRole('button', { name, exact: true });
const clocks = (page: Page) => page.getByRole('list', { name: 'Clocks that run' });
/** Steps of the rail that have their moment. */
const stamped = (page: Page) =>
  page.getByRole('region', { name: 'Rail' }).locator('g.done, g.prompted, g.wrong').count();

async function goToMachine(page: Page, operator: string, classTitle: string, unit: RegExp): Promise<void> {
  await page.goto(`${demo.address}/assess/practice`);
  await chooseOption(page, 'Operator', operator);
  await chooseMachine(page, unit, classTitle);
  await page.getByRole('button', { name: 'Go to the machine' }).click();
  await page.getByRole('button', { name: /^Begin: stamp/ }).waitFor();
}
/** Does one act and waits until it is on the rail. */
async function stamp(page: Page, token: Locator, press: (target: Locator) => Promise<void>): Promise<void> {
  const before = await stamped(page);
  await press(token);
  await expect.poll(() => stamped(page), { timeout: 30_000 }).toBe(before + 1);
}

describe('a start and a stop, stamped as they happen', () => {
  it('a forklift start by touch: the network is cut, the page loaded anew, nothing is lost', async () => {
    const { context, close } = await openBrowser({ hasTouch: true });
    const page = context.pages()[0]!;
    await signIn(page, demo.address, 'hilda');
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await goToMachine(page, 'Magnus Heddle', 'Counterbalance forklift truck', /FLT-01/);
    await page.getByRole('button', { name: /^Begin: stamp/ }).tap();
    const tap = (target: Locator) => target.tap();
    await tokens(page).first().waitFor();
    for (let i = 0; i < 2; i++) await stamp(page, tokens(page).first(), tap);
    await context.setOffline(true);
    for (let i = 0; i < 3; i++) await stamp(page, tokens(page).first(), tap);
    await page.getByText(/saved here, no connection/).waitFor();
    // The crank has a limit: its clock runs by itself until its end is stamped.
    await stamp(page, tokens(page).filter({ hasText: 'Crank the engine' }), tap);
    await clocks(page).getByText('Crank the engine in one short try').waitFor();
    await page.reload();
    await expect.poll(() => stamped(page), { timeout: 60_000 }).toBe(6);
    await clocks(page).getByRole('button', { name: 'It ended' }).tap();
    await context.setOffline(false);
    await page.getByText('All on the server').waitFor();
    await stamp(page, tokens(page).first(), tap);
    await bar(page, 'Prompted').tap();
    await expect.poll(() => bar(page, 'Prompted').getAttribute('aria-pressed')).toBe('true');
    await bar(page, 'Rule broken').tap();
    await page.getByRole('group', { name: 'Rules' }).getByRole('button').first().tap();
    await bar(page, 'It is over').tap();
    const words = page.getByRole('region', { name: /^Judged: / });
    await words.getByText(/^Rule broken: /).waitFor();
    const said = await words.innerText();
    expect(said).toMatch(/only after a prompt/);
    expect(said).toMatch(/Left out: “Try horn, lights and beacon/);
    expect(said).not.toMatch(/Left out: “Crank/);
    await page.reload();
    await words.getByText(/^Rule broken: /).waitFor();
    await close();
  });

  it('a hauler shutdown by keyboard on a phone: a wait cut short is told by how much, and undo takes back', async () => {
    const { context, close } = await openBrowser({ viewport: { width: 390, height: 844 } });
    const page = context.pages()[0]!;
    await signIn(page, demo.address, 'hilda');
    await goToMachine(page, 'Magnus Heddle', 'Articulated hauler', /-01/);
    for (const box of await page.getByRole('checkbox').all()) if (await box.isChecked()) await box.click();
    await page.getByRole('checkbox', { name: /^Shut/ }).first().focus();
    await page.keyboard.press('Space');
    const begin = page.getByRole('button', { name: /^Begin: stamp/ });
    await begin.focus();
    await page.keyboard.press('Enter');
    await tokens(page).first().waitFor();
    const key = (name: string) => () => page.keyboard.press(name);
    for (let i = 0; i < 3; i++) await stamp(page, tokens(page).first(), key('1'));
    await context.setOffline(true);
    await stamp(page, tokens(page).first(), key('1'));
    await page.keyboard.press('u');
    await expect.poll(() => stamped(page)).toBe(3);
    await stamp(page, tokens(page).first(), key('1'));
    await clocks(page).getByText('Let it idle low and cool down').waitFor();
    await page.keyboard.press('w');
    await expect.poll(() => bar(page, 'Wrong').getAttribute('aria-pressed')).toBe('true');
    await page.keyboard.press('w');
    await expect.poll(() => bar(page, 'Wrong').getAttribute('aria-pressed')).toBe('false');
    await context.setOffline(false);
    while ((await tokens(page).count()) > 0) await stamp(page, tokens(page).first(), key('1'));
    await bar(page, 'It is over').focus();
    await page.keyboard.press('Enter');
    const words = page.getByRole('region', { name: /^Judged: / });
    await words.getByText(/before “Let it idle low and cool down” was over/).waitFor();
    // Nothing runs over the side of a phone.
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
    await close();
  });

  it('a start of twelve steps takes at most fifteen taps', async () => {
    const tablet = await browser();
    const { page } = tablet;
    await signIn(page, demo.address, 'hilda');
    await goToMachine(page, 'Magnus Heddle', TWELVE.title, TWELVE.unit);
    let taps = 1;
    await page.getByRole('button', { name: /^Begin: stamp/ }).click();
    await tokens(page).first().waitFor();
    const necessary = tokens(page).filter({ hasNotText: 'if needed' });
    for (let step = 0; step < 12; step++) {
      await stamp(page, necessary.first(), (target) => target.click());
      taps++;
      const ended = clocks(page).getByRole('button', { name: 'It ended' });
      if ((await ended.count()) > 0) {
        await ended.first().click();
        taps++;
        await expect.poll(() => ended.count()).toBe(0);
      }
    }
    await bar(page, 'It is over').click();
    taps++;
    const words = page.getByRole('region', { name: /^Judged: / });
    await words.getByText(/^Everything/).waitFor();
    expect(await words.innerText()).not.toMatch(/Left out|You did/);
    console.info(`a start of twelve steps: ${taps} taps`);
    expect(taps).toBeLessThanOrEqual(15);
    await tablet.close();
  });

  it('in an evaluation: the judge fills the sheet, and the review and the report say it', async () => {
    const tablet = await browser();
    const { page } = tablet;
    await signIn(page, demo.address, 'hilda');
    await page.goto(`${demo.address}/assess/new`);
    await chooseOption(page, 'Operator', 'Magnus Heddle');
    await chooseMachine(page, /FLT-01/);
    const leaveOut = page.getByRole('button', { name: /^Leave out/ });
    await leaveOut.first().waitFor();
    while ((await leaveOut.count()) > 0) await leaveOut.first().click();
    await page.getByRole('button', { name: 'Go to the machine' }).click();
    await page.getByRole('tab', { name: /^Stop/ }).click();
    await page.getByRole('button', { name: /^Begin: stamp/ }).click();
    await tokens(page).first().waitFor();
    for (let i = 0; i < 3; i++) await stamp(page, tokens(page).first(), (target) => target.click());
    await bar(page, 'It is over').click();
    await page.getByRole('button', { name: 'Go to the review' }).click();
    await page.getByRole('region', { name: /^Judged: / }).waitFor();
    await page.getByRole('tab', { name: /^Work/ }).click();
    await page.getByText(/From the judge: 3 of \d+ steps right/).waitFor();
    await page.getByRole('button', { name: 'Stamp it step by step' }).first().waitFor();
    await tablet.close();
  });
});
