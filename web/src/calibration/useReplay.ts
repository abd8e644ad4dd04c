import type { CalibrationView } from '@rounds/contract/calibration';
import type { ReplayScore } from '@rounds/core/calibration';
import { useIntervalFn, useSessionStorage } from '@vueuse/core';
import { computed, ref, watch } from 'vue';
import { useSession } from '../device/session';
import { useKeepScores } from './queries';

/** Where a replay is: the moments seen so far, played in time or stepped; kept over a reload of the page. */
export function useReplay(id: string, view: () => CalibrationView | null) {
  const account = useSession().account?.id ?? '';
  const kept = useSessionStorage(`rounds-replay-${account}-${id}`, { clock: 0, seen: 0 });
  const playing = ref(false);
  const moments = computed(() => view()?.moments ?? []);
  const seen = computed(() => moments.value.slice(0, kept.value.seen));
  const now = computed(() => seen.value.at(-1) ?? null);
  const over = computed(() => moments.value.length > 0 && kept.value.seen >= moments.value.length);
  const { pause, resume } = useIntervalFn(
    () => {
      const clock = kept.value.clock + 1;
      const passed = moments.value.filter((each) => each.at <= clock).length;
      kept.value = { clock, seen: Math.max(kept.value.seen, passed) };
      if (over.value) playing.value = false;
    },
    1000,
    { immediate: false },
  );
  watch(playing, (plays) => (plays ? resume() : pause()));
  /** Goes one moment on or back; the clock goes with it. */
  function step(by: 1 | -1) {
    playing.value = false;
    const at = Math.min(moments.value.length, Math.max(0, kept.value.seen + by));
    kept.value = { seen: at, clock: moments.value[at - 1]?.at ?? 0 };
  }
  return { seen, now, over, playing, clock: computed(() => kept.value.clock), step };
}

/**
 * What the evaluator gives. Each tap is shown at once and sent; what did not reach the server is kept on this device
 * for this account and sent with the next.
 */
export function useScores(id: string, view: () => CalibrationView | null) {
  const account = useSession().account?.id ?? '';
  const unsent = useSessionStorage<Record<string, ReplayScore>>(`rounds-scores-${account}-${id}`, {});
  const sent = ref<Record<string, ReplayScore>>({});
  const send = useKeepScores();
  const problem = ref<unknown>(null);
  const way = ref<'in-time' | 'stepped'>('stepped');
  watch(
    view,
    (now) => {
      if (!now?.mine) return;
      sent.value = { ...now.mine.scores, ...sent.value };
      way.value = now.mine.way;
    },
    { immediate: true },
  );
  const scores = computed<Record<string, ReplayScore>>(() => ({ ...sent.value, ...unsent.value }));
  let sending: Promise<void> | null = null;
  async function once(): Promise<void> {
    const scored = { ...unsent.value };
    if (Object.keys(scored).length === 0) return;
    try {
      await send.mutateAsync({ params: { id }, body: { scores: scored, way: way.value } });
      problem.value = null;
      sent.value = { ...sent.value, ...scored };
      // What was changed while it was on its way stays to be sent.
      unsent.value = Object.fromEntries(
        Object.entries(unsent.value).filter(([key, value]) => scored[key] !== value),
      );
    } catch (error) {
      problem.value = error;
    }
  }
  /** Sends what waits, one request after the other; true where nothing waits any more. */
  async function flush(): Promise<boolean> {
    for (;;) {
      sending ??= once().finally(() => (sending = null));
      await sending;
      if (problem.value !== null) return false;
      if (Object.keys(unsent.value).length === 0) return true;
    }
  }
  function give(criterion: string, score: ReplayScore) {
    unsent.value = { ...unsent.value, [criterion]: score };
    void flush();
  }
  return { scores, give, flush, problem, way, waiting: computed(() => Object.keys(unsent.value).length) };
}
