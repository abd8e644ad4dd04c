import { type ChildProcess, spawn } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { Agent, request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { routes } from '@rounds/contract';
import { addDays } from '@rounds/core/calendar';
import { seededRandom } from '@rounds/core/statistics';
import { sql } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import {
  DEMO_PASSWORD,
  openHouse,
  openStore,
  projectStandings,
  standingsToday,
  tables,
} from '../server/src/index';
import { Caller, DEVICE, FORKLIFT } from '../server/src/tests/desk';

/** Figures of the built server, as a process of its own, with 10,000 people. */
const root = join(import.meta.dirname, '..');
const PEOPLE = 10_000;
const CLASSES = 6;

/** The value below which a share of a list lies. */
export const quantile = (list: readonly number[], share: number) =>
  [...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(list.length * share))]!;
const median = (list: readonly number[]) => quantile(list, 0.5);

/** The built server with demo data, as a process of its own, once it is ready. */
export function startBuilt(
  data: string,
): Promise<{ child: ChildProcess; address: string; stop: () => Promise<void> }> {
  const child = spawn(process.execPath, [join(root, 'server/dist/main.js'), '--demo'], {
    env: { ...process.env, ROUNDS_DATA: data, PORT: '0' },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((resolve) => {
    let said = '';
    child.stdout.on('data', (chunk: Buffer) => {
      said += chunk.toString();
      const address = /ready at (http:\/\/\S+)/.exec(said)?.[1];
      if (!address) return;
      const stop = () =>
        new Promise<void>((gone) => (child.once('exit', () => gone()), child.kill('SIGTERM')));
      resolve({ child, address, stop });
    });
  });
}

async function timed(n: number, what: () => Promise<unknown>): Promise<number[]> {
  const list: number[] = [];
  for (let i = 0; i < n; i++) {
    const began = performance.now();
    await what();
    list.push(performance.now() - began);
  }
  return list;
}

/**
 * People with a certificate in each of six classes, and their standings. Answers what plain SQL over the
 * projection takes.
 */
async function fill(data: string, row: Row): Promise<{ today: number; matrix: number }> {
  const store = await openStore({ directory: data, migrations: join(root, 'server', 'migrations') });
  const house = openHouse(store);
  const { db } = house;
  const random = seededRandom(3);
  const [trainer] = await db.select().from(tables.account).limit(1);
  const classes = (await db.select().from(tables.machineClass)).slice(0, CLASSES);
  const people = Array.from({ length: PEOPLE }, (_, i) => ({
    id: uuidv7(),
    payroll: `B${i}`,
    givenName: `Given${i}`,
    familyName: `Family${i}`,
    site: `Site ${i % 5}`,
    team: `Team ${i % 40}`,
    born: '1985-04-01',
  }));
  for (let i = 0; i < people.length; i += 2000)
    await db.insert(tables.person).values(people.slice(i, i + 2000));
  const events = people.flatMap((person) =>
    classes.map((each) => ({
      id: uuidv7(),
      personId: person.id,
      classId: each.id,
      on: addDays('2023-06-01', Math.floor(random() * 1200)),
      body: { kind: 'certificate-recorded' as const },
      accountId: trainer!.id,
    })),
  );
  for (let i = 0; i < events.length; i += 2000)
    await db.insert(tables.certificationEventRow).values(events.slice(i, i + 2000));
  const today = await standingsToday(house);
  const [projecting] = await timed(1, () => house.db.transaction((tx) => projectStandings(tx, today)));
  row(
    `standings of ${PEOPLE} people x ${CLASSES} classes made anew`,
    `${(projecting! / 1000).toFixed(1)} s`,
    'npm run rebuild',
  );
  const plainToday = async () => {
    await db.execute(sql`select status, count(*) from standing group by status`);
    await db.execute(sql`select s.*, p.given_name, p.family_name, p.team from standing s join person p on p.id = s.person_id
      where s.status in ('suspended', 'lapsed', 'in-grace', 'due') order by array_position(array['suspended','lapsed','in-grace','due'], s.status), s.until_date limit 100`);
  };
  const plainMatrix = async () => {
    await db.execute(sql`select p.id, p.family_name, p.given_name, p.team, p.site, s.class_id, s.status, s.may_operate, s.until_date, s.body ->> 'lengthDays' as length
      from (select * from person where active order by family_name, given_name, id limit 200) p left join standing s on s.person_id = p.id`);
    await db.execute(sql`select count(*) from person where active`);
    await db.execute(sql`select distinct site from person`);
    await db.execute(sql`select distinct team from person`);
  };
  const plain = { today: median(await timed(15, plainToday)), matrix: median(await timed(15, plainMatrix)) };
  await house.pool.close();
  await store.close();
  return plain;
}

const agent = new Agent({ keepAlive: true, maxSockets: 32 });
function get(
  address: string,
  path: string,
  headers: Record<string, string>,
): Promise<{ status: number; etag: string | undefined }> {
  return new Promise((resolve, reject) => {
    request(`${address}${path}`, { agent, headers }, (answer) => {
      answer.resume();
      answer.once('end', () => resolve({ status: answer.statusCode!, etag: answer.headers.etag }));
    })
      .once('error', reject)
      .end();
  });
}

/** Requests a second that eight clients get answered. */
async function rate(ask: () => Promise<unknown>, seconds = 3): Promise<number> {
  const until = performance.now() + seconds * 1000;
  let n = 0;
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      while (performance.now() < until) {
        await ask();
        n += 1;
      }
    }),
  );
  return n / seconds;
}

