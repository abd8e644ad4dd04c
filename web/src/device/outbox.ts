import type { DeviceClock } from './clock';
import type { DeviceDatabase, WaitingRow } from './db';
import { seal, unseal } from './vault';

/** Something with an identity and an instant that waits to be sent. */
export interface Tap {
  id: string;
  at: string;
}

/** Why the server would not take something; `status` 0 is no answer at all. */
export interface Refusal {
  status: number;
  code: string;
  detail: string;
}

/** Thrown by a transport. */
export class SendError extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.detail);
  }
}

/** What an outbox needs of the world, so that a test can be the world. */
export interface World<T extends Tap, Answer> {
  /** Sends taps of a stream as an account. Throws SendError. */
  send(account: string, stream: string, taps: readonly T[]): Promise<Answer>;
  clock: Pick<DeviceClock, 'offset'>;
  /** Calls back after so many milliseconds, unless the answer is called before. */
  later(milliseconds: number, then: () => void): () => void;
  /** Runs work that no other tab of this device may do at the same time. */
  alone(name: string, work: () => Promise<void>): Promise<void>;
  /** Told after every change of what waits. */
  changed(): void;
}

/** A tap that was set aside, with why. */
export interface SetAside<T extends Tap> {
  tap: T;
  refusal: Refusal;
}

type Listener<T extends Tap, Answer> = (answer: Answer, taps: readonly T[]) => Promise<void> | void;

/** What sending knows about one stream. */
interface Lane {
  /** Milliseconds until the next try; 0 when the last one went through. */
  delay: number;
  cancel: (() => void) | null;
  running: Promise<void> | null;
  /** Tap by tap, after a batch was refused, until this many are through. */
  singly: number;
  /** Times the server failed on a tap by itself. */
  failures: Map<string, number>;
  /** Taps passed over for now, to see whether the server fails on them or on everything. */
  passed: Set<string>;
  /** Taps that were dated anew once. */
  redated: Set<string>;
  offline: boolean;
  held: boolean;
}

const BATCH = 200;
const FIRST_DELAY = 1000;
const LONGEST_DELAY = 60_000;
/**
 * Failures on one tap after which the next one is tried, and after which it is set aside where there is no
 * next one.
 */
const FAILURES_TO_PASS = 3;
const FAILURES_ALONE = 8;
/** Taps passed over at most; when the server fails on more, it fails on everything. */
const MOST_PASSED = 10;
/** Refusals of the stream as a whole: no tap of it will be taken. */
const WHOLE = new Set(['not-found', 'forbidden', 'evaluation-closed', 'own-record']);

/**
 * Every tap goes here first and is safe across reload, crash, sign-out and another person on the same device.
 * From here it is sent in order, each stream by itself and only as the account that made it, and removed once
 * the server has it. What the server can never take is set aside, never dropped.
 */
export class Outbox<T extends Tap, Answer> {
  private owner: { account: string; key: Uint8Array } | null = null;
  private readonly lanes = new Map<string, Lane>();
  private readonly listeners = new Map<string, Set<Listener<T, Answer>>>();
  /** True while the server does not know who we are: nothing is sent until somebody signs in. */
  private barred = false;
  counts = { waiting: 0, aside: 0 };

  constructor(
    private readonly database: DeviceDatabase,
    private readonly world: World<T, Answer>,
  ) {}

  /** Who the taps from now on belong to. Sends what waits of them. */
  async signIn(account: string, key: Uint8Array): Promise<void> {
    // The same account signing in again goes on with what is being sent.
    if (this.owner?.account !== account) {
      this.close();
      this.owner = { account, key };
    }
    this.barred = false;
    await this.recount();
    for (const stream of await this.streams()) this.push(stream);
  }

  /**
   * Forgets the key and what was only kept for reading. Unsent taps stay sealed until their owner signs in
   * again.
   */
  async signOut(): Promise<void> {
    const { owner } = this;
    this.close();
    if (owner) await this.database.drafts.where('account').equals(owner.account).delete();
    await this.recount();
  }

