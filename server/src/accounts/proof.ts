import { hash, verify } from '@node-rs/argon2';
import type { AuditAct } from '@rounds/contract';
import { eq } from 'drizzle-orm';
import type { Request } from 'express';
import { type House, note } from '../data/context';
import { account } from '../data/schema';
import { TooManyAttempts } from '../http/limits';
import { ProblemError } from '../http/problem';

type AccountRow = typeof account.$inferSelect;

/** A hash that no password has, so that an unknown name takes as long as a known one. */
let nobody: Promise<string> | null = null;

/**
 * Finds the account that a name and password prove. Every attempt is counted before it is looked at; wrong
 * ones are audited, and the one that locks the name or address.
 * Throws the wrong-sign-in and too-many-attempts problems.
 */
export async function proveAccount(
  house: House,
  request: Request,
  login: string,
  password: string,
  purpose: string,
): Promise<AccountRow> {
  const name = login.trim().toLowerCase();
  const address = request.ip ?? 'unknown';
  const told = (act: AuditAct, who: AccountRow | undefined) =>
    note(house.db, who ?? null, act, name.slice(0, 200), { purpose, address });
  const [row] = await house.db.select().from(account).where(eq(account.login, name));
  try {
    await house.limits.attempt(name, address);
  } catch (refusal) {
    if (refusal instanceof TooManyAttempts && refusal.isFirst) await told('sign-in-locked', row);
    throw refusal;
  }
  const right = await verify(
    row?.passwordHash ?? (await (nobody ??= hash('no account has this password'))),
    password,
  );
  if (!row || !right || !row.active) {
    await told('sign-in-failed', row);
    throw new ProblemError(
      'wrong-sign-in',
      'The sign-in name or the password is wrong, or the account is closed.',
    );
  }
  await house.limits.proved(name, address);
  return row;
}
