import { type CommandDeal, controlsOf } from '@rounds/core/commands';
import type { CommandView } from '@rounds/contract';
import type { DeskPack } from '@rounds/core/machine';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption, openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { axeFindings } from './axe';
import { signIn } from './house';

/** The command caller, as the trainer beside a machine uses it, and as an operator does at the desk. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

/** Begins a set from the practice screen; answers what was dealt. */
async function begin(page: Page, title: string, who: string | null): Promise<CommandView> {
  await page.goto(`${demo.address}/practise?what=commands`);
  if (who !== null) {
    await page.getByLabel('Who practises').fill(who);
    await page.getByTitle(who).first().click();
  }
  await chooseOption(page, 'Class', title);
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByRole('button', { name: 'Start', exact: true }).waitFor();
  const id = page.url().split('/').at(-1)!;
  return page.evaluate(
    async (set) => (await (await fetch(`/api/practice/commands/${set}`)).json()) as CommandView,
    id,
  );
}
const words = (page: Page) => page.getByRole('region', { name: 'The command' }).getByRole('status');
const dealOf = (view: CommandView) => view.deal as CommandDeal;
const sayings = (view: CommandView) =>
  new Map(controlsOf(view.pack as DeskPack)!.calls.map((each) => [each.id, each.say]));

describe('the command caller', () => {
  it('calls on the machine; two good sets make ready, and one reload in the middle loses nothing', async () => {
    const { context, close } = await openBrowser();
    const page = context.pages()[0]!;
    await page.clock.install();
    await signIn(page, demo.address, 'hilda');
    for (const set of [1, 2]) {
      const view = await begin(page, 'Reach truck', 'Magnus Heddle');
      const says = sayings(view);
      await page.getByRole('button', { name: 'Start', exact: true }).click();
      for (const [i, call] of dealOf(view).calls.entries()) {
        await page.clock.runFor(2600);
        expect(await words(page).innerText()).toBe(says.get(call));
        await page.clock.runFor(700);
        if (i % 2 === 0) await page.getByRole('button', { name: 'Right', exact: true }).click();
        else await page.keyboard.press('1');
        if (set === 2 && i === 5) {
          await page.reload();
          await page.getByRole('button', { name: 'Go on' }).click();
        }
      }
      await page.getByRole('button', { name: 'Keep it and see' }).click();
      await page
        .getByRole('heading', {
          level: 1,
          name: set === 1 ? 'The standard is met' : 'Ready for these controls',
        })
        .waitFor();
    }
    await page.getByRole('table', { name: 'Answers by control' }).waitFor();
    expect(await page.getByRole('table', { name: 'Sets so far' }).getByRole('row').count()).toBe(3);
    await close();
  });

  it('scores itself at the desk: the right control, and the wrong one at its first touch', async () => {
    const { context, close } = await openBrowser();
    const page = context.pages()[0]!;
    await page.clock.install();
    await signIn(page, demo.address, 'isla');
    const view = await begin(page, 'Wheel loader', null);
    const controls = controlsOf(view.pack as DeskPack)!;
    const calls = new Map(controls.calls.map((each) => [each.id, each]));
    const press = (name: string) => page.getByRole('button', { name, exact: true });
    await page.clock.pauseAt(Date.now() + 3_600_000);
    await press('Start').click();
    let [right, wrong] = [0, 0];
    for (const id of dealOf(view).calls) {
      const call = calls.get(id)!;
      // Until it is called, and not much longer: what comes late is late.
      for (let n = 0; n < 40 && (await words(page).innerText()) !== call.say; n++)
        await page.clock.runFor(100);
      expect(await words(page).innerText()).toBe(call.say);
      const answer = controls.machine.desk.commands.find((each) => each.id === id)!.answer;
      const [, control, to] = /^([\w-]+) = ([\w-]+)/.exec(answer) ?? [null, null, null];
      const found = control === null ? null : controls.machine.controls.get(control)!;
      if (found?.kind === 'selector') {
        await press(`${found.name}: ${to}`).click();
        right += 1;
      } else {
        // What is held is left alone: the latch is worked instead, which answers none of these.
        await press('Neutral latch: off').click();
        wrong += 1;
      }
      await page.clock.runFor(200);
    }
    await page.getByRole('heading', { level: 1, name: 'Not yet' }).waitFor();
    await page
      .getByText(`${right} of ${right + wrong}`)
      .first()
      .waitFor();
    await close();
  });

  it.each(['paper', 'night', 'sun'])('is clean for axe in %s, at both sizes', async (theme) => {
    for (const viewport of [
      { width: 1280, height: 800 },
      { width: 390, height: 844 },
    ]) {
      const { context, close } = await openBrowser({ viewport });
      await context.addInitScript((name) => localStorage.setItem('rounds-theme', name), theme);
      const page = context.pages()[0]!;
      await signIn(page, demo.address, 'hilda');
      await begin(page, 'Wheel loader', null);
      expect(await axeFindings(page)).toEqual([]);
      await page.getByRole('button', { name: 'End', exact: true }).click();
      const question = page.getByRole('dialog');
      await question.getByRole('button', { name: 'End it' }).click();
      await page.getByRole('link', { name: 'Another set' }).waitFor();
      await question.waitFor({ state: 'detached' });
      expect(await axeFindings(page)).toEqual([]);
      await page.goto(`${demo.address}/practise?what=commands`);
      await chooseOption(page, 'Class', 'Wheel loader');
      await page.getByRole('button', { name: /^At the desk/ }).click();
      await page.getByRole('button', { name: 'Begin', exact: true }).click();
      await page.getByRole('button', { name: 'Start', exact: true }).waitFor();
      expect(await axeFindings(page)).toEqual([]);
      await close();
    }
  });
});
