import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startDemo } from '../tools/demoServer';
import { browser, prepareWithoutPlants, signIn, signOut } from './house';

/** One tablet, several people, and a network that comes and goes: what each sees, sends and leaves behind. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

/** What the console says where a test makes the server or the network fail. */
const FAILING = /Failed to load resource/;
const REMARK = 'a private remark about the operator';

/** The worker that keeps files for offline takes the page over once; what a test catches is caught only after. */
const takenOver = (page: Page) => page.waitForFunction(() => navigator.serviceWorker.controller !== null);

async function prepare(page: Page): Promise<string> {
  await prepareWithoutPlants(page, demo.address);
  await page.getByRole('button', { name: 'Go to the machine' }).click();
  await page.getByRole('button', { name: 'Start the round' }).click();
  // Shown once it is on the device; from then on it waits until the server has it.
  await page.getByRole('button', { name: 'Note' }).waitFor();
  await page.getByText('All on the server').waitFor();
  return /assess\/([0-9a-f-]+)/.exec(page.url())![1]!;
}
async function note(page: Page, words: string): Promise<void> {
  await page.getByRole('button', { name: 'Note' }).click();
  await page.getByRole('textbox', { name: 'Note' }).fill(words);
  await page.getByRole('button', { name: 'Keep the note' }).click();
}
/** Everything a person could read out of the browser's storage. */
const everythingKept = (page: Page) =>
  page.evaluate(async () => {
    const texts: string[] = [JSON.stringify({ ...localStorage }), JSON.stringify({ ...sessionStorage })];
    for (const { name } of await indexedDB.databases()) {
      const database = await new Promise<IDBDatabase>((resolve, reject) => {
        const opening = indexedDB.open(name!);
        opening.onsuccess = () => resolve(opening.result);
        opening.onerror = () => reject(new Error('cannot open'));
      });
      for (const store of database.objectStoreNames) {
        const rows = await new Promise<unknown[]>((resolve) => {
          const all = database.transaction(store).objectStore(store).getAll();
          all.onsuccess = () => resolve(all.result as unknown[]);
        });
        texts.push(
          JSON.stringify(rows, (_, value: unknown) =>
            value instanceof Uint8Array ? new TextDecoder('latin1').decode(value) : value,
          ),
        );
      }
      database.close();
    }
    return texts.join('\n');
  });
const notesOf = async (id: string, login: string): Promise<{ words: string; by: string }[]> => {
  const desk = await browser();
  await signIn(desk.page, demo.address, login);
  const opened = await desk.page.evaluate(
    async (address) => (await (await fetch(address)).json()) as never,
    `/api/evaluations/${id}`,
  );
  await desk.close();
  return (opened as { events: { by: string; body: { kind: string; words: string } }[] }).events
    .filter((each) => each.body.kind === 'noted')
    .map((each) => ({ words: each.body.words, by: each.by }));
};

