import { deskRoutes } from '@rounds/contract/desk';
import { useRouteMutation, useRouteQuery } from '../device/query';

export const useStartDesk = () => useRouteMutation(deskRoutes.startDesk, ['practice']);
/** A run at the desk of one's own, as far as it has gone. */
export const useDeskView = (id: () => string) =>
  useRouteQuery(deskRoutes.desk, () => ({ params: { id: id() } }), { staleTime: Infinity });
/** What was done so far; nobody else sees it before it ends. */
export const useKeepDesk = () => useRouteMutation(deskRoutes.keepDesk, []);
export const useEndDesk = () => useRouteMutation(deskRoutes.endDesk, ['practice']);
export const useDeskOutcome = (id: () => string) =>
  useRouteQuery(deskRoutes.deskOutcome, () => ({ params: { id: id() } }));
