import { type CalibrationReport, type CalibrationView, routes } from '@rounds/contract';
import type { ReplayScore } from '@rounds/core/calibration';
import { localDate } from '@rounds/core/calendar';
import { DEFAULT_RULES } from '@rounds/core/certification';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { calibration } from '../data/gradingSchema';
import { type Caller, FORKLIFT, openYard } from './desk';

let yard: Awaited<ReturnType<typeof openYard>>;
let trainer: Caller;
let second: Caller;
let admin: Caller;
beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
  second = await yard.as('trainer2');
  admin = await yard.as('administrator');
});
afterAll(() => yard.stop());

async function put(by = trainer, id = uuidv7()) {
  const made = await by.call(routes.openCalibration, {
    body: { id, title: 'Autumn', classId: FORKLIFT, variant: 'diesel', length: 'short' },
  });
  expect([made.status, made.problem]).toEqual([200, made.problem]);
  return id;
}
const view = async (by: Caller, id: string) =>
  (await by.call(routes.calibration, { params: { id } })).body as CalibrationView;
const keep = (by: Caller, id: string, scores: Record<string, ReplayScore>) =>
  by.call(routes.scoreCalibration, { params: { id }, body: { scores, way: 'stepped' } });
const handIn = (by: Caller, id: string) => by.call(routes.handInCalibration, { params: { id } });
const close = (by: Caller, id: string) => by.call(routes.closeCalibration, { params: { id } });
const report = (by: Caller, id: string) => by.call(routes.calibrationReport, { params: { id } });
/** What the key gives, which no route tells before it is closed. */
async function keyOf(id: string): Promise<Record<string, ReplayScore>> {
  const [row] = await yard.house.db.select().from(calibration).where(eq(calibration.id, id));
  return Object.fromEntries(row!.round.criteria.map((each) => [each.id, each.key]));
}
const milder = (key: Record<string, ReplayScore>): Record<string, ReplayScore> =>
  Object.fromEntries(Object.entries(key).map(([id, each]) => [id, each === 'not' ? 'prompted' : 'done']));

