import { accountRoutes } from '@rounds/contract/accounts';
import { peopleRoutes } from '@rounds/contract/people';
import { useRouteMutation, useRouteQuery } from '../device/query';

/** People whose name or payroll number holds some words; asks nothing for ''. */
export function useFoundPeople(words: () => string) {
  return useRouteQuery(peopleRoutes.people, () =>
    words() === '' ? null : { query: { search: words(), limit: 6 } },
  );
}

/** Makes the first account of an installation. */
export const useCreateAdministrator = () => useRouteMutation(accountRoutes.createAdministrator, []);
