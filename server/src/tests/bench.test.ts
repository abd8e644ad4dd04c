import {
  type AnsweredFinding,
  type BenchOutcome,
  type BenchView,
  type RouteAnswer,
  type RouteInput,
  routes,
} from '@rounds/contract';
import { type BenchAnswer, benchKey } from '@rounds/core/bench';
import { rightActs, rightBound } from '@rounds/core/grading';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { effectivePackOf } from '../classes/packs';
import { bench, benchAnswerRow } from '../data/gradingSchema';
import { practiceReview } from '../data/teachingSchema';
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

type Asked = RouteInput<typeof routes.startBench>['body'];
const ask = (by: Caller, asked: Partial<Asked> = {}) =>
  by.call(routes.startBench, {
    body: {
      id: uuidv7(),
      classId: FORKLIFT,
      variant: 'diesel',
      kind: 'all',
      size: 8,
      system: 'si',
      timed: null,
      personId: yard.ids.operatorId,
      ...asked,
    },
  });
async function start(by = operator, asked: Partial<Asked> = {}): Promise<BenchView> {
  const made = await ask(by, asked);
  expect([made.status, made.problem]).toEqual([200, made.problem]);
  return made.body as BenchView;
}
const answer = (
  by: Caller,
  id: string,
  n: number,
  given: BenchAnswer | { choice: number },
  seconds: number | null = null,
) => by.call(routes.answerBench, { params: { id }, body: { n, answer: given, seconds } });

/** The right answer to a case, by the key that only the server has. */
async function key(id: string, n: number): Promise<BenchAnswer> {
  const [row] = await yard.house.db.select().from(bench).where(eq(bench.id, id));
  const pack = await effectivePackOf(yard.house.db, row!.packHash);
  if (row!.dealt.of !== 'findings') throw new Error('no findings');
  const grading = benchKey(pack, row!.dealt.deal.cases[n]!);
  const act = rightActs(grading)[0]!;
  return {
    grade: grading.grade,
    act,
    by: act === 'go-on' || act === 'stop-and-tag' ? null : rightBound(grading),
  };
}
const outcomeOf = async (by: Caller, id: string) =>
  (await by.call(routes.benchOutcome, { params: { id } })).body as BenchOutcome;
const reviewsOf = (id: string) =>
  yard.house.db.select().from(practiceReview).where(eq(practiceReview.practiceId, id));