describe('the calibration of evaluators', () => {
  it('is scored alone and blind, closed, and shows who is mild', async () => {
    const id = await put();
    await put(trainer, id);
    const key = await keyOf(id);
    const text = JSON.stringify(await view(second, id));
    expect(text).not.toMatch(/"key"|"why"|Passed by without/);
    await keep(trainer, id, key);
    expect((await handIn(trainer, id)).status).toBe(200);
    // What the other gave is nowhere, and the report waits until it is closed.
    expect((await view(second, id)).mine).toBeNull();
    expect((await view(second, id)).handedIn).toHaveLength(1);
    expect((await report(second, id)).problem.code).toBe('calibration-order');
    const mild = milder(key);
    const [first, ...rest] = Object.entries(mild);
    await keep(second, id, Object.fromEntries(rest));
    const early = await handIn(second, id);
    expect([early.problem.code, early.problem.detail]).toEqual([
      'calibration-order',
      expect.stringContaining('1 of '),
    ]);
    // What is kept now stays beside what was kept before.
    await keep(second, id, Object.fromEntries([first!]));
    expect((await view(second, id)).mine!.scores).toEqual(mild);
    expect((await handIn(second, id)).status).toBe(200);
    expect((await keep(second, id, key)).problem.code).toBe('calibration-order');
    expect((await close(second, id)).problem.code).toBe('forbidden');
    expect((await close(trainer, id)).status).toBe(200);
    expect((await close(trainer, id)).problem.code).toBe('calibration-order');

    const shown = (await report(second, id)).body as CalibrationReport;
    expect(shown.evaluators.map((each) => [each.name, each.severity! > 0])).toEqual([
      ['second trainer', true],
      ['trainer', false],
    ]);
    expect(shown.says[0]).toBe('Mild, beyond what chance explains: second trainer.');
    expect(shown.icc).toHaveLength(6);
    expect(shown.criteria.map((each) => each.key).sort()).toEqual(Object.values(key).sort());
    expect(shown.criteria[0]!.agreed).toBe(0.5);
    for (const each of shown.criteria)
      expect([...each.given].sort()).toEqual([key[each.id], mild[each.id]].sort());
  });

  it('is dated, holds the months the rules ask for, and an evaluation says so', async () => {
    const set = await admin.call(routes.setRules, {
      body: {
        site: null,
        classId: null,
        effectiveFrom: localDate(new Date().toISOString(), 'Europe/London'),
        rules: { ...DEFAULT_RULES, calibrationMonths: 6 },
        given: 'keep',
      },
    });
    expect(set.status).toBe(200);
    const done = await put();
    for (const by of [trainer, second]) {
      await keep(by, done, await keyOf(done));
      await handIn(by, done);
    }
    await close(trainer, done);
    const id = await put(admin);
    expect((await trainer.call(routes.today, {})).body).toMatchObject({
      calibration: {
        waiting: expect.arrayContaining([{ id, title: 'Autumn' }]),
        standing: { state: 'calibrated' },
      },
    });
    const listed = (await admin.call(routes.calibrations, {})).body as {
      evaluators: { name: string; standing: { state: string; says: string }; severity: unknown }[];
    };
    const states = listed.evaluators.map((each) => each.standing.state);
    expect(states.filter((each) => each === 'calibrated')).toHaveLength(2);
    const evaluationId = uuidv7();
    const made = await trainer.call(routes.createEvaluation, {
      body: {
        id: evaluationId,
        personId: yard.ids.otherId,
        classId: FORKLIFT,
        unitId: yard.ids.unitId,
        variant: 'diesel',
        features: {},
        conditions: '',
        device: 'a-device',
      },
    });
    expect(made.body).toMatchObject({ evaluator: { state: 'calibrated' } });
    yard.setClock(new Date(Date.now() + 215 * 86_400_000));
    trainer = await yard.as('trainer');
    const later = (await trainer.call(routes.today, {})).body as {
      calibration: { standing: { state: string; says: string } };
    };
    expect(later.calibration.standing.state).toBe('due');
    // The evaluation was made while it held, and stays so.
    expect((await trainer.call(routes.evaluation, { params: { id: evaluationId } })).body).toMatchObject({
      evaluator: { state: 'calibrated', says: expect.stringContaining('good until') },
    });
    yard.setClock(null);
    trainer = await yard.as('trainer');
    admin = await yard.as('administrator');
    expect((await (await yard.as('supervisor')).call(routes.today, {})).body).toMatchObject({
      calibration: null,
    });
    expect((await close(admin, id)).problem.detail).toContain('Nobody has handed in');
  });

  it('refuses what is not there, not scored by anybody, or not of this round', async () => {
    const id = await put();
    expect((await keep(trainer, id, { 'CF-999': 'done' })).problem.code).toBe('unknown-row');
    expect((await keep(trainer, uuidv7(), {})).problem.code).toBe('not-found');
    expect((await handIn(trainer, id)).problem.code).toBe('calibration-order');
    const wrong = await trainer.call(routes.scoreCalibration, {
      params: { id },
      body: { scores: { x: 'perhaps' as never }, way: 'stepped' },
    });
    expect(wrong.status).toBe(422);
    const operator = await yard.as('operator');
    expect((await report(operator, id)).status).toBe(403);
    expect((await operator.call(routes.calibration, { params: { id } })).status).toBe(403);
    expect((await operator.call(routes.calibrations, {})).status).toBe(403);
    const unknown = await trainer.call(routes.openCalibration, {
      body: { id: uuidv7(), title: 'x', classId: 'no-such-class', variant: 'a', length: 'short' },
    });
    expect(unknown.problem.code).toBe('not-found');
  });

  it('keeps both of two taps that arrive at once', async () => {
    const id = await put();
    const key = await keyOf(id);
    const ids = Object.keys(key).slice(0, 12);
    const answers = await Promise.all(ids.map((each) => keep(trainer, id, { [each]: key[each]! })));
    expect(answers.map((each) => each.status)).toEqual(ids.map(() => 200));
    const { scores } = (await view(trainer, id)).mine!;
    expect(Object.keys(scores).sort()).toEqual([...ids].sort());
  });
});
