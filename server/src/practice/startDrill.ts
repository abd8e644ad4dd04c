import { randomInt } from 'node:crypto';
import type { DrillView, RouteInput, routes } from '@rounds/contract';
import { caseItem, dealDrill, possibleCases } from '@rounds/core/drill';
import { and, desc, eq, isNotNull } from 'drizzle-orm';
import type { Caller } from '../accounts/access';
import { packOrProblem } from '../classes/packs';
import { type House, note, siteToday } from '../data/context';
import { retiredItems } from '../data/itemReviews';
import { drill } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';
import { drillView, ownDrill } from './drillViews';
import { composedFor, learnerOf, weightsFor } from './learner';
import { readDrill } from './stream';

type Asked = RouteInput<typeof routes.startDrill>['body'];

/** Deals a drill, or answers with the same one that was dealt before. */
export async function startDrill(house: House, body: Asked, caller: Caller): Promise<DrillView> {
  const [existing] = await house.db.select({ id: drill.id }).from(drill).where(eq(drill.id, body.id));
  if (!existing) {
    const who = await learnerOf(house, caller, body.personId);
    const pack = await packOrProblem(house.db, body.classId);
    const now = house.now().toISOString();
    const today = await siteToday(house);
    await house.db.transaction(async (db) => {
      const effective = await composedFor(db, pack, body.variant, who, today);
      if (body.form === 'station' && !effective.checkpoints.some((each) => each.station === body.station))
        throw new ProblemError('drill-act', 'There is nothing to check at that station with this machine.');
      const deal = dealDrill(effective, {
        form: body.form,
        seed: randomInt(2 ** 31),
        station: body.form === 'station' ? body.station : null,
        without: await retiredItems(db, pack.id),
        ...(who
          ? {
              weights: await weightsFor(db, who.id, pack.id, possibleCases(effective).map(caseItem), now),
            }
          : {}),
      });
      if (deal.cases.length === 0)
        throw new ProblemError('drill-act', 'Everything there is under review and not dealt just now.');
      const starts = who
        ? await db
            .select({ first: drill.firstStation })
            .from(drill)
            .where(
              and(
                eq(drill.personId, who.id),
                eq(drill.classId, pack.id),
                eq(drill.form, 'round'),
                isNotNull(drill.firstStation),
              ),
            )
            .orderBy(desc(drill.startedAt))
            .limit(50)
        : [];
      const made = await db
        .insert(drill)
        .values({
          id: body.id,
          personId: who?.id ?? null,
          accountId: caller.id,
          classId: pack.id,
          packHash: effective.hash,
          form: body.form,
          deal,
          earlierStarts: starts.map((each) => each.first!),
          startedAt: now,
        })
        .onConflictDoNothing()
        .returning({ id: drill.id });
      if (made.length > 0)
        await note(db, caller, 'drill-started', body.id, {
          personId: who?.id ?? null,
          classId: pack.id,
          form: body.form,
        });
    });
  }
  return drillView(house, await readDrill(house.db, await ownDrill(house, caller, body.id)));
}
