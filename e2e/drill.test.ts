import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption, openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { signIn } from './house';

/** The walk-round drill: on a phone, by keyboard alone, without a network for a while, and without a leak. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

async function begin(page: Page, form: RegExp, beforeDealt: () => void = () => {}): Promise<string> {
  await page.goto(`${demo.address}/practise`);
  await chooseOption(page, 'Class', 'Counterbalance forklift truck');
  await page.getByRole('group', { name: 'Which drill' }).getByRole('button', { name: form }).click();
  beforeDealt();
  await page.getByRole('button', { name: 'Begin' }).click();
  await page.getByText('Where do you begin?').waitFor();
  return page.url().split('/').at(-1)!;
}
const parts = (page: Page) => page.getByRole('group', { name: 'Parts at this station' }).getByRole('button');
const methods = (page: Page) => page.getByRole('group', { name: /^Ways to check/ }).getByRole('button');
const readings = (page: Page) => page.getByRole('list', { name: 'What it showed' }).locator('li:not(.quiet)');
const calls = (page: Page) => page.getByRole('group', { name: /^Call/ }).getByRole('button');
const called = async (page: Page) =>
  Number(/(\d+) of/.exec(await page.getByText(/\d+ of \d+ called/).innerText())![1]);

/** Everything that the browser holds for this address: the page, what is stored, and the caches of the worker. */
const held = (page: Page) =>
  page.evaluate(async () => {
    const found: string[] = [document.documentElement.outerHTML];
    for (const store of [localStorage, sessionStorage]) found.push(JSON.stringify({ ...store }));
    for (const { name } of await indexedDB.databases()) {
      const db = await new Promise<IDBDatabase>((done, fail) => {
        const opening = indexedDB.open(name!);
        opening.onsuccess = () => done(opening.result);
        opening.onerror = () => fail(new Error(`${name} cannot be opened`));
      });
      for (const table of db.objectStoreNames) {
        const rows = db.transaction(table).objectStore(table).getAll();
        await new Promise((done) => (rows.onsuccess = done));
        found.push(JSON.stringify(rows.result));
      }
      db.close();
    }
    for (const name of await caches.keys()) {
      const cache = await caches.open(name);
      for (const request of await cache.keys()) found.push(await (await cache.match(request))!.text());
    }
    return found.join('\n');
  });

