import { benchRoutes } from '@rounds/contract/bench';
import { practiceRoutes } from '@rounds/contract/practice';
import { useRouteMutation, useRouteQuery } from '../device/query';

/** Classes to practise, without their faults. */
export const usePracticeClasses = () =>
  useRouteQuery(practiceRoutes.practiceClasses, () => ({}), { staleTime: 60_000 });

/** Who practised what, in one class or in all. */
export const usePracticeOverview = (wanted: () => boolean, classId: () => string) =>
  useRouteQuery(practiceRoutes.practiceOverview, () =>
    wanted() ? { query: { classId: classId() || undefined } } : null,
  );

/** A drill of one's own as far as it has gone. */
export const useDrillView = (id: () => string) =>
  useRouteQuery(practiceRoutes.drill, () => ({ params: { id: id() } }));

export const useDrillOutcome = (id: () => string) =>
  useRouteQuery(practiceRoutes.drillOutcome, () => ({ params: { id: id() } }));

export const useSetPractice = () => useRouteMutation(practiceRoutes.setPractice, ['practice']);
export const useDropPracticeSet = () => useRouteMutation(practiceRoutes.dropPracticeSet, ['practice']);
export const useStartDrill = () => useRouteMutation(practiceRoutes.startDrill, ['practice']);
/** An act within a drill; what others see changes only when it ends. */
export const useDrillAct = () => useRouteMutation(practiceRoutes.doDrillAct, []);

export const useStartBench = () => useRouteMutation(benchRoutes.startBench, ['practice']);
/** A bench of one's own as far as it is answered. */
export const useBenchView = (id: () => string) =>
  useRouteQuery(benchRoutes.bench, () => ({ params: { id: id() } }));
/** An answer on the bench; what others see changes only when it ends. */
export const useAnswerBench = () => useRouteMutation(benchRoutes.answerBench, []);
export const useEndBench = () => useRouteMutation(benchRoutes.endBench, ['practice']);
export const useBenchOutcome = (id: () => string) =>
  useRouteQuery(benchRoutes.benchOutcome, () => ({ params: { id: id() } }));
