import 'fake-indexeddb/auto';
import { seededRandom } from '@rounds/core/statistics';
import Dexie from 'dexie';
import { afterEach, describe, expect, it } from 'vitest';
import { DeviceDatabase } from './db';
import { Outbox, SendError, type Refusal, type World } from './outbox';
import { seal, unseal } from './vault';

interface Note {
  id: string;
  at: string;
  words: string;
}

/** A server that keeps streams, one tap once, and misbehaves as it is told. */
class FakeServer {
  streams = new Map<string, { id: string; by: string; words: string }[]>();
  signedIn: string | null = null;
  mood: 'well' | 'fails' | 'away' | 'busy' | 'loses answers' = 'well';
  holder: string | null = null;
  now = Date.UTC(2026, 5, 1, 8);

  answer(account: string, stream: string, taps: readonly Note[]): { accepted: string[] } {
    const refuse = (status: number, code: string): never => {
      throw new SendError({ status, code, detail: code });
    };
    if (this.mood === 'away') refuse(0, 'offline');
    if (this.mood === 'fails') refuse(500, 'unexpected');
    if (this.mood === 'busy') refuse(503, 'busy');
    if (this.signedIn === null) refuse(401, 'not-signed-in');
    if (this.signedIn !== account) refuse(403, 'wrong-account');
    if (this.holder !== null && this.holder !== account) refuse(409, 'evaluation-held');
    if (taps.some((each) => each.words.startsWith('poison'))) refuse(500, 'unexpected');
    if (taps.some((each) => each.words.startsWith('nonsense'))) refuse(422, 'invalid');
    if (taps.some((each) => Date.parse(each.at) > this.now + 300_000)) refuse(422, 'clock-off');
    const list = this.streams.get(stream) ?? [];
    this.streams.set(stream, list);
    for (const { id, words } of taps)
      if (!list.some((each) => each.id === id)) list.push({ id, by: this.signedIn!, words });
    if (this.mood === 'loses answers') refuse(0, 'offline');
    return { accepted: taps.map((each) => each.id) };
  }
}

/** Timers that a test lets run out. */
class Timers {
  private readonly due = new Set<{ delay: number; then: () => void }>();
  delays: number[] = [];
  later = (delay: number, then: () => void) => {
    const entry = { delay, then };
    this.due.add(entry);
    this.delays.push(delay);
    return () => void this.due.delete(entry);
  };
  get waiting(): number {
    return this.due.size;
  }
  run(): void {
    const now = [...this.due];
    this.due.clear();
    for (const each of now) each.then();
  }
}

const databases: DeviceDatabase[] = [];
afterEach(async () => {
  const opened = databases.splice(0);
  for (const each of opened) each.close();
  for (const name of new Set(opened.map((each) => each.name))) await Dexie.delete(name);
});
let serial = 0;
function openDatabase(name = `outbox-${(serial += 1)}`): DeviceDatabase {
  const database = new DeviceDatabase(name);
  databases.push(database);
  return database;
}
const keyOf = (account: string) => new Uint8Array(32).fill(account.charCodeAt(0));

function open(server: FakeServer, database: DeviceDatabase, timers = new Timers(), offset = { offset: 0 }) {
  const locks = new Map<string, Promise<void>>();
  const world: World<Note, { accepted: string[] }> = {
    send: async (account, stream, taps) => {
      await Promise.resolve();
      return server.answer(account, stream, taps);
    },
    clock: offset,
    later: timers.later,
    alone(name, work) {
      const next = (locks.get(name) ?? Promise.resolve()).then(work);
      locks.set(
        name,
        next.catch(() => undefined),
      );
      return next;
    },
    changed: () => undefined,
  };
  return { outbox: new Outbox(database, world), timers, offset };
}

let ids = 0;
const note = (words: string, at = new Date(Date.UTC(2026, 5, 1, 8)).toISOString()): Note => ({
  id: `tap-${(ids += 1)}`,
  at,
  words,
});
const words = (server: FakeServer, stream = 's') =>
  (server.streams.get(stream) ?? []).map((each) => each.words);

/** Lets timers run out until nothing waits to be tried, or so many times. */
async function settle(
  outbox: Outbox<Note, { accepted: string[] }>,
  timers: Timers,
  rounds = 60,
): Promise<void> {
  await outbox.flush();
  for (let i = 0; i < rounds && timers.waiting > 0; i++) {
    timers.run();
    await outbox.flush();
  }
}

