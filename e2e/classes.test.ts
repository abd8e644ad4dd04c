import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { BREAKAGES, packSource } from '../core/src/testing';
import { chooseOption, clearChoice } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { browser, prepareWithoutPlants, signIn } from './house';

/**
 * The classes area as a trainer and an administrator use it: find, compare, choose schools, edit, publish,
 * carry from house to house.
 */
let demo: Awaited<ReturnType<typeof startDemo>>;
let desk: Awaited<ReturnType<typeof browser>>;
let page: Page;
beforeAll(async () => {
  demo = await startDemo();
  desk = await browser();
  page = desk.page;
  await signIn(page, demo.address, 'hilda');
});
afterAll(async () => {
  await desk?.close();
  await demo?.stop();
});

const tab = (name: RegExp) => page.getByRole('tab', { name });
/** What the server says of a class, read as the signed-in person. */
const read = <T>(path: string): Promise<T> =>
  page.evaluate(async (address) => (await (await fetch(address)).json()) as never, path);
const hashOf = async (id: string, as: Page = page) =>
  (
    (await as.evaluate(
      async (address) => (await (await fetch(address)).json()) as never,
      `/api/classes/${id}/revisions`,
    )) as {
      revisions: { hash: string; current: boolean }[];
    }
  ).revisions.find((each) => each.current)?.hash;

describe('finding', () => {
  it.each([
    ['two wraps', /Wraps|wraps/, /overhead-crane|mobile-crane/],
    ['cool down', /[Cc]ool/, /part=start-stop|part=/],
    ['belt', /[Bb]elt/, /row=/],
  ])('"%s" leads to the row that says it', async (words, says, address) => {
    await page.goto(`${demo.address}/classes`);
    await page.getByRole('searchbox', { name: 'Search every class' }).fill(words);
    const hit = page
      .getByRole('region', { name: 'Search results' })
      .getByRole('listitem')
      .getByRole('link')
      .filter({ hasText: says })
      .first();
    await hit.waitFor();
    await hit.click();
    await expect.poll(() => page.url()).toMatch(address);
    const row = new URL(page.url()).searchParams.get('row')!;
    const found = page.locator(`[id="row-${row}"]`);
    await found.waitFor();
    await expect
      .poll(() =>
        found.evaluate(
          (node) => node.getBoundingClientRect().top < innerHeight && node.getBoundingClientRect().bottom > 0,
        ),
      )
      .toBe(true);
    expect(await found.innerText()).toMatch(says);
    await page.goBack();
    await expect
      .poll(() => page.getByRole('searchbox', { name: 'Search every class' }).inputValue())
      .toBe(words);
  });

  it('says so when nothing is found, and shows every class by family when nothing is asked', async () => {
    await page.goto(`${demo.address}/classes`);
    await page.getByRole('searchbox', { name: 'Search every class' }).fill('zeppelin mooring');
    await page.getByText(/0 rows/).waitFor();
    await page.getByRole('searchbox', { name: 'Search every class' }).fill('');
    await page.getByRole('heading', { name: 'Machine classes' }).waitFor();
    expect(await page.getByRole('link', { name: /checks, .* faults/ }).count()).toBe(23);
  });

  it('compares two classes where they start, stop and measure differently', async () => {
    await page.goto(`${demo.address}/classes/compare`);
    await chooseOption(page, 'First class', 'Wheel loader');
    await chooseOption(page, 'Second class', 'Motor grader');
    await page.getByRole('heading', { name: 'Starting' }).waitFor();
    await page.getByRole('heading', { name: /Numbers/ }).waitFor();
    expect(page.url()).toMatch(/a=wheel-loader/);
    await page.reload();
    await page.getByRole('heading', { name: 'Starting' }).waitFor();
  });

  it('recomposes the page when a switch is moved', async () => {
    await page.goto(`${demo.address}/classes/reel-mower?part=round`);
    const count = page.getByText(/checks, \d+ min/);
    await count.waitFor();
    const before = await count.innerText();
    await page.getByRole('combobox', { name: 'Power' }).focus();
    await page.keyboard.press('Enter');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.press('Enter');
    await expect.poll(() => count.innerText()).not.toBe(before);
    await page.goto(`${demo.address}/classes/reel-mower?part=nonsense&row=no-such-row`);
    await page.getByRole('tab', { name: /^Round/ }).waitFor();
  });
});

