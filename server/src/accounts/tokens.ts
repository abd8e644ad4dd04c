import { createHash, randomBytes } from 'node:crypto';
import type { Request } from 'express';

/** A new secret for a cookie: 32 random bytes as base64url. */
export const newToken = () => randomBytes(32).toString('base64url');

/** What is kept of a token: it can be known again and not be given out. */
export const hashOf = (token: string) => createHash('sha256').update(token).digest('hex');

/** The token of a cookie of ours that a request brings; null without one, or with what is none of ours. */
export function cookieToken(request: Request, cookie: string): string | null {
  for (const part of (request.headers.cookie ?? '').split(';')) {
    const [name, ...rest] = part.trim().split('=');
    if (name === cookie) return /^[\w-]{20,100}$/.exec(rest.join('='))?.[0] ?? null;
  }
  return null;
}
