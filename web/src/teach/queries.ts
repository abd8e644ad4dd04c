import { teachRoutes } from '@rounds/contract/teach';
import { useRouteMutation, useRouteQuery } from '../device/query';

export const usePlans = () => useRouteQuery(teachRoutes.plans, () => ({}));
export const useKeepPlan = () => useRouteMutation(teachRoutes.keepPlan, ['lesson-plans']);
export const useDropPlan = () => useRouteMutation(teachRoutes.dropPlan, ['lesson-plans']);
export const useLessons = () => useRouteQuery(teachRoutes.lessons, () => ({}));
/** A lesson and where it is; asks nothing for ''. */
export const useLesson = (id: () => string) =>
  useRouteQuery(teachRoutes.lesson, () => (id() === '' ? null : { params: { id: id() } }));
export const useStartLesson = () => useRouteMutation(teachRoutes.startLesson, ['lessons']);
export const useMoveLesson = () => useRouteMutation(teachRoutes.moveLesson, []);
export const useJoinLesson = () => useRouteMutation(teachRoutes.joinLesson, []);
export const useEndLesson = () =>
  useRouteMutation(teachRoutes.endLesson, ['lessons', 'people', 'matrix', 'today']);
