import { ITEM_DECISIONS } from '@rounds/core/scrutiny';
import { z } from 'zod';
import { done, instant, office, plainDate, trainers, uuid } from './fields';
import { route } from './route';

/** What is missed, who grades how, whether evaluators agree, and whether a key is right. */

const range = z.object({ low: z.number(), high: z.number() });

/** An item under scrutiny: how it did, and what a review decided of it. */
export const scrutinisedItem = z.object({
  item: z.string(),
  /** The part and the fault, the step, the number. */
  words: z.string(),
  /** The row that the editor opens for it. */
  row: z.string(),
  people: z.number(),
  right: z.number(),
  difficulty: z.number(),
  difficultyInterval: range,
  discrimination: z.number().nullable(),
  discriminationInterval: range.nullable(),
  alphaIfDropped: z.number().nullable(),
  able: z.number().nullable(),
  others: z.number().nullable(),
  enough: z.boolean(),
  flags: z.array(z.enum(['against-the-able', 'nearly-all-fail'])),
  says: z.string(),
  state: z.enum(['unflagged', 'to-review', 'kept', 'to-change', 'changed', 'retired']),
  /** Whether it can be left out when dealing: a step of a procedure cannot. */
  mayRetire: z.boolean(),
  /** Reviews, the newest first. */
  reviews: z.array(
    z.object({
      id: uuid,
      decision: z.enum(ITEM_DECISIONS),
      reason: z.string(),
      by: z.string(),
      at: instant,
      people: z.number(),
      /** The revision in which it reads otherwise; null where none does yet. */
      revision: z.number().nullable(),
    }),
  ),
});
export type ScrutinisedItemView = z.infer<typeof scrutinisedItem>;

const shareRow = z.object({
  key: z.string(),
  name: z.string(),
  /** How many were missed, or graded too low, of how many. */
  count: z.number(),
  n: z.number(),
  people: z.number(),
  share: z.number(),
  low: z.number(),
  high: z.number(),
  says: z.string(),
});
export type ShareRow = z.infer<typeof shareRow>;

export const INSIGHT_MEASURES = ['checks', 'faults', 'practice'] as const;

/** What the evaluations and the practice of some months show. */
export const insightSchema = z.object({
  from: plainDate,
  to: plainDate,
  evaluations: z.number(),
  people: z.number(),
  whole: shareRow.nullable(),
  missed: z.object({
    classes: z.array(shareRow),
    systems: z.array(shareRow),
    methods: z.array(shareRow),
    checks: z.array(shareRow),
  }),
  trend: z.array(shareRow),
  grading: z.object({ whole: shareRow.nullable(), people: z.array(shareRow) }),
  /** For trainers and administrators alone. */
  evaluators: z
    .array(shareRow.extend({ evaluations: z.number(), severity: z.string().nullable() }))
    .nullable(),
  says: z.array(z.string()),
});
export type Insight = z.infer<typeof insightSchema>;

export const insightRoutes = {
  insight: route({
    method: 'GET',
    path: '/insight',
    summary: 'What is missed, who grades too low, how evaluators record, and how it changes over months',
    roles: office,
    query: z.object({
      measure: z.enum(INSIGHT_MEASURES).default('faults'),
      classId: z.string().max(60).optional(),
      months: z.coerce.number().int().min(1).max(60).default(12),
    }),
    answer: insightSchema,
  }),
  scrutiny: route({
    method: 'GET',
    path: '/insight/items',
    summary: 'The items of a class under scrutiny, and where there is something to review',
    roles: trainers,
    query: z.object({ classId: z.string().max(60).optional() }),
    answer: z.object({
      classes: z.array(
        z.object({
          id: z.string(),
          title: z.string(),
          people: z.number(),
          items: z.number(),
          toReview: z.number(),
        }),
      ),
      /** The class whose items are listed; null where nothing was practised yet. */
      classId: z.string().nullable(),
      least: z.number(),
      scale: z
        .object({ alpha: z.number(), interval: range.nullable(), items: z.number(), people: z.number() })
        .nullable(),
      items: z.array(scrutinisedItem),
    }),
  }),
  reviewItem: route({
    method: 'POST',
    path: '/insight/items/reviews',
    summary: 'Review an item: it stays, is to be changed through the editor, or is dealt no more',
    roles: trainers,
    body: z.object({
      id: uuid,
      classId: z.string().max(60),
      item: z.string().min(3).max(160),
      decision: z.enum(ITEM_DECISIONS),
      reason: z.string().trim().min(10, 'needs a reason of at least 10 letters').max(1000),
    }),
    answer: done,
    problems: ['not-found', 'unknown-row', 'item-stays'],
  }),
};