describe('the outbox', () => {
  it('sends in order, each stream by itself, and keeps on trying with longer and longer pauses', async () => {
    const server = new FakeServer();
    server.signedIn = 'ann';
    server.mood = 'away';
    const { outbox, timers } = open(server, openDatabase());
    await outbox.signIn('ann', keyOf('ann'));
    for (let i = 0; i < 5; i++) await outbox.put('s', [note(`tap ${i}`)]);
    await outbox.flush();
    for (let i = 0; i < 9; i++) {
      timers.run();
      await outbox.flush('s');
    }
    expect(Math.max(...timers.delays)).toBe(60_000);
    expect(timers.waiting).toBe(1);
    server.mood = 'well';
    await settle(outbox, timers);
    expect(words(server)).toEqual(['tap 0', 'tap 1', 'tap 2', 'tap 3', 'tap 4']);
    expect(outbox.counts).toEqual({ waiting: 0, aside: 0 });
  });

  it('is not held up by a tap that the server fails on: it is set aside and shown', async () => {
    const server = new FakeServer();
    server.signedIn = 'ann';
    const { outbox, timers } = open(server, openDatabase());
    await outbox.signIn('ann', keyOf('ann'));
    await outbox.put('s', [note('one'), note('poison'), note('two'), note('nonsense'), note('three')]);
    await outbox.put('other', [note('elsewhere')]);
    await settle(outbox, timers);
    expect(words(server)).toEqual(['one', 'two', 'three']);
    expect(words(server, 'other')).toEqual(['elsewhere']);
    const aside = await outbox.aside('s');
    expect(aside.map(({ tap, refusal }) => [tap.words, refusal.code]).sort()).toEqual([
      ['nonsense', 'invalid'],
      ['poison', 'unexpected'],
    ]);
    expect(await outbox.unsent('s')).toBe(2);
    await outbox.drop('s');
    expect(await outbox.unsent('s')).toBe(0);
  });

  it('does not set anything aside when the server fails on everything', async () => {
    const server = new FakeServer();
    server.signedIn = 'ann';
    server.mood = 'fails';
    const { outbox, timers } = open(server, openDatabase());
    await outbox.signIn('ann', keyOf('ann'));
    await outbox.put('s', [note('one'), note('two'), note('three')]);
    await settle(outbox, timers, 40);
    expect(outbox.counts).toEqual({ waiting: 3, aside: 0 });
    server.mood = 'well';
    await settle(outbox, timers);
    expect(words(server)).toEqual(['one', 'two', 'three']);
  });

  it.each<[string, Refusal['status']]>([
    ['busy', 503],
    ['away', 0],
  ])('sending tap by tap goes on after the server was %s', async (mood) => {
    const server = new FakeServer();
    server.signedIn = 'ann';
    const { outbox, timers } = open(server, openDatabase());
    await outbox.signIn('ann', keyOf('ann'));
    let answers = 0;
    const answer = server.answer.bind(server);
    server.answer = (...given) => {
      answers += 1;
      server.mood = answers === 3 ? (mood as 'busy' | 'away') : 'well';
      return answer(...given);
    };
    await outbox.put('s', [note('one'), note('nonsense'), note('two')]);
    await settle(outbox, timers);
    expect(words(server)).toEqual(['one', 'two']);
    expect(outbox.counts).toEqual({ waiting: 0, aside: 1 });
  });

  it('tells of taps that were sent before they leave it', async () => {
    const server = new FakeServer();
    server.signedIn = 'ann';
    const { outbox } = open(server, openDatabase());
    await outbox.signIn('ann', keyOf('ann'));
    let still = -1;
    outbox.whenSent('s', async () => {
      still = (await outbox.waiting('s')).length;
    });
    await outbox.put('s', [note('one')]);
    await outbox.flush();
    expect(still).toBe(1);
    expect(await outbox.waiting('s')).toEqual([]);
  });

  it('sends taps only as the account that made them, and shows them to nobody else', async () => {
    const server = new FakeServer();
    server.mood = 'away';
    server.signedIn = 'ann';
    const database = openDatabase();
    const first = open(server, database);
    await first.outbox.signIn('ann', keyOf('ann'));
    await first.outbox.put('s', [note('by ann')]);
    await first.outbox.signOut();

    server.mood = 'well';
    server.signedIn = 'ben';
    const second = open(server, database);
    await second.outbox.signIn('ben', keyOf('ben'));
    await settle(second.outbox, second.timers);
    expect(second.outbox.counts).toEqual({ waiting: 0, aside: 0 });
    expect(await second.outbox.waiting('s')).toEqual([]);
    await second.outbox.drop('s');
    expect(words(server)).toEqual([]);
    await second.outbox.signOut();

    server.signedIn = 'ann';
    await second.outbox.signIn('ann', keyOf('ann'));
    await settle(second.outbox, second.timers);
    expect(server.streams.get('s')).toEqual([
      { id: expect.any(String) as string, by: 'ann', words: 'by ann' },
    ]);
  });

  it('leaves nothing readable behind after sign-out, and no draft at all', async () => {
    const server = new FakeServer();
    server.mood = 'away';
    server.signedIn = 'ann';
    const database = openDatabase();
    const { outbox } = open(server, database);
    await outbox.signIn('ann', keyOf('ann'));
    await outbox.put('s', [note('a private remark')]);
    await outbox.keepDraft('s', { planted: 'a private remark' });
    expect(await outbox.draft('s')).toEqual({ planted: 'a private remark' });
    await outbox.signOut();
    const everything = JSON.stringify(
      [
        ...(await database.waiting.toArray()),
        ...(await database.aside.toArray()),
        ...(await database.drafts.toArray()),
      ].map((row) => ({
        ...row,
        sealed: new TextDecoder('latin1').decode(row.sealed),
      })),
    );
    expect(everything).not.toContain('private');
    expect(await database.drafts.count()).toBe(0);
    expect(await database.waiting.count()).toBe(1);
    expect(await outbox.draft('s')).toBeNull();
    await expect(outbox.put('s', [note('nobody')])).rejects.toThrow(/Nobody is signed in/);
  });

  it('sends 500 taps of eight hours offline once and in order, over an ended session', async () => {
    const server = new FakeServer();
    server.mood = 'away';
    const { outbox, timers } = open(server, openDatabase());
    await outbox.signIn('ann', keyOf('ann'));
    const begun = server.now;
    for (let i = 0; i < 500; i++)
      await outbox.put('s', [note(`tap ${i}`, new Date(begun + (i * 8 * 3_600_000) / 500).toISOString())]);
    expect(outbox.counts.waiting).toBe(500);
    server.now = begun + 8 * 3_600_000;
    server.mood = 'well';
    server.signedIn = 'ann';
    let answers = 0;
    const answer = server.answer.bind(server);
    server.answer = (...given) => {
      const sent = answer(...given);
      answers += 1;
      if (answers === 1) server.signedIn = null;
      return sent;
    };
    await settle(outbox, timers);
    expect(words(server).length).toBe(200);
    expect(timers.waiting).toBe(0);
    server.signedIn = 'ann';
    await outbox.signIn('ann', keyOf('ann'));
    await settle(outbox, timers);
    expect(words(server)).toEqual(Array.from({ length: 500 }, (_, i) => `tap ${i}`));
    expect(outbox.counts).toEqual({ waiting: 0, aside: 0 });
  });

  it('keeps taps of an evaluation that another device holds until it is taken over', async () => {
    const server = new FakeServer();
    server.signedIn = 'ann';
    server.holder = 'ben';
    const { outbox, timers } = open(server, openDatabase());
    await outbox.signIn('ann', keyOf('ann'));
    await outbox.put('s', [note('one'), note('two')]);
    await outbox.flush();
    expect(outbox.counts).toEqual({ waiting: 2, aside: 0 });
    server.holder = 'ann';
    await settle(outbox, timers);
    expect(words(server)).toEqual(['one', 'two']);
  });

  it('dates taps anew once the server has told it the time, and sets aside what is still off', async () => {
    const server = new FakeServer();
    server.signedIn = 'ann';
    const offset = { offset: 0 };
    const { outbox, timers } = open(server, openDatabase(), new Timers(), offset);
    await outbox.signIn('ann', keyOf('ann'));
    server.mood = 'away';
    const ahead = new Date(server.now + 7_200_000).toISOString();
    await outbox.put('s', [note('from a fast clock', ahead)]);
    offset.offset = -7_200_000;
    await outbox.put('s', [note('truly tomorrow', new Date(server.now + 86_400_000).toISOString())]);
    server.mood = 'well';
    await settle(outbox, timers);
    expect(words(server)).toEqual(['from a fast clock']);
    expect((await outbox.aside('s')).map((each) => each.refusal.code)).toEqual(['clock-off']);
  });

  it('says so when the device cannot keep a tap, and keeps nothing of it', async () => {
    const server = new FakeServer();
    const database = openDatabase();
    const { outbox } = open(server, database);
    await outbox.signIn('ann', keyOf('ann'));
    database.waiting.hook('creating', () => {
      throw new Error('quota');
    });
    await expect(outbox.put('s', [note('one')])).rejects.toThrow();
    expect(await outbox.waiting('s')).toEqual([]);
  });
});

