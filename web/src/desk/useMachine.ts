import {
  actProblem,
  type DeskAct,
  type Machine,
  type MachineState,
  placesOf,
  readingOf,
  tickMachine,
  TICKS,
} from '@rounds/core/machine';
import { useDocumentVisibility, useIntervalFn } from '@vueuse/core';
import { computed, markRaw, ref, shallowRef } from 'vue';

/** How fast the machine's clock runs beside the one on the wall; 0 holds it. */
const SPEEDS = [0, 1, 10, 60] as const;
export type Speed = (typeof SPEEDS)[number];
/** The same to choose from. */
export const SPEED_CHOICES = SPEEDS.map((value) => ({ value, label: value === 0 ? 'Pause' : `×${value}` }));

/** How long a tick of the machine lasts at its own speed, in milliseconds. */
const FRAME = 1000 / TICKS;
/** What was done last, and what could not be done, that is still told. */
const MOST_TOLD = 30;

interface Running {
  /** Hears of every tick. */
  stepped?: (before: MachineState, state: MachineState, acts: readonly DeskAct[]) => void;
  /** Hears when the clock has moved on. */
  moved?: () => void;
  /** The clock stands still. */
  holds?: () => boolean;
  speed?: Speed;
}

/** A machine that runs here, by its clock: what it reads, where somebody is, and what is done with it. */
export function useMachine(built: Machine, start: MachineState, options: Running = {}) {
  const machine = markRaw(built);
  const state = shallowRef(start);
  const speed = ref<Speed>(options.speed ?? 1);
  /** What was done last, newest first, in words; `refused` could not be done. */
  const told = ref<{ tick: number; says: string; refused: boolean }[]>([]);
  const tell = (says: string, refused: boolean) =>
    (told.value = [{ tick: state.value.tick, says, refused }, ...told.value].slice(0, MOST_TOLD));

  function step(acts: readonly DeskAct[]): void {
    const before = state.value;
    const next = tickMachine(machine, before, acts);
    options.stepped?.(before, next, acts);
    state.value = next;
  }
  /** Does something now; what cannot be done is told and changes nothing. */
  function act(does: DeskAct, says: string): boolean {
    const why = actProblem(machine, state.value, does);
    if (why === null) step([does]);
    tell(why ?? says, why !== null);
    return why === null;
  }

  // The clock: whole ticks for the time that has gone by, so that a slow device runs late and never otherwise.
  const seen = useDocumentVisibility();
  let owed = 0;
  let last = performance.now();
  useIntervalFn(() => {
    const now = performance.now();
    const gone = Math.min(1000, now - last);
    last = now;
    if (speed.value === 0 || seen.value === 'hidden' || options.holds?.()) return;
    owed += (gone / FRAME) * speed.value;
    for (; owed >= 1 && !options.holds?.(); owed -= 1) step([]);
    options.moved?.();
  }, FRAME);

  const place = computed(() => String(readingOf(machine, state.value, 'place')));
  const helpers = new Set(machine.desk.places.filter((each) => each.helper).map((each) => each.id));
  return {
    machine,
    state,
    speed,
    told,
    tell,
    step,
    act,
    place,
    isHere: (at: string | readonly string[]) =>
      placesOf(at).some((each) => each === place.value || helpers.has(each)),
    read: (name: string) => readingOf(machine, state.value, name),
  };
}

/** A machine that runs here: what is shown of it and done with it, whatever it is for. */
export type RunningMachine = ReturnType<typeof useMachine>;
