import { randomBytes } from 'node:crypto';
import type { AuditAct } from '@rounds/contract';
import { localDate, type PlainDate } from '@rounds/core/calendar';
import { eq, sql } from 'drizzle-orm';
import { type Limits, limitsOn } from '../http/limits';
import { openPool, type Pool, progressTopic } from '../jobs/pool';
import { announce, announceWithin, type Hub, openHub, pending, writeAnnouncements } from './announcements';
import { areasOfAct } from './changes';
import type { Database, Store } from './database';
import { audit, setting } from './schema';

/** What every area works with. `now` is the only clock. */
export interface House {
  store: Store;
  db: Database;
  now: () => Date;
  demo: boolean;
  /** Address for links in PDFs, null to take the request's own. */
  publicUrl: string | null;
  limits: Limits;
  /**
   * Streams give a sign of life this often, in milliseconds, and it is seen whether the session still lasts.
   */
  heartbeat: number;
  /** Worker threads for what would hold up other requests. */
  pool: Pool;
  /** Hands on what happens, from any server of the installation. */
  hub: Hub;
  /** What a process of this computer shows to be let in at /control and, from elsewhere, at /metrics. */
  controlSecret: string;
  metricsToken: string | null;
  /**
   * What this process remembers of the database: the time zone once it is set, and the date that standings
   * were last made for.
   */
  known: { timeZone: string | null; standingsFor: PlainDate | null };
}

/** A house over an open store. */
export function openHouse(
  store: Store,
  options: Partial<Pick<House, 'now' | 'demo' | 'publicUrl' | 'metricsToken' | 'pool' | 'heartbeat'>> = {},
): House {
  const db = outsideTransactions(store.db);
  return {
    store,
    db,
    now: options.now ?? (() => new Date()),
    demo: options.demo ?? false,
    publicUrl: options.publicUrl ?? null,
    limits: limitsOn(store),
    heartbeat: options.heartbeat ?? 15_000,
    pool:
      options.pool ??
      openPool(({ id, accountId }, progress) => {
        // Progress is worth telling, never worth failing for.
        db.transaction(async () => announce(progressTopic(accountId, id), progress)).catch(() => undefined);
      }),
    hub: openHub(store),
    controlSecret: randomBytes(24).toString('base64url'),
    metricsToken: options.metricsToken ?? null,
    known: { timeZone: null, standingsFor: null },
  };
}

/**
 * The database with a guard: what runs within a transaction must use the transaction, or it would wait for
 * itself for ever where there is one connection, and see another state where there are many.
 */
function outsideTransactions(db: Database): Database {
  return new Proxy(db, {
    get(target, name, receiver) {
      const member = Reflect.get(target, name, receiver) as unknown;
      if (typeof member !== 'function') return member;
      if (pending.getStore())
        throw new Error(
          `"${String(name)}" was asked of the database within a transaction; ask the transaction`,
        );
      if (name !== 'transaction') return member.bind(target) as unknown;
      return (work: (tx: Database) => Promise<unknown>, ...rest: unknown[]) =>
        (member as (...given: unknown[]) => unknown).call(
          target,
          (tx: Database) =>
            pending.run([], async () => {
              const done = await work(tx);
              await writeAnnouncements(tx, pending.getStore()!);
              return done;
            }),
          ...rest,
        );
    },
  });
}

export async function readSetting<T>(db: Database, key: string, fallback: T): Promise<T> {
  const [row] = await db.select().from(setting).where(eq(setting.key, key));
  return row ? (row.value as T) : fallback;
}

export async function writeSetting(db: Database, key: string, value: unknown): Promise<void> {
  await db.insert(setting).values({ key, value }).onConflictDoUpdate({ target: setting.key, set: { value } });
}

export async function siteTimeZone(house: House): Promise<string> {
  // It is set once, with the first administrator.
  house.known.timeZone ??= await readSetting<string | null>(house.db, 'time-zone', null);
  return house.known.timeZone ?? 'UTC';
}

/** Today where the site is. */
export async function siteToday(house: House): Promise<PlainDate> {
  return localDate(house.now().toISOString(), await siteTimeZone(house));
}

/** Waits until no other transaction holds the lock of this name, and holds it to the end of this one. */
export async function lock(db: Database, name: string): Promise<void> {
  await db.execute(sql`select pg_advisory_xact_lock(hashtextextended(${name}, 727))`);
}

/** Waits until no other transaction holds the lock of this name for itself; others may share it. */
export async function lockShared(db: Database, name: string): Promise<void> {
  await db.execute(sql`select pg_advisory_xact_lock_shared(hashtextextended(${name}, 727))`);
}

/** The topic under which it is told which areas of the data change. */
export const CHANGES = 'changes';

/** What an audit line is about. Details hold no passwords, tokens or signatures. */
export interface AuditLine {
  act: AuditAct;
  subject: string;
  detail?: unknown;
}

/** Adds a line to the audit trail; `db` is the transaction of the write it stands for. */
export async function note(
  db: Database,
  caller: { id: string } | null,
  act: AuditAct,
  subject: string,
  detail: unknown = null,
): Promise<void> {
  await noteAll(db, caller, [{ act, subject, detail }]);
}

/** Adds several lines to the audit trail. */
export async function noteAll(
  db: Database,
  caller: { id: string } | null,
  lines: readonly AuditLine[],
): Promise<void> {
  if (lines.length === 0) return;
  const areas = [...new Set(lines.flatMap((each) => areasOfAct(each.act)))].sort();
  if (areas.length > 0) announceWithin(CHANGES, { areas });
  await db.insert(audit).values(
    lines.map(({ act, subject, detail }) => ({
      accountId: caller?.id ?? null,
      act,
      subject,
      detail: detail ?? null,
    })),
  );
}

/** The fields that differ between two states of a row, each with what was and what is. */
export function changesBetween(
  before: object,
  after: object,
): Record<string, { before: unknown; after: unknown }> {
  const [was, is] = [before as Record<string, unknown>, after as Record<string, unknown>];
  const differs = Object.keys(is).filter(
    (key) => JSON.stringify(was[key] ?? null) !== JSON.stringify(is[key] ?? null),
  );
  return Object.fromEntries(
    differs.map((key) => [key, { before: was[key] ?? null, after: is[key] ?? null }]),
  );
}