describe('a shared tablet', () => {
  it('signed out offline shows and sends nothing to the next user, and sends when the owner is back', async () => {
    const tablet = await browser();
    const { page } = tablet;
    await signIn(page, demo.address, 'hilda');
    const id = await prepare(page);
    await takenOver(page);
    await tablet.context.setOffline(true);
    await note(page, REMARK);
    await page.getByText(/1 saved here/).waitFor();
    await page.getByRole('link', { name: 'Back to all evaluations' }).click();
    await signOut(page);
    await page.getByText('One tap is not on the server yet').waitFor();
    await page.getByRole('dialog').getByRole('button', { name: 'Sign out' }).click();

    // Offline, the next person finds a sign-in page and nothing readable.
    await page.getByRole('heading', { name: 'Rounds', exact: true }).waitFor();
    await page.goto(`${demo.address}/assess/${id}`);
    await page.getByRole('heading', { name: 'Rounds', exact: true }).waitFor();
    const left = await everythingKept(page);
    for (const secret of [REMARK, 'Magnus', 'Heddle', 'Hilda', 'CF-F']) expect(left).not.toContain(secret);

    // The next person signs in with the network back: the tap is neither theirs to see nor sent under their
    // name.
    await tablet.context.setOffline(false);
    await page.goto(demo.address);
    await page.getByRole('heading', { name: 'Rounds', exact: true }).waitFor();
    await signIn(page, demo.address, 'ronan');
    await page.getByText('Nothing waiting').waitFor();
    await page.goto(`${demo.address}/assess/${id}`);
    await page.getByText('Hilda Rousay has this evaluation open for writing.').waitFor();
    expect(await page.getByText(/taps are kept on this device/).count()).toBe(0);
    expect(await notesOf(id, 'ronan')).toEqual([]);
    await page.getByRole('link', { name: 'Back to all evaluations' }).click();
    await signOut(page);

    await page.getByRole('heading', { name: 'Rounds', exact: true }).waitFor();
    await signIn(page, demo.address, 'hilda');
    await expect
      .poll(() => notesOf(id, 'ronan'), { timeout: 20_000 })
      .toEqual([{ words: REMARK, by: 'Hilda Rousay' }]);
    await tablet.close();
  });

  it('tells the server of a sign-out that it could not hear, before anything else', async () => {
    const tablet = await browser();
    const { page } = tablet;
    await signIn(page, demo.address, 'hilda');
    await takenOver(page);
    const cookie = (await tablet.context.cookies()).find((each) => each.name === 'rounds_session')!;
    await tablet.context.setOffline(true);
    await signOut(page);
    await page.getByRole('heading', { name: 'Rounds', exact: true }).waitFor();
    await tablet.context.setOffline(false);
    await page.reload();
    await page.getByRole('heading', { name: 'Rounds', exact: true }).waitFor();
    const stolen = await fetch(`${demo.address}/api/session`, {
      headers: { cookie: `rounds_session=${cookie.value}` },
    });
    expect(stolen.status).toBe(401);
    await tablet.close();
  });

  it('somebody else who signs in over an ended session starts from a clean page', async () => {
    const tablet = await browser();
    const { page } = tablet;
    await signIn(page, demo.address, 'hilda');
    await prepare(page);
    await tablet.context.setOffline(true);
    await note(page, REMARK);
    await page.getByText(/1 saved here/).waitFor();
    await tablet.context.clearCookies();
    await tablet.context.setOffline(false);
    await page.getByRole('heading', { name: 'Your session has ended' }).waitFor();
    await page.getByLabel('Sign-in name').fill('isla');
    await page.getByLabel('Password').fill('walk-the-ring');
    await page.getByRole('button', { name: 'Sign in', exact: true }).click();
    await page.getByText('Nothing waiting').waitFor();
    expect(new URL(page.url()).pathname).toBe('/');
    expect(await everythingKept(page)).not.toContain(REMARK);
    await tablet.close();
  });

  it('does not decide while a tap waits or was refused; a refused tap is let go only on purpose', async () => {
    const tablet = await browser();
    const { page } = tablet;
    await signIn(page, demo.address, 'hilda');
    const id = await prepare(page);
    // The server refuses one kind of tap, as a newer or older one might.
    await takenOver(page);
    await page.route('**/api/evaluations/*/events', async (route) => {
      if (!route.request().postData()!.includes('refuse me')) return route.continue();
      await route.fulfill({
        status: 422,
        contentType: 'application/problem+json',
        body: JSON.stringify({
          type: 'x',
          title: 'No',
          status: 422,
          code: 'invalid',
          detail: 'This note is not taken.',
        }),
      });
    });
    await note(page, 'refuse me');
    await page.getByText('The server did not take one tap:').waitFor();
    await page.getByText('This note is not taken.').waitFor();
    await note(page, 'take me');
    await expect
      .poll(() => notesOf(id, 'ronan'), { timeout: 20_000 })
      .toEqual([{ words: 'take me', by: 'Hilda Rousay' }]);
    const copy = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Keep a copy' }).click();
    expect((await copy).suggestedFilename()).toMatch(/^taps-not-taken-/);
    await page.reload();
    await page.getByText('The server did not take one tap:').waitFor();
    await page.getByRole('button', { name: 'Let go' }).click();
    await page.getByRole('dialog').getByRole('button', { name: 'Let them go' }).click();
    await page.getByText('The server did not take one tap:').waitFor({ state: 'detached' });
    await tablet.close();
  });

  it('shows a tap that the server took while the evaluation was being fetched', async () => {
    const tablet = await browser(FAILING);
    const { page } = tablet;
    await signIn(page, demo.address, 'hilda');
    const id = await prepare(page);
    await page.getByRole('button', { name: /^Fork arms:/ }).click();
    await page.getByText('All on the server').waitFor();
    await takenOver(page);
    await tablet.context.setOffline(true);
    const done = page.getByRole('group', { name: /^CF-10 / }).getByRole('button', { name: 'Done' });
    await done.click();
    await page.getByText(/1 saved here/).waitFor();
    // The answer is made before the tap arrives, and reaches the screen after it has.
    let answered!: () => void;
    const answer = new Promise<void>((resolve) => (answered = resolve));
    const waiting = () =>
      page.evaluate(
        () =>
          new Promise<number>((resolve) => {
            const opening = indexedDB.open('rounds');
            opening.onsuccess = () => {
              const counting = opening.result.transaction('waiting').objectStore('waiting').count();
              counting.onsuccess = () => {
                opening.result.close();
                resolve(counting.result);
              };
            };
          }),
      );
    await page.route(`**/api/evaluations/${id}/events`, async (route) => {
      await answer;
      await route.continue();
    });
    await page.route(`**/api/evaluations/${id}`, async (route) => {
      const response = await route.fetch();
      answered();
      await expect.poll(waiting).toBe(0);
      await route.fulfill({ response });
    });
    await tablet.context.setOffline(false);
    await page.reload();
    await page.getByRole('heading', { name: 'Fork arms' }).waitFor();
    await expect.poll(() => done.getAttribute('aria-pressed')).toBe('true');
    await tablet.close();
  });

  it('answers 404, not a page and not a failure, for a file of an earlier version', async () => {
    const answer = await fetch(`${demo.address}/assets/RunPhase-0000dead.js`);
    expect(answer.status).toBe(404);
    expect(answer.headers.get('content-type')).toMatch(/problem\+json/);
  });
});

