import type { Role, RouteAnswer, RouteInput, RouteSpec } from '@rounds/contract';
import express, { type NextFunction, type Request, type Response, type Router } from 'express';
import type { z } from 'zod';
import { callerOf } from '../accounts/sessions';
import type { Caller, House } from './context';
import { ProblemError } from './problem';

/** A file answer. */
interface FileAnswer {
  file: Buffer | string;
  name: string;
}

type CallerOf<R extends RouteSpec> = R['roles'] extends 'public' ? Caller | null : Caller;
type Answer<R extends RouteSpec> = R['answer'] extends string ? FileAnswer : RouteAnswer<R>;

/** What a route's handler gets: checked input, the caller, the house, and the raw exchange for cookies. */
interface Exchange<R extends RouteSpec> extends RouteInput<R> {
  caller: CallerOf<R>;
  house: House;
  request: Request;
  response: Response;
}

export type Handler<R extends RouteSpec> = (exchange: Exchange<R>) => Promise<Answer<R>>;

/** Refuses unsafe requests that another site's page started (browsers say so in Sec-Fetch-Site and Origin). */
function sameOrigin(request: Request): boolean {
  const site = request.get('sec-fetch-site');
  if (site && site !== 'same-origin' && site !== 'none') return false;
  const origin = request.get('origin');
  if (!origin) return true;
  try {
    return new URL(origin).host === request.get('host');
  } catch {
    return false;
  }
}

function parse(schema: z.ZodType | undefined, value: unknown, where: string): unknown {
  if (!schema) return undefined;
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  throw new ProblemError(
    'invalid',
    `Nothing was saved. ${result.error.issues
      .map((issue) => `${issue.path.join('.') || where}: ${issue.message}`)
      .slice(0, 5)
      .join('; ')}`,
    result.error.issues.map((issue) => ({ path: issue.path.join('.'), message: issue.message })),
  );
}

/** Binds one route of the contract to its handler: body limit, same-origin, session, role, validation, answer and errors are handled here, once. */
export function bind<R extends RouteSpec>(router: Router, house: House, spec: R, handler: Handler<R>): void {
  const method = spec.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
  const limit = spec.bodyLimit ?? 1_000_000;
  const body = express.json({ limit, strict: true });
  router[method](spec.path, body, async (request: Request, response: Response, next: NextFunction) => {
    try {
      if (spec.method !== 'GET' && !sameOrigin(request)) throw new ProblemError('cross-site', 'This request came from another site and was not carried out.');
      const caller = await callerOf(house, request, response);
      if (spec.roles !== 'public') {
        if (!caller) throw new ProblemError('not-signed-in', 'The session has ended. Sign in again; nothing sent so far is lost.');
        if (!(spec.roles as readonly Role[]).includes(caller.role)) throw new ProblemError('forbidden', `This is not open to the role ${caller.role}.`);
      }
      const input = {
        params: parse(spec.params, request.params, 'address'),
        query: parse(spec.query, request.query, 'query'),
        body: parse(spec.body, request.body ?? {}, 'body'),
      } as RouteInput<R>;
      const answer = await handler({ ...input, caller: caller as CallerOf<R>, house, request, response });
      if (typeof spec.answer === 'string') {
        const { file, name } = answer as FileAnswer;
        response.type(spec.answer).set('content-disposition', `inline; filename="${name}"`).set('cache-control', 'private, no-store').send(file);
      } else {
        response.set('cache-control', 'no-store').json(answer);
      }
    } catch (error) {
      next(error);
    }
  });
}

/** Turns any error into problem+json; unknown ones are logged and told apart only by their code. */
export function problemHandler(log: (error: unknown) => void) {
  return (error: unknown, _request: Request, response: Response, next: NextFunction): void => {
    if (response.headersSent) return next(error);
    let problem: ProblemError;
    const kind = (error as { type?: string }).type;
    if (error instanceof ProblemError) problem = error;
    else if (kind === 'entity.too.large') problem = new ProblemError('too-large', 'What was sent is larger than this route takes. Nothing was saved.');
    else if (kind === 'entity.parse.failed') problem = new ProblemError('invalid', 'What was sent is not readable JSON. Nothing was saved.');
    else if (error instanceof URIError) problem = new ProblemError('not-found', 'There is nothing at this address.');
    else {
      log(error);
      problem = new ProblemError('unexpected', 'The server could not finish this and saved nothing of it. Try again; if it stays, tell the administrator.');
    }
    response.status(problem.problem.status).type('application/problem+json').send(JSON.stringify(problem.problem));
  };
}
