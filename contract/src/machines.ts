import { z } from 'zod';
import { everyone, line, trainers, uuid } from './fields';
import { route } from './route';

/** Machines of the yard. */

export const unitSchema = z.object({
  id: uuid,
  classId: z.string(),
  name: z.string(),
  site: z.string(),
  variant: z.string().nullable(),
  features: z.record(z.string(), z.string()),
  inService: z.boolean(),
});

export type Unit = z.infer<typeof unitSchema>;

export const unitInput = z.object({
  classId: z.string(),
  name: line.max(80),
  site: line.max(80),
  variant: z.string().max(40).nullable().default(null),
  features: z.record(z.string().max(40), z.string().max(60)).default({}),
});

export const machineRoutes = {
  units: route({
    method: 'GET',
    path: '/units',
    summary: 'Machines',
    roles: everyone,
    query: z.object({ classId: z.string().max(60).optional() }),
    answer: z.object({ units: z.array(unitSchema) }),
  }),
  addUnit: route({
    method: 'POST',
    path: '/units',
    summary: 'Add a machine',
    roles: trainers,
    body: unitInput,
    answer: unitSchema,
    problems: ['not-found', 'unit-taken', 'composition'],
  }),
};
