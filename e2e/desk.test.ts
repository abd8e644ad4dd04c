import { askedOf } from '@rounds/core/machine';
import { shippedPack } from '@rounds/core/testing';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { chooseOption, openBrowser } from '../tools/browser';
import { startDemo } from '../tools/demoServer';
import { begin, clock, endRun, speed, until, workAt } from './atDesk';
import { axeFindings } from './axe';
import { signIn } from './house';

/** The desk: a machine started and stopped by mouse, by touch and by keyboard alone, and what a test says of it. */
let demo: Awaited<ReturnType<typeof startDemo>>;
beforeAll(async () => {
  demo = await startDemo();
});
afterAll(() => demo?.stop());

const heading = (page: Page) => page.getByRole('heading', { level: 1 }).innerText();
/** The answer, and what the judge says of it. */
const told = async (page: Page) =>
  [
    await heading(page),
    ...(await page
      .getByRole('region', { name: 'What the judge says' })
      .getByRole('listitem')
      .allInnerTexts()),
  ].join('\n');

/** A browser for somebody's hand, with the learner signed in: a phone for touch, else a desk. */
async function opened(hand: 'mouse' | 'touch' | 'keyboard') {
  const { context, close } = await openBrowser({
    viewport: hand === 'touch' ? { width: 390, height: 844 } : { width: 1280, height: 800 },
    hasTouch: hand === 'touch',
  });
  const page = context.pages()[0]!;
  await signIn(page, demo.address, 'isla');
  return { page, close };
}

