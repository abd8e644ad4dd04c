import { eq } from 'drizzle-orm';
import { type Caller, maySee } from '../accounts/access';
import type { House } from '../data/context';
import type { Database } from '../data/database';
import { evaluation, person } from '../data/schema';
import { ProblemError } from '../http/problem';
import type { EvaluationRow } from './stream';

/** The evaluation, if the caller may see it. Throws the not-found problem. */
export async function evaluationOr404(house: House, caller: Caller, id: string): Promise<EvaluationRow> {
  const [found] = await house.db
    .select({ e: evaluation, team: person.team })
    .from(evaluation)
    .innerJoin(person, eq(person.id, evaluation.personId))
    .where(eq(evaluation.id, id));
  if (!found || !maySee(caller, { id: found.e.personId, team: found.team }))
    throw new ProblemError('not-found', 'There is no such evaluation, or you may not see it.');
  return found.e;
}

/**
 * Whether a caller may know what is planted and how it is judged: everybody who may see it, once decided;
 * before that not the person evaluated. A practice has no key.
 */
export function seesKey(
  caller: Caller,
  row: Pick<EvaluationRow, 'personId' | 'outcome' | 'purpose'>,
): boolean {
  if (row.purpose === 'practice') return true;
  return row.outcome !== null || (caller.role !== 'operator' && caller.personId !== row.personId);
}

/** Refuses to let anybody evaluate themselves. */
export function refuseOwn(caller: Caller, row: Pick<EvaluationRow, 'personId'>): void {
  if (caller.personId === row.personId)
    throw new ProblemError('own-record', 'This is your own evaluation. Another trainer carries it out.');
}

/** The name of an account's person, for signing by name. */
export async function personName(db: Database, id: string): Promise<string> {
  const [who] = await db.select().from(person).where(eq(person.id, id));
  return `${who!.givenName} ${who!.familyName}`;
}
