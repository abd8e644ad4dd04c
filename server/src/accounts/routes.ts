import { hash as hashPassword, verify } from '@node-rs/argon2';
import { routes, type Account, type Role } from '@rounds/contract';
import { isTimeZone } from '@rounds/core';
import { and, count, eq, gt, lt } from 'drizzle-orm';
import type { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { bind } from '../house/binder';
import { note, readSetting, siteToday, writeSetting, type House } from '../house/context';
import { ProblemError } from '../house/problem';
import { account, person, signInAttempt } from '../house/schema';
import { endSession, endSessionsOf, startSession } from './sessions';

const ATTEMPTS = 8;
const WINDOW_MINUTES = 10;
/** The one password of all demo accounts; refused outside demo mode. */
export const DEMO_PASSWORD = 'walk-the-ring';

/** The account as others see it. */
function shown(row: typeof account.$inferSelect): Account {
  const { id, name, login, role, team, personId, active } = row;
  return { id, name, login, role: role as Role, team, personId, active };
}

function refuseDemoPassword(house: House, password: string): void {
  if (!house.demo && password === DEMO_PASSWORD) throw new ProblemError('invalid', 'This password is printed in the demo. Choose another.');
}

/** Creates an account with a hashed password. */
export async function createAccount(
  house: House,
  input: { name: string; login: string; password: string; role: Role; team: string | null; personId: string | null },
): Promise<Account> {
  const [existing] = await house.db.select().from(account).where(eq(account.login, input.login.toLowerCase()));
  if (existing) throw new ProblemError('login-taken', `The sign-in name "${input.login}" is already in use.`);
  const [row] = await house.db
    .insert(account)
    .values({
      id: uuidv7(),
      name: input.name,
      login: input.login.toLowerCase(),
      passwordHash: await hashPassword(input.password),
      role: input.role,
      team: input.team,
      personId: input.personId,
    })
    .returning();
  return shown(row!);
}

/** Routes of the installation, sessions and accounts. */
export function accountRoutes(router: Router, house: House): void {
  const needsAdministrator = async () => ((await house.db.select({ n: count() }).from(account))[0]?.n ?? 0) === 0;

  bind(router, house, routes.installation, async () => {
    const demoAccounts = house.demo
      ? (await house.db.select().from(account).where(eq(account.active, true)).orderBy(account.role, account.login)).map(({ login, name, role }) => ({
          login,
          name,
          role: role as Role,
        }))
      : [];
    return {
      organisation: await readSetting<string | null>(house.db, 'organisation', null),
      demo: house.demo,
      needsAdministrator: await needsAdministrator(),
      today: await siteToday(house),
      timeZone: await readSetting(house.db, 'time-zone', 'UTC'),
      demoAccounts,
      demoPassword: house.demo ? DEMO_PASSWORD : null,
    };
  });

  bind(router, house, routes.createAdministrator, async ({ body, request, response }) => {
    if (!(await needsAdministrator())) throw new ProblemError('already-set-up', 'This installation already has an administrator. Sign in instead.');
    if (!isTimeZone(body.timeZone)) throw new ProblemError('unknown-time-zone', `"${body.timeZone}" is not a time zone name such as Europe/London.`);
    refuseDemoPassword(house, body.password);
    await writeSetting(house.db, 'organisation', body.organisation);
    await writeSetting(house.db, 'time-zone', body.timeZone);
    const made = await createAccount(house, { ...body, role: 'administrator', team: null, personId: null });
    await startSession(house, made.id, request, response);
    await note(house.db, null, 'administrator-created', made.id);
    return made;
  });

  bind(router, house, routes.signIn, async ({ body, request, response }) => {
    const login = body.login.trim().toLowerCase();
    const since = new Date(house.now().getTime() - WINDOW_MINUTES * 60_000).toISOString();
    await house.db.delete(signInAttempt).where(lt(signInAttempt.at, since));
    const [tries] = await house.db
      .select({ n: count() })
      .from(signInAttempt)
      .where(and(eq(signInAttempt.subject, login), gt(signInAttempt.at, since)));
    if ((tries?.n ?? 0) >= ATTEMPTS)
      throw new ProblemError('too-many-attempts', `Too many wrong attempts for this name. Wait ${WINDOW_MINUTES} minutes, or ask the administrator for a new password.`);
    const [row] = await house.db.select().from(account).where(eq(account.login, login));
    const right = row ? await verify(row.passwordHash, body.password) : (await hashPassword(body.password), false);
    if (!row || !right || !row.active) {
      await house.db.insert(signInAttempt).values({ subject: login, at: house.now().toISOString() });
      throw new ProblemError('wrong-sign-in', 'The sign-in name or the password is wrong, or the account is closed.');
    }
    await startSession(house, row.id, request, response);
    return shown(row);
  });

  bind(router, house, routes.session, async ({ caller }) => caller);
  bind(router, house, routes.signOut, async ({ request, response }) => {
    await endSession(house, request, response);
    return { done: true as const };
  });

  bind(router, house, routes.changePassword, async ({ caller, body, request, response }) => {
    const [row] = await house.db.select().from(account).where(eq(account.id, caller.id));
    if (!row || !(await verify(row.passwordHash, body.current))) throw new ProblemError('wrong-sign-in', 'The current password is wrong. Nothing was changed.');
    refuseDemoPassword(house, body.next);
    await house.db
      .update(account)
      .set({ passwordHash: await hashPassword(body.next) })
      .where(eq(account.id, caller.id));
    await endSessionsOf(house, caller.id);
    await startSession(house, caller.id, request, response);
    await note(house.db, caller, 'password-changed', caller.id);
    return { done: true as const };
  });

  bind(router, house, routes.accounts, async () => ({ accounts: (await house.db.select().from(account).orderBy(account.name)).map(shown) }));

  bind(router, house, routes.addAccount, async ({ body, caller }) => {
    refuseDemoPassword(house, body.password);
    let personId: string | null = null;
    if (body.payroll) {
      const [found] = await house.db.select().from(person).where(eq(person.payroll, body.payroll));
      if (!found) throw new ProblemError('not-found', `Nobody on the roster has payroll number ${body.payroll}.`);
      personId = found.id;
    }
    if (body.role === 'operator' && !personId) throw new ProblemError('invalid', "An operator's account needs the payroll number of its person.");
    const made = await createAccount(house, { name: body.name, login: body.login, password: body.password, role: body.role, team: body.team, personId });
    await note(house.db, caller, 'account-added', made.id, { role: made.role });
    return made;
  });

  bind(router, house, routes.changeAccount, async ({ params, body, caller }) => {
    const [row] = await house.db.select().from(account).where(eq(account.id, params.id));
    if (!row) throw new ProblemError('not-found', 'There is no such account.');
    if (body.active === false && row.role === 'administrator') {
      const [others] = await house.db
        .select({ n: count() })
        .from(account)
        .where(and(eq(account.role, 'administrator'), eq(account.active, true)));
      if ((others?.n ?? 0) <= 1) throw new ProblemError('last-administrator', 'This is the only open administrator account, so it stays open.');
    }
    if (body.password) refuseDemoPassword(house, body.password);
    const [changed] = await house.db
      .update(account)
      .set({ ...(body.active === undefined ? {} : { active: body.active }), ...(body.password ? { passwordHash: await hashPassword(body.password) } : {}), id: row.id })
      .where(eq(account.id, row.id))
      .returning();
    if (body.active === false || body.password) await endSessionsOf(house, row.id);
    await note(house.db, caller, 'account-changed', row.id, { active: body.active ?? null, password: Boolean(body.password) });
    return shown(changed!);
  });
}
