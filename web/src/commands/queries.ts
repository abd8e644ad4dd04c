import { commandRoutes } from '@rounds/contract/commands';
import { useRouteMutation, useRouteQuery } from '../device/query';

export const useStartCommands = () => useRouteMutation(commandRoutes.startCommands, ['practice']);
/** A set of commands of one's own as it was dealt. */
export const useCommandView = (id: () => string) =>
  useRouteQuery(commandRoutes.commands, () => ({ params: { id: id() } }), { staleTime: Infinity });
export const useEndCommands = () => useRouteMutation(commandRoutes.endCommands, ['practice']);
export const useCommandOutcome = (id: () => string) =>
  useRouteQuery(commandRoutes.commandOutcome, () => ({ params: { id: id() } }));
