import { calibrationRoutes } from '@rounds/contract/calibration';
import { useRouteMutation, useRouteQuery } from '../device/query';

export const useCalibrations = () => useRouteQuery(calibrationRoutes.calibrations, () => ({}));
export const useOpenCalibration = () => useRouteMutation(calibrationRoutes.openCalibration, ['calibrations']);
export const useCalibration = (id: () => string) =>
  useRouteQuery(calibrationRoutes.calibration, () => ({ params: { id: id() } }));
/** Keeps scores; the screen shows them itself and asks for nothing anew. */
export const useKeepScores = () => useRouteMutation(calibrationRoutes.scoreCalibration, []);
export const useHandIn = () =>
  useRouteMutation(calibrationRoutes.handInCalibration, ['calibrations', 'today']);
export const useCloseCalibration = () =>
  useRouteMutation(calibrationRoutes.closeCalibration, ['calibrations', 'today']);
export const useCalibrationReport = (id: () => string) =>
  useRouteQuery(calibrationRoutes.calibrationReport, () => ({ params: { id: id() } }));
