/**
 * `npm run bench [-- server]`: figures, each beside a baseline taken in the same run; only those of the
 * server when asked. Nothing here passes or fails.
 */
import { spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { addDays, addMonths } from '@rounds/core/calendar';
import { compose, libraryRows, LibrarySearch, type Pack, readPack } from '@rounds/core/catalogue';
import { type CertificationEvent, DEFAULT_RULES, standing } from '@rounds/core/certification';
import { appraise, foldEvaluation, proposePlants, seededRandom } from '@rounds/core/evaluation';
import { analyseRound } from '@rounds/core/round';
import { sql } from 'drizzle-orm';
import { parse as parseYaml } from 'yaml';
import { seededIds, simulateEvaluation } from '../demo/src/index';
import { projectStandings, standingsToday, tables } from '../server/src/index';
import { benchServer } from './benchServer';
import { openBrowser } from './browser';
import { packsOfCheckout, startDemo } from './demoServer';
import { ensureBuilt, ensureDebianPackages } from './setup.mjs';
import { signIn } from './views';

const root = join(import.meta.dirname, '..');
ensureBuilt();
ensureDebianPackages();

const row = (what: string, figure: string, baseline = '') =>
  console.log(`${what.padEnd(58)} ${figure.padStart(16)}   ${baseline}`);
const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)]!;
async function times(n: number, what: () => unknown): Promise<number[]> {
  const list: number[] = [];
  for (let i = 0; i < n; i++) {
    const begun = performance.now();
    await what();
    list.push(performance.now() - begun);
  }
  return list;
}

await benchServer(row);
if (process.argv[2] === 'server') process.exit(0);

// The web app's first load.
{
  const dist = join(root, 'web/dist');
  const html = readFileSync(join(dist, 'index.html'), 'utf8');
  const gz = (file: string) => gzipSync(readFileSync(join(dist, file))).length;
  const first = [...html.matchAll(/(?:src|href)="\/(assets\/[^"]+\.(?:js|css))"/g)].map((each) => each[1]!);
  const today = readdirSync(join(dist, 'assets'))
    .filter((name) => /^(TodayScreen|StateBox|TimeArc|api|discs)/.test(name))
    .map((name) => `assets/${name}`);
  const files = [...new Set([...first, ...today])];
  const fonts = readdirSync(join(dist, 'assets')).filter(
    (name) => /latin-(400|700)-normal.*woff2$/.test(name) && !/latin-ext/.test(name),
  );
  const every = readdirSync(join(dist, 'assets')).filter((name) => /\.(js|css)$/.test(name));
  row(
    'first load of the web app, gzip (HTML, JS, CSS of Today)',
    `${((gz('index.html') + files.reduce((sum, f) => sum + gz(f), 0)) / 1024).toFixed(0)} kB`,
    'limit 350 kB; all areas together ' +
      `${(every.reduce((sum, f) => sum + gz(`assets/${f}`), 0) / 1024).toFixed(0)} kB; ` +
      `fonts ${(fonts.reduce((sum, f) => sum + readFileSync(join(dist, 'assets', f)).length, 0) / 1024).toFixed(0)} kB`,
  );
}

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

// The matrix of 1,000 people and 20 classes.
{
  const demo = await startDemo();
  const { db } = demo.house;
  const random = seededRandom(3);
  const newId = seededIds(random);
  const [trainer] = await db.select().from(tables.account).limit(1);
  const classes = (await db.select().from(tables.machineClass)).slice(0, 20);
  const people = Array.from({ length: 1000 - 48 }, (_, i) => ({
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
  const asOf = await standingsToday(demo.house);
  await demo.house.db.transaction((tx) => projectStandings(tx, asOf));
  const { context, close } = await openBrowser();
  const page = context.pages()[0]!;
  await signIn(page, demo.address, 'hilda');
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
  const drawn: number[] = [];
  for (let i = 0; i < 3; i++) {
    await page.goto(`${demo.address}/classes`);
    await page.getByRole('link', { name: 'Matrix' }).waitFor();
    const begun = performance.now();
    await page.getByRole('link', { name: 'Matrix' }).click();
    await page
      .getByText('1000 people, 20 classes')
      .or(page.getByText(/1000 people/))
      .waitFor();
    await page.getByRole('table').waitFor();
    drawn.push(performance.now() - begun);
  }
  row(
    `matrix, 500 of 1,000 people x 20 (${events.length} events), request`,
    `${request.toFixed(0)} ms`,
    `raw SQL of the same rows, same driver ${raw.toFixed(0)} ms (ratio ${(request / raw).toFixed(1)})`,
  );
  row(
    'matrix of 1,000 x 20, click to drawn',
    `${median(drawn).toFixed(0)} ms`,
    `ratio to raw SQL ${(median(drawn) / raw).toFixed(1)}`,
  );
  await close();
  await demo.stop();
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
    { thorough: 1, sharp: 0.8, grading: 0.7, pace: 0.8, start: 'st-01' },
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
