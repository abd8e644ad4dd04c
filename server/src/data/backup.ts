import { createHash } from 'node:crypto';
import {
  closeSync,
  fsyncSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { syncDirectory } from './dataDirectory';

/** Dumps that are kept; older ones go when a new one is whole. */
const KEPT = 12;
const NAME = /^(?:(\d{8})-)?(.+)\.tar\.gz$/;
const unzip = promisify(gunzip);
const digest = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

/**
 * The number a backup's name begins with, 0 for those of an earlier version, which had none. Order goes by
 * it, never by the clock.
 */
function numberOf(name: string): number {
  return Number(NAME.exec(name)?.[1] ?? 0);
}

/** Names of the backups in a folder, oldest first. */
export function backupsIn(folder: string): string[] {
  let names: string[];
  try {
    names = readdirSync(folder).filter((name) => NAME.test(name));
  } catch {
    return [];
  }
  return names.sort((a, b) => numberOf(a) - numberOf(b) || (a < b ? -1 : 1));
}

/** Thrown when a backup was not written whole. The ones before it are untouched. */
export class BackupFailed extends Error {
  constructor(folder: string, why: string) {
    super(
      `No backup was written to ${folder}: ${why}. The earlier backups there are ` +
        'untouched. Make room or mend the disk, then run npm run backup.',
    );
    this.name = 'BackupFailed';
  }
}

/** Throws when the bytes are not a whole dump of a data directory. */
export async function checkDump(bytes: Buffer): Promise<void> {
  const tar = await unzip(bytes);
  if (!tar.includes('PG_VERSION')) throw new Error('it is not a dump of a database');
}

/**
 * Writes a dump beside its final name, forces it to disk, reads it back and checks it, and only then gives it
 * its name and lets the oldest go. Returns the file. Throws BackupFailed. `write` stands for the disk in
 * tests.
 */
export async function writeBackup(
  bytes: Buffer,
  folder: string,
  note: string,
  at: Date,
  write: typeof writeSync = writeSync,
): Promise<string> {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  for (const name of readdirSync(folder)) if (name.endsWith('.part')) rmSync(join(folder, name));
  const before = backupsIn(folder);
  const number = Math.max(0, ...before.map(numberOf)) + 1;
  const stamp = at.toISOString().replace(/[:.]/g, '-');
  const name = `${String(number).padStart(8, '0')}-${stamp}-${note}.tar.gz`;
  const part = join(folder, `${name}.part`);
  try {
    const handle = openSync(part, 'w', 0o600);
    try {
      for (let done = 0; done < bytes.length;) {
        const wrote = write(handle, bytes, done, bytes.length - done);
        if (wrote === 0) throw new Error('the disk takes no more');
        done += wrote;
      }
      fsyncSync(handle);
    } finally {
      closeSync(handle);
    }
    const back = readFileSync(part);
    if (digest(back) !== digest(bytes))
      throw new Error(`${back.length} of ${bytes.length} bytes came back from the disk`);
    await checkDump(back);
    renameSync(part, join(folder, name));
    syncDirectory(folder);
  } catch (error) {
    rmSync(part, { force: true });
    throw new BackupFailed(folder, error instanceof Error ? error.message : String(error));
  }
  for (const old of before.slice(0, Math.max(0, before.length + 1 - KEPT))) rmSync(join(folder, old));
  return join(folder, name);
}
