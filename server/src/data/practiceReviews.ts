import type { PracticeReview } from '@rounds/core/practice';
import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Database } from './database';
import { practiceReview } from './teachingSchema';

/** How the items of a class went whenever a person practised them, oldest first. */
export async function reviewsOf(db: Database, personId: string, classId: string): Promise<PracticeReview[]> {
  const rows = await db
    .select()
    .from(practiceReview)
    .where(and(eq(practiceReview.personId, personId), eq(practiceReview.classId, classId)))
    .orderBy(asc(practiceReview.at));
  return rows.map(({ item, at, outcome, mistakenFor }) => ({
    item,
    at: new Date(at).toISOString(),
    outcome,
    mistakenFor,
  }));
}

/**
 * Keeps how the items of what was practised went, in place of what was kept of it before. Within the transaction of
 * the append that ended it.
 */
export async function keepReviews(
  db: Database,
  practised: readonly { practiceId: string; personId: string; classId: string; reviews: PracticeReview[] }[],
): Promise<void> {
  if (practised.length === 0) return;
  await dropReviews(
    db,
    practised.map((each) => each.practiceId),
  );
  const rows = practised.flatMap(({ practiceId, personId, classId, reviews }) =>
    reviews.map(({ item, at, outcome, mistakenFor }) => ({
      practiceId,
      personId,
      classId,
      item,
      at,
      outcome,
      mistakenFor: [...(mistakenFor ?? [])],
    })),
  );
  if (rows.length > 0) await db.insert(practiceReview).values(rows);
}

/** Forgets what was practised, where it was undone. */
export async function dropReviews(db: Database, practiceIds: readonly string[]): Promise<void> {
  if (practiceIds.length > 0)
    await db.delete(practiceReview).where(inArray(practiceReview.practiceId, [...practiceIds]));
}

/** Of a person, the classes of which something was practised. */
export async function classesPractised(db: Database, personId: string): Promise<string[]> {
  const rows = await db
    .selectDistinct({ classId: practiceReview.classId })
    .from(practiceReview)
    .where(eq(practiceReview.personId, personId))
    .orderBy(practiceReview.classId);
  return rows.map((each) => each.classId);
}
