import type { RouteInput, routes } from '@rounds/contract';
import { eq } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import type { Caller } from '../accounts/access';
import type { House } from '../data/context';
import { evaluation } from '../data/schema';
import { evaluationOr404, refuseOwn } from './access';
import { holderOf } from './openEvaluation';
import { appendWithin, dayOf } from './stream';

type Asked = RouteInput<typeof routes.holdEvaluation>;

/** Holds an evaluation for writing on a device, or takes it over with a reason. */
export async function holdEvaluation(
  house: House,
  params: Asked['params'],
  body: Asked['body'],
  caller: Caller,
) {
  refuseOwn(caller, await evaluationOr404(house, caller, params.id));
  const now = house.now().toISOString();
  const day = await dayOf(house);
  return house.db.transaction(async (db) => {
    const [row] = await db.select().from(evaluation).where(eq(evaluation.id, params.id)).for('update');
    const mine =
      row!.holderDevice === null || (row!.holderDevice === body.device && row!.holderId === caller.id);
    if (!mine && !body.takeOver) return { held: false, holder: (await holderOf(db, row!))! };
    if (!mine && row!.phase !== 'closed')
      await appendWithin(db, house, day, caller, row!, 'server', [
        { id: uuidv7(), at: now, body: { kind: 'taken-over', reason: body.takeOver! } },
      ]);
    await db
      .update(evaluation)
      .set({ holderId: caller.id, holderDevice: body.device, heldSince: now })
      .where(eq(evaluation.id, row!.id));
    return { held: true, holder: { name: caller.name, device: body.device, since: now } };
  });
}
