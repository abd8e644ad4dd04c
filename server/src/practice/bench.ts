import { randomInt } from 'node:crypto';
import type {
  AnsweredCase,
  BenchKind,
  BenchOutcome,
  BenchView,
  benchRoutes as routes,
  RouteInput,
} from '@rounds/contract';
import {
  answerProblem,
  askableNumbers,
  type BenchAnswer,
  benchCandidates,
  type BenchDeal,
  type BenchForm,
  benchItem,
  benchResult,
  benchReviews,
  dealBench,
  dealNumbers,
  findingView,
  judgeAnswer,
  numberReviews,
} from '@rounds/core/bench';
import { type EffectivePack, originWords } from '@rounds/core/catalogue';
import { numberItem } from '@rounds/core/practice';
import { and, asc, eq, isNotNull, isNull, lt } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { effectivePackOf, packOrProblem } from '../classes/packs';
import { type House, note, siteToday } from '../data/context';
import type { Database } from '../data/database';
import { bench, benchAnswerRow, type DealtBench } from '../data/gradingSchema';
import { retiredItems } from '../data/itemReviews';
import { keepReviews } from '../data/practiceReviews';
import { person } from '../data/schema';
import { ProblemError } from '../http/problem';
import { gradingSummary, keyView } from './keyView';
import { composedFor, learnerOf, maySeePractised, namedLearner, weightsFor } from './learner';

type BenchRow = typeof bench.$inferSelect;
type AnswerRow = typeof benchAnswerRow.$inferSelect;
type Asked = RouteInput<typeof routes.startBench>['body'];

const missing = () => new ProblemError('not-found', 'There is no such bench, or it is not yours.');

/** A bench with what was answered of it. */
interface HeldBench {
  row: BenchRow;
  pack: EffectivePack;
  answers: (AnswerRow | null)[];
}

const sizeOf = (dealt: DealtBench): number =>
  dealt.of === 'findings' ? dealt.deal.cases.length : dealt.questions.length;

async function held(db: Database, row: BenchRow): Promise<HeldBench> {
  const rows = await db
    .select()
    .from(benchAnswerRow)
    .where(eq(benchAnswerRow.benchId, row.id))
    .orderBy(asc(benchAnswerRow.n));
  const answers = Array.from(
    { length: sizeOf(row.dealt) },
    (_, n) => rows.find((each) => each.n === n) ?? null,
  );
  return { row, pack: await effectivePackOf(db, row.packHash), answers };
}

async function ownBench(house: House, caller: Caller, id: string): Promise<BenchRow> {
  const [row] = await house.db.select().from(bench).where(eq(bench.id, id));
  if (!row || row.accountId !== caller.id) throw missing();
  return row;
}

/** A case as it is put, without what it is. */
function put({ row, pack }: HeldBench, n: number): NonNullable<BenchView['now']> {
  const { dealt } = row;
  if (dealt.of === 'findings')
    return { n, finding: findingView(pack, dealt.deal.cases[n]!, dealt.deal.form) };
  const { number, options } = dealt.questions[n]!;
  const { name, meaning } = pack.numbers.find((each) => each.id === number)!;
  return { n, number: { name, meaning, options } };
}

/** An answered case with its key. */
function answeredCase(own: HeldBench, answer: AnswerRow): AnsweredCase {
  const { row, pack } = own;
  const { n, body, took } = answer;
  const shown = put(own, n);
  const late = row.timed !== null && took !== null && took > 100 * row.timed;
  if (row.dealt.of === 'numbers' && 'number' in shown && 'choice' in body) {
    const { number, right } = row.dealt.questions[n]!;
    const { origin } = pack.numbers.find((each) => each.id === number)!;
    return { ...shown, choice: body.choice, late, right, origin: originWords(origin) };
  }
  if (row.dealt.of !== 'findings' || !('finding' in shown) || 'choice' in body)
    throw new Error(`bench ${row.id} has an answer of the wrong sort`);
  const { key, gradeRight, actRight, by } = judgeAnswer(pack, row.dealt.deal.cases[n]!, body);
  return {
    ...shown,
    answer: body,
    late,
    key: keyView(key),
    gradeRight,
    actRight,
    by,
  };
}

async function view(house: House, own: HeldBench): Promise<BenchView> {
  const { row, pack, answers } = own;
  const next = answers.indexOf(null);
  return {
    id: row.id,
    classId: row.classId,
    classTitle: pack.title,
    variant: pack.fitOut['variant']!,
    kind: row.kind as BenchKind,
    person: await namedLearner(house.db, row.personId),
    startedAt: new Date(row.startedAt).toISOString(),
    of: answers.length,
    timed: row.timed,
    ended: row.endedAt !== null,
    answered: answers.flatMap((each) => (each ? [answeredCase(own, each)] : [])),
    now: row.endedAt === null && next >= 0 ? put(own, next) : null,
  };
}

