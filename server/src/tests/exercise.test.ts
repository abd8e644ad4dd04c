import {
  type ExercisePhone,
  type ExerciseReport,
  type ExerciseView,
  type PreparedFinding,
  routes,
} from '@rounds/contract';
import { type Grade, GRADES } from '@rounds/core/catalogue';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { guestSeat } from '../data/schema';
import { practiceReview } from '../data/teachingSchema';
import { Caller, FORKLIFT, openYard } from './desk';
import { listenTo } from './listening';

let yard: Awaited<ReturnType<typeof openYard>>;
let trainer: Caller;
let operator: Caller;
beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
  operator = await yard.as('operator');
});
afterAll(() => yard.stop());

const ABOUT = { classId: FORKLIFT, variant: 'diesel', site: null };
async function findings(size = 6, seed = 3): Promise<PreparedFinding[]> {
  const asked = await trainer.call(routes.proposeFindings, {
    body: { ...ABOUT, form: 'all', system: 'si', size, seed },
  });
  expect(asked.status).toBe(200);
  return (asked.body as { findings: PreparedFinding[] }).findings;
}
async function open(found?: PreparedFinding[]) {
  const list = found ?? (await findings());
  const id = uuidv7();
  const made = await trainer.call(routes.startExercise, {
    body: { id, title: 'Monday class', ...ABOUT, cases: list.map((each) => each.case) },
  });
  expect([made.status, made.problem]).toEqual([200, made.problem]);
  const view = made.body as ExerciseView;
  return { id, code: view.code!, keys: list.map((each) => each.key.grade) };
}
const guest = () => new Caller(yard.address);
async function join(code: string, by = guest(), name: string | null = 'Ann') {
  const asked = await by.call(routes.joinExercise, { body: { code, name } });
  return { by, asked };
}
const move = (id: string, body: { show: number } | { reveal: true }) =>
  trainer.call(routes.moveExercise, { params: { id }, body });
const grade = (by: Caller, id: string, n: number, given: Grade) =>
  by.call(routes.answerExercise, { params: { id }, body: { n, grade: given } });
const phone = async (by: Caller, id: string) =>
  (await by.call(routes.exercisePhone, { params: { id } })).body as ExercisePhone;
const view = async (id: string) =>
  (await trainer.call(routes.exercise, { params: { id } })).body as ExerciseView;
const report = async (id: string) =>
  (await trainer.call(routes.exerciseReport, { params: { id } })).body as ExerciseReport;
const end = (id: string) => trainer.call(routes.endExercise, { params: { id } });

