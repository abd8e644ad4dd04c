import type { RouteAnswer, RouteInput, routes } from '@rounds/contract';
import { longDate } from '@rounds/core/calendar';
import { asc, eq } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { composeOrProblem, packOrProblem } from '../classes/packs';
import { siteTerms } from '../classes/policy';
import { type House, note, readSetting, siteToday } from '../data/context';
import { account, machineClass } from '../data/schema';
import { lessonPlan } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';
import type { LessonPaperSubject } from './lessonPaper';

const missing = () => new ProblemError('not-found', 'There is no such lesson, or it is not yours.');

/** Lessons that were kept, by whomever: a trainer gives what another one prepared. */
export async function listPlans(house: House, caller: Caller): Promise<RouteAnswer<typeof routes.plans>> {
  const rows = await house.db
    .select({ plan: lessonPlan, trainer: account.name, classTitle: machineClass.title })
    .from(lessonPlan)
    .innerJoin(account, eq(account.id, lessonPlan.accountId))
    .innerJoin(machineClass, eq(machineClass.id, lessonPlan.classId))
    .orderBy(asc(machineClass.title), asc(lessonPlan.title));
  return {
    rows: rows.map(({ plan: { accountId, ...plan }, trainer, classTitle }) => ({
      ...plan,
      trainer,
      classTitle,
      own: accountId === caller.id,
    })),
  };
}

/** Keeps a lesson, or keeps one's own anew. Refuses a kind of machine that the class does not have. */
export async function keepPlan(
  house: House,
  id: string,
  body: RouteInput<typeof routes.keepPlan>['body'],
  caller: Caller,
): Promise<void> {
  const pack = await packOrProblem(house.db, body.classId);
  composeOrProblem(pack, {
    variant: body.variant,
    ...(await siteTerms(house.db, pack, body.site, await siteToday(house))),
  });
  const { title, classId, variant, site, plan } = body;
  const kept = { title, classId, variant, site, plan, keptOn: await siteToday(house) };
  await house.db.transaction(async (db) => {
    const written = await db
      .insert(lessonPlan)
      .values({ id, accountId: caller.id, ...kept })
      .onConflictDoUpdate({ target: lessonPlan.id, set: kept, setWhere: eq(lessonPlan.accountId, caller.id) })
      .returning({ id: lessonPlan.id });
    if (written.length === 0) throw missing();
    await note(db, caller, 'lesson-plan-kept', id, { classId, title });
  });
}

export async function dropPlan(house: House, id: string, caller: Caller): Promise<void> {
  await house.db.transaction(async (db) => {
    const [row] = await db.select().from(lessonPlan).where(eq(lessonPlan.id, id));
    if (row?.accountId !== caller.id) throw missing();
    await db.delete(lessonPlan).where(eq(lessonPlan.id, id));
    await note(db, caller, 'lesson-plan-dropped', id, { classId: row.classId, title: row.title });
  });
}

/** What the paper of a kept lesson is printed from: the class as it is published now. */
export async function planSubject(house: House, id: string): Promise<LessonPaperSubject> {
  const [row] = await house.db.select().from(lessonPlan).where(eq(lessonPlan.id, id));
  if (!row) throw missing();
  const pack = await packOrProblem(house.db, row.classId);
  return {
    title: row.title,
    pack: composeOrProblem(pack, {
      variant: row.variant,
      ...(await siteTerms(house.db, pack, row.site, await siteToday(house))),
    }),
    plan: row.plan,
    organisation: await readSetting<string>(house.db, 'organisation', 'Rounds'),
    printed: longDate(await siteToday(house)),
  };
}
