import { z } from 'zod';
import { everyone } from './fields';
import { route } from './route';

/** Areas of the API whose answers can change: the first part of their paths. */
export const CHANGING_AREAS = [
  'accounts',
  'audit',
  'calibrations',
  'classes',
  'evaluations',
  'exercises',
  'insight',
  'lessons',
  'library',
  'matrix',
  'people',
  'policy',
  'practice',
  'rules',
  'sequences',
  'today',
  'units',
] as const;
export type ChangingArea = (typeof CHANGING_AREAS)[number];

/** What somebody else changed, so that a screen fetches it anew. It says where, and nothing of whom. */
export const changeRoutes = {
  changes: route({
    method: 'GET',
    path: '/changes',
    summary: 'Which areas of the data change, as it happens',
    roles: everyone,
    answer: 'text/event-stream',
    event: z.object({ areas: z.array(z.enum(CHANGING_AREAS)) }),
  }),
};
