import {
  type JudgedSequence,
  judgedSequence,
  openSequence,
  type SequencePart,
} from '@rounds/core/evaluation';
import {
  judgementWords,
  likelyNext,
  rulesOf,
  type RunningClock,
  runningClocks,
} from '@rounds/core/procedure';
import { useIntervalFn } from '@vueuse/core';
import { computed, ref } from 'vue';
import { clock } from '../device/clock';
import { ticksNow } from '../device/ticks';
import type { OpenEvaluation } from './useEvaluation';

/** A clock that runs by itself beside the machine, with the seconds it has run. */
export interface LiveClock extends RunningClock {
  act: string;
  seconds: number;
}

/** Tokens that are offered at once. */
const MOST_TOKENS = 8;

/**
 * The session of procedures that is stamped beside the machine: where it stands by the judge, which clocks run, and
 * the acts of the trainer. `part` is that of the evaluation, null for a practice.
 */
export function useSequence(evaluation: OpenEvaluation, part: () => SequencePart | null) {
  const { pack, record, tap } = evaluation;
  const own = computed(() => record.value.sequences.filter((each) => each.part === part()));
  const open = computed(() => {
    const found = openSequence(record.value.sequences);
    return found && found.part === part() ? found : null;
  });
  /** Another part's session that must be ended first. */
  const elsewhere = computed(() => {
    const found = openSequence(record.value.sequences);
    return found && found.part !== part() ? found : null;
  });
  const judgedOf = (sequence: (typeof own.value)[number]): JudgedSequence | null =>
    pack.value ? judgedSequence(pack.value, sequence) : null;
  const live = computed(() => (open.value ? judgedOf(open.value) : null));
  const ended = computed(() =>
    own.value.flatMap((each) => (each.endedAt === null ? [] : (judgedOf(each) ?? []))).reverse(),
  );

  const now = ref(0);
  const tick = () => {
    const at = open.value?.clock;
    if (!at) return;
    const ticks = ticksNow();
    now.value =
      at.at + Math.max(0, ticks.run === at.run ? ticks.s - at.ticks : (clock.now() - at.instant) / 1000);
  };
  useIntervalFn(tick, 200, { immediateCallback: true });
  const seconds = computed(() => Math.max(now.value, open.value?.clock.at ?? 0));

  const offered = computed(() => (live.value ? likelyNext(live.value.judgement) : []));
  const tokens = computed(() => offered.value.slice(0, MOST_TOKENS));
  const all = computed(() => live.value?.judgement.session.steps ?? []);
  const rules = computed(() => (open.value && pack.value ? rulesOf(pack.value, open.value.procedures) : []));
  const last = computed(() => open.value?.trace.events.at(-1) ?? null);
  const stepOf = (token: string) => all.value.find((each) => each.token === token) ?? null;

  const running = computed(() => {
    if (!open.value || !live.value) return [];
    const { session, explanation } = live.value.judgement;
    return runningClocks({ session, explanation, trace: open.value.trace });
  });
  const clocks = computed(() =>
    running.value.map((each): LiveClock => ({
      ...each,
      act: open.value!.trace.events[each.event]!.id,
      seconds: seconds.value - each.from,
    })),
  );

  const words = (judged: JudgedSequence) => judgementWords(judged.judgement, judged.sequence.trace);

  return {
    open,
    elsewhere,
    live,
    ended,
    seconds,
    tokens,
    all,
    rules,
    last,
    clocks,
    stepOf,
    words,
    start: (procedures: string[]) =>
      tap({
        kind: 'sequence-started',
        procedures,
        ...(part() ? { part: part()! } : {}),
        ticks: ticksNow(),
      }),
    act: (token: string) => tap({ kind: 'act', token, ticks: ticksNow() }),
    end: (act: string) => tap({ kind: 'act-ended', act, ticks: ticksNow() }),
    mark: (act: string, mark: 'done' | 'prompted' | 'wrong', failed: string[] = []) =>
      tap({ kind: 'act-marked', act, mark, ...(failed.length > 0 ? { failed } : {}) }),
    breakRule: (rule: string) => tap({ kind: 'rule-broken', rule, ticks: ticksNow() }),
    condition: (says: string, lifts: string[]) => tap({ kind: 'day-condition', says, lifts }),
    finish: () => tap({ kind: 'sequence-ended', ticks: ticksNow() }),
  };
}

export type LiveSequence = ReturnType<typeof useSequence>;
