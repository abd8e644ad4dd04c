import type { RouteAnswer, RouteInput, RouteSpec } from '@rounds/contract';
import { unstorable } from '@rounds/core/text';
import express, {
  type NextFunction,
  type Request,
  type RequestHandler,
  type Response,
  type Router,
} from 'express';
import type { z } from 'zod';
import { type Caller, partyOf, type Principal } from '../accounts/access';
import { principalOf } from '../accounts/principal';
import type { House } from '../data/context';
import { ProblemError } from './problem';

/** A file answer. */
interface FileAnswer {
  file: Buffer | string;
  name: string;
}

/** Routes open to everybody, or to guests too, may have no account that calls. */
type CallerOf<R extends RouteSpec> = R['roles'] extends 'public'
  ? Caller | null
  : 'seat' extends R['roles'][number]
    ? Caller | null
    : Caller;
type Answer<R extends RouteSpec> = R['answer'] extends string ? FileAnswer : RouteAnswer<R>;

/**
 * What a route's handler gets: checked input, the caller, the house, the raw exchange for cookies, and a
 * signal that the caller has gone.
 */
interface Exchange<R extends RouteSpec> extends RouteInput<R> {
  caller: CallerOf<R>;
  /** Who calls, account or guest; null on public routes without either. */
  principal: Principal | null;
  house: House;
  request: Request;
  response: Response;
  gone: AbortSignal;
}

export type Handler<R extends RouteSpec> = (exchange: Exchange<R>) => Promise<Answer<R>>;

interface BindOptions {
  /**
   * Names the state of the data that the answer is made from; who has the answer of that state is not sent
   * it again.
   */
  version?: (house: House) => Promise<string>;
}

const BODY_LIMIT = 100_000;
/** Deepest nesting of a body; deeper ones serve only to exhaust the stack. */
const DEEPEST = 40;

/**
 * Refuses unsafe requests that another site's page started (browsers say so in Sec-Fetch-Site and Origin).
 */
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

function refuse(errors: { path: string; message: string }[]): never {
  const first = errors.slice(0, 5).map((each) => `${each.path}: ${each.message}`);
  throw new ProblemError('invalid', `Nothing was saved. ${first.join('; ')}`, errors.slice(0, 100));
}

function tooDeep(value: unknown, depth = 0): boolean {
  if (typeof value !== 'object' || value === null) return false;
  return depth >= DEEPEST || Object.values(value).some((each) => tooDeep(each, depth + 1));
}

function parse(
  schema: z.ZodType | undefined,
  value: unknown,
  where: string,
  files: readonly string[] = [],
): unknown {
  if (!schema) return undefined;
  if (tooDeep(value)) refuse([{ path: where, message: 'is nested too deeply' }]);
  const checked =
    files.length > 0 && typeof value === 'object'
      ? { ...value, ...Object.fromEntries(files.map((name) => [name, null])) }
      : value;
  const bad = unstorable(checked);
  if (bad !== null)
    refuse([
      {
        path: bad || where,
        message: 'contains a character that cannot be stored (a zero character or half of a pair)',
      },
    ]);
  const result = schema.safeParse(value);
  if (result.success) return result.data;
  refuse(
    result.error.issues.map((issue) => ({ path: issue.path.join('.') || where, message: issue.message })),
  );
}

/**
 * Lets a request in: from our own pages, by somebody whose party the route is open to. Every route, plain or
 * stream, account or guest, comes through here. Throws the problem that keeps it out.
 */
export async function enter(
  house: House,
  spec: RouteSpec,
  request: Request,
  response: Response,
): Promise<Principal | null> {
  if (spec.method !== 'GET' && !sameOrigin(request))
    throw new ProblemError('cross-site', 'This request came from another site and was not carried out.');
  const principal = await principalOf(house, request, response);
  if (spec.roles === 'public') return principal;
  // A guest's seat is no session: what is not open to guests is not there for them.
  if (!principal || (principal.kind === 'seat' && !spec.roles.includes('seat')))
    throw new ProblemError(
      'not-signed-in',
      'The session has ended. Sign in again; nothing sent so far is lost.',
    );
  const party = partyOf(principal);
  if (!spec.roles.includes(party))
    throw new ProblemError('forbidden', `This is not open to the role ${party}.`);
  return principal;
}

/** Checks the address and query of a request by its route's schemas. Throws the `invalid` problem. */
export function readAddress<R extends RouteSpec>(
  spec: R,
  request: Request,
): Pick<RouteInput<R>, 'params' | 'query'> {
  return {
    params: parse(spec.params, request.params, 'address') as RouteInput<R>['params'],
    query: parse(spec.query, request.query, 'query') as RouteInput<R>['query'],
  };
}