describe('the desk', () => {
  for (const hand of ['mouse', 'touch', 'keyboard'] as const)
    it(`starts a loader by ${hand}`, async () => {
      const { page, close } = await opened(hand);
      const view = await begin(page, demo.address, 'Wheel loader', /^Start it/, /^Guided/);
      await workAt(page, view, hand);
      await endRun(page);
      expect(await told(page)).toMatch(/^100 of 100, nothing critical/);
      await close();
    });

  for (const hand of ['touch', 'keyboard'] as const)
    it(`stops a loader that has worked by ${hand}`, async () => {
      const { page, close } = await opened(hand);
      const view = await begin(page, demo.address, 'Wheel loader', /^Stop it/, /^Test/);
      await workAt(page, view, hand);
      await endRun(page);
      expect(await told(page)).toMatch(/^100 of 100, nothing critical/);
      await close();
    });

  it('stops a loader that has worked, over a reload in the middle of it', async () => {
    const { context, close } = await openBrowser();
    const page = context.pages()[0]!;
    await signIn(page, demo.address, 'isla');
    const view = await begin(page, demo.address, 'Wheel loader', /^Stop it/, /^Test/);
    const shown = await clock(page);
    await until(page, shown + 3);
    await page.reload();
    expect(await clock(page)).toBeGreaterThanOrEqual(shown);
    await workAt(page, view, 'mouse');
    await endRun(page);
    expect(await told(page)).toMatch(/^100 of 100/);
    await close();
  });

  it('sounds when it is asked to, writes it always, and tells of what tempted', async () => {
    const { context, close } = await openBrowser();
    const page = context.pages()[0]!;
    // An ear on everything that goes to the loudspeaker.
    await page.addInitScript(() => {
      const ears: AnalyserNode[] = [];
      Object.assign(globalThis, { ears });
      const connect = AudioNode.prototype.connect as (this: AudioNode, ...to: unknown[]) => unknown;
      AudioNode.prototype.connect = function (this: AudioNode, ...to: unknown[]) {
        if (to[0] instanceof AudioDestinationNode) {
          const ear = this.context.createAnalyser();
          ear.fftSize = 8192;
          connect.call(this, ear);
          ears.push(ear);
        }
        return connect.apply(this, to);
      } as typeof AudioNode.prototype.connect;
    });
    /** How loud a pitch is, in decibels; null where nothing is connected to a loudspeaker. */
    const loud = (hz: number) =>
      page.evaluate((pitch) => {
        const all = (globalThis as unknown as { ears: AnalyserNode[] }).ears.map((ear) => {
          const bins = new Float32Array(ear.frequencyBinCount);
          ear.getFloatFrequencyData(bins);
          return bins[Math.round((pitch * ear.fftSize) / ear.context.sampleRate)]!;
        });
        return all.length === 0 ? null : Math.max(...all);
      }, hz);
    await signIn(page, demo.address, 'isla');
    await begin(page, demo.address, 'Counterbalance forklift', /^Start it/, /^Test/);
    const sound = page.getByRole('button', { name: 'Sound' });
    expect(await sound.getAttribute('aria-pressed')).toBe('false');
    await page
      .getByRole('region', { name: 'Up to you' })
      .getByRole('button', { name: 'The key from down here: turned' })
      .click();
    await page.getByRole('button', { name: /In the seat/ }).click();
    await page.getByRole('button', { name: 'Horn button: Hold' }).focus();
    const perceived = page.getByRole('region', { name: 'What you perceive here' });
    await page.keyboard.down('Space');
    await perceived.getByText('Horn', { exact: true }).waitFor();
    expect(await loud(392)).toBeNull();
    await page.keyboard.up('Space');
    await sound.click();
    await page.getByRole('button', { name: 'Horn button: Hold' }).focus();
    await page.keyboard.down('Space');
    for (const hz of [392, 494]) await expect.poll(() => loud(hz), { timeout: 20_000 }).toBeGreaterThan(-50);
    await expect.poll(() => sound.getAttribute('title')).toBe('Sounds now: Horn');
    await page.keyboard.up('Space');
    await expect.poll(() => loud(392), { timeout: 20_000 }).toBeLessThan(-80);
    expect(await sound.getAttribute('title')).toMatch(/^What is heard/);
    await endRun(page);
    await page.getByText('Starting the truck from anywhere but the seat').first().waitFor();
    await close();
  });

  it('names a generator started with its breaker closed, and every load put on at once, with time and length', async () => {
    const { context, close } = await openBrowser();
    const page = context.pages()[0]!;
    await signIn(page, demo.address, 'isla');
    await begin(page, demo.address, 'Towed generator set', /^Start it/, /^Test/);
    const go = (name: RegExp) =>
      page.getByRole('region', { name: 'Where you are' }).getByRole('button', { name }).click();
    const press = (name: string) => page.getByRole('button', { name, exact: true }).click();
    await press('Controller mode: manual');
    await go(/breakers/);
    await press('Main breaker: closed');
    await go(/control panel/);
    await press('Run button: press');
    await until(page, (await clock(page)) + 10);
    await go(/breakers/);
    await press('Main breaker: open');
    await press('Main breaker: closed');
    for (const load of [/pump/, /compressor/, /fan/, /heaters/, /lights/])
      await page
        .getByRole('region', { name: load })
        .getByRole('button', { name: /: closed$/ })
        .click();
    await until(page, (await clock(page)) + 4);
    await endRun(page);
    const forbidden = page.getByRole('region', { name: 'Forbidden' }).getByRole('listitem');
    await forbidden.first().waitFor();
    const said = (await forbidden.allInnerTexts()).join('\n');
    expect(said).toMatch(/for \d+(\.\d)? s.*Starting with a breaker closed/);
    expect(said).toMatch(/Loading it above its rating/);
    expect(await heading(page)).toMatch(/critical flaw/);
    await close();
  });

  describe('with lifting columns', () => {
    const columnDesk = shippedPack('mobile-column-lift').machine.desk!;
    const go = (page: Page, name: RegExp) =>
      page.getByRole('region', { name: 'Where you are' }).getByRole('button', { name }).click();
    const press = (page: Page, name: string) => page.getByRole('button', { name, exact: true }).click();
    const say = async (page: Page, words: string) => {
      await chooseOption(page, 'Say aloud', words);
      await press(page, 'Say it');
    };
    /** Four columns on, so many of them identified, and counted by themselves. */
    async function grouped(page: Page, identified: number): Promise<void> {
      await speed(page, 'p');
      for (const n of [1, 2, 3, 4]) {
        await go(page, new RegExp(`At column ${n}`));
        await press(page, `Main switch of column ${n}: on`);
      }
      await until(page, (await clock(page)) + 22);
      for (let n = 1; n <= identified; n++) {
        await go(page, new RegExp(`At column ${n}`));
        await press(page, `Key to the wireless mark of column ${n}: press`);
        await until(page, (await clock(page)) + 2);
      }
      await press(page, `Key to the wireless mark of column ${identified}: press`);
      await until(page, (await clock(page)) + 10);
      await press(page, 'Read the number of columns');
    }

    it('names a set that was confirmed with one column missing and nobody counting', async () => {
      const { context, close } = await openBrowser();
      const page = context.pages()[0]!;
      await signIn(page, demo.address, 'isla');
      await begin(page, demo.address, 'Mobile column lift', /^Start it/, /^Test/);
      await grouped(page, 3);
      await page
        .getByRole('region', { name: 'What you perceive here' })
        .getByText(/Columns in the set.*3/)
        .first()
        .waitFor();
      await press(page, 'Tick button: press');
      await endRun(page);
      expect(
        (await page.getByRole('region', { name: 'Forbidden' }).innerText()).replace(/\s+/g, ' '),
      ).toMatch(/for \d+(\.\d)? s.*a number of columns that nobody has counted/);
      expect(await heading(page)).toMatch(/critical flaw/);
      await close();
    });

    it.each([
      {
        done: 'as it should be',
        heading: 'Handled',
        react: async (page: Page) => {
          await press(page, 'Cancel button: press');
          await say(page, 'one column is missing');
          await press(page, 'Key to the wireless mark of column 4: press');
        },
      },
      {
        done: 'wrongly',
        heading: 'Not handled',
        react: (page: Page) => press(page, 'Tick button: press'),
      },
    ])(
      'tells that a column that went missing unannounced was handled $done',
      async ({ heading: says, react }) => {
        const { context, close } = await openBrowser();
        const page = context.pages()[0]!;
        await signIn(page, demo.address, 'isla');
        const run = await page.evaluate(async () => {
          const me = (await (await fetch('/api/session')).json()) as { personId: string };
          for (let n = 0; n < 80; n++) {
            const id = `01900000-0000-7000-8000-${crypto.randomUUID().slice(-12)}`;
            const answer = await fetch('/api/practice/desks', {
              method: 'POST',
              headers: { 'content-type': 'application/json' },
              body: JSON.stringify({
                id,
                classId: 'mobile-column-lift',
                variant: 'battery',
                program: 'start',
                mode: 'test',
                surprise: true,
                personId: me.personId,
              }),
            });
            const { deal } = (await answer.json()) as {
              deal: { failures: string[]; cards: { rule: string }[] };
            };
            if (deal.failures[0] === 'CL-I01') return { id, rule: deal.cards[0]!.rule };
          }
          throw new Error('the failure was never dealt');
        });
        await page.goto(`${demo.address}/practise/desk/${run.id}`);
        await page.getByLabel('Machine time').waitFor();
        // Something that a desk cannot show is asked on the way; the clock stands until it is answered.
        await speed(page, '3');
        const { right } = askedOf(columnDesk, run.rule)!;
        const card = page.getByRole('dialog', { name: 'What would you do?' });
        await card.getByRole('button', { name: right, exact: true }).click();
        await card.waitFor({ state: 'hidden' });
        await grouped(page, 4);
        await react(page);
        await until(page, (await clock(page)) + 2);
        await endRun(page);
        await page.getByRole('heading', { name: new RegExp(`^${says} `) }).waitFor();
        await page.getByRole('heading', { name: /^Answered right/ }).waitFor();
        await close();
      },
    );
  });

  it.each(['paper', 'night', 'sun'])('is clean for axe in %s, at both sizes', async (theme) => {
    for (const viewport of [
      { width: 1280, height: 800 },
      { width: 390, height: 844 },
    ]) {
      const { context, close } = await openBrowser({ viewport });
      await context.addInitScript((name) => localStorage.setItem('rounds-theme', name), theme);
      const page = context.pages()[0]!;
      await signIn(page, demo.address, 'isla');
      await begin(page, demo.address, 'Motor grader', /^All of it/, /^Guided/);
      expect(await axeFindings(page)).toEqual([]);
      await endRun(page);
      expect(await axeFindings(page)).toEqual([]);
      await close();
    }
  });
});
