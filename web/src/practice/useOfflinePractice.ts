import { useQueryCache } from '@pinia/colada';
import { onScopeDispose, ref, shallowRef } from 'vue';
import { useSession } from '../device/session';
import {
  bringDrills,
  dropClass,
  dropDrill,
  hasEnded,
  keepClass,
  type KeptClass,
  keptClasses,
  type OfflineDrill,
  offlineDrills,
} from './offlineDrills';

/** What this device keeps for practice without a network, and the drills on it that the server has not yet. */
export function useOfflinePractice() {
  const { account } = useSession();
  const cache = useQueryCache();
  const kept = shallowRef<KeptClass[]>([]);
  const drills = shallowRef<OfflineDrill[]>([]);
  const problem = ref<unknown>(null);
  const busy = ref(false);

  async function refresh() {
    kept.value = await keptClasses(account!);
    drills.value = await offlineDrills(account!);
  }
  /** Does something to what is kept, shows what went wrong, and looks again. */
  async function after(work: () => Promise<unknown>) {
    problem.value = null;
    busy.value = true;
    try {
      await work();
    } catch (error) {
      problem.value = error;
    } finally {
      busy.value = false;
    }
    await refresh();
  }
  async function bring() {
    if (!drills.value.some((each) => hasEnded(each) && each.refused === null)) return;
    if ((await bringDrills(account!)) > 0) await cache.invalidateQueries({ key: ['practice'] });
    await refresh();
  }
  const again = () => void bring();
  addEventListener('online', again);
  onScopeDispose(() => removeEventListener('online', again));
  void refresh().then(bring);

  return {
    kept,
    drills,
    problem,
    busy,
    isKept: (classId: string, variant: string) =>
      kept.value.some((each) => each.classId === classId && each.variant === variant),
    keep: (chosen: Parameters<typeof keepClass>[1], variant: string) =>
      after(() => keepClass(account!, chosen, variant)),
    drop: (one: KeptClass) => after(() => dropClass(account!, one)),
    leave: (id: string) => after(() => dropDrill(id)),
  };
}
