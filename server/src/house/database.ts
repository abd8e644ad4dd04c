import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, readdirSync, renameSync, rmSync, writeSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { sql } from 'drizzle-orm';
import { drizzle as drizzlePg } from 'drizzle-orm/node-postgres';
import { migrate as migratePg } from 'drizzle-orm/node-postgres/migrator';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle as drizzlePglite } from 'drizzle-orm/pglite';
import { migrate as migratePglite } from 'drizzle-orm/pglite/migrator';
import pg from 'pg';
import * as schema from './schema';

export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;

/** An open store. `backup` is null on a PostgreSQL server, which has its own tools for that. */
export interface Store {
  db: Database;
  /** Where the data is, for people. */
  place: string;
  backup: ((note: string) => Promise<string>) | null;
  close: () => Promise<void>;
}

/** Thrown when a second process opens a data directory. */
export class DirectoryTaken extends Error {
  constructor(directory: string, pid: number) {
    super(
      `The data directory ${directory} is in use by process ${pid}. Only one process may open it: stop that one first, or give this one another directory with ROUNDS_DATA.`,
    );
    this.name = 'DirectoryTaken';
  }
}

const LOCK = 'rounds.lock';
const KEPT_BACKUPS = 12;

function alive(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/** The process that holds a data directory, or null. */
export function directoryHolder(directory: string): number | null {
  try {
    const pid = Number(readFileSync(join(directory, LOCK), 'utf8'));
    return Number.isInteger(pid) && pid > 0 && alive(pid) ? pid : null;
  } catch {
    return null;
  }
}

/** Takes the lock file of a directory; a lock left by a dead process is replaced. Throws DirectoryTaken. */
function takeLock(directory: string): () => void {
  const file = join(directory, LOCK);
  for (let attempt = 0; attempt < 2; attempt++) {
    try {
      const handle = openSync(file, 'wx');
      writeSync(handle, String(process.pid));
      closeSync(handle);
      return () => rmSync(file, { force: true });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      const holder = directoryHolder(directory);
      if (holder !== null) throw new DirectoryTaken(directory, holder);
      rmSync(file, { force: true });
    }
  }
  throw new DirectoryTaken(directory, 0);
}

/** Opens the store: PostgreSQL when a URL is given, else PGlite in `directory` (in memory when null). Runs migrations inside a lock, after a dump where data exists. */
export async function openStore(options: { url?: string | undefined; directory: string | null; migrations: string }): Promise<Store> {
  if (options.url) {
    const pool = new pg.Pool({ connectionString: options.url, max: 10 });
    const db = drizzlePg(pool, { schema });
    const lock = await pool.connect();
    try {
      await lock.query('select pg_advisory_lock(727001)');
      await migratePg(db, { migrationsFolder: options.migrations });
    } finally {
      await lock.query('select pg_advisory_unlock(727001)').catch(() => undefined);
      lock.release();
    }
    return { db, place: new URL(options.url).host, backup: null, close: () => pool.end() };
  }
  if (options.directory === null) {
    const client = await PGlite.create();
    const db = drizzlePglite(client, { schema });
    await migratePglite(db, { migrationsFolder: options.migrations });
    return { db, place: 'memory', backup: null, close: () => client.close() };
  }
  const directory = resolve(options.directory);
  mkdirSync(directory, { recursive: true });
  const release = takeLock(directory);
  try {
    const existed = existsSync(join(directory, 'store', 'PG_VERSION'));
    const client = await PGlite.create({ dataDir: join(directory, 'store') });
    const db = drizzlePglite(client, { schema });
    const backup = (note: string) => dump(client, directory, note);
    if (existed && (await migrationsPending(db, options.migrations))) await backup('before-migration');
    await migratePglite(db, { migrationsFolder: options.migrations });
    return {
      db,
      place: directory,
      backup,
      close: async () => {
        await client.close();
        release();
      },
    };
  } catch (error) {
    release();
    throw error;
  }
}

async function migrationsPending(db: Database, folder: string): Promise<boolean> {
  const journal = JSON.parse(readFileSync(join(folder, 'meta', '_journal.json'), 'utf8')) as { entries: unknown[] };
  const result = (await db.execute(sql`select count(*)::int as n from drizzle.__drizzle_migrations`)) as unknown as { rows: { n: number }[] };
  return (result.rows[0]?.n ?? 0) < journal.entries.length;
}

/** Writes a full dump beside the store, forces it to disk, and keeps the newest few. Returns the file. */
async function dump(client: PGlite, directory: string, note: string): Promise<string> {
  const folder = join(directory, 'backups');
  mkdirSync(folder, { recursive: true });
  const bytes = Buffer.from(await (await client.dumpDataDir('gzip')).arrayBuffer());
  const file = join(folder, `${new Date().toISOString().replace(/[:.]/g, '-')}-${note}.tar.gz`);
  const handle = openSync(`${file}.part`, 'w');
  writeSync(handle, bytes);
  fsyncSync(handle);
  closeSync(handle);
  renameSync(`${file}.part`, file);
  const old = readdirSync(folder)
    .filter((name) => name.endsWith('.tar.gz'))
    .sort();
  for (const name of old.slice(0, Math.max(0, old.length - KEPT_BACKUPS))) rmSync(join(folder, name));
  return file;
}

/** Restores a dump into an empty or set-aside directory and checks that it opens. Returns rows per table. Throws when the directory is in use. */
export async function restoreStore(directory: string, file: string): Promise<{ setAside: string | null; counts: Record<string, number> }> {
  mkdirSync(directory, { recursive: true });
  const release = takeLock(directory);
  const store = join(directory, 'store');
  const fresh = join(directory, 'store.restoring');
  try {
    rmSync(fresh, { recursive: true, force: true });
    const client = await PGlite.create({ dataDir: fresh, loadDataDir: new Blob([readFileSync(file)]) });
    const counts: Record<string, number> = {};
    for (const table of ['person', 'account', 'evaluation', 'evaluation_event', 'certification_event', 'certificate'])
      counts[table] = ((await client.query(`select count(*)::int as n from ${table}`)).rows[0] as { n: number }).n;
    await client.close();
    let setAside: string | null = null;
    if (existsSync(store)) {
      setAside = join(directory, `store.before-restore-${Date.now()}`);
      renameSync(store, setAside);
    }
    renameSync(fresh, store);
    return { setAside, counts };
  } finally {
    rmSync(fresh, { recursive: true, force: true });
    release();
  }
}
