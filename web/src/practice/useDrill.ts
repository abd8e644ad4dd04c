import type { DrillProgress, DrillView } from '@rounds/contract/practice';
import type { Method } from '@rounds/core/catalogue';
import type { DrillAct } from '@rounds/core/drill';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';
import { useDrillAct, useDrillView } from './queries';

/** How a drill is worked: where one is, what was shown, and the acts, each sent until the server has it. */
export function useDrill(id: string) {
  const view = useDrillView(() => id);
  const send = useDrillAct();
  const drill = computed<DrillView | null>(() => view.data.value ?? null);
  const progress = ref<DrillProgress | null>(null);
  let acted = false;
  watch(
    drill,
    (found) => {
      // What was kept from before gives way to what is fetched; what this page has done itself is newer than either.
      if (found && !acted) progress.value = found.progress;
    },
    { immediate: true },
  );
  const problem = ref<unknown>(null);
  const refused = ref<string | null>(null);
  /** The act that the server has not answered; it is sent again under the same number. */
  const unanswered = ref<{ id: string; act: DrillAct } | null>(null);
  const busy = ref(false);

  async function deliver(): Promise<boolean> {
    const body = unanswered.value;
    if (!body || busy.value) return false;
    busy.value = true;
    problem.value = null;
    refused.value = null;
    try {
      const answer = await send.mutateAsync({ params: { id }, body });
      acted = true;
      progress.value = answer.progress;
      refused.value = answer.refused;
      unanswered.value = null;
      return true;
    } catch (error) {
      problem.value = error;
      // Refused by the server it will be refused again; without a server it waits.
      if ((error as { code?: string }).code !== 'offline') unanswered.value = null;
      return false;
    } finally {
      busy.value = false;
    }
  }
  /** Does an act. While one is under way, or waits for the server, nothing else is done. */
  async function act(next: DrillAct): Promise<boolean> {
    if (busy.value || unanswered.value) return false;
    unanswered.value = { id: uuidv7(), act: next };
    return deliver();
  }

  const stations = computed(() => drill.value?.stations ?? []);
  const here = computed(() => stations.value.find((each) => each.id === progress.value?.station) ?? null);
  const parts = computed(() => stations.value.flatMap((each) => each.parts));
  const callOf = (part: string) =>
    progress.value?.calls.find((each) => each.checkpoint === part)?.grade ?? null;
  const called = computed(() => progress.value?.calls.length ?? 0);
  const readingsOf = (part: string) =>
    progress.value?.readings.filter((each) => each.checkpoint === part) ?? [];
  const step = (by: number) => {
    const at = here.value ? stations.value.indexOf(here.value) : by > 0 ? -1 : 0;
    return stations.value.at((at + by + stations.value.length) % stations.value.length) ?? null;
  };
  return {
    view,
    drill,
    progress,
    problem,
    refused,
    unanswered,
    busy,
    deliver,
    stations,
    here,
    parts,
    called,
    callOf,
    readingsOf,
    goTo: (station: string) => act({ kind: 'go', station }),
    step,
    bring: (condition: string) => act({ kind: 'bring', condition }),
    tryOn: (checkpoint: string, method: Method) => act({ kind: 'try', checkpoint, method }),
    call: (checkpoint: string, grade: Extract<DrillAct, { kind: 'call' }>['grade']) =>
      act({ kind: 'call', checkpoint, grade }),
    end: () => act({ kind: 'end' }),
  };
}
