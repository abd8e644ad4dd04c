import type { BrowserContext, Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { signIn } from '../tools/views';

/**
 * Every task of the tour, by keyboard alone and by touch alone. The keyboard reaches things as a person does,
 * with Tab and the arrows; the finger only taps and draws.
 */
interface Hand {
  press: (target: Locator) => Promise<void>;
  write: (field: Locator, text: string) => Promise<void>;
  /** Takes an option of a choice. */
  pick: (label: string, option: string) => Promise<void>;
  /** Opens a menu by its button and takes an item. */
  menu: (button: Locator, item: string | RegExp) => Promise<void>;
  tab: (name: RegExp) => Promise<void>;
  /** Gives a file to a drop of the screen. */
  file: (text: string) => Promise<void>;
}

const MOST_TABS = 500;
/** Walks with Tab until the target, or something in it, has the focus. */
async function reach(page: Page, target: Locator): Promise<void> {
  await target.waitFor({ state: 'attached' });
  for (let i = 0; i < MOST_TABS; i++) {
    const there = await target.evaluate((each) => {
      const { activeElement } = document;
      return each === activeElement || each.contains(activeElement);
    });
    if (there) return;
    await page.keyboard.press('Tab');
  }
  throw new Error(`Tab does not reach ${String(target)}`);
}
const visibleOption = (page: Page, option: string) =>
  page.locator('.ant-select-item-option:visible').filter({ hasText: option }).first();
const combobox = (page: Page, label: string) => page.getByRole('combobox', { name: label, exact: true });

function keyboard(page: Page): Hand {
  const press = async (target: Locator) => {
    await reach(page, target);
    const spaced = await target.evaluate((each) =>
      /^(checkbox|switch|radio)$/.test(each.getAttribute('role') ?? (each as HTMLInputElement).type ?? ''),
    );
    await page.keyboard.press(spaced ? 'Space' : 'Enter');
  };
  return {
    press,
    async write(field, text) {
      await reach(page, field);
      await page.keyboard.press('Control+a');
      await page.keyboard.type(text);
    },
    async pick(label, option) {
      const field = combobox(page, label);
      await reach(page, field);
      if (await field.isEditable()) await page.keyboard.type(option);
      else await page.keyboard.press('Enter');
      await visibleOption(page, option).waitFor();
      for (let i = 0; i < 60; i++) {
        const active = page.locator('.ant-select-item-option-active:visible');
        if ((await active.innerText()).includes(option)) break;
        await page.keyboard.press('ArrowDown');
      }
      await page.keyboard.press('Enter');
    },
    async menu(button, item) {
      await press(button);
      // The menu takes the focus by itself; the arrows do the rest.
      const focused = () => page.evaluate(() => document.activeElement?.getAttribute('role'));
      await expect.poll(focused).toBe('menuitem');
      const wanted = page.getByRole('menuitem', { name: item });
      for (let i = 0; i < 20; i++) {
        if (await wanted.evaluate((each) => each === document.activeElement)) break;
        await page.keyboard.press('ArrowDown');
      }
      await page.keyboard.press('Enter');
    },
    async tab(name) {
      const wanted = page.getByRole('tab', { name });
      await reach(page, page.locator('.tab-row'));
      for (let i = 0; i < 12 && (await wanted.getAttribute('aria-selected')) !== 'true'; i++)
        await page.keyboard.press('ArrowRight');
      expect(await wanted.getAttribute('aria-selected')).toBe('true');
    },
    async file(text) {
      const chooser = page.waitForEvent('filechooser');
      await press(page.locator('.ant-upload-drag [role="button"]'));
      await (await chooser).setFiles({ name: 'a.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
    },
  };
}

function finger(page: Page): Hand {
  return {
    press: (target) => target.tap(),
    async write(field, text) {
      await field.tap();
      await field.fill('');
      // What the keyboard on the glass sends.
      await page.keyboard.insertText(text);
    },
    async pick(label, option) {
      const field = combobox(page, label);
      await field.locator('xpath=ancestor::*[contains(@class, "ant-select-selector")]').tap();
      if (await field.isEditable()) await page.keyboard.insertText(option);
      await visibleOption(page, option).tap();
    },
    async menu(button, item) {
      await button.tap();
      await page.getByRole('menuitem', { name: item }).tap();
    },
    async tab(name) {
      await page.getByRole('tab', { name }).tap();
    },
    async file(text) {
      const chooser = page.waitForEvent('filechooser');
      await page.locator('.ant-upload-drag [role="button"]').tap();
      await (await chooser).setFiles({ name: 'a.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
    },
  };
}

let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

const WAYS = [
  {
    way: 'keyboard',
    hand: keyboard,
    login: 'hilda',
    name: 'Hilda Rousay',
    machine: /^FLT-01/,
    site: 'Ferry Quay',
    part: 'Fork blades, welds',
  },
  {
    way: 'touch',
    hand: finger,
    login: 'ronan',
    name: '',
    machine: /^FLT-02/,
    site: 'Gannet Field',
    part: 'Fork blades, seams',
  },
] as const;

describe.each(WAYS)('by $way alone', ({ way, hand, login, machine, site, part }) => {
  let page: Page;
  let context: BrowserContext;
  let close: () => Promise<void>;
  let by: Hand;
  const button = (name: string | RegExp, exact = true) => page.getByRole('button', { name, exact }).first();
  const link = (name: string | RegExp) => page.getByRole('link', { name }).first();
  const open = (path: string) => page.goto(`${demo.address}${path}`);
  beforeAll(async () => {
    ({ context, close } = await openBrowser({ hasTouch: way === 'touch' }));
    page = context.pages()[0]!;
    await signIn(page, demo.address, login);
    by = hand(page);
  });
  afterAll(() => close?.());

  it('people are found, and a dated fact is recorded', async () => {
    await open('/');
    await by.press(link('People'));
    await by.write(page.getByLabel('Search by name or payroll number'), 'Corrigall');
    await page.getByRole('heading', { name: /^People\s+1$/ }).waitFor();
    await by.press(link('Corrigall, Eilidh'));
    await by.press(button('Record an event'));
    await by.pick('Class', 'String trimmer');
    await by.pick('What happened', 'Hours logged');
    await by.write(page.getByRole('spinbutton', { name: 'Hours' }), '6');
    await by.press(button('Record'));
    await page.getByText('6 hours logged').first().waitFor();
  });

  it('a roster is imported', async () => {
    await open('/people/import');
    const payroll = way === 'keyboard' ? '7001' : '7002';
    await by.file(`Staff no,First name,Surname,Site,Team\n${payroll},Kay,Board ${way},Ferry Quay,Quayside\n`);
    await by.press(button('Write 1 row'));
    await page.getByText('1 row written').waitFor();
  });

  it('the matrix is walked, and a record opened from it', async () => {
    await open('/people/matrix');
    await by.write(page.getByLabel('Find a person'), 'Marwick');
    const name = page.getByRole('rowheader', { name: 'Marwick, Isla' });
    const cell = page.getByRole('gridcell', { name: /^Marwick, Isla, Counterbalance/ });
    if (way === 'keyboard') {
      await reach(page, name);
      await page.keyboard.press('ArrowRight');
    } else await cell.tap();
    await page
      .getByRole('status')
      .filter({ hasText: 'Marwick, Isla, Counterbalance forklift truck: ' })
      .waitFor();
    await by.press(link('Open the record'));
    await page.getByRole('heading', { name: 'Isla Marwick' }).waitFor();
  });

  it('the classes are searched and two compared', async () => {
    await open('/classes');
    await by.write(page.getByRole('searchbox', { name: 'Search every class' }), 'two wraps');
    await by.press(page.getByRole('region', { name: 'Search results' }).getByRole('link').first());
    await page.waitForURL(/row=/);
    await open('/classes/compare');
    await by.pick('First class', 'Wheel loader');
    await by.pick('Second class', 'Motor grader');
    await page.waitForURL(/a=wheel-loader&b=motor-grader/);
    await page.getByRole('heading', { name: 'Starting' }).waitFor();
  });

  it('a school is chosen for a site and signed', async () => {
    await open('/classes/counterbalance-forklift?part=schools');
    await by.pick('Site', site);
    const question = page.getByRole('region', { name: 'Ramp rule for loaded' });
    await by.press(question.getByRole('button', { name: `Choose for ${site}` }).first());
    await by.write(page.getByLabel(/^Why .* takes/), 'as the yard agreed');
    await by.press(button(/^Sign as/));
    await question.getByText(new RegExp(`Chosen for ${site}`)).waitFor();
  });

  it('a class is changed and published', async () => {
    await open('/classes/counterbalance-forklift/edit?row=CF-10');
    const form = page.getByRole('form', { name: 'Row CF-10' });
    await by.write(form.getByLabel(/^Part/), part);
    // The change counts when the field is left.
    if (way === 'keyboard') await page.keyboard.press('Tab');
    else await page.getByRole('heading', { name: /^Edit/ }).tap();
    await page.getByText(/Draft saved/).waitFor();
    await by.tab(/^Changes and publishing/);
    await page.getByText(/1 row differs/).waitFor();
    await by.write(page.getByLabel('Why it changes'), 'said as here');
    await by.press(button('Publish'));
    await page.waitForURL(/\/classes\/counterbalance-forklift$/);
    await by.menu(button('More'), 'Revisions');
    await page.getByRole('table', { name: 'List of revisions' }).waitFor();
  });

  it('an evaluation is prepared, walked, scored, decided and signed', async () => {
    await open('/assess/new');
    await by.pick('Operator', 'Isla Marwick');
    await by.pick('Class', 'Counterbalance forklift truck');
    await by.press(button(machine, false));
    const leaveOut = page.getByRole('button', { name: /^Leave out/ });
    await leaveOut.first().waitFor();
    while ((await leaveOut.count()) > 1) await by.press(leaveOut.first());
    await by.press(page.getByRole('checkbox', { name: /^Planted: / }));
    await by.press(button('Go to the machine'));

    await by.press(button('Start the round'));
    await by.press(button(/^Fork arms:/));
    const check = page.getByRole('group', { name: /^CF-10 / });
    await by.press(check.getByRole('button', { name: 'Done' }));
    await by.press(check.getByRole('button', { name: 'Fault found' }));
    await by.press(
      page
        .getByRole('group', { name: 'Grade of: Something else at this point' })
        .getByRole('button', { name: 'Watch' }),
    );
    await by.press(button('Note'));
    await by.write(page.getByLabel('Note'), 'wet ground');
    await by.press(button('Keep the note'));
    await by.press(button('End the round'));

    await by.press(button('Take the faults out'));
    await by.press(page.getByRole('checkbox', { name: /^Taken out: / }));
    await by.press(button('Go to the start'));
    await by.press(button('Score it by hand instead'));
    const open_ = page
      .locator('.four:not(:has([aria-pressed="true"]))')
      .getByRole('button', { name: 'Done', exact: true });
    for (let left = await open_.count(); left > 0; left = await open_.count()) {
      await by.press(open_.first());
      await expect.poll(() => open_.count()).toBeLessThan(left);
    }
    await by.press(button('Go to the stop'));
    await by.press(button('Score it by hand instead'));
    await by.press(button('Decide and sign'));
    await by.press(button(/^Decide: /, false));
    const signer = (title: string) => page.getByRole('region', { name: `${title} signs` });
    if (way === 'touch') await draw(context, page, signer('Trainer').getByRole('img'));
    else {
      await by.press(signer('Trainer').getByRole('button', { name: 'Sign by name instead' }));
      await by.write(page.getByLabel(/^Full name of the trainer/), 'Hilda Rousay');
      await by.write(page.getByLabel('Password of the trainer'), 'walk-the-ring');
    }
    await by.press(signer('Trainer').getByRole('button', { name: 'Sign', exact: true }));
    await signer('Trainer')
      .getByText(/Signed by/)
      .waitFor();
    if (way === 'touch') await draw(context, page, signer('Operator').getByRole('img'));
    else {
      await by.press(signer('Operator').getByRole('button', { name: 'Sign by name instead' }));
      await by.write(page.getByLabel(/^Full name of the operator/), 'Isla Marwick');
      await by.write(page.getByLabel('Sign-in name of the operator'), 'isla');
      await by.write(page.getByLabel('Password of the operator'), 'walk-the-ring');
    }
    await by.press(signer('Operator').getByRole('button', { name: 'Sign', exact: true }));
    await page.getByRole('heading', { name: 'Signed and on record' }).waitFor();
  });

  it('the light is changed and the day ended', async () => {
    await open('/');
    await by.menu(button(/your menu$/, false), /^Night/);
    await expect.poll(() => page.evaluate(() => document.documentElement.dataset['theme'])).toBe('night');
    await by.menu(button(/your menu$/, false), 'Sign out');
    await page.getByRole('button', { name: 'Sign in', exact: true }).waitFor();
  });
});

/** Draws a signature with the finger, at the pace of a hand: a flick would swallow the tap after it. */
async function draw(context: BrowserContext, page: Page, field: Locator): Promise<void> {
  await field.scrollIntoViewIfNeeded();
  const box = (await field.boundingBox())!;
  const session = await context.newCDPSession(page);
  const points = [
    [0.1, 0.6],
    [0.2, 0.3],
    [0.3, 0.7],
    [0.45, 0.3],
    [0.6, 0.7],
    [0.75, 0.35],
    [0.75, 0.35],
  ] as const;
  const start = Date.now() / 1000 - points.length;
  for (const [i, [x, y]] of points.entries())
    await session.send('Input.dispatchTouchEvent', {
      type: i === 0 ? 'touchStart' : 'touchMove',
      touchPoints: [{ x: box.x + box.width * x, y: box.y + box.height * y }],
      timestamp: start + i,
    });
  await session.send('Input.dispatchTouchEvent', {
    type: 'touchEnd',
    touchPoints: [],
    timestamp: start + points.length,
  });
}
