import type { DeskView } from '@rounds/contract';
import {
  type Control,
  type DeskAct,
  type DeskDeal,
  type DeskPack,
  dealtMachine,
  type LoggedAct,
  machineOf,
  TICKS,
  workThrough,
} from '@rounds/core/machine';
import { session } from '@rounds/core/procedure';
import type { Page } from 'playwright-core';
import { expect } from 'vitest';
import { chooseOption } from '../tools/browser';

/** Working at a desk in the browser, by mouse, by touch and by keyboard. */

/** What somebody works a desk with. */
type Hand = 'mouse' | 'touch' | 'keyboard';

/** Begins a run from the practice screen, as a person does. */
export async function begin(
  page: Page,
  address: string,
  title: string,
  program: RegExp,
  mode: RegExp | null,
): Promise<DeskView> {
  await page.goto(`${address}/practise?what=desk`);
  await chooseOption(page, 'Class', title);
  await page
    .getByRole('group', { name: 'What to do at the desk' })
    .getByRole('button', { name: program })
    .click();
  if (mode)
    await page.getByRole('group', { name: 'How much is shown' }).getByRole('button', { name: mode }).click();
  await page.getByRole('button', { name: 'Begin', exact: true }).click();
  await page.getByLabel('Machine time').waitFor();
  const id = page.url().split('/').at(-1)!;
  return page.evaluate(
    async (run) => (await (await fetch(`/api/practice/desks/${run}`)).json()) as DeskView,
    id,
  );
}

/** Everything that is to be done, by whoever knows the way. */
function way(view: DeskView): { log: LoggedAct[]; controls: ReadonlyMap<string, Control>; pack: DeskPack } {
  const pack = view.pack as DeskPack;
  const deal = view.deal as DeskDeal;
  const machine = machineOf(pack)!;
  const { log } = workThrough(machine, session(pack, deal.procedures), dealtMachine(machine, deal));
  return { log, controls: machine.controls, pack };
}

/** Seconds that the machine's clock shows. */
export async function clock(page: Page): Promise<number> {
  const parts = (await page.getByLabel('Machine time').innerText()).split(':').map(Number);
  return parts.reduce((sum, each) => 60 * sum + each, 0);
}
/** Sets the clock by its key, which leaves both hands where they are. */
export const speed = (page: Page, key: 'p' | '1' | '3') => page.keyboard.press(key);

/** Waits until the machine's clock shows so much, quickly where it is long. */
export async function until(page: Page, seconds: number): Promise<void> {
  await speed(page, seconds - (await clock(page)) > 8 ? '3' : '1');
  await expect.poll(() => clock(page), { timeout: 120_000, interval: 100 }).toBeGreaterThanOrEqual(seconds);
  // Held, so that a slow machine is not slow at the desk.
  await speed(page, 'p');
}

/** Reaches a button by Tab alone. */
async function tabTo(page: Page, name: string): Promise<void> {
  for (let n = 0; n < 400; n++) {
    const here = await page.evaluate(() => {
      const at = document.activeElement;
      return at?.getAttribute('aria-label') ?? at?.textContent?.trim() ?? '';
    });
    if (here === name) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`"${name}" is not reached by Tab`);
}

/** Does what is to be done with a hand, act by act, waiting as long as it takes. */
export async function workAt(page: Page, view: DeskView, hand: Hand): Promise<void> {
  const { log, controls, pack } = way(view);
  const desk = pack.machine.desk!;
  let held: string | null = null;
  const press = async (name: string) => {
    const button = page.getByRole('button', { name, exact: true });
    if (hand === 'keyboard') {
      await tabTo(page, name);
      await page.keyboard.press('Enter');
    } else if (hand === 'touch') await button.tap();
    else await button.click();
  };
  const letGo = async () => {
    if (held === null) return;
    if (hand === 'mouse') await page.mouse.up();
    else if (hand === 'keyboard') await page.keyboard.up(' ');
    else await page.getByRole('button', { name: held, exact: true }).tap();
    held = null;
  };
  const hold = async (name: string) => {
    await letGo();
    const button = page.getByRole('button', { name, exact: true });
    if (hand === 'mouse') {
      await button.hover();
      await page.mouse.down();
    } else if (hand === 'keyboard') {
      await tabTo(page, name);
      await page.keyboard.down(' ');
    } else {
      // For those who cannot hold: kept with a tap.
      const keep = page.getByRole('button', { name: `${name.split(': ')[0]}: keep it where it is put` });
      if ((await keep.getAttribute('aria-pressed')) === 'false') await keep.tap();
      await button.tap();
    }
    held = name;
  };
  const nameOf = (id: string) => controls.get(id)!.name;
  const choose = async (label: string, option: string, act: string) => {
    await letGo();
    await chooseOption(page, label, option);
    await page.getByRole('button', { name: act, exact: true }).click();
  };
  const does = async (act: DeskAct): Promise<void> => {
    switch (act.kind) {
      case 'go': {
        held = null;
        const place = desk.places.find((each) => each.id === act.place)!;
        const button = page
          .getByRole('region', { name: 'Where you are' })
          .getByRole('button', { name: place.name });
        if ((await button.count()) === 0) return;
        return hand === 'touch' ? button.tap() : button.click();
      }
      case 'look':
        return press(desk.looks.find((each) => each.id === act.look)!.name);
      case 'call':
        return choose('Say aloud', act.says, 'Say it');
      case 'away': {
        const step = pack.procedures.flatMap((each) => each.steps).find((each) => each.id === act.step)!;
        return choose('Done away from the desk', step.do, 'Done');
      }
      case 'set':
        return controls.get(act.control)!.kind === 'selector'
          ? press(`${nameOf(act.control)}: ${act.to}`)
          : hold(`${nameOf(act.control)}: ${act.to}`);
      case 'hold':
        return hold(`${nameOf(act.control)}: Hold`);
      case 'pedal':
        return act.to === 0 ? letGo() : hold(`${nameOf(act.control)}: ${act.to < 1 ? 50 : 100} %`);
      case 'release':
        return letGo();
      case 'press':
        return press(
          `${nameOf(act.control)}: ${controls.get(act.control)!.kind === 'pull' ? 'pull' : 'press'}`,
        );
      default:
        throw new Error(act.kind);
    }
  };
  // What is waited for between two acts is waited for here too, from the end of the one before.
  let before = 0;
  await speed(page, 'p');
  for (const { tick, act } of log) {
    const gap = (tick - before) / TICKS;
    if (gap > 1.5 || (held !== null && gap > 0.3))
      await until(page, (await clock(page)) + Math.ceil(gap) + 1);
    before = tick;
    await does(act);
  }
  await letGo();
  await until(page, (await clock(page)) + 3);
}

export async function endRun(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'End', exact: true }).click();
  const question = page.getByRole('dialog');
  await question.getByRole('button', { name: 'End it' }).click();
  await page.getByRole('link', { name: 'To the desk again' }).waitFor();
  await question.waitFor({ state: 'detached' });
}
