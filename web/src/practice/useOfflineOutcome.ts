import type { DrillOutcome } from '@rounds/contract/practice';
import { drillResult, drillStations } from '@rounds/core/drill';
import { shallowRef } from 'vue';
import { ownProblem } from '../device/api';
import { useSession } from '../device/session';
import { hasEnded, openOffline } from './offlineDrills';

/** What became of a drill of this device, worked out here from its acts. */
export function useOfflineOutcome(id: string) {
  const { account } = useSession();
  const data = shallowRef<DrillOutcome | undefined>();
  const error = shallowRef<unknown>(null);
  async function refetch() {
    try {
      const { drill, pack, deal } = await openOffline(account!, id);
      if (!hasEnded(drill)) throw new RangeError('This drill has not ended, so it says nothing yet.');
      data.value = {
        id,
        classId: drill.classId,
        classTitle: pack.title,
        form: drill.form,
        person: null,
        endedAt: drill.startedAt,
        result: drillResult(pack, deal, drill.acts),
        stations: drillStations(pack, deal).map((each) => ({ id: each.id, name: each.name })),
        plan: pack.plan,
        unmet: [],
        earlier: [],
        offline: true,
      };
    } catch (failure) {
      error.value =
        failure instanceof RangeError
          ? ownProblem('not-found', 'Not on this device', failure.message)
          : failure;
    }
  }
  void refetch();
  return { data, error, refetch };
}
