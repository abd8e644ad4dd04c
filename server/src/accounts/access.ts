import type { Account, Party, Role } from '@rounds/contract';
import { eq, sql } from 'drizzle-orm';
import { person } from '../data/schema';

/** The account that calls a route. */
export interface Caller extends Account {
  role: Role;
}

/** A guest at a seat of a room: no account, no role, and only what belongs to that room. */
export interface Seat {
  id: string;
  room: string;
  name: string;
}

/** Who sends a request. `session` is the session that the account came by. */
export type Principal = { kind: 'account'; account: Caller; session: string } | { kind: 'seat'; seat: Seat };

/** The account of a principal. Throws where a guest came to a route that is not for guests. */
export function accountOf(principal: Principal | null): Caller {
  if (principal?.kind !== 'account') throw new Error('this route is for accounts only');
  return principal.account;
}

/** The party that a route's roles name. */
export function partyOf(principal: Principal): Party {
  return principal.kind === 'seat' ? 'seat' : principal.account.role;
}

/** Whether somebody may come into a room: guests into their own, trainers into every one. */
export function mayEnter(principal: Principal, room: string): boolean {
  if (principal.kind === 'seat') return principal.seat.room === room;
  return principal.account.role === 'trainer' || principal.account.role === 'administrator';
}

/**
 * Whether a caller may see a person: operators themselves, supervisors their team, trainers and
 * administrators everybody.
 */
export function maySee(caller: Caller, who: { id: string; team: string }): boolean {
  const all: readonly Role[] = ['trainer', 'administrator'];
  if (all.includes(caller.role)) return true;
  if (caller.role === 'supervisor') return caller.team !== null && caller.team === who.team;
  return caller.role === 'operator' && caller.personId === who.id;
}

/** Which people a caller may list. `nobody` is what an account without its team or person sees. */
export type Scope = 'everybody' | 'nobody' | { team: string } | { personId: string };

export function scopeOf(caller: Caller): Scope {
  if (caller.role === 'trainer' || caller.role === 'administrator') return 'everybody';
  if (caller.role === 'supervisor' && caller.team !== null) return { team: caller.team };
  if (caller.role === 'operator' && caller.personId !== null) return { personId: caller.personId };
  return 'nobody';
}

/** A scope as a condition on the person table. */
export function withinScope(scope: Scope) {
  if (scope === 'everybody') return undefined;
  if (scope === 'nobody') return sql`false`;
  return 'team' in scope ? eq(person.team, scope.team) : eq(person.id, scope.personId);
}