export type Row = (what: string, figure: string, baseline?: string) => void;

export async function benchServer(row: Row): Promise<void> {
  const data = mkdtempSync(join(tmpdir(), 'rounds-bench-'));
  await (await startBuilt(data)).stop();
  const plain = await fill(data, row);
  const server = await startBuilt(data);
  const trainer = await new Caller(server.address).signIn('hilda', DEMO_PASSWORD);
  const headers = { cookie: trainer.cookie };

  for (const [name, path, baseline] of [
    ['Today', '/api/today', plain.today],
    ['first page of the matrix', '/api/matrix', plain.matrix],
  ] as const) {
    await get(server.address, path, headers);
    const took = median(await timed(15, () => get(server.address, path, headers)));
    row(
      `${name}, ${PEOPLE} people x ${CLASSES} classes, request`,
      `${took.toFixed(0)} ms`,
      `plain SQL over the projection ${baseline.toFixed(0)} ms (ratio ` +
        `${(took / baseline).toFixed(1)}, limit 3)`,
    );
  }

  const empty = await rate(() => get(server.address, '/api/session', headers));
  for (const path of ['/api/classes', '/api/library']) {
    const { etag } = await get(server.address, path, headers);
    const cached = await rate(() => get(server.address, path, { ...headers, 'if-none-match': etag! }));
    row(
      `${path} read again, requests a second`,
      cached.toFixed(0),
      `an endpoint that only knows the caller ${empty.toFixed(0)} (ratio ` +
        `${(cached / empty).toFixed(2)}, limit 0.5)`,
    );
  }

  const health = () => timed(400, () => get(server.address, '/healthz', {}));
  await health();
  const idle = await health();
  let printing = true;
  let printed = 0;
  const clients = Array.from({ length: 5 }, async () => {
    while (printing) {
      await get(server.address, `/api/classes/${FORKLIFT}/check-sheet.pdf`, headers);
      printed += 1;
    }
  });
  await new Promise((resolve) => setTimeout(resolve, 2500));
  const began = performance.now();
  const busy: number[] = [];
  while (performance.now() - began < 8000)
    busy.push(...(await timed(50, () => get(server.address, '/healthz', {}))));
  printing = false;
  await Promise.all(clients);
  const [p99, p99Busy] = [quantile(idle, 0.99), quantile(busy, 0.99)];
  row(
    '/healthz p99 while five clients print PDFs',
    `${p99Busy.toFixed(1)} ms`,
    `idle ${p99.toFixed(1)} ms (ratio ${(p99Busy / p99).toFixed(1)}, limit 5); ` +
      `${printed} PDFs, slowest health ${Math.max(...busy).toFixed(0)} ms`,
  );

  const person = (
    (await trainer.call(routes.people, { query: { limit: 1 } })).body as {
      rows: { person: { id: string } }[];
    }
  ).rows[0]!.person.id;
  const unit = (
    (await trainer.call(routes.units, { query: { classId: FORKLIFT } })).body as {
      units: { id: string; variant: string; features: Record<string, string> }[];
    }
  ).units[0]!;
  const id = uuidv7();
  await trainer.call(routes.createEvaluation, {
    body: {
      id,
      personId: person,
      classId: FORKLIFT,
      unitId: unit.id,
      variant: unit.variant,
      features: unit.features,
      conditions: '',
      device: DEVICE,
    },
  });
  const appends: number[] = [];
  for (let i = 0; i < 12; i++) {
    const events = Array.from({ length: 500 }, () => ({
      id: randomUUID(),
      at: new Date().toISOString(),
      body: { kind: 'noted' as const, words: 'a tap' },
    }));
    appends.push(
      (
        await timed(1, () =>
          trainer.call(routes.appendEvents, { params: { id }, body: { device: DEVICE, events } }),
        )
      )[0]!,
    );
  }
  row(
    '500 events appended to 5,500',
    `${appends[11]!.toFixed(0)} ms`,
    `to none ${appends[0]!.toFixed(0)} ms (ratio ` +
      `${(appends[11]! / appends[0]!).toFixed(1)}); straight growth, not its square`,
  );
  await server.stop();
  rmSync(data, { recursive: true, force: true });
}
