import { assessRoutes } from '@rounds/contract/assess';
import { classRoutes } from '@rounds/contract/classes';
import { useRouteMutation, useRouteQuery } from '../device/query';

/** What is published of a class shows in these areas too. */
const OF_CLASSES = ['classes', 'library', 'units', 'matrix'];

/** How often the people of a class get each step of start and stop wrong. */
export const useClassSequences = (id: () => string) =>
  useRouteQuery(assessRoutes.classSequences, () => ({ params: { id: id() } }));

export const useRevisions = (id: () => string) =>
  useRouteQuery(classRoutes.classRevisions, () => ({ params: { id: id() } }));
/** The pack of a revision; asks nothing for ''. */
export const useRevision = (id: () => string, hash: () => string) =>
  useRouteQuery(classRoutes.classRevision, () =>
    hash() === '' ? null : { params: { id: id(), hash: hash() } },
  );
/** The draft of a class as somebody left it; null when nobody edits it. */
export const useKeptDraft = (id: () => string) =>
  useRouteQuery(classRoutes.classDraft, () => ({ params: { id: id() } }));

export const useSaveDraft = () => useRouteMutation(classRoutes.saveDraft, []);
export const useDropDraft = () => useRouteMutation(classRoutes.dropDraft, []);
export const usePublishDraft = () => useRouteMutation(classRoutes.publishDraft, OF_CLASSES);
export const useWithdrawClass = () => useRouteMutation(classRoutes.withdrawClass, OF_CLASSES);
export const useChooseSchool = () => useRouteMutation(classRoutes.chooseSchool, ['classes']);
/** What an import would change; reads only. */
export const usePreviewPack = () => useRouteMutation(classRoutes.previewPack, []);
export const useImportPack = () => useRouteMutation(classRoutes.importPack, OF_CLASSES);
