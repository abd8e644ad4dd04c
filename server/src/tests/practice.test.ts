import { type RouteAnswer, type RouteInput, routes } from '@rounds/contract';
import { type EffectivePack, METHODS } from '@rounds/core/catalogue';
import {
  dealDrill,
  dealtFault,
  type DrillAct,
  drillResult,
  LOOK_ONLY,
  PERFECT,
  scriptedDrill,
  TICKER,
} from '@rounds/core/drill';
import { and, eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { effectivePackOf } from '../classes/packs';
import { certificationEventRow } from '../data/schema';
import { drill, drillActRow, practiceReview } from '../data/teachingSchema';
import { type Caller, FORKLIFT, openYard } from './desk';

let yard: Awaited<ReturnType<typeof openYard>>;
let operator: Caller;
let trainer: Caller;
beforeAll(async () => {
  yard = await openYard();
  operator = await yard.as('operator');
  trainer = await yard.as('trainer');
});
afterAll(() => yard.stop());

type View = RouteAnswer<typeof routes.drill>;
type Asked = RouteInput<typeof routes.startDrill>['body'];

const ask = (by: Caller, asked: Partial<Asked> = {}) =>
  by.call(routes.startDrill, {
    body: {
      id: uuidv7(),
      classId: FORKLIFT,
      variant: 'diesel',
      form: 'round',
      station: null,
      personId: yard.ids.operatorId,
      ...asked,
    },
  });
async function start(by = operator, asked: Partial<Asked> = {}): Promise<View> {
  const made = await ask(by, asked);
  expect(made.status).toBe(200);
  return made.body;
}
const act = (by: Caller, id: string, does: DrillAct, number = uuidv7()) =>
  by.call(routes.doDrillAct, { params: { id }, body: { id: number, act: does } });
async function dealt(id: string) {
  const [row] = await yard.house.db.select().from(drill).where(eq(drill.id, id));
  return { row: row!, deal: row!.deal, pack: await effectivePackOf(yard.house.db, row!.packHash) };
}
async function work(id: string, learner = PERFECT, by = operator) {
  const { deal, pack } = await dealt(id);
  const acts = scriptedDrill(pack, deal, learner);
  for (const each of acts) expect((await act(by, id, each)).status).toBe(200);
  return { deal, pack, acts };
}
const practiceOf = async (by: Caller) =>
  (await by.call(routes.personPractice, { params: { id: yard.ids.operatorId } })).body as RouteAnswer<
    typeof routes.personPractice
  >;

describe('a walk-round drill', () => {
  it('tells nothing of a fault before the method that shows it was used', async () => {
    const view = await start();
    const { deal, pack } = await dealt(view.id);
    const heard: string[] = [JSON.stringify(view)];
    // What a sound part says too ("cloth stays clean") tells nothing.
    const sound = JSON.stringify(pack.checkpoints.map((check) => [check.sound, check.appears]));
    const secrets = () =>
      deal.cases.flatMap(({ checkpoint }) => {
        const fault = dealtFault(pack, deal, checkpoint);
        const shows = fault?.cues.map((cue) => cue.shows).filter((words) => !sound.includes(words)) ?? [];
        return fault ? [fault.id, fault.title, ...shows] : [];
      });
    const leaks = () =>
      secrets().filter((secret) =>
        heard.some((answer) => answer.includes(JSON.stringify(secret).slice(1, -1))),
      );
    expect(leaks()).toEqual([]);
    const shown = new Set<string>();
    for (const each of scriptedDrill(pack, deal, PERFECT).filter((one) => one.kind !== 'end')) {
      heard.push(JSON.stringify((await act(operator, view.id, each)).body));
      if (each.kind === 'try')
        for (const cue of dealtFault(pack, deal, each.checkpoint)?.cues ?? [])
          if (cue.method === each.method) shown.add(cue.shows);
      // All that was ever heard of a fault is what its own methods have shown so far.
      expect(leaks().filter((secret) => !shown.has(secret))).toEqual([]);
    }
    expect(shown.size).toBeGreaterThan(10);
    const early = await operator.call(routes.drillOutcome, { params: { id: view.id } });
    expect([early.status, early.problem.code]).toEqual([409, 'not-complete']);
    heard.push(JSON.stringify((await operator.call(routes.drill, { params: { id: view.id } })).body));
    heard.push(JSON.stringify(await practiceOf(operator)));
    const audit = await yard.audited('drill-started');
    heard.push(JSON.stringify(audit));
    expect(leaks().filter((secret) => !shown.has(secret))).toEqual([]);
    expect(JSON.stringify(audit)).not.toContain(String(deal.seed));
  });

  it('is dealt once for one number, kept over a reload, and done once for one act', async () => {
    const id = uuidv7();
    const [first, again] = [await start(operator, { id }), await start(operator, { id })];
    expect(again).toEqual(first);
    const station = first.stations.find((each) => each.parts.length > 0)!;
    const part = station.parts[0]!;
    await act(operator, id, { kind: 'go', station: station.id });
    const number = uuidv7();
    const does: DrillAct = { kind: 'try', checkpoint: part.id, method: part.methods[0]! };
    const answers = await Promise.all([1, 2, 3].map(() => act(operator, id, does, number)));
    expect(answers.map((each) => each.status)).toEqual([200, 200, 200]);
    expect(answers[1]!.body).toEqual(answers[0]!.body);
    const opened = (await operator.call(routes.drill, { params: { id } })).body as View;
    expect(opened.progress.readings).toHaveLength(1);
    const other = await start();
    const elsewhere = await act(operator, other.id, does, number);
    expect([elsewhere.status, elsewhere.problem.code]).toEqual([409, 'event-elsewhere']);
  });

  it('refuses what cannot be done, and keeps what was', async () => {
    const view = await start();
    const [station] = view.stations.filter((each) => each.parts.length > 0);
    const part = station!.parts[0]!;
    const not = METHODS.find((each) => !part.methods.includes(each))!;
    const refusals = [
      await act(operator, view.id, { kind: 'try', checkpoint: part.id, method: part.methods[0]! }),
      await act(operator, view.id, { kind: 'go', station: 'nowhere' }),
      (await act(operator, view.id, { kind: 'go', station: station!.id })) &&
        (await act(operator, view.id, { kind: 'try', checkpoint: part.id, method: not })),
    ];
    expect(refusals.map((each) => [each.status, each.problem.code])).toEqual(
      refusals.map(() => [409, 'drill-act']),
    );
    await act(operator, view.id, { kind: 'end' });
    const after = await act(operator, view.id, { kind: 'call', checkpoint: part.id, grade: 'stop' });
    expect([after.status, after.problem.code]).toEqual([409, 'drill-act']);
    const bad = await ask(operator, { form: 'station', station: 'nowhere' });
    expect([bad.status, bad.problem.code]).toEqual([409, 'drill-act']);
  });

  it('is closed to everybody else, in every role', async () => {
    const view = await start();
    for (const login of ['trainer', 'trainer2', 'supervisor', 'workshop', 'administrator']) {
      const other = await yard.as(login);
      expect((await other.call(routes.drill, { params: { id: view.id } })).status).toBeGreaterThanOrEqual(
        403,
      );
      expect((await act(other, view.id, { kind: 'end' })).status).toBeGreaterThanOrEqual(403);
      expect((await ask(other, { id: view.id })).status).not.toBe(200);
    }
    const own = await ask(operator, { personId: yard.ids.otherId });
    expect([own.status, own.problem.code]).toEqual([403, 'forbidden']);
    expect((await ask(await yard.as('supervisor'))).status).toBe(403);
  });

  it('lets a trainer try one that counts for nobody, and set one for somebody', async () => {
    const tried = await start(trainer, { personId: null, form: 'one-wrong' });
    expect(tried.person).toBeNull();
    await work(tried.id, PERFECT, trainer);
    const reviews = await yard.house.db
      .select()
      .from(practiceReview)
      .where(eq(practiceReview.practiceId, tried.id));
    expect(reviews).toEqual([]);
    const outcome = await trainer.call(routes.drillOutcome, { params: { id: tried.id } });
    expect((outcome.body as RouteAnswer<typeof routes.drillOutcome>).result).toMatchObject({ score: 100 });
    expect((await operator.call(routes.drillOutcome, { params: { id: tried.id } })).status).toBe(404);
    expect((await start(trainer)).person?.name).toBe('Olla Tester');
  });
});

describe('what a drill comes to', () => {
  it('is what the core makes of its acts; met on two days it makes ready, once', async () => {
    const facts = () =>
      yard.house.db
        .select()
        .from(certificationEventRow)
        .where(
          and(
            eq(certificationEventRow.personId, yard.ids.operatorId),
            eq(certificationEventRow.classId, FORKLIFT),
          ),
        );
    const round = async (on: string, learner = PERFECT) => {
      yard.setClock(new Date(`${on}T09:00:00Z`));
      operator = await yard.as('operator');
      const { id } = await start();
      const { deal, pack, acts } = await work(id, learner);
      const outcome = (await operator.call(routes.drillOutcome, { params: { id } })).body as RouteAnswer<
        typeof routes.drillOutcome
      >;
      const { row } = await dealt(id);
      expect(outcome.result).toEqual(
        JSON.parse(JSON.stringify(drillResult(pack, deal, acts, row.earlierStarts))),
      );
      return outcome;
    };
    try {
      expect((await round('2026-05-04')).unmet).toEqual([]);
      expect((await round('2026-05-04')).unmet).toEqual([]);
      expect((await practiceOf(operator)).classes[0]).toMatchObject({
        metOn: ['2026-05-04'],
        ready: false,
        parts: [
          { part: 'round', met: false, says: 'Walk-round: standard met on 1 of 2 days' },
          { part: 'desk', met: false },
          { part: 'commands', met: false, says: 'Controls: never called out' },
        ],
      });
      expect(await facts()).toEqual([]);
      const ticked = await round('2026-05-05', TICKER);
      expect(ticked.unmet).toContain('It was faster than the checks can be made.');
      expect(await facts()).toEqual([]);
      await round('2026-05-06');
      await round('2026-05-07');
      const recorded = await facts();
      expect(recorded.map((each) => [each.on, each.body])).toEqual([['2026-05-06', { kind: 'drill-met' }]]);
      const practice = await practiceOf(await yard.as('supervisor'));
      // The round is there; start and stop, and the controls, are asked for as well.
      expect(practice.classes[0]).toMatchObject({
        ready: false,
        parts: [{ part: 'round', met: true }, { part: 'desk' }, { part: 'commands' }],
      });
      expect(practice.classes[0]!.trend.map((each) => Math.round(each.score))).toEqual(
        expect.arrayContaining([100]),
      );
      expect(practice.classes[0]!.items).toBeGreaterThan(20);
    } finally {
      yard.setClock(null);
      operator = await yard.as('operator');
      trainer = await yard.as('trainer');
    }
  });

  it('is seen together by who has a team or all, each their own people, with what goes wrong most', async () => {
    const other = await start(trainer, { personId: yard.ids.otherId });
    await work(other.id, LOOK_ONLY, trainer);
    const overview = async (login: string, query = {}) =>
      (await (await yard.as(login)).call(routes.practiceOverview, { query })).body as RouteAnswer<
        typeof routes.practiceOverview
      >;
    const all = await overview('trainer', { classId: FORKLIFT });
    expect(all.rows.map((each) => each.person.name).sort()).toEqual(['Olla Tester', 'Pim Tester']);
    expect(all.rows.find((each) => each.person.name === 'Olla Tester')).toMatchObject({
      parts: [{ met: true }, { met: false }, { met: false }],
      ready: false,
    });
    expect(all.forgotten.length).toBeGreaterThan(0);
    for (const each of all.forgotten) expect(each.wrong).toBeLessThanOrEqual(each.times);
    const team = await overview('supervisor');
    expect(team.rows.map((each) => each.person.name)).toEqual(['Olla Tester']);
    expect(team.forgotten).toEqual([]);
    expect((await operator.call(routes.practiceOverview, { query: {} })).status).toBe(403);
    const unknown = await trainer.call(routes.practiceOverview, { query: { classId: 'no-such-class' } });
    expect(unknown.status).toBe(404);
  });

  it('keeps acts for good', async () => {
    const view = await start();
    await act(operator, view.id, { kind: 'go', station: view.stations[0]!.id });
    await expect(yard.house.db.delete(drillActRow).where(eq(drillActRow.drillId, view.id))).rejects.toThrow();
  });

  it('is seen by who may see the person, and by nobody else', async () => {
    const view = await start();
    await act(operator, view.id, { kind: 'end' });
    const sees = async (login: string) =>
      (await (await yard.as(login)).call(routes.drillOutcome, { params: { id: view.id } })).status;
    expect([await sees('trainer'), await sees('supervisor'), await sees('workshop')]).toEqual([
      200, 200, 403,
    ]);
    const other = await operator.call(routes.personPractice, { params: { id: yard.ids.otherId } });
    expect(other.status).toBe(404);
  });
});

describe('a drill made without a network', () => {
  type Brought = RouteInput<typeof routes.bringDrill>['body'];
  async function kept(by = operator) {
    const asked = await by.call(routes.keptClass, { params: { id: FORKLIFT }, query: { variant: 'diesel' } });
    expect(asked.status).toBe(200);
    return (asked.body as { pack: EffectivePack }).pack;
  }
  async function made(change: Partial<Brought> = {}): Promise<Brought> {
    const pack = await kept();
    const deal = dealDrill(pack, { form: 'round', seed: 77 });
    const acts = scriptedDrill(pack, deal, PERFECT);
    return {
      id: uuidv7(),
      packHash: pack.hash,
      form: 'round',
      station: null,
      seed: 77,
      startedAt: '2026-03-02T08:00:00.000Z',
      acts,
      score: drillResult(pack, deal, acts).score,
      ...change,
    };
  }
  const bring = (body: Brought, by = operator) => by.call(routes.bringDrill, { body });

  it('joins the record as what it is, and counts for no readiness, no spacing and no trend', async () => {
    const before = await practiceOf(operator);
    const body = await made();
    const answer = await bring(body);
    expect([answer.status, answer.body]).toEqual([200, { id: body.id, score: 100 }]);
    const after = await practiceOf(operator);
    expect(after.classes).toEqual(before.classes);
    expect(after.offline[0]).toMatchObject({ id: body.id, score: 100 });
    const [row] = await yard.house.db.select().from(drill).where(eq(drill.id, body.id));
    expect(row).toMatchObject({ offline: true, met: false, personId: yard.ids.operatorId });
    expect(
      await yard.house.db.select().from(practiceReview).where(eq(practiceReview.practiceId, body.id)),
    ).toEqual([]);
    const outcome = await operator.call(routes.drillOutcome, { params: { id: body.id } });
    expect(outcome.body).toMatchObject({ offline: true, classId: FORKLIFT });
  });

  it('is taken once, however often and however many at a time it is sent', async () => {
    const body = await made();
    const answers = await Promise.all([bring(body), bring(body), bring(body)]);
    expect(answers.map((each) => each.status)).toEqual([200, 200, 200]);
    const acts = await yard.house.db.select().from(drillActRow).where(eq(drillActRow.drillId, body.id));
    expect(acts).toHaveLength(body.acts.length);
    // Nobody else learns of it by sending its number.
    expect((await bring(body, trainer)).status).toBe(404);
  });

  it('is refused where its score is forged, an act cannot be done, it has not ended, or its class is unknown', async () => {
    const good = await made();
    const forged = await bring(await made({ score: 99 }));
    expect([forged.status, forged.body]).toEqual([
      409,
      expect.objectContaining({ code: 'drill-act', detail: expect.stringContaining('another score') }),
    ]);
    const elsewhere = await bring(
      await made({ acts: [{ kind: 'go', station: 'nowhere' }, { kind: 'end' }] }),
    );
    expect(elsewhere.status).toBe(409);
    expect((await bring(await made({ acts: good.acts.slice(0, -1) }))).status).toBe(409);
    // Another seed deals another machine: the acts of this one come to another score there, or cannot be done.
    expect((await bring(await made({ seed: 78 }))).status).toBe(409);
    expect((await bring(await made({ packHash: 'f'.repeat(64) }))).status).toBe(404);
    expect((await bring(await made({ form: 'station', station: 'nowhere' }))).status).toBe(409);
    const rows = await yard.house.db.select().from(drill).where(eq(drill.offline, true));
    expect(rows.every((each) => each.result?.score === 100)).toBe(true);
  });

  it('of a device whose clock runs ahead is never recorded as begun in the future', async () => {
    const body = await made({ startedAt: '2999-01-01T00:00:00.000Z' });
    expect((await bring(body)).status).toBe(200);
    const [row] = await yard.house.db.select().from(drill).where(eq(drill.id, body.id));
    expect(new Date(row!.startedAt).getTime()).toBeLessThanOrEqual(yard.house.now().getTime());
  });
});

describe('a drill that is set', () => {
  type Set = RouteInput<typeof routes.setPractice>['body'];
  const set = (by = trainer, change: Partial<Set> = {}) =>
    by.call(routes.setPractice, {
      body: {
        people: [{ id: uuidv7(), personId: yard.ids.operatorId }],
        classId: FORKLIFT,
        variant: 'diesel',
        form: 'one-wrong',
        times: 1,
        dueOn: '2026-01-05',
        ...change,
      },
    });

  it('stands on the page of whoever it is set until it is done, and a run without a network does it not', async () => {
    const id = uuidv7();
    const body = { people: [{ id, personId: yard.ids.operatorId }] };
    expect((await set(trainer, body)).status).toBe(200);
    expect((await set(trainer, body)).status).toBe(200);
    const [open, ...others] = (await practiceOf(operator)).sets;
    expect(others).toEqual([]);
    expect(open).toMatchObject({
      id,
      form: 'one-wrong',
      times: 1,
      done: 0,
      dueOn: '2026-01-05',
      overdue: true,
    });
    const seen = async (login: string) =>
      (
        (await (await yard.as(login)).call(routes.practiceOverview, { query: {} })).body as RouteAnswer<
          typeof routes.practiceOverview
        >
      ).sets.map((each) => each.id);
    expect([await seen('trainer'), await seen('supervisor')]).toEqual([[id], [id]]);
    // Another form does not do it; neither does one that is only begun.
    await act(operator, (await start(operator, { form: 'weak' })).id, { kind: 'end' });
    const view = await start(operator, { form: 'one-wrong' });
    expect((await practiceOf(operator)).sets).toHaveLength(1);
    await act(operator, view.id, { kind: 'end' });
    expect((await practiceOf(operator)).sets).toEqual([]);
    expect(await seen('trainer')).toEqual([]);
  });

  it('may be findings, commands or a test at the desk, each done by its own kind alone', async () => {
    const made = async (change: Partial<Set>) => {
      const id = uuidv7();
      const asked = await set(trainer, { people: [{ id, personId: yard.ids.operatorId }], ...change });
      return [id, asked.status, asked.problem?.code] as const;
    };
    const [desk] = await made({ form: 'desk', program: 'start' });
    const [findings] = await made({ form: 'bench' });
    const [commands] = await made({ form: 'commands', dueOn: '2026-01-06' });
    expect((await made({ form: 'desk' })).slice(1)).toEqual([409, 'desk-run']);
    const open = async () => (await practiceOf(operator)).sets.map((each) => each.id);
    expect(await open()).toEqual([desk, findings, commands]);
    expect((await practiceOf(operator)).sets.find((each) => each.id === desk)).toMatchObject({
      form: 'desk',
      program: 'start',
      station: null,
    });
    const atDesk = async (program: 'start' | 'stop', mode: 'guided' | 'test') => {
      const id = uuidv7();
      await operator.call(routes.startDesk, {
        body: {
          id,
          classId: FORKLIFT,
          variant: 'diesel',
          personId: yard.ids.operatorId,
          program,
          mode,
          surprise: false,
        },
      });
      const done = await operator.call(routes.endDesk, { params: { id }, body: { log: [], ticks: 50 } });
      expect(done.status).toBe(200);
    };
    await atDesk('start', 'guided');
    await atDesk('stop', 'test');
    expect(await open()).toContain(desk);
    await atDesk('start', 'test');
    expect(await open()).not.toContain(desk);
    expect(await open()).toEqual([findings, commands]);
    for (const id of [findings, commands]) await trainer.call(routes.dropPracticeSet, { params: { id } });
    expect(await open()).toEqual([]);
  });

  it('is done as often as it is set, and can be taken back', async () => {
    const id = uuidv7();
    await set(trainer, { people: [{ id, personId: yard.ids.operatorId }], times: 2, dueOn: '2999-01-01' });
    await act(operator, (await start(operator, { form: 'one-wrong' })).id, { kind: 'end' });
    expect((await practiceOf(operator)).sets).toEqual([
      expect.objectContaining({ id, done: 1, times: 2, overdue: false }),
    ]);
    expect((await operator.call(routes.dropPracticeSet, { params: { id } })).status).toBe(403);
    expect((await trainer.call(routes.dropPracticeSet, { params: { id } })).status).toBe(200);
    expect((await practiceOf(operator)).sets).toEqual([]);
    expect((await trainer.call(routes.dropPracticeSet, { params: { id } })).status).toBe(404);
  });

  it('is refused for nobody, a stranger, a kind or station that there is not, and by whoever does not train', async () => {
    expect((await set(operator)).status).toBe(403);
    expect((await set(trainer, { people: [] })).status).toBe(422);
    expect((await set(trainer, { people: [{ id: uuidv7(), personId: uuidv7() }] })).status).toBe(404);
    expect((await set(trainer, { variant: 'steam' })).status).toBe(422);
    expect((await set(trainer, { form: 'station', station: 'nowhere' })).status).toBe(409);
    expect((await set(trainer, { dueOn: 'soon' })).status).toBe(422);
    expect((await practiceOf(operator)).sets).toEqual([]);
  });
});
