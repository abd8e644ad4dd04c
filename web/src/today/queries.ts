import { assessRoutes } from '@rounds/contract/assess';
import { peopleRoutes } from '@rounds/contract/people';
import { todayRoutes } from '@rounds/contract/today';
import { useRouteQuery } from '../device/query';

/** What needs attention this morning. */
export const useToday = () => useRouteQuery(todayRoutes.today, () => ({}));

/** The record of whoever is signed in as an operator; asks nothing for ''. */
export const useOwnRecord = (personId: () => string) =>
  useRouteQuery(peopleRoutes.person, () => (personId() === '' ? null : { params: { id: personId() } }));

/** Why an evaluation came out as it did; asks nothing for ''. */
export const useAppraisal = (id: () => string) =>
  useRouteQuery(assessRoutes.appraisal, () => (id() === '' ? null : { params: { id: id() } }));