describe('a bench', () => {
  it('puts one finding at a time, and gives the key with its reasons once it is answered', async () => {
    const begun = await start();
    expect(begun.of).toBe(8);
    expect(begun.answered).toEqual([]);
    let seen = begun;
    for (let n = 0; n < 8; n++) {
      expect(seen.now?.n).toBe(n);
      // Nothing of the case that is put says how it is graded.
      expect(JSON.stringify(seen.now)).not.toMatch(/"(grade|key|reasons|fault|limits)"/);
      seen = (await answer(operator, begun.id, n, await key(begun.id, n))).body as BenchView;
      const last = seen.answered.at(-1) as AnsweredFinding;
      expect(last).toMatchObject({ gradeRight: true, actRight: true, late: false });
      for (const reason of last.key.reasons) expect(reason.origin.length).toBeGreaterThan(5);
    }
    expect(seen).toMatchObject({ ended: true, now: null });
    const outcome = await outcomeOf(operator, begun.id);
    expect(outcome).toMatchObject({ right: 8, of: 8, actsRight: 8, tooLate: 0 });
    expect(outcome.grading!.says.join(' ')).toContain('8 of 8');
    const reviews = await reviewsOf(begun.id);
    expect(reviews).toHaveLength(8);
    expect(new Set(reviews.map((each) => each.outcome))).toEqual(new Set(['right']));
  });

  it('tells whoever says stop to everything that this is chance', async () => {
    const begun = await start(operator, { size: 12 });
    for (let n = 0; n < begun.of; n++)
      await answer(operator, begun.id, n, { grade: 'stop', act: 'stop-and-tag', by: null });
    const { grading } = await outcomeOf(trainer, begun.id);
    expect(grading!.kappa ?? 0).toBeCloseTo(0, 10);
    expect(grading!.says.join(' ')).toContain('Everything was called stop');
    expect(grading!.tooHigh).toBeGreaterThan(0);
  });

  it('takes the first answer alone, in turn, and none that contradicts itself', async () => {
    const { id } = await start();
    const code = async (...given: Parameters<typeof answer>) => (await answer(...given)).problem?.code;
    const go = { grade: 'sound', act: 'go-on', by: null } as const;
    expect(await code(operator, id, 1, go)).toBe('bench-answer');
    expect(await code(operator, id, 0, { choice: 1 })).toBe('bench-answer');
    expect(await code(operator, id, 0, { ...go, by: 'today' })).toBe('bench-answer');
    // Two pages at once: one of the two counts, and both are told which.
    const [a, b] = await Promise.all([
      answer(operator, id, 0, go),
      answer(operator, id, 0, { grade: 'stop', act: 'stop-and-tag', by: null }),
    ]);
    expect([a.status, b.status]).toEqual([200, 200]);
    expect((a.body as BenchView).answered).toEqual((b.body as BenchView).answered);
    expect(
      await yard.house.db.select().from(benchAnswerRow).where(eq(benchAnswerRow.benchId, id)),
    ).toHaveLength(1);
    expect(await code(trainer, id, 1, go)).toBe('not-found');
  });

  it('ended early counts what was answered, and takes nothing more', async () => {
    const { id } = await start();
    await answer(operator, id, 0, await key(id, 0));
    expect((await operator.call(routes.benchOutcome, { params: { id } })).problem.code).toBe('not-complete');
    const ended = (await operator.call(routes.endBench, { params: { id } })).body as BenchView;
    expect(ended).toMatchObject({ ended: true, now: null });
    expect((await operator.call(routes.endBench, { params: { id } })).status).toBe(200);
    expect((await answer(operator, id, 1, await key(id, 1))).problem.code).toBe('bench-answer');
    expect(await reviewsOf(id)).toHaveLength(1);
    expect((await outcomeOf(operator, id)).answered).toHaveLength(1);
  });

  it('marks what took too long only where a time was asked for', async () => {
    const timed = await start(operator, { timed: 20 });
    const late = (await answer(operator, timed.id, 0, await key(timed.id, 0), 20.5)).body as BenchView;
    const inTime = (await answer(operator, timed.id, 1, await key(timed.id, 1), 19)).body as BenchView;
    expect([late.answered[0]!.late, inTime.answered[1]!.late]).toEqual([true, false]);
    const free = await start();
    expect(
      ((await answer(operator, free.id, 0, await key(free.id, 0), 999)).body as BenchView).answered[0]!.late,
    ).toBe(false);
  });

  it('asks for numbers, with their origin once they are answered', async () => {
    const begun = await start(operator, { kind: 'numbers', size: 4 });
    const [row] = await yard.house.db.select().from(bench).where(eq(bench.id, begun.id));
    if (row!.dealt.of !== 'numbers') throw new Error('no numbers');
    expect(JSON.stringify(begun.now)).not.toContain('"right"');
    let seen = begun;
    for (const [n, { right }] of row!.dealt.questions.entries())
      seen = (await answer(operator, begun.id, n, { choice: n === 0 ? (right + 1) % 4 : right }))
        .body as BenchView;
    expect(seen.answered.map((each) => 'choice' in each && each.choice === each.right)).toEqual([
      false,
      true,
      true,
      true,
    ]);
    expect((await outcomeOf(operator, begun.id)).right).toBe(3);
    expect(
      (await reviewsOf(begun.id)).map((each) => each.item).every((each) => each.startsWith('number:')),
    ).toBe(true);
    expect(
      (await answer(operator, (await start(operator, { kind: 'numbers' })).id, 0, { choice: 9 })).problem
        .code,
    ).toBe('bench-answer');
  });

  it('is measured in the units of the reader', async () => {
    const begun = await start(operator, { kind: 'measured', system: 'us', size: 4 });
    let seen = begun;
    const said: string[] = [];
    for (let n = 0; n < begun.of; n++) {
      if (seen.now && 'finding' in seen.now) said.push(...seen.now.finding.readings.map((each) => each.says));
      seen = (await answer(operator, begun.id, n, await key(begun.id, n))).body as BenchView;
    }
    expect(said.length).toBeGreaterThan(0);
    expect(said.join(' ')).not.toMatch(/\bmm\b|\bbar\b/);
  });

  it('counts for the person it is for, whom an operator cannot choose, or for nobody', async () => {
    expect((await ask(operator, { personId: yard.ids.otherId })).problem.code).toBe('forbidden');
    expect((await ask(operator, { personId: null })).problem.code).toBe('forbidden');
    const tried = await start(trainer, { personId: null });
    await answer(trainer, tried.id, 0, await key(tried.id, 0));
    await trainer.call(routes.endBench, { params: { id: tried.id } });
    expect(await reviewsOf(tried.id)).toEqual([]);
    const supervisor = await yard.as('supervisor');
    const own = await start();
    await operator.call(routes.endBench, { params: { id: own.id } });
    expect((await supervisor.call(routes.benchOutcome, { params: { id: own.id } })).status).toBe(200);
    expect((await supervisor.call(routes.benchOutcome, { params: { id: tried.id } })).status).toBe(404);
  });

  it('joins the practice record', async () => {
    const open = await start();
    const practised = (await operator.call(routes.personPractice, { params: { id: yard.ids.operatorId } }))
      .body as RouteAnswer<typeof routes.personPractice>;
    const own = practised.classes.find((each) => each.classId === FORKLIFT)!;
    expect(own.benches).toBeGreaterThan(3);
    expect(own.graded).toBeGreaterThan(20);
    expect(practised.open).toContainEqual(expect.objectContaining({ id: open.id, what: 'bench' }));
  });
});
