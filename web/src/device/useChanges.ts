import { useQueryCache } from '@pinia/colada';
import { changeRoutes } from '@rounds/contract/changes';
import { useDocumentVisibility } from '@vueuse/core';
import { onScopeDispose, watch } from 'vue';
import { listen } from './stream';

/**
 * Fetches anew what is on the screen when somebody else changed it. Only a window that is seen listens: a
 * browser has few connections to a server. What was missed meanwhile is fetched when it is seen again.
 */
export function useChanges(signedIn: () => boolean): void {
  const cache = useQueryCache();
  const visibility = useDocumentVisibility();
  let stop: (() => void) | null = null;
  let wasHidden = false;

  watch(
    () => signedIn() && visibility.value === 'visible',
    (listens) => {
      stop?.();
      stop = null;
      if (!listens) {
        wasHidden ||= signedIn();
        return;
      }
      stop = listen(changeRoutes.changes, {}, ({ areas }) => {
        for (const area of areas) void cache.invalidateQueries({ key: [area] });
      });
      if (wasHidden) void cache.invalidateQueries();
      wasHidden = false;
    },
    { immediate: true },
  );
  onScopeDispose(() => stop?.());
}
