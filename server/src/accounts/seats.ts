import { randomInt } from 'node:crypto';
import { and, eq, gt, lt, or, type SQL } from 'drizzle-orm';
import type { Request, Response } from 'express';
import { v7 as uuidv7 } from 'uuid';
import type { House } from '../data/context';
import type { Database } from '../data/database';
import { guestSeat } from '../data/schema';
import type { Seat } from './access';
import { cookieToken, hashOf, newToken } from './tokens';

/** Letters that nobody mistakes for another when they are read out. */
const CODE_LETTERS = 'ACDEFHJKLMNPQRTUVWXY34679';

/** A new code by which a room is joined, to be read out. */
export const roomCode = (): string =>
  Array.from({ length: 6 }, () => CODE_LETTERS[randomInt(CODE_LETTERS.length)]).join('');

const COOKIE = 'rounds_seat';
/** A seat is left after so long, used or not. */
const HOURS = 12;

/**
 * Gives a guest a seat in a room, in the given transaction; one that this device had elsewhere is left. Set
 * its cookie with `handOut` once it is committed.
 */
export async function takeSeat(
  house: House,
  db: Database,
  room: string,
  name: string,
  request: Request,
): Promise<{ seat: Seat; handOut: (response: Response) => void }> {
  const before = cookieToken(request, COOKIE);
  const token = newToken();
  const now = house.now();
  const expiresAt = new Date(now.getTime() + HOURS * 3_600_000).toISOString();
  await db
    .delete(guestSeat)
    .where(
      or(
        lt(guestSeat.expiresAt, now.toISOString()),
        before ? eq(guestSeat.tokenHash, hashOf(before)) : undefined,
      ),
    );
  const seat: Seat = { id: uuidv7(), room, name };
  await db.insert(guestSeat).values({ ...seat, tokenHash: hashOf(token), expiresAt });
  const handOut = (response: Response) =>
    void response.cookie(COOKIE, token, {
      httpOnly: true,
      sameSite: 'lax',
      secure: request.secure,
      path: '/',
      maxAge: HOURS * 3_600_000,
    });
  return { seat, handOut };
}

/** The seat that a request comes from; null without one, or when it was left. */
export async function seatOf(house: House, request: Request): Promise<Seat | null> {
  const token = cookieToken(request, COOKIE);
  if (!token) return null;
  return seatWhere(house, eq(guestSeat.tokenHash, hashOf(token)));
}

/** A seat as it is now; null once it was left. */
export function seatNow(house: House, id: string): Promise<Seat | null> {
  return seatWhere(house, eq(guestSeat.id, id));
}

async function seatWhere(house: House, which: SQL): Promise<Seat | null> {
  const [row] = await house.db
    .select({ id: guestSeat.id, room: guestSeat.room, name: guestSeat.name })
    .from(guestSeat)
    .where(and(which, gt(guestSeat.expiresAt, house.now().toISOString())));
  return row ?? null;
}

/** Ends one seat: whoever had it is nobody here any more. */
export async function endSeat(db: Database, id: string): Promise<void> {
  await db.delete(guestSeat).where(eq(guestSeat.id, id));
}

/** Ends every seat of a room. */
export async function clearRoom(db: Database, room: string): Promise<void> {
  await db.delete(guestSeat).where(eq(guestSeat.room, room));
}
