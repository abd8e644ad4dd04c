import { perceived } from '@rounds/core/machine';
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue';
import type { openPlayer } from './soundPlayer';
import type { RunningMachine } from './useMachine';

type Player = Awaited<ReturnType<typeof openPlayer>>;

/**
 * What is heard where one stands, as sound: off until it is asked for, and silent while the clock stands. Everything that
 * sounds is written among what is perceived as well.
 */
export function useDeskSound(desk: RunningMachine) {
  const on = ref(false);
  const failed = ref(false);
  const player = shallowRef<Player | null>(null);
  let gone = false;
  const specs = new Map(desk.machine.desk.shows.map((each) => [each.id, each]));
  const heard = computed(() => {
    if (!on.value || desk.speed.value === 0) return [];
    return perceived(desk.machine, desk.state.value).flatMap(({ id }) => {
      const { tone, name } = specs.get(id)!;
      return tone ? [{ id, tone, name }] : [];
    });
  });
  const key = computed(() => heard.value.map((each) => each.id).join(' '));
  watch([key, player], () => player.value?.play(new Map(heard.value.map(({ id, tone }) => [id, tone]))));

  /** Turns sound on or off; the browser lets it begin only with a press. */
  async function toggle() {
    on.value = !on.value;
    if (!on.value || player.value) return;
    try {
      // The library is fetched when it is first wanted.
      const opened = await (await import('./soundPlayer')).openPlayer();
      if (gone) opened.close();
      else player.value = opened;
    } catch {
      // No sound device, or none that the browser lets a page use: all of it is written.
      failed.value = true;
      on.value = false;
    }
  }
  onScopeDispose(() => {
    gone = true;
    player.value?.close();
  });
  return { on, failed, toggle, names: computed(() => heard.value.map((each) => each.name)) };
}
