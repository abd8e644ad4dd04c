import type { PracticeReview } from '@rounds/core/practice';
import { and, asc, eq } from 'drizzle-orm';
import type { Database } from '../data/database';
import { practiceReview } from '../data/teachingSchema';

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
