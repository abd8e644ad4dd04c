import type { RouteInput, routes } from '@rounds/contract';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { type Caller, maySee } from '../accounts/access';
import { projectStandings, standingsToday } from '../certification/standings';
import { changesBetween, type House, lock, lockShared, note } from '../data/context';
import type { Database } from '../data/database';
import { person } from '../data/schema';
import { ProblemError } from '../http/problem';
import { shown } from './roster';

type Asked = RouteInput<typeof routes.changePerson>;
type AddInput = RouteInput<typeof routes.addPerson>;

async function payrollTaken(db: Database, payroll: string): Promise<ProblemError> {
  const [other] = await db.select().from(person).where(eq(person.payroll, payroll));
  return new ProblemError(
    'payroll-taken',
    `Payroll number ${payroll} belongs to ` +
      `${other ? `${other.givenName} ${other.familyName}` : 'somebody else'}.`,
  );
}

/** Adds a person. Throws the payroll-taken problem. */
export async function addPerson(house: House, body: AddInput['body'], caller: Caller) {
  return house.db.transaction(async (db) => {
    const [row] = await db
      .insert(person)
      .values({ id: uuidv7(), ...body })
      .onConflictDoNothing()
      .returning();
    if (!row) throw await payrollTaken(db, body.payroll);
    await note(db, caller, 'person-added', row.id, shown(row));
    return shown(row);
  });
}

/** Changes the fields of a person that are sent, and their standings with them. */
export async function changePerson(
  house: House,
  params: Asked['params'],
  body: Asked['body'],
  caller: Caller,
) {
  const today = await standingsToday(house);
  return house.db.transaction(async (db) => {
    await lockShared(db, 'standings');
    await lock(db, `certification ${params.id}`);
    const [before] = await db.select().from(person).where(eq(person.id, params.id)).for('update');
    if (!before || !maySee(caller, before))
      throw new ProblemError('not-found', 'There is no such person, or you may not see them.');
    if (body.payroll && body.payroll !== before.payroll) {
      const [other] = await db.select({ id: person.id }).from(person).where(eq(person.payroll, body.payroll));
      if (other) throw await payrollTaken(db, body.payroll);
    }
    const sent = Object.fromEntries(Object.entries(body).filter(([, value]) => value !== undefined));
    const [row] = await db
      .update(person)
      .set({ ...sent, id: before.id })
      .where(eq(person.id, before.id))
      .returning();
    await projectStandings(db, today, [before.id]);
    await note(db, caller, 'person-changed', before.id, changesBetween(shown(before), shown(row!)));
    return shown(row!);
  });
}
