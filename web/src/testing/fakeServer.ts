import { type ProblemCode, PROBLEMS } from '@rounds/contract/problems';
import { problemSchema, type RouteAnswer, type RouteSpec } from '@rounds/contract/route';
import { vi } from 'vitest';
import { z } from 'zod';

/** What a screen asked of the pretended server. */
export interface Asked {
  params: Record<string, string>;
  query: Record<string, string>;
  body: unknown;
}
type Answering<R extends RouteSpec> = (asked: Asked) => RouteAnswer<R> | Promise<RouteAnswer<R>>;

/** Thrown by an answer: the server refuses with this problem. */
export class Refusal extends Error {
  constructor(
    readonly code: ProblemCode,
    readonly detail: string,
    readonly errors?: { path: string; message: string }[],
  ) {
    super(detail);
  }
}

interface Bound {
  spec: RouteSpec;
  pattern: RegExp;
  names: string[];
  answer: (asked: Asked) => unknown;
}

/**
 * A server for components: it answers the routes it is told to, and only with what their contract allows,
 * both ways. A request to any other route fails the test.
 */
export function fakeServer() {
  const bound: Bound[] = [];
  const log: { route: string; asked: Asked }[] = [];
  const unknown: string[] = [];
  let offline = false;

  async function respond(input: RequestInfo | URL, init: RequestInit = {}): Promise<Response> {
    if (offline) throw new TypeError('no network');
    const url = new URL(String(input), 'http://server');
    const method = init.method ?? 'GET';
    const path = url.pathname.replace(/^\/api/, '');
    // The newest answer of a route counts.
    const found = [...bound].reverse().find((each) => each.spec.method === method && each.pattern.test(path));
    if (!found) {
      unknown.push(`${method} ${path}`);
      return problem(new Refusal('not-found', `no answer was given for ${method} ${path}`));
    }
    const { spec } = found;
    const values = found.pattern.exec(path)!.slice(1).map(decodeURIComponent);
    const asked: Asked = {
      params: Object.fromEntries(found.names.map((name, i) => [name, values[i]!])),
      query: Object.fromEntries(url.searchParams),
      body: init.body === undefined ? undefined : (JSON.parse(String(init.body)) as unknown),
    };
    const refusal = misfit(spec, asked);
    if (refusal) return problem(refusal);
    log.push({ route: `${spec.method} ${spec.path}`, asked });
    try {
      const answer = await found.answer(asked);
      return json(typeof spec.answer === 'string' ? answer : spec.answer.parse(answer), 200);
    } catch (error) {
      if (error instanceof Refusal) return problem(error);
      throw error;
    }
  }
  vi.stubGlobal('fetch', respond);

  return {
    /** Answers a route from now on. */
    answer<R extends RouteSpec>(spec: R, answer: Answering<R> | RouteAnswer<R>): void {
      const names = [...spec.path.matchAll(/:(\w+)/g)].map((each) => each[1]!);
      const pattern = new RegExp(`^${spec.path.replace(/:(\w+)/g, '([^/]+)')}$`);
      const given = typeof answer === 'function' ? (answer as (asked: Asked) => unknown) : () => answer;
      bound.push({ spec, pattern, names, answer: given });
    },
    /** What was asked of a route, oldest first. */
    asked(spec: RouteSpec): Asked[] {
      const route = `${spec.method} ${spec.path}`;
      return log.filter((each) => each.route === route).map((each) => each.asked);
    },
    /** Requests that no answer was given for. */
    unknown,
    goOffline: (now: boolean) => (offline = now),
  };
}
export type FakeServer = ReturnType<typeof fakeServer>;

/** The refusal of a request that the contract does not allow, as the real server gives it. */
function misfit(spec: RouteSpec, asked: Asked): Refusal | null {
  for (const [schema, value] of [
    [spec.params, asked.params],
    [spec.query, asked.query],
    [spec.body, asked.body],
  ] as const) {
    const result = schema?.safeParse(value);
    if (result?.success === false)
      return new Refusal(
        'invalid',
        z.prettifyError(result.error),
        result.error.issues.map((issue) => ({ path: issue.path.join('.'), message: issue.message })),
      );
  }
  return null;
}

function json(body: unknown, status: number): Response {
  return new Response(JSON.stringify(body), {
    status,
    headers: { 'content-type': 'application/json' },
  });
}

function problem({ code, detail, errors }: Refusal): Response {
  const { status, title } = PROBLEMS[code];
  const body = problemSchema.parse({
    type: `urn:rounds:${code}`,
    title,
    status,
    code,
    detail,
    ...(errors ? { errors } : {}),
  });
  return json(body, status);
}