function readBody(reader: RequestHandler, request: Request, response: Response): Promise<void> {
  return new Promise((resolve, reject) => {
    void reader(request, response, (error?: unknown) => (error ? reject(error as Error) : resolve()));
  });
}

/**
 * Binds one route of the contract to its handler. Same-origin, session, role, body, validation, answer and
 * errors are handled here, once and in this order: nobody's body is read before it is known that they may
 * send it.
 */
export function bind<R extends RouteSpec>(
  router: Router,
  house: House,
  spec: R,
  handler: Handler<R>,
  options: BindOptions = {},
): void {
  const method = spec.method.toLowerCase() as 'get' | 'post' | 'put' | 'patch' | 'delete';
  const reader = spec.body ? express.json({ limit: spec.bodyLimit ?? BODY_LIMIT, strict: true }) : null;
  router[method](spec.path, async (request: Request, response: Response, next: NextFunction) => {
    const leaving = new AbortController();
    response.once('close', () => {
      if (!response.writableFinished) leaving.abort();
    });
    try {
      const principal = await enter(house, spec, request, response);
      if (reader) await readBody(reader, request, response);
      const input = {
        ...readAddress(spec, request),
        body: parse(spec.body, request.body ?? {}, 'body', spec.files),
      } as RouteInput<R>;
      if (options.version) {
        const tag = `W/"${await options.version(house)}"`;
        response.set({ etag: tag, 'cache-control': 'private, no-cache' });
        if (request.get('if-none-match') === tag) {
          response.status(304).end();
          return;
        }
      }
      const answer = await handler({
        ...input,
        caller: (principal?.kind === 'account' ? principal.account : null) as CallerOf<R>,
        principal,
        house,
        request,
        response,
        gone: leaving.signal,
      });
      if (response.headersSent) return;
      if (typeof spec.answer === 'string') {
        const { file, name } = answer as FileAnswer;
        response
          .type(spec.answer)
          .set('content-disposition', `inline; filename="${name}"`)
          .set('cache-control', 'private, no-store')
          .send(file);
      } else {
        if (!options.version) response.set('cache-control', 'no-store');
        response.json(answer);
      }
    } catch (error) {
      next(error);
    }
  });
}

/**
 * What may be logged of an error: its kind and where it came from; no message of the database, no
 * statement, no value.
 */
export function causeOf(error: unknown): object {
  if (!(error instanceof Error)) return { kind: typeof error };
  const cause = (error.cause instanceof Error ? error.cause : error) as Error & {
    code?: string;
    table?: string;
    constraint?: string;
    routine?: string;
  };
  const { name, code, table, constraint, routine } = cause;
  const frames = (error.stack ?? '').split('\n').filter((line) => /^\s+at /.test(line));
  return {
    kind: name,
    code,
    table,
    constraint,
    routine,
    frames: frames.slice(0, 12).map((line) => line.trim()),
  };
}

const refusedBodies: Readonly<
  Record<string, [code: 'too-large' | 'invalid' | 'unsupported', detail: string]>
> = {
  'entity.too.large': ['too-large', 'What was sent is larger than this route takes. Nothing was saved.'],
  'entity.parse.failed': ['invalid', 'What was sent is not readable JSON. Nothing was saved.'],
  'encoding.unsupported': [
    'unsupported',
    'The content encoding of what was sent is not read here. Nothing was saved.',
  ],
  'charset.unsupported': [
    'unsupported',
    'The character set of what was sent is not read here; send UTF-8. Nothing was saved.',
  ],
};

function problemOf(error: unknown): ProblemError | null {
  if (error instanceof ProblemError) return error;
  const { type, status } = error as { type?: string; status?: number };
  const known = refusedBodies[type ?? ''];
  if (known) return new ProblemError(...known);
  if (error instanceof URIError || status === 404)
    return new ProblemError('not-found', 'There is nothing at this address.');
  if (status !== undefined && status >= 400 && status < 500)
    return new ProblemError('invalid', 'What was sent is not readable. Nothing was saved.');
  return null;
}

/** Turns any error into problem+json; unknown ones are logged and told apart only by their code. */
export function problemHandler(log: (cause: object) => void) {
  return (error: unknown, _request: Request, response: Response, next: NextFunction): void => {
    if (response.headersSent) return next(error);
    let found = problemOf(error);
    if (!found) {
      log(causeOf(error));
      found = new ProblemError(
        'unexpected',
        'The server could not finish this and saved nothing of it. Try again; if it stays, ' +
          'tell the administrator.',
      );
    }
    response
      .status(found.problem.status)
      .type('application/problem+json')
      .send(JSON.stringify(found.problem));
  };
}
