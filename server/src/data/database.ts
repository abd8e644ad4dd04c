import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import { PGlite } from '@electric-sql/pglite';
import { sql } from 'drizzle-orm';
import { drizzle as drizzlePg } from 'drizzle-orm/node-postgres';
import { migrate as migratePg } from 'drizzle-orm/node-postgres/migrator';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle as drizzlePglite } from 'drizzle-orm/pglite';
import { migrate as migratePglite } from 'drizzle-orm/pglite/migrator';
import pg from 'pg';
import { backupsIn, checkDump, writeBackup } from './backup';
import {
  BACKUPS,
  type Control,
  holdDirectory,
  installRestored,
  restoringFolder,
  settleDirectory,
} from './dataDirectory';
import { emptyCluster } from './emptyCluster';
import * as schema from './schema';

export type Database = PgDatabase<PgQueryResultHKT, typeof schema>;

/** A statement with its values, past Drizzle. */
type Query = (text: string, values: unknown[]) => Promise<{ rows: Record<string, unknown>[] }>;

/**
 * An open store. `backup` and `announce` are null on a PostgreSQL server, which has its own tools for that.
 */
export interface Store {
  db: Database;
  query: Query;
  /**
   * Hears notifications of a channel of the database, from any server: their text, or null when some may have
   * been missed. Answers how to stop.
   */
  listen: (channel: string, hear: (text: string | null) => void) => Promise<() => Promise<void>>;
  /** Where the data is, for people. */
  place: string;
  backup: ((note: string) => Promise<string>) | null;
  /** Says in the data directory how this process is reached. */
  announce: ((control: Control) => void) | null;
  close: () => Promise<void>;
}

const zip = promisify(gzip);
/** Advisory lock under which migrations run on a PostgreSQL server. */
const MIGRATION_LOCK = 727001;

/**
 * Opens the store: PostgreSQL when a URL is given, else PGlite in `directory` (in memory when null). Runs
 * migrations inside a lock, after a dump where data exists.
 */
export async function openStore(options: {
  url?: string | undefined;
  directory: string | null;
  migrations: string;
}): Promise<Store> {
  if (options.url) return openPostgres(options.url, options.migrations);
  if (options.directory !== null) return openDirectory(resolve(options.directory), options.migrations);
  const client = await PGlite.create(emptyCluster());
  const db = drizzlePglite(client, { schema });
  await migratePglite(db, { migrationsFolder: options.migrations });
  return {
    db,
    query: (text, values) => client.query(text, values),
    listen: (channel, hear) => client.listen(channel, hear),
    place: 'memory',
    backup: null,
    announce: null,
    close: () => client.close(),
  };
}

async function openPostgres(url: string, migrations: string): Promise<Store> {
  const pool = new pg.Pool({ connectionString: url, max: 10 });
  // A connection that breaks while idle is replaced; without a listener it would end the process.
  pool.on('error', () => undefined);
  const db = drizzlePg(pool, { schema });
  const lock = await pool.connect();
  try {
    await lock.query('select pg_advisory_lock($1)', [MIGRATION_LOCK]);
    await migratePg(db, { migrationsFolder: migrations });
  } finally {
    await lock.query('select pg_advisory_unlock($1)', [MIGRATION_LOCK]).catch(() => undefined);
    lock.release();
  }
  return {
    db,
    query: (text, values) => pool.query(text, values),
    listen: (channel, hear) => listenOnServer(url, channel, hear),
    place: new URL(url).host,
    backup: null,
    announce: null,
    close: () => pool.end(),
  };
}

/** Wait before a broken connection for notifications is made again, in milliseconds. */
const RECONNECT = 1000;

/** Hears a channel of a PostgreSQL server over a connection of its own, made again when it breaks. */
async function listenOnServer(
  url: string,
  channel: string,
  hear: (text: string | null) => void,
): Promise<() => Promise<void>> {
  let stopped = false;
  let client: pg.Client | null = null;
  async function connect(): Promise<void> {
    const fresh = new pg.Client({ connectionString: url });
    fresh.on('notification', (told) => hear(told.payload ?? null));
    fresh.on('error', () => undefined);
    fresh.on('end', again);
    await fresh.connect();
    await fresh.query(`listen ${pg.escapeIdentifier(channel)}`);
    client = fresh;
  }
  function again(): void {
    if (stopped) return;
    setTimeout(() => {
      if (!stopped) connect().then(() => hear(null), again);
    }, RECONNECT).unref();
  }
  await connect();
  return async () => {
    stopped = true;
    await client?.end();
  };
}

