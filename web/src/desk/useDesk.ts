import type { DeskView } from '@rounds/contract/desk';
import {
  askedOf,
  type DeskAct,
  type DeskDeal,
  type DeskPack,
  dealtMachine,
  type LoggedAct,
  machineOf,
  MOST_DESK_ACTS,
  MOST_TICKS,
  offerWords,
  Recogniser,
  TICKS,
} from '@rounds/core/machine';
import { judge, likelyNext, session as sessionOf } from '@rounds/core/procedure';
import { useIntervalFn, useSessionStorage } from '@vueuse/core';
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue';
import { ownProblem } from '../device/api';
import { useEndDesk, useKeepDesk } from './queries';
import { useMachine } from './useMachine';

/** How often what was done is sent to be kept, in milliseconds. */
const KEEP_EVERY = 4000;

/**
 * A run at the desk: the machine runs here, by its clock; what is done is kept on the device at once and sent to the
 * server every few seconds, which runs it anew to judge it.
 */
export function useDesk(view: DeskView) {
  const pack = view.pack as DeskPack;
  const deal = view.deal as DeskDeal;
  const machine = machineOf(pack)!;
  const session = sessionOf(pack, deal.procedures);
  const recogniser = new Recogniser(machine, session);

  /** What this device has of the run; after a reload it may be more than the server has. */
  const kept = useSessionStorage<{ log: LoggedAct[]; ticks: number }>(`rounds-desk-${view.id}`, {
    log: [],
    ticks: 0,
  });
  const more = kept.value.ticks > view.ticks && kept.value.log.length >= view.log.length;
  const log: LoggedAct[] = [...(more ? kept.value.log : (view.log as LoggedAct[]))];
  const problem = ref<unknown>(null);
  const full = computed(() => state.value.tick >= MOST_TICKS || log.length >= MOST_DESK_ACTS);
  const running = useMachine(machine, dealtMachine(machine, deal), {
    stepped: (before, next, acts) => recogniser.take(before, next, acts),
    moved: () => look(),
    holds: () => full.value || card.value !== null,
  });
  const { state, speed, step } = running;
  /** What is asked just now, with what may be answered; the clock stands until it is. */
  const card = computed(() => {
    const { tick } = state.value;
    const up = deal.cards?.find(
      (each) =>
        each.tick <= tick && !log.some(({ act: done }) => done.kind === 'answer' && done.rule === each.rule),
    );
    const asked = up ? askedOf(machine.desk, up.rule) : null;
    return up && asked
      ? {
          rule: up.rule,
          says: asked.says,
          offers: up.offers.map((n) => ({ n, says: offerWords(asked, n)! })),
        }
      : null;
  });
  const events = shallowRef(recogniser.trace(state.value).events);

  // Taken up where it was left.
  const until = more ? kept.value.ticks : view.ticks;
  for (let at = 0; state.value.tick < until;) {
    const acts: DeskAct[] = [];
    while (at < log.length && log[at]!.tick === state.value.tick + 1) acts.push(log[at++]!.act);
    step(acts);
  }
  events.value = recogniser.trace(state.value).events;

  /** Does something now; what cannot be done is told and changes nothing. */
  function act(does: DeskAct, says: string): boolean {
    if (full.value) {
      problem.value = ownProblem(
        'desk-run',
        'This run is as long as one may be',
        'End it and begin another one.',
      );
      return false;
    }
    if (!running.act(does, says)) return false;
    log.push({ tick: state.value.tick, act: does });
    kept.value = { log: [...log], ticks: state.value.tick };
    look();
    return true;
  }
  function look(): void {
    const now = recogniser.trace(state.value).events;
    if (now.length !== events.value.length) events.value = now;
  }

  // Keeping: nothing is lost without a network, and what could not be sent is sent with the next.
  const send = useKeepDesk();
  const ending = useEndDesk();
  const unsent = ref(false);
  let sent = view.ticks;
  let ended = false;
  const worked = () => ({ log: log as never[], ticks: state.value.tick });
  async function keep(): Promise<void> {
    if (ended || send.isLoading.value || state.value.tick === sent) return;
    const body = worked();
    kept.value = { log: [...log], ticks: body.ticks };
    try {
      await send.mutateAsync({ params: { id: view.id }, body: { ...body, log: [...body.log] } });
      sent = body.ticks;
      unsent.value = false;
    } catch (error) {
      if ((error as { code?: string }).code === 'offline') unsent.value = true;
      else problem.value = error;
    }
  }
  useIntervalFn(() => void keep(), KEEP_EVERY);
  onBeforeUnmount(() => void keep());

  /** Ends the run; answers whether it did. */
  async function end(): Promise<boolean> {
    problem.value = null;
    speed.value = 0;
    ended = true;
    try {
      await ending.mutateAsync({ params: { id: view.id }, body: worked() });
      kept.value = null;
      return true;
    } catch (error) {
      ended = false;
      problem.value = error;
      return false;
    }
  }

  const judgement = computed(() => {
    void events.value;
    return judge(pack, deal.procedures, { ...recogniser.trace(state.value), ended: null });
  });
  return {
    ...running,
    pack,
    deal,
    session,
    problem,
    unsent,
    full,
    card,
    act,
    end,
    ending: ending.isLoading,
    judgement,
    trace: computed(() => {
      void events.value;
      return recogniser.trace(state.value);
    }),
    next: computed(() => likelyNext(judgement.value)),
    seconds: computed(() => state.value.tick / TICKS),
  };
}

export type Desk = ReturnType<typeof useDesk>;