  /** Stops sending and forgets the key, as the end of the page does. */
  close(): void {
    this.owner = null;
    for (const lane of this.lanes.values()) lane.cancel?.();
    this.lanes.clear();
  }

  /**
   * Saves taps on this device; resolves when they are safe here. Throws when the device cannot keep them:
   * then nothing was recorded.
   */
  async put(stream: string, taps: readonly T[]): Promise<void> {
    const { account, key } = this.signedIn();
    const rows = taps.map((tap) => ({
      account,
      stream,
      id: tap.id,
      sealed: seal(key, tap),
      offset: this.world.clock.offset,
    }));
    await this.database.waiting.bulkAdd(rows as WaitingRow[]);
    await this.recount();
    this.push(stream);
  }

  /** Taps of a stream that wait, in order. */
  async waiting(stream: string): Promise<T[]> {
    if (!this.owner) return [];
    const { key } = this.owner;
    return (await this.rows(stream)).map((row) => unseal<T>(key, row.sealed));
  }

  /** Taps of a stream that were set aside. */
  async aside(stream: string): Promise<SetAside<T>[]> {
    if (!this.owner) return [];
    const { account, key } = this.owner;
    const rows = await this.database.aside.where('[account+stream]').equals([account, stream]).toArray();
    return rows
      .map((row) => unseal<SetAside<T>>(key, row.sealed))
      .sort((a, b) => (a.tap.at < b.tap.at ? -1 : Number(a.tap.at > b.tap.at)));
  }

  /** How many taps of a stream the server does not have. Nothing is decided while there is one. */
  async unsent(stream: string): Promise<number> {
    if (!this.owner) return 0;
    const of = [this.owner.account, stream];
    return (
      (await this.database.waiting.where('[account+stream]').equals(of).count()) +
      (await this.database.aside.where('[account+stream]').equals(of).count())
    );
  }

  /** Lets taps go that were set aside; somebody who saw them asked for it. */
  async drop(stream: string): Promise<void> {
    await this.database.aside.where('[account+stream]').equals([this.signedIn().account, stream]).delete();
    await this.recount();
  }

  /** Puts taps that were set aside back in line, after what kept them is gone. */
  async retry(stream: string): Promise<void> {
    const { account, key } = this.signedIn();
    const rows = await this.aside(stream);
    await this.database.transaction('rw', this.database.waiting, this.database.aside, async () => {
      const back = rows.map(({ tap }) => ({
        account,
        stream,
        id: tap.id,
        sealed: seal(key, tap),
        offset: this.world.clock.offset,
      }));
      await this.database.waiting.bulkAdd(back as WaitingRow[]);
      await this.database.aside.where('[account+stream]').equals([account, stream]).delete();
    });
    this.lanes.delete(stream);
    await this.recount();
    await this.flush(stream);
  }

  /** Keeps what a stream was last seen to be, for its owner. */
  async keepDraft(stream: string, draft: unknown): Promise<void> {
    const { account, key } = this.signedIn();
    await this.database.drafts.put({ account, stream, sealed: seal(key, draft) });
  }

  async draft<D>(stream: string): Promise<D | null> {
    if (!this.owner) return null;
    const row = await this.database.drafts.get([this.owner.account, stream]);
    return row ? unseal<D>(this.owner.key, row.sealed) : null;
  }

  /**
   * Is told of taps that the server has, before they leave the outbox, so that no tap is ever in neither
   * place. Answers how to stop.
   */
  whenSent(stream: string, listener: Listener<T, Answer>): () => void {
    let all = this.listeners.get(stream);
    if (!all) this.listeners.set(stream, (all = new Set()));
    all.add(listener);
    return () => void all.delete(listener);
  }

  /**
   * Tries to send now what waits, of one stream or of all. Resolves when it is sent or sending has stopped.
   */
  async flush(stream?: string): Promise<void> {
    const streams = stream === undefined ? await this.streams() : [stream];
    await Promise.all(streams.map((each) => this.push(each, true)));
  }

