import { useInfiniteQuery } from '@pinia/colada';
import { accountRoutes } from '@rounds/contract/accounts';
import { certificationRoutes } from '@rounds/contract/certification';
import { gradingRoutes } from '@rounds/contract/grading';
import type { RouteAnswer } from '@rounds/contract/route';
import { call } from '../device/api';
import { routeKey, useRouteMutation, useRouteQuery } from '../device/query';

export const useAccounts = () => useRouteQuery(accountRoutes.accounts, () => ({}));
export const useAddAccount = () => useRouteMutation(accountRoutes.addAccount, ['accounts']);
export const useChangeAccount = () => useRouteMutation(accountRoutes.changeAccount, ['accounts']);
export const useChangePassword = () => useRouteMutation(accountRoutes.changePassword, []);

/** Certification rules in force, and (for the office) every set that was made. */
export const useRulesInForce = () => useRouteQuery(certificationRoutes.rules, () => ({}));
export const useRulesSets = (wanted: boolean) =>
  useRouteQuery(certificationRoutes.rulesSets, () => (wanted ? {} : null));
/** Who would stand otherwise; reads only. */
export const usePreviewRules = () => useRouteMutation(certificationRoutes.previewRules, []);
export const useSetRules = () =>
  useRouteMutation(certificationRoutes.setRules, ['rules', 'people', 'matrix', 'today']);

/** The grading policy, and what a line of it would raise. */
export const usePolicy = () => useRouteQuery(gradingRoutes.policy, () => ({}));
export const usePreviewPolicy = () => useRouteMutation(gradingRoutes.previewPolicy, []);
export const useRaisePolicy = () => useRouteMutation(gradingRoutes.raisePolicy, ['policy', 'classes']);
export const useEndPolicy = () => useRouteMutation(gradingRoutes.endPolicy, ['policy', 'classes']);

export type AuditPage = RouteAnswer<typeof accountRoutes.audit>;

/** What was done by whom, newest first, page after page. */
export const useAudit = (act: () => string) =>
  useInfiniteQuery<AuditPage, Error, string | null>({
    key: () => routeKey(accountRoutes.audit, { query: { act: act() || undefined } }),
    query: ({ pageParam }) =>
      call(accountRoutes.audit, {
        query: { act: act() || undefined, limit: 50, ...(pageParam ? { cursor: pageParam } : {}) },
      }),
    initialPageParam: null,
    getNextPageParam: (last) => last.next,
  });
