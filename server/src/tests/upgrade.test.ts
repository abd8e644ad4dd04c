import { randomUUID } from 'node:crypto';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { PGlite } from '@electric-sql/pglite';
import { type RouteAnswer, routes } from '@rounds/contract';
import type { EffectivePack, Pack } from '@rounds/core/catalogue';
import { appraise, foldEvaluation } from '@rounds/core/evaluation';
import { eq, sql } from 'drizzle-orm';
import pg from 'pg';
import { afterAll, beforeAll, expect, it } from 'vitest';
import {
  application,
  type Database,
  DEMO_PASSWORD,
  type House,
  listen,
  type Listening,
  openHouse,
  openStore,
  publishPack,
  shippedFiles,
  tables,
  takeUpShipped,
} from '../index';
import { Caller } from './desk';

/**
 * A database of version 0.1, made by that version and kept, opens in this one, is migrated, and has lost
 * nothing.
 */
const root = join(import.meta.dirname, '..', '..', '..');
const dump = gunzipSync(readFileSync(join(import.meta.dirname, 'kept', 'version-0.1.sql.gz')))
  .toString('utf8')
  // The first lines are for the command-line client and for servers that keep privileges.
  .replace(/^\\.*$/gm, '')
  .replace(/^SELECT pg_catalog\.set_config\('search_path', '', false\);$/gm, '');
const TABLES = [
  'person',
  'account',
  'unit',
  'evaluation',
  'evaluation_event',
  'certification_event',
  'certificate',
  'pack_revision',
  'pack_draft',
  'school_choice',
  'rule_set',
  'audit',
];
const migrations = join(root, 'server', 'migrations');

let house: House;
let listening: Listening;
let before: Record<string, number>;
let close: () => Promise<void>;
const count = async (query: (text: string) => Promise<{ rows: { n: number }[] }>) => {
  const counts: Record<string, number> = {};
  for (const table of TABLES)
    counts[table] = (await query(`select count(*)::int as n from public.${table}`)).rows[0]!.n;
  return counts;
};

beforeAll(async () => {
  const server = process.env['TEST_DATABASE_URL'];
  let open: Parameters<typeof openStore>[0];
  if (server) {
    const name = `rounds_upgrade_${randomUUID().slice(0, 8)}`;
    const admin = new pg.Client({ connectionString: server });
    await admin.connect();
    await admin.query(`create database ${name}`);
    const own = new URL(server);
    own.pathname = `/${name}`;
    const client = new pg.Client({ connectionString: own.href });
    await client.connect();
    await client.query(dump);
    before = await count((text) => client.query(text));
    await client.end();
    open = { url: own.href, directory: null, migrations };
    close = async () => {
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    };
  } else {
    const directory = mkdtempSync(join(tmpdir(), 'rounds-upgrade-'));
    const client = await PGlite.create({ dataDir: join(directory, 'store') });
    await client.exec(dump);
    before = await count((text) => client.query(text));
    await client.close();
    open = { directory, migrations };
    close = async () => rmSync(directory, { recursive: true, force: true });
  }
  const store = await openStore(open);
  house = openHouse(store, { demo: true });
  listening = await listen(application(house, { webRoot: null }), 0, false);
});
afterAll(async () => {
  await listening?.stop();
  await house?.pool.close();
  await house?.store.close();
  await close?.();
});

it('has every row it had', async () => {
  expect(before['evaluation_event']).toBeGreaterThan(10_000);
  expect(await count((text) => house.db.execute(sql.raw(text)) as never)).toEqual(before);
});

it('reads every evaluation, and what was undone, overridden and signed by the earlier rules', async () => {
  const hilda = await new Caller(listening.address).signIn('hilda', DEMO_PASSWORD);
  let cursor: string | undefined;
  const ids: string[] = [];
  do {
    const page = (
      await hilda.call(routes.evaluations, { query: { limit: 100, ...(cursor ? { cursor } : {}) } })
    ).body as RouteAnswer<typeof routes.evaluations>;
    ids.push(...page.rows.map((each) => each.id));
    cursor = page.next ?? undefined;
  } while (cursor);
  expect(ids.length).toBe(before['evaluation']);
  const opened = [];
  for (const id of ids)
    opened.push(
      (await hilda.call(routes.evaluation, { params: { id } })).body as RouteAnswer<typeof routes.evaluation>,
    );
  const kinds = opened.flatMap((each) => each.events.map((event) => event.body.kind));
  expect(kinds.filter((kind) => kind === 'plant-corrected').length).toBe(1);
  const overridden = opened.find((each) => each.summary.overridden)!;
  expect(overridden.events.find((each) => each.body.kind === 'decided')!.body).toMatchObject({
    override: { kind: 'other', words: 'rushed the last three loads' },
  });
  // Decided by one trainer, signed by the one who took it over.
  expect(overridden.summary.trainerName).toBe('Hilda Rousay');
  expect(overridden.events.find((each) => each.body.kind === 'signed')!.by).not.toBe('Hilda Rousay');
  expect((await hilda.call(routes.report, { params: { id: overridden.summary.id } })).status).toBe(200);
  expect(
    (
      await hilda.call(routes.card, {
        params: { token: opened.find((each) => each.certificate)!.certificate!.token },
      })
    ).status,
  ).toBe(200);
});