async function deal(
  db: Database,
  pack: EffectivePack,
  { kind, size, system }: Asked,
  personId: string | null,
  now: string,
): Promise<DealtBench> {
  const seed = randomInt(2 ** 31);
  const without = await retiredItems(db, pack.id);
  const items = (
    kind === 'numbers'
      ? askableNumbers(pack).map((each) => numberItem(each.id))
      : [...new Set(benchCandidates(pack, kind, system).map(benchItem))]
  ).filter((each) => !without.has(each));
  if (items.length === 0)
    throw new ProblemError('bench-answer', `${pack.title} has nothing of this kind yet. Choose another.`);
  const weights = personId ? { weights: await weightsFor(db, personId, pack.id, items, now) } : {};
  return kind === 'numbers'
    ? { of: 'numbers', questions: dealNumbers(pack, { seed, size, without, ...weights }) }
    : {
        of: 'findings',
        deal: dealBench(pack, { form: kind satisfies BenchForm, seed, size, system, without, ...weights }),
      };
}

/** Deals a bench, or answers with the same one that was dealt before. */
export async function startBench(house: House, body: Asked, caller: Caller): Promise<BenchView> {
  const [existing] = await house.db.select({ id: bench.id }).from(bench).where(eq(bench.id, body.id));
  if (!existing) {
    const who = await learnerOf(house, caller, body.personId);
    const pack = await packOrProblem(house.db, body.classId);
    const now = house.now().toISOString();
    const today = await siteToday(house);
    await house.db.transaction(async (db) => {
      const effective = await composedFor(db, pack, body.variant, who, today);
      const made = await db
        .insert(bench)
        .values({
          id: body.id,
          personId: who?.id ?? null,
          accountId: caller.id,
          classId: pack.id,
          packHash: effective.hash,
          kind: body.kind,
          dealt: await deal(db, effective, body, who?.id ?? null, now),
          timed: body.timed,
          startedAt: now,
        })
        .onConflictDoNothing()
        .returning({ id: bench.id });
      if (made.length > 0)
        await note(db, caller, 'bench-started', body.id, {
          personId: who?.id ?? null,
          classId: pack.id,
          kind: body.kind,
        });
    });
  }
  return openBench(house, caller, body.id);
}

/** A bench of the caller as far as it is answered. */
export async function openBench(house: House, caller: Caller, id: string): Promise<BenchView> {
  return view(house, await held(house.db, await ownBench(house, caller, id)));
}

const refuse = (why: string) => new ProblemError('bench-answer', `${why} Nothing was recorded.`);

function checked({ row, answers }: HeldBench, n: number, answer: BenchAnswer | { choice: number }): void {
  if (row.endedAt !== null) throw refuse('This bench has ended.');
  if (n !== answers.indexOf(null)) throw refuse('That is not the case that is put now.');
  const { dealt } = row;
  if (dealt.of === 'numbers') {
    if (!('choice' in answer) || dealt.questions[n]!.options[answer.choice] === undefined)
      throw refuse('That is none of the answers to choose from.');
    return;
  }
  if ('choice' in answer) throw refuse('A finding is answered with a grade and an act.');
  const problem = answerProblem(answer);
  if (problem) throw refuse(`The answer contradicts itself: ${problem}.`);
}

/** How many cases were answered right, and what that says about the memory of their items. */
function outcome({ row, pack, answers }: HeldBench, at: string) {
  const { dealt } = row;
  const given = answers.map((each) => each?.body ?? null);
  if (dealt.of === 'numbers') {
    const choices = given.map((each) => (each && 'choice' in each ? each.choice : null));
    return {
      right: dealt.questions.filter(({ right }, n) => choices[n] === right).length,
      reviews: numberReviews(dealt.questions, choices, at),
    };
  }
  const grades = given.map((each) => (each && 'grade' in each ? each : null));
  return {
    right: benchResult(pack, dealt.deal, grades).grading.exact,
    reviews: benchReviews(pack, dealt.deal, grades, at),
  };
}

/** Ends a bench within a transaction, where that was not done before; what was not answered says nothing. */
async function finish(db: Database, row: BenchRow, caller: Caller, now: string): Promise<void> {
  const own = await held(db, row);
  const answered = own.answers.filter((each) => each !== null).length;
  const { right, reviews } = outcome(own, now);
  const ended = await db
    .update(bench)
    .set({ endedAt: now, answered, right })
    .where(and(eq(bench.id, row.id), isNull(bench.endedAt)))
    .returning({ id: bench.id });
  if (ended.length === 0) return;
  const { personId, classId } = row;
  if (personId) await keepReviews(db, [{ practiceId: row.id, personId, classId, reviews }]);
  await note(db, caller, 'bench-ended', row.id, { personId, classId, answered, right });
}

