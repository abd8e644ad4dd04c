import type { DeskView } from '@rounds/contract/desk';
import {
  actProblem,
  type DeskAct,
  type DeskDeal,
  type DeskPack,
  dealtMachine,
  type LoggedAct,
  machineOf,
  type MachineState,
  MOST_DESK_ACTS,
  MOST_TICKS,
  placesOf,
  readingOf,
  Recogniser,
  tickMachine,
  TICKS,
} from '@rounds/core/machine';
import { judge, likelyNext, session as sessionOf } from '@rounds/core/procedure';
import { useDocumentVisibility, useIntervalFn, useSessionStorage } from '@vueuse/core';
import { computed, markRaw, onBeforeUnmount, ref, shallowRef } from 'vue';
import { ownProblem } from '../device/api';
import { useEndDesk, useKeepDesk } from './queries';

/** How fast the machine's clock runs beside the one on the wall; 0 holds it. */
export const SPEEDS = [0, 1, 10, 60] as const;
export type Speed = (typeof SPEEDS)[number];

/** How often what was done is sent to be kept, in milliseconds. */
const KEEP_EVERY = 4000;
/** How long a tick of the machine lasts at its own speed, in milliseconds. */
const FRAME = 1000 / TICKS;

/**
 * A run at the desk: the machine runs here, by its clock; what is done is kept on the device at once and sent to the
 * server every few seconds, which runs it anew to judge it.
 */
export function useDesk(view: DeskView) {
  const pack = view.pack as DeskPack;
  const deal = view.deal as DeskDeal;
  const machine = markRaw(machineOf(pack)!);
  const session = sessionOf(pack, deal.procedures);
  const recogniser = new Recogniser(machine, session);

  /** What this device has of the run; after a reload it may be more than the server has. */
  const kept = useSessionStorage<{ log: LoggedAct[]; ticks: number }>(`rounds-desk-${view.id}`, {
    log: [],
    ticks: 0,
  });
  const more = kept.value.ticks > view.ticks && kept.value.log.length >= view.log.length;
  const log: LoggedAct[] = [...(more ? kept.value.log : (view.log as LoggedAct[]))];
  const state = shallowRef<MachineState>(dealtMachine(machine, deal));
  /** What was done last, newest first, in words; `refused` could not be done. */
  const told = ref<{ tick: number; says: string; refused: boolean }[]>([]);
  const speed = ref<Speed>(1);
  const problem = ref<unknown>(null);
  const events = shallowRef(recogniser.trace(state.value).events);

  function step(acts: readonly DeskAct[]): void {
    const before = state.value;
    const next = tickMachine(machine, before, acts);
    recogniser.take(before, next, acts);
    state.value = next;
  }
  // Taken up where it was left.
  const until = more ? kept.value.ticks : view.ticks;
  for (let at = 0; state.value.tick < until;) {
    const acts: DeskAct[] = [];
    while (at < log.length && log[at]!.tick === state.value.tick + 1) acts.push(log[at++]!.act);
    step(acts);
  }
  events.value = recogniser.trace(state.value).events;

  const full = computed(() => state.value.tick >= MOST_TICKS || log.length >= MOST_DESK_ACTS);

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
    const why = actProblem(machine, state.value, does);
    if (why !== null) {
      told.value = [{ tick: state.value.tick, says: why, refused: true }, ...told.value].slice(0, 30);
      return false;
    }
    step([does]);
    log.push({ tick: state.value.tick, act: does });
    kept.value = { log: [...log], ticks: state.value.tick };
    told.value = [{ tick: state.value.tick, says, refused: false }, ...told.value].slice(0, 30);
    look();
    return true;
  }
  function look(): void {
    const now = recogniser.trace(state.value).events;
    if (now.length !== events.value.length) events.value = now;
  }

  // The clock: whole ticks for the time that has gone by, so that a slow device runs late and never otherwise.
  const seen = useDocumentVisibility();
  let owed = 0;
  let last = performance.now();
  useIntervalFn(() => {
    const now = performance.now();
    const gone = Math.min(1000, now - last);
    last = now;
    if (speed.value === 0 || full.value || seen.value === 'hidden') return;
    owed += (gone / FRAME) * speed.value;
    for (; owed >= 1 && state.value.tick < MOST_TICKS; owed -= 1) step([]);
    look();
  }, FRAME);

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

  const place = computed(() => String(readingOf(machine, state.value, 'place')));
  const helpers = new Set(machine.desk.places.filter((each) => each.helper).map((each) => each.id));
  const isHere = (at: string | readonly string[]) =>
    placesOf(at).some((each) => each === place.value || helpers.has(each));
  const judgement = computed(() => {
    void events.value;
    return judge(pack, deal.procedures, { ...recogniser.trace(state.value), ended: null });
  });
  return {
    pack,
    deal,
    machine,
    session,
    state,
    told,
    speed,
    problem,
    unsent,
    full,
    act,
    end,
    ending: ending.isLoading,
    place,
    isHere,
    judgement,
    trace: computed(() => {
      void events.value;
      return recogniser.trace(state.value);
    }),
    next: computed(() => likelyNext(judgement.value)),
    seconds: computed(() => state.value.tick / TICKS),
    read: (name: string) => readingOf(machine, state.value, name),
  };
}

export type Desk = ReturnType<typeof useDesk>;
