import type { ExerciseReport, RouteAnswer, RouteInput, exerciseRoutes as routes } from '@rounds/contract';
import { benchKey, findingView } from '@rounds/core/bench';
import type { Grade } from '@rounds/core/catalogue';
import { roomReport, spreadOf } from '@rounds/core/exercise';
import { and, desc, eq, sql } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { clearRoom, endSeat, roomCode } from '../accounts/seats';
import { type House, note, siteToday } from '../data/context';
import type { Database } from '../data/database';
import { exercise, exerciseAnswer, exerciseCards, exercisePlace } from '../data/gradingSchema';
import { dropReviews, keepReviews } from '../data/practiceReviews';
import { account, machineClass, person } from '../data/schema';
import { ProblemError } from '../http/problem';
import { gradingSummary, keyView } from '../practice/keyView';
import { missing, outOfTurn, over, tell } from './happenings';
import {
  type ExerciseRow,
  isRevealed,
  type PlaceRow,
  readRoom,
  resultOf,
  reviewsOfPlace,
  type Room,
  roomFinding,
  trainerView,
} from './room';
import { composeAbout } from './sets';

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

/** Writes an exercise of the past, with whoever was in the room matched to their person. */
export async function keepPastExercise(
  db: Database,
  caller: { id: string },
  packHash: string,
  past: Pick<ExerciseRow, 'id' | 'title' | 'classId' | 'cases' | 'startedAt'> & {
    endedAt: string;
    places: { id: string; personId: string; name: string; grades: Grade[] }[];
  },
): Promise<void> {
  const { places, ...own } = past;
  const [row] = await db
    .insert(exercise)
    .values({
      ...own,
      packHash,
      accountId: caller.id,
      n: own.cases.length - 1,
      revealed: own.cases.map((_, n) => n),
    })
    .returning();
  await db.insert(exercisePlace).values(
    places.map(({ id, personId, name }) => ({
      id,
      exerciseId: own.id,
      personId,
      name,
      guest: true,
      joinedAt: own.startedAt,
    })),
  );
  await db
    .insert(exerciseAnswer)
    .values(
      places.flatMap(({ id, grades }) =>
        grades.map((grade, n) => ({ placeId: id, exerciseId: own.id, n, grade, at: own.endedAt })),
      ),
    );
  const room = await readRoom(db, row!);
  for (const place of room.places) await keepResult(db, room, place, own.endedAt);
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

/** Somebody's place in an exercise, held to the end of the transaction. */
async function heldPlace(db: Database, exerciseId: string, participant: string): Promise<PlaceRow> {
  const [place] = await db
    .select()
    .from(exercisePlace)
    .where(and(eq(exercisePlace.id, participant), eq(exercisePlace.exerciseId, exerciseId)))
    .for('update');
  if (!place) throw new ProblemError('not-found', 'Nobody like that was in this exercise.');
  return place;
}

/**
 * Puts a guest out of a room: their seat is ended, what they graded counts for nothing, and they may come in again by the
 * code alone. Who came with an account is a learner whose grades are theirs.
 */
export async function putOut(
  house: House,
  { id, participant }: { id: string; participant: string },
  caller: Caller,
) {
  await house.db.transaction(async (db) => {
    await heldExercise(db, caller, id);
    const { seatId, name } = await heldPlace(db, id, participant);
    if (seatId === null) throw outOfTurn('Who came with an account stays; only guests are put out.');
    await db.delete(exerciseAnswer).where(eq(exerciseAnswer.placeId, participant));
    await db.delete(exercisePlace).where(eq(exercisePlace.id, participant));
    await endSeat(db, seatId);
    await note(db, caller, 'exercise-put-out', id, { name });
    tell(id, { kind: 'left', seat: seatId });
  });
  return openExercise(house, id, caller);
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
    const place = await heldPlace(db, id, participant);
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
