import { useInfiniteQuery } from '@pinia/colada';
import { assessRoutes } from '@rounds/contract/assess';
import { certificationRoutes } from '@rounds/contract/certification';
import { jobRoutes } from '@rounds/contract/jobs';
import { ladderRoutes } from '@rounds/contract/ladder';
import { peopleRoutes } from '@rounds/contract/people';
import type { RouteAnswer, RouteCall } from '@rounds/contract/route';
import { call } from '../device/api';
import { routeKey, useRouteMutation, useRouteQuery } from '../device/query';

/** What is on record of people shows in these areas too. */
const OF_PEOPLE = ['people', 'matrix', 'today', 'evaluations'];

export type RosterAsked = NonNullable<RouteCall<typeof peopleRoutes.people>['query']>;
export type RosterRow = RouteAnswer<typeof peopleRoutes.people>['rows'][number];

/** A page of the roster in the order asked for. */
export const useRoster = (asked: () => RosterAsked) =>
  useRouteQuery(peopleRoutes.people, () => ({ query: asked() }));

/** A person: standing per class, what comes, history. */
export const usePerson = (id: () => string) =>
  useRouteQuery(peopleRoutes.person, () => (id() === '' ? null : { params: { id: id() } }));

/** A person's judged sessions of start and stop, newest first. */
export const usePersonSequences = (id: () => string) =>
  useRouteQuery(assessRoutes.personSequences, () => ({ params: { id: id() } }));

/** How far a person has come on the ladders of teaching, with that of a class that is asked for. */
export const useLadders = (id: () => string, classId: () => string) =>
  useRouteQuery(ladderRoutes.personLadders, () => ({
    params: { id: id() },
    query: classId() ? { classId: classId() } : {},
  }));
export const useSignRung = () => useRouteMutation(ladderRoutes.signRung, ['people']);
export const useTakeRungBack = () => useRouteMutation(ladderRoutes.takeRungBack, ['people']);

export const useAddPerson = () => useRouteMutation(peopleRoutes.addPerson, OF_PEOPLE);
export const useChangePerson = () => useRouteMutation(peopleRoutes.changePerson, OF_PEOPLE);
export const useRecordEvent = () => useRouteMutation(certificationRoutes.addCertificationEvent, OF_PEOPLE);

/** What an import would do; reads only. */
export const usePreviewImport = () => useRouteMutation(peopleRoutes.previewImport, []);
export const useImportPeople = () => useRouteMutation(peopleRoutes.importPeople, OF_PEOPLE);
export const useCancelJob = () => useRouteMutation(jobRoutes.cancelJob, []);

export type MatrixPage = RouteAnswer<typeof certificationRoutes.matrix>;
export type MatrixPerson = MatrixPage['people'][number];

/** The matrix of a site and team, page after page; an answer to an earlier question is dropped. */
export const useMatrix = (asked: () => { site: string | undefined; team: string | undefined }) =>
  useInfiniteQuery<MatrixPage, Error, string | null>({
    key: () => routeKey(certificationRoutes.matrix, { query: asked() }),
    query: ({ pageParam }) =>
      call(certificationRoutes.matrix, {
        query: { ...asked(), ...(pageParam ? { cursor: pageParam } : {}) },
      }),
    initialPageParam: null,
    getNextPageParam: (last) => last.next,
  });
