import type { CommandView } from '@rounds/contract/commands';
import {
  type Answer,
  callsAt,
  CallWatch,
  type CommandDeal,
  type CommandStandard,
  controlsOf,
  startControls,
} from '@rounds/core/commands';
import { actsByTick, type DeskAct, type DeskPack, type LoggedAct } from '@rounds/core/machine';
import { useIntervalFn, useSessionStorage } from '@vueuse/core';
import { computed, markRaw, onBeforeUnmount, ref, shallowRef } from 'vue';
import { useMachine } from '../desk/useMachine';
import { useEndCommands } from './queries';

/** What both ways of answering have: the calls in words, and the end of a set, which is tried again until it is kept. */
function useSet(view: CommandView) {
  const controls = markRaw(controlsOf(view.pack as DeskPack)!);
  const deal = view.deal as CommandDeal;
  const known = new Map(callsAt(controls, deal.place).map((each) => [each.id, each]));
  const ending = useEndCommands();
  const problem = ref<unknown>(null);
  const key = `rounds-commands-${view.id}`;
  async function end(body: Parameters<typeof ending.mutateAsync>[0]['body']): Promise<boolean> {
    problem.value = null;
    try {
      await ending.mutateAsync({ params: { id: view.id }, body });
      return true;
    } catch (error) {
      problem.value = error;
      return false;
    }
  }
  return {
    controls,
    deal,
    standard: view.standard as CommandStandard,
    say: (id: string) => known.get(id)!.say,
    of: deal.calls.length,
    problem,
    ending: ending.isLoading,
    end,
    /** Under which what was answered is kept on the device until the set has ended, and its end. */
    key,
    forget: () => sessionStorage.removeItem(key),
  };
}

/**
 * A set called on a machine: one call at a time, and what the trainer tapped of each, with the seconds from the call to
 * the tap. Kept on the device until the end, so that a reload loses nothing but the call that stood.
 */
export function useCalling(view: CommandView) {
  const set = useSet(view);
  const answers = useSessionStorage<Answer[]>(set.key, []);
  /** When the call that stands was made, by the device's own clock; null between calls. */
  const called = ref<number | null>(null);
  const running = ref(false);
  /** Seconds for which the call has stood. */
  const stood = ref(0);
  let timer: ReturnType<typeof setTimeout> | undefined;
  const over = computed(() => answers.value.length >= set.of);
  const call = computed(() =>
    called.value === null || over.value ? null : set.say(set.deal.calls[answers.value.length]!),
  );

  function next(): void {
    clearTimeout(timer);
    called.value = null;
    stood.value = 0;
    if (over.value || !running.value) return;
    const pause = set.deal.pauses[answers.value.length] ?? 1;
    timer = setTimeout(() => (called.value = performance.now()), pause * 1000);
  }
  function start(): void {
    running.value = true;
    next();
  }
  function pause(): void {
    running.value = false;
    next();
  }
  function tap(kind: Exclude<Answer['kind'], 'missed'>): void {
    if (called.value === null || over.value) return;
    const seconds = Math.round((performance.now() - called.value) / 100) / 10;
    answers.value = [...answers.value, { call: set.deal.calls[answers.value.length]!, kind, seconds }];
    next();
  }
  /** Takes the last answer back: its call is made once more. */
  function back(): void {
    answers.value = answers.value.slice(0, -1);
    next();
  }
  useIntervalFn(() => {
    if (called.value !== null) stood.value = (performance.now() - called.value) / 1000;
  }, 100);
  onBeforeUnmount(() => clearTimeout(timer));
  async function end(): Promise<boolean> {
    pause();
    const done = await set.end({ calledAt: 'machine', answers: answers.value });
    if (done) set.forget();
    return done;
  }
  return { ...set, answers, call, running, over, stood, start, pause, tap, back, end };
}

/** A set at the desk: the controls run here by a clock of their own, and what is done with them is kept until the end. */
export function useCallsAtDesk(view: CommandView) {
  const set = useSet(view);
  const { machine } = set.controls;
  const kept = useSessionStorage<{ log: LoggedAct[]; ticks: number }>(set.key, {
    log: [],
    ticks: 0,
  });
  const log: LoggedAct[] = [...kept.value.log];
  const watch = new CallWatch(set.controls, set.deal, set.standard.seconds);
  const current = shallowRef(watch.current);
  const answers = shallowRef<Answer[]>([]);
  const own = useMachine(machine, startControls(set.controls, set.deal.place), {
    speed: 0,
    holds: () => watch.over,
    stepped(before, next, acts) {
      watch.take(before, next, acts);
      if (current.value !== watch.current) current.value = watch.current;
      if (answers.value.length === watch.answers.length) return;
      answers.value = [...watch.answers];
      kept.value = { log: [...log], ticks: next.tick };
    },
  });
  const { state, speed } = own;
  const byTick = actsByTick(log);
  const until = kept.value.ticks;
  while (state.value.tick < until) own.step(byTick.get(state.value.tick + 1) ?? []);

  function act(does: DeskAct, says: string): boolean {
    if (speed.value === 0 || watch.over) {
      own.tell('Press Start first.', true);
      return false;
    }
    // Before it is done, so that it is kept with the answer that it gives.
    log.push({ tick: state.value.tick + 1, act: does });
    if (own.act(does, says)) return true;
    log.pop();
    return false;
  }
  async function end(): Promise<boolean> {
    speed.value = 0;
    kept.value = { log: [...log], ticks: state.value.tick };
    const done = await set.end({ calledAt: 'desk', log: log as never[], ticks: state.value.tick });
    if (done) set.forget();
    return done;
  }
  return {
    ...set,
    ...own,
    act,
    answers,
    call: computed(() => current.value?.say ?? null),
    over: computed(() => answers.value.length >= set.of),
    running: computed(() => speed.value > 0),
    start: () => (speed.value = 1),
    pause: () => (speed.value = 0),
    end,
  };
}
