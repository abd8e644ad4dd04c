import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import {
  type Problem,
  PROBLEMS,
  problemSchema,
  type RouteCall,
  routes,
  type RouteSpec,
} from '@rounds/contract';
import { type Pack, type PackContent, readPack } from '@rounds/core/catalogue';
import { type DeviceEventBody, scoredByTrainer } from '@rounds/core/evaluation';
import pg from 'pg';
import { honestSeconds, walkingLine } from '@rounds/core/round';
import { v7 as uuidv7 } from 'uuid';
import { z } from 'zod';
import { application, createAccount, type House, listen, openHouse, openStore, publishPack } from '../index';

const root = join(import.meta.dirname, '..', '..', '..');
export const PASSWORD = 'a long password';

export function forklift(): Pack {
  return readPack(readFileSync(join(root, 'packs', 'counterbalance-forklift.yaml'), 'utf8')).pack!;
}

/** One signed-in (or anonymous) caller with its cookie. */
export class Caller {
  cookie = '';
  constructor(
    readonly address: string,
    readonly headers: Record<string, string> = {},
  ) {}

  async raw(method: string, path: string, body?: unknown): Promise<Response> {
    const response = await fetch(`${this.address}${path}`, {
      method,
      headers: {
        ...(body === undefined ? {} : { 'content-type': 'application/json' }),
        cookie: this.cookie,
        ...this.headers,
      },
      ...(body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const set = response.headers.getSetCookie()[0];
    if (set) this.cookie = set.split(';')[0]!;
    return response;
  }

  /** Calls a route; answers its JSON or the problem. */
  async call<R extends RouteSpec>(
    spec: R,
    input: RouteCall<R>,
  ): Promise<{ status: number; body: never; problem: Problem }> {
    const params = (input.params ?? {}) as Record<string, string>;
    const path = spec.path.replace(/:(\w+)/g, (_, name: string) => params[name]!);
    const query = new URLSearchParams(
      Object.entries((input.query ?? {}) as Record<string, string>),
    ).toString();
    const response = await this.raw(
      spec.method,
      `/api${path}${query ? `?${query}` : ''}`,
      spec.body ? input.body : undefined,
    );
    const body = (
      response.headers.get('content-type')?.includes('json')
        ? await response.json()
        : await response.arrayBuffer()
    ) as never;
    // Whatever a route answers is what its contract says.
    if (response.status === 200 && typeof spec.answer !== 'string') spec.answer.parse(body);
    if (response.status >= 400)
      problemSchema.extend({ code: z.enum(Object.keys(PROBLEMS) as [string]) }).parse(body);
    return { status: response.status, body, problem: body };
  }

  async signIn(login: string, password = PASSWORD): Promise<this> {
    const { status } = await this.call(routes.signIn, { body: { login, password } });
    if (status !== 200) throw new Error(`sign-in of ${login} answered ${status}`);
    return this;
  }
}

/** An answer as text; of an event stream nothing, since it has no end (what it tells is tested by itself). */
export async function wholeText(answer: Response, encoding: 'utf8' | 'latin1' = 'utf8'): Promise<string> {
  if (answer.headers.get('content-type')?.startsWith('text/event-stream')) {
    await answer.body?.cancel();
    return '';
  }
  return Buffer.from(await answer.arrayBuffer()).toString(encoding);
}

/**
 * A server for tests, on PGlite in memory, or on a database of its own on the server that TEST_DATABASE_URL
 * names.
 */
export async function startDesk(): Promise<{
  house: House;
  address: string;
  as: (login: string) => Promise<Caller>;
  nobody: Caller;
  setClock: (at: Date | null) => void;
  /** Does something as if it had been done hours ago. */
  earlier: <T>(hours: number, act: () => Promise<T>) => Promise<T>;
  stop: () => Promise<void>;
}> {
  const server = process.env['TEST_DATABASE_URL'];
  let url: string | undefined;
  let drop = async () => {};
  if (server) {
    const name = `rounds_test_${randomUUID().slice(0, 8)}`;
    const admin = new pg.Client({ connectionString: server });
    await admin.connect();
    await admin.query(`create database ${name}`);
    const own = new URL(server);
    own.pathname = `/${name}`;
    url = own.href;
    drop = async () => {
      await admin.query(`drop database ${name} with (force)`);
      await admin.end();
    };
  }
  const store = await openStore({ url, directory: null, migrations: join(root, 'server', 'migrations') });
  let clock: Date | null = null;
  const house = openHouse(store, { now: () => clock ?? new Date(), heartbeat: 200 });
  await publishPack(house.db, forklift());
  const listening = await listen(application(house, { webRoot: null }), 0, false);
  return {
    house,
    address: listening.address,
    as: (login) => new Caller(listening.address).signIn(login),
    nobody: new Caller(listening.address),
    setClock: (at) => (clock = at),
    earlier: async (hours, act) => {
      const before = clock;
      clock = new Date((before ?? new Date()).getTime() - hours * 3_600_000);
      try {
        return await act();
      } finally {
        clock = before;
      }
    },
    stop: async () => {
      await house.hub.close();
      await listening.stop();
      await house.pool.close();
      await store.close();
      await drop();
    },
  };
}

/** People of every role: login = role name. */
export async function addPeople(
  house: House,
  admin: Caller,
): Promise<{ operatorId: string; otherId: string; unitId: string }> {
  const add = async (payroll: string, givenName: string, team: string) =>
    (
      (
        await admin.call(routes.addPerson, {
          body: { payroll, givenName, familyName: 'Tester', site: 'Quay', team, born: '1990-04-02' },
        })
      ).body as { id: string }
    ).id;
  const operatorId = await add('1', 'Olla', 'Blue');
  const otherId = await add('2', 'Pim', 'Green');
  const account = (
    login: 'trainer' | 'supervisor' | 'workshop',
    team: string | null = null,
    name = login as string,
  ) => createAccount(house, { name, login, password: PASSWORD, role: login, team, personId: null });
  await account('trainer');
  await createAccount(house, {
    name: 'second trainer',
    login: 'trainer2',
    password: PASSWORD,
    role: 'trainer',
    team: null,
    personId: null,
  });
  await account('supervisor', 'Blue');
  await account('workshop');
  await createAccount(house, {
    name: 'Olla Tester',
    login: 'operator',
    password: PASSWORD,
    role: 'operator',
    team: null,
    personId: operatorId,
  });
  const unitId = (
    (
      await admin.call(routes.addUnit, {
        body: {
          classId: 'counterbalance-forklift',
          name: 'T-1',
          site: 'Quay',
          variant: 'diesel',
          features: {},
        },
      })
    ).body as {
      id: string;
    }
  ).id;
  return { operatorId, otherId, unitId };
}

export const DEVICE = 'device-of-the-test';
/** A signature as one is drawn. */
export const STROKES = 'M60 120L140 60L220 140L330 70';
export const FORKLIFT = 'counterbalance-forklift';

/** What happened, with the seconds it took when that matters. */
export type Act = DeviceEventBody | [DeviceEventBody, number];

/** Sends events of an evaluation, the last of them `at`, those before by as much earlier as they took. */
export function send(
  caller: Caller,
  id: string,
  acts: readonly Act[],
  device = DEVICE,
  at = new Date().toISOString(),
) {
  const timed = acts.map((each) => (Array.isArray(each) ? each : ([each, 0] as const)));
  let moment = Date.parse(at) - timed.reduce((sum, [, seconds]) => sum + seconds * 1000, 0);
  const events = timed.map(([body, seconds]) => {
    moment += seconds * 1000;
    return { id: uuidv7(), at: new Date(moment).toISOString(), body };
  });
  return caller.call(routes.appendEvents, { params: { id }, body: { device, events } });
}

/** Every observed criterion done. */
export function wholeSheet(pack: PackContent): DeviceEventBody[] {
  return pack.sheet.sections.flatMap((section) =>
    section.criteria
      .filter((each) => scoredByTrainer(each))
      .map((each): DeviceEventBody => ({ kind: 'scored', criterion: each.id, result: 'done' })),
  );
}

/** Every check done at an honest pace, the ring closed. */
export function wholeRound(pack: PackContent): Act[] {
  const ring = walkingLine(pack.plan).ring.map((each) => each.id);
  const off = pack.plan.stations.map((each) => each.id).filter((id) => !ring.includes(id));
  return [
    { kind: 'round-started' },
    ...[...ring, ...off].flatMap((station): Act[] => [
      [{ kind: 'arrived', station }, 10],
      ...pack.checkpoints
        .filter((each) => each.station === station)
        .map((each): Act => [{ kind: 'checked', checkpoint: each.id, result: 'done' }, honestSeconds(each)]),
    ]),
    { kind: 'round-ended' },
  ];
}

/** A desk with its administrator, an account of every role, and a way to prepare an evaluation. */
export async function openYard() {
  const desk = await startDesk();
  await desk.nobody.call(routes.createAdministrator, {
    body: {
      organisation: 'Test Yard',
      name: 'Ada',
      login: 'administrator',
      password: PASSWORD,
      timeZone: 'Europe/London',
    },
  });
  const admin = await desk.as('administrator');
  const ids = await addPeople(desk.house, admin);
  const prepare = async (by: Caller, personId = ids.operatorId, device = DEVICE): Promise<string> => {
    const id = uuidv7();
    // Long enough ago that a round can have been walked since.
    const made = await desk.earlier(2, () =>
      by.call(routes.createEvaluation, {
        body: {
          id,
          personId,
          classId: FORKLIFT,
          unitId: ids.unitId,
          variant: 'diesel',
          features: {},
          conditions: 'dry',
          device,
        },
      }),
    );
    if (made.status !== 200)
      throw new Error(`preparing answered ${made.problem.code}: ${made.problem.detail}`);
    return id;
  };
  const audited = async (act: string) =>
    (
      (await admin.call(routes.audit, { query: { act } })).body as {
        rows: { by: string | null; subject: string; detail: never }[];
      }
    ).rows;
  return { ...desk, desk, admin, ids, prepare, audited };
}

export type Yard = Awaited<ReturnType<typeof openYard>>;
