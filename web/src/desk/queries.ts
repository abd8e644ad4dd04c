import { useQueryCache } from '@pinia/colada';
import { deskRoutes } from '@rounds/contract/desk';
import type { RouteInput } from '@rounds/contract/route';
import { routeKey, useRouteMutation, useRouteQuery } from '../device/query';

/** Begins a run: its screen is opened with what the server answers, and waits for nothing else. */
export function useStartDesk() {
  const cache = useQueryCache();
  const { mutateAsync, isLoading } = useRouteMutation(deskRoutes.startDesk, []);
  async function begin(body: RouteInput<typeof deskRoutes.startDesk>['body']) {
    const view = await mutateAsync({ body });
    // Nobody waits for the lists of the screen that is left.
    void Promise.allSettled([cache.invalidateQueries({ key: ['practice'] })]);
    cache.setQueryData(routeKey(deskRoutes.desk, { params: { id: view.id } }), view);
    return view;
  }
  return { begin, isLoading };
}
/** A run at the desk of one's own, as far as it has gone. */
export const useDeskView = (id: () => string) =>
  useRouteQuery(deskRoutes.desk, () => ({ params: { id: id() } }), { staleTime: Infinity });
/** What was done so far; nobody else sees it before it ends. */
export const useKeepDesk = () => useRouteMutation(deskRoutes.keepDesk, []);
export const useEndDesk = () => useRouteMutation(deskRoutes.endDesk, ['practice']);
export const useDeskOutcome = (id: () => string) =>
  useRouteQuery(deskRoutes.deskOutcome, () => ({ params: { id: id() } }));
