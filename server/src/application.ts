import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { changeRoutes } from '@rounds/contract/changes';
import { openApiDocument } from '@rounds/contract/openapi';
import compression from 'compression';
import { sql } from 'drizzle-orm';
import express, { Router, type Express } from 'express';
import helmet from 'helmet';
import { type Logger, pino } from 'pino';
import { pinoHttp } from 'pino-http';
import { accountRoutes } from './accounts/routes';
import { assessRoutes } from './assess/routes';
import { certificationRoutes } from './certification/routes';
import { classRoutes } from './classes/routes';
import { CHANGES, type House } from './data/context';
import { calibrationRoutes } from './calibration/routes';
import { insightRoutes } from './insight/routes';
import { exerciseRoutes } from './exercise/routes';
import { problemHandler } from './http/binder';
import { controlRoutes, fromThisComputer } from './http/control';
import { ProblemError } from './http/problem';
import { bindStream } from './http/stream';
import { jobRoutes } from './jobs/routes';
import { machineRoutes } from './machines/routes';
import { peopleRoutes } from './people/routes';
import { practiceRoutes } from './practice/routes';
import { teachRoutes } from './teach/routes';
import { todayRoutes } from './today/routes';

/**
 * Builds the HTTP application: API, OpenAPI document, health, metrics, and the built web app when `webRoot`
 * has it.
 */
export function application(house: House, options: { webRoot: string | null; log?: Logger }): Express {
  const log = options.log ?? pino({ level: 'silent' });
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', 'loopback');
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          fontSrc: ["'self'"],
          connectSrc: ["'self'"],
          workerSrc: ["'self'"],
          objectSrc: ["'none'"],
          frameAncestors: ["'none'"],
          upgradeInsecureRequests: null,
        },
      },
      strictTransportSecurity: false,
      crossOriginOpenerPolicy: { policy: 'same-origin' },
    }),
  );
  // Names, bodies, queries and card tokens stay out of the log.
  app.use(
    pinoHttp({
      logger: log,
      serializers: {
        req: (request: { method: string; url: string }) => ({
          method: request.method,
          path: request.url.split('?')[0]!.replace(/(verify|certificates)\/[^/]+/, '$1/…'),
        }),
        res: (response: { statusCode: number }) => ({ status: response.statusCode }),
      },
    }),
  );
  app.use(compression());
  let requests = 0;
  const begun = Date.now();
  app.use((_request, _response, next) => {
    requests += 1;
    next();
  });
  app.get('/healthz', async (_request, response) => {
    try {
      await house.db.execute(sql`select 1`);
      response.json({ healthy: true });
    } catch {
      response.status(503).json({ healthy: false });
    }
  });
  controlRoutes(app, house);
  app.get('/metrics', (request, response, next) => {
    const token =
      house.metricsToken !== null && request.get('authorization') === `Bearer ${house.metricsToken}`;
    if (!token && !fromThisComputer(request))
      return next(new ProblemError('not-found', 'There is nothing at this address.'));
    const { heapUsed, rss } = process.memoryUsage();
    response.type('text/plain; version=0.0.4').send(
      [
        ['rounds_requests_total', requests],
        ['rounds_uptime_seconds', Math.round((Date.now() - begun) / 1000)],
        ['process_heap_bytes', heapUsed],
        ['process_resident_memory_bytes', rss],
      ]
        .map(([name, value]) => `${name} ${value}\n`)
        .join(''),
    );
  });
  const api = Router();
  api.get('/openapi.json', (_request, response) => void response.json(openApiDocument()));
  accountRoutes(api, house);
  peopleRoutes(api, house);
  practiceRoutes(api, house);
  teachRoutes(api, house);
  exerciseRoutes(api, house);
  calibrationRoutes(api, house);
  insightRoutes(api, house);
  classRoutes(api, house);
  certificationRoutes(api, house);
  assessRoutes(api, house);
  machineRoutes(api, house);
  todayRoutes(api, house);
  jobRoutes(api, house);
  bindStream(api, house, changeRoutes.changes, async () => ({ topic: CHANGES }));
  api.use((_request, _response, next) =>
    next(new ProblemError('not-found', 'There is nothing at this address.')),
  );
  app.use('/api', api);
  if (options.webRoot && existsSync(join(options.webRoot, 'index.html'))) {
    const root = options.webRoot;
    app.use(
      '/assets',
      express.static(join(root, 'assets'), { immutable: true, maxAge: '1y', index: false, redirect: false }),
    );
    // A file of an earlier build that is gone; the page itself would be a wrong answer to it.
    app.use('/assets', (_request, _response, next) =>
      next(
        new ProblemError('not-found', 'This file belongs to another version of Rounds. Load the page again.'),
      ),
    );
    app.use(express.static(root, { maxAge: 0, index: false, redirect: false }));
    app.get('/{*path}', (_request, response) => {
      response.set('cache-control', 'no-cache').sendFile('index.html', { root });
    });
  }
  app.use(problemHandler((cause) => log.error({ cause }, 'unexpected')));
  return app;
}
