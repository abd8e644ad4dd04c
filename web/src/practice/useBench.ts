import type { AnsweredCase, BenchView } from '@rounds/contract/bench';
import type { BenchAnswer } from '@rounds/core/bench';
import { computed, ref, shallowRef, watch } from 'vue';
import { useAnswerBench, useBenchView, useEndBench } from './queries';

/** A bench as its learner goes through it: the case that is put, or the one just answered with its key. */
export function useBench(id: string) {
  const fetched = useBenchView(() => id);
  const answer = useAnswerBench();
  const ending = useEndBench();
  const bench = shallowRef<BenchView | null>(null);
  /** The case whose key is on show; null while one is to be answered. */
  const shown = shallowRef<AnsweredCase | null>(null);
  const problem = ref<unknown>(null);
  watch(
    () => fetched.data.value,
    (now) => (bench.value ??= now ?? null),
    { immediate: true },
  );
  const now = computed(() => (shown.value ? null : (bench.value?.now ?? null)));
  const over = computed(() => shown.value === null && (bench.value?.ended ?? false));

  async function tell(given: BenchAnswer | { choice: number }, seconds: number | null): Promise<boolean> {
    const put = now.value;
    if (!put || answer.isLoading.value) return false;
    problem.value = null;
    try {
      bench.value = await answer.mutateAsync({ params: { id }, body: { n: put.n, answer: given, seconds } });
      shown.value = bench.value.answered.find((each) => each.n === put.n) ?? null;
      return true;
    } catch (error) {
      problem.value = error;
      return false;
    }
  }
  async function end() {
    problem.value = null;
    try {
      bench.value = await ending.mutateAsync({ params: { id } });
      shown.value = null;
    } catch (error) {
      problem.value = error;
    }
  }
  return {
    bench,
    error: fetched.error,
    refetch: () => fetched.refetch(),
    now,
    shown,
    over,
    problem,
    busy: computed(() => answer.isLoading.value || ending.isLoading.value),
    tell,
    next: () => (shown.value = null),
    end,
  };
}
