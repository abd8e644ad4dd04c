import {
  chmodSync,
  closeSync,
  existsSync,
  fsyncSync,
  ftruncateSync,
  mkdirSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
  writeSync,
} from 'node:fs';
import { join } from 'node:path';
import { tryLock } from 'fs-native-extensions';

/**
 * The data directory of the embedded database:
 *
 * - `rounds.lock`: locked by the operating system for as long as a process has the directory open; says
 * which and how to reach it.
 * - `store/`: the database. It is made under another name and renamed when it is whole.
 * - `rounds.made`: says that a store was made here, so that a store that has gone missing is never taken
 * for a first start.
 * - `backups/`: dumps. `restore.json`: a restore that is to be finished.
 */
const LOCK = 'rounds.lock';
const MADE = 'rounds.made';
const RESTORE = 'restore.json';
const STORE = 'store';
const MAKING = 'store.making';
const RESTORING = 'store.restoring';
export const BACKUPS = 'backups';

/** How the process that holds a directory is asked for something. */
export interface Control {
  address: string;
  secret: string;
}

interface Holder {
  pid: number;
  control: Control | null;
}

/** Thrown when a second process opens a data directory. */
export class DirectoryTaken extends Error {
  constructor(
    directory: string,
    readonly holder: Holder | null,
  ) {
    const who = holder ? `process ${holder.pid}` : 'another process';
    super(
      `The data directory ${directory} is in use by ${who}. Only one process may open it: ` +
        'stop that one first, or give this one another directory with ROUNDS_DATA.',
    );
    this.name = 'DirectoryTaken';
  }
}

/** A data directory that this process holds. */
export interface HeldDirectory {
  path: string;
  /** Says how this process is reached; whoever may read the directory may ask. */
  announce: (control: Control) => void;
  release: () => void;
}

function writeWhole(handle: number, text: string): void {
  ftruncateSync(handle, 0);
  writeSync(handle, text, 0);
  fsyncSync(handle);
}

function readHolder(file: string): Holder | null {
  try {
    const said = JSON.parse(readFileSync(file, 'utf8')) as Holder | number;
    return typeof said === 'number' ? { pid: said, control: null } : said;
  } catch {
    return null;
  }
}

/**
 * A server of the version that wrote its bare number into the file and held no lock: whether it still runs.
 */
function earlierServerRuns(file: string): Holder | null {
  try {
    const said = readFileSync(file, 'utf8').trim();
    if (!/^\d+$/.test(said) || Number(said) === process.pid) return null;
    const command = readFileSync(`/proc/${said}/cmdline`, 'utf8');
    return command.includes('main.js') ? { pid: Number(said), control: null } : null;
  } catch {
    return null;
  }
}

/**
 * Takes a data directory for this process, making it where it is missing. The operating system gives the lock
 * back when the process ends, however it ends. Throws DirectoryTaken.
 */
export function holdDirectory(directory: string): HeldDirectory {
  mkdirSync(directory, { recursive: true, mode: 0o700 });
  chmodSync(directory, 0o700);
  const file = join(directory, LOCK);
  const earlier = earlierServerRuns(file);
  if (earlier) throw new DirectoryTaken(directory, earlier);
  const handle = openSync(file, 'a+', 0o600);
  if (!tryLock(handle)) {
    closeSync(handle);
    throw new DirectoryTaken(directory, readHolder(file));
  }
  chmodSync(file, 0o600);
  const say = (control: Control | null) => writeWhole(handle, JSON.stringify({ pid: process.pid, control }));
  say(null);
  return {
    path: directory,
    announce: say,
    release: () => closeSync(handle),
  };
}

/** Forces a directory's entries to disk, so that a rename in it lasts. */
export function syncDirectory(directory: string): void {
  const handle = openSync(directory, 'r');
  fsyncSync(handle);
  closeSync(handle);
}

/** Thrown when a directory held data once and its store is gone. */
export class StoreMissing extends Error {
  constructor(directory: string) {
    super(
      `${directory} held data once, but its store is missing, so nothing is started there: ` +
        'a new one would be open to the first visitor. ' +
        'Put the latest backup back with: npm run restore (it takes the newest file in ' +
        `${join(directory, BACKUPS)}). ` +
        'To begin anew, give an empty directory with ROUNDS_DATA.',
    );
    this.name = 'StoreMissing';
  }
}

/**
 * Brings a held directory into a state that can be opened: finishes a restore that was cut short, and makes
 * the store where there never was one. `make` is given the folder to make it in. Throws StoreMissing.
 */
export async function settleDirectory(
  directory: string,
  make: (folder: string) => Promise<void>,
): Promise<{ store: string; isNew: boolean }> {
  finishRestore(directory);
  const store = join(directory, STORE);
  if (existsSync(store)) {
    rmSync(join(directory, MAKING), { recursive: true, force: true });
    markMade(directory);
    return { store, isNew: false };
  }
  if (hadStore(directory)) throw new StoreMissing(directory);
  const making = join(directory, MAKING);
  rmSync(making, { recursive: true, force: true });
  await make(making);
  renameSync(making, store);
  syncDirectory(directory);
  markMade(directory);
  return { store, isNew: true };
}

function hadStore(directory: string): boolean {
  const backups = join(directory, BACKUPS);
  return (
    existsSync(join(directory, MADE)) ||
    (existsSync(backups) && readdirSync(backups).some((name) => name.endsWith('.tar.gz'))) ||
    readdirSync(directory).some((name) => name.startsWith('store.before-restore-'))
  );
}

function markMade(directory: string): void {
  const file = join(directory, MADE);
  if (!existsSync(file))
    writeFileSync(file, 'A store was made here. Do not remove this file.\n', { mode: 0o600 });
}

/** The folder a restore loads a dump into; empty. */
export function restoringFolder(directory: string): string {
  const folder = join(directory, RESTORING);
  rmSync(folder, { recursive: true, force: true });
  return folder;
}

/**
 * Puts a loaded and checked dump in the store's place; what was there is set aside. From here on a start
 * finishes what is cut short.
 */
export function installRestored(directory: string): string | null {
  const setAside = existsSync(join(directory, STORE)) ? `store.before-restore-${Date.now()}` : null;
  const file = join(directory, RESTORE);
  const handle = openSync(`${file}.part`, 'w', 0o600);
  writeWhole(handle, JSON.stringify({ setAside }));
  closeSync(handle);
  renameSync(`${file}.part`, file);
  syncDirectory(directory);
  finishRestore(directory);
  return setAside === null ? null : join(directory, setAside);
}

function finishRestore(directory: string): void {
  const file = join(directory, RESTORE);
  const [store, fresh] = [join(directory, STORE), join(directory, RESTORING)];
  if (existsSync(file)) {
    const { setAside } = JSON.parse(readFileSync(file, 'utf8')) as { setAside: string | null };
    if (existsSync(fresh)) {
      if (existsSync(store))
        renameSync(store, join(directory, setAside ?? `store.before-restore-${Date.now()}`));
      renameSync(fresh, store);
      syncDirectory(directory);
      markMade(directory);
    }
    rmSync(file);
    syncDirectory(directory);
  }
  // Without its note a loaded dump was not whole yet.
  rmSync(fresh, { recursive: true, force: true });
}
