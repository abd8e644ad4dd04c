import { insightRoutes as routes } from '@rounds/contract';
import type { Router } from 'express';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import { insight } from './insight';
import { listScrutiny, reviewItem } from './items';

/** Routes of insight: what is missed, who grades how, and items under scrutiny. */
export function insightRoutes(router: Router, house: House): void {
  bind(router, house, routes.insight, ({ query, caller }) => insight(house, query, caller));
  bind(router, house, routes.scrutiny, ({ query }) => listScrutiny(house, query));
  bind(router, house, routes.reviewItem, async ({ body, caller }) => {
    await reviewItem(house, body, caller);
    return { done: true } as const;
  });
}
