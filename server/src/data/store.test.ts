import { randomBytes } from 'node:crypto';
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { afterEach, describe, expect, it } from 'vitest';
import { BackupFailed, backupsIn, writeBackup } from './backup';
import { openStore, restoreStore, StoreUnreadable } from './database';
import {
  DirectoryTaken,
  holdDirectory,
  installRestored,
  settleDirectory,
  StoreMissing,
} from './dataDirectory';

/** Backups, locks and directories that were left in the middle of something. */
const migrations = join(import.meta.dirname, '..', '..', 'migrations');
const folders: string[] = [];
const folder = () => {
  const made = mkdtempSync(join(tmpdir(), 'rounds-store-'));
  folders.push(made);
  return made;
};
afterEach(() => {
  for (const each of folders.splice(0)) rmSync(each, { recursive: true, force: true });
});

const dump = (words: string) =>
  gzipSync(Buffer.concat([Buffer.from(`PG_VERSION ${words} `), randomBytes(5000)]));
const AT = new Date('2026-06-01T12:00:00Z');

describe('a backup', () => {
  it('that the disk cuts short is not a backup, and the ones before it stay', async () => {
    const where = folder();
    const first = await writeBackup(dump('first'), where, 'timed', AT);
    const full: typeof writeSync = ((handle: number, bytes: Buffer, offset: number, length: number) => {
      if (offset > 100)
        throw Object.assign(new Error('ENOSPC: no space left on device, write'), { code: 'ENOSPC' });
      return writeSync(handle, bytes, offset, Math.min(length, 60));
    }) as typeof writeSync;
    await expect(writeBackup(dump('second'), where, 'timed', AT, full)).rejects.toThrow(
      /No backup was written.*no space left.*earlier backups there are untouched.*npm run backup/,
    );
    const lying: typeof writeSync = ((handle: number, bytes: Buffer, offset: number, length: number) => {
      writeSync(handle, bytes, offset, Math.floor(length / 2));
      return length;
    }) as typeof writeSync;
    await expect(writeBackup(dump('third'), where, 'timed', AT, lying)).rejects.toThrow(BackupFailed);
    expect(readdirSync(where)).toEqual([first.split('/').at(-1)]);
  });
  it('that is no dump of a database is refused', async () => {
    await expect(writeBackup(gzipSync(Buffer.from('something else')), folder(), 'timed', AT)).rejects.toThrow(
      /not a dump/,
    );
  });
  it('written in short pieces is whole', async () => {
    const bytes = dump('pieces');
    const slow: typeof writeSync = ((handle: number, given: Buffer, offset: number, length: number) =>
      writeSync(handle, given, offset, Math.min(length, 7))) as typeof writeSync;
    expect(readFileSync(await writeBackup(bytes, folder(), 'timed', AT, slow))).toEqual(bytes);
  });
  it('is the newest by its number, also when the clock was set back: it never prunes itself', async () => {
    const where = folder();
    writeFileSync(join(where, '2026-01-01T00-00-00-000Z-timed.tar.gz'), 'of an earlier version');
    for (let i = 0; i < 14; i++)
      await writeBackup(dump(String(i)), where, 'timed', new Date(AT.getTime() - i * 86_400_000));
    const kept = backupsIn(where);
    expect(kept.length).toBe(12);
    expect(kept.at(-1)).toMatch(/^00000014-2026-05-19/);
    expect(kept[0]).toMatch(/^00000003-/);
  });
  it('is read by nobody else', async () => {
    const file = await writeBackup(dump('secret'), join(folder(), 'backups'), 'timed', AT);
    expect(statSync(file).mode & 0o777).toBe(0o600);
    expect(statSync(join(file, '..')).mode & 0o777).toBe(0o700);
  });
});

