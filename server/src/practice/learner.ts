import type { EffectivePack, Pack } from '@rounds/core/catalogue';
import { itemStates, practiceWeights } from '@rounds/core/practice';
import { eq } from 'drizzle-orm';
import { type Caller, maySee } from '../accounts/access';
import { composeAndKeep } from '../classes/packs';
import { siteTerms } from '../classes/policy';
import type { House } from '../data/context';
import type { Database } from '../data/database';
import { reviewsOf } from '../data/practiceReviews';
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

/** A class's machine as it is practised at the learner's site today, kept by its hash. */
export async function composedFor(
  db: Database,
  pack: Pack,
  variant: string,
  who: { site: string } | null,
  today: string,
): Promise<EffectivePack> {
  return composeAndKeep(db, pack, { variant, ...(await siteTerms(db, pack, who?.site, today)) });
}

/** Whom something practised counts for, by name; null for a try-out. */
export async function namedLearner(
  db: Database,
  id: string | null,
): Promise<{ id: string; name: string } | null> {
  if (id === null) return null;
  const [who] = await db.select().from(person).where(eq(person.id, id));
  return { id, name: `${who!.givenName} ${who!.familyName}` };
}

/** Whether a caller may see what became of something practised: their own, or of whom they may see. */
export function maySeePractised(
  caller: Caller,
  row: { accountId: string; personId: string | null },
  team: string | null,
): boolean {
  return (
    row.accountId === caller.id ||
    (row.personId !== null && maySee(caller, { id: row.personId, team: team! }))
  );
}

/** How much likelier each item comes up, by what a person remembers of a class. */
export async function weightsFor(
  db: Database,
  personId: string,
  classId: string,
  items: Iterable<string>,
  now: string,
): Promise<Map<string, number>> {
  return practiceWeights(items, itemStates(await reviewsOf(db, personId, classId)), now);
}
