import { exerciseRoutes as routes } from '@rounds/contract';
import type { Router } from 'express';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import { bindStream } from '../http/stream';
import {
  countCards,
  endExercise,
  exerciseReport,
  listExercises,
  matchParticipant,
  moveExercise,
  openExercise,
  putOut,
  startExercise,
} from './exercises';
import { answerExercise, joinExercise, listensTo, openPhone } from './phones';
import { dropSet, keepSet, listSets, openSet, proposeFindings } from './sets';

const done = { done: true } as const;

/** Routes of class exercises: the room, its phones, and the sets of findings that are put to it. */
export function exerciseRoutes(router: Router, house: House): void {
  bind(router, house, routes.proposeFindings, ({ body }) => proposeFindings(house, body));
  bind(router, house, routes.exerciseSets, ({ caller }) => listSets(house, caller));
  bind(router, house, routes.exerciseSet, ({ params }) => openSet(house, params.id));
  bind(router, house, routes.keepExerciseSet, async ({ params, body, caller }) => {
    await keepSet(house, params.id, body, caller);
    return done;
  });
  bind(router, house, routes.dropExerciseSet, async ({ params, caller }) => {
    await dropSet(house, params.id, caller);
    return done;
  });
  bind(router, house, routes.exercises, ({ caller }) => listExercises(house, caller));
  bind(router, house, routes.startExercise, ({ body, caller }) => startExercise(house, body, caller));
  bind(router, house, routes.joinExercise, ({ body, caller, request, response }) =>
    joinExercise(house, body, caller, request, response),
  );
  bind(router, house, routes.exercise, ({ params, caller }) => openExercise(house, params.id, caller));
  bind(router, house, routes.moveExercise, ({ params, body, caller }) =>
    moveExercise(house, params.id, body, caller),
  );
  bind(router, house, routes.countCards, ({ params, body, caller }) =>
    countCards(house, params.id, body, caller),
  );
  bind(router, house, routes.matchParticipant, async ({ params, body, caller }) => {
    await matchParticipant(house, params, body.personId, caller);
    return done;
  });
  bind(router, house, routes.putOut, ({ params, caller }) => putOut(house, params, caller));
  bind(router, house, routes.endExercise, async ({ params, caller }) => {
    await endExercise(house, params.id, caller);
    return done;
  });
  bind(router, house, routes.exerciseReport, ({ params, caller }) =>
    exerciseReport(house, params.id, caller),
  );
  bind(router, house, routes.exercisePhone, ({ params, principal }) =>
    openPhone(house, params.id, principal),
  );
  bind(router, house, routes.answerExercise, ({ params, body, principal }) =>
    answerExercise(house, params.id, body, principal),
  );
  bindStream(router, house, routes.followExercise, ({ params, principal }) =>
    listensTo(house, principal, params.id),
  );
}
