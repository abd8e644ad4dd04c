import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Express } from 'express';

/** A server that listens; `stop` finishes running requests first. */
export interface Listening {
  address: string;
  port: number;
  stop: () => Promise<void>;
}

/**
 * How long an idle connection is kept, milliseconds: longer than the caller or a proxy before us keeps it, so
 * that it is theirs to close and no request meets a connection that is just being closed.
 */
const KEEP_ALIVE = 65_000;

/** Listens on the port, or the next free one up to ten further when `orNext`. */
export async function listen(
  app: Express,
  port: number,
  orNext: boolean,
  host = '127.0.0.1',
): Promise<Listening> {
  for (let attempt = 0; ; attempt++) {
    const server = createServer({ keepAliveTimeout: KEEP_ALIVE, headersTimeout: KEEP_ALIVE + 1000 }, app);
    try {
      await new Promise<void>((resolve, reject) => {
        server.once('error', reject);
        server.listen(port === 0 ? 0 : port + attempt, host, resolve);
      });
      const { port: actual } = server.address() as AddressInfo;
      return { address: `http://${host}:${actual}`, port: actual, stop: () => stop(server) };
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE' || !orNext || attempt >= 20) throw error;
    }
  }
}

function stop(server: Server): Promise<void> {
  return new Promise((resolve) => {
    server.close(() => resolve());
    server.closeIdleConnections();
    setTimeout(() => server.closeAllConnections(), 5000).unref();
  });
}
