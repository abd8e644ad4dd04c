import { request } from 'node:http';
import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { routes, type RouteSpec } from '@rounds/contract';
import { seededRandom } from '@rounds/core/statistics';
import { z } from 'zod';
import { FORKLIFT, openYard } from '../server/src/tests/desk';

/**
 * Malformed requests made from the contract with a seed: every route and role, with values that are nearly
 * right, of the wrong kind, too long, too large, half a character, a year that is none, a cursor of another
 * list, a broken encoding. Counts answers of 500, answers that took over two seconds, and what the memory
 * grew by.
 */
const [count = '100000', seed = '1'] = process.argv.slice(2);
const TOTAL = Number(count);
const AT_ONCE = 8;
const SLOW = 2000;
const random = seededRandom(Number(seed));
const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!;
const maybe = (share: number) => random() < share;

const yard = await openYard();
const trainer = await yard.as('trainer');
const evaluation = await yard.prepare(trainer);
let cookies: string[] = [];
/** Signs everybody in anew: some requests end the session they come with. */
async function signAllIn(): Promise<void> {
  const logins = ['administrator', 'trainer', 'supervisor', 'operator', 'workshop'];
  cookies = ['', ...(await Promise.all(logins.map(async (login) => (await yard.as(login)).cookie)))];
}
await signAllIn();
/**
 * Routes that end the session they are called with, and those that print or write long files, of which
 * fewer are asked.
 */
const ENDING = new Set(['signOut', 'signIn', 'changePassword', 'createAdministrator']);
const LONG = new Set([
  'report',
  'card',
  'roundCard',
  'checkSheet',
  'startStopCard',
  'classYaml',
  'classJson',
  'planSvg',
  'checkpointsCsv',
  'faultsCsv',
  'library',
  'machineClass',
]);
const ids = [
  yard.ids.operatorId,
  yard.ids.otherId,
  yard.ids.unitId,
  evaluation,
  FORKLIFT,
  '01900000-0000-7000-8000-000000000000',
];
const { port } = new URL(yard.address);

const TEXTS = [
  '',
  ' ',
  'a',
  '\u0000',
  'a\u0000b',
  '\ud83d',
  '\udc00x',
  '🙂',
  'x'.repeat(300),
  'x'.repeat(5000),
  "'; drop table person; --",
  '%',
  '%00',
  '../../etc/passwd',
  '{"a":1}',
  '[]',
  'null',
  '0000-01-01',
  '9999-12-31',
  '2026-02-30',
  '-000001-01-01',
  '2026-01-01T00:00:00Z',
  '0000-01-01T00:00:00Z',
  '+275760-09-13T00:00:00Z',
  'NaN',
  '-1',
  '1e309',
  '2147483648',
  '\u202e',
  '\ufeff',
];
const NUMBERS = [0, -1, 1, 0.5, 1e9, 2_147_483_648, 9_007_199_254_740_993, 1e308, -0, 1e-320];
const anything = (depth = 0): unknown => {
  const roll = random();
  if (roll < 0.4) return pick(TEXTS);
  if (roll < 0.6) return pick(NUMBERS);
  if (roll < 0.7) return pick([true, false, null]);
  if (roll < 0.8) return pick(ids);
  if (depth > 3) return null;
  if (roll < 0.9) return Array.from({ length: Math.floor(random() * 4) }, () => anything(depth + 1));
  return Object.fromEntries(
    Array.from({ length: Math.floor(random() * 4) }, (_, i) => [
      maybe(0.1) ? pick(TEXTS) : `k${i}`,
      anything(depth + 1),
    ]),
  );
};

