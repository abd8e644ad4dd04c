import { type RouteAnswer, routes } from '@rounds/contract';
import { compose } from '@rounds/core/catalogue';
import { bodiesOfTrace, proceduresOf, type SequencePart } from '@rounds/core/evaluation';
import { rightRun, session, type Trace } from '@rounds/core/procedure';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { readTraceCsv, readTraceXes } from '../assess/traceFiles';
import { practiceReview } from '../data/teachingSchema';
import { type Caller, DEVICE, FORKLIFT, forklift, openYard, send, wholeText } from './desk';

let yard: Awaited<ReturnType<typeof openYard>>;
let trainer: Caller;
let operator: Caller;
beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
  operator = await yard.as('operator');
});
afterAll(() => yard.stop());

const pack = compose(forklift(), { variant: 'diesel', features: {} });
const START = pack.procedures.find((each) => each.kind === 'startup')!.id;
const right = rightRun(pack, [START]);

/** A practice of start and stop, begun two hours ago. */
async function practice(by = trainer): Promise<string> {
  const id = uuidv7();
  const made = await yard.earlier(2, () =>
    by.call(routes.createEvaluation, {
      body: {
        id,
        personId: yard.ids.operatorId,
        classId: FORKLIFT,
        unitId: yard.ids.unitId,
        purpose: 'practice',
        variant: 'diesel',
        features: {},
        conditions: '',
        device: DEVICE,
      },
    }),
  );
  expect(made.status).toBe(200);
  return id;
}
function eventsOf(trace: Trace, procedures: string[], part: SequencePart | null = null) {
  const began = Date.now() - 3_600_000;
  return bodiesOfTrace(trace, procedures, part, uuidv7).map(({ id, at, body }) => ({
    id,
    at: new Date(began + Math.round(at * 1000)).toISOString(),
    body,
  }));
}
const record = (id: string, events: ReturnType<typeof eventsOf>, by = trainer) =>
  by.call(routes.appendEvents, { params: { id }, body: { device: DEVICE, events } });
const sequencesOf = async (by: Caller, personId = yard.ids.operatorId) =>
  (
    (await by.call(routes.personSequences, { params: { id: personId } })).body as RouteAnswer<
      typeof routes.personSequences
    >
  ).sessions;

const stepReviews = () => yard.house.db.select().from(practiceReview);

describe('a practice of start and stop', () => {
  it('is judged once it is ended, listed by itself, and seen by the one who practised', async () => {
    const id = await practice();
    const events = eventsOf(right, [START]);
    expect((await record(id, events)).status).toBe(200);
    // A send that is repeated changes nothing.
    expect((await record(id, events)).status).toBe(200);
    const own = (await sequencesOf(operator)).filter((each) => each.evaluationId === id);
    expect(own).toHaveLength(1);
    expect(own[0]).toMatchObject({ score: 100, critical: 0, purpose: 'practice' });
    const listed = async (purpose: 'evaluation' | 'practice') =>
      (
        (await trainer.call(routes.evaluations, { query: { purpose } })).body as RouteAnswer<
          typeof routes.evaluations
        >
      ).rows;
    expect((await listed('practice')).find((each) => each.id === id)?.phase).toBe('reviewing');
    expect((await listed('evaluation')).some((each) => each.id === id)).toBe(false);
    const opened = (await operator.call(routes.evaluation, { params: { id } })).body as RouteAnswer<
      typeof routes.evaluation
    >;
    expect(opened.events).toHaveLength(events.length);
  });

  it('has no round, sheet or decision, and takes nothing out of turn', async () => {
    const id = await practice();
    const refused = async (...acts: Parameters<typeof send>[2]) =>
      (await send(trainer, id, acts)).problem.code;
    expect(await refused({ kind: 'round-started' })).toBe('not-in-practice');
    expect(await refused({ kind: 'decided', outcome: 'competent' })).toBe('not-in-practice');
    expect(await refused({ kind: 'act', token: 'CF-SU-1' })).toBe('sequence-order');
    expect(await refused({ kind: 'sequence-started', procedures: ['CF-P99'] })).toBe('unknown-row');
    expect((await send(trainer, id, [{ kind: 'sequence-started', procedures: [START] }])).status).toBe(200);
    expect(await refused({ kind: 'sequence-started', procedures: [START] })).toBe('sequence-order');
    expect(await refused({ kind: 'act-ended', act: uuidv7() })).toBe('sequence-order');
    expect(await refused({ kind: 'rule-broken', rule: 'no-rule' })).toBe('unknown-row');
    expect(await refused({ kind: 'day-condition', says: 'cold', lifts: ['no-step'] })).toBe('unknown-row');
    // What is no step is kept as such.
    expect(
      (await send(trainer, id, [{ kind: 'act', token: 'radio' }, { kind: 'sequence-ended' }])).status,
    ).toBe(200);
  });

  it('forgets the result of a session whose end is taken back, and judges it anew', async () => {
    const id = await practice();
    const events = eventsOf({ ...right, events: right.events.slice(1) }, [START]);
    await record(id, events);
    const of = async () => (await sequencesOf(trainer)).filter((each) => each.evaluationId === id);
    expect((await of())[0]!.score).toBeLessThan(100);
    await send(trainer, id, [{ kind: 'undone', event: events.at(-1)!.id }]);
    expect(await of()).toEqual([]);
    await send(trainer, id, [{ kind: 'sequence-ended' }]);
    expect(await of()).toHaveLength(1);
  });

  it('brings back the steps that went wrong, a step undone with its session', async () => {
    const before = await stepReviews();
    const id = await practice();
    const left = right.events.filter((_, i) => i !== 1);
    const events = eventsOf({ ...right, events: left }, [START]);
    await record(id, events);
    const after = await stepReviews();
    expect(after.length).toBeGreaterThan(before.length);
    const skipped = after.filter((each) => each.practiceId === events[0]!.id && each.outcome === 'wrong');
    expect(skipped.map((each) => each.item)).toContain(
      `step:${pack.procedures.find((each) => each.id === START)!.steps[1]!.id}`,
    );
    const practised = (await operator.call(routes.personPractice, { params: { id: yard.ids.operatorId } }))
      .body as RouteAnswer<typeof routes.personPractice>;
    const own = practised.classes.find((each) => each.classId === FORKLIFT)!;
    expect(own.last).toBeNull();
    expect(own.forgotten.map((each) => each.item)).toContain(skipped[0]!.item);
    await send(trainer, id, [{ kind: 'undone', event: events.at(-1)!.id }]);
    expect(await stepReviews()).toHaveLength(before.length);
  });

  it('is counted in the figures of the class, for those who may see them', async () => {
    const figures = (await trainer.call(routes.classSequences, { params: { id: FORKLIFT } }))
      .body as RouteAnswer<typeof routes.classSequences>;
    expect(figures.people).toBe(1);
    expect(figures.sessions).toBeGreaterThan(1);
    for (const each of figures.steps) expect(each.low).toBeLessThanOrEqual(each.flawed / each.sessions);
    expect((await operator.call(routes.classSequences, { params: { id: FORKLIFT } })).status).toBe(403);
    expect((await trainer.call(routes.classSequences, { params: { id: 'no-class' } })).status).toBe(404);
    expect((await operator.call(routes.personSequences, { params: { id: yard.ids.otherId } })).status).toBe(
      404,
    );
  });
});