/** Thrown when a store does not open. */
export class StoreUnreadable extends Error {
  constructor(directory: string, why: string) {
    const newest = backupsIn(join(directory, BACKUPS)).at(-1);
    super(
      `The database in ${directory} does not open (${why}). It is left as it is. ` +
        (newest
          ? `Put the latest backup back with: npm run restore -- ${join(directory, BACKUPS, newest)}`
          : 'There is no backup in it; give another directory with ROUNDS_DATA.'),
    );
    this.name = 'StoreUnreadable';
  }
}

async function openDirectory(directory: string, migrations: string): Promise<Store> {
  const held = holdDirectory(directory);
  try {
    const { store } = await settleDirectory(directory, async (folder) => {
      const making = await PGlite.create({ dataDir: folder, ...emptyCluster() });
      await migratePglite(drizzlePglite(making, { schema }), { migrationsFolder: migrations });
      await making.close();
    });
    const client = await PGlite.create({ dataDir: store }).catch((error: unknown) => {
      throw new StoreUnreadable(directory, error instanceof Error ? error.message : String(error));
    });
    const db = drizzlePglite(client, { schema });
    const backup = async (note: string) =>
      writeBackup(await dump(client), join(directory, BACKUPS), note, new Date());
    if (await migrationsPending(db, migrations)) {
      await backup('before-migration');
      await migratePglite(db, { migrationsFolder: migrations });
    }
    return {
      db,
      query: (text, values) => client.query(text, values),
      listen: (channel, hear) => client.listen(channel, hear),
      place: directory,
      backup,
      announce: held.announce,
      close: async () => {
        await client.close();
        held.release();
      },
    };
  } catch (error) {
    held.release();
    throw error;
  }
}

/** The whole database as a compressed archive; the compressing is done off the main thread. */
async function dump(client: PGlite): Promise<Buffer> {
  return zip(Buffer.from(await (await client.dumpDataDir('none')).arrayBuffer()), { level: 3 });
}

async function migrationsPending(db: Database, folder: string): Promise<boolean> {
  const journal = JSON.parse(readFileSync(join(folder, 'meta', '_journal.json'), 'utf8')) as {
    entries: unknown[];
  };
  const result = (await db.execute(
    sql`select count(*)::int as n from drizzle.__drizzle_migrations`,
  )) as unknown as { rows: { n: number }[] };
  return (result.rows[0]?.n ?? 0) < journal.entries.length;
}

/**
 * Restores a dump: loads it beside the store, checks that it opens, and puts it in the store's place, which
 * is set aside. Cut short at any moment, the next start finds the old store or the new one. Returns rows per
 * table. Throws DirectoryTaken, or an error that names the file.
 */
export async function restoreStore(
  directory: string,
  file: string,
): Promise<{ setAside: string | null; counts: Record<string, number> }> {
  const held = holdDirectory(resolve(directory));
  try {
    const bytes = readFileSync(file);
    await checkDump(bytes).catch((error: unknown) => {
      throw new Error(
        `${file} is not a whole backup ` +
          `(${error instanceof Error ? error.message : String(error)}). Nothing was changed; ` +
          'take another one.',
      );
    });
    const fresh = restoringFolder(held.path);
    const client = await PGlite.create({ dataDir: fresh, loadDataDir: new Blob([bytes]) });
    const counts: Record<string, number> = {};
    for (const table of [
      'person',
      'account',
      'evaluation',
      'evaluation_event',
      'certification_event',
      'certificate',
    ])
      counts[table] = (
        (await client.query(`select count(*)::int as n from ${table}`)).rows[0] as { n: number }
      ).n;
    await client.close();
    return { setAside: installRestored(held.path), counts };
  } finally {
    held.release();
  }
}