describe('a seeded life of a shared tablet', () => {
  /** One run: random acts against a plain list of who tapped what. Answers how many acts there were. */
  async function live(seed: number, acts: number): Promise<void> {
    const random = seededRandom(seed);
    const server = new FakeServer();
    const name = `life-${seed}`;
    const people = ['ann', 'ben', 'cid'];
    const streams = ['s1', 's2', 's3'];
    const tapped: { id: string; by: string; stream: string }[] = [];
    let timers = new Timers();
    let { outbox } = open(server, openDatabase(name), timers);
    let user: string | null = null;
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
    const moods: FakeServer['mood'][] = ['well', 'well', 'well', 'fails', 'away', 'busy', 'loses answers'];

    const signIn = async (who: string) => {
      server.signedIn = who;
      await outbox.signIn(who, keyOf(who));
      user = who;
    };
    for (let i = 0; i < acts; i++) {
      const roll = random();
      if (user === null || roll < 0.03) {
        if (user !== null && random() < 0.5) await outbox.signOut();
        await signIn(pick(people));
      } else if (roll < 0.62) {
        const stream = pick(streams);
        const made = Array.from({ length: random() < 0.1 ? 1 + Math.floor(random() * 6) : 1 }, () =>
          note(random() < 0.2 ? 'undo' : `tap by ${user}`),
        );
        await outbox.put(stream, made);
        tapped.push(...made.map((each) => ({ id: each.id, by: user!, stream })));
      } else if (roll < 0.72) server.mood = pick(moods);
      else if (roll < 0.82) timers.run();
      else if (roll < 0.88) await outbox.flush(pick(streams));
      else if (roll < 0.91) {
        // A crash: the page is gone in the middle of whatever it did, and opens again with who was signed in.
        outbox.close();
        timers = new Timers();
        ({ outbox } = open(server, openDatabase(name), timers));
        await outbox.signIn(user, keyOf(user));
      } else if (roll < 0.94) server.signedIn = random() < 0.5 ? null : user;
      else if (roll < 0.96) {
        await outbox.signOut();
        server.signedIn = null;
        user = null;
      } else if (roll < 0.98) server.holder = pick([null, ...people]);
      else if (user) for (const stream of streams) await outbox.retry(stream);
    }
    // In the end everybody comes back once, with the server well and nobody else holding anything.
    server.mood = 'well';
    server.holder = null;
    for (const who of people) {
      await signIn(who);
      for (const stream of streams) await outbox.retry(stream);
      await settle(outbox, timers);
      await outbox.signOut();
    }
    for (const stream of streams) {
      const kept = server.streams.get(stream) ?? [];
      expect(kept.length).toBe(new Set(kept.map((each) => each.id)).size);
      const expected = tapped.filter((each) => each.stream === stream);
      expect(new Map(kept.map((each) => [each.id, each.by]))).toEqual(
        new Map(expected.map((each) => [each.id, each.by])),
      );
      // What one person tapped in one stream arrived in the order it was tapped.
      for (const who of people)
        expect(kept.filter((each) => each.by === who).map((each) => each.id)).toEqual(
          expected.filter((each) => each.by === who).map((each) => each.id),
        );
    }
  }

  it('loses nothing, doubles nothing and writes nothing under a wrong name in 5,000 acts', async () => {
    for (let seed = 1; seed <= 20; seed++) await live(seed, 250);
  });
});

describe('what is sealed', () => {
  it('opens with its own key only', () => {
    const sealed = seal(keyOf('ann'), { words: 'übung' });
    expect(unseal(keyOf('ann'), sealed)).toEqual({ words: 'übung' });
    expect(() => unseal(keyOf('ben'), sealed)).toThrow();
    expect(() => unseal(keyOf('ann'), sealed.slice(0, 30))).toThrow();
  });
});
