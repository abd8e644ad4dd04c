import { type INSIGHT_MEASURES, insightRoutes } from '@rounds/contract/insight';
import { useRouteMutation, useRouteQuery } from '../device/query';

export type Measure = (typeof INSIGHT_MEASURES)[number];

export const useInsight = (asked: () => { measure: Measure; classId: string | undefined; months: number }) =>
  useRouteQuery(insightRoutes.insight, () => ({ query: asked() }));
export const useScrutiny = (classId: () => string) =>
  useRouteQuery(insightRoutes.scrutiny, () => ({ query: { classId: classId() || undefined } }));
export const useReviewItem = () => useRouteMutation(insightRoutes.reviewItem, ['insight', 'practice']);