describe('preparing and scoring', () => {
  it('tried again after a lost answer is the same evaluation; ticks stay with their finding', async () => {
    const tablet = await browser(FAILING);
    const { page } = tablet;
    await signIn(page, demo.address, 'ronan');
    await prepareWithoutPlants(page, demo.address, /FLT-02/);
    const open = async () =>
      await page.evaluate(
        async () =>
          ((await (await fetch('/api/evaluations?open=yes&limit=100')).json()) as { rows: unknown[] }).rows
            .length,
      );
    const before = await open();
    let lost = 0;
    await takenOver(page);
    await page.route('**/api/evaluations', async (route) => {
      if (route.request().method() !== 'POST' || lost > 0) return route.continue();
      lost += 1;
      await route.fetch();
      await route.abort();
    });
    await page.getByRole('button', { name: 'Go to the machine' }).click();
    await page.getByRole('alert').filter({ hasText: 'No connection' }).waitFor();
    await page.getByRole('button', { name: 'Go to the machine' }).click();
    await page.getByRole('button', { name: 'Start the round' }).click();
    expect(await open()).toBe(before + 1);

    await page.getByRole('button', { name: /^Fork arms:/ }).click();
    const found = async () => {
      await page
        .getByRole('group', { name: /^CF-10 / })
        .getByRole('button', { name: 'Fault found' })
        .click();
      return page.getByRole('button', { name: 'Truly on the machine, not planted' });
    };
    await (await found()).click();
    await page.getByRole('button', { name: 'Back', exact: true }).click();
    expect(await (await found()).getAttribute('aria-pressed')).toBe('false');
    await page.getByRole('button', { name: 'Back', exact: true }).click();
    await page.getByRole('button', { name: 'End the round' }).click();
    await page.getByRole('button', { name: 'Go to the start' }).click();
    await page.getByRole('button', { name: 'Score it by hand instead' }).click();
    await page.getByRole('heading', { name: /Score sheet/ }).waitFor();
    const number = page.getByRole('spinbutton').first();
    if ((await number.count()) > 0) {
      await number.fill('3');
      await number.fill('');
    }
    await page.getByRole('button', { name: 'Done', exact: true }).first().click();
    await page.getByText('All on the server').waitFor();
    expect(await page.getByText(/The server did not take/).count()).toBe(0);
    await tablet.close();
  });
});