describe('a class exercise', () => {
  it('goes from joining to the record: guests and operators, cards, reveal, report', async () => {
    const { id, code, keys } = await open();
    const { by: ann } = await join(code.toLowerCase());
    const { by: ben } = await join(code, guest(), 'Ben');
    expect((await join(code, operator, null)).asked.status).toBe(200);
    expect((await phone(ann, id)).state).toBe('waiting');
    for (const [n, key] of keys.entries()) {
      await move(id, { show: n });
      expect(await phone(ann, id)).toMatchObject({ state: 'open', n, mine: null });
      await grade(ann, id, n, 'stop');
      await grade(ann, id, n, key);
      await grade(ben, id, n, 'stop');
      await grade(operator, id, n, key);
      const open_ = await view(id);
      expect(open_.participants.map((each) => [each.answered, each.grade])).toEqual([
        [true, null],
        [true, null],
        [true, null],
      ]);
      expect([open_.key, open_.spread]).toEqual([null, null]);
      if (n === 0)
        await trainer.call(routes.countCards, { params: { id }, body: { n, counts: [0, 1, 0, 2] } });
      const shown = (await move(id, { reveal: true })).body as ExerciseView;
      expect(shown.key!.grade).toBe(key);
      expect(shown.spread!.reduce((sum, each) => sum + each, 0)).toBe(n === 0 ? 6 : 3);
      expect(shown.participants.map((each) => each.grade)).toEqual([key, 'stop', key]);
      expect((await grade(ann, id, n, 'sound')).problem.code).toBe('exercise-order');
    }
    const whole = await report(id);
    expect(whole.people.map((each) => [each.name, each.summary.exact])).toEqual([
      ['Ann', 6],
      ['Ben', keys.filter((each) => each === 'stop').length],
      [expect.any(String), 6],
    ]);
    expect(whole.whole.n).toBe(21);
    expect(whole.alpha).not.toBeNull();
    expect((await end(id)).status).toBe(200);
    // A guest's seat ends with the exercise; an operator sees their own result.
    expect((await ann.call(routes.exercisePhone, { params: { id } })).status).toBe(401);
    expect(await phone(operator, id)).toMatchObject({ state: 'ended', result: { right: 6, of: 6 } });
    expect(await yard.house.db.select().from(guestSeat).where(eq(guestSeat.room, id))).toEqual([]);
    const practised = (await operator.call(routes.personPractice, { params: { id: yard.ids.operatorId } }))
      .body as { exercises: { id: string; right: number; of: number }[] };
    expect(practised.exercises).toContainEqual(expect.objectContaining({ id, right: 6, of: 6 }));
  });

  it('lets sixty guests see no name, no key and no answer of anybody else', async () => {
    const { id, code, keys } = await open();
    const phones = await Promise.all(
      Array.from({ length: 60 }, async (_, i) => {
        const { by, asked } = await join(code, guest(), `Person Nr${i}x`);
        expect(asked.status).toBe(200);
        return by;
      }),
    );
    await move(id, { show: 0 });
    const told: string[] = [];
    await Promise.all(
      phones.map(async (by, i) => {
        const answered = await grade(by, id, 0, GRADES[i % 4]!);
        expect(answered.status).toBe(200);
        told.push(JSON.stringify(answered.body), JSON.stringify(await phone(by, id)));
      }),
    );
    await move(id, { reveal: true });
    for (const by of phones.slice(0, 10)) told.push(JSON.stringify(await phone(by, id)));
    const all = told.join('\n');
    expect(all).not.toMatch(/Person Nr\d+x/);
    expect(all).not.toMatch(/"(key|spread|participants|reasons|confusion)"/);
    phones.forEach((_, i) => {
      const own = JSON.parse(told[2 * i + 1]!) as ExercisePhone;
      expect(Object.keys(own).sort()).toEqual([
        'finding',
        'id',
        'mine',
        'n',
        'of',
        'result',
        'state',
        'title',
      ]);
    });
    // Every other route is closed to a seat.
    for (const [name, spec] of Object.entries(routes)) {
      if (spec.roles === 'public' || (spec.roles as readonly string[]).includes('seat')) continue;
      const params = Object.fromEntries([...spec.path.matchAll(/:(\w+)/g)].map(([, key]) => [key!, id]));
      const path = spec.path.replace(/:(\w+)/g, (_, key: string) => params[key]!);
      const answer = await phones[0]!.raw(spec.method, `/api${path}`);
      expect([name, answer.status]).toEqual([name, 401]);
    }
    const { people, whole } = await report(id);
    expect(people).toHaveLength(60);
    expect(whole.n).toBe(60);
    expect(whole.exact).toBe(15);
    expect(keys).toHaveLength(6);
    await end(id);
  });

  it('loses nothing when phones and the trainer go away and come back', async () => {
    const { id, code, keys } = await open();
    const { by: ann } = await join(code);
    await move(id, { show: 0 });
    await grade(ann, id, 0, keys[0]!);
    // The phone is loaded anew and its person types the code again: the same place, with the same answer.
    expect((await join(code, ann, 'Ann again')).asked.status).toBe(200);
    expect(await phone(ann, id)).toMatchObject({ n: 0, mine: keys[0] });
    trainer = await yard.as('trainer');
    const back = await view(id);
    expect(back).toMatchObject({ n: 0, revealed: false });
    expect(back.participants).toHaveLength(1);
    expect((await trainer.call(routes.exercises, {})).body).toMatchObject({
      rows: expect.arrayContaining([expect.objectContaining({ id, own: true, ended: false, people: 1 })]),
    });
    await end(id);
  });

  it('matches a guest to a person afterwards, whose record then has it, and takes it back', async () => {
    const { id, code, keys } = await open();
    const { by: ann } = await join(code);
    await move(id, { show: 0 });
    await grade(ann, id, 0, keys[0]!);
    await move(id, { reveal: true });
    await end(id);
    const [place] = (await view(id)).participants;
    const personId = yard.ids.otherId;
    const match = (to: string | null, participant = place!.id) =>
      trainer.call(routes.matchParticipant, { params: { id, participant }, body: { personId: to } });
    expect((await match(personId)).status).toBe(200);
    const reviews = () =>
      yard.house.db.select().from(practiceReview).where(eq(practiceReview.practiceId, place!.id));
    expect(await reviews()).toMatchObject([{ personId, outcome: 'right' }]);
    expect((await view(id)).participants[0]!.person!.id).toBe(personId);
    expect((await match(null)).status).toBe(200);
    expect(await reviews()).toEqual([]);
    expect((await match(uuidv7())).problem.code).toBe('not-found');
    expect((await match(personId, uuidv7())).problem.code).toBe('not-found');
  });

  it('puts a guest out with what they graded, tells their phone alone, and nobody with an account', async () => {
    const { id, code, keys } = await open();
    const { by: ann } = await join(code);
    const { by: ben } = await join(code, guest(), 'Ben');
    await join(code, operator, null);
    await move(id, { show: 0 });
    await grade(ann, id, 0, keys[0]!);
    await grade(ben, id, 0, keys[0]!);
    const [hears, others] = await Promise.all(
      [ann, ben].map((by) =>
        listenTo({ address: yard.address, cookie: by.cookie }, `/api/exercises/${id}/following`),
      ),
    );
    const told = (events: { data: unknown }[]) => events.map(({ data }) => (data as { kind?: string }).kind);
    const out = (participant: string, by = trainer) =>
      by.call(routes.putOut, { params: { id, participant } });
    const [first, , account] = (await view(id)).participants;
    expect((await out(account!.id)).problem.code).toBe('exercise-order');
    expect((await out(uuidv7())).problem.code).toBe('not-found');
    expect((await out(first!.id, await yard.as('administrator'))).problem.code).toBe('not-found');
    const answers = await Promise.all([out(first!.id), out(first!.id), grade(ann, id, 0, 'stop')]);
    // Once alone, and an answer on its way comes before it or is refused.
    expect(
      answers
        .slice(0, 2)
        .map((each) => each.status)
        .sort(),
    ).toEqual([200, 404]);
    expect([200, 401, 404]).toContain(answers[2]!.status);
    expect((await view(id)).participants.map((each) => each.name)).toEqual(['Ben', expect.any(String)]);
    expect((await ann.call(routes.exercisePhone, { params: { id } })).status).toBe(401);
    expect((await move(id, { reveal: true })).body).toMatchObject({ spread: expect.any(Array) });
    expect((await report(id)).whole.n).toBe(1);
    await hears!.until((events) => told(events).includes('left'));
    await others!.until((events) => told(events).includes('moved'));
    expect(told(others!.events)).not.toContain('left');
    hears!.stop();
    others!.stop();
    // By the code they may come in again, with nothing of before.
    expect((await join(code, ann, 'Ann')).asked.status).toBe(200);
    expect(await phone(ann, id)).toMatchObject({ mine: null });
    await end(id);
    expect((await out(first!.id)).problem.code).toBe('lesson-over');
  });

  it('refuses what is out of turn, other people’s rooms, wrong codes, and no name', async () => {
    const { id, code } = await open();
    expect((await move(id, { reveal: true })).problem.code).toBe('exercise-order');
    expect((await move(id, { show: 30 })).problem.code).toBe('exercise-order');
    expect((await join('ZZZZZZ')).asked.problem.code).toBe('not-found');
    expect((await join(code, guest(), null)).asked.problem.code).toBe('invalid');
    expect((await join(code, trainer, null)).asked.problem.code).toBe('own-record');
    const { by: ann } = await join(code);
    expect((await grade(ann, id, 0, 'stop')).problem.code).toBe('exercise-order');
    const other = await open();
    expect((await ann.call(routes.exercisePhone, { params: { id: other.id } })).status).toBe(404);
    expect((await grade(operator, id, 0, 'stop')).status).toBe(404);
    const admin = await yard.as('administrator');
    expect((await admin.call(routes.exercise, { params: { id } })).status).toBe(404);
    expect((await operator.call(routes.exercise, { params: { id } })).status).toBe(403);
    await end(id);
    expect((await end(id)).problem.code).toBe('lesson-over');
    expect((await move(id, { show: 0 })).problem.code).toBe('lesson-over');
    expect((await join(code)).asked.problem.code).toBe('not-found');
    await end(other.id);
  });

  it('keeps sets to put again, changed by whoever kept them alone', async () => {
    const list = await findings(4, 9);
    const setId = uuidv7();
    const keep = (by: Caller, change: object = {}) =>
      by.call(routes.keepExerciseSet, {
        params: { id: setId },
        body: { title: 'Brakes and belts', ...ABOUT, cases: list.map((each) => each.case), ...change },
      });
    expect((await keep(trainer)).status).toBe(200);
    expect((await keep(await yard.as('administrator'))).problem.code).toBe('not-found');
    expect((await keep(trainer, { title: 'Belts' })).status).toBe(200);
    expect((await trainer.call(routes.exerciseSets, {})).body).toMatchObject({
      sets: [{ id: setId, title: 'Belts', findings: 4, own: true }],
    });
    const opened = (await trainer.call(routes.exerciseSet, { params: { id: setId } })).body as {
      findings: PreparedFinding[];
    };
    expect(opened.findings).toEqual(list);
    const bad = { ...list[0]!.case, checkpoint: 'CF-999' };
    expect((await keep(trainer, { cases: [bad] })).problem.code).toBe('unknown-row');
    expect((await trainer.call(routes.dropExerciseSet, { params: { id: setId } })).status).toBe(200);
    expect((await trainer.call(routes.exerciseSet, { params: { id: setId } })).status).toBe(404);
  });
});
