import type { RouteInput, StreamSpec } from '@rounds/contract';
import type { NextFunction, Request, Response, Router } from 'express';
import { partyOf, type Principal } from '../accounts/access';
import { principalNow } from '../accounts/principal';
import { leftTopic } from '../accounts/sessions';
import type { House } from '../data/context';
import { enter, readAddress } from './binder';
import { ProblemError } from './problem';

/** What a stream tells: a topic, as it is announced. */
interface Source {
  topic: string;
  /** The event for who listens, or null where it is nothing to them; the data itself when absent. */
  shape?: (data: unknown, principal: Principal | null) => unknown;
}

interface StreamExchange<R extends StreamSpec> extends Pick<RouteInput<R>, 'params' | 'query'> {
  principal: Principal | null;
}

/** A browser takes a broken stream up again after this many milliseconds. */
const RETRY = 2000;
/** Streams that one principal may have open, over all their tabs and devices. */
const MOST_STREAMS = 12;
/** Bytes that may wait for a slow reader before the stream is ended; the reader takes it up again. */
const MOST_WAITING = 1_000_000;

const open = new WeakMap<House, Map<string, number>>();

function count(house: House, key: string, by: 1 | -1): number {
  const counts = open.get(house) ?? new Map<string, number>();
  open.set(house, counts);
  const now = (counts.get(key) ?? 0) + by;
  if (now > 0) counts.set(key, now);
  else counts.delete(key);
  return now;
}

const keyOf = (principal: Principal | null, request: Request) => {
  if (principal?.kind === 'account') return principal.account.id;
  return principal?.kind === 'seat' ? principal.seat.id : (request.ip ?? 'unknown');
};

function lastHeard(request: Request): number | null {
  const told = request.get('last-event-id') ?? '';
  return /^\d{1,15}$/.test(told) ? Number(told) : null;
}

/**
 * Binds an event stream of the contract. Who listens is let in as on every route; the stream is sent as it
 * happens and uncompressed, with a heartbeat, from the last event that the listener had, and ends with the
 * session: `end` tells the browser not to come back.
 */
export function bindStream<R extends StreamSpec>(
  router: Router,
  house: House,
  spec: R,
  source: (exchange: StreamExchange<R>) => Promise<Source>,
): void {
  router.get(spec.path, async (request: Request, response: Response, next: NextFunction) => {
    try {
      const principal = await enter(house, spec, request, response);
      const { topic, shape } = await source({ ...readAddress(spec, request), principal });
      const key = keyOf(principal, request);
      if (count(house, key, 1) > MOST_STREAMS) {
        count(house, key, -1);
        throw new ProblemError(
          'busy',
          'Too many windows listen at once. Close some and load this one again.',
        );
      }
      try {
        await stream(house, spec, { topic, ...(shape ? { shape } : {}) }, principal, request, response);
      } finally {
        count(house, key, -1);
      }
    } catch (error) {
      next(error);
    }
  });
}

/** Sends a topic to one listener until they go, their session ends or the server stops. */
async function stream(
  house: House,
  spec: StreamSpec,
  { topic, shape = (data) => data }: Source,
  principal: Principal | null,
  request: Request,
  response: Response,
): Promise<void> {
  const gone = new Promise<void>((resolve) => response.once('close', resolve));
  response.writeHead(200, {
    'content-type': 'text/event-stream; charset=utf-8',
    // Compressing would hold events back.
    'cache-control': 'no-store, no-transform',
    'x-accel-buffering': 'no',
  });
  const send = (text: string) => {
    if (response.writableEnded || response.destroyed) return;
    response.write(text);
    if (response.writableLength > MOST_WAITING) response.destroy();
  };
  const { from, stop } = await house.hub.listen(topic, lastHeard(request), ({ id, data }) => {
    const event = shape(data, principal);
    if (event === null) return;
    const checked = spec.event.safeParse(event);
    if (checked.success) send(`id: ${id}\ndata: ${JSON.stringify(checked.data)}\n\n`);
  });
  // The place to go on from is known before anything has happened.
  send(`retry: ${RETRY}\nid: ${from}\nevent: ready\ndata: {}\n\n`);
  const forget = house.hub.whenClosed(() => response.end());
  const look = async () => {
    if (!(await isOver(house, spec, principal))) return;
    send('event: end\ndata: {}\n\n');
    response.end();
  };
  const left =
    principal?.kind === 'account'
      ? await house.hub.listen(leftTopic(principal.account.id), null, () => void look())
      : null;
  const beat = setInterval(() => {
    send(': here\n\n');
    void look();
  }, house.heartbeat);
  await gone;
  clearInterval(beat);
  forget();
  left?.stop();
  stop();
}

/** Whether whoever listens may no longer: signed out, closed, or without their role. */
async function isOver(house: House, spec: StreamSpec, principal: Principal | null): Promise<boolean> {
  if (spec.roles === 'public' || !principal) return false;
  try {
    const now = await principalNow(house, principal);
    return now === null || !spec.roles.includes(partyOf(now));
  } catch {
    // The database is away for a moment; the next heartbeat asks again.
    return false;
  }
}
