import { exerciseRoutes, type ExerciseView } from '@rounds/contract/exercise';
import { onBeforeUnmount, shallowRef, watch } from 'vue';
import { listen } from '../device/stream';
import { useExercise } from './queries';

/**
 * A room as its trainer has it, as it happens: who joins, who has answered, where it is. After a break it is fetched
 * anew.
 */
export function useRoom(id: string) {
  const query = useExercise(() => id);
  const room = shallowRef<ExerciseView | null>(null);
  watch(
    () => query.data.value,
    (now) => {
      if (now) room.value = now;
    },
    { immediate: true },
  );
  const stop = listen(exerciseRoutes.followExercise, { params: { id } }, (event) => {
    if (event.kind !== 'answered') return void query.refetch();
    const now = room.value;
    if (!now || now.n !== event.n) return;
    room.value = {
      ...now,
      participants: now.participants.map((each) =>
        each.id === event.participant ? { ...each, answered: true } : each,
      ),
    };
  });
  onBeforeUnmount(stop);
  return {
    query,
    room,
    /** What an act of the trainer answered. */
    take: (view: ExerciseView) => (room.value = view),
  };
}
