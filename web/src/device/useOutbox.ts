import type { SessionAccount } from '@rounds/contract/accounts';
import { assessRoutes as routes } from '@rounds/contract/assess';
import type { RouteAnswer } from '@rounds/contract/route';
import type { DeviceEventBody } from '@rounds/core/evaluation';
import { defineStore } from 'pinia';
import { v4 as uuidv4 } from 'uuid';
import { ref } from 'vue';
import { ApiProblem, call } from './api';
import { clock } from './clock';
import { DeviceDatabase } from './db';
import { Outbox, SendError, type World } from './outbox';
import { readKey, seal } from './vault';

/** Id of the account that was signed in here with the version before, which kept taps without their owner. */
export const EARLIER_OWNER = 'rounds-earlier-owner';

export interface DeviceEvent {
  id: string;
  at: string;
  body: DeviceEventBody;
}
export type Sent = RouteAnswer<typeof routes.appendEvents>;

/** A name for this device, made once; the server lets one device at a time write to an evaluation. */
export function deviceName(): string {
  let name = localStorage.getItem('rounds-device');
  if (!name) localStorage.setItem('rounds-device', (name = uuidv4()));
  return name;
}

/** The instant of something that happens now, for what is recorded. */
export function instantNow(): string {
  return new Date(clock.now()).toISOString();
}

/** The outbox of this device for the screens: its counts as they change, its acts as they are. */
export const useOutbox = defineStore('outbox', () => {
  const waiting = ref(0);
  const aside = ref(0);
  const offline = ref(false);
  const lastSent = ref<string | null>(null);
  const held = ref<string[]>([]);
  const database = new DeviceDatabase();

  const world: World<DeviceEvent, Sent> = {
    async send(account, stream, events) {
      try {
        const sent = await call(routes.appendEvents, {
          params: { id: stream },
          body: { device: deviceName(), as: account, events: [...events] },
        });
        lastSent.value = instantNow();
        return sent;
      } catch (error) {
        if (!(error instanceof ApiProblem)) throw error;
        throw new SendError({ status: error.problem.status, code: error.code, detail: error.problem.detail });
      }
    },
    clock,
    later(milliseconds, then) {
      const timer = setTimeout(then, milliseconds);
      return () => clearTimeout(timer);
    },
    // Web Locks are missing where the page came over plain HTTP from another host; then this tab sends on
    // its own.
    alone: (name, work) => (navigator.locks as LockManager | undefined)?.request(name, work) ?? work(),
    changed() {
      waiting.value = outbox.counts.waiting;
      aside.value = outbox.counts.aside;
      offline.value = outbox.offline;
      held.value = outbox.held;
    },
  };
  const outbox: Outbox<DeviceEvent, Sent> = new Outbox(database, world);
  addEventListener('online', () => void outbox.flush());

  async function signIn(account: SessionAccount): Promise<void> {
    await adoptEarlier(account);
    await outbox.signIn(account.id, readKey(account.deviceKey));
  }

  /**
   * Taps that the version before left open on this device are those of whoever was signed in with it last,
   * and of nobody else.
   */
  async function adoptEarlier(account: SessionAccount): Promise<void> {
    if (localStorage.getItem(EARLIER_OWNER) !== account.id) return;
    const rows = await database.earlier.orderBy('seq').toArray();
    if (rows.length === 0) return;
    const key = readKey(account.deviceKey);
    await database.transaction('rw', database.earlier, database.waiting, async () => {
      await database.waiting.bulkAdd(
        rows.map(({ evaluationId, event }) => ({
          account: account.id,
          stream: evaluationId,
          id: event.id,
          sealed: seal(key, event),
          offset: 0,
        })) as never[],
      );
      await database.earlier.clear();
    });
  }

  return {
    waiting,
    aside,
    offline,
    lastSent,
    held,
    signIn,
    signOut: () => outbox.signOut(),
    put: (stream: string, events: readonly DeviceEvent[]) =>
      outbox.put(stream, structuredClone(events) as DeviceEvent[]),
    of: (stream: string) => outbox.waiting(stream),
    setAside: (stream: string) => outbox.aside(stream),
    unsent: (stream: string) => outbox.unsent(stream),
    drop: (stream: string) => outbox.drop(stream),
    retry: (stream: string) => outbox.retry(stream),
    flush: (stream?: string) => outbox.flush(stream),
    whenSent: (stream: string, listener: (sent: Sent, events: readonly DeviceEvent[]) => Promise<void>) =>
      outbox.whenSent(stream, listener),
    keepDraft: (stream: string, draft: unknown) => outbox.keepDraft(stream, draft),
    draft: <D>(stream: string) => outbox.draft<D>(stream),
  };
});
