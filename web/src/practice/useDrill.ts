import type { DrillProgress, DrillView } from '@rounds/contract/practice';
import type { Method } from '@rounds/core/catalogue';
import {
  doAct,
  doActs,
  type DrillAct,
  DrillActError,
  drillPicture,
  drillProgress,
  type DrillState,
} from '@rounds/core/drill';
import { v7 as uuidv7 } from 'uuid';
import { computed, type Ref, ref, shallowRef, watch } from 'vue';
import { ownProblem } from '../device/api';
import { useSession } from '../device/session';
import { keepAct, openOffline } from './offlineDrills';
import { useDrillAct, useDrillView } from './queries';

interface Answer {
  progress: DrillProgress;
  refused: string | null;
}
/** Where a drill comes from, and who answers its acts. */
interface DrillSource {
  drill: Readonly<Ref<DrillView | null>>;
  /** Why it cannot be shown. */
  error: Readonly<Ref<unknown>>;
  refetch: () => unknown;
  perform: (body: { id: string; act: DrillAct }) => Promise<Answer>;
}

/** A drill that the server dealt and answers. */
function servedDrill(id: string): DrillSource {
  const view = useDrillView(() => id);
  const send = useDrillAct();
  return {
    drill: computed(() => view.data.value ?? null),
    error: view.error,
    refetch: () => view.refetch(),
    perform: (body) => send.mutateAsync({ params: { id }, body }),
  };
}

/** A drill that this device dealt and answers, without a network. Every act is kept before it shows anything. */
function offlineDrill(id: string): DrillSource {
  const { account } = useSession();
  const drill = shallowRef<DrillView | null>(null);
  const error = shallowRef<unknown>(null);
  let held: (Awaited<ReturnType<typeof openOffline>> & { state: DrillState }) | null = null;
  async function open() {
    try {
      const found = await openOffline(account!, id);
      held = { ...found, state: doActs(found.pack, found.deal, found.drill.acts) };
      drill.value = {
        id,
        person: null,
        startedAt: found.drill.startedAt,
        ...drillPicture(found.pack, found.deal, held.state),
      };
    } catch (failure) {
      error.value =
        failure instanceof RangeError
          ? ownProblem('not-found', 'Not on this device', failure.message)
          : failure;
    }
  }
  void open();
  return {
    drill,
    error,
    refetch: open,
    async perform({ act }) {
      if (!held)
        throw ownProblem('not-found', 'Not on this device', 'This drill is not on this device any more.');
      try {
        const { state, answer } = doAct(held.pack, held.deal, held.state, act);
        held = { ...held, drill: await keepAct(account!, held, act), state };
        return {
          progress: drillProgress(state),
          refused: answer.kind === 'brought' ? answer.refused : null,
        };
      } catch (failure) {
        if (failure instanceof DrillActError) throw ownProblem('drill-act', 'Not possible', failure.message);
        throw failure;
      }
    },
  };
}

/** How a drill is worked: where one is, what was shown, and the acts, each sent until the server has it. */
export function useDrill(id: string, offline = false) {
  const { drill, error, refetch, perform } = offline ? offlineDrill(id) : servedDrill(id);
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
      const answer = await perform(body);
      acted = true;
      progress.value = answer.progress;
      refused.value = answer.refused;
      unanswered.value = null;
      return true;
    } catch (failure) {
      problem.value = failure;
      // Refused by the server it will be refused again; without a server it waits.
      if ((failure as { code?: string }).code !== 'offline') unanswered.value = null;
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
    error,
    refetch,
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
