/**
 * `npm run backup [-- demo]`, `npm run restore [-- FILE] [demo]` and `npm run rebuild [-- demo]`: dump the
 * embedded database, put a dump back and check that it opens, or make the standings anew from their events.
 */
import { existsSync, statSync } from 'node:fs';
import { join } from 'node:path';
import {
  backupsIn,
  DirectoryTaken,
  openHouse,
  openStore,
  projectStandings,
  restoreStore,
  standingsToday,
} from '../server/src/index';

process.umask(0o077);
const root = join(import.meta.dirname, '..');
const [command, ...rest] = process.argv.slice(2);
const directory = process.env['ROUNDS_DATA'] ?? join(root, '.data', rest.includes('demo') ? 'demo' : 'main');
const backups = join(directory, 'backups');
const migrations = join(root, 'server', 'migrations');

const kilobytes = (file: string) =>
  `${file} (${Math.round(statSync(file).size / 1024)} kB, read back and checked)`;

async function backup(): Promise<void> {
  if (!existsSync(directory)) throw new Error(`There is no data in ${directory}.`);
  try {
    const store = await openStore({ directory, migrations });
    console.log(`Backup written: ${kilobytes(await store.backup!('asked'))}`);
    await store.close();
  } catch (error) {
    if (!(error instanceof DirectoryTaken)) throw error;
    await askServer(error);
  }
}

/**
 * The running server has the database open, so it writes the dump itself. It is known by the secret that it
 * left in its directory.
 */
async function askServer(taken: DirectoryTaken): Promise<void> {
  const control = taken.holder?.control;
  if (!control)
    throw new Error(
      `${taken.message} It is still starting or is not a server; try again, or stop it and ` +
        'run npm run backup.',
    );
  const answer = await fetch(`${control.address}/control/backup`, {
    method: 'POST',
    headers: { 'x-rounds-control': control.secret },
  });
  const said = (await answer.json()) as { file?: string; detail?: string };
  if (!said.file) throw new Error(said.detail ?? `The server answered ${answer.status} and wrote no backup.`);
  console.log(`Backup written by the running server: ${kilobytes(said.file)}`);
}

async function restore(): Promise<void> {
  const newest = backupsIn(backups).at(-1);
  const file = rest.find((each) => each !== 'demo') ?? (newest ? join(backups, newest) : null);
  if (file === null) throw new Error(`There is no backup in ${backups}. Name one: npm run restore -- FILE`);
  if (!existsSync(file)) throw new Error(`There is no file ${file}.`);
  console.log(`Restoring ${file} ...`);
  const { setAside, counts } = await restoreStore(directory, file);
  console.log(
    `Restored and opened: ${Object.entries(counts)
      .map(([table, n]) => `${n} ${table.replace('_', ' ')}`)
      .join(', ')}.`,
  );
  if (setAside) console.log(`What was there before is kept in ${setAside}.`);
}

async function rebuild(): Promise<void> {
  const store = await openStore({ url: process.env['DATABASE_URL'], directory, migrations });
  const house = openHouse(store);
  const today = await standingsToday(house);
  const made = await house.db.transaction((db) => projectStandings(db, today));
  console.log(`${made} standings made anew as of ${today}.`);
  await store.close();
}

try {
  if (command === 'rebuild') await rebuild();
  else if (process.env['DATABASE_URL'])
    throw new Error('DATABASE_URL points at a PostgreSQL server: use pg_dump and pg_restore there.');
  else if (command === 'backup') await backup();
  else if (command === 'restore') await restore();
  else throw new Error('usage: npm run backup, npm run restore -- FILE, or npm run rebuild');
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exitCode = 1;
}
