import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { addDays } from '@rounds/core/calendar';
import { seededRandom } from '@rounds/core/statistics';
import vue from '@vitejs/plugin-vue';
import { sql } from 'drizzle-orm';
import type { Page } from 'playwright-core';
import { build } from 'vite';
import { seededIds } from '../demo/src/index';
import { type House, projectStandings, standingsToday, tables } from '../server/src/index';
import { chooseOption, openBrowser } from './browser';
import { startDemo } from './demoServer';
import { median, times } from './timing';
import { signIn } from './views';

const root = join(import.meta.dirname, '..');
const dist = join(root, 'web/dist');
const kB = (bytes: number) => `${(bytes / 1000).toFixed(0)} kB`;
const zipped = (file: string) => gzipSync(readFileSync(file)).length;
type Row = (what: string, figure: string, baseline?: string) => void;

/** Figures of the web app in a headless browser: what the first screen loads, and how the matrix scrolls. */
export async function benchWeb(row: Row): Promise<void> {
  const demo = await startDemo();
  try {
    await firstLoad(row, demo.address);
    await firstDesk(row, demo.address);
    await fillMatrix(demo.house);
    await matrix(row, demo.house, demo.address);
  } finally {
    await demo.stop();
  }
}

/** Scripts and styles that a page asks for until it shows what it is for, gzip, with the HTML. */
async function loaded(address: string, login: string | null): Promise<number> {
  const { context, close } = await openBrowser();
  const page = context.pages()[0]!;
  if (login) await signIn(page, address, login);
  const files = new Set<string>(['index.html']);
  page.on('request', (request) => {
    const path = new URL(request.url()).pathname.slice(1);
    if (/^assets\/.*\.(js|css)$/.test(path)) files.add(path);
  });
  await page.goto(address);
  if (login) await page.getByRole('heading', { level: 2 }).first().waitFor();
  else await page.getByRole('button', { name: 'Sign in', exact: true }).waitFor();
  await close();
  return [...files].reduce((sum, file) => sum + zipped(join(dist, file)), 0);
}

/** The least page of Vue and the component library, built as ours is: one button in its theme. */
async function bare(): Promise<number> {
  const outDir = mkdtempSync(join(tmpdir(), 'rounds-bare-'));
  const page = `
    import { Button, ConfigProvider } from 'ant-design-vue';
    import { createApp, h } from 'vue';
    createApp({ render: () => h(ConfigProvider, () => h(Button, () => 'Sign in')) }).mount('#app');`;
  await build({
    configFile: false,
    root: join(root, 'web'),
    logLevel: 'error',
    plugins: [
      vue(),
      {
        name: 'bare-page',
        resolveId: (id) => (id === 'bare-page' ? join(root, 'web', 'barePage.js') : null),
        load: (id) => (id === join(root, 'web', 'barePage.js') ? page : null),
      },
    ],
    build: { outDir, emptyOutDir: true, copyPublicDir: false, rollupOptions: { input: 'bare-page' } },
  });
  const files = readdirSync(join(outDir, 'assets')).map((name) => join(outDir, 'assets', name));
  const bytes = files.reduce((sum, file) => sum + zipped(file), 0);
  rmSync(outDir, { recursive: true, force: true });
  return bytes;
}

async function firstLoad(row: Row, address: string): Promise<void> {
  const least = await bare();
  const every = readdirSync(join(dist, 'assets'));
  const all = every.filter((name) => /\.(js|css)$/.test(name)).map((name) => join(dist, 'assets', name));
  const fonts = every.filter((name) => /-latin-(400|700)-normal.*woff2$/.test(name));
  const signedOut = await loaded(address, null);
  const today = await loaded(address, 'hilda');
  row(
    'first load, sign-in (HTML, JS, CSS, gzip)',
    kB(signedOut),
    `limit 350 kB; bare page of Vue and the component library ${kB(least)} ` +
      `(ratio ${(signedOut / least).toFixed(2)})`,
  );
  row(
    'first load, Today of a trainer',
    kB(today),
    `limit 350 kB; ratio to the bare page ${(today / least).toFixed(2)}; ` +
      `all areas together ${kB(all.reduce((sum, file) => sum + zipped(file), 0))}, ` +
      `fonts ${kB(fonts.reduce((sum, name) => sum + readFileSync(join(dist, 'assets', name)).length, 0))}`,
  );
}

