import { todayRoutes as routes } from '@rounds/contract';
import type { Router } from 'express';
import type { House } from '../data/context';
import { bind } from '../http/binder';
import { morning } from './morning';

/** Routes of the morning overview. */
export function todayRoutes(router: Router, house: House): void {
  bind(router, house, routes.today, ({ caller }) => morning(house, caller));
}
