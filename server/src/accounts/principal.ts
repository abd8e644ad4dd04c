import type { Request, Response } from 'express';
import type { House } from '../data/context';
import type { Principal } from './access';
import { seatNow, seatOf } from './seats';
import { callerOf, sessionNow } from './sessions';

/** Who sends a request: an account with a live session, else a guest at a seat, else nobody. */
export async function principalOf(
  house: House,
  request: Request,
  response: Response,
): Promise<Principal | null> {
  const signedIn = await callerOf(house, request, response);
  if (signedIn) return { kind: 'account', ...signedIn };
  const seat = await seatOf(house, request);
  return seat && { kind: 'seat', seat };
}

/** A principal as they are now, for what lasts longer than a request; null once they may no longer. */
export async function principalNow(house: House, before: Principal): Promise<Principal | null> {
  if (before.kind === 'seat') {
    const seat = await seatNow(house, before.seat.id);
    return seat && { kind: 'seat', seat };
  }
  const signedIn = await sessionNow(house, before.session);
  return signedIn && { kind: 'account', ...signedIn };
}
