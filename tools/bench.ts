/** `npm run bench`: figures, each beside a baseline taken in the same run. Nothing here passes or fails. */
import { spawn } from 'node:child_process';
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { parse as parseYaml } from 'yaml';
import {
  addDays,
  addMonths,
  analyseRound,
  appraise,
  compose,
  DEFAULT_RULES,
  foldEvaluation,
  proposePlants,
  readPack,
  seededRandom,
  standing,
  type CertificationEvent,
} from '../core/src/index';
import { seededIds, simulateEvaluation } from '../demo/src/index';
import { tables } from '../server/src/index';
import { sql } from 'drizzle-orm';
import { openBrowser } from './browser';
import { packsOfCheckout, startDemo } from './demoServer';
import { ensureBrowser, ensureBuilt } from './setup.mjs';
import { signIn } from './views';

const root = join(import.meta.dirname, '..');
ensureBuilt();
ensureBrowser();

const row = (what: string, figure: string, baseline = '') => console.log(`${what.padEnd(58)} ${figure.padStart(16)}   ${baseline}`);
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
  const fonts = readdirSync(join(dist, 'assets')).filter((name) => /latin-(400|700)-normal.*woff2$/.test(name) && !/latin-ext/.test(name));
  const every = readdirSync(join(dist, 'assets')).filter((name) => /\.(js|css)$/.test(name));
  row(
    'first load of the web app, gzip (HTML, JS, CSS of Today)',
    `${((gz('index.html') + files.reduce((sum, f) => sum + gz(f), 0)) / 1024).toFixed(0)} kB`,
    `limit 350 kB; all areas together ${(every.reduce((sum, f) => sum + gz(`assets/${f}`), 0) / 1024).toFixed(0)} kB; fonts ${(fonts.reduce((sum, f) => sum + readFileSync(join(dist, 'assets', f)).length, 0) / 1024).toFixed(0)} kB`,
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
  const [node] = await times(3, () => new Promise((resolve) => spawn(process.execPath, ['-e', '0']).once('exit', resolve)));
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
  for (let i = 0; i < events.length; i += 2000) await db.insert(tables.certificationEventRow).values(events.slice(i, i + 2000));
  const { context, close } = await openBrowser();
  const page = context.pages()[0]!;
  await signIn(page, demo.address, 'hilda');
  const request = median(await times(5, () => page.evaluate(async () => (await fetch('/api/matrix')).text())));
  const raw = median(await times(5, () => db.execute(sql`select person_id, class_id, on_date, body from certification_event order by on_date, seq`)));
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
    `matrix of 1,000 x 20 (${events.length} events), request`,
    `${request.toFixed(0)} ms`,
    `raw SQL of the same rows, same driver ${raw.toFixed(0)} ms (ratio ${(request / raw).toFixed(1)})`,
  );
  row('matrix of 1,000 x 20, click to drawn', `${median(drawn).toFixed(0)} ms`, `ratio to raw SQL ${(median(drawn) / raw).toFixed(1)}`);
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
    for (let i = 0; i < 100; i++) for (const each of histories) for (const event of each) if (event.on <= '2026-06-01') n += 1;
    return n;
  });
  row('100,000 standings of six events', `${(took! / 1000).toFixed(2)} s`, `limit 2 s; walking the same events only ${loop!.toFixed(0)} ms`);

  const pack = packsOfCheckout().find((each) => each.id === 'counterbalance-forklift')!;
  const effective = compose(pack, { variant: 'diesel' });
  const events = simulateEvaluation(
    effective,
    { thorough: 1, sharp: 0.8, grading: 0.7, pace: 0.8, start: 'st-01' },
    { startedAt: '2026-05-05T09:00:00.000Z', planted: proposePlants(effective, 6, 5).map((each) => each.id), random: seededRandom(5), earlierStarts: [], sign: false },
  );
  while (events.length < 200)
    events.splice(events.length - 10, 0, ...events.slice(20, 60).map((each) => ({ ...each, id: `${each.id.slice(0, -4)}${String(events.length).padStart(4, '0')}` })));
  const two = events.slice(0, 200);
  const fold = median(await times(30, () => foldEvaluation(two)));
  const record = foldEvaluation(two);
  const analyse = median(await times(30, () => analyseRound(effective, record.round, record.planted, [])));
  row('round analysis of 200 events', `${analyse.toFixed(2)} ms`, `folding the same events ${fold.toFixed(2)} ms`);
  row('whole appraisal of 200 events', `${median(await times(30, () => appraise(effective, record, []))).toFixed(2)} ms`, '');
  const source = readFileSync(join(root, 'packs/counterbalance-forklift.yaml'), 'utf8');
  const parse = median(await times(7, () => parseYaml(source)));
  row(
    'composing the forklift pack with its hash',
    `${median(await times(30, () => compose(pack, { variant: 'lpg' }))).toFixed(1)} ms`,
    `parsing its YAML ${parse.toFixed(0)} ms; reading with all checks ${median(await times(5, () => readPack(source))).toFixed(0)} ms`,
  );
}
process.exit(0);
