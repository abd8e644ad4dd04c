import type { ExerciseReport, RouteAnswer, RouteInput, exerciseRoutes as routes } from '@rounds/contract';
import { benchKey, findingView } from '@rounds/core/bench';
import { roomReport, spreadOf } from '@rounds/core/exercise';
import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import type { Request, Response } from 'express';
import { v7 as uuidv7 } from 'uuid';
import type { Caller, Principal } from '../accounts/access';
import { clearRoom, roomCode, seatOf, takeSeat } from '../accounts/seats';
import { effectivePackOf } from '../classes/packs';
import { announce } from '../data/announcements';
import { type House, note, siteToday } from '../data/context';
import type { Database } from '../data/database';
import { exercise, exerciseAnswer, exerciseCards, exercisePlace } from '../data/gradingSchema';
import { dropReviews, keepReviews } from '../data/practiceReviews';
import { account, machineClass, person } from '../data/schema';
import { ProblemError } from '../http/problem';
import { gradingSummary, keyView } from '../practice/keyView';
import {
  type ExerciseRow,
  isRevealed,
  phoneView,
  type PlaceRow,
  readRoom,
  resultOf,
  reviewsOfPlace,
  type Room,
  roomFinding,
  trainerView,
} from './room';
import { composeAbout } from './sets';

const missing = () => new ProblemError('not-found', 'There is no such exercise, or you are not in it.');
const over = () => new ProblemError('lesson-over', 'This exercise has ended. Nothing was changed.');
const outOfTurn = (why: string) => new ProblemError('exercise-order', why);

/**
 * The topics under which an exercise tells what happens in it: all of it to whoever leads it, and to the phones where
 * it is, so that an answer does not wake thirty of them.
 */
const leadTopic = (id: string) => `exercise ${id} lead`;
const phonesTopic = (id: string) => `exercise ${id}`;

/** Tells what happened, in the transaction under way. */
function tell(id: string, happening: Happening): void {
  announce(leadTopic(id), happening);
  if (happening.kind === 'moved' || happening.kind === 'ended') announce(phonesTopic(id), happening);
}

/** What happens in a room, as it is announced: the results of everybody are for each their own. */
type Happening =
  | { kind: 'moved'; n: number | null; revealed: boolean }
  | { kind: 'joined' }
  | { kind: 'answered'; participant: string; n: number }
  | { kind: 'ended'; results: Record<string, { right: number; of: number }> };

async function ownExercise(db: Database, caller: Caller, id: string): Promise<ExerciseRow> {
  const [row] = await db.select().from(exercise).where(eq(exercise.id, id));
  if (row?.accountId !== caller.id) throw missing();
  return row;
}

/** An exercise of the caller, held to the end of the transaction, that has not ended. */
async function heldExercise(db: Database, caller: Caller, id: string): Promise<ExerciseRow> {
  const [row] = await db.select().from(exercise).where(eq(exercise.id, id)).for('update');
  if (row?.accountId !== caller.id) throw missing();
  if (row.endedAt !== null) throw over();
  return row;
}

const viewOf = async (house: House, row: ExerciseRow) => trainerView(await readRoom(house.db, row));

/** Opens a room, or answers with the same one that was opened before. */
export async function startExercise(
  house: House,
  body: RouteInput<typeof routes.startExercise>['body'],
  caller: Caller,
) {
  const [existing] = await house.db
    .select({ id: exercise.id })
    .from(exercise)
    .where(eq(exercise.id, body.id));
  if (!existing) {
    const today = await siteToday(house);
    await house.db.transaction(async (db) => {
      const pack = await composeAbout(db, body, today);
      const made = await db
        .insert(exercise)
        .values({
          id: body.id,
          code: roomCode(),
          title: body.title,
          accountId: caller.id,
          classId: pack.id,
          packHash: pack.hash,
          cases: body.cases,
          revealed: [],
          startedAt: house.now().toISOString(),
        })
        .onConflictDoNothing()
        .returning({ id: exercise.id });
      if (made.length > 0)
        await note(db, caller, 'exercise-started', body.id, {
          classId: pack.id,
          findings: body.cases.length,
        });
    });
  }
  return viewOf(house, await ownExercise(house.db, caller, body.id));
}