describe('schools', () => {
  it('a site chooses, and the number on the class page changes with date and signature', async () => {
    await page.goto(`${demo.address}/classes/counterbalance-forklift?part=numbers&row=CF-N20`);
    const number = page.locator('[id="row-CF-N20"]');
    await number.waitFor();
    const plain = await number.innerText();
    await chooseOption(page, 'Site', 'Ferry Quay');
    await tab(/^Schools/).click();
    const question = page.getByRole('region', { name: 'Ramp rule for loaded' });
    await question
      .getByRole('listitem')
      .filter({ hasText: 'steeper than 5 per cent' })
      .getByRole('button', { name: 'Choose for Ferry Quay' })
      .click();
    const sign = page.getByRole('button', { name: 'Sign as Hilda Rousay' });
    expect(await sign.isDisabled()).toBe(true);
    await page.getByLabel(/^Why Ferry Quay takes/).fill('quay ramps are under 5 %');
    await sign.click();
    await question
      .getByText(/Chosen for Ferry Quay on .* 2026.*, signed Hilda Rousay:\s+quay ramps/)
      .waitFor();
    await tab(/^Numbers/).click();
    await number.getByText(/site choice/).waitFor();
    const chosen = await number.innerText();
    expect(chosen).not.toBe(plain);
    expect(chosen).toMatch(/\b5\b/);
    // Another site, and no site, keep what they had; the alternative stays in view.
    await clearChoice(page, 'Site');
    await expect.poll(() => number.innerText()).toBe(plain);
    await page.reload();
    await chooseOption(page, 'Site', 'Ferry Quay');
    await number.getByText(/site choice/).waitFor();
  });
});