describe('a data directory', () => {
  it('is held by the operating system: a lock file left behind, whatever it says, stops nobody', () => {
    const where = folder();
    for (const left of [
      String(process.pid),
      '1',
      '999999',
      JSON.stringify({ pid: 1, control: null }),
      'nonsense',
      '',
    ]) {
      writeFileSync(join(where, 'rounds.lock'), left);
      const held = holdDirectory(where);
      expect(() => holdDirectory(where)).toThrow(DirectoryTaken);
      held.release();
    }
    holdDirectory(where).release();
  });
  it('says who holds it and how they are reached', () => {
    const where = folder();
    const held = holdDirectory(where);
    held.announce({ address: 'http://127.0.0.1:1', secret: 'a secret' });
    try {
      holdDirectory(where);
    } catch (error) {
      expect((error as DirectoryTaken).holder).toEqual({
        pid: process.pid,
        control: { address: 'http://127.0.0.1:1', secret: 'a secret' },
      });
      expect((error as Error).message).toContain(`process ${process.pid}`);
    }
    expect(statSync(join(where, 'rounds.lock')).mode & 0o777).toBe(0o600);
    held.release();
  });
  it('is closed to others even where it was open before', () => {
    const where = folder();
    chmodSync(where, 0o755);
    holdDirectory(where).release();
    expect(statSync(where).mode & 0o777).toBe(0o700);
  });

  const make = async (at: string) => mkdirSync(at);
  it('whose store was half made is made again', async () => {
    const where = folder();
    mkdirSync(join(where, 'store.making'));
    writeFileSync(join(where, 'store.making', 'PG_VERSION'), '18');
    expect(await settleDirectory(where, make)).toMatchObject({ isNew: true });
    expect(readdirSync(join(where, 'store'))).toEqual([]);
    expect(await settleDirectory(where, make)).toMatchObject({ isNew: false });
  });
  it('that held data once is never taken for a new one', async () => {
    const where = folder();
    await settleDirectory(where, make);
    rmSync(join(where, 'store'), { recursive: true });
    await expect(settleDirectory(where, make)).rejects.toThrow(/held data once.*npm run restore/);
    const earlier = folder();
    mkdirSync(join(earlier, 'backups'));
    writeFileSync(join(earlier, 'backups', '2026-01-01T00-00-00-000Z-timed.tar.gz'), '');
    await expect(settleDirectory(earlier, make)).rejects.toThrow(StoreMissing);
    const between = folder();
    mkdirSync(join(between, 'store.before-restore-1'));
    await expect(settleDirectory(between, make)).rejects.toThrow(StoreMissing);
  });
  it('finishes a restore that was cut short at any step', async () => {
    const restored = (where: string) => readdirSync(join(where, 'store'));
    const begun = async () => {
      const where = folder();
      await settleDirectory(where, make);
      writeFileSync(join(where, 'store', 'old'), '');
      mkdirSync(join(where, 'store.restoring'));
      writeFileSync(join(where, 'store.restoring', 'new'), '');
      return where;
    };
    const unnoted = await begun();
    await settleDirectory(unnoted, make);
    expect(restored(unnoted)).toEqual(['old']);
    expect(existsSync(join(unnoted, 'store.restoring'))).toBe(false);
    for (const steps of [0, 1, 2]) {
      const where = await begun();
      writeFileSync(join(where, 'restore.json'), JSON.stringify({ setAside: 'store.before-restore-9' }));
      if (steps >= 1) renameSync(join(where, 'store'), join(where, 'store.before-restore-9'));
      if (steps >= 2) renameSync(join(where, 'store.restoring'), join(where, 'store'));
      await settleDirectory(where, make);
      expect([steps, restored(where), readdirSync(join(where, 'store.before-restore-9'))]).toEqual([
        steps,
        ['new'],
        ['old'],
      ]);
      expect(existsSync(join(where, 'restore.json'))).toBe(false);
    }
    const whole = await begun();
    installRestored(whole);
    expect(restored(whole)).toEqual(['new']);
  });
});

describe('a store', () => {
  it('comes back from its backup, and a damaged file changes nothing', async () => {
    const where = folder();
    const first = await openStore({ directory: where, migrations });
    await first.query("insert into setting (key, value) values ('kept', '1')", []);
    const file = await first.backup!('asked');
    await first.query("update setting set value = '2' where key = 'kept'", []);
    await expect(restoreStore(where, file)).rejects.toThrow(DirectoryTaken);
    await first.close();
    const cut = join(where, 'cut.tar.gz');
    writeFileSync(cut, readFileSync(file).subarray(0, 20_000));
    await expect(restoreStore(where, cut)).rejects.toThrow(/not a whole backup.*Nothing was changed/);
    const value = async () => {
      const store = await openStore({ directory: where, migrations });
      const { rows } = await store.query("select value from setting where key = 'kept'", []);
      await store.close();
      return rows[0]!['value'];
    };
    expect(await value()).toBe(2);
    await restoreStore(where, file);
    expect(await value()).toBe(1);
  });
  it('that does not open is left as it is, and the way back is named', async () => {
    const where = folder();
    const store = await openStore({ directory: where, migrations });
    const file = await store.backup!('asked');
    await store.close();
    rmSync(join(where, 'store', 'global'), { recursive: true });
    await expect(openStore({ directory: where, migrations })).rejects.toThrow(StoreUnreadable);
    await expect(openStore({ directory: where, migrations })).rejects.toThrow(
      new RegExp(`npm run restore -- ${file}`),
    );
  });
});