export const openExercise = async (house: House, id: string, caller: Caller) =>
  viewOf(house, await ownExercise(house.db, caller, id));

/** Most exercises that are listed. */
const MOST_LISTED = 50;

/** Exercises under way and ended, the latest first. */
export async function listExercises(
  house: House,
  caller: Caller,
): Promise<RouteAnswer<typeof routes.exercises>> {
  const rows = await house.db
    .select({
      row: exercise,
      classTitle: machineClass.title,
      trainer: account.name,
      people: sql<number>`(select count(*)::int from ${exercisePlace} where ${exercisePlace.exerciseId} = ${exercise.id})`,
    })
    .from(exercise)
    .innerJoin(machineClass, eq(machineClass.id, exercise.classId))
    .innerJoin(account, eq(account.id, exercise.accountId))
    .orderBy(desc(exercise.startedAt))
    .limit(MOST_LISTED);
  return {
    rows: rows.map(({ row, classTitle, trainer, people }) => ({
      id: row.id,
      title: row.title,
      classTitle,
      trainer,
      own: row.accountId === caller.id,
      startedAt: new Date(row.startedAt).toISOString(),
      ended: row.endedAt !== null,
      people,
      findings: row.revealed.length,
    })),
  };
}

/** Shows a finding or reveals the one on show; every phone and screen follows. */
export async function moveExercise(
  house: House,
  id: string,
  body: RouteInput<typeof routes.moveExercise>['body'],
  caller: Caller,
) {
  await house.db.transaction(async (db) => {
    const row = await heldExercise(db, caller, id);
    const n = 'show' in body ? body.show : row.n;
    if (n === null) throw outOfTurn('No finding is on show yet.');
    if (n >= row.cases.length) throw outOfTurn(`There are ${row.cases.length} findings.`);
    const revealed = 'reveal' in body && !isRevealed(row, n) ? [...row.revealed, n] : row.revealed;
    await db.update(exercise).set({ n, revealed }).where(eq(exercise.id, id));
    tell(id, { kind: 'moved', n, revealed: revealed.includes(n) });
  });
  return openExercise(house, id, caller);
}

/** Counts the cards shown for the finding on show; counted again, the last count holds. */
export async function countCards(
  house: House,
  id: string,
  { n, counts }: RouteInput<typeof routes.countCards>['body'],
  caller: Caller,
) {
  await house.db.transaction(async (db) => {
    const row = await heldExercise(db, caller, id);
    if (row.n !== n) throw outOfTurn('That finding is not on show.');
    await db
      .insert(exerciseCards)
      .values({ exerciseId: id, n, counts })
      .onConflictDoUpdate({ target: [exerciseCards.exerciseId, exerciseCards.n], set: { counts } });
  });
  return openExercise(house, id, caller);
}

/**
 * Lets somebody into a room by its code: who is signed in as themselves, others as guests with the name they give. Who
 * is in it already comes back to their place.
 */
export async function joinExercise(
  house: House,
  { code, name }: RouteInput<typeof routes.joinExercise>['body'],
  caller: Caller | null,
  request: Request,
  response: Response,
): Promise<{ id: string }> {
  const address = request.ip ?? 'unknown';
  await house.limits.mayGuess('room code', address);
  const [row] = await house.db
    .select({ id: exercise.id, accountId: exercise.accountId })
    .from(exercise)
    .where(and(eq(exercise.code, code), isNull(exercise.endedAt)));
  if (!row) {
    await house.limits.guessed('room code', address);
    throw new ProblemError(
      'not-found',
      'No exercise under way has this code. Look at the screen again, or ask the trainer.',
    );
  }
  if (caller?.id === row.accountId)
    throw new ProblemError('own-record', 'You lead this exercise; you do not grade in it.');
  const joinedAt = house.now().toISOString();
  if (caller) {
    await house.db.transaction(async (db) => {
      const made = await db
        .insert(exercisePlace)
        .values({
          id: uuidv7(),
          exerciseId: row.id,
          name: caller.name,
          accountId: caller.id,
          guest: false,
          personId: caller.personId,
          joinedAt,
        })
        .onConflictDoNothing()
        .returning({ id: exercisePlace.id });
      if (made.length > 0) tell(row.id, { kind: 'joined' });
    });
    return { id: row.id };
  }
  const before = await seatOf(house, request);
  if (before?.room === row.id) return { id: row.id };
  if (name === null)
    throw new ProblemError('invalid', 'Say your name, so that the trainer knows who you are.', [
      { path: 'name', message: 'is needed without an account' },
    ]);
  const handOut = await house.db.transaction(async (db) => {
    const taken = await takeSeat(house, db, row.id, name, request);
    await db.insert(exercisePlace).values({
      id: uuidv7(),
      exerciseId: row.id,
      name,
      seatId: taken.seat.id,
      guest: true,
      joinedAt,
    });
    tell(row.id, { kind: 'joined' });
    return taken.handOut;
  });
  handOut(response);
  return { id: row.id };
}

