import { z } from 'zod';
import { evaluationSummary, plantedNow } from './assess';
import { evaluatorCalibration } from './calibration';
import { standingSchema } from './certification';
import { everyone, plainDate, uuid } from './fields';
import { route } from './route';

/** What needs attention this morning. */

export const todayRoutes = {
  today: route({
    method: 'GET',
    path: '/today',
    summary: 'What needs attention this morning',
    roles: everyone,
    answer: z.object({
      today: plainDate,
      attention: z.array(
        z.object({
          personId: uuid,
          personName: z.string(),
          team: z.string(),
          classId: z.string(),
          classTitle: z.string(),
          standing: standingSchema,
        }),
      ),
      /** How many there are; `attention` is the gravest of them. */
      attentionTotal: z.number(),
      counts: z.record(z.string(), z.number()),
      open: z.array(evaluationSummary),
      planted: z.array(plantedNow),
      recent: z.array(evaluationSummary),
      /** For who evaluates: whether they are calibrated, and the calibrations that wait for their scores. */
      calibration: z
        .object({
          standing: evaluatorCalibration,
          waiting: z.array(z.object({ id: uuid, title: z.string() })),
        })
        .nullable(),
    }),
  }),
};
