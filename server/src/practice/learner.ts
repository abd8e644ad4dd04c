import { eq } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import type { House } from '../data/context';
import { person } from '../data/schema';
import { ProblemError } from '../http/problem';

/** Whom practice counts for. An operator practises for themselves only; null for a try-out. */
export async function learnerOf(house: House, caller: Caller, personId: string | null) {
  if (caller.role === 'operator' && personId !== caller.personId)
    throw new ProblemError(
      'forbidden',
      'You practise for yourself; somebody else has an account of their own.',
    );
  if (personId === null) return null;
  const [who] = await house.db.select().from(person).where(eq(person.id, personId));
  if (!who) throw new ProblemError('not-found', 'There is no such person.');
  return who;
}
