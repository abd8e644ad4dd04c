import { asc, eq } from 'drizzle-orm';
import type { Database } from './database';
import { itemReview } from './gradingSchema';
import { account } from './schema';

export type ItemReviewRow = typeof itemReview.$inferSelect & { by: string };

/** Reviews of the items of a class, by item, the newest first. */
export async function reviewsByItem(db: Database, classId: string): Promise<Map<string, ItemReviewRow[]>> {
  const rows = await db
    .select({ row: itemReview, by: account.name })
    .from(itemReview)
    .innerJoin(account, eq(account.id, itemReview.accountId))
    .where(eq(itemReview.classId, classId))
    .orderBy(asc(itemReview.seq));
  const found = new Map<string, ItemReviewRow[]>();
  for (const { row, by } of rows) found.set(row.item, [{ ...row, by }, ...(found.get(row.item) ?? [])]);
  return found;
}

/** Items of a class that are dealt no more, by their newest review. */
export async function retiredItems(db: Database, classId: string): Promise<ReadonlySet<string>> {
  const found = await reviewsByItem(db, classId);
  return new Set([...found].filter(([, [newest]]) => newest!.decision === 'retire').map(([item]) => item));
}
