import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { browser, signIn } from './house';

/** A lesson in two windows: the trainer's, and a big screen that nobody is signed in on. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

describe('a lesson', () => {
  it('is followed by the big screen, which finds its place again after a break; who attended has it on record', async () => {
    const trainer = await browser();
    const room = await browser();
    await signIn(trainer.page, demo.address, 'hilda');
    await trainer.page.goto(`${demo.address}/teach`);
    await chooseOption(trainer.page, 'Class', 'Wheel loader');
    const planned = trainer.page.getByRole('region', { name: 'Plan of the lesson' }).getByRole('listitem');
    await planned.nth(5).waitFor();
    const before = await planned.count();
    const second = await planned.nth(1).innerText();
    await planned.nth(2).getByRole('button', { name: /^Move/ }).press('ArrowUp');
    await expect.poll(() => planned.nth(2).innerText()).toBe(second);
    await planned
      .nth(1)
      .getByRole('button', { name: /^Leave out/ })
      .click();
    await expect.poll(() => planned.count()).toBe(before - 1);
    await trainer.page.getByRole('button', { name: 'Begin the lesson' }).click();
    const code = await trainer.page.locator('.code').innerText();

    await room.page.goto(`${demo.address}/screen`);
    const field = room.page.getByLabel('Code on the presenter');
    await field.fill('NOCODE');
    await room.page.getByRole('button', { name: 'Join' }).click();
    await room.page.getByText(/No lesson under way has this code/).waitFor();
    await field.fill(code.toLowerCase());
    await room.page.getByRole('button', { name: 'Join' }).click();
    const shown = room.page.getByRole('article').getByRole('heading');
    const said = trainer.page.getByRole('region', { name: 'What to say' }).getByRole('heading');
    await expect.poll(() => shown.innerText()).toBe('Wheel loader');
    for (let n = 0; n < 6; n++) {
      await trainer.page.keyboard.press('ArrowRight');
      await expect.poll(async () => (await shown.innerText()) === (await said.innerText())).toBe(true);
    }
    const list = trainer.page.getByRole('list', { name: 'Things shown' });
    await list.getByRole('button', { name: /hose/ }).first().click();
    await room.page.getByText('What grade, and what do you do?').waitFor();
    await trainer.page.keyboard.press(' ');
    await room.page.getByText('What grade, and what do you do?').waitFor({ state: 'detached' });
    await room.page.locator('.grade').waitFor();
    await trainer.page.keyboard.press('b');
    await room.page.getByText('The screen is blank for now.').waitFor({ state: 'attached' });
    await room.context.setOffline(true);
    await trainer.page.keyboard.press('b');
    await list.getByRole('button').last().click();
    await room.context.setOffline(false);
    await expect.poll(() => shown.innerText(), { timeout: 60_000 }).toBe('The ring is closed');
    await room.page.reload();
    await expect.poll(() => shown.innerText(), { timeout: 60_000 }).toBe('The ring is closed');

    await trainer.page.getByRole('button', { name: 'End the lesson' }).click();
    const dialog = trainer.page.getByRole('dialog', { name: 'End the lesson' });
    await chooseOption(trainer.page, 'Who attended', 'Magnus Heddle', dialog);
    await dialog.getByText(/Who attended has it/).click();
    await dialog.getByRole('button', { name: 'End and sign' }).click();
    await trainer.page
      .getByRole('region', { name: 'Lessons' })
      .getByText(/1 attended/)
      .first()
      .waitFor();
    await trainer.page.goto(`${demo.address}/people`);
    await trainer.page.getByRole('searchbox').first().fill('Heddle');
    await trainer.page
      .getByRole('link', { name: /Magnus Heddle|Heddle, Magnus/ })
      .first()
      .click();
    await trainer.page.getByText('Taught: walk-round').first().waitFor();
    await trainer.close();
    await room.close();
  });
});