  /** Whether the last try of any stream got no answer. */
  get offline(): boolean {
    return [...this.lanes.values()].some((lane) => lane.offline);
  }

  /** Streams that another device holds, as the last try was told. */
  get held(): string[] {
    return [...this.lanes].filter(([, lane]) => lane.held).map(([stream]) => stream);
  }

  private signedIn(): { account: string; key: Uint8Array } {
    if (!this.owner) throw new Error('Nobody is signed in on this device, so nothing was recorded.');
    return this.owner;
  }

  private rows(stream: string): Promise<WaitingRow[]> {
    return this.database.waiting
      .where('[account+stream]')
      .equals([this.owner!.account, stream])
      .sortBy('seq');
  }

  private async streams(): Promise<string[]> {
    if (!this.owner) return [];
    const rows = await this.database.waiting.where('account').equals(this.owner.account).toArray();
    return [...new Set(rows.map((row) => row.stream))];
  }

  private async recount(): Promise<void> {
    const { owner } = this;
    this.counts = owner
      ? {
          waiting: await this.database.waiting.where('account').equals(owner.account).count(),
          aside: await this.database.aside.where('account').equals(owner.account).count(),
        }
      : { waiting: 0, aside: 0 };
    this.world.changed();
  }

  private lane(stream: string): Lane {
    let lane = this.lanes.get(stream);
    if (!lane)
      this.lanes.set(
        stream,
        (lane = {
          delay: 0,
          cancel: null,
          running: null,
          singly: 0,
          failures: new Map(),
          passed: new Set(),
          redated: new Set(),
          offline: false,
          held: false,
        }),
      );
    return lane;
  }

  /**
   * Starts sending a stream, unless it is being sent, or waits for its next try and nobody asked for one
   * `now`.
   */
  private push(stream: string, now = false): Promise<void> {
    if (!this.owner || this.barred) return Promise.resolve();
    const lane = this.lane(stream);
    if (lane.running) return lane.running;
    if (lane.cancel && !now) return Promise.resolve();
    lane.cancel?.();
    lane.cancel = null;
    const { owner } = this;
    lane.running = this.world
      .alone(`rounds ${owner.account} ${stream}`, () => this.pump(owner, stream, lane))
      .finally(() => {
        lane.running = null;
      });
    return lane.running;
  }

  /** Sends until nothing of the stream is left or a try fails. */
  private async pump(owner: { account: string; key: Uint8Array }, stream: string, lane: Lane): Promise<void> {
    for (;;) {
      if (this.owner !== owner) return;
      const rows = (await this.rows(stream)).filter((row) => !lane.passed.has(row.id));
      if (this.owner !== owner) return;
      if (rows.length === 0) {
        if (lane.passed.size === 0) return;
        // The server fails on everything that is left.
        lane.passed.clear();
        return this.again(stream, lane);
      }
      const batch = rows.slice(0, lane.singly > 0 ? 1 : BATCH);
      const taps = batch.map((row) => unseal<T>(owner.key, row.sealed));
      try {
        const answer = await this.world.send(owner.account, stream, taps);
        for (const listener of this.listeners.get(stream) ?? []) await listener(answer, taps);
        await this.database.waiting.bulkDelete(batch.map((row) => row.seq));
        await this.went(stream, lane, owner);
      } catch (error) {
        const refusal =
          error instanceof SendError
            ? error.refusal
            : { status: 0, code: 'offline', detail: error instanceof Error ? error.message : String(error) };
        if (this.owner !== owner || !(await this.refused(owner, stream, lane, batch, refusal))) return;
      }
    }
  }

  private async went(stream: string, lane: Lane, owner: { account: string; key: Uint8Array }): Promise<void> {
    lane.delay = 0;
    lane.offline = false;
    lane.held = false;
    lane.singly = Math.max(0, lane.singly - 1);
    if (lane.passed.size > 0 && this.owner === owner) {
      // Others go through, so those passed over are what the server fails on.
      const rows = (await this.rows(stream)).filter((row) => lane.passed.has(row.id));
      await this.setAside(owner, rows, {
        status: 500,
        code: 'unexpected',
        detail: 'The server failed on this each time, while others went through.',
      });
      lane.passed.clear();
    }
    await this.recount();
  }

