import { randomInt } from 'node:crypto';
import type { DeskOutcome, DeskView, deskRoutes as routes, RouteInput } from '@rounds/contract';
import { canonicalJson } from '@rounds/core/catalogue';
import { deskPackOf, isInClockOrder, type LoggedAct, programsOf } from '@rounds/core/machine';
import { stepReviews } from '@rounds/core/practice';
import { and, asc, eq, isNotNull, lt } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { effectivePackOf, packOrProblem } from '../classes/packs';
import { type House, note, siteToday } from '../data/context';
import { keepReviews } from '../data/practiceReviews';
import { person } from '../data/schema';
import { deskRun } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';
import { type AskedDeal, dealRun } from './dealRun';
import { composedFor, learnerOf, maySeePractised, namedLearner } from './learner';

type Row = typeof deskRun.$inferSelect;
type Worked = RouteInput<typeof routes.keepDesk>['body'];

const missing = () => new ProblemError('not-found', 'There is no such run at a desk, or it is not yours.');
const instantOf = (text: string) => new Date(text).toISOString();

async function ownRun(house: House, caller: Caller, id: string): Promise<Row> {
  const [row] = await house.db.select().from(deskRun).where(eq(deskRun.id, id));
  if (!row || row.accountId !== caller.id) throw missing();
  return row;
}

async function view(house: House, row: Row): Promise<DeskView> {
  const pack = deskPackOf(await effectivePackOf(house.db, row.packHash));
  return {
    id: row.id,
    classId: row.classId,
    classTitle: pack.title,
    program: row.program,
    mode: row.mode,
    person: await namedLearner(house.db, row.personId),
    startedAt: instantOf(row.startedAt),
    ended: row.endedAt !== null,
    pack,
    deal: row.deal,
    log: row.log as Worked['log'],
    ticks: row.ticks,
  };
}

/** Begins a run at the desk, or answers with the same one that was begun before. */
export async function startDesk(
  house: House,
  body: RouteInput<typeof routes.startDesk>['body'],
  caller: Caller,
): Promise<DeskView> {
  const [existing] = await house.db.select({ id: deskRun.id }).from(deskRun).where(eq(deskRun.id, body.id));
  if (!existing) {
    const who = await learnerOf(house, caller, body.personId);
    const pack = await packOrProblem(house.db, body.classId);
    if (!programsOf(pack).includes(body.program))
      throw new ProblemError(
        'desk-run',
        pack.machine.desk
          ? `The desk of ${pack.title} has nothing of this kind.`
          : `${pack.title} has no desk yet; it can be given one in the editor.`,
      );
    const today = await siteToday(house);
    const effective = await house.db.transaction(async (db) =>
      composedFor(db, pack, body.variant, who, today),
    );
    const asked: AskedDeal = {
      pack: deskPackOf(effective),
      program: body.program,
      surprise: body.surprise,
      seed: randomInt(2 ** 31),
    };
    // A thread is worth its start only where there is much to be worked out.
    const deal = body.surprise ? await house.pool.run('dealRun', asked) : dealRun(asked);
    await house.db.transaction(async (db) => {
      const made = await db
        .insert(deskRun)
        .values({
          id: body.id,
          personId: who?.id ?? null,
          accountId: caller.id,
          classId: pack.id,
          packHash: effective.hash,
          program: body.program,
          mode: body.mode,
          deal,
          log: [],
          startedAt: house.now().toISOString(),
        })
        .onConflictDoNothing()
        .returning({ id: deskRun.id });
      if (made.length > 0)
        await note(db, caller, 'desk-started', body.id, {
          personId: who?.id ?? null,
          classId: pack.id,
          program: body.program,
        });
    });
  }
  return openDesk(house, caller, body.id);
}

/** A run of the caller as far as it has gone. */
export async function openDesk(house: House, caller: Caller, id: string): Promise<DeskView> {
  return view(house, await ownRun(house, caller, id));
}

/** What was done only goes on: what was kept before is the beginning of it, and no act lies before the one before it. */
function checkWorked(row: Row, { log, ticks }: Worked): void {
  const refuse = (why: string) => new ProblemError('desk-run', `${why} Nothing was kept.`);
  if (row.endedAt !== null) throw refuse('This run has ended.');
  if (ticks < row.ticks || log.length < row.log.length) throw refuse('More of this run was kept elsewhere.');
  if (!isInClockOrder(log, ticks)) throw refuse('The acts are not in the order of the clock.');
  const same = (a: LoggedAct, b: LoggedAct) =>
    a.tick === b.tick && canonicalJson(a.act) === canonicalJson(b.act);
  if (row.log.some((each, i) => !same(each, log[i]!)))
    throw refuse('It differs from what was kept of this run.');
}

