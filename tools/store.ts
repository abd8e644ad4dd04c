/** `npm run backup [-- demo]` and `npm run restore -- FILE [demo]`: dump the embedded database, or put a dump back and check that it opens. */
import { existsSync, readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { directoryHolder, openStore, restoreStore } from '../server/src/index';

const root = join(import.meta.dirname, '..');
const [command, ...rest] = process.argv.slice(2);
const directory = process.env['ROUNDS_DATA'] ?? join(root, '.data', rest.includes('demo') ? 'demo' : 'main');
const backups = join(directory, 'backups');
const newest = () =>
  existsSync(backups)
    ? (readdirSync(backups)
        .filter((name) => name.endsWith('.tar.gz'))
        .sort()
        .at(-1) ?? null)
    : null;

async function backup(): Promise<void> {
  if (!existsSync(directory)) throw new Error(`There is no data in ${directory}.`);
  const holder = directoryHolder(directory);
  if (holder === null) {
    const store = await openStore({ directory, migrations: join(root, 'server', 'migrations') });
    console.log(`Backup written: ${await store.backup!('asked')}`);
    await store.close();
    return;
  }
  // The running server has the database open, so it writes the dump itself.
  const before = newest();
  process.kill(holder, 'SIGUSR2');
  for (let i = 0; i < 300; i++) {
    await new Promise((resolve) => setTimeout(resolve, 200));
    const now = newest();
    if (now !== null && now !== before) {
      console.log(`Backup written by the running server: ${join(backups, now)} (${Math.round(statSync(join(backups, now)).size / 1024)} kB)`);
      return;
    }
  }
  throw new Error(`The server (process ${holder}) wrote no backup within a minute; see its log.`);
}

async function restore(): Promise<void> {
  const file = rest.find((each) => each !== 'demo');
  if (!file) throw new Error('usage: npm run restore -- FILE [demo]');
  if (!existsSync(file)) throw new Error(`There is no file ${file}.`);
  const { setAside, counts } = await restoreStore(directory, file);
  console.log(
    `Restored and opened: ${Object.entries(counts)
      .map(([table, n]) => `${n} ${table.replace('_', ' ')}`)
      .join(', ')}.`,
  );
  if (setAside) console.log(`What was there before is kept in ${setAside}.`);
}

try {
  if (process.env['DATABASE_URL']) throw new Error('DATABASE_URL points at a PostgreSQL server: use pg_dump and pg_restore there.');
  if (command === 'backup') await backup();
  else if (command === 'restore') await restore();
  else throw new Error('usage: npm run backup, or npm run restore -- FILE');
} catch (error) {
  console.error(error instanceof Error ? error.message : error);
  process.exitCode = 1;
}
