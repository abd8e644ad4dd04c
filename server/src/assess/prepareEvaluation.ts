import type { RouteInput, routes } from '@rounds/contract';
import { and, desc, eq, isNotNull } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { composeAndKeep, publishedPack } from '../classes/packs';
import { siteTerms } from '../classes/policy';
import { type House, note, siteToday } from '../data/context';
import { evaluation, person, unit } from '../data/schema';
import { ProblemError } from '../http/problem';
import { refuseOwn } from './access';
import { opened } from './openEvaluation';
import type { EvaluationRow } from './stream';

type Asked = RouteInput<typeof routes.createEvaluation>;

/**
 * An evaluation that is there already when it is prepared: this very one, sent again, or somebody else's of
 * the same number.
 */
function ownOrTaken(
  existing: EvaluationRow,
  caller: Caller,
  asked: { personId: string; unitId: string },
): EvaluationRow {
  if (
    existing.trainerId === caller.id &&
    existing.personId === asked.personId &&
    existing.unitId === asked.unitId
  )
    return existing;
  throw new ProblemError('evaluation-exists', 'An evaluation of this number exists already.');
}

/** Prepares an evaluation, or answers with the same one that was prepared before. */
export async function prepareEvaluation(house: House, body: Asked['body'], caller: Caller) {
  const [existing] = await house.db.select().from(evaluation).where(eq(evaluation.id, body.id));
  if (existing) return opened(house, caller, ownOrTaken(existing, caller, body));
  refuseOwn(caller, body);
  const [who] = await house.db.select().from(person).where(eq(person.id, body.personId));
  if (!who) throw new ProblemError('not-found', 'There is no such person.');
  const [machine] = await house.db
    .select()
    .from(unit)
    .where(and(eq(unit.id, body.unitId), eq(unit.classId, body.classId)));
  if (!machine) throw new ProblemError('not-found', 'There is no such machine in this class.');
  const published = await publishedPack(house.db, body.classId);
  if (!published)
    throw new ProblemError(
      'composition',
      'This class has no published content yet, so it cannot be assessed here.',
    );
  const today = await siteToday(house);
  const row = await house.db.transaction(async (db) => {
    const pack = await composeAndKeep(db, published.pack, {
      variant: body.variant,
      features: body.features,
      ...(await siteTerms(db, published.pack, machine.site, today)),
    });
    const starts = await db
      .select({ first: evaluation.firstStation })
      .from(evaluation)
      .where(
        and(
          eq(evaluation.personId, body.personId),
          eq(evaluation.classId, body.classId),
          isNotNull(evaluation.firstStation),
        ),
      )
      .orderBy(desc(evaluation.createdAt))
      .limit(50);
    const now = house.now().toISOString();
    const [made] = await db
      .insert(evaluation)
      .values({
        id: body.id,
        personId: body.personId,
        classId: body.classId,
        unitId: body.unitId,
        packHash: pack.hash,
        trainerId: caller.id,
        purpose: body.purpose,
        conditions: body.conditions,
        earlierStarts: starts.map((each) => each.first!),
        holderId: caller.id,
        holderDevice: body.device,
        heldSince: now,
        phase: 'prepared',
        stillPlanted: [],
        createdAt: now,
      })
      .onConflictDoNothing()
      .returning();
    if (made) {
      await note(db, caller, 'evaluation-prepared', made.id, {
        purpose: made.purpose,
        personId: made.personId,
        classId: made.classId,
      });
      return made;
    }
    const [first] = await db.select().from(evaluation).where(eq(evaluation.id, body.id));
    return ownOrTaken(first!, caller, body);
  });
  return opened(house, caller, row);
}