/** Keeps what was done so far. */
export async function keepDesk(
  house: House,
  { params, body }: Pick<RouteInput<typeof routes.keepDesk>, 'params' | 'body'>,
  caller: Caller,
): Promise<{ acts: number; ticks: number }> {
  await ownRun(house, caller, params.id);
  return house.db.transaction(async (db) => {
    const [row] = await db.select().from(deskRun).where(eq(deskRun.id, params.id)).for('update');
    checkWorked(row!, body);
    await db.update(deskRun).set(body).where(eq(deskRun.id, params.id));
    return { acts: body.log.length, ticks: body.ticks };
  });
}

/** Ends a run: judged anew from its log, it joins the learner's record. Ended again, it is answered as it is. */
export async function endDesk(
  house: House,
  { params, body }: Pick<RouteInput<typeof routes.endDesk>, 'params' | 'body'>,
  caller: Caller,
): Promise<DeskOutcome> {
  const before = await ownRun(house, caller, params.id);
  if (before.endedAt === null) {
    checkWorked(before, body);
    const pack = deskPackOf(await effectivePackOf(house.db, before.packHash));
    const { result, steps } = await house.pool.run('judgeDesk', { pack, deal: before.deal, ...body });
    const now = house.now().toISOString();
    await house.db.transaction(async (db) => {
      const [row] = await db.select().from(deskRun).where(eq(deskRun.id, params.id)).for('update');
      if (row!.endedAt !== null) return;
      checkWorked(row!, body);
      await db
        .update(deskRun)
        .set({ ...body, result, endedAt: now })
        .where(eq(deskRun.id, params.id));
      const { personId, classId, mode } = row!;
      // What was shown the way says nothing of the memory.
      if (personId && mode === 'test')
        await keepReviews(db, [
          { practiceId: params.id, personId, classId, reviews: stepReviews(steps, now) },
        ]);
      await note(db, caller, 'desk-ended', params.id, { personId, classId, score: result.score });
    });
  }
  return deskOutcome(house, caller, params.id);
}

/** What became of a run, for its learner and whoever may see them. Throws where it has not ended. */
export async function deskOutcome(house: House, caller: Caller, id: string): Promise<DeskOutcome> {
  const [found] = await house.db
    .select({ row: deskRun, team: person.team })
    .from(deskRun)
    .leftJoin(person, eq(person.id, deskRun.personId))
    .where(eq(deskRun.id, id));
  const row = found?.row;
  if (!row || !maySeePractised(caller, row, found.team)) throw missing();
  if (row.endedAt === null || row.result === null)
    throw new ProblemError('not-complete', 'This run has not ended, so it says nothing yet.');
  const earlier = row.personId
    ? await house.db
        .select({ id: deskRun.id, endedAt: deskRun.endedAt, result: deskRun.result })
        .from(deskRun)
        .where(
          and(
            eq(deskRun.personId, row.personId),
            eq(deskRun.classId, row.classId),
            eq(deskRun.program, row.program),
            isNotNull(deskRun.endedAt),
            lt(deskRun.endedAt, row.endedAt),
          ),
        )
        .orderBy(asc(deskRun.endedAt))
    : [];
  return {
    ...(await view(house, row)),
    endedAt: instantOf(row.endedAt),
    result: row.result,
    earlier: earlier.map((each) => ({
      id: each.id,
      endedAt: instantOf(each.endedAt!),
      score: each.result!.score,
      critical: each.result!.critical,
      seconds: each.result!.seconds,
    })),
  };
}

/** What a person's runs at the desk of a class come to. */
export async function deskFigures(house: House, personId: string, classId: string) {
  const rows = await house.db
    .select({
      id: deskRun.id,
      endedAt: deskRun.endedAt,
      program: deskRun.program,
      result: deskRun.result,
    })
    .from(deskRun)
    .where(and(eq(deskRun.personId, personId), eq(deskRun.classId, classId), isNotNull(deskRun.endedAt)))
    .orderBy(asc(deskRun.endedAt));
  const judged = rows.filter((each) => each.result?.score !== null && each.result !== null);
  const last = judged.at(-1);
  return {
    desks: judged.length,
    lastDesk: last
      ? {
          id: last.id,
          endedAt: instantOf(last.endedAt!),
          program: last.program,
          score: last.result!.score!,
          critical: last.result!.critical,
        }
      : null,
  };
}

/** Classes at whose desks a person has worked. */
export async function classesAtDesk(house: House, personId: string): Promise<string[]> {
  const rows = await house.db
    .selectDistinct({ classId: deskRun.classId })
    .from(deskRun)
    .where(and(eq(deskRun.personId, personId), isNotNull(deskRun.endedAt)));
  return rows.map((each) => each.classId);
}
