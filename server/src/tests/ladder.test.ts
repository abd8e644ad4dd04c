import { type RouteAnswer, type RouteInput, routes, type RouteSpec } from '@rounds/contract';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { rungSignOff } from '../data/teachingSchema';
import { type Caller, FORKLIFT, openYard } from './desk';

let yard: Awaited<ReturnType<typeof openYard>>;
let trainer: Caller;
let other: Caller;
beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
  other = await yard.as('trainer2');
});
afterAll(() => yard.stop());

type Ladders = RouteAnswer<typeof routes.personLadders>;
type Sign = RouteInput<typeof routes.signRung>['body'];
const sign = (by: Caller, personId: string, asked: Partial<Sign> = {}) =>
  by.call(routes.signRung, {
    params: { id: personId },
    body: { id: uuidv7(), classId: FORKLIFT, rung: 'CF-L01', on: '2026-01-05', note: null, ...asked },
  });
const read = async (by: Caller, personId: string, classId?: string) =>
  (
    await by.call(routes.personLadders, {
      params: { id: personId },
      query: classId ? { classId } : {},
    })
  ).body as Ladders;
const rung = (found: Ladders, id: string) =>
  found.ladders.find((each) => each.classId === FORKLIFT)!.rungs.find((each) => each.id === id)!;

describe('the ladder of teaching', () => {
  it('has the rungs of a class in their order, with what makes each signed off', async () => {
    const found = await read(trainer, yard.ids.operatorId, FORKLIFT);
    const ladder = found.ladders.find((each) => each.classId === FORKLIFT)!;
    expect(ladder.rungs.length).toBeGreaterThan(10);
    expect(ladder.rungs.every((each) => each.criterion && each.signed === null)).toBe(true);
    expect(found.classes.some((each) => each.id === FORKLIFT)).toBe(true);
  });

  it('is signed off with day, note and name, once, and taken back with a reason; both stay on record', async () => {
    const id = uuidv7();
    const told = (await sign(trainer, yard.ids.operatorId, { id, note: 'twice in the rain' }))
      .body as Ladders;
    expect(rung(told, 'CF-L01').signed).toMatchObject({ id, on: '2026-01-05', note: 'twice in the rain' });
    // Sent again, it is the same one; by somebody else it is signed already.
    expect((await sign(trainer, yard.ids.operatorId, { id })).status).toBe(200);
    expect((await sign(other, yard.ids.operatorId)).problem.code).toBe('signed-already');
    const both = await Promise.all([
      sign(trainer, yard.ids.operatorId, { rung: 'CF-L02' }),
      sign(other, yard.ids.operatorId, { rung: 'CF-L02' }),
    ]);
    expect(both.map((each) => each.status).sort()).toEqual([200, 409]);

    const back = (why: string, signOff = id) =>
      other.call(routes.takeRungBack, { params: { id: yard.ids.operatorId, signOff }, body: { why } });
    const taken = (await back('it was somebody else')).body as Ladders;
    expect(rung(taken, 'CF-L01').signed).toBeNull();
    expect((await back('again')).status).toBe(200);
    const rows = (await yard.house.db.select().from(rungSignOff)).filter((each) => each.rung === 'CF-L01');
    expect(rows.map((each) => [each.takesBack, each.note])).toEqual([
      [null, 'twice in the rain'],
      [id, 'it was somebody else'],
    ]);
    expect(await yard.audited('rung-taken-back')).toHaveLength(1);
    await expect(yard.house.db.delete(rungSignOff)).rejects.toThrow();
    // Signed anew.
    expect((await sign(other, yard.ids.operatorId)).status).toBe(200);
  });

  it('is read by whom may see the person, and signed by trainers alone', async () => {
    const operator = await yard.as('operator');
    expect(rung(await read(operator, yard.ids.operatorId), 'CF-L01').signed).not.toBeNull();
    expect(
      (await operator.call(routes.personLadders, { params: { id: yard.ids.otherId }, query: {} })).problem
        .code,
    ).toBe('not-found');
    for (const role of ['operator', 'supervisor', 'workshop'] as const)
      expect((await sign(await yard.as(role), yard.ids.operatorId)).status).toBe(403);
  });

  it('refuses a day to come, a rung that is none, a class that is none and a sign-off of somebody else', async () => {
    expect(
      (await sign(trainer, yard.ids.operatorId, { on: '2099-01-01', rung: 'CF-L03' })).problem.code,
    ).toBe('date-in-future');
    expect((await sign(trainer, yard.ids.operatorId, { rung: 'CF-L99' })).problem.code).toBe('unknown-row');
    expect((await sign(trainer, yard.ids.operatorId, { classId: 'no-such' })).problem.code).toBe('not-found');
    expect((await sign(trainer, uuidv7())).problem.code).toBe('not-found');
    const theirs = rung(await read(trainer, yard.ids.operatorId), 'CF-L01').signed!;
    const wrong = await trainer.call(routes.takeRungBack, {
      params: { id: yard.ids.otherId, signOff: theirs.id },
      body: { why: 'x' },
    });
    expect(wrong.problem.code).toBe('not-found');
  });
});

describe('the paper of a course', () => {
  const paper = (query: Partial<Record<'layout' | 'length' | 'width' | 'turns', string>>) =>
    trainer.call(routes.coursePaper as RouteSpec, { params: { id: FORKLIFT }, query } as never);

  it('is printed for the class, and for the machine at hand', async () => {
    for (const query of [{ layout: 'slalom' }, { layout: 'reverse-lane', length: '4.2', width: '1.4' }]) {
      const answer = await paper(query);
      expect(answer.status).toBe(200);
      expect(Buffer.from(answer.body as ArrayBuffer).toString('latin1', 0, 5)).toBe('%PDF-');
    }
  });
  it('says what is wrong with a size or a layout', async () => {
    for (const query of [
      { layout: 'slalom', length: '900' },
      { layout: 'maze' },
      { layout: 'slalom', turns: 'nearly' },
    ])
      expect((await paper(query)).problem.code).toBe('invalid');
  });
});
