import {
  benchRoutes,
  commandRoutes,
  deskRoutes,
  ladderRoutes,
  practiceRoutes as routes,
} from '@rounds/contract';
import type { Router } from 'express';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import { answerBench, benchOutcome, endBench, openBench, startBench } from './bench';
import { commandOutcome, endCommands, openCommands, startCommands } from './commands';
import { deskOutcome, endDesk, keepDesk, openDesk, startDesk } from './desk';
import { doDrillAct, openDrill } from './doDrillAct';
import { drillOutcome } from './drillViews';
import { personLadders, signRung, takeRungBack } from './ladders';
import { bringDrill, keptClass } from './offline';
import { personPractice } from './personPractice';
import { practiceClasses } from './practiceClasses';
import { practiceOverview } from './practiceOverview';
import { dropPracticeSet, setPractice } from './sets';
import { startDrill } from './startDrill';

/** Routes of practice: drill, bench, desk and commands, what a person remembers, and the ladder they climb. */
export function practiceRoutes(router: Router, house: House): void {
  bind(router, house, routes.practiceClasses, () => practiceClasses(house));
  bind(router, house, routes.practiceOverview, ({ query, caller }) => practiceOverview(house, query, caller));
  bind(router, house, routes.keptClass, ({ params, query, caller }) =>
    keptClass(house, { params, query }, caller),
  );
  bind(router, house, routes.bringDrill, ({ body, caller }) => bringDrill(house, body, caller));
  bind(router, house, routes.setPractice, async ({ body, caller }) => {
    await setPractice(house, body, caller);
    return { done: true } as const;
  });
  bind(router, house, routes.dropPracticeSet, async ({ params, caller }) => {
    await dropPracticeSet(house, params.id, caller);
    return { done: true } as const;
  });
  bind(router, house, routes.startDrill, ({ body, caller }) => startDrill(house, body, caller));
  bind(router, house, routes.drill, ({ params, caller }) => openDrill(house, caller, params.id));
  bind(router, house, routes.doDrillAct, ({ params, body, caller }) =>
    doDrillAct(house, params, body, caller),
  );
  bind(router, house, routes.drillOutcome, ({ params, caller }) => drillOutcome(house, caller, params.id));
  bind(router, house, benchRoutes.startBench, ({ body, caller }) => startBench(house, body, caller));
  bind(router, house, benchRoutes.bench, ({ params, caller }) => openBench(house, caller, params.id));
  bind(router, house, benchRoutes.answerBench, ({ params, body, caller }) =>
    answerBench(house, { params, body }, caller),
  );
  bind(router, house, benchRoutes.endBench, ({ params, caller }) => endBench(house, params.id, caller));
  bind(router, house, benchRoutes.benchOutcome, ({ params, caller }) =>
    benchOutcome(house, caller, params.id),
  );
  bind(router, house, deskRoutes.startDesk, ({ body, caller }) => startDesk(house, body, caller));
  bind(router, house, deskRoutes.desk, ({ params, caller }) => openDesk(house, caller, params.id));
  bind(router, house, deskRoutes.keepDesk, ({ params, body, caller }) =>
    keepDesk(house, { params, body }, caller),
  );
  bind(router, house, deskRoutes.endDesk, ({ params, body, caller }) =>
    endDesk(house, { params, body }, caller),
  );
  bind(router, house, deskRoutes.deskOutcome, ({ params, caller }) => deskOutcome(house, caller, params.id));
  bind(router, house, commandRoutes.startCommands, ({ body, caller }) => startCommands(house, body, caller));
  bind(router, house, commandRoutes.commands, ({ params, caller }) => openCommands(house, caller, params.id));
  bind(router, house, commandRoutes.endCommands, ({ params, body, caller }) =>
    endCommands(house, { params, body }, caller),
  );
  bind(router, house, commandRoutes.commandOutcome, ({ params, caller }) =>
    commandOutcome(house, caller, params.id),
  );
  bind(router, house, ladderRoutes.personLadders, ({ params, query, caller }) =>
    personLadders(house, { params, query }, caller),
  );
  bind(router, house, ladderRoutes.signRung, ({ params, body, caller }) =>
    signRung(house, { params, body }, caller),
  );
  bind(router, house, ladderRoutes.takeRungBack, ({ params, body, caller }) =>
    takeRungBack(house, { params, body }, caller),
  );
  bind(router, house, routes.personPractice, ({ params, caller }) =>
    personPractice(house, caller, params.id),
  );
}
