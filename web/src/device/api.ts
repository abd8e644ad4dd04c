import type { Problem, RouteAnswer, RouteCall, RouteSpec } from '@rounds/contract/route';
import { clock } from './clock';

/** A refusal by the server, no server at all (`code` "offline"), or one made here (`code` "unsent"). */
export class ApiProblem extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
  get code(): string {
    return this.problem.code;
  }
}

/** Called on every "not signed in" answer, so that the sign-in sheet can come up over whatever is open. */
let onSessionEnded: () => void = () => undefined;
export function whenSessionEnds(handler: () => void): void {
  onSessionEnded = handler;
}

function address(spec: RouteSpec, input: { params?: unknown; query?: unknown }): string {
  const params = (input.params ?? {}) as Record<string, string>;
  const path = spec.path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name] ?? ''));
  const query = new URLSearchParams();
  for (const [key, value] of Object.entries((input.query ?? {}) as Record<string, unknown>))
    if (value !== undefined && value !== '') query.set(key, String(value));
  const tail = query.toString();
  return `/api${path}${tail ? `?${tail}` : ''}`;
}

/** The address of a file route, for links. */
export function fileAddress(
  spec: RouteSpec,
  params: Record<string, string> = {},
  query: Record<string, string> = {},
): string {
  return address(spec, { params, query });
}

/** Calls a route of the contract. Throws ApiProblem. */
export async function call<R extends RouteSpec>(spec: R, input: RouteCall<R>): Promise<RouteAnswer<R>> {
  let response: Response;
  try {
    response = await fetch(address(spec, input), {
      method: spec.method,
      credentials: 'same-origin',
      ...(spec.body
        ? { headers: { 'content-type': 'application/json' }, body: JSON.stringify(input.body) }
        : {}),
    });
  } catch {
    throw new ApiProblem({
      type: 'urn:rounds:offline',
      title: 'No connection',
      status: 0,
      code: 'offline',
      detail: 'The server cannot be reached. What you entered stays here; it is tried again.',
    });
  }
  const told = Date.parse(response.headers.get('date') ?? '');
  if (!Number.isNaN(told)) clock.heard(told);
  if (response.ok) return (await response.json()) as RouteAnswer<R>;
  let problem: Problem;
  try {
    problem = (await response.json()) as Problem;
  } catch {
    problem = {
      type: 'urn:rounds:unexpected',
      title: 'Unexpected answer',
      status: response.status,
      code: 'unexpected',
      detail: `The server answered ${response.status} without an explanation. Nothing was changed.`,
    };
  }
  if (problem.code === 'not-signed-in') onSessionEnded();
  throw new ApiProblem(problem);
}

/** A refusal that this device makes itself, before it asks the server. */
export function ownProblem(code: string, title: string, detail: string): ApiProblem {
  return new ApiProblem({ type: `urn:rounds:${code}`, title, status: 0, code, detail });
}

/** What to show for any error. */
export function explain(error: unknown): { title: string; detail: string; code: string } {
  if (error instanceof ApiProblem)
    return { title: error.problem.title, detail: error.problem.detail, code: error.code };
  return {
    title: 'Something went wrong here',
    detail: error instanceof Error ? error.message : String(error),
    code: 'unexpected',
  };
}
