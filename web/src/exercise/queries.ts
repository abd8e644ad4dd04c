import { exerciseRoutes } from '@rounds/contract/exercise';
import { useRouteMutation, useRouteQuery } from '../device/query';

/** Findings of a class for a room; asks only and keeps nothing. */
export const useProposeFindings = () => useRouteMutation(exerciseRoutes.proposeFindings, []);
export const useExercises = () => useRouteQuery(exerciseRoutes.exercises, () => ({}));
export const useExerciseSets = () => useRouteQuery(exerciseRoutes.exerciseSets, () => ({}));
/** A kept set with its findings, asked anew each time it is taken up. */
export const useOpenSet = () => useRouteMutation(exerciseRoutes.exerciseSet, []);
export const useKeepSet = () => useRouteMutation(exerciseRoutes.keepExerciseSet, ['exercises']);
export const useDropSet = () => useRouteMutation(exerciseRoutes.dropExerciseSet, ['exercises']);
export const useStartExercise = () => useRouteMutation(exerciseRoutes.startExercise, ['exercises']);
export const useExercise = (id: () => string) =>
  useRouteQuery(exerciseRoutes.exercise, () => ({ params: { id: id() } }));
export const useMoveExercise = () => useRouteMutation(exerciseRoutes.moveExercise, []);
export const useCountCards = () => useRouteMutation(exerciseRoutes.countCards, []);
export const usePutOut = () => useRouteMutation(exerciseRoutes.putOut, []);
export const useEndExercise = () => useRouteMutation(exerciseRoutes.endExercise, ['exercises', 'practice']);
export const useMatch = () => useRouteMutation(exerciseRoutes.matchParticipant, ['exercises', 'practice']);
export const useExerciseReport = (id: () => string) =>
  useRouteQuery(exerciseRoutes.exerciseReport, () => ({ params: { id: id() } }));
export const useJoin = () => useRouteMutation(exerciseRoutes.joinExercise, []);
export const usePhone = (id: () => string) =>
  useRouteQuery(exerciseRoutes.exercisePhone, () => ({ params: { id: id() } }));
export const useGrade = () => useRouteMutation(exerciseRoutes.answerExercise, []);
