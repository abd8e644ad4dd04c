import { assessRoutes as routes, certificationRoutes } from '@rounds/contract';
import type { Router } from 'express';
import { scopeOf } from '../accounts/access';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import { evaluationOr404 } from './access';
import { holdEvaluation } from './holdEvaluation';
import { opened } from './openEvaluation';
import { prepareEvaluation } from './prepareEvaluation';
import { appraisalOf, cardFile, reportFile } from './readEvaluation';
import { recordTaps } from './recordTaps';
import { agreeToOutcome, signByName } from './signEvaluation';
import { importTrace, sequenceRailFile, traceCsvFile, traceXesFile } from './sequenceFiles';
import { classSequences, personSequences } from './sequences';
import { summaryPage } from './summaries';
import { verifyCard } from './verifyCard';

/** Routes of evaluations, their papers, and the checking of cards. */
export function assessRoutes(router: Router, house: House): void {
  bind(router, house, routes.evaluations, ({ query: { open, ...query }, caller }) =>
    summaryPage(house, caller, {
      scope: scopeOf(caller),
      ...(open ? { open: open === 'yes' } : {}),
      ...query,
    }),
  );
  bind(router, house, routes.createEvaluation, ({ body, caller }) => prepareEvaluation(house, body, caller));
  bind(router, house, routes.evaluation, async ({ params, caller }) =>
    opened(house, caller, await evaluationOr404(house, caller, params.id)),
  );
  bind(router, house, routes.holdEvaluation, ({ params, body, caller }) =>
    holdEvaluation(house, params, body, caller),
  );
  bind(router, house, routes.appendEvents, ({ params, body, caller }) =>
    recordTaps(house, params, body, caller),
  );
  bind(router, house, routes.signByName, ({ params, body, caller, request }) =>
    signByName(house, params, body, caller, request),
  );
  bind(router, house, routes.agree, ({ params, body, caller, request }) =>
    agreeToOutcome(house, params, body, caller, request),
  );
  bind(router, house, routes.appraisal, ({ params, caller }) => appraisalOf(house, params, caller));
  bind(router, house, routes.report, ({ params, caller, gone }) => reportFile(house, params, caller, gone));
  bind(router, house, routes.card, ({ params, caller, request, gone }) =>
    cardFile(house, params, caller, request, gone),
  );
  bind(router, house, routes.traceCsv, ({ params, caller }) => traceCsvFile(house, params, caller));
  bind(router, house, routes.traceXes, ({ params, caller }) => traceXesFile(house, params, caller));
  bind(router, house, routes.sequenceRail, ({ params, caller }) => sequenceRailFile(house, params, caller));
  bind(router, house, routes.importTrace, ({ params, body, caller }) =>
    importTrace(house, params, body, caller),
  );
  bind(router, house, routes.personSequences, ({ params, caller }) => personSequences(house, params, caller));
  bind(router, house, routes.classSequences, ({ params, caller }) => classSequences(house, params, caller));
  bind(router, house, certificationRoutes.verify, ({ params }) => verifyCard(house, params));
}