describe('a walk-round drill', () => {
  it('leaks no fault before the method that shows it: page, source, storage, caches, every answer', async () => {
    const { context, close } = await openBrowser({ viewport: { width: 390, height: 844 } });
    const page = context.pages()[0]!;
    /** What was heard and held, in order of time; `shown` is how much of it came before the act that shows a fault. */
    const heard: string[] = [];
    context.on('response', (response) => {
      const at = heard.push('') - 1;
      void response.text().then(
        (text) => (heard[at] = text),
        () => undefined,
      );
    });
    await signIn(page, demo.address, 'hilda');
    let dealtAt = 0;
    const id = await begin(page, /^Five minutes/, () => (dealtAt = heard.length));
    const shownAt = new Map<string, number>();
    const stations = await page
      .getByRole('group', { name: 'Stations of the round' })
      .getByRole('button')
      .count();
    for (let s = 0; s < stations; s++) {
      // There once the server has answered: until then the parts of the last station stand.
      const at = await page.locator('.where strong').innerText();
      await page.getByRole('button', { name: 'Next station' }).click();
      await expect.poll(() => page.locator('.where strong').innerText(), { timeout: 30_000 }).not.toBe(at);
      for (let p = 0; p < (await parts(page).count()); p++) {
        await parts(page).nth(p).click();
        const part = (await parts(page).nth(p).innerText()).trim();
        for (let m = 0; m < (await methods(page).count()); m++) {
          heard.push(await held(page));
          const method = (await methods(page).nth(m).innerText()).trim();
          shownAt.set(`${part} ${method}`, heard.length);
          const before = await readings(page).count();
          await methods(page).nth(m).click();
          await expect.poll(() => readings(page).count(), { timeout: 30_000 }).toBe(before + 1);
        }
      }
    }
    heard.push(await held(page));
    const upTo = heard.length;
    const result = await page.evaluate(async (drill) => {
      const send = (act: object) =>
        fetch(`/api/practice/drills/${drill}/acts`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ id: crypto.randomUUID(), act }),
        });
      await send({ kind: 'end' });
      const view = (await (await fetch(`/api/practice/drills/${drill}`)).json()) as {
        progress: { readings: { checkpoint: string; shows: string | null }[] };
      };
      const { result } = (await (await fetch(`/api/practice/drills/${drill}/result`)).json()) as {
        result: {
          cases: {
            checkpoint: string;
            part: string;
            fault: { id: string; title: string } | null;
            shownBy: { method: string; shows: string }[];
          }[];
        };
      };
      return { cases: result.cases, readings: view.progress.readings };
    }, id);
    const faulty = result.cases.filter((each) => each.fault);
    expect(faulty.length).toBeGreaterThan(2);
    const first = (words: string) => heard.slice(0, upTo).findIndex((text) => text.includes(words));
    // What was there before anything was dealt tells nothing of it, such as a fault planted in a machine of the yard; nor
    // does another part that shows the same words.
    const told = (words: string, checkpoint: string) =>
      first(words) >= dealtAt &&
      !result.readings.some((each) => each.checkpoint !== checkpoint && each.shows?.includes(words));
    const leaks = faulty.flatMap(({ checkpoint, part, fault, shownBy }) => [
      ...[fault!.id, fault!.title].filter((words) => told(words, checkpoint)),
      ...shownBy
        .filter(({ method, shows }) => {
          const name = method === 'operate' ? 'Work it' : method[0]!.toUpperCase() + method.slice(1);
          return told(shows, checkpoint) && first(shows) < shownAt.get(`${part} ${name}`)!;
        })
        .map(({ shows }) => shows),
    ]);
    expect(leaks).toEqual([]);
    // The search does find what is there: what was shown, and the parts by name.
    expect(faulty.some((each) => each.shownBy.some(({ shows }) => first(shows) >= 0))).toBe(true);
    expect(first(faulty[0]!.part)).toBeGreaterThanOrEqual(0);
    await close();
  });

  it('is worked by keyboard alone, kept over a reload, and goes on when the network is back', async () => {
    const { context, close } = await openBrowser();
    const page = context.pages()[0]!;
    await signIn(page, demo.address, 'isla');
    await begin(page, /^The one thing wrong/);
    const walk = async () => {
      const at = await page.locator('.where strong').innerText();
      // A key pressed while an act is under way does nothing, as on the screen.
      await expect.poll(() => page.getByRole('button', { name: 'End', exact: true }).isEnabled()).toBe(true);
      await page.keyboard.press('ArrowRight');
      await expect.poll(() => page.locator('.where strong').innerText(), { timeout: 30_000 }).not.toBe(at);
    };
    do await walk();
    while ((await parts(page).count()) === 0);
    await page.keyboard.press('1');
    await expect.poll(() => readings(page).count()).toBe(1);
    await page.keyboard.press('s');
    await expect.poll(() => called(page)).toBe(1);
    await page.reload();
    await expect.poll(() => called(page), { timeout: 30_000 }).toBe(1);
    await context.setOffline(true);
    await page.keyboard.press('ArrowRight');
    await page.getByText('No connection').waitFor();
    await context.setOffline(false);
    const before = await page.locator('.where strong').innerText();
    await page.getByRole('button', { name: 'Send it again' }).press('Enter');
    await expect.poll(() => page.locator('.where strong').innerText()).not.toBe(before);
    for (let n = 0; n < 40 && (await called(page)) < 8; n++) {
      for (let open = await parts(page).count(); open > 0; open--) {
        const now = await called(page);
        await page.keyboard.press('s');
        await expect.poll(async () => (await called(page)) >= now).toBe(true);
        await page.keyboard.press('ArrowDown');
      }
      await walk();
    }
    await page.getByRole('button', { name: 'End', exact: true }).press('Enter');
    const sure = page.getByRole('button', { name: 'End it' });
    await page.waitForURL(/result|practise/);
    if (await sure.isVisible().catch(() => false)) await sure.press('Enter');
    await page.getByRole('heading', { name: /of 100/ }).waitFor();
    await page.getByRole('region', { name: 'Missed' }).waitFor();
    await close();
  });

  it('has everything of a part on a phone, calls within reach of the thumb', async () => {
    const { context, close } = await openBrowser({ viewport: { width: 390, height: 844 }, hasTouch: true });
    const page = context.pages()[0]!;
    await signIn(page, demo.address, 'isla');
    await begin(page, /^The whole round/);
    do await page.getByRole('button', { name: 'Next station' }).tap();
    while ((await parts(page).count()) === 0);
    await methods(page).first().waitFor();
    for (const each of [...(await methods(page).all()), ...(await calls(page).all())]) {
      const box = (await each.boundingBox())!;
      expect(Math.min(box.width, box.height)).toBeGreaterThanOrEqual(56);
    }
    for (const each of await calls(page).all()) {
      const { y, height } = (await each.boundingBox())!;
      expect(y).toBeGreaterThan(844 / 2);
      expect(y + height).toBeLessThanOrEqual(844);
    }
    await close();
  });

  it('is practised from the device without a network, says whom it is for, and comes to the same on the server', async () => {
    const { context, close } = await openBrowser({ viewport: { width: 390, height: 844 }, hasTouch: true });
    const page = context.pages()[0]!;
    await signIn(page, demo.address, 'isla');
    await page.goto(`${demo.address}/practise`);
    await chooseOption(page, 'Class', 'Counterbalance forklift truck');
    await page.getByRole('button', { name: 'Keep it for practice without a network' }).click();
    await page.getByText('Kept on this device for practice without a network.').waitFor();
    await page.evaluate(() => navigator.serviceWorker.ready);
    await context.setOffline(true);
    await page.reload();
    const away = page.getByRole('region', { name: 'Without a network' });
    await away.getByText('The server cannot be reached.').waitFor();
    await chooseOption(page, 'Class', 'Counterbalance forklift truck');
    await page
      .getByRole('group', { name: 'Which drill' })
      .getByRole('button', { name: /^Five minutes/ })
      .click();
    await page.getByRole('button', { name: 'Begin, for yourself' }).click();
    await page.getByText('it counts for no readiness').waitFor();
    const where = page.locator('.where strong');
    do {
      const at = await where.innerText();
      await page.getByRole('button', { name: 'Next station' }).click();
      await expect.poll(() => where.innerText(), { timeout: 30_000 }).not.toBe(at);
    } while ((await parts(page).count()) === 0);
    await methods(page).first().click();
    await expect.poll(() => readings(page).count()).toBe(1);
    await calls(page).first().click();
    await expect.poll(() => called(page)).toBe(1);
    // Closed and opened again it is where it was.
    await page.reload();
    await expect.poll(() => called(page), { timeout: 30_000 }).toBe(1);
    await page.getByRole('button', { name: 'End', exact: true }).click();
    await page.getByRole('button', { name: 'End it' }).click();
    const score = await page.getByRole('heading', { name: /of 100/ }).innerText();
    await page.getByText('Practised without a network, for yourself.').waitFor();

    await context.setOffline(false);
    await page.goto(`${demo.address}/practise`);
    const record = page
      .getByRole('region', { name: 'Practice record' })
      .getByRole('region', { name: 'Practised without a network' });
    await record.getByRole('link').first().click();
    expect(await page.getByRole('heading', { name: /of 100/ }).innerText()).toBe(score);
    await page.getByText('Practised without a network, for yourself.').waitFor();
    await close();
  });
});
