import type { Role } from '@rounds/contract';
import { and, eq, gt, lt, or } from 'drizzle-orm';
import type { Request, Response } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { announceWithin } from '../data/announcements';
import type { House } from '../data/context';
import type { Database } from '../data/database';
import { account, session } from '../data/schema';
import type { Caller } from './access';
import { cookieToken, hashOf, newToken } from './tokens';

const COOKIE = 'rounds_session';
/** A session ends after this long without use, and in any case after so long. */
const IDLE_HOURS = 12;
const LONGEST_HOURS = 72;
/**
 * The token changes this often; the one before stays good until the new one has come back, and a little
 * longer for requests under way.
 */
const ROTATE_MINUTES = 60;
const UNDER_WAY_SECONDS = 120;

const inHours = (now: Date, hours: number) => new Date(now.getTime() + hours * 3_600_000).toISOString();

function setCookie(request: Request, response: Response, token: string): void {
  response.cookie(COOKIE, token, {
    httpOnly: true,
    sameSite: 'lax',
    secure: request.secure,
    path: '/',
    maxAge: IDLE_HOURS * 3_600_000,
  });
}

/** The topic under which it is told that sessions of an account ended. */
export const leftTopic = (accountId: string) => `left ${accountId}`;

const holds = (token: string) =>
  or(eq(session.tokenHash, hashOf(token)), eq(session.previousHash, hashOf(token)));

/**
 * Starts a session in the given transaction and ends the one that this device had. Set its cookie with
 * `handOut` once it is committed.
 */
export async function startSession(
  house: House,
  db: Database,
  accountId: string,
  request: Request,
): Promise<{ handOut: (response: Response) => void }> {
  const before = cookieToken(request, COOKIE);
  const token = newToken();
  const now = house.now();
  await db
    .delete(session)
    .where(or(lt(session.expiresAt, now.toISOString()), before ? holds(before) : undefined));
  await db.insert(session).values({
    id: uuidv7(),
    tokenHash: hashOf(token),
    accountId,
    expiresAt: inHours(now, IDLE_HOURS),
    rotatedAt: now.toISOString(),
    createdAt: now.toISOString(),
  });
  return { handOut: (response) => setCookie(request, response, token) };
}

/** Ends the request's session, if any. Answers whether there was one. */
export async function endSession(db: Database, request: Request, response: Response): Promise<boolean> {
  const token = cookieToken(request, COOKIE);
  response.clearCookie(COOKIE, { path: '/' });
  if (token === null) return false;
  const ended = await db.delete(session).where(holds(token)).returning({ of: session.accountId });
  for (const { of } of ended) announceWithin(leftTopic(of), {});
  return ended.length > 0;
}

/** Ends every session of an account (a closed account, a changed password). */
export async function endSessionsOf(db: Database, accountId: string): Promise<void> {
  await db.delete(session).where(eq(session.accountId, accountId));
  announceWithin(leftTopic(accountId), {});
}

type SessionRow = typeof session.$inferSelect;

/** An account and the session it came by. */
export interface SignedIn {
  account: Caller;
  session: string;
}

function signedIn(row: { session: SessionRow; account: typeof account.$inferSelect }): SignedIn {
  const { id, name, login, role, team, personId, active } = row.account;
  return {
    account: { id, name, login, role: role as Role, team, personId, active },
    session: row.session.id,
  };
}

/** Sessions that last, of accounts that are open, at an instant. */
function lasting(now: Date) {
  return and(
    gt(session.expiresAt, now.toISOString()),
    gt(session.createdAt, inHours(now, -LONGEST_HOURS)),
    eq(account.active, true),
  );
}

/** The account of a session as it is now; null once the session is over or the account closed. */
export async function sessionNow(house: House, id: string): Promise<SignedIn | null> {
  const [row] = await house.db
    .select({ session, account })
    .from(session)
    .innerJoin(account, eq(account.id, session.accountId))
    .where(and(eq(session.id, id), lasting(house.now())));
  return row ? signedIn(row) : null;
}

/** Who sends the request; null without a live session. Rotates the token now and then. */
export async function callerOf(house: House, request: Request, response: Response): Promise<SignedIn | null> {
  const token = cookieToken(request, COOKIE);
  if (!token) return null;
  const now = house.now();
  const [row] = await house.db
    .select({ session, account })
    .from(session)
    .innerJoin(account, eq(account.id, session.accountId))
    .where(and(holds(token), lasting(now)));
  if (!row) return null;
  const current = row.session.tokenHash === hashOf(token);
  const age = (now.getTime() - new Date(row.session.rotatedAt).getTime()) / 1000;
  if (!current && row.session.confirmed && age > UNDER_WAY_SECONDS) return null;
  // A device that still shows the token before did not get the new one, when that was never seen: it is
  // given another.
  const due = current ? age > ROTATE_MINUTES * 60 : !row.session.confirmed && age > UNDER_WAY_SECONDS;
  if (due) await rotate(house, row.session, token, request, response);
  else if (current && !row.session.confirmed)
    await house.db
      .update(session)
      .set({ confirmed: true })
      .where(and(eq(session.id, row.session.id), eq(session.tokenHash, hashOf(token))));
  return signedIn(row);
}

/**
 * Gives a session a new token, unless another request did so at the same moment; that one's answer carries
 * it.
 */
async function rotate(
  house: House,
  before: typeof session.$inferSelect,
  token: string,
  request: Request,
  response: Response,
): Promise<void> {
  const next = newToken();
  const now = house.now();
  const won = await house.db
    .update(session)
    .set({
      tokenHash: hashOf(next),
      previousHash: hashOf(token),
      rotatedAt: now.toISOString(),
      confirmed: false,
      expiresAt: inHours(now, IDLE_HOURS),
    })
    .where(and(eq(session.id, before.id), eq(session.tokenHash, before.tokenHash)))
    .returning({ id: session.id });
  if (won.length > 0) setCookie(request, response, next);
}