/** Every evaluation that the database has, as it is opened. */
async function everyEvaluation(caller: Caller): Promise<RouteAnswer<typeof routes.evaluation>[]> {
  const rows = await house.db.select({ id: tables.evaluation.id }).from(tables.evaluation);
  const opened = [];
  for (const { id } of rows)
    opened.push(
      (await caller.call(routes.evaluation, { params: { id } })).body as RouteAnswer<
        typeof routes.evaluation
      >,
    );
  return opened;
}
/** Score and outcome of each decided evaluation, worked out now. */
const judged = (opened: Awaited<ReturnType<typeof everyEvaluation>>) =>
  new Map(
    opened
      .filter((each) => each.summary.outcome !== null)
      .map(({ summary, pack, events, earlierStarts }) => {
        const now = appraise(pack as EffectivePack, foldEvaluation(events), earlierStarts);
        return [summary.id, { score: now.score, outcome: now.outcome }];
      }),
  );

it('scores every evaluation exactly as it did then, by the content it was made with', async () => {
  const hilda = await new Caller(listening.address).signIn('hilda', DEMO_PASSWORD);
  const opened = await everyEvaluation(hilda);
  const now = judged(opened);
  expect(now.size).toBeGreaterThan(50);
  for (const { summary, pack } of opened) {
    expect((pack as EffectivePack).format).toBe(1);
    const then = now.get(summary.id);
    if (!then) continue;
    expect([summary.id, then.score]).toEqual([summary.id, summary.score]);
    if (!summary.overridden) expect([summary.id, then.outcome]).toEqual([summary.id, summary.outcome]);
  }
  // Among them are rounds that would not pass by the rules of today: open rings, and faster than can be.
  const passed = opened.filter((each) => now.get(each.summary.id)?.outcome === 'competent');
  const analyses = passed.map(
    ({ pack, events, earlierStarts }) =>
      appraise(pack as EffectivePack, foldEvaluation(events), earlierStarts).analysis,
  );
  expect(analyses.some((each) => !each.path.closed || each.pace.plausible === false)).toBe(true);
});

it('takes in newer class content where the house has not written its own, and old results stay', async () => {
  const hilda = await new Caller(listening.address).signIn('hilda', DEMO_PASSWORD);
  const before = judged(await everyEvaluation(hilda));
  const pack = async (id: string) =>
    ((await hilda.call(routes.machineClass, { params: { id } })).body as { pack: Pack }).pack;
  const own = await pack('reel-mower');
  expect(own.faults.every((each) => each.title.length > 0)).toBe(true);
  const [trainer] = await house.db.select().from(tables.account).where(eq(tables.account.login, 'hilda'));
  await house.db.transaction((db) =>
    publishPack(
      db as Database,
      { ...own, revision: own.revision + 1, summary: 'As this house knows it.' },
      { accountId: trainer!.id, note: 'our own words' },
    ),
  );
  const files = shippedFiles(join(root, 'packs'));
  const broken = { classId: 'push-mower', source: 'id: push-mower' };
  const first = await takeUpShipped(house.db, [
    ...files.filter((each) => each.classId !== 'push-mower'),
    broken,
  ]);
  expect(first.unsound.map((each) => each.classId)).toEqual(['push-mower']);
  expect(first.published).toHaveLength(21);
  expect(first.published).not.toContain('reel-mower');
  expect((await pack('reel-mower')).summary).toBe('As this house knows it.');
  expect((await pack('wheel-loader')).revision).toBe(2);
  // A file that was broken is tried again; what was taken in is not.
  expect(await takeUpShipped(house.db, files)).toEqual({ published: ['push-mower'], unsound: [] });
  expect(await takeUpShipped(house.db, files)).toEqual({ published: [], unsound: [] });
  expect(judged(await everyEvaluation(hilda))).toEqual(before);
});

it('judges certificates by the rules of their date: a shorter validity later keeps them', async () => {
  const una = await new Caller(listening.address).signIn('una', DEMO_PASSWORD);
  const matrix = (await una.call(routes.matrix, { query: { limit: 500 } })).body as RouteAnswer<
    typeof routes.matrix
  >;
  expect(matrix.people.length).toBe(matrix.total);
  expect(matrix.people.some((each) => each.cells.length > 0)).toBe(true);
  const sets = (await una.call(routes.rulesSets, {})).body as RouteAnswer<typeof routes.rulesSets>;
  expect(sets.sets.map((each) => each.given)).toEqual(['keep', 'keep']);
});

it('has its draft still, with what is wrong in it', async () => {
  const hilda = await new Caller(listening.address).signIn('hilda', DEMO_PASSWORD);
  const { draft } = (await hilda.call(routes.classDraft, { params: { id: 'push-mower' } }))
    .body as RouteAnswer<typeof routes.classDraft>;
  expect(draft!.source).toContain('not: finished');
  expect(draft!.errors.length).toBeGreaterThan(0);
});
