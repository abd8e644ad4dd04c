import type { RouteAnswer, RouteInput, ScrutinisedItemView, insightRoutes as routes } from '@rounds/contract';
import type { Pack } from '@rounds/core/catalogue';
import { itemContent, itemRow, itemWords } from '@rounds/core/practice';
import { type ItemAnswer, itemState, LEAST_PEOPLE, scrutinise } from '@rounds/core/scrutiny';
import { and, asc, eq } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { packOrProblem, publishedRevisions } from '../classes/packs';
import { type House, note } from '../data/context';
import type { Database } from '../data/database';
import { itemReview } from '../data/gradingSchema';
import { type ItemReviewRow, reviewsByItem } from '../data/itemReviews';
import { machineClass } from '../data/schema';
import { practiceReview } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';

type Listed = RouteAnswer<typeof routes.scrutiny>;

/** A step comes with its procedure; it is not dealt by itself, so it cannot be left out. */
const mayRetire = (item: string) => !item.startsWith('step:');

/** The revision in which an item first read otherwise than when it was reviewed; null for none. */
async function changedIn(db: Database, classId: string, review: ItemReviewRow) {
  const revisions = await publishedRevisions(db, classId);
  const at = Date.parse(review.at);
  const then = revisions.findLast((each) => Date.parse(each.publishedAt) <= at) ?? revisions[0];
  if (!then) return null;
  const before = itemContent(then.pack, review.item);
  return (
    revisions.find(
      (each) => Date.parse(each.publishedAt) > at && itemContent(each.pack, review.item) !== before,
    ) ?? null
  );
}

/** Every answer that anybody's practice of a class holds, oldest first. */
async function answersOf(db: Database, classId: string): Promise<(ItemAnswer & { at: string })[]> {
  const rows = await db
    .select({
      who: practiceReview.personId,
      item: practiceReview.item,
      outcome: practiceReview.outcome,
      at: practiceReview.at,
    })
    .from(practiceReview)
    .where(eq(practiceReview.classId, classId))
    .orderBy(asc(practiceReview.at), asc(practiceReview.practiceId));
  return rows.map(({ who, item, outcome, at }) => ({ who, item, right: outcome !== 'wrong', at }));
}

/** The items of a class as they do, with where each stands after its reviews. */
async function scrutinised(
  db: Database,
  classId: string,
  pack: Pack,
): Promise<{ items: ScrutinisedItemView[]; scale: Listed['scale']; people: number }> {
  const answers = await answersOf(db, classId);
  const reviews = await reviewsByItem(db, classId);
  const revisions = new Map<string, Awaited<ReturnType<typeof changedIn>>>();
  const since = new Map<string, number>();
  for (const [item, list] of reviews)
    for (const review of list.filter((each) => each.decision === 'change')) {
      const revision = await changedIn(db, classId, review);
      revisions.set(review.id, revision);
      // What was answered before it was changed says nothing of what it is now.
      if (revision) since.set(item, Math.max(since.get(item) ?? 0, Date.parse(revision.publishedAt)));
    }
  const counted = answers.filter((each) => Date.parse(each.at) >= (since.get(each.item) ?? 0));
  const { items, scale } = scrutinise(counted);
  const found = new Map(items.map((each) => [each.item, each]));
  // What nobody has answered since is still listed where it was reviewed.
  const untouched = [...reviews.keys()]
    .filter((item) => !found.has(item))
    .map((item) => ({
      item,
      people: 0,
      right: 0,
      difficulty: 0,
      difficultyInterval: { low: 0, high: 1 },
      discrimination: null,
      discriminationInterval: null,
      alphaIfDropped: null,
      able: null,
      others: null,
      enough: false,
      flags: [],
      says: 'Nobody has answered it since.',
    }));
  const views = [...items, ...untouched].flatMap((each): ScrutinisedItemView[] => {
    const words = itemWords(pack, each.item);
    if (words === null) return [];
    const list = reviews.get(each.item) ?? [];
    const newest = list[0];
    return [
      {
        ...each,
        discriminationInterval: each.discriminationInterval && { ...each.discriminationInterval },
        words,
        row: itemRow(each.item),
        mayRetire: mayRetire(each.item),
        state: itemState(
          each,
          newest
            ? {
                decision: newest.decision,
                people: newest.people,
                changed: Boolean(revisions.get(newest.id)),
              }
            : null,
        ),
        reviews: list.map(({ id, decision, reason, by, at, people }) => ({
          id,
          decision,
          reason,
          by,
          at: new Date(at).toISOString(),
          people,
          revision: revisions.get(id)?.revision ?? null,
        })),
      },
    ];
  });
  return {
    items: views,
    scale: scale.alpha === null ? null : { ...scale, alpha: scale.alpha },
    people: new Set(answers.map((each) => each.who)).size,
  };
}

/** Items of a class under scrutiny; of the class with most to review where none is asked for. */
export async function listScrutiny(
  house: House,
  { classId: asked }: RouteInput<typeof routes.scrutiny>['query'],
): Promise<Listed> {
  const practised = await house.db
    .selectDistinct({ id: machineClass.id, title: machineClass.title })
    .from(practiceReview)
    .innerJoin(machineClass, eq(machineClass.id, practiceReview.classId))
    .orderBy(asc(machineClass.title));
  const each = await Promise.all(
    practised.map(async ({ id, title }) => {
      const pack = await packOrProblem(house.db, id).catch(() => null);
      return { id, title, found: pack && (await scrutinised(house.db, id, pack)) };
    }),
  );
  const known = each.flatMap(({ found, ...rest }) => (found ? [{ ...rest, found }] : []));
  const classes = known.map(({ id, title, found }) => ({
    id,
    title,
    people: found.people,
    items: found.items.length,
    toReview: found.items.filter((one) => one.state === 'to-review').length,
  }));
  const most = [...classes].sort((a, b) => b.toReview - a.toReview || b.people - a.people)[0]?.id;
  const chosen = known.find(({ id }) => id === (asked ?? most)) ?? null;
  return {
    classes,
    classId: chosen?.id ?? null,
    least: LEAST_PEOPLE,
    scale: chosen?.found.scale ?? null,
    items: chosen?.found.items ?? [],
  };
}

/** Keeps what a review of an item decides. It is never changed; another review follows it. */
export async function reviewItem(
  house: House,
  { id, classId, item, decision, reason }: RouteInput<typeof routes.reviewItem>['body'],
  caller: Caller,
): Promise<void> {
  const pack = await packOrProblem(house.db, classId);
  if (itemWords(pack, item) === null)
    throw new ProblemError('unknown-row', 'This item is not in the class any more.');
  if (decision === 'retire' && !mayRetire(item))
    throw new ProblemError(
      'item-stays',
      'A step comes with its procedure. Change the procedure through the editor instead.',
    );
  await house.db.transaction(async (db) => {
    const answered = await db
      .selectDistinct({ who: practiceReview.personId })
      .from(practiceReview)
      .where(and(eq(practiceReview.classId, classId), eq(practiceReview.item, item)));
    const made = await db
      .insert(itemReview)
      .values({
        id,
        classId,
        item,
        decision,
        reason,
        people: answered.length,
        accountId: caller.id,
        at: house.now().toISOString(),
      })
      .onConflictDoNothing()
      .returning({ id: itemReview.id });
    if (made.length > 0) await note(db, caller, 'item-reviewed', classId, { item, decision, reason });
  });
}
