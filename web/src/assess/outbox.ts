import { routes, type RouteAnswer } from '@rounds/contract';
import type { EvaluationEvent } from '@rounds/core';
import Dexie, { type EntityTable } from 'dexie';
import { defineStore } from 'pinia';
import { v4 as uuidv4 } from 'uuid';
import { ref } from 'vue';
import { ApiProblem, call } from '../house/api';

/** A tap waiting to reach the server, in the order it was made. */
interface Waiting {
  seq: number;
  evaluationId: string;
  event: EvaluationEvent;
  /** Why the server would not take it; null while it is simply on its way. */
  refused: { code: string; detail: string } | null;
}

/** The last answer of the server about an evaluation, so that it opens without a network. */
interface Draft {
  evaluationId: string;
  opened: unknown;
}

class TabletStore extends Dexie {
  waiting!: EntityTable<Waiting, 'seq'>;
  drafts!: EntityTable<Draft, 'evaluationId'>;
  constructor() {
    super('rounds');
    this.version(1).stores({ waiting: '++seq, evaluationId', drafts: 'evaluationId' });
  }
}

export type Sent = RouteAnswer<typeof routes.appendEvents>;

/** A name for this device, made once; the server lets one device at a time write to an evaluation. */
export function deviceName(): string {
  let name = localStorage.getItem('rounds-device');
  if (!name) localStorage.setItem('rounds-device', (name = uuidv4()));
  return name;
}

const store = new TabletStore();

/**
 * Every tap goes here first and is safe across reload, crash and sign-out; from here it is sent in order and removed once the server has it.
 * One sender at a time for all tabs of a device (Web Locks).
 */
export const useOutbox = defineStore('outbox', () => {
  const waiting = ref(0);
  const refused = ref(0);
  const offline = ref(false);
  const lastSent = ref<string | null>(null);
  const listeners = new Map<string, (sent: Sent, events: readonly EvaluationEvent[]) => Promise<void>>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let started = false;
  let run: Promise<void> | null = null;

  async function count(): Promise<void> {
    const all = await store.waiting.toArray();
    waiting.value = all.filter((each) => !each.refused).length;
    refused.value = all.filter((each) => each.refused).length;
  }

  async function start(): Promise<void> {
    if (started) return;
    started = true;
    addEventListener('online', () => void flush());
    await count();
    void flush();
  }

  /** Saves taps on this device; resolves when they are safe here. */
  async function put(evaluationId: string, events: readonly EvaluationEvent[]): Promise<void> {
    await store.waiting.bulkAdd(events.map((event) => ({ evaluationId, event: structuredClone(event), refused: null }) as Waiting));
    await count();
    void flush();
  }

  async function of(evaluationId: string): Promise<Waiting[]> {
    return store.waiting.where('evaluationId').equals(evaluationId).sortBy('seq');
  }

  /** Lets refused taps of an evaluation go, by their events, or all of them. */
  async function discard(evaluationId: string, eventIds?: readonly string[]): Promise<void> {
    const rows = await of(evaluationId);
    await store.waiting.bulkDelete(rows.filter((each) => (eventIds ? eventIds.includes(each.event.id) : each.refused)).map((each) => each.seq));
    await count();
  }

  /** Marks refused taps as waiting again, after the cause is gone (an evaluation taken over). */
  async function retry(evaluationId: string): Promise<void> {
    for (const each of await of(evaluationId)) if (each.refused) await store.waiting.update(each.seq, { refused: null });
    await count();
    await flush();
  }

  /** Sends what waits, in order. Resolves when everything was sent or sending stopped. */
  function flush(): Promise<void> {
    // Web Locks are missing where the page came over plain HTTP from another host; then this tab sends on its own.
    const sending = () => ('locks' in navigator ? navigator.locks.request('rounds-outbox', send) : send());
    run ??= sending().finally(() => {
      run = null;
    });
    return run;
  }

  async function send(): Promise<void> {
    clearTimeout(timer);
    for (;;) {
      const all = (await store.waiting.orderBy('seq').toArray()).filter((each) => !each.refused);
      const first = all[0];
      if (!first) break;
      const batch = all.filter((each) => each.evaluationId === first.evaluationId).slice(0, 200);
      try {
        const sent = await call(routes.appendEvents, { params: { id: first.evaluationId }, body: { device: deviceName(), events: batch.map((each) => each.event) } });
        // The screen learns that the server has them before they leave the outbox, so that no tap is ever in neither place.
        await listeners.get(first.evaluationId)?.(
          sent,
          batch.map((each) => each.event),
        );
        await store.waiting.bulkDelete(batch.map((each) => each.seq));
        offline.value = false;
        lastSent.value = new Date().toISOString();
        await count();
      } catch (error) {
        const code = error instanceof ApiProblem ? error.code : 'unexpected';
        if (code === 'not-signed-in') return count();
        const status = error instanceof ApiProblem ? error.problem.status : 0;
        if (status === 0 || status >= 500 || status === 429) {
          offline.value = status === 0;
          timer = setTimeout(() => void flush(), 3000);
          return count();
        }
        const why = { code, detail: error instanceof Error ? error.message : String(error) };
        // A refused batch is tried tap by tap, so that one bad tap does not hold up the rest.
        if (batch.length > 1 && code !== 'evaluation-held' && code !== 'not-found' && code !== 'forbidden') {
          for (const each of batch) {
            try {
              const sent = await call(routes.appendEvents, { params: { id: each.evaluationId }, body: { device: deviceName(), events: [each.event] } });
              await listeners.get(each.evaluationId)?.(sent, [each.event]);
              await store.waiting.delete(each.seq);
            } catch (single) {
              if (single instanceof ApiProblem && single.problem.status >= 400 && single.problem.status < 500 && single.code !== 'not-signed-in')
                await store.waiting.update(each.seq, { refused: { code: single.code, detail: single.message } });
              else return count();
            }
          }
        } else for (const each of batch) await store.waiting.update(each.seq, { refused: why });
        await count();
      }
    }
  }

  function whenSent(evaluationId: string, listener: (sent: Sent, events: readonly EvaluationEvent[]) => Promise<void>): () => void {
    listeners.set(evaluationId, listener);
    return () => void listeners.delete(evaluationId);
  }

  async function keepDraft(evaluationId: string, opened: unknown): Promise<void> {
    await store.drafts.put({ evaluationId, opened: JSON.parse(JSON.stringify(opened)) as unknown });
  }
  async function draft(evaluationId: string): Promise<unknown> {
    return (await store.drafts.get(evaluationId))?.opened ?? null;
  }

  return { waiting, refused, offline, lastSent, start, put, of, discard, retry, flush, whenSent, keepDraft, draft };
});