/** A desk opened for the first time in a browser: from the press on Begin until it can be worked. */
async function firstDesk(row: Row, address: string): Promise<void> {
  const [desk, practise]: [number[], number[]] = [[], []];
  for (let i = 0; i < 3; i++) {
    const { context, close } = await openBrowser();
    const page = context.pages()[0]!;
    await signIn(page, address, 'isla');
    const begun = performance.now();
    await page.goto(`${address}/practise?what=desk`);
    const start = page.getByRole('button', { name: /^Start it/ });
    await start.waitFor();
    practise.push(performance.now() - begun);
    await chooseOption(page, 'Class', 'Counterbalance forklift');
    await start.click();
    const begin = page.getByRole('button', { name: 'Begin', exact: true });
    // Nobody presses before the button can be pressed: what still moves on the screen has come to rest.
    await begin.click({ trial: true });
    const pressed = performance.now();
    await begin.click();
    await page.getByRole('button', { name: /In the seat/ }).waitFor();
    desk.push(performance.now() - pressed);
    await close();
  }
  row(
    'desk of the largest machine, first open in a browser',
    `${median(desk).toFixed(0)} ms`,
    `limit 1000 ms; the practice screen ${median(practise).toFixed(0)} ms (ratio ${(median(desk) / median(practise)).toFixed(2)})`,
  );
}

/** People up to a thousand, each with two events in each of the classes. */
async function fillMatrix({ db }: House): Promise<void> {
  const random = seededRandom(3);
  const newId = seededIds(random);
  const [trainer] = await db.select().from(tables.account).limit(1);
  const classes = await db.select().from(tables.machineClass);
  const there = await db.$count(tables.person);
  const people = Array.from({ length: 1000 - there }, (_, i) => ({
    id: newId('2026-01-01T00:00:00Z'),
    payroll: `B${i}`,
    givenName: `Given${i}`,
    familyName: `Family${i}`,
    site: 'Ferry Quay',
    team: `Team ${i % 9}`,
  }));
  await db.insert(tables.person).values(people);
  const events = people.flatMap((person) =>
    classes.flatMap((each) => {
      const on = addDays('2023-01-01', Math.floor(random() * 1200));
      return [{ kind: 'certificate-recorded' }, { kind: 'familiarised', unit: 'X-1' }].map((body) => ({
        id: newId('2026-01-01T00:00:00Z'),
        personId: person.id,
        classId: each.id,
        on,
        body,
        accountId: trainer!.id,
      }));
    }),
  );
  for (let i = 0; i < events.length; i += 2000)
    await db.insert(tables.certificationEventRow).values(events.slice(i, i + 2000));
}