describe('traces as files', () => {
  it('go out as CSV and XES and come back the same, and the rail as SVG', async () => {
    const id = await practice();
    const trace: Trace = {
      ...right,
      events: right.events.map((each, i) =>
        i === 2 ? { ...each, mark: 'prompted', failed: ['seated'] } : each,
      ),
    };
    await record(id, eventsOf(trace, [START]));
    const [found] = (await sequencesOf(trainer)).filter((each) => each.evaluationId === id);
    const path = `/api/evaluations/${id}/sequences/${found!.id}`;
    const own = session(pack, [START]);
    const csv = await wholeText(await trainer.raw('GET', `${path}/trace.csv`));
    expect(readTraceCsv(csv, own)).toEqual({ trace: { ...trace, conditions: [] }, remarks: [] });
    const xes = await wholeText(await trainer.raw('GET', `${path}/trace.xes`));
    expect(xes).toContain('concept:name');
    expect(readTraceXes(xes, own)).toEqual({ trace: { ...trace, conditions: [] }, remarks: [] });
    const svg = await wholeText(await trainer.raw('GET', `${path}/rail.svg`));
    expect(svg).toMatch(/^<svg /);
    expect(svg).toContain('prompted');
    expect((await operator.raw('GET', `${path}/trace.csv`)).status).toBe(200);
    expect((await trainer.raw('GET', `/api/evaluations/${id}/sequences/${uuidv7()}/trace.csv`)).status).toBe(
      404,
    );
    const report = await trainer.raw('GET', `/api/evaluations/${id}/report.pdf`);
    expect([report.status, (await wholeText(report, 'latin1')).slice(0, 300)]).toEqual([
      200,
      expect.stringMatching(/^%PDF/),
    ]);
  });

  it('are recorded from a file as a session, with a remark for whatever was odd', async () => {
    const id = await practice();
    const importing = async (text: string, format: 'csv' | 'xes' = 'csv', procedures = [START]) =>
      trainer.call(routes.importTrace, { params: { id }, body: { format, procedures, text } });
    const { status, body } = await importing('token,at\r\nCF-SU-1,0\r\nradio,4\r\nCF-SU-2,3\r\n');
    expect(status).toBe(200);
    expect((body as RouteAnswer<typeof routes.importTrace>).remarks.map((each) => each.line)).toEqual([3, 4]);
    expect((await sequencesOf(trainer)).some((each) => each.evaluationId === id)).toBe(true);
    for (const [text, format] of [
      ['', 'csv'],
      ['a,b\r\n1,2', 'csv'],
      ['"open', 'csv'],
      ['<log></log>', 'xes'],
      ['not xml <', 'xes'],
    ] as const)
      expect((await importing(text, format)).problem.code).toBe('trace-unreadable');
    expect((await importing('token,at\r\nCF-SU-1,0', 'csv', ['CF-P99'])).problem.code).toBe('unknown-row');
  });
});

describe('an evaluation that was stamped', () => {
  it('has its start filled by the judge, prints it, and cannot be stamped once it is decided', async () => {
    const id = await yard.prepare(trainer);
    const procedures = proceduresOf(pack, 'start');
    const events = eventsOf(rightRun(pack, procedures), procedures, 'start');
    expect((await record(id, events)).status).toBe(200);
    const [found] = (await sequencesOf(trainer)).filter((each) => each.evaluationId === id);
    expect(found).toMatchObject({ purpose: 'evaluation', score: 100 });
    // The person evaluated sees nothing of it before the decision.
    const path = `/api/evaluations/${id}/sequences/${found!.id}/trace.csv`;
    expect((await operator.raw('GET', path)).status).toBe(404);
    expect((await sequencesOf(operator)).some((each) => each.evaluationId === id)).toBe(false);
  });
});