  /** Deals with a refusal. Answers whether to go on at once. */
  private async refused(
    owner: { account: string; key: Uint8Array },
    stream: string,
    lane: Lane,
    batch: readonly WaitingRow[],
    refusal: Refusal,
  ): Promise<boolean> {
    const { status, code } = refusal;
    lane.offline = status === 0;
    if (code === 'not-signed-in' || code === 'wrong-account') {
      this.barred = true;
      this.world.changed();
      return false;
    }
    if (code === 'evaluation-held') {
      lane.held = true;
      lane.delay = LONGEST_DELAY;
      this.again(stream, lane);
      return false;
    }
    if (code === 'clock-off' && (await this.redate(owner, lane, batch))) return true;
    const passing = status === 0 || status === 408 || status === 429 || (status > 500 && status < 600);
    if (passing) {
      this.again(stream, lane);
      return false;
    }
    if (batch.length > 1 && WHOLE.has(code)) {
      await this.setAside(owner, batch, refusal);
      return true;
    }
    if (batch.length > 1) {
      lane.singly = batch.length;
      if (status >= 500) this.again(stream, lane);
      return status < 500;
    }
    const [row] = batch;
    if (status < 500) {
      await this.setAside(owner, [row!], refusal);
      lane.singly = Math.max(0, lane.singly - 1);
      return true;
    }
    const failures = (lane.failures.get(row!.id) ?? 0) + 1;
    lane.failures.set(row!.id, failures);
    const alone = (await this.rows(stream)).length === 1;
    if (alone && failures >= FAILURES_ALONE) {
      await this.setAside(owner, [row!], refusal);
      return true;
    }
    if (!alone && failures >= FAILURES_TO_PASS && lane.passed.size < MOST_PASSED) {
      lane.passed.add(row!.id);
      lane.singly = Math.max(lane.singly, 2);
      return true;
    }
    lane.passed.clear();
    this.again(stream, lane);
    return false;
  }

  /** Sets a time for the next try, each twice as far as the one before. */
  private again(stream: string, lane: Lane): void {
    lane.delay = Math.min(LONGEST_DELAY, Math.max(FIRST_DELAY, lane.delay * 2));
    lane.cancel?.();
    lane.cancel = this.world.later(lane.delay, () => {
      lane.cancel = null;
      void this.push(stream, true);
    });
    this.world.changed();
  }

  private async setAside(
    owner: { account: string; key: Uint8Array },
    rows: readonly WaitingRow[],
    refusal: Refusal,
  ): Promise<void> {
    await this.database.transaction('rw', this.database.waiting, this.database.aside, async () => {
      await this.database.aside.bulkPut(
        rows.map(({ id, account, stream, sealed }) => ({
          id,
          account,
          stream,
          sealed: seal(owner.key, { tap: unseal<T>(owner.key, sealed), refusal }),
        })),
      );
      await this.database.waiting.bulkDelete(rows.map((row) => row.seq));
    });
    await this.recount();
  }

  /** Dates taps anew by what the clock has learnt since they were made. False where that changes nothing. */
  private async redate(
    owner: { account: string; key: Uint8Array },
    lane: Lane,
    rows: readonly WaitingRow[],
  ): Promise<boolean> {
    const { offset } = this.world.clock;
    const stale = rows.filter((row) => Math.abs(offset - row.offset) >= 1000 && !lane.redated.has(row.id));
    for (const row of stale) {
      const tap = unseal<T>(owner.key, row.sealed);
      const at = new Date(Date.parse(tap.at) + offset - row.offset).toISOString();
      await this.database.waiting.update(row.seq, { sealed: seal(owner.key, { ...tap, at }), offset });
      lane.redated.add(row.id);
    }
    return stale.length > 0;
  }
}