interface JsonSchema {
  type?: string | string[];
  properties?: Record<string, JsonSchema>;
  items?: JsonSchema;
  enum?: unknown[];
  const?: unknown;
  anyOf?: JsonSchema[];
  oneOf?: JsonSchema[];
  format?: string;
  additionalProperties?: JsonSchema | boolean;
}
/** A value that a schema would nearly take. */
function nearly(schema: JsonSchema, wild: number): unknown {
  if (maybe(wild)) return anything();
  if (schema.const !== undefined) return schema.const;
  if (schema.enum) return pick(schema.enum);
  const union = schema.anyOf ?? schema.oneOf;
  if (union) return nearly(pick(union), wild);
  if (schema.properties) {
    const made: Record<string, unknown> = {};
    for (const [key, each] of Object.entries(schema.properties))
      if (!maybe(wild / 2)) made[key] = nearly(each, wild);
    if (maybe(wild / 4)) made[pick(TEXTS)] = anything();
    return made;
  }
  const type = Array.isArray(schema.type) ? pick(schema.type) : schema.type;
  if (type === 'array')
    return Array.from({ length: Math.floor(random() * 3) }, () => nearly(schema.items ?? {}, wild));
  if (type === 'object') return Object.fromEntries([[pick(['tyres', 'k', pick(TEXTS)]), pick(TEXTS)]]);
  if (type === 'integer' || type === 'number') return pick([0, 1, 2, 50, ...NUMBERS]);
  if (type === 'boolean') return maybe(0.5);
  if (schema.format === 'uuid') return pick(ids);
  if (schema.format === 'date') return pick(['2026-01-05', '2025-12-31', ...TEXTS]);
  if (schema.format === 'date-time') return pick([new Date().toISOString(), ...TEXTS]);
  return maybe(0.5)
    ? pick([
        'Quay',
        'trainer',
        'a long password',
        'id: x\nrevision: 1\n',
        'Payroll,Given name,Family name,Site,Team\n1,A,B,C,D\n',
        FORKLIFT,
      ])
    : pick(TEXTS);
}

const all = Object.entries<RouteSpec>(routes).map(([name, spec]) => ({
  name,
  spec,
  body: spec.body ? (z.toJSONSchema(spec.body, { io: 'input', unrepresentable: 'any' }) as JsonSchema) : null,
  query: spec.query ? Object.keys(spec.query.shape) : [],
}));

interface Shot {
  name: string;
  method: string;
  path: string;
  headers: Record<string, string>;
  body: Buffer | null;
}

const cursors = [
  ['a', 'b', ids[0]],
  ['\u0000', 'b', ids[0]],
  [1],
  ['9'.repeat(30), ids[0]],
  [-1],
  [1e300],
  {},
  null,
].map((each) => Buffer.from(JSON.stringify(each)).toString('base64url'));
/** Percent-encodes a text whatever it holds; now and then leaves it broken. */
const encoded = (text: string) => (maybe(0.03) ? '%E0%A4%A' : encodeURIComponent(text.toWellFormed()));

function shot(): Shot {
  let chosen = pick(all);
  while (LONG.has(chosen.name) && !maybe(0.1)) chosen = pick(all);
  const { name, spec, body, query } = chosen;
  const wild = pick([0.02, 0.1, 0.4]);
  const path = spec.path.replace(/:\w+/g, () => encoded(maybe(0.6) ? pick(ids) : pick(TEXTS)) || 'x');
  const asked = query.flatMap((key) =>
    maybe(0.5)
      ? [
          `${key}=${key === 'cursor' ? pick([...cursors, 'bm9', ...TEXTS.map(encoded)]) : encoded(maybe(0.5) ? pick(TEXTS) : pick(['1', '5', 'yes', 'Quay', 'valid', ...ids]))}`,
        ]
      : [],
  );
  const headers: Record<string, string> = {
    'x-forwarded-for': `10.${Math.floor(random() * 250)}.${Math.floor(random() * 250)}.${Math.floor(random() * 250)}`,
  };
  const cookie = ENDING.has(name) && !maybe(0.02) ? '' : pick(cookies);
  if (maybe(0.02))
    headers['cookie'] = pick([
      'rounds_session=%',
      'rounds_session=%E0%A4%A',
      'rounds_session',
      '=;=;',
      `rounds_session=${'x'.repeat(4000)}`,
    ]);
  else if (cookie) headers['cookie'] = cookie;
  if (maybe(0.01)) headers['origin'] = pick(['null', 'https://elsewhere.example', '%']);
  if (maybe(0.02)) headers['if-none-match'] = pick(['*', 'W/"0"', '"']);
  let payload: Buffer | null = null;
  if (body || maybe(0.02)) {
    const value = JSON.stringify(body ? nearly(body, wild) : anything()) ?? '';
    const text = maybe(0.03)
      ? value.slice(0, Math.floor(value.length * random()))
      : maybe(0.01)
        ? `${'['.repeat(3000)}`
        : value;
    payload = Buffer.from(text, maybe(0.01) ? 'utf16le' : 'utf8');
    headers['content-type'] = maybe(0.03)
      ? pick([
          'text/plain',
          'application/json; charset=utf-7',
          'application/json; charset=%',
          'multipart/form-data; boundary=x',
        ])
      : 'application/json';
    if (maybe(0.02))
      headers['content-encoding'] = pick(['gzip', 'br', 'deflate', 'zstd', 'identity, gzip', '%']);
  }
  return {
    name,
    method: maybe(0.02) ? pick(['HEAD', 'OPTIONS', 'TRACE', 'PUT', 'DELETE']) : spec.method,
    path: `/api${path}${asked.length > 0 ? `?${asked.join('&')}` : ''}`,
    headers,
    body: payload,
  };
}

