import { type EntryKey, useMutation, useQuery, useQueryCache } from '@pinia/colada';
import type { RouteAnswer, RouteCall, RouteSpec } from '@rounds/contract/route';
import { call } from './api';

/** What a caller gives to a route, as far as it says which data is meant. */
type Asked<R extends RouteSpec> = Pick<RouteCall<R>, 'params' | 'query'>;

/**
 * The key under which an answer is kept: the route's area (the first part of its path), its path, then what
 * was asked. Everything of an area is made stale by `[area]`.
 */
export function routeKey<R extends RouteSpec>(spec: R, asked: Partial<Asked<R>> = {}): EntryKey {
  const area = spec.path.split('/')[1]!;
  const { params = {}, query = {} } = asked as { params?: object; query?: object };
  return [area, spec.path, definite(params), definite(query)];
}

/** Without the fields that were not given, so that leaving one out and giving undefined are one key. */
function definite(record: object): Record<string, string> {
  const given = Object.entries(record).filter(([, value]) => value !== undefined && value !== '');
  return Object.fromEntries(given.map(([name, value]) => [name, String(value)]));
}

/**
 * The answer of a reading route, kept and shared by its key. `asked` is read again whenever what it depends
 * on changes; null asks nothing. While a new question is under way the answer to the last one stays.
 */
export function useRouteQuery<R extends RouteSpec>(
  spec: R,
  asked: () => Asked<R> | null,
  options: { staleTime?: number } = {},
) {
  return useQuery<RouteAnswer<R>>({
    key: () => routeKey(spec, asked() ?? {}),
    query: () => call(spec, (asked() ?? {}) as RouteCall<R>),
    enabled: () => asked() !== null,
    placeholderData: (before) => before,
    ...options,
  });
}

/**
 * An act of a writing route. When it is done, everything of the areas it `touches` is fetched anew where it
 * is on a screen.
 */
export function useRouteMutation<R extends RouteSpec>(spec: R, touches: readonly string[]) {
  const cache = useQueryCache();
  return useMutation<RouteAnswer<R>, RouteCall<R>>({
    key: [...routeKey(spec)],
    mutation: (input) => call(spec, input),
    // A query that cannot be fetched anew tells so itself; the act is over all the same.
    onSettled: () => Promise.allSettled(touches.map((area) => cache.invalidateQueries({ key: [area] }))),
  });
}
