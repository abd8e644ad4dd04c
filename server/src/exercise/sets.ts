import type { PreparedFinding, RouteAnswer, RouteInput, exerciseRoutes as routes } from '@rounds/contract';
import { type BenchCase, benchKey, dealBench, findingView } from '@rounds/core/bench';
import type { PlainDate } from '@rounds/core/calendar';
import type { EffectivePack } from '@rounds/core/catalogue';
import { and, asc, eq } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { composeAndKeep, packOrProblem } from '../classes/packs';
import { siteTerms } from '../classes/policy';
import { type House, note, siteToday } from '../data/context';
import type { Database } from '../data/database';
import { exerciseSet } from '../data/gradingSchema';
import { retiredItems } from '../data/itemReviews';
import { account, machineClass } from '../data/schema';
import { ProblemError } from '../http/problem';
import { keyView } from '../practice/keyView';

const missing = () => new ProblemError('not-found', 'There is no such set, or it is not yours.');

interface About {
  classId: string;
  variant: string;
  site: string | null;
  cases?: readonly BenchCase[];
}

/** The class that findings are of, as the site has it today. Throws where one of the findings is not in it. */
export async function composeAbout(db: Database, about: About, today: PlainDate): Promise<EffectivePack> {
  const pack = await packOrProblem(db, about.classId);
  const effective = await composeAndKeep(db, pack, {
    variant: about.variant,
    ...(await siteTerms(db, pack, about.site, today)),
  });
  for (const [i, each] of (about.cases ?? []).entries()) prepared(effective, each, i);
  return effective;
}

/** A finding with how it is put and its key; the unknown-row problem where the class has it no more. */
function prepared(pack: EffectivePack, dealt: BenchCase, i: number): PreparedFinding {
  try {
    return {
      case: dealt,
      finding: findingView(pack, dealt, 'all'),
      key: keyView(benchKey(pack, dealt)),
    };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new ProblemError(
      'unknown-row',
      `Finding ${i + 1} is not in this class any more (${error.message}). Take it out.`,
    );
  }
}

/** Findings of a class for a room, with their keys. */
export async function proposeFindings(
  house: House,
  body: RouteInput<typeof routes.proposeFindings>['body'],
): Promise<RouteAnswer<typeof routes.proposeFindings>> {
  const today = await siteToday(house);
  const pack = await house.db.transaction((db) => composeAbout(db, body, today));
  try {
    const { cases } = dealBench(pack, { ...body, without: await retiredItems(house.db, pack.id) });
    return { findings: cases.map((each, i) => prepared(pack, each, i)) };
  } catch (error) {
    if (error instanceof RangeError) throw new ProblemError('bench-answer', `${error.message}.`);
    throw error;
  }
}

/** Sets that were kept, by their titles. */
export async function listSets(
  house: House,
  caller: Caller,
): Promise<RouteAnswer<typeof routes.exerciseSets>> {
  const rows = await house.db
    .select({ row: exerciseSet, classTitle: machineClass.title, by: account.name })
    .from(exerciseSet)
    .innerJoin(machineClass, eq(machineClass.id, exerciseSet.classId))
    .innerJoin(account, eq(account.id, exerciseSet.accountId))
    .orderBy(asc(exerciseSet.title), asc(exerciseSet.id));
  return {
    sets: rows.map(({ row, classTitle, by }) => ({
      id: row.id,
      title: row.title,
      classId: row.classId,
      variant: row.variant,
      site: row.site,
      classTitle,
      findings: row.cases.length,
      by,
      own: row.accountId === caller.id,
      keptOn: row.keptOn,
    })),
  };
}

/** A kept set with its findings, as the class has them today. */
export async function openSet(house: House, id: string): Promise<RouteAnswer<typeof routes.exerciseSet>> {
  const [row] = await house.db.select().from(exerciseSet).where(eq(exerciseSet.id, id));
  if (!row) throw missing();
  const { title, classId, variant, site, cases } = row;
  const today = await siteToday(house);
  const pack = await house.db.transaction((db) => composeAbout(db, { classId, variant, site }, today));
  // What the class has no more is left out: the rest can still be put.
  const findings = cases.flatMap((each, i) => {
    try {
      return [prepared(pack, each, i)];
    } catch (error) {
      if (error instanceof ProblemError) return [];
      throw error;
    }
  });
  return { title, classId, variant, site, findings };
}

/** Keeps a set, or changes one of the caller's own. */
export async function keepSet(
  house: House,
  id: string,
  body: RouteInput<typeof routes.keepExerciseSet>['body'],
  caller: Caller,
): Promise<void> {
  const keptOn = await siteToday(house);
  await house.db.transaction(async (db) => {
    await composeAbout(db, body, keptOn);
    const kept = { ...body, keptOn };
    const written = await db
      .insert(exerciseSet)
      .values({ id, accountId: caller.id, ...kept })
      .onConflictDoUpdate({
        target: exerciseSet.id,
        set: kept,
        setWhere: eq(exerciseSet.accountId, caller.id),
      })
      .returning({ id: exerciseSet.id });
    if (written.length === 0) throw missing();
    await note(db, caller, 'exercise-set-kept', id, { title: body.title, findings: body.cases.length });
  });
}

export async function dropSet(house: House, id: string, caller: Caller): Promise<void> {
  await house.db.transaction(async (db) => {
    const gone = await db
      .delete(exerciseSet)
      .where(and(eq(exerciseSet.id, id), eq(exerciseSet.accountId, caller.id)))
      .returning({ title: exerciseSet.title });
    if (gone.length === 0) throw missing();
    await note(db, caller, 'exercise-set-dropped', id, { title: gone[0]!.title });
  });
}
