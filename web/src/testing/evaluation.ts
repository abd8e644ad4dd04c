import { assessRoutes, type EvaluationSummary } from '@rounds/contract/assess';
import type { RouteAnswer } from '@rounds/contract/route';
import { compose, type EffectivePack } from '@rounds/core/catalogue';
import {
  type EvaluationEvent,
  type EvaluationEventBody,
  foldEvaluation,
  phaseOf,
} from '@rounds/core/evaluation';
import { forkliftPack } from '@rounds/core/testing';
import type { FakeServer } from './fakeServer';
import { account } from './mount';

export const EVALUATION = '01900000-0000-7000-8000-00000000e001';
const PERSON = '01900000-0000-7000-8000-00000000b001';

/** The forklift as it ships, with diesel and the usual fit-out. */
export const forklift: EffectivePack = compose(forkliftPack(), { variant: 'diesel', features: {} });

type Stored = RouteAnswer<typeof assessRoutes.evaluation>['events'][number];

/** An evaluation or practice on the pretended server, which takes taps as the real one does: each once, in order. */
export function keptEvaluation(
  server: FakeServer,
  begun: readonly EvaluationEventBody[] = [],
  purpose: EvaluationSummary['purpose'] = 'evaluation',
) {
  const owner = account('trainer');
  const stored = (event: EvaluationEvent): Stored => ({
    ...event,
    by: owner.name,
    account: owner.id,
    receivedAt: event.at,
  });
  const events: Stored[] = begun.map((body, i) =>
    stored({
      id: `01900000-0000-7000-8000-${String(i + 1).padStart(12, '0')}`,
      at: new Date(Date.parse('2026-03-02T08:00:00.000Z') + i * 1000).toISOString(),
      body,
    }),
  );
  const summary = (): EvaluationSummary => ({
    id: EVALUATION,
    personId: PERSON,
    personName: 'Anna Berg',
    classId: forklift.id,
    classTitle: forklift.title,
    unitName: 'FLT-01',
    trainerId: owner.id,
    trainerName: owner.name,
    createdAt: '2026-03-02T07:55:00.000Z',
    purpose,
    phase: phaseOf(foldEvaluation(events)),
    outcome: null,
    score: null,
    overridden: false,
    computed: null,
    stillPlanted: [],
  });
  const holder = { name: owner.name, device: 'this-device', since: '2026-03-02T07:55:00.000Z' };
  server.answer(assessRoutes.evaluation, () => ({
    summary: summary(),
    pack: forklift,
    unitId: '01900000-0000-7000-8000-00000000c001',
    conditions: '',
    earlierStarts: [],
    events,
    keyHidden: false,
    holder,
    certificate: null,
    evaluator: {
      state: 'not-asked' as const,
      last: null,
      until: null,
      says: 'Not calibrated; the rules ask for none.',
    },
  }));
  server.answer(assessRoutes.holdEvaluation, { held: true, holder });
  server.answer(assessRoutes.appendEvents, ({ body }) => {
    const sent = (body as { events: EvaluationEvent[] }).events;
    for (const event of sent) if (!events.some((each) => each.id === event.id)) events.push(stored(event));
    return { accepted: sent.map((each) => each.id), summary: summary(), certificate: null };
  });
  return {
    /** What the server has, as bodies. */
    bodies: () => events.map((each) => each.body),
  };
}
