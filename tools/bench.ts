/**
 * `npm run bench [-- calibration|judge|practice|room|server|web]`: figures, each beside a baseline taken in the same run; only those of the
 * server, or of the web app, when asked. Nothing here passes or fails.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { addDays, addMonths } from '@rounds/core/calendar';
import { compose, libraryRows, LibrarySearch, type Pack, readPack } from '@rounds/core/catalogue';
import { type CertificationEvent, DEFAULT_RULES, standing } from '@rounds/core/certification';
import { appraise, foldEvaluation, proposePlants } from '@rounds/core/evaluation';
import { seededRandom } from '@rounds/core/statistics';
import { analyseRound } from '@rounds/core/round';
import { parse as parseYaml } from 'yaml';
import { simulateEvaluation } from '../demo/src/index';
import { benchCalibration } from './benchCalibration';
import { benchDesk } from './benchDesk';
import { benchJudge } from './benchJudge';
import { benchPractice } from './benchPractice';
import { benchRoom } from './benchRoom';
import { benchServer } from './benchServer';
import { benchWeb } from './benchWeb';
import { openBrowser } from './browser';
import { packsOfCheckout, startDemo } from './demoServer';
import { ensureBuilt, ensureDebianPackages } from './setup.mjs';
import { median, times } from './timing';
import { signIn } from './views';

const root = join(import.meta.dirname, '..');
ensureBuilt();
ensureDebianPackages();

const row = (what: string, figure: string, baseline = '') =>
  console.log(`${what.padEnd(58)} ${figure.padStart(16)}   ${baseline}`);

const only = process.argv[2];
if (only === undefined || only === 'calibration') benchCalibration(row);
if (only === 'calibration') process.exit(0);
if (only === undefined || only === 'judge') await benchJudge(row);
if (only === undefined || only === 'desk') await benchDesk(row);
if (only === 'desk') process.exit(0);
if (only === 'judge') process.exit(0);
if (only === undefined || only === 'practice') benchPractice(row);
if (only === 'practice') process.exit(0);
if (only === undefined || only === 'room') await benchRoom(row);
if (only === 'room') process.exit(0);
if (only !== 'web') await benchServer(row);
if (only === 'server') process.exit(0);
await benchWeb(row);
if (only === 'web') process.exit(0);

// Starting.
{
  const data = mkdtempSync(join(tmpdir(), 'rounds-bench-'));
  const start = () =>
    new Promise<number>((resolve, reject) => {
      const begun = performance.now();
      const child = spawn(process.execPath, [join(root, 'server/dist/main.js'), '--demo'], {
        env: { ...process.env, ROUNDS_DATA: data, PORT: '0' },
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      child.stdout.on('data', (chunk: Buffer) => {
        if (!/ready at/.test(chunk.toString())) return;
        const took = performance.now() - begun;
        child.once('exit', () => resolve(took));
        child.kill('SIGTERM');
      });
      child.once('error', reject);
    });
  const cold = await start();
  const warm = await start();
  const [node] = await times(
    3,
    () => new Promise((resolve) => spawn(process.execPath, ['-e', '0']).once('exit', resolve)),
  );
  row('cold start, demo made', `${(cold / 1000).toFixed(2)} s`, `node alone ${(node! / 1000).toFixed(2)} s`);
  row('warm start', `${(warm / 1000).toFixed(2)} s`, 'limit 5 s');
  rmSync(data, { recursive: true, force: true });
}

// The core.
{
  const random = seededRandom(1);
  const histories = Array.from({ length: 1000 }, (): CertificationEvent[] => {
    const first = addDays('2021-01-01', Math.floor(random() * 900));
    return [
      { on: first, body: { kind: 'training-started' } },
      { on: addDays(first, 20), body: { kind: 'evaluation-passed' } },
      { on: addDays(first, 20), body: { kind: 'familiarised', unit: 'X' } },
      { on: addDays(first, 400), body: { kind: 'trigger', trigger: 'near-miss' } },
      { on: addDays(first, 410), body: { kind: 'refresher-done' } },
      { on: addMonths(first, 36), body: { kind: 'evaluation-passed' } },
    ];
  });
  const [took] = await times(1, () => {
    for (let i = 0; i < 100; i++) for (const each of histories) standing(each, DEFAULT_RULES, '2026-06-01');
  });
  const [loop] = await times(1, () => {
    let n = 0;
    for (let i = 0; i < 100; i++)
      for (const each of histories) for (const event of each) if (event.on <= '2026-06-01') n += 1;
    return n;
  });
  row(
    '100,000 standings of six events',
    `${(took! / 1000).toFixed(2)} s`,
    `limit 2 s; walking the same events only ${loop!.toFixed(0)} ms`,
  );

  const pack = packsOfCheckout().find((each) => each.id === 'counterbalance-forklift')!;
  const effective = compose(pack, { variant: 'diesel' });
  const events = simulateEvaluation(
    effective,
    { thorough: 1, hands: 0.9, sharp: 0.8, grading: 0.7, pace: 0.8, start: 'st-01' },
    {
      startedAt: '2026-05-05T09:00:00.000Z',
      planted: proposePlants(effective, 6, 5).map((each) => each.id),
      random: seededRandom(5),
      earlierStarts: [],
      sign: false,
    },
  );
  while (events.length < 200)
    events.splice(
      events.length - 10,
      0,
      ...events
        .slice(20, 60)
        .map((each) => ({ ...each, id: `${each.id.slice(0, -4)}${String(events.length).padStart(4, '0')}` })),
    );
  const two = events.slice(0, 200);
  const fold = median(await times(30, () => foldEvaluation(two)));
  const record = foldEvaluation(two);
  const analyse = median(await times(30, () => analyseRound(effective, record.round, record.planted, [])));
  row(
    'round analysis of 200 events',
    `${analyse.toFixed(2)} ms`,
    `folding the same events ${fold.toFixed(2)} ms`,
  );
  row(
    'whole appraisal of 200 events',
    `${median(await times(30, () => appraise(effective, record, []))).toFixed(2)} ms`,
    '',
  );
}

// The library of classes.
{
  const packs = packsOfCheckout();
  const source = (pack: Pack) => readFileSync(join(root, `packs/${pack.id}.yaml`), 'utf8');
  const largest = packs.reduce((a, b) => (libraryRows(b).length > libraryRows(a).length ? b : a));
  const parse = median(await times(7, () => parseYaml(source(largest))));
  const read = median(await times(5, () => readPack(source(largest))));
  const fresh = Array.from({ length: 20 }, () => structuredClone(largest));
  const unknown = median(
    await times(fresh.length, () => compose(fresh.pop()!, { variant: largest.variants[0]!.id })),
  );
  const composed = await times(60, () => compose(largest, { variant: largest.variants[0]!.id }));
  row(
    `composing the largest pack (${largest.id}), with its hash`,
    `${median(composed).toFixed(1)} ms`,
    `limit 5 ms; of a pack never hashed before ${unknown.toFixed(1)} ms; parsing its ` +
      `YAML ${parse.toFixed(0)} ms; reading with all checks ${read.toFixed(0)} ms`,
  );
  const every = median(
    await times(5, () => packs.forEach((each) => compose(each, { variant: each.variants[0]!.id }))),
  );
  row(`composing all ${packs.length} packs`, `${every.toFixed(0)} ms`, '');

  const rows = packs.flatMap(libraryRows);
  const engine = new LibrarySearch(rows);
  const QUERIES = ['cool down', 'belt', 'two wraps', 'e', 'hydraulic oil level', 'park brake', 'a', 'WL-P3'];
  const search = await times(15, () => QUERIES.forEach((each) => engine.find(each)));
  const slowest = Math.max(
    ...(await Promise.all(QUERIES.map(async (each) => median(await times(9, () => engine.find(each)))))),
  );
  const naive = median(
    await times(9, () =>
      QUERIES.forEach((words) =>
        rows.filter((each) => `${each.title} ${each.says}`.toLowerCase().includes(words.toLowerCase())),
      ),
    ),
  );
  row(
    `search over ${rows.length} rows of all classes, mean of ${QUERIES.length} queries`,
    `${(median(search) / QUERIES.length).toFixed(1)} ms`,
    `limit 50 ms; slowest query ${slowest.toFixed(1)} ms; plain scan for the words as ` +
      `they stand ${(naive / QUERIES.length).toFixed(1)} ms`,
  );

  const demo = await startDemo();
  const { context, close } = await openBrowser();
  const page = context.pages()[0]!;
  await signIn(page, demo.address, 'hilda');
  await page.goto(`${demo.address}/classes`);
  const box = page.getByRole('searchbox', { name: 'Search every class' });
  await box.fill('warm');
  await page.getByRole('region', { name: 'Search results' }).getByRole('link').first().waitFor();
  const shown: number[] = [];
  for (const words of QUERIES) {
    await box.fill('');
    shown.push(
      await box.evaluate(
        (input: HTMLInputElement, text) =>
          new Promise<number>((resolve) => {
            const begun = performance.now();
            input.value = text;
            input.dispatchEvent(new Event('input', { bubbles: true }));
            const timer = setInterval(() => {
              if (!document.querySelector('[aria-label="Search results"] a')) return;
              clearInterval(timer);
              requestAnimationFrame(() => resolve(performance.now() - begun));
            }, 1);
          }),
        words,
      ),
    );
  }
  row(
    'search in Chromium, key to results drawn',
    `${median(shown).toFixed(0)} ms`,
    `slowest ${Math.max(...shown).toFixed(0)} ms`,
  );

  // From the last byte of the class's data to the ring on screen (the frame after it is in the document).
  await page.addInitScript(() => {
    new MutationObserver((_, observer) => {
      if (!document.querySelector('svg.plan .station')) return;
      observer.disconnect();
      requestAnimationFrame(() =>
        setTimeout(() => ((globalThis as unknown as { drawnAt: number }).drawnAt = performance.now())),
      );
    }).observe(document, { childList: true, subtree: true });
  });
  const drawn: number[] = [];
  for (const pack of packs) {
    await page.goto(`${demo.address}/classes/${pack.id}`);
    await page.waitForFunction(() => 'drawnAt' in globalThis);
    drawn.push(
      await page.evaluate((id) => {
        const data = performance
          .getEntriesByType('resource')
          .filter(
            (each) => new URL(each.name).pathname === `/api/classes/${id}`,
          ) as PerformanceResourceTiming[];
        return (globalThis as unknown as { drawnAt: number }).drawnAt - data[0]!.responseEnd;
      }, pack.id),
    );
  }
  row(
    `class page, data arrived to drawn, median of ${packs.length}`,
    `${median(drawn).toFixed(0)} ms`,
    `limit 200 ms; slowest ${Math.max(...drawn).toFixed(0)} ms`,
  );
  await close();
  await demo.stop();
}
process.exit(0);