describe('editing', () => {
  it('a changed check is published and taken up by the next evaluation; an older one stays', async () => {
    const start = async () => {
      await prepareWithoutPlants(page, demo.address);
      await page.getByRole('button', { name: 'Go to the machine' }).click();
      await page.getByRole('button', { name: 'Start the round' }).click();
      await page.getByRole('button', { name: /^Fork arms:/ }).click();
      await page.getByRole('group', { name: /^CF-10 / }).waitFor();
      return page.url().split('?')[0]!;
    };
    const old = await start();
    const before = await hashOf('counterbalance-forklift');

    await page.goto(`${demo.address}/classes/counterbalance-forklift/edit?row=CF-10`);
    const form = page.getByRole('form', { name: 'Row CF-10' });
    await form.getByLabel(/^Part/).fill('Fork blades, welds and hook welds');
    await form.getByLabel(/^Part/).blur();
    await page.getByText(/Draft saved .* by Hilda Rousay/).waitFor();
    // The draft is nobody's content yet, and it is there after a reload.
    expect(await hashOf('counterbalance-forklift')).toBe(before);
    await page.reload();
    await page.getByText(/Draft saved .* by Hilda Rousay/).waitFor();
    await tab(/^Changes and publishing/).click();
    await page.getByText(/1 row differs/).waitFor();
    const publish = page.getByRole('button', { name: 'Publish' });
    expect(await publish.isDisabled()).toBe(true);
    await page.getByLabel('Why it changes').fill('hook welds named');
    await publish.click();
    await page.waitForURL(/\/classes\/counterbalance-forklift$/);
    await page.getByRole('button', { name: 'More', exact: true }).click();
    await page.getByRole('menuitem', { name: 'Revisions' }).click();
    await page.getByRole('cell', { name: 'hook welds named' }).waitFor();
    await page
      .getByRole('region', { name: 'Differences' })
      .getByRole('insertion')
      .filter({ hasText: 'Fork blades, welds and hook welds' })
      .waitFor();
    expect(await hashOf('counterbalance-forklift')).not.toBe(before);

    await page.goto(`${old}?part=round`);
    await page.getByRole('button', { name: /^Fork arms:/ }).click();
    await page.getByRole('group', { name: /^CF-10 Fork blades and welds/ }).waitFor();
    await start();
    await page.getByRole('group', { name: /^CF-10 Fork blades, welds and hook welds/ }).waitFor();
  });

  it('an older revision is taken up again as a draft and published', async () => {
    await page.goto(`${demo.address}/classes/counterbalance-forklift/history`);
    await page.getByRole('button', { name: 'Take up again as a draft' }).click();
    await page.getByText(/1 row differs/).waitFor();
    await page.getByLabel('Why it changes').fill('back to the shipped wording');
    await page.getByRole('button', { name: 'Publish' }).click();
    await page.waitForURL(/\/classes\/counterbalance-forklift$/);
    const { revisions } = await read<{ revisions: { hash: string }[] }>(
      '/api/classes/counterbalance-forklift/revisions',
    );
    expect(revisions.length).toBe(3);
  });

  it('errors in the text stand at their lines and keep the draft from being published', async () => {
    await page.goto(`${demo.address}/classes/push-mower/edit?tab=text`);
    const text = page.getByRole('textbox', { name: 'The class as YAML' });
    await text.click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type('wheels: four');
    await page.getByText(/1 error/).waitFor();
    await tab(/^Changes and publishing/).click();
    await page
      .getByRole('region', { name: 'Errors' })
      .getByText(/wheels/)
      .waitFor();
    expect(await page.getByRole('button', { name: 'Publish' }).isDisabled()).toBe(true);
    await page
      .getByRole('region', { name: 'Errors' })
      .getByRole('button', { name: /^line \d+/ })
      .click();
    await text.waitFor();
    await page.getByRole('button', { name: 'Throw the draft away' }).click();
    await page.getByRole('button', { name: 'Throw it away' }).click();
    await page.getByText('As published, no draft').waitFor();
  });

  it('two people at one draft: the second is told, and nothing is overwritten', async () => {
    const other = await browser();
    await signIn(other.page, demo.address, 'ronan');
    await page.goto(`${demo.address}/classes/push-mower/edit?row=pm-c01`);
    await other.page.goto(`${demo.address}/classes/push-mower/edit?row=pm-c01`);
    for (const each of [page, other.page]) await each.getByRole('form', { name: 'Row pm-c01' }).waitFor();
    const type = async (at: Page, words: string) => {
      const field = at.getByRole('form', { name: 'Row pm-c01' }).getByLabel(/^Sound/);
      await field.fill(words);
      await field.blur();
    };
    await type(page, 'no crack, wheels run true');
    await page.getByText(/Draft saved .* by Hilda Rousay/).waitFor();
    await type(other.page, 'no crack at all');
    await other.page.getByRole('alert').first().waitFor();
    await other.page.getByText('Kept on this device, not saved').waitFor();
    await other.page.getByRole('button', { name: /open what is saved|Open what is saved/ }).click();
    await expect
      .poll(() =>
        other.page
          .getByRole('form', { name: 'Row pm-c01' })
          .getByLabel(/^Sound/)
          .inputValue(),
      )
      .toBe('no crack, wheels run true');
    await other.close();
    await page.getByRole('button', { name: 'Throw the draft away' }).click();
    await page.getByRole('button', { name: 'Throw it away' }).click();
    await page.getByText('As published, no draft').waitFor();
  });

  it('a station is dragged, and moved by the arrow keys', async () => {
    await page.goto(`${demo.address}/classes/push-mower/edit?tab=plan`);
    const station = page
      .getByRole('group', { name: 'Plan with stations to move' })
      .getByRole('button', { name: /^Front lip at/ });
    const where = async () => (await station.getAttribute('aria-label'))!;
    const first = await where();
    const box = (await station.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 40, box.y + box.height / 2, { steps: 4 });
    await page.mouse.up();
    await expect.poll(where).not.toBe(first);
    const dragged = await where();
    await station.focus();
    await page.keyboard.press('ArrowUp');
    await expect.poll(where).not.toBe(dragged);
    await page.getByText(/Draft saved/).waitFor();
    await tab(/^Changes and publishing/).click();
    await page.getByText(/1 row differs/).waitFor();
    await page.getByRole('button', { name: 'Throw the draft away' }).click();
    await page.getByRole('button', { name: 'Throw it away' }).click();
    await page.getByText('As published, no draft').waitFor();
  });
});

