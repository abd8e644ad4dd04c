import { routes } from '@rounds/contract';
import type { Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { bind } from '../house/binder';
import { note, rulesOn, siteToday, type House } from '../house/context';
import { ruleSetRow } from '../house/schema';

/** Routes of the certification rules. */
export function certificationRoutes(router: Router, house: House): void {
  bind(router, house, routes.rules, async () => rulesOn(house.db, await siteToday(house)));
  bind(router, house, routes.setRules, async ({ body, caller }) => {
    await house.db.insert(ruleSetRow).values({ id: uuidv7(), effectiveFrom: body.effectiveFrom, body: body.rules, accountId: caller.id });
    await note(house.db, caller, 'rules-set', body.effectiveFrom, body.rules);
    return { done: true as const };
  });
}
