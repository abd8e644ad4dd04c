import { DIRECTIONS, LESSON_SUBJECTS } from '@rounds/core/teaching';
import { z } from 'zod';
import { byId, done, instant, line, plainDate, trainers, uuid } from './fields';
import { route } from './route';

/** Lessons: planned from a class, presented on one device and shown on a big screen, attended. */

const item = z.strictObject({
  kind: z.enum(['opening', 'station', 'check', 'fault', 'school', 'step', 'closing']),
  id: z.string().max(64),
});

/** Most things of one lesson. */
const MOST_ITEMS = 600;

export const lessonPlan = z.strictObject({
  subject: z.enum(LESSON_SUBJECTS),
  direction: z.enum(DIRECTIONS),
  start: z.string().max(64).nullable(),
  items: z.array(item).min(1, 'needs something to show').max(MOST_ITEMS),
});

/** Where a lesson is. */
const position = z.object({
  slide: z.number().int().min(0).max(MOST_ITEMS),
  /** The screen shows nothing, so that people look at the trainer. */
  blank: z.boolean(),
  /** The words to point at and say are shown large. */
  pointAndCall: z.boolean(),
  /** Of a fault, what grade it is and what to do about it is shown too. */
  answered: z.boolean(),
});
export type LessonPosition = z.infer<typeof position>;

/** A lesson as its presenter and its screens see it. */
export const lessonView = z.object({
  id: uuid,
  classTitle: z.string(),
  /** A screen joins with it; null for who sits at a screen. */
  code: z.string().nullable(),
  /** The composed class (an EffectivePack of the core). */
  pack: z.unknown(),
  plan: lessonPlan,
  position,
  startedAt: instant,
  ended: z.boolean(),
  /** The one who calls presents it. */
  presents: z.boolean(),
});
export type LessonView = z.infer<typeof lessonView>;

const screens = [...trainers, 'seat'] as const;

/** A lesson kept to be given again. */
const keptPlan = z.object({
  id: uuid,
  title: z.string(),
  classId: z.string(),
  classTitle: z.string(),
  variant: z.string(),
  site: z.string().nullable(),
  plan: lessonPlan,
  trainer: z.string(),
  keptOn: plainDate,
  /** The one who calls kept it, and may change it. */
  own: z.boolean(),
});
export type KeptPlan = z.infer<typeof keptPlan>;

export const teachRoutes = {
  plans: route({
    method: 'GET',
    path: '/lesson-plans',
    summary: 'Lessons that were kept to be given again, by whomever',
    roles: trainers,
    answer: z.object({ rows: z.array(keptPlan) }),
  }),
  keepPlan: route({
    method: 'PUT',
    path: '/lesson-plans/:id',
    summary: 'Keep a lesson, or keep it anew as it is now',
    roles: trainers,
    params: byId,
    body: z.object({
      title: line.min(1).max(80),
      classId: line.max(60),
      variant: line.max(60),
      site: line.max(80).nullable().default(null),
      plan: lessonPlan,
    }),
    answer: done,
    bodyLimit: 200_000,
    problems: ['not-found', 'composition'],
  }),
  dropPlan: route({
    method: 'DELETE',
    path: '/lesson-plans/:id',
    summary: 'Keep a lesson no longer',
    roles: trainers,
    params: byId,
    answer: done,
    problems: ['not-found'],
  }),
  planPaper: route({
    method: 'GET',
    path: '/lesson-plans/:id/lesson.pdf',
    summary: 'A kept lesson on paper: what to show and say, with drawings, and a list of who attends',
    roles: trainers,
    params: byId,
    answer: 'application/pdf',
    problems: ['not-found', 'composition'],
  }),
  lessons: route({
    method: 'GET',
    path: '/lessons',
    summary: 'Lessons given and under way, the latest first',
    roles: trainers,
    answer: z.object({
      rows: z.array(
        z.object({
          id: uuid,
          classTitle: z.string(),
          subject: z.enum(LESSON_SUBJECTS),
          trainer: z.string(),
          on: plainDate,
          ended: z.boolean(),
          attended: z.number(),
          /** The one who calls may go on with it. */
          presents: z.boolean(),
        }),
      ),
    }),
  }),
  startLesson: route({
    method: 'POST',
    path: '/lessons',
    summary: 'Begin a lesson, or answer with the same one that was begun before',
    roles: trainers,
    body: z.object({
      id: uuid,
      classId: line.max(60),
      variant: line.max(60),
      /** The site whose choices between schools hold. */
      site: line.max(80).nullable().default(null),
      plan: lessonPlan,
    }),
    answer: lessonView,
    bodyLimit: 200_000,
    problems: ['not-found', 'composition'],
  }),
  lesson: route({
    method: 'GET',
    path: '/lessons/:id',
    summary: 'A lesson and where it is',
    roles: screens,
    params: byId,
    answer: lessonView,
    problems: ['not-found'],
  }),
  moveLesson: route({
    method: 'POST',
    path: '/lessons/:id/position',
    summary: 'Show another thing, blank the screen, or show the words to call',
    roles: trainers,
    params: byId,
    body: position,
    answer: done,
    problems: ['not-found', 'lesson-over'],
  }),
  followLesson: route({
    method: 'GET',
    path: '/lessons/:id/events',
    summary: 'Where a lesson is, as it moves',
    roles: screens,
    params: byId,
    answer: 'text/event-stream',
    event: position.extend({ ended: z.boolean() }),
    problems: ['not-found'],
  }),
  joinLesson: route({
    method: 'POST',
    path: '/lessons/join',
    summary: 'Let a screen into a lesson by its code',
    roles: 'public',
    body: z.object({ code: z.string().trim().toUpperCase().min(4).max(12) }),
    answer: z.object({ id: uuid }),
    problems: ['not-found', 'too-many-attempts'],
  }),
  endLesson: route({
    method: 'POST',
    path: '/lessons/:id/end',
    summary: 'End a lesson; who attended has it on record',
    roles: trainers,
    params: byId,
    body: z.object({ attended: z.array(uuid).max(200) }),
    answer: done,
    problems: ['not-found', 'lesson-over', 'own-record'],
  }),
};
