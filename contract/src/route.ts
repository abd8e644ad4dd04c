import { z } from 'zod';
import type { ProblemCode } from './problems';

/** Who may call a route. `public` needs no session. */
export const ROLES = ['trainer', 'operator', 'supervisor', 'workshop', 'administrator'] as const;
export type Role = (typeof ROLES)[number];

/**
 * Who a route may be open to: a role of an account, or a guest's seat (somebody who joined an exercise on
 * their own phone and has no account).
 */
export type Party = Role | 'seat';

/**
 * One route as browser and server agree on it. Rows a caller may see are narrowed further by the server
 * (own record, own team).
 */
export interface RouteSpec {
  method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE';
  /** Express-style path below /api, such as /people/:id */
  path: string;
  summary: string;
  roles: readonly Party[] | 'public';
  params?: z.ZodObject;
  query?: z.ZodObject;
  body?: z.ZodType;
  /** Schema of a JSON answer, or the media type of a file. */
  answer:
    | z.ZodType
    | 'application/pdf'
    | 'text/csv'
    | 'application/xml'
    | 'application/yaml'
    | 'application/json'
    | 'application/schema+json'
    | 'image/svg+xml'
    | 'text/event-stream';
  /** Schema of one event, where the answer is an event stream. */
  event?: z.ZodType;
  /** Problem codes beyond the common ones. */
  problems?: readonly ProblemCode[];
  /** Fields of the body that hold a whole file, which its reader judges. */
  files?: readonly string[];
  /** Largest body in bytes; 100 kB when absent. */
  bodyLimit?: number;
}

/**
 * A route whose answer is an event stream (server-sent events): what happens from now on, or, for who says
 * the last event they had, from there.
 */
export interface StreamSpec extends RouteSpec {
  method: 'GET';
  answer: 'text/event-stream';
  event: z.ZodType;
}
export type StreamEvent<R extends StreamSpec> = z.output<R['event']>;

/** Keeps the literal types of a route's schemas. */
export function route<const R extends RouteSpec>(spec: R): R {
  return spec;
}

type Parsed<T> = T extends z.ZodType ? z.output<T> : undefined;
type Given<T> = T extends z.ZodType ? z.input<T> : undefined;

/** What a handler receives and a caller sends for a route. */
export type RouteInput<R extends RouteSpec> = {
  params: Parsed<R['params']>;
  query: Parsed<R['query']>;
  body: Parsed<R['body']>;
};
export type RouteCall<R extends RouteSpec> = (R['params'] extends z.ZodType
  ? { params: Given<R['params']> }
  : { params?: undefined }) &
  (R['query'] extends z.ZodType ? { query?: Given<R['query']> } : { query?: undefined }) &
  (R['body'] extends z.ZodType ? { body: Given<R['body']> } : { body?: undefined });
export type RouteAnswer<R extends RouteSpec> = R['answer'] extends z.ZodType ? z.output<R['answer']> : Blob;

/**
 * An error answer after RFC 9457: `code` is stable and for programs, `detail` is for people and says what
 * happened, what was kept and what to do.
 */
export const problemSchema = z.object({
  type: z.string(),
  title: z.string(),
  status: z.number(),
  code: z.string(),
  detail: z.string(),
  errors: z.array(z.object({ path: z.string(), message: z.string() })).optional(),
});
export type Problem = z.infer<typeof problemSchema>;
