import type { RouteInput, exerciseRoutes as routes } from '@rounds/contract';
import { and, eq, isNull } from 'drizzle-orm';
import type { Request, Response } from 'express';
import { v7 as uuidv7 } from 'uuid';
import type { Caller, Principal } from '../accounts/access';
import { seatOf, takeSeat } from '../accounts/seats';
import { effectivePackOf } from '../classes/packs';
import type { House } from '../data/context';
import type { Database } from '../data/database';
import { exercise, exerciseAnswer, exercisePlace } from '../data/gradingSchema';
import { ProblemError } from '../http/problem';
import { type Happening, leadTopic, missing, outOfTurn, over, phonesTopic, tell } from './happenings';
import { isRevealed, phoneView, type PlaceRow } from './room';

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
  const at = house.now().toISOString();
  const { row, place } = await house.db.transaction(async (db) => {
    // Shared: answers do not wait for each other, only for the trainer's next move.
    const [found] = await db.select().from(exercise).where(eq(exercise.id, id)).for('share');
    // From here on nobody is put out before their answer is kept.
    const place = await placeOf(db, principal, id);
    if (found!.endedAt !== null) throw over();
    if (found!.n !== n) throw outOfTurn('Another finding is on show by now. Grade that one.');
    if (isRevealed(found!, n)) throw outOfTurn('This finding was revealed already; it takes no more grades.');
    await db
      .insert(exerciseAnswer)
      .values({ placeId: place.id, exerciseId: id, n, grade, at })
      .onConflictDoUpdate({ target: [exerciseAnswer.placeId, exerciseAnswer.n], set: { grade, at } });
    tell(id, { kind: 'answered', participant: place.id, n });
    return { row: found!, place };
  });
  const answers = [{ placeId: place.id, exerciseId: id, n, grade, at }];
  return phoneView({ row, pack: await effectivePackOf(house.db, row.packHash), answers }, place);
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
      if (happening.kind === 'left') return leads || happening.seat === own ? { kind: 'left' } : null;
      if (happening.kind === 'ended') return { kind: 'ended', result: happening.results[own] ?? null };
      return happening;
    },
  };
}
