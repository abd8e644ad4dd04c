import { routes, type RouteAnswer } from '@rounds/contract';
import { appraise, foldEvaluation, lastUndoable, type EffectivePack, type EvaluationEvent, type EvaluationEventBody } from '@rounds/core';
import { v7 as uuidv7 } from 'uuid';
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue';
import { ApiProblem, call } from '../house/api';
import { useSession } from '../house/session';
import { deviceName, useOutbox, type Sent } from './outbox';

type Opened = RouteAnswer<typeof routes.evaluation>;

/** An open evaluation: its events (the server's and those still on this device), their fold and appraisal, and the acts of the trainer. */
export function useEvaluation(id: string) {
  const outbox = useOutbox();
  const session = useSession();
  const opened = shallowRef<Opened | null>(null);
  const events = shallowRef<EvaluationEvent[]>([]);
  const error = ref<unknown>(null);
  /** Who else holds it, when this device may only look. */
  const heldBy = ref<{ name: string; since: string } | null>(null);
  const refusals = ref<{ detail: string; code: string; event: string }[]>([]);
  const token = ref<string | null>(null);
  const working = computed(() => session.is('trainer', 'administrator'));

  async function load(): Promise<void> {
    error.value = null;
    let found: Opened;
    try {
      found = await call(routes.evaluation, { params: { id } });
      await outbox.keepDraft(id, found);
      if (working.value && found.summary.phase !== 'closed') {
        const hold = await call(routes.holdEvaluation, { params: { id }, body: { device: deviceName() } });
        heldBy.value = hold.held ? null : hold.holder;
      }
    } catch (problem) {
      const offline = problem instanceof ApiProblem && (problem.code === 'offline' || problem.code === 'not-signed-in');
      const draft = offline ? ((await outbox.draft(id)) as Opened | null) : null;
      if (!draft) {
        error.value = problem;
        return;
      }
      found = draft;
    }
    token.value = found.certificate?.token ?? null;
    await merge(found);
    opened.value = found;
  }

  /** The server's events, then those that wait here. */
  async function merge(from: Opened | null = opened.value): Promise<void> {
    const waiting = await outbox.of(id);
    const server = (from?.events ?? []).map(({ id: eventId, at, body }): EvaluationEvent => ({ id: eventId, at, body }));
    const known = new Set(server.map((each) => each.id));
    refusals.value = waiting.flatMap((each) => (each.refused ? [{ ...each.refused, event: each.event.id }] : []));
    const held = refusals.value.some((each) => each.code === 'evaluation-held');
    if (held && !heldBy.value) heldBy.value = { name: 'another trainer', since: new Date().toISOString() };
    events.value = [...server, ...waiting.map((each) => each.event).filter((each) => !known.has(each.id))];
  }

  const forget = outbox.whenSent(id, accept);
  onBeforeUnmount(forget);

  /** Takes in what the server has accepted, and keeps it on the device too, so that a reload without a network shows it. */
  async function accept(sent: Sent, accepted: readonly EvaluationEvent[]): Promise<void> {
    if (sent.certificate) token.value = sent.certificate.token;
    if (!opened.value) return;
    const known = new Set(opened.value.events.map((each) => each.id));
    const by = session.account?.name ?? '';
    opened.value = {
      ...opened.value,
      summary: sent.summary,
      events: [...opened.value.events, ...accepted.filter((each) => !known.has(each.id)).map((each) => ({ ...each, by }))],
    };
    await outbox.keepDraft(id, opened.value);
  }

  /** Records what happened: safe on this device when it resolves, then on its way to the server. */
  async function tap(...bodies: EvaluationEventBody[]): Promise<void> {
    if (heldBy.value) return;
    const at = new Date().toISOString();
    const made = bodies.map((body): EvaluationEvent => ({ id: uuidv7(), at, body }));
    events.value = [...events.value, ...made];
    await outbox.put(id, made);
  }

  async function undo(): Promise<void> {
    const last = lastUndoable(record.value);
    if (last) await tap({ kind: 'undone', event: last.id });
  }

  /** Sends a decision or signature and waits for the server's word; a refusal takes it back here and is thrown. */
  async function settle(body: EvaluationEventBody): Promise<void> {
    await outbox.flush();
    const event: EvaluationEvent = { id: uuidv7(), at: new Date().toISOString(), body };
    const sent = await call(routes.appendEvents, { params: { id }, body: { device: deviceName(), events: [event] } });
    events.value = [...events.value, event];
    await accept(sent, [event]);
  }

  async function takeOver(reason: string): Promise<void> {
    await call(routes.holdEvaluation, { params: { id }, body: { device: deviceName(), takeOver: reason } });
    heldBy.value = null;
    await outbox.retry(id);
    await load();
  }

  async function discardRefused(): Promise<void> {
    await outbox.discard(id);
    await load();
  }

  const pack = computed(() => (opened.value?.pack ?? null) as EffectivePack | null);
  const record = computed(() => foldEvaluation(events.value));
  const appraisal = computed(() => (pack.value ? appraise(pack.value, record.value, opened.value?.earlierStarts ?? []) : null));
  const readOnly = computed(() => !working.value || heldBy.value !== null || record.value.decision !== null);

  return { opened, pack, events, record, appraisal, error, heldBy, refusals, token, readOnly, working, load, merge, tap, undo, settle, takeOver, discardRefused };
}

export type OpenEvaluation = ReturnType<typeof useEvaluation>;
