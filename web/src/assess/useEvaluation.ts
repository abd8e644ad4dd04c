import { assessRoutes as routes } from '@rounds/contract/assess';
import type { RouteAnswer } from '@rounds/contract/route';
import type { EffectivePack } from '@rounds/core/catalogue';
import {
  appraise,
  type Decided,
  type DeviceEventBody,
  foldEvaluation,
  lastUndoable,
  type RecordedEvent,
} from '@rounds/core/evaluation';
import { v7 as uuidv7 } from 'uuid';
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue';
import { ApiProblem, call, explain, ownProblem } from '../device/api';
import type { SetAside } from '../device/outbox';
import { useSession } from '../device/session';
import { type DeviceEvent, deviceName, instantNow, type Sent, useOutbox } from '../device/useOutbox';

type Opened = RouteAnswer<typeof routes.evaluation>;
type Stored = Opened['events'][number];

/**
 * An open evaluation: its events (the server's and those still on this device), their fold and appraisal,
 * and the acts of the trainer.
 */
export function useEvaluation(id: string) {
  const outbox = useOutbox();
  const session = useSession();
  const opened = shallowRef<Opened | null>(null);
  const events = shallowRef<RecordedEvent[]>([]);
  const error = ref<unknown>(null);
  /** Why the last tap was not recorded: this device could not keep it. */
  const lost = ref<string | null>(null);
  /** Who else holds it, when this device may only look. */
  const heldBy = ref<{ name: string; since: string } | null>(null);
  const aside = ref<SetAside<DeviceEvent>[]>([]);
  /** Taps of this evaluation that the server does not have. */
  const unsent = ref(0);
  const token = ref<string | null>(null);
  const working = computed(
    () =>
      session.is('trainer', 'administrator') && session.account?.personId !== opened.value?.summary.personId,
  );
  /** What the server has accepted since this was opened, also while it is being fetched. */
  const accepted = new Map<string, Stored>();
  /** Taps of this page that are safe on the device, until the server has accepted or refused them. */
  const made = new Map<string, RecordedEvent>();

  const forget = outbox.whenSent(id, accept);
  onBeforeUnmount(forget);

  async function load(): Promise<void> {
    error.value = null;
    let found: Opened;
    try {
      found = await call(routes.evaluation, { params: { id } });
      await outbox.keepDraft(id, found);
      if (
        session.is('trainer', 'administrator') &&
        session.account?.personId !== found.summary.personId &&
        found.summary.phase !== 'closed'
      ) {
        const hold = await call(routes.holdEvaluation, { params: { id }, body: { device: deviceName() } });
        heldBy.value = hold.held ? null : hold.holder;
      }
    } catch (problem) {
      const offline =
        problem instanceof ApiProblem && (problem.code === 'offline' || problem.code === 'not-signed-in');
      const draft = offline ? await outbox.draft<Opened>(id) : null;
      if (!draft) {
        error.value = problem;
        return;
      }
      found = draft;
    }
    token.value = found.certificate?.token ?? null;
    // The events first: what the screen begins with is chosen by them.
    const whole = withAccepted(found);
    await merge(whole);
    opened.value = withAccepted(whole);
  }

  /** An answer of the server, with what it has accepted since it gave it. */
  function withAccepted<T extends Pick<Opened, 'events'>>(found: T): T {
    const known = new Set(found.events.map((each) => each.id));
    const since = [...accepted.values()].filter((each) => !known.has(each.id));
    return since.length === 0 ? found : { ...found, events: [...found.events, ...since] };
  }

  /** The server's events, then those that wait here. */
  async function merge(found: Opened | null = null): Promise<void> {
    const waiting = await outbox.of(id);
    const kept = await outbox.setAside(id);
    // Read after what waits: a tap that was sent in between is among these.
    const server = withAccepted(found ?? opened.value ?? { events: [] }).events;
    const own = { by: session.account?.name ?? '', account: session.account?.id ?? '' };
    aside.value = kept;
    void noticeHeld();
    unsent.value = waiting.length + kept.length;
    for (const each of [...server, ...kept.map(({ tap: refused }) => refused)]) made.delete(each.id);
    // A tap that was made while this was reading stays, last.
    const all = [...server, ...waiting.map((each) => ({ ...each, ...own })), ...made.values()];
    const byId = new Map<string, RecordedEvent>();
    for (const each of all) if (!byId.has(each.id)) byId.set(each.id, each);
    events.value = [...byId.values()];
  }

  /** Another device took this over while taps were on their way: who has it is asked for. */
  async function noticeHeld(): Promise<void> {
    if (heldBy.value || !outbox.held.includes(id)) return;
    heldBy.value = { name: 'Another trainer', since: instantNow() };
    try {
      const hold = await call(routes.holdEvaluation, { params: { id }, body: { device: deviceName() } });
      heldBy.value = hold.held ? null : hold.holder;
    } catch {
      // The name can wait; that somebody has it is known.
    }
  }

  /**
   * Takes in what the server has accepted, and keeps it on the device too, so that a reload without a
   * network shows it.
   */
  async function accept(sent: Sent, taps: readonly DeviceEvent[]): Promise<void> {
    const own = {
      by: session.account?.name ?? '',
      account: session.account?.id ?? '',
      receivedAt: instantNow(),
    };
    for (const each of taps) accepted.set(each.id, { ...each, ...own });
    if (sent.certificate) token.value = sent.certificate.token;
    if (!opened.value) return;
    opened.value = withAccepted({ ...opened.value, summary: sent.summary });
    await outbox.keepDraft(id, opened.value);
    heldBy.value = null;
  }

  /**
   * Records what happened: shown once it is safe on this device, then on its way to the server. False where
   * it could not be recorded.
   */
  async function tap(...bodies: DeviceEventBody[]): Promise<boolean> {
    if (heldBy.value) return false;
    const at = instantNow();
    // What a form holds is reactive, and that cannot be stored: what is kept is its plain content.
    const plain = JSON.parse(JSON.stringify(bodies)) as DeviceEventBody[];
    const taps = plain.map((body): DeviceEvent => ({ id: uuidv7(), at, body }));
    try {
      await outbox.put(id, taps);
      lost.value = null;
    } catch (problem) {
      lost.value =
        `This device could not keep it (${explain(problem).detail}). Make room on the ` +
        'device, then tap again.';
      return false;
    }
    const own = { by: session.account?.name ?? '', account: session.account?.id ?? '' };
    const shown = new Set(events.value.map((each) => each.id));
    const fresh = taps.filter((each) => !shown.has(each.id)).map((each) => ({ ...each, ...own }));
    for (const each of fresh) made.set(each.id, each);
    events.value = [...events.value, ...fresh];
    return true;
  }

  async function undo(): Promise<void> {
    const last = lastUndoable(record.value);
    if (last) await tap({ kind: 'undone', event: last.id });
  }

  /** Nothing is decided or signed while a tap of this evaluation has not reached the server. */
  async function allSent(): Promise<void> {
    await outbox.flush(id);
    const left = await outbox.unsent(id);
    await merge();
    if (left === 0) return;
    throw ownProblem(
      'unsent',
      'Not everything has reached the server',
      `${left === 1 ? 'One tap' : `${left} taps`} of this evaluation ` +
        `${left === 1 ? 'is' : 'are'} only on this device. Nothing was decided. ` +
        'It goes on as soon as they are sent; what the server refused is listed above.',
    );
  }

  /**
   * Sends a decision or signature and waits for the server's word; a refusal takes it back here and is
   * thrown.
   */
  async function settle(body: DeviceEventBody): Promise<void> {
    await allSent();
    const event: DeviceEvent = { id: uuidv7(), at: instantNow(), body };
    const { account } = session;
    const sent = await call(routes.appendEvents, {
      params: { id },
      body: { device: deviceName(), ...(account ? { as: account.id } : {}), events: [event] },
    });
    await accept(sent, [event]);
    await merge();
  }

  /** Signs with full name and password instead of a drawing. */
  async function signByName(
    role: 'trainer' | 'operator',
    name: string,
    login: string,
    password: string,
  ): Promise<void> {
    await allSent();
    const sent = await call(routes.signByName, {
      params: { id },
      body: { id: uuidv7(), device: deviceName(), role, name, login, password },
    });
    if (sent.certificate) token.value = sent.certificate.token;
    await load();
  }

  /** A second account agrees to an outcome that lifts a critical error or a missed planted stop. */
  async function agree(outcome: Decided, words: string, login: string, password: string): Promise<void> {
    await allSent();
    await call(routes.agree, { params: { id }, body: { id: uuidv7(), outcome, words, login, password } });
    await load();
  }

  async function takeOver(reason: string): Promise<void> {
    await call(routes.holdEvaluation, { params: { id }, body: { device: deviceName(), takeOver: reason } });
    heldBy.value = null;
    await outbox.retry(id);
    await load();
  }

  async function retryAside(): Promise<void> {
    await outbox.retry(id);
    await merge();
  }

  async function dropAside(): Promise<void> {
    await outbox.drop(id);
    await merge();
  }

  const pack = computed(() => (opened.value?.pack ?? null) as EffectivePack | null);
  const record = computed(() => foldEvaluation(events.value));
  const appraisal = computed(() =>
    pack.value ? appraise(pack.value, record.value, opened.value?.earlierStarts ?? []) : null,
  );
  /** Whether whoever evaluates is calibrated; null where nobody asks, and in what a device kept of before. */
  const evaluator = computed(() => {
    const said = opened.value?.evaluator;
    return said && (said.state !== 'not-asked' || said.last !== null) ? said : null;
  });
  const readOnly = computed(() => !working.value || heldBy.value !== null || record.value.decision !== null);

  return {
    opened,
    pack,
    events,
    record,
    appraisal,
    error,
    lost,
    heldBy,
    aside,
    unsent,
    token,
    evaluator,
    readOnly,
    working,
    load,
    merge,
    tap,
    undo,
    settle,
    signByName,
    agree,
    takeOver,
    retryAside,
    dropAside,
  };
}

export type OpenEvaluation = ReturnType<typeof useEvaluation>;
