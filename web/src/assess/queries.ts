import { assessRoutes } from '@rounds/contract/assess';
import { certificationRoutes } from '@rounds/contract/certification';
import { machineRoutes } from '@rounds/contract/machines';
import { peopleRoutes } from '@rounds/contract/people';
import type { RouteAnswer, RouteCall } from '@rounds/contract/route';
import { useRouteMutation, useRouteQuery } from '../device/query';

export type EvaluationsAsked = NonNullable<RouteCall<typeof assessRoutes.evaluations>['query']>;

/** A page of evaluations in the order asked for. */
export const useEvaluations = (asked: () => EvaluationsAsked) =>
  useRouteQuery(assessRoutes.evaluations, () => ({ query: asked() }));

export type Candidate = RouteAnswer<typeof peopleRoutes.people>['rows'][number]['person'];

/** The person that a link names; asks nothing for ''. */
export const useCandidate = (id: () => string) =>
  useRouteQuery(peopleRoutes.person, () => (id() === '' ? null : { params: { id: id() } }));

/** What the rules ask of somebody in a class before an evaluation, and is not on record. */
export const usePrerequisites = (person: () => string, classId: () => string) =>
  useRouteQuery(certificationRoutes.prerequisites, () =>
    person() === '' || classId() === '' ? null : { params: { id: person() }, query: { classId: classId() } },
  );

/** Records a trace from a file as a session of a practice. */
export const useImportTrace = () => useRouteMutation(assessRoutes.importTrace, ['evaluations', 'sequences']);
export const useAddUnit = () => useRouteMutation(machineRoutes.addUnit, ['units', 'classes']);
export const useCreateEvaluation = () =>
  useRouteMutation(assessRoutes.createEvaluation, ['evaluations', 'today']);
