import { randomBytes } from 'node:crypto';
import { hash as hashPassword } from '@node-rs/argon2';
import { type Account, type Role, routes, type SessionAccount } from '@rounds/contract';
import { isTimeZone } from '@rounds/core/calendar';
import { and, count, eq, isNull } from 'drizzle-orm';
import type { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { type House, lock, note, readSetting, siteToday, writeSetting } from '../data/context';
import type { Database } from '../data/database';
import { account, person } from '../data/schema';
import { bind } from '../http/binder';
import { ProblemError } from '../http/problem';
import { auditTrail } from './auditTrail';
import { proveAccount } from './proof';
import { endSession, endSessionsOf, startSession } from './sessions';

/** The one password of all demo accounts; refused outside demo mode. */
export const DEMO_PASSWORD = 'walk-the-ring';

/** The account as others see it. */
function shown(row: typeof account.$inferSelect): Account {
  const { id, name, login, role, team, personId, active } = row;
  return { id, name, login, role: role as Role, team, personId, active };
}

/** The account as its own device sees it, with its key, which is made when it is first wanted. */
async function signedIn(db: Database, id: string): Promise<SessionAccount> {
  const read = async () => (await db.select().from(account).where(eq(account.id, id)))[0]!;
  let row = await read();
  if (row.deviceKey === null) {
    const deviceKey = randomBytes(32).toString('base64url');
    await db
      .update(account)
      .set({ deviceKey })
      .where(and(eq(account.id, id), isNull(account.deviceKey)));
    row = await read();
  }
  return { ...shown(row), deviceKey: row.deviceKey! };
}

function refuseDemoPassword(house: House, password: string): void {
  if (!house.demo && password === DEMO_PASSWORD)
    throw new ProblemError('invalid', 'This password is printed in the demo. Choose another.');
}

interface NewAccount {
  name: string;
  login: string;
  role: Role;
  team: string | null;
  personId: string | null;
}

async function insertAccount(db: Database, input: NewAccount, passwordHash: string): Promise<Account> {
  const { name, role, team, personId } = input;
  const [row] = await db
    .insert(account)
    .values({ id: uuidv7(), name, login: input.login.toLowerCase(), passwordHash, role, team, personId })
    .onConflictDoNothing()
    .returning();
  if (!row) throw new ProblemError('login-taken', `The sign-in name "${input.login}" is already in use.`);
  return shown(row);
}

/** Creates an account with a hashed password, and its audit line. */
export async function createAccount(
  house: House,
  input: NewAccount & { password: string },
  by: { id: string } | null = null,
): Promise<Account> {
  const passwordHash = await hashPassword(input.password);
  return house.db.transaction(async (db) => {
    const made = await insertAccount(db, input, passwordHash);
    await note(db, by, 'account-added', made.id, { login: made.login, role: made.role, team: made.team });
    return made;
  });
}

async function isEmpty(db: Database): Promise<boolean> {
  return ((await db.select({ n: count() }).from(account))[0]?.n ?? 0) === 0;
}

/** Routes of the installation, sessions, accounts and the audit trail. */
export function accountRoutes(router: Router, house: House): void {
  bind(router, house, routes.installation, async () => {
    const demoAccounts = house.demo
      ? (
          await house.db
            .select()
            .from(account)
            .where(eq(account.active, true))
            .orderBy(account.role, account.login)
        ).map(({ login, name, role }) => ({
          login,
          name,
          role: role as Role,
        }))
      : [];
    return {
      organisation: await readSetting<string | null>(house.db, 'organisation', null),
      demo: house.demo,
      needsAdministrator: await isEmpty(house.db),
      today: await siteToday(house),
      timeZone: await readSetting(house.db, 'time-zone', 'UTC'),
      demoAccounts,
      demoPassword: house.demo ? DEMO_PASSWORD : null,
    };
  });

  bind(router, house, routes.createAdministrator, async ({ body, request, response }) => {
    const setUp = () =>
      new ProblemError('already-set-up', 'This installation already has an administrator. Sign in instead.');
    if (!(await isEmpty(house.db))) throw setUp();
    if (!isTimeZone(body.timeZone))
      throw new ProblemError(
        'unknown-time-zone',
        `"${body.timeZone}" is not a time zone name such as Europe/London.`,
      );
    refuseDemoPassword(house, body.password);
    await house.limits.attempt('set-up', request.ip ?? 'unknown');
    const passwordHash = await hashPassword(body.password);
    const { made, session } = await house.db.transaction(async (db) => {
      await lock(db, 'first-administrator');
      if (!(await isEmpty(db))) throw setUp();
      await writeSetting(db, 'organisation', body.organisation);
      await writeSetting(db, 'time-zone', body.timeZone);
      const { id } = await insertAccount(
        db,
        { name: body.name, login: body.login, role: 'administrator', team: null, personId: null },
        passwordHash,
      );
      await note(db, { id }, 'administrator-created', id, {
        organisation: body.organisation,
        timeZone: body.timeZone,
      });
      return { made: await signedIn(db, id), session: await startSession(house, db, id, request) };
    });
    session.handOut(response);
    return made;
  });

  bind(router, house, routes.signIn, async ({ body, request, response }) => {
    const { id } = await proveAccount(house, request, body.login, body.password, 'sign in');
    const { made, session } = await house.db.transaction(async (db) => {
      await note(db, { id }, 'signed-in', id);
      return { made: await signedIn(db, id), session: await startSession(house, db, id, request) };
    });
    session.handOut(response);
    return made;
  });

  bind(router, house, routes.session, async ({ caller }) => signedIn(house.db, caller.id));

  bind(router, house, routes.signOut, async ({ caller, request, response }) => {
    await house.db.transaction(async (db) => {
      if ((await endSession(db, request, response)) && caller)
        await note(db, caller, 'signed-out', caller.id);
    });
    return { done: true as const };
  });

  bind(router, house, routes.changePassword, async ({ caller, body, request, response }) => {
    await proveAccount(house, request, caller.login, body.current, 'change the password');
    refuseDemoPassword(house, body.next);
    const passwordHash = await hashPassword(body.next);
    const session = await house.db.transaction(async (db) => {
      await db.update(account).set({ passwordHash }).where(eq(account.id, caller.id));
      await endSessionsOf(db, caller.id);
      await note(db, caller, 'password-changed', caller.id);
      return startSession(house, db, caller.id, request);
    });
    session.handOut(response);
    return { done: true as const };
  });

  bind(router, house, routes.accounts, async () => ({
    accounts: (await house.db.select().from(account).orderBy(account.name)).map(shown),
  }));

  bind(router, house, routes.addAccount, async ({ body, caller }) => {
    refuseDemoPassword(house, body.password);
    let personId: string | null = null;
    if (body.payroll) {
      const [found] = await house.db.select().from(person).where(eq(person.payroll, body.payroll));
      if (!found)
        throw new ProblemError('not-found', `Nobody on the roster has payroll number ${body.payroll}.`);
      personId = found.id;
    }
    if (body.role === 'operator' && !personId)
      throw new ProblemError('invalid', "An operator's account needs the payroll number of its person.");
    return createAccount(
      house,
      {
        name: body.name,
        login: body.login,
        password: body.password,
        role: body.role,
        team: body.team,
        personId,
      },
      caller,
    );
  });

  bind(router, house, routes.changeAccount, async ({ params, body, caller }) => {
    if (body.password) refuseDemoPassword(house, body.password);
    const passwordHash = body.password ? await hashPassword(body.password) : null;
    const changed = await house.db.transaction(async (db) => {
      await lock(db, 'administrators');
      const [row] = await db.select().from(account).where(eq(account.id, params.id)).for('update');
      if (!row) throw new ProblemError('not-found', 'There is no such account.');
      if (body.active === false && row.role === 'administrator') {
        const [others] = await db
          .select({ n: count() })
          .from(account)
          .where(and(eq(account.role, 'administrator'), eq(account.active, true)));
        if ((others?.n ?? 0) <= 1)
          throw new ProblemError(
            'last-administrator',
            'This is the only open administrator account, so it stays open.',
          );
      }
      const [after] = await db
        .update(account)
        .set({
          ...(body.active === undefined ? {} : { active: body.active }),
          ...(passwordHash ? { passwordHash } : {}),
          id: row.id,
        })
        .where(eq(account.id, row.id))
        .returning();
      if (body.active === false || passwordHash) await endSessionsOf(db, row.id);
      await note(db, caller, passwordHash ? 'password-reset' : 'account-changed', row.id, {
        active: { before: row.active, after: after!.active },
        password: passwordHash !== null,
      });
      return after!;
    });
    if (body.active === true || passwordHash) await house.limits.unlock(changed.login);
    return shown(changed);
  });

  bind(router, house, routes.audit, ({ query }) => auditTrail(house, query));
}
