import { timingSafeEqual } from 'node:crypto';
import { isIP } from 'node:net';
import type { Express, Request } from 'express';
import type { House } from '../data/context';
import { ProblemError } from './problem';

/** Whether a request comes from this computer itself, not through a proxy for somebody else. */
export function fromThisComputer(request: Request): boolean {
  const address = request.ip ?? '';
  return isIP(address) !== 0 && (address === '::1' || /^(::ffff:)?127\./.test(address));
}

function holdsSecret(request: Request, secret: string): boolean {
  const [given, wanted] = [Buffer.from(request.get('x-rounds-control') ?? ''), Buffer.from(secret)];
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}

/**
 * What a command on this computer asks of the running server, with the secret that stands in the data
 * directory.
 */
export function controlRoutes(app: Express, house: House): void {
  app.post('/control/backup', async (request, response, next) => {
    if (!fromThisComputer(request) || !holdsSecret(request, house.controlSecret) || !house.store.backup)
      return next(new ProblemError('not-found', 'There is nothing at this address.'));
    try {
      response.json({ file: await house.store.backup('asked') });
    } catch (error) {
      response.status(500).json({ detail: error instanceof Error ? error.message : String(error) });
    }
  });
}