describe('a hard decision', () => {
  it('records what was planted wrongly, a second trainer’s agreement, and signatures by name', async () => {
    const tablet = await browser(FAILING);
    const { page } = tablet;
    await signIn(page, demo.address, 'hilda');
    const id = await prepare(page);
    // The rest of the round and the sheet, as taps of this very device.
    await page.evaluate(async (evaluation) => {
      const opened = (await (await fetch(`/api/evaluations/${evaluation}`)).json()) as {
        pack: {
          checkpoints: { id: string }[];
          faults: { id: string; grade: string; plant?: object }[];
          sheet: {
            sections: { criteria: { id: string; kind: string; link?: { measure: string } }[] }[];
            criticalErrors: { id: string }[];
          };
        };
      };
      const bodies = [
        ...opened.pack.checkpoints.map((each) => ({ kind: 'checked', checkpoint: each.id, result: 'done' })),
        {
          kind: 'planted',
          fault: opened.pack.faults.find((each) => each.grade === 'stop' && each.plant)!.id,
        },
        { kind: 'round-ended' },
        ...opened.pack.sheet.sections
          .flatMap((s) => s.criteria)
          .filter((c) => c.kind !== 'linked' || c.link?.measure === 'procedure')
          .map((c) => ({ kind: 'scored', criterion: c.id, result: 'done' })),
        { kind: 'critical-error', error: opened.pack.sheet.criticalErrors[0]!.id },
      ];
      await fetch(`/api/evaluations/${evaluation}/events`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({
          device: localStorage.getItem('rounds-device'),
          events: bodies.map((body) => ({ id: crypto.randomUUID(), at: new Date().toISOString(), body })),
        }),
      });
    }, id);
    await page.reload();
    await page.getByRole('tab', { name: /Take out/ }).click();
    await page.getByRole('button', { name: /^Recorded wrongly/ }).click();
    const keep = page.getByRole('button', { name: 'Keep the correction' });
    expect(await keep.isDisabled()).toBe(true);
    await page.getByLabel('How that came about').fill('tapped while walking, nothing was put in');
    await keep.click();
    await page
      .getByRole('region', { name: 'Corrections' })
      .getByText(/was never put in \(tapped while walking/)
      .waitFor();

    await page.getByRole('tab', { name: /Decide and sign/ }).click();
    await page.getByRole('radio', { name: 'Competent', exact: true }).click();
    await page.getByText('A second trainer must agree').waitFor();
    const decide = page.getByRole('button', { name: 'Decide: Competent' });
    const unsent = page.getByRole('alert').filter({ hasText: 'Not everything has reached the server' });
    await page.getByLabel('The reason in words').fill('the error was the yard’s, not the operator’s');
    expect(await decide.isDisabled()).toBe(true);
    await page.getByLabel('Sign-in name of the second trainer').fill('ronan');
    await page.getByLabel('Their password').fill('walk-the-ring');
    await page.getByLabel('Why they agree').fill('I stood at the gate and saw it too');
    await page.getByRole('button', { name: 'They agree' }).click();
    await page.getByText(/agreed:/).waitFor();
    // A tap that the server failed on is still on its way: nothing is decided over it.
    const events = '**/api/evaluations/*/events';
    let decisions = 0;
    await takenOver(page);
    await page.route(events, async (route) => {
      if (route.request().postData()!.includes('"decided"')) decisions += 1;
      if (!route.request().postData()!.includes('not yet there')) return route.continue();
      await route.fulfill({
        status: 500,
        contentType: 'application/problem+json',
        body: '{"type":"x","title":"x","status":500,"code":"unexpected","detail":"x"}',
      });
    });
    await page.getByRole('tab', { name: /Round/ }).click();
    await page.getByRole('button', { name: /Undo/ }).waitFor();
    await page.getByRole('tab', { name: /^Work/ }).click();
    await page.getByRole('group').getByRole('button', { name: 'N/A' }).first().click();
    await page.getByLabel('Why it does not apply').fill('not yet there');
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByText(/1 saved here/).waitFor();
    await page.getByRole('tab', { name: /Decide and sign/ }).click();
    await page.getByRole('radio', { name: 'Competent', exact: true }).click();
    await page.getByLabel('The reason in words').fill('the error was the yard’s, not the operator’s');
    await decide.click();
    await unsent.waitFor();
    expect(decisions).toBe(0);
    await page.unroute(events);
    await expect
      .poll(() => page.getByText('All on the server').count(), { timeout: 30_000 })
      .toBeGreaterThan(0);
    await decide.click();
    await page.getByText('Overridden.').waitFor();

    const trainer = page.getByRole('region', { name: 'Trainer signs' });
    await trainer.getByRole('button', { name: 'Sign by name instead' }).click();
    await trainer.getByLabel('Full name of the trainer').fill('Hilda Rousay');
    await trainer.getByLabel('Password of the trainer').fill('walk-the-ring');
    await trainer.getByRole('button', { name: 'Sign', exact: true }).click();
    await trainer.getByText('Signed by Hilda Rousay.').waitFor();
    const operator = page.getByRole('region', { name: 'Operator signs' });
    const sign = operator.getByRole('button', { name: 'Sign', exact: true });
    const field = operator.getByRole('img', { name: 'Signature field of the operator' });
    const box = (await field.boundingBox())!;
    await page.mouse.click(box.x + 50, box.y + 50);
    expect(await sign.isDisabled()).toBe(true);
    await operator.getByText('a dot or a slip is no signature').waitFor();
    await page.mouse.move(box.x + 40, box.y + 80);
    await page.mouse.down();
    for (let i = 1; i < 8; i++) await page.mouse.move(box.x + 40 + i * 35, box.y + 80 + (i % 2 ? -30 : 30));
    await page.mouse.up();
    await sign.click();
    await page.getByRole('heading', { name: 'Signed and on record' }).waitFor();
    const report = await page.evaluate(
      async (evaluation) => (await fetch(`/api/evaluations/${evaluation}/report.pdf`)).status,
      id,
    );
    expect(report).toBe(200);
    await tablet.close();
  });
});