/** A bench that somebody worked through in the past, with its answers and what they say. */
export async function keepPastBench(
  db: Database,
  caller: Caller,
  packHash: string,
  past: {
    id: string;
    personId: string;
    classId: string;
    kind: BenchForm;
    deal: BenchDeal;
    answers: readonly BenchAnswer[];
    startedAt: string;
    endedAt: string;
  },
): Promise<void> {
  const { id, personId, classId, kind, deal: dealt, answers, startedAt, endedAt } = past;
  const [row] = await db
    .insert(bench)
    .values({
      id,
      personId,
      accountId: caller.id,
      classId,
      packHash,
      kind,
      dealt: { of: 'findings', deal: dealt },
      timed: null,
      startedAt,
    })
    .returning();
  await db
    .insert(benchAnswerRow)
    .values(answers.map((body, n) => ({ benchId: id, n, body, took: null, at: endedAt })));
  await finish(db, row!, caller, endedAt);
}

/** Takes the first answer to the case that is put; the last one ends the bench. */
export async function answerBench(
  house: House,
  { params, body }: Pick<RouteInput<typeof routes.answerBench>, 'params' | 'body'>,
  caller: Caller,
): Promise<BenchView> {
  await ownBench(house, caller, params.id);
  const now = house.now().toISOString();
  await house.db.transaction(async (db) => {
    const [row] = await db.select().from(bench).where(eq(bench.id, params.id)).for('update');
    const own = await held(db, row!);
    const before = own.answers[body.n];
    // Sent again, it is answered as it was the first time.
    if (before) return;
    checked(own, body.n, body.answer);
    await db.insert(benchAnswerRow).values({
      benchId: row!.id,
      n: body.n,
      body: body.answer,
      took: row!.timed === null || body.seconds === null ? null : Math.round(100 * body.seconds),
      at: now,
    });
    if (body.n === own.answers.length - 1) await finish(db, row!, caller, now);
  });
  return openBench(house, caller, params.id);
}

/** Ends a bench before all of it is answered; ended again, it is answered as it is. */
export async function endBench(house: House, id: string, caller: Caller): Promise<BenchView> {
  const row = await ownBench(house, caller, id);
  if (row.endedAt === null) {
    const now = house.now().toISOString();
    await house.db.transaction(async (db) => {
      const [locked] = await db.select().from(bench).where(eq(bench.id, id)).for('update');
      if (locked!.endedAt === null) await finish(db, locked!, caller, now);
    });
  }
  return openBench(house, caller, id);
}

/** What became of a bench, for its learner and whoever may see them. Throws where it has not ended. */
export async function benchOutcome(house: House, caller: Caller, id: string): Promise<BenchOutcome> {
  const [found] = await house.db
    .select({ row: bench, team: person.team })
    .from(bench)
    .leftJoin(person, eq(person.id, bench.personId))
    .where(eq(bench.id, id));
  const row = found?.row;
  if (!row || !maySeePractised(caller, row, found.team)) throw missing();
  if (!row.endedAt)
    throw new ProblemError('not-complete', 'This bench has not ended, so it says nothing yet.');
  const own = await held(house.db, row);
  const { dealt } = row;
  const grades = own.answers.map((each) => (each && 'grade' in each.body ? each.body : null));
  const result = dealt.of === 'findings' ? benchResult(own.pack, dealt.deal, grades) : null;
  const earlier = row.personId
    ? await house.db
        .select()
        .from(bench)
        .where(
          and(
            eq(bench.personId, row.personId),
            eq(bench.classId, row.classId),
            eq(bench.kind, row.kind),
            isNotNull(bench.endedAt),
            lt(bench.endedAt, row.endedAt),
          ),
        )
        .orderBy(asc(bench.endedAt))
    : [];
  return {
    id: row.id,
    classId: row.classId,
    classTitle: own.pack.title,
    kind: row.kind as BenchKind,
    person: await namedLearner(house.db, row.personId),
    endedAt: new Date(row.endedAt).toISOString(),
    of: own.answers.length,
    answered: own.answers.flatMap((each) => (each ? [answeredCase(own, each)] : [])),
    right: row.right,
    grading: result && gradingSummary(result.grading),
    actsRight: result?.actsRight ?? 0,
    tooLate: result?.tooLate ?? 0,
    earlier: earlier.map((each) => ({
      id: each.id,
      endedAt: new Date(each.endedAt!).toISOString(),
      right: each.right,
      of: each.answered,
    })),
  };
}