async function matrix(row: Row, house: House, address: string): Promise<void> {
  const { db } = house;
  const asOf = await standingsToday(house);
  await db.transaction((tx) => projectStandings(tx, asOf));
  const { context, close } = await openBrowser();
  const page = context.pages()[0]!;
  await signIn(page, address, 'hilda');
  const request = median(
    await times(5, () => page.evaluate(async () => (await fetch('/api/matrix?limit=500')).text())),
  );
  const raw = median(
    await times(5, () =>
      db.execute(
        sql`select person_id, class_id, on_date, body from certification_event order by on_date, seq`,
      ),
    ),
  );
  row(
    'matrix, 500 of 1,000 people x 23, request',
    `${request.toFixed(0)} ms`,
    `raw SQL of all events, same driver ${raw.toFixed(0)} ms (ratio ${(request / raw).toFixed(1)})`,
  );
  const first: number[] = [];
  const whole: number[] = [];
  for (let i = 0; i < 3; i++) {
    await page.goto(`${address}/classes`);
    const link = page.getByRole('link', { name: 'Matrix' });
    await link.waitFor();
    const begun = performance.now();
    await link.click();
    await page.getByRole('gridcell').first().waitFor();
    first.push(performance.now() - begun);
    await page.getByText(/1000 people, \d+( of \d+)? classes$/).waitFor();
    whole.push(performance.now() - begun);
  }
  row(
    'matrix of 1,000 x 23, click to first rows, to all rows',
    `${median(first).toFixed(0)}, ${median(whole).toFixed(0)} ms`,
    `ratio to raw SQL ${(median(first) / raw).toFixed(1)}, ${(median(whole) / raw).toFixed(1)}`,
  );
  const grid = await frames(page, '[role="grid"]');
  await page.goto('about:blank');
  await page.setContent(
    '<div id="plain" style="height:500px;overflow:auto"><div style="height:44000px;background:' +
      'repeating-linear-gradient(#fff 0 44px,#eee 44px 88px)"></div></div>',
  );
  const plain = await frames(page, '#plain');
  row(
    'matrix of 1,000 x 23, frames a second while it scrolls',
    grid.perSecond.toFixed(1),
    `limit 50; 95 % of frames within ${grid.p95.toFixed(1)} ms, longest ${grid.longest.toFixed(0)} ms; ` +
      `an empty list ${plain.perSecond.toFixed(1)} (ratio ${(grid.perSecond / plain.perSecond).toFixed(2)})`,
  );
  await close();
}

interface TraceEvent {
  name: string;
  ts: number;
}
/**
 * Scrolls an element by a row a frame for four seconds, down and up, under a trace of the browser. Frames are
 * those the compositor drew (`DrawFrame`), between the marks at both ends.
 */
async function frames(page: Page, selector: string) {
  const session = await page.context().newCDPSession(page);
  const events: TraceEvent[] = [];
  session.on('Tracing.dataCollected', ({ value }) => events.push(...(value as unknown as TraceEvent[])));
  const done = new Promise<void>((resolve) => session.once('Tracing.tracingComplete', () => resolve()));
  await session.send('Tracing.start', {
    traceConfig: {
      includedCategories: [
        'devtools.timeline',
        'disabled-by-default-devtools.timeline.frame',
        'blink.user_timing',
      ],
    },
    transferMode: 'ReportEvents',
  });
  await page.evaluate(async (where) => {
    const list = document.querySelector(where)!;
    const scrolls = [list, ...list.querySelectorAll('*')].find(
      (each) => each.scrollHeight > each.clientHeight + 100,
    )!;
    performance.mark('scroll-begins');
    const begun = performance.now();
    let step = 44;
    while (performance.now() - begun < 4000) {
      scrolls.scrollTop += step;
      if (scrolls.scrollTop + scrolls.clientHeight >= scrolls.scrollHeight - 1) step = -44;
      if (scrolls.scrollTop <= 0) step = 44;
      await new Promise(requestAnimationFrame);
    }
    performance.mark('scroll-ends');
  }, selector);
  await session.send('Tracing.end');
  await done;
  const at = (name: string) => events.find((each) => each.name === name)!.ts;
  const [from, to] = [at('scroll-begins'), at('scroll-ends')];
  const drawn = events
    .filter((each) => each.name === 'DrawFrame' && each.ts >= from && each.ts <= to)
    .map((each) => each.ts)
    .sort((a, b) => a - b);
  const gaps = drawn
    .slice(1)
    .map((ts, i) => (ts - drawn[i]!) / 1000)
    .sort((a, b) => a - b);
  return {
    perSecond: drawn.length / ((to - from) / 1e6),
    p95: gaps[Math.floor(gaps.length * 0.95)] ?? 0,
    longest: gaps.at(-1) ?? 0,
  };
}
