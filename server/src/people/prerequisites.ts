import type { RouteAnswer, RouteInput, certificationRoutes as routes } from '@rounds/contract';
import { missingBeforeEvaluation } from '@rounds/core/certification';
import type { Caller } from '../accounts/access';
import { eventsByPerson, readRules } from '../certification/standings';
import { type House, siteToday } from '../data/context';
import { personOr404 } from './roster';

type Asked = RouteInput<typeof routes.prerequisites>;

/** What the rules of a person's site ask for in a class beside the evaluation, and is not on record today. */
export async function prerequisites(
  house: House,
  { id }: Asked['params'],
  { classId }: Asked['query'],
  caller: Caller,
): Promise<RouteAnswer<typeof routes.prerequisites>> {
  const who = await personOr404(house, caller, id);
  const events = (await eventsByPerson(house.db, [id])).get(id)?.get(classId) ?? [];
  const rules = (await readRules(house.db)).of(who.site, classId);
  return { missing: missingBeforeEvaluation(events, rules, await siteToday(house)) };
}