/** The place of a principal in a room. Throws where they have none. */
async function placeOf(db: Database, principal: Principal | null, id: string): Promise<PlaceRow> {
  if (!principal) throw missing();
  const [place] = await db
    .select()
    .from(exercisePlace)
    .where(
      and(
        eq(exercisePlace.exerciseId, id),
        principal.kind === 'seat'
          ? eq(exercisePlace.seatId, principal.seat.id)
          : eq(exercisePlace.accountId, principal.account.id),
      ),
    );
  if (!place) throw missing();
  return place;
}

async function phoneOf(db: Database, place: PlaceRow) {
  const [row] = await db.select().from(exercise).where(eq(exercise.id, place.exerciseId));
  const answers = await db
    .select()
    .from(exerciseAnswer)
    .where(and(eq(exerciseAnswer.placeId, place.id), eq(exerciseAnswer.n, row!.n ?? -1)));
  return phoneView({ row: row!, pack: await effectivePackOf(db, row!.packHash), answers }, place);
}

export const openPhone = async (house: House, id: string, principal: Principal | null) =>
  phoneOf(house.db, await placeOf(house.db, principal, id));

/** Takes a grade for the finding on show; until it is revealed another may take its place. */
export async function answerExercise(
  house: House,
  id: string,
  { n, grade }: RouteInput<typeof routes.answerExercise>['body'],
  principal: Principal | null,
) {
  const place = await placeOf(house.db, principal, id);
  const at = house.now().toISOString();
  const row = await house.db.transaction(async (db) => {
    // Shared: answers do not wait for each other, only for the trainer's next move.
    const [found] = await db.select().from(exercise).where(eq(exercise.id, id)).for('share');
    if (found!.endedAt !== null) throw over();
    if (found!.n !== n) throw outOfTurn('Another finding is on show by now. Grade that one.');
    if (isRevealed(found!, n)) throw outOfTurn('This finding was revealed already; it takes no more grades.');
    await db
      .insert(exerciseAnswer)
      .values({ placeId: place.id, exerciseId: id, n, grade, at })
      .onConflictDoUpdate({ target: [exerciseAnswer.placeId, exerciseAnswer.n], set: { grade, at } });
    tell(id, { kind: 'answered', participant: place.id, n });
    return found!;
  });
  const answers = [{ placeId: place.id, exerciseId: id, n, grade, at }];
  return phoneView({ row, pack: await effectivePackOf(house.db, row.packHash), answers }, place);
}

async function keepResult(db: Database, room: Room, place: PlaceRow, at: string): Promise<void> {
  const { right, of } = resultOf(room, place.id);
  await db.update(exercisePlace).set({ right, graded: of }).where(eq(exercisePlace.id, place.id));
  if (place.personId)
    await keepReviews(db, [
      {
        practiceId: place.id,
        personId: place.personId,
        classId: room.row.classId,
        reviews: reviewsOfPlace(room, place.id, at),
      },
    ]);
}

