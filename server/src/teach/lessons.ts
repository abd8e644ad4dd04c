import type { LessonPosition, LessonView, RouteAnswer, RouteInput, routes } from '@rounds/contract';
import { localDate } from '@rounds/core/calendar';
import type { LessonSubject } from '@rounds/core/teaching';
import { and, desc, eq, inArray, isNull } from 'drizzle-orm';
import type { Request, Response } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { type Caller, mayEnter, type Principal } from '../accounts/access';
import { clearRoom, roomCode, takeSeat } from '../accounts/seats';
import { standingsToday } from '../certification/standings';
import { certificationStream } from '../certification/stream';
import { composeAndKeep, effectivePackOf, packOrProblem } from '../classes/packs';
import { siteTerms } from '../classes/policy';
import { announce } from '../data/announcements';
import { append } from '../data/append';
import { type House, note, siteTimeZone, siteToday } from '../data/context';
import { account, machineClass, person } from '../data/schema';
import { lesson } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';

type LessonRow = typeof lesson.$inferSelect;
type Started = RouteInput<typeof routes.startLesson>['body'];

const missing = () => new ProblemError('not-found', 'There is no such lesson, or it is not yours.');
const over = () => new ProblemError('lesson-over', 'This lesson has ended. Nothing was changed.');
/** The topic under which a lesson tells where it is. */
export const lessonTopic = (id: string) => `lesson ${id}`;

const positionOf = ({ slide, blank, pointAndCall, answered }: LessonRow): LessonPosition => ({
  slide,
  blank,
  pointAndCall,
  answered,
});

async function view(house: House, row: LessonRow, principal: Principal): Promise<LessonView> {
  const pack = await effectivePackOf(house.db, row.packHash);
  const presents = principal.kind === 'account' && principal.account.id === row.accountId;
  return {
    id: row.id,
    classTitle: pack.title,
    code: presents ? row.code : null,
    pack,
    plan: row.plan,
    position: positionOf(row),
    startedAt: new Date(row.startedAt).toISOString(),
    ended: row.endedAt !== null,
    presents,
  };
}

/** A lesson that somebody may be in: trainers in every one, a screen in the one it joined. */
export async function lessonFor(house: House, principal: Principal, id: string): Promise<LessonRow> {
  const [row] = await house.db.select().from(lesson).where(eq(lesson.id, id));
  if (!row || !mayEnter(principal, id)) throw missing();
  return row;
}

export async function openLesson(house: House, principal: Principal, id: string): Promise<LessonView> {
  return view(house, await lessonFor(house, principal, id), principal);
}

/** Begins a lesson, or answers with the same one that was begun before. */
export async function startLesson(house: House, body: Started, caller: Caller): Promise<LessonView> {
  const [existing] = await house.db.select({ id: lesson.id }).from(lesson).where(eq(lesson.id, body.id));
  if (!existing) {
    const pack = await packOrProblem(house.db, body.classId);
    const today = await siteToday(house);
    await house.db.transaction(async (db) => {
      const { hash } = await composeAndKeep(db, pack, {
        variant: body.variant,
        ...(await siteTerms(db, pack, body.site, today)),
      });
      const made = await db
        .insert(lesson)
        .values({
          id: body.id,
          code: roomCode(),
          accountId: caller.id,
          classId: pack.id,
          packHash: hash,
          plan: body.plan,
          startedAt: house.now().toISOString(),
          attended: [],
        })
        .onConflictDoNothing({ target: lesson.id })
        .returning({ id: lesson.id });
      if (made.length > 0)
        await note(db, caller, 'lesson-started', body.id, { classId: pack.id, subject: body.plan.subject });
    });
  }
  const row = await ownLesson(house, caller, body.id);
  return view(house, row, { kind: 'account', account: caller, session: '' });
}

async function ownLesson(house: House, caller: Caller, id: string): Promise<LessonRow> {
  const [row] = await house.db.select().from(lesson).where(eq(lesson.id, id));
  if (row?.accountId !== caller.id) throw missing();
  return row;
}

