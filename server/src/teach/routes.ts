import { teachRoutes as routes } from '@rounds/contract';
import type { Router } from 'express';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';
import { bindStream } from '../http/stream';
import {
  endLesson,
  joinLesson,
  lessonFor,
  lessonTopic,
  listLessons,
  moveLesson,
  openLesson,
  startLesson,
} from './lessons';
import { dropPlan, keepPlan, listPlans, planSubject } from './plans';

/** Routes of lessons. */
export function teachRoutes(router: Router, house: House): void {
  bind(router, house, routes.joinLesson, ({ body, request, response }) =>
    joinLesson(house, body.code, request, response),
  );
  bind(router, house, routes.plans, ({ caller }) => listPlans(house, caller));
  bind(router, house, routes.keepPlan, async ({ params, body, caller }) => {
    await keepPlan(house, params.id, body, caller);
    return { done: true } as const;
  });
  bind(router, house, routes.dropPlan, async ({ params, caller }) => {
    await dropPlan(house, params.id, caller);
    return { done: true } as const;
  });
  bind(router, house, routes.planPaper, async ({ params, gone }) => ({
    file: await house.pool.run('lesson', await planSubject(house, params.id), { gone }),
    name: 'lesson.pdf',
  }));
  bind(router, house, routes.lessons, ({ caller }) => listLessons(house, caller));
  bind(router, house, routes.startLesson, ({ body, caller }) => startLesson(house, body, caller));
  bind(router, house, routes.lesson, ({ params, principal }) => openLesson(house, principal!, params.id));
  bind(router, house, routes.moveLesson, ({ params, body, caller }) =>
    moveLesson(house, params.id, body, caller),
  );
  bind(router, house, routes.endLesson, ({ params, body, caller }) =>
    endLesson(house, params.id, body.attended, caller),
  );
  bindStream(router, house, routes.followLesson, async ({ params, principal }) => {
    if (!principal) throw new ProblemError('not-found', 'There is no such lesson.');
    await lessonFor(house, principal, params.id);
    return { topic: lessonTopic(params.id) };
  });
}
