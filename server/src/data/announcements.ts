import { AsyncLocalStorage } from 'node:async_hooks';
import { and, asc, eq, gt, lt, sql } from 'drizzle-orm';
import type { Database, Store } from './database';
import { announcement } from './schema';

/** Something that happened under a topic. */
interface Announcement {
  id: number;
  data: unknown;
}

/** The channel of the database over which the servers of an installation wake each other. */
const CHANNEL = 'rounds_announcement';
/** Announcements are kept this long, for listeners that were away. */
const KEPT_HOURS = 24;
/** Every so many announcements the old ones are let go. */
const PRUNE_EVERY = 500;

/** What the transaction under way will announce when it is committed. */
export const pending = new AsyncLocalStorage<{ topic: string; data: unknown }[]>();

/**
 * Announces something under a topic when, and only when, the transaction that this is called in is
 * committed. Throws outside a transaction.
 */
export function announce(topic: string, data: unknown): void {
  const list = pending.getStore();
  if (!list) throw new Error(`"${topic}" was announced outside a transaction`);
  list.push({ topic, data });
}

/** Announces something that belongs to the transaction under way, if there is one. */
export function announceWithin(topic: string, data: unknown): void {
  pending.getStore()?.push({ topic, data });
}

/**
 * Writes what a transaction announces, as its last act. The lock makes ids go in the order of commits, so
 * that who has read up to one has missed none before it.
 */
export async function writeAnnouncements(
  db: Database,
  list: readonly { topic: string; data: unknown }[],
): Promise<void> {
  const distinct = [...new Map(list.map((each) => [JSON.stringify(each), each])).values()];
  if (distinct.length === 0) return;
  await db.execute(sql`select pg_advisory_xact_lock(hashtextextended('announcements', 727))`);
  const written = await db.insert(announcement).values(distinct).returning({ id: announcement.id });
  for (const topic of new Set(distinct.map((each) => each.topic)))
    await db.execute(sql`select pg_notify(${CHANNEL}, ${topic})`);
  if (written.some((each) => each.id % PRUNE_EVERY === 0))
    await db
      .delete(announcement)
      .where(lt(announcement.at, sql`now() - make_interval(hours => ${KEPT_HOURS})`));
}

interface Listener {
  topic: string;
  last: number;
  hear: (heard: Announcement) => void;
  reading: boolean;
  again: boolean;
}

/** Hands announcements on to who listens in this process, from whichever server they came. */
export interface Hub {
  /**
   * Hears a topic from now on, or from after the announcement `since`. Answers the id to go on from later,
   * and how to stop.
   */
  listen(
    topic: string,
    since: number | null,
    hear: (heard: Announcement) => void,
  ): Promise<{ from: number; stop: () => void }>;
  /** Called when the hub closes, for what must end with it. */
  whenClosed(end: () => void): () => void;
  close(): Promise<void>;
}

/** A hub over a store. It listens to the database from the first listener on. */
export function openHub(store: Store): Hub {
  const listeners = new Set<Listener>();
  const endings = new Set<() => void>();
  let waking: Promise<() => Promise<void>> | null = null;
  let closed = false;

  async function read(listener: Listener): Promise<void> {
    listener.again = true;
    if (listener.reading) return;
    listener.reading = true;
    try {
      while (listener.again && listeners.has(listener)) {
        listener.again = false;
        const found = await store.db
          .select({ id: announcement.id, data: announcement.data })
          .from(announcement)
          .where(and(eq(announcement.topic, listener.topic), gt(announcement.id, listener.last)))
          .orderBy(asc(announcement.id))
          .limit(500);
        for (const each of found) {
          if (!listeners.has(listener)) return;
          listener.last = each.id;
          listener.hear(each);
        }
        if (found.length === 500) listener.again = true;
      }
    } catch (error) {
      // The store is closing, or its connection broke: the next announcement or listener reads again.
      if (!closed) console.error('announcements could not be read:', (error as Error).name);
    } finally {
      listener.reading = false;
    }
  }
  const wake = (topic: string | null) => {
    for (const each of listeners) if (topic === null || each.topic === topic) void read(each);
  };

  return {
    async listen(topic, since, hear) {
      await (waking ??= store.listen(CHANNEL, wake));
      const [newest] = await store.db
        .select({ id: sql<number>`coalesce(max(${announcement.id}), 0)::int` })
        .from(announcement);
      const from = since ?? newest?.id ?? 0;
      const listener: Listener = { topic, last: from, hear, reading: false, again: false };
      listeners.add(listener);
      void read(listener);
      return { from, stop: () => void listeners.delete(listener) };
    },
    whenClosed(end) {
      endings.add(end);
      return () => void endings.delete(end);
    },
    async close() {
      closed = true;
      for (const end of [...endings]) end();
      listeners.clear();
      const stop = await waking;
      waking = null;
      await stop?.();
    },
  };
}
