import type { RouteAnswer, RouteInput, routes } from '@rounds/contract';
import { dealDrill, doActs, DrillActError, drillResult } from '@rounds/core/drill';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import type { Caller } from '../accounts/access';
import { effectivePackOf, packOrProblem } from '../classes/packs';
import { type House, note, siteToday } from '../data/context';
import { person } from '../data/schema';
import { drill, drillActRow } from '../data/teachingSchema';
import { ProblemError } from '../http/problem';
import { composedFor } from './learner';

type Kept = RouteInput<typeof routes.keptClass>;
type Brought = RouteInput<typeof routes.bringDrill>['body'];

/** Two scores that the same acts come to, worked out on two machines. */
const SAME_SCORE = 1e-6;

/** A class as the caller practises it, to keep on their device. */
export async function keptClass(
  house: House,
  { params, query }: Pick<Kept, 'params' | 'query'>,
  caller: Caller,
): Promise<RouteAnswer<typeof routes.keptClass>> {
  const pack = await packOrProblem(house.db, params.id);
  const [who] = caller.personId
    ? await house.db.select({ site: person.site }).from(person).where(eq(person.id, caller.personId))
    : [];
  const today = await siteToday(house);
  return {
    pack: await house.db.transaction((db) => composedFor(db, pack, query.variant, who ?? null, today)),
  };
}

/**
 * Takes in a drill that was made without a network. Nothing of it is believed: the machine is dealt anew from the seed,
 * the acts are done anew, and what they come to must be what the device showed. It joins the record of the account's own
 * person as what it is, and counts for nothing: no readiness, no spacing. Sent again, it is answered as it was.
 */
export async function bringDrill(
  house: House,
  body: Brought,
  caller: Caller,
): Promise<RouteAnswer<typeof routes.bringDrill>> {
  const [existing] = await house.db.select().from(drill).where(eq(drill.id, body.id));
  if (existing) {
    if (existing.accountId !== caller.id || !existing.offline || !existing.result)
      throw new ProblemError('not-found', 'There is no such drill, or it is not yours.');
    return { id: existing.id, score: existing.result.score };
  }
  const refuse = (why: string) => new ProblemError('drill-act', `${why} Nothing was recorded.`);
  const pack = await effectivePackOf(house.db, body.packHash);
  if (body.form === 'station' && !pack.checkpoints.some((each) => each.station === body.station))
    throw refuse('There is nothing to check at that station with this machine.');
  const deal = dealDrill(pack, { form: body.form, seed: body.seed, station: body.station });
  if (body.acts.at(-1)!.kind !== 'end') throw refuse('This drill has not ended.');
  try {
    doActs(pack, deal, body.acts);
  } catch (error) {
    if (error instanceof DrillActError) throw refuse(error.message);
    throw error;
  }
  const result = drillResult(pack, deal, body.acts);
  if (Math.abs(result.score - body.score) > SAME_SCORE)
    throw refuse('These acts come to another score than the one sent with them.');
  const now = house.now().toISOString();
  const today = await siteToday(house);
  await house.db.transaction(async (db) => {
    const made = await db
      .insert(drill)
      .values({
        id: body.id,
        personId: caller.personId,
        accountId: caller.id,
        classId: pack.id,
        packHash: body.packHash,
        form: body.form,
        deal,
        earlierStarts: [],
        // A device's clock may be wrong; what is recorded never lies ahead.
        startedAt: body.startedAt < now ? body.startedAt : now,
        endedAt: now,
        endedOn: today,
        result,
        offline: true,
      })
      .onConflictDoNothing()
      .returning({ id: drill.id });
    if (made.length === 0) return;
    await db
      .insert(drillActRow)
      .values(body.acts.map((act) => ({ id: uuidv7(), drillId: body.id, at: now, body: act })));
    await note(db, caller, 'drill-brought', body.id, {
      personId: caller.personId,
      classId: pack.id,
      score: Math.round(result.score),
    });
  });
  return { id: body.id, score: result.score };
}