/** Moves a lesson; every screen follows. */
export async function moveLesson(house: House, id: string, position: LessonPosition, caller: Caller) {
  const row = await ownLesson(house, caller, id);
  const slide = Math.min(position.slide, row.plan.items.length - 1);
  await house.db.transaction(async (db) => {
    const moved = await db
      .update(lesson)
      .set({ ...position, slide })
      .where(and(eq(lesson.id, id), isNull(lesson.endedAt)))
      .returning({ id: lesson.id });
    if (moved.length === 0) throw over();
    announce(lessonTopic(id), { ...position, slide, ended: false });
  });
  return { done: true as const };
}

/** Lets a screen in by the code that the presenter reads out. */
export async function joinLesson(house: House, code: string, request: Request, response: Response) {
  const address = request.ip ?? 'unknown';
  await house.limits.attempt('lesson code', address);
  const [row] = await house.db
    .select({ id: lesson.id })
    .from(lesson)
    .where(and(eq(lesson.code, code), isNull(lesson.endedAt)));
  if (!row)
    throw new ProblemError(
      'not-found',
      'No lesson under way has this code. Look at the presenter’s screen again.',
    );
  await house.limits.proved('lesson code', address);
  const { handOut } = await house.db.transaction((db) => takeSeat(house, db, row.id, 'Screen', request));
  handOut(response);
  return row;
}

const SUBJECT_WORDS: Readonly<Record<LessonSubject, string>> = {
  round: 'walk-round',
  startup: 'startup',
  shutdown: 'shutdown',
};

/** Ends a lesson: its screens go dark, and everybody who attended has it on their record, signed by the trainer. */
export async function endLesson(house: House, id: string, attended: readonly string[], caller: Caller) {
  const row = await ownLesson(house, caller, id);
  if (caller.personId && attended.includes(caller.personId))
    throw new ProblemError(
      'own-record',
      'You gave this lesson. Nothing was saved; take yourself off the list.',
    );
  const people = [...new Set(attended)];
  const today = await standingsToday(house);
  await house.db.transaction(async (db) => {
    const known = people.length
      ? await db.select({ id: person.id }).from(person).where(inArray(person.id, people))
      : [];
    if (known.length < people.length)
      throw new ProblemError('not-found', 'Somebody on the list is not in the roster. Nothing was saved.');
    const closed = await db
      .update(lesson)
      .set({ endedAt: house.now().toISOString(), code: null, attended: people })
      .where(and(eq(lesson.id, id), isNull(lesson.endedAt)))
      .returning({ id: lesson.id });
    if (closed.length === 0) throw over();
    const body = { kind: 'taught' as const, words: SUBJECT_WORDS[row.plan.subject] };
    for (const personId of [...people].sort()) {
      const fact = { id: uuidv7(), on: today, body, evaluationId: null };
      await append(db, certificationStream(today), { personId, classId: row.classId }, [fact], caller);
    }
    await clearRoom(db, id);
    await note(db, caller, 'lesson-ended', id, { attended: people });
    announce(lessonTopic(id), { ...positionOf(row), ended: true });
  });
  return { done: true as const };
}

/** Most lessons that are listed. */
const MOST_LISTED = 50;

/** Lessons given and under way, the latest first. */
export async function listLessons(house: House, caller: Caller): Promise<RouteAnswer<typeof routes.lessons>> {
  const zone = await siteTimeZone(house);
  const rows = await house.db
    .select({ row: lesson, classTitle: machineClass.title, trainer: account.name })
    .from(lesson)
    .innerJoin(machineClass, eq(machineClass.id, lesson.classId))
    .innerJoin(account, eq(account.id, lesson.accountId))
    .orderBy(desc(lesson.startedAt))
    .limit(MOST_LISTED);
  return {
    rows: rows.map(({ row, classTitle, trainer }) => ({
      id: row.id,
      classTitle,
      subject: row.plan.subject,
      trainer,
      on: localDate(new Date(row.startedAt).toISOString(), zone),
      ended: row.endedAt !== null,
      attended: row.attended.length,
      presents: row.accountId === caller.id && row.endedAt === null,
    })),
  };
}