describe('carrying a class from house to house', () => {
  it('exported, taken out of use and imported again it has the same content hash', async () => {
    const admin = await browser();
    await signIn(admin.page, demo.address, 'una');
    await admin.page.goto(`${demo.address}/classes/mobile-crane`);
    await admin.page.getByRole('button', { name: 'More', exact: true }).click();
    const download = admin.page.waitForEvent('download');
    await admin.page.getByRole('link', { name: /YAML/ }).click();
    const file = await (await download).path();
    const before = await hashOf('mobile-crane', admin.page);
    expect(before).toMatch(/^[0-9a-f]{64}$/);

    await admin.page.goto(`${demo.address}/classes/mobile-crane/history`);
    await admin.page.getByText('Take this class out of use').click();
    await admin.page.getByLabel('Why').fill('moved to the other yard');
    await admin.page.getByRole('button', { name: 'Take out of use' }).click();
    await expect.poll(() => hashOf('mobile-crane', admin.page)).toBeUndefined();
    await admin.page.goto(`${demo.address}/classes/mobile-crane`);
    await admin.page.getByText(/no checks, faults or score sheet/).waitFor();

    await admin.page.goto(`${demo.address}/classes/import`);
    await admin.page.getByLabel('Class file').setInputFiles(file);
    await admin.page.getByRole('button', { name: 'Take the class into use' }).click();
    await admin.page.getByText('Mobile crane is imported').waitFor();
    expect(await hashOf('mobile-crane', admin.page)).toBe(before);
    await admin.page.getByRole('button', { name: 'Open the class' }).click();
    await admin.page.getByRole('tab', { name: /^Round/ }).waitFor();
    await admin.close();
  });

  it('a broken file is refused with line and reason, and the library stays as it is', async () => {
    const before = await hashOf('counterbalance-forklift');
    for (const broken of BREAKAGES.slice(0, 3)) {
      await page.goto(`${demo.address}/classes/import`);
      await page.getByLabel('Class file').setInputFiles({
        name: 'broken.yaml',
        mimeType: 'application/yaml',
        buffer: Buffer.from(broken.change(packSource('counterbalance-forklift'))),
      });
      const refused = page.getByRole('region', { name: 'What would change' });
      await refused.getByText(/in broken.yaml/).waitFor();
      expect(await refused.getByRole('row').count()).toBeGreaterThan(1);
      expect(
        Number(await refused.getByRole('row').nth(1).getByRole('cell').first().innerText()),
      ).toBeGreaterThan(0);
      expect(
        await page.getByRole('button', { name: /Import as a new revision|Take the class/ }).count(),
      ).toBe(0);
    }
    expect(await hashOf('counterbalance-forklift')).toBe(before);
  });
});

describe('others', () => {
  it('an operator reads a class but does not edit, import or choose', async () => {
    const operator = await browser();
    await signIn(operator.page, demo.address, 'isla');
    await operator.page.goto(`${demo.address}/classes/counterbalance-forklift?part=schools`);
    await operator.page.getByRole('heading', { name: 'Ramp rule for loaded' }).waitFor();
    for (const name of ['Edit', 'Revisions'])
      expect(await operator.page.getByRole('link', { name, exact: true }).count()).toBe(0);
    expect(await operator.page.getByRole('button', { name: /^Choose for/ }).count()).toBe(0);
    await operator.page.goto(`${demo.address}/classes/counterbalance-forklift/edit`);
    await operator.page.getByRole('heading', { name: 'Not open to your role' }).waitFor();
    await operator.close();
  });
});
