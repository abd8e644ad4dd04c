import { ref } from 'vue';

const ready = ref(false);
let waiting: ServiceWorker | null = null;

function offer(worker: ServiceWorker): void {
  waiting = worker;
  ready.value = true;
}

/**
 * Registers the worker that opens the application without a network. A newer one waits until somebody takes
 * it up.
 */
export async function registerWorker(): Promise<void> {
  const registration = await navigator.serviceWorker.register('/sw.js');
  // Without a controller this is the first visit, and nothing older runs.
  const isNewer = () => navigator.serviceWorker.controller !== null;
  if (registration.waiting && isNewer()) offer(registration.waiting);
  registration.addEventListener('updatefound', () => {
    const found = registration.installing;
    found?.addEventListener('statechange', () => {
      if (found.state === 'installed' && isNewer()) offer(found);
    });
  });
  let reloading = false;
  navigator.serviceWorker.addEventListener('controllerchange', () => {
    if (!ready.value || reloading) return;
    reloading = true;
    location.reload();
  });
}

/** Whether a newer version waits, and how to take it up: the page loads again with it. */
export function useNewVersion() {
  return { ready, takeUp: () => waiting?.postMessage({ type: 'SKIP_WAITING' }) };
}
