import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type RouteAnswer, routes } from '@rounds/contract';
import { seededRandom } from '@rounds/core/statistics';
import { v7 as uuidv7 } from 'uuid';
import { checkDump } from '../server/src/data/backup';
import { Caller, DEVICE, FORKLIFT, PASSWORD } from '../server/src/tests/desk';

/**
 * Kills the built server as a process, with SIGKILL, at moments drawn from a seed, and looks what is left:
 * nothing acknowledged is lost, nothing is doubled, it always starts again, and it is never open to a
 * stranger.
 */
const root = join(import.meta.dirname, '..');
const [what, times = '50'] = process.argv.slice(2);
const random = seededRandom(20_261_126);
const pause = (milliseconds: number) => new Promise((resolve) => setTimeout(resolve, milliseconds));
const failures: string[] = [];
const expected = (right: boolean, words: string) => {
  if (!right) failures.push(words);
};

interface Running {
  child: ChildProcess;
  /** Resolves to the address once it serves; rejects when it ends before. */
  ready: Promise<string>;
}

function start(data: string): Running {
  const { DATABASE_URL: _, ...environment } = process.env;
  const child = spawn(process.execPath, [join(root, 'server/dist/main.js')], {
    env: { ...environment, ROUNDS_DATA: data, ROUNDS_LOG: 'silent', PORT: '0' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  let said = '';
  const ready = new Promise<string>((resolve, reject) => {
    const hear = (chunk: Buffer) => {
      said += chunk.toString();
      const address = /ready at (http:\/\/\S+)/.exec(said)?.[1];
      if (address) resolve(address);
    };
    child.stdout!.on('data', hear);
    child.stderr!.on('data', hear);
    child.on('exit', (code) => reject(new Error(`ended with ${code}: ${said}`)));
  });
  ready.catch(() => undefined);
  return { child, ready };
}

async function kill({ child }: Running): Promise<void> {
  if (child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await gone;
}

/** A data directory with an administrator, a person, a machine and an evaluation. */
async function setUp(data: string): Promise<string> {
  const server = start(data);
  const admin = new Caller(await server.ready);
  await admin.call(routes.createAdministrator, {
    body: { organisation: 'Yard', name: 'Ada', login: 'ada', password: PASSWORD, timeZone: 'UTC' },
  });
  const person = (
    await admin.call(routes.addPerson, {
      body: { payroll: '1', givenName: 'Olla', familyName: 'Tester', site: 'Quay', team: 'Blue' },
    })
  ).body as {
    id: string;
  };
  const unit = (
    await admin.call(routes.addUnit, {
      body: { classId: FORKLIFT, name: 'T-1', site: 'Quay', variant: 'diesel' },
    })
  ).body as { id: string };
  const id = uuidv7();
  await admin.call(routes.createEvaluation, {
    body: {
      id,
      personId: person.id,
      classId: FORKLIFT,
      unitId: unit.id,
      variant: 'diesel',
      features: {},
      conditions: '',
      device: DEVICE,
    },
  });
  await kill(server);
  return id;
}

async function isClosed(address: string): Promise<boolean> {
  return !(
    (await new Caller(address).call(routes.installation, {})).body as RouteAnswer<typeof routes.installation>
  ).needsAdministrator;
}

async function appends(n: number, data: string): Promise<void> {
  const id = await setUp(data);
  const acknowledged = new Set<string>();
  /** Sent without an answer: sent again after the restart, as a device does. */
  let unanswered: { id: string; at: string; body: { kind: 'noted'; words: string } }[] = [];
  let serial = 0;
  for (let i = 0; i < n; i++) {
    const server = start(data);
    const admin = await new Caller(await server.ready).signIn('ada');
    let going = true;
    const tap = async () => {
      while (going) {
        const batch =
          unanswered.length > 0
            ? unanswered.splice(0, 50)
            : Array.from({ length: 1 + Math.floor(random() * 4) }, () => ({
                id: uuidv7(),
                at: new Date().toISOString(),
                body: { kind: 'noted' as const, words: `tap ${(serial += 1)}` },
              }));
        const sent = await admin
          .call(routes.appendEvents, { params: { id }, body: { device: DEVICE, events: batch } })
          .catch(() => null);
        if (sent?.status === 200) batch.forEach((each) => acknowledged.add(each.id));
        else {
          unanswered.push(...batch);
          if (sent) failures.push(`answered ${sent.problem.code}: ${sent.problem.detail}`);
        }
      }
    };
    const tapping = [tap(), tap()];
    await pause(50 + random() * 700);
    await kill(server);
    going = false;
    await Promise.all(tapping);
  }
  const server = start(data);
  const admin = await new Caller(await server.ready).signIn('ada');
  if (unanswered.length > 0)
    await admin.call(routes.appendEvents, { params: { id }, body: { device: DEVICE, events: unanswered } });
  unanswered.forEach((each) => acknowledged.add(each.id));
  unanswered = [];
  const opened = (await admin.call(routes.evaluation, { params: { id } })).body as RouteAnswer<
    typeof routes.evaluation
  >;
  const kept = opened.events.map((each) => each.id);
  const lost = [...acknowledged].filter((each) => !kept.includes(each));
  expected(lost.length === 0, `${lost.length} acknowledged taps are lost`);
  expected(new Set(kept).size === kept.length, 'a tap is doubled');
  console.log(
    `${n} kills during appends: ${acknowledged.size} taps acknowledged, ${kept.length} ` +
      `kept, ${lost.length} lost, ${kept.length - new Set(kept).size} doubled`,
  );
  await kill(server);
}

async function firstStarts(n: number, data: string): Promise<void> {
  for (let i = 0; i < n; i++) {
    const own = join(data, String(i));
    const server = start(own);
    await pause(random() * 9000);
    await kill(server);
    const again = start(own);
    try {
      const admin = new Caller(await again.ready);
      const made = await admin.call(routes.createAdministrator, {
        body: { organisation: 'Yard', name: 'Ada', login: 'ada', password: PASSWORD, timeZone: 'UTC' },
      });
      expected(made.status === 200, `kill ${i}: the administrator could not be made`);
    } catch (error) {
      failures.push(`kill ${i}: ${String(error)}`);
    }
    await kill(again);
    rmSync(own, { recursive: true, force: true });
  }
  console.log(
    `${n} kills during the first start: ` +
      `${failures.length === 0 ? 'each started again' : `${failures.length} did not`}`,
  );
}

async function backups(n: number, data: string): Promise<void> {
  await setUp(data);
  let whole = 0;
  for (let i = 0; i < n; i++) {
    const server = start(data);
    const address = await server.ready;
    expected(await isClosed(address), `kill ${i}: open to a stranger`);
    const control = (
      JSON.parse(readFileSync(join(data, 'rounds.lock'), 'utf8')) as { control: { secret: string } }
    ).control;
    const asked = fetch(`${address}/control/backup`, {
      method: 'POST',
      headers: { 'x-rounds-control': control.secret },
    }).catch(() => null);
    await pause(random() * 3500);
    await kill(server);
    await asked;
    whole = 0;
    for (const name of readdirSync(join(data, 'backups')).filter((each) => each.endsWith('.tar.gz'))) {
      whole += 1;
      await checkDump(readFileSync(join(data, 'backups', name))).catch((error: unknown) =>
        failures.push(`kill ${i}: ${name}: ${String(error)}`),
      );
    }
  }
  const server = start(data);
  expected(await isClosed(await server.ready), 'open to a stranger in the end');
  await kill(server);
  console.log(
    `${n} kills during a backup: ${whole} backups kept, ` +
      `${failures.length === 0 ? 'each whole; it started every time' : failures.length + ' faults'}`,
  );
}

async function restores(n: number, data: string): Promise<void> {
  const id = await setUp(data);
  const store = (...args: string[]) =>
    [
      process.execPath,
      ['--import', 'tsx', join(root, 'tools/store.ts'), ...args],
      { cwd: root, env: { ...process.env, ROUNDS_DATA: data } },
    ] as const;
  spawnSync(...store('backup'));
  const file = join(data, 'backups', readdirSync(join(data, 'backups'))[0]!);
  for (let i = 0; i < n; i++) {
    const child = spawn(...store('restore', file));
    const gone = new Promise((resolve) => child.once('exit', resolve));
    await pause(800 + random() * 3700);
    child.kill('SIGKILL');
    await gone;
    const server = start(data);
    try {
      const address = await server.ready;
      expected(await isClosed(address), `kill ${i}: open to a stranger`);
      const admin = await new Caller(address).signIn('ada');
      expected(
        (await admin.call(routes.evaluation, { params: { id } })).status === 200,
        `kill ${i}: the evaluation is gone`,
      );
    } catch (error) {
      failures.push(`kill ${i}: ${String(error)}`);
    }
    await kill(server);
    for (const name of readdirSync(data))
      if (name.startsWith('store.before-restore-')) rmSync(join(data, name), { recursive: true });
  }
  console.log(
    `${n} kills during a restore: ` +
      `${failures.length === 0 ? 'each started again, closed, with its data' : `${failures.length} faults`}`,
  );
}

const acts: Record<string, (n: number, data: string) => Promise<void>> = {
  appends,
  'first-start': firstStarts,
  backup: backups,
  restore: restores,
};
const act = acts[what ?? ''];
if (!act) {
  console.error('usage: npm run -s endurance -- appends|first-start|backup|restore [times]');
  process.exit(2);
}
const data = mkdtempSync(join(tmpdir(), 'rounds-endurance-'));
await act(Number(times), data);
rmSync(data, { recursive: true, force: true });
for (const each of failures.slice(0, 20)) console.error(each);
process.exit(failures.length > 0 ? 1 : 0);