function fire({ method, path, headers, body }: Shot): Promise<number> {
  return new Promise((resolve) => {
    let sent;
    try {
      sent = request(
        {
          host: '127.0.0.1',
          port,
          method,
          path,
          headers: { ...headers, ...(body ? { 'content-length': String(body.length) } : {}) },
        },
        (answer) => {
          answer.resume();
          answer.once('close', () => resolve(answer.statusCode ?? 0));
        },
      );
    } catch {
      // The client itself refuses to send it.
      return resolve(-1);
    }
    sent.once('error', () => resolve(0));
    sent.end(body ?? undefined);
  });
}

const statuses = new Map<number, number>();
const faults: string[] = [];
let slowest = 0;
let slow = 0;
let done = 0;
let settled = 0;
setFlagsFromString('--expose_gc');
const collect = runInNewContext('gc') as () => void;
const memory = () => {
  collect();
  return process.memoryUsage().heapUsed / 1e6;
};

async function gun(): Promise<void> {
  while (done < TOTAL) {
    done += 1;
    if (done % 500 === 0) await signAllIn();
    const next = shot();
    const began = performance.now();
    const status = await fire(next);
    const took = performance.now() - began;
    slowest = Math.max(slowest, took);
    if (took > SLOW) {
      slow += 1;
      faults.push(`${took.toFixed(0)} ms: ${next.method} ${next.path.slice(0, 120)}`);
    }
    statuses.set(status, (statuses.get(status) ?? 0) + 1);
    if (status === 500 || status === 0)
      faults.push(
        `${status}: ${next.name} ${next.method} ${next.path.slice(0, 160)} ` +
          `${JSON.stringify(next.headers).slice(0, 200)} ` +
          `${next.body?.toString('utf8').slice(0, 400) ?? ''}`,
      );
    if (done === Math.floor(TOTAL / 4)) settled = memory();
  }
}
const began = performance.now();
await Promise.all(Array.from({ length: AT_ONCE }, gun));
const grown = memory() - settled;
// The server still does its work.
const alive = (await (await yard.as('trainer')).call(routes.today, {})).status;
await yard.stop();
const failed = statuses.get(500) ?? 0;
console.log(
  `answers by status: ${[...statuses]
    .sort((a, b) => a[0] - b[0])
    .map(([status, n]) => `${status} x ${n}`)
    .join(', ')}`,
);
console.log(
  `slowest ${slowest.toFixed(0)} ms, ${slow} over ${SLOW} ms; heap ` +
    `${settled.toFixed(0)} MB after a quarter, ` +
    `${grown >= 0 ? '+' : ''}${grown.toFixed(0)} MB since; ` +
    `${((performance.now() - began) / 1000).toFixed(0)} s; afterwards Today ` +
    `answers ${alive}`,
);
for (const each of faults.slice(0, 20)) console.log(each);
console.log(`${TOTAL - failed - slow} passed, ${failed + slow} failed`);
process.exit(failed + slow > 0 ? 1 : 0);
