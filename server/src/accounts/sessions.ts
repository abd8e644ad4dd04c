import { createHash, randomBytes } from 'node:crypto';
import type { Role } from '@rounds/contract';
import { and, eq, gt, lt, or } from 'drizzle-orm';
import type { Request, Response } from 'express';
import { v7 as uuidv7 } from 'uuid';
import type { Caller, House } from '../house/context';
import { account, session } from '../house/schema';

const COOKIE = 'rounds_session';
/** A session ends after this long without use. */
const IDLE_HOURS = 12;
/** The token changes this often; the one before stays good for requests already under way. */
const ROTATE_MINUTES = 60;

const hash = (token: string) => createHash('sha256').update(token).digest('hex');
const inHours = (now: Date, hours: number) => new Date(now.getTime() + hours * 3_600_000).toISOString();

function cookieToken(request: Request): string | null {
  for (const part of (request.headers.cookie ?? '').split(';')) {
    const [name, ...rest] = part.trim().split('=');
    if (name === COOKIE) return decodeURIComponent(rest.join('='));
  }
  return null;
}

function setCookie(request: Request, response: Response, token: string): void {
  response.cookie(COOKIE, token, { httpOnly: true, sameSite: 'lax', secure: request.secure, path: '/', maxAge: IDLE_HOURS * 3_600_000 });
}

/** Starts a session and sets its cookie. */
export async function startSession(house: House, accountId: string, request: Request, response: Response): Promise<void> {
  const token = randomBytes(32).toString('base64url');
  const now = house.now();
  await house.db.delete(session).where(lt(session.expiresAt, now.toISOString()));
  await house.db.insert(session).values({ id: uuidv7(), tokenHash: hash(token), accountId, expiresAt: inHours(now, IDLE_HOURS), rotatedAt: now.toISOString() });
  setCookie(request, response, token);
}

/** Ends the request's session, if any. */
export async function endSession(house: House, request: Request, response: Response): Promise<void> {
  const token = cookieToken(request);
  if (token) await house.db.delete(session).where(or(eq(session.tokenHash, hash(token)), eq(session.previousHash, hash(token))));
  response.clearCookie(COOKIE, { path: '/' });
}

/** Ends every session of an account (a closed account, a changed password). */
export async function endSessionsOf(house: House, accountId: string): Promise<void> {
  await house.db.delete(session).where(eq(session.accountId, accountId));
}

/** Who sends the request; null without a live session. Rotates the token now and then. */
export async function callerOf(house: House, request: Request, response: Response): Promise<Caller | null> {
  const token = cookieToken(request);
  if (!token) return null;
  const now = house.now();
  const [row] = await house.db
    .select({ session, account })
    .from(session)
    .innerJoin(account, eq(account.id, session.accountId))
    .where(and(or(eq(session.tokenHash, hash(token)), eq(session.previousHash, hash(token))), gt(session.expiresAt, now.toISOString()), eq(account.active, true)));
  if (!row) return null;
  const age = now.getTime() - new Date(row.session.rotatedAt).getTime();
  const current = row.session.tokenHash === hash(token);
  if (!current && age > 120_000) return null;
  if (current && age > ROTATE_MINUTES * 60_000) {
    const next = randomBytes(32).toString('base64url');
    await house.db
      .update(session)
      .set({ tokenHash: hash(next), previousHash: row.session.tokenHash, rotatedAt: now.toISOString(), expiresAt: inHours(now, IDLE_HOURS) })
      .where(eq(session.id, row.session.id));
    setCookie(request, response, next);
  }
  const { id, name, login, role, team, personId, active } = row.account;
  return { id, name, login, role: role as Role, team, personId, active };
}
