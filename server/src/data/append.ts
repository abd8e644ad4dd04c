import type { Caller } from '../accounts/access';
import { ProblemError } from '../http/problem';
import { announceWithin } from './announcements';
import { type AuditLine, noteAll } from './context';
import type { Database } from './database';

/**
 * A kind of record that only ever grows: how one of its streams is locked, read, checked, written and
 * projected. `Held` is where a stream stands, folded from its events.
 */
export interface StreamKind<Key, Held, Event extends { id: string }> {
  /** Takes the stream's lock for the rest of the transaction and reads where it stands. */
  hold(db: Database, key: Key): Promise<Held>;
  /** Which of these events are recorded already, and whether in this stream or in another. */
  recorded(db: Database, key: Key, ids: readonly string[]): Promise<Map<string, 'here' | 'elsewhere'>>;
  /** Checks one event against where the stream stands and takes it in. Throws the problem that refuses it. */
  take(held: Held, event: Event): void;
  /** Writes events that were taken in. Answers how many were new to the table. */
  write(db: Database, key: Key, events: readonly Event[], caller: Caller): Promise<number>;
  /**
   * Brings what is kept beside the events for lists into line, and does what follows from them. Answers
   * their audit lines.
   */
  project(db: Database, key: Key, held: Held, taken: readonly Event[], caller: Caller): Promise<AuditLine[]>;
  /** The stream's name for those who listen. */
  name(key: Key): string;
}

const elsewhere = () =>
  new ProblemError(
    'event-elsewhere',
    'This was recorded under another heading already, so it was not recorded again. ' +
      'Nothing of this send was saved.',
  );

/**
 * Adds events to a stream, each once by its id: lock, dedupe, check, write, project, announce, audit, all in
 * the given transaction. A repeated send is harmless. Answers where the stream stands.
 */
export async function append<Key, Held, Event extends { id: string }>(
  db: Database,
  kind: StreamKind<Key, Held, Event>,
  key: Key,
  incoming: readonly Event[],
  caller: Caller,
): Promise<Held> {
  const held = await kind.hold(db, key);
  const distinct = [...new Map(incoming.map((each) => [each.id, each])).values()];
  const known = await kind.recorded(
    db,
    key,
    distinct.map((each) => each.id),
  );
  if ([...known.values()].includes('elsewhere')) throw elsewhere();
  const fresh = distinct.filter((each) => !known.has(each.id));
  if (fresh.length === 0) return held;
  for (const event of fresh) kind.take(held, event);
  if ((await kind.write(db, key, fresh, caller)) < fresh.length) throw elsewhere();
  await noteAll(db, caller, await kind.project(db, key, held, fresh, caller));
  announceWithin(kind.name(key), { events: fresh.length });
  return held;
}
