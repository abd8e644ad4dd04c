import { createHash, randomBytes } from 'node:crypto';
import type { Role } from '@rounds/contract';
import { and, eq, gt, lt, or } from 'drizzle-orm';
import type { Request, Response } from 'express';
import { v7 as uuidv7 } from 'uuid';
import type { Caller, House } from '../data/context';
import type { Database } from '../data/database';
import { account, session } from '../data/schema';

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

const hash = (token: string) => createHash('sha256').update(token).digest('hex');
const inHours = (now: Date, hours: number) => new Date(now.getTime() + hours * 3_600_000).toISOString();
const newToken = () => randomBytes(32).toString('base64url');

function cookieToken(request: Request): string | null {
  for (const part of (request.headers.cookie ?? '').split(';')) {
    const [name, ...rest] = part.trim().split('=');
    // Tokens are base64url; anything else is no token of ours.
    if (name === COOKIE) return /^[\w-]{20,100}$/.exec(rest.join('='))?.[0] ?? null;
  }
  return null;
}

function setCookie(request: Request, response: Response, token: string): void {
  response.cookie(COOKIE, token, {
    httpOnly: true,
    sameSite: 'lax',
    secure: request.secure,
    path: '/',
    maxAge: IDLE_HOURS * 3_600_000,
  });
}

const holds = (token: string) =>
  or(eq(session.tokenHash, hash(token)), eq(session.previousHash, hash(token)));

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
  const before = cookieToken(request);
  const token = newToken();
  const now = house.now();
  await db
    .delete(session)
    .where(or(lt(session.expiresAt, now.toISOString()), before ? holds(before) : undefined));
  await db.insert(session).values({
    id: uuidv7(),
    tokenHash: hash(token),
    accountId,
    expiresAt: inHours(now, IDLE_HOURS),
    rotatedAt: now.toISOString(),
    createdAt: now.toISOString(),
  });
  return { handOut: (response) => setCookie(request, response, token) };
}

/** Ends the request's session, if any. Answers whether there was one. */
export async function endSession(db: Database, request: Request, response: Response): Promise<boolean> {
  const token = cookieToken(request);
  response.clearCookie(COOKIE, { path: '/' });
  return (
    token !== null && (await db.delete(session).where(holds(token)).returning({ id: session.id })).length > 0
  );
}

/** Ends every session of an account (a closed account, a changed password). */
export async function endSessionsOf(db: Database, accountId: string): Promise<void> {
  await db.delete(session).where(eq(session.accountId, accountId));
}

/** Who sends the request; null without a live session. Rotates the token now and then. */
export async function callerOf(house: House, request: Request, response: Response): Promise<Caller | null> {
  const token = cookieToken(request);
  if (!token) return null;
  const now = house.now();
  const since = inHours(now, -LONGEST_HOURS);
  const [row] = await house.db
    .select({ session, account })
    .from(session)
    .innerJoin(account, eq(account.id, session.accountId))
    .where(
      and(
        holds(token),
        gt(session.expiresAt, now.toISOString()),
        gt(session.createdAt, since),
        eq(account.active, true),
      ),
    );
  if (!row) return null;
  const current = row.session.tokenHash === hash(token);
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
      .where(and(eq(session.id, row.session.id), eq(session.tokenHash, hash(token))));
  const { id, name, login, role, team, personId, active } = row.account;
  return { id, name, login, role: role as Role, team, personId, active };
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
      tokenHash: hash(next),
      previousHash: hash(token),
      rotatedAt: now.toISOString(),
      confirmed: false,
      expiresAt: inHours(now, IDLE_HOURS),
    })
    .where(and(eq(session.id, before.id), eq(session.tokenHash, before.tokenHash)))
    .returning({ id: session.id });
  if (won.length > 0) setCookie(request, response, next);
}
