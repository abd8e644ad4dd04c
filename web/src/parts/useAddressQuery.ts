import { onScopeDispose } from 'vue';
import { type LocationQueryRaw, useRouter } from 'vue-router';

/**
 * Writes what a screen shows into the query of its address, so that it can be kept, sent and come back to. What is
 * written late (a search that settles) never calls back somebody who is already on the way to another screen.
 */
export function useAddressQuery(): (query: LocationQueryRaw) => void {
  const router = useRouter();
  const here = router.currentRoute.value.path;
  let leaving = false;
  const stops = [
    router.beforeEach((to) => {
      leaving = to.path !== here;
    }),
    router.afterEach(() => {
      leaving = router.currentRoute.value.path !== here;
    }),
  ];
  onScopeDispose(() => stops.forEach((stop) => stop()));
  return (query) => {
    if (!leaving) void router.replace({ query });
  };
}
