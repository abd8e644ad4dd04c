import { type ChildProcess, spawn, spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { routes } from '@rounds/contract';
import { v7 as uuidv7 } from 'uuid';
import { afterEach, expect, it } from 'vitest';
import { Caller, DEVICE, PASSWORD, send } from './desk';

/**
 * The built server as a process of its own: locks, sudden death, backup and restore. PGlite only; a
 * PostgreSQL server has its own ways.
 */
const root = join(import.meta.dirname, '..', '..', '..');
const running: ChildProcess[] = [];
const folders: string[] = [];
afterEach(() => {
  for (const child of running.splice(0)) child.kill('SIGKILL');
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

function start(data: string, args: string[] = []): Promise<{ child: ChildProcess; address: string }> {
  const { DATABASE_URL: _, ...environment } = process.env;
  const child = spawn(process.execPath, [join(root, 'server/dist/main.js'), ...args], {
    env: { ...environment, ROUNDS_DATA: data, ROUNDS_LOG: 'silent', PORT: '0' },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  running.push(child);
  return new Promise((resolve, reject) => {
    let said = '';
    const hear = (chunk: Buffer) => {
      said += chunk.toString();
      const address = /ready at (http:\/\/\S+)/.exec(said)?.[1];
      if (address) resolve({ child, address });
    };
    child.stdout!.on('data', hear);
    child.stderr!.on('data', hear);
    child.on('exit', (code) => reject(new Error(`ended with ${code}: ${said}`)));
  });
}
const dead = (child: ChildProcess) =>
  new Promise<void>((resolve) =>
    child.exitCode !== null || child.signalCode !== null ? resolve() : child.once('exit', () => resolve()),
  );
const folder = () => {
  const made = mkdtempSync(join(tmpdir(), 'rounds-process-'));
  folders.push(made);
  return made;
};
async function setUp(address: string): Promise<{ admin: Caller; evaluation: string }> {
  const admin = new Caller(address);
  await admin.call(routes.createAdministrator, {
    body: { organisation: 'Yard', name: 'Ada', login: 'ada', password: PASSWORD, timeZone: 'UTC' },
  });
  const personId = (
    (
      await admin.call(routes.addPerson, {
        body: { payroll: '1', givenName: 'Olla', familyName: 'Tester', site: 'Quay', team: 'Blue' },
      })
    ).body as { id: string }
  ).id;
  const unitId = (
    (
      await admin.call(routes.addUnit, {
        body: { classId: 'counterbalance-forklift', name: 'T-1', site: 'Quay', variant: 'diesel' },
      })
    ).body as { id: string }
  ).id;
  const evaluation = uuidv7();
  await admin.call(routes.createEvaluation, {
    body: {
      id: evaluation,
      personId,
      classId: 'counterbalance-forklift',
      unitId,
      variant: 'diesel',
      features: {},
      conditions: '',
      device: DEVICE,
    },
  });
  return { admin, evaluation };
}

it('loses nothing it acknowledged when it is killed in the middle of a run', async () => {
  const data = folder();
  const first = await start(data);
  const { admin, evaluation } = await setUp(first.address);
  await send(admin, evaluation, [{ kind: 'round-started' }]);
  const acknowledged: string[] = [];
  let going = true;
  const tapping = (async () => {
    for (let i = 0; going; i++) {
      const checkpoint = `CF-${String((i % 60) + 1).padStart(2, '0')}`;
      const sent = await send(admin, evaluation, [
        { kind: 'noted', words: `tap ${i} at ${checkpoint}` },
      ]).catch(() => null);
      if (sent?.status === 200) acknowledged.push(`tap ${i} at ${checkpoint}`);
      else if (!sent) break;
    }
  })();
  await expect.poll(() => acknowledged.length, { timeout: 120_000, interval: 5 }).toBeGreaterThan(20);
  first.child.kill('SIGKILL');
  going = false;
  await Promise.all([tapping, dead(first.child)]);

  const second = await start(data);
  const again = await new Caller(second.address).signIn('ada');
  const { events } = (await again.call(routes.evaluation, { params: { id: evaluation } })).body as {
    events: { body: { kind: string; words?: string } }[];
  };
  const kept = events.flatMap((each) => (each.body.kind === 'noted' ? [each.body.words] : []));
  expect(kept.slice(0, acknowledged.length)).toEqual(acknowledged);
});

it('keeps its data where nobody else reads it', async () => {
  const data = folder();
  await start(data);
  // The embedded database gives its own files what modes it likes; the directories round them are what
  // keeps others out.
  const open = [data, ...readdirSync(data).map((name) => join(data, name))].filter(
    (path) => (statSync(path).mode & 0o077) !== 0,
  );
  expect(open).toEqual([]);
});

it('refuses a second process on the same data directory, and says which holds it', async () => {
  const data = folder();
  const first = await start(data);
  await expect(start(data)).rejects.toThrow(new RegExp(`in use by process ${first.child.pid}`));
  expect((await fetch(`${first.address}/healthz`)).status).toBe(200);
  first.child.kill('SIGTERM');
  await dead(first.child);
  expect(first.child.exitCode).toBe(0);
  await start(data);
});

it('keeps demo and real data apart', async () => {
  const data = folder();
  const demo = await start(data, ['--demo']);
  demo.child.kill('SIGTERM');
  await dead(demo.child);
  await expect(start(data)).rejects.toThrow(/is the demo, whose passwords are public/);
});

it('backs up while it runs, and restores to what was there', async () => {
  const data = folder();
  const first = await start(data);
  const { admin, evaluation } = await setUp(first.address);
  await send(admin, evaluation, [{ kind: 'noted', words: 'before the backup' }]);
  const store = (...args: string[]) =>
    spawnSync(process.execPath, ['--import', 'tsx', join(root, 'tools/store.ts'), ...args], {
      cwd: root,
      env: { ...process.env, ROUNDS_DATA: data },
      encoding: 'utf8',
    });
  expect(store('backup').stdout).toMatch(/written by the running server/);
  await send(admin, evaluation, [{ kind: 'noted', words: 'after the backup' }]);
  const file = join(data, 'backups', readdirSync(join(data, 'backups'))[0]!);
  expect(store('restore', file).stderr).toMatch(/in use by process/);
  first.child.kill('SIGTERM');
  await dead(first.child);
  expect(store('restore', file).stdout).toMatch(/Restored and opened: 1 person, 1 account, 1 evaluation/);
  const second = await start(data);
  const again = await new Caller(second.address).signIn('ada');
  const { events } = (await again.call(routes.evaluation, { params: { id: evaluation } })).body as {
    events: { body: { words?: string } }[];
  };
  expect(events.map((each) => each.body.words)).toEqual(['before the backup']);
});