/** Closes a room: its guests leave, and everybody has their result on record. */
export async function endExercise(house: House, id: string, caller: Caller): Promise<void> {
  const endedAt = house.now().toISOString();
  await house.db.transaction(async (db) => {
    const row = await heldExercise(db, caller, id);
    const room = await readRoom(db, row);
    await db.update(exercise).set({ endedAt, code: null }).where(eq(exercise.id, id));
    for (const place of room.places) await keepResult(db, room, place, endedAt);
    await clearRoom(db, id);
    await note(db, caller, 'exercise-ended', id, {
      people: room.places.length,
      findings: row.revealed.length,
    });
    tell(id, {
      kind: 'ended',
      results: Object.fromEntries(
        room.places.flatMap((each) => {
          const who = each.seatId ?? each.accountId;
          return who ? [[who, resultOf(room, each.id)]] : [];
        }),
      ),
    });
  });
}

/** Says who a guest was; what they graded joins that person's record, and leaves it when that is taken back. */
export async function matchParticipant(
  house: House,
  { id, participant }: { id: string; participant: string },
  personId: string | null,
  caller: Caller,
): Promise<void> {
  if (personId !== null && personId === caller.personId)
    throw new ProblemError('own-record', 'You led this exercise; its results are not yours.');
  await house.db.transaction(async (db) => {
    const row = await ownExercise(db, caller, id);
    const [place] = await db
      .select()
      .from(exercisePlace)
      .where(and(eq(exercisePlace.id, participant), eq(exercisePlace.exerciseId, id)))
      .for('update');
    if (!place) throw new ProblemError('not-found', 'Nobody like that was in this exercise.');
    if (!place.guest) throw outOfTurn('Who came with an account is who they are.');
    if (personId !== null) {
      const [who] = await db.select({ id: person.id }).from(person).where(eq(person.id, personId));
      if (!who) throw new ProblemError('not-found', 'There is no such person.');
    }
    await db.update(exercisePlace).set({ personId }).where(eq(exercisePlace.id, participant));
    await dropReviews(db, [participant]);
    if (row.endedAt !== null)
      await keepResult(
        db,
        await readRoom(db, row),
        { ...place, personId },
        new Date(row.endedAt).toISOString(),
      );
    await note(db, caller, 'exercise-matched', id, { participant, personId });
  });
}

/** What the room showed of the findings revealed so far. */
export async function exerciseReport(house: House, id: string, caller: Caller): Promise<ExerciseReport> {
  const row = await ownExercise(house.db, caller, id);
  const room = await readRoom(house.db, row);
  const shown = [...row.revealed].sort((a, b) => a - b);
  const findings = shown.map((n) => roomFinding(room, n));
  const report = roomReport(findings);
  const split = new Set(report.split.map((each) => shown[each.n]!));
  return {
    id,
    title: row.title,
    classTitle: room.pack.title,
    startedAt: new Date(row.startedAt).toISOString(),
    endedAt: row.endedAt && new Date(row.endedAt).toISOString(),
    whole: gradingSummary(report.whole),
    says: report.says,
    alpha: report.alpha,
    alphaInterval: report.alphaInterval,
    findings: shown.map((n, i) => ({
      n,
      finding: findingView(room.pack, row.cases[n]!, 'all'),
      key: keyView(benchKey(room.pack, row.cases[n]!)),
      spread: spreadOf(findings[i]!),
      split: split.has(n),
    })),
    people: room.places.flatMap((place) => {
      const own = report.perPerson.find((each) => each.who === place.id);
      return own
        ? [
            {
              id: place.id,
              name: place.name,
              guest: place.guest,
              person: place.personId ? { id: place.personId, name: place.personName ?? '' } : null,
              summary: gradingSummary(own.comparison),
            },
          ]
        : [];
    }),
  };
}

/** What happens in a room, shaped for who listens: its trainer hears who answered, a phone only where the room is. */
export async function listensTo(house: House, principal: Principal | null, id: string) {
  if (!principal) throw missing();
  const [row] = await house.db
    .select({ accountId: exercise.accountId })
    .from(exercise)
    .where(eq(exercise.id, id));
  const leads = principal.kind === 'account' && row?.accountId === principal.account.id;
  if (!leads) await placeOf(house.db, principal, id);
  const own = principal.kind === 'seat' ? principal.seat.id : principal.account.id;
  return {
    topic: leads ? leadTopic(id) : phonesTopic(id),
    shape: (data: unknown) => {
      const happening = data as Happening;
      if (happening.kind === 'ended') return { kind: 'ended', result: happening.results[own] ?? null };
      return happening;
    },
  };
}
