import { randomUUID } from 'node:crypto';
import { changeRoutes, peopleRoutes, routes, type StreamSpec } from '@rounds/contract';
import express from 'express';
import { Router } from 'express';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { z } from 'zod';
import { announce, application, bindStream, listen, openHouse, takeSeat } from '../index';
import { addPeople, type Caller, PASSWORD, startDesk } from './desk';
import { listenTo } from './listening';

let yard: Awaited<ReturnType<typeof startDesk>>;
let admin: Caller;
let trainer: Caller;
let operator: Caller;
beforeAll(async () => {
  yard = await startDesk();
  await yard.nobody.call(routes.createAdministrator, {
    body: {
      organisation: 'Yard',
      name: 'Ada',
      login: 'admin',
      password: PASSWORD,
      timeZone: 'Europe/Oslo',
    },
  });
  admin = await yard.as('admin');
  await addPeople(yard.house, admin);
  trainer = await yard.as('trainer');
  operator = await yard.as('operator');
});
afterAll(() => yard?.stop());

const CHANGES = `/api${changeRoutes.changes.path}`;
let payroll = 100;
const addSomebody = (by = trainer) =>
  by.call(peopleRoutes.addPerson, {
    body: {
      payroll: String((payroll += 1)),
      givenName: 'New',
      familyName: 'Person',
      site: 'Quay',
      team: 'Blue',
    },
  });
const areasIn = (events: { data: unknown }[]) =>
  events.flatMap((each) => (each.data as { areas?: string[] }).areas ?? []);

describe('the stream of changes', () => {
  it('says which areas somebody else changed, and nothing of whom', async () => {
    const heard = await listenTo(operator, CHANGES);
    await heard.until((events) => events.length === 1);
    await addSomebody();
    await heard.until((events) => areasIn(events).includes('people'));
    expect(heard.events.at(-1)!.data).toEqual({ areas: ['matrix', 'people', 'today'] });
    heard.stop();
  });

  it('is sent as it happens: uncompressed, kept by nobody, with a sign of life', async () => {
    const heard = await listenTo(trainer, CHANGES);
    expect(heard.response.headers.get('content-type')).toContain('text/event-stream');
    expect(heard.response.headers.get('content-encoding')).toBeNull();
    expect(heard.response.headers.get('cache-control')).toContain('no-store');
    await heard.beats(2);
    heard.stop();
  });

  it('tells nothing of what was not committed', async () => {
    const heard = await listenTo(trainer, CHANGES);
    await heard.until((events) => events.length === 1);
    await expect(
      yard.house.db.transaction(async () => {
        announce('changes', { areas: ['audit'] });
        throw new Error('not after all');
      }),
    ).rejects.toThrow('not after all');
    await addSomebody();
    await heard.until((events) => areasIn(events).includes('people'));
    expect(areasIn(heard.events)).not.toContain('audit');
    heard.stop();
  });

  it('is taken up again from the last event heard, none lost, none twice, in order', async () => {
    const first = await listenTo(trainer, CHANGES);
    await first.until((events) => events.length === 1);
    const since = first.events[0]!.id!;
    first.stop();
    await Promise.all(Array.from({ length: 20 }, () => addSomebody()));
    const again = await listenTo(trainer, CHANGES, since);
    await again.until((events) => areasIn(events).filter((each) => each === 'people').length >= 20);
    await again.beats(1);
    const ids = again.events.filter((each) => each.event === 'message').map((each) => Number(each.id));
    expect(ids.length).toBe(20);
    expect(ids).toEqual([...new Set(ids)].sort((a, b) => a - b));
    expect(Math.min(...ids)).toBeGreaterThan(Number(since));
    again.stop();
  });

  it('is shared by several servers of an installation', async () => {
    const house = openHouse(yard.house.store, { heartbeat: 200 });
    const other = await listen(application(house, { webRoot: null }), 0, false);
    const heard = await listenTo({ address: other.address, cookie: trainer.cookie }, CHANGES);
    await heard.until((events) => events.length === 1);
    await addSomebody();
    await heard.until((events) => areasIn(events).includes('people'));
    heard.stop();
    await house.hub.close();
    await other.stop();
    await house.pool.close();
  });

  it('is for who is signed in, and ends when they sign out', async () => {
    expect((await listenTo({ address: yard.address, cookie: '' }, CHANGES)).response.status).toBe(401);
    const leaving = await yard.as('trainer2');
    const heard = await listenTo(leaving, CHANGES);
    await heard.until((events) => events.length === 1);
    await leaving.call(routes.signOut, {});
    await heard.ended;
    expect(heard.events.at(-1)!.event).toBe('end');
  });

  it('ends when the account is closed, and when the server stops', async () => {
    const made = (
      await admin.call(routes.addAccount, {
        body: { name: 'Short', login: 'short', password: PASSWORD, role: 'trainer' },
      })
    ).body as { id: string };
    const short = await yard.as('short');
    const heard = await listenTo(short, CHANGES);
    await heard.until((events) => events.length === 1);
    await admin.call(routes.changeAccount, { params: { id: made.id }, body: { active: false } });
    await heard.ended;
    expect(heard.events.at(-1)!.event).toBe('end');

    const house = openHouse(yard.house.store, { heartbeat: 60_000 });
    const other = await listen(application(house, { webRoot: null }), 0, false);
    const cut = await listenTo({ address: other.address, cookie: trainer.cookie }, CHANGES);
    await cut.until((events) => events.length === 1);
    await house.hub.close();
    await cut.ended;
    expect(cut.events.at(-1)!.event).not.toBe('end');
    await other.stop();
    await house.pool.close();
  });

  it('is not opened without measure', async () => {
    const windows = await Promise.all(Array.from({ length: 15 }, () => listenTo(operator, CHANGES)));
    const refused = windows.filter((each) => each.response.status !== 200);
    expect(refused.length).toBeGreaterThanOrEqual(3);
    expect(((await refused[0]!.response.json()) as { code: string }).code).toBe('busy');
    for (const each of windows) each.stop();
  });

  it('takes a nonsense place to go on from as none', async () => {
    for (const since of ['-1', 'x', '99999999999999999999', "1' or '1'='1"]) {
      const heard = await listenTo(trainer, CHANGES, since);
      await heard.until((events) => events.length === 1);
      expect(heard.events[0]!.event).toBe('ready');
      heard.stop();
    }
  });
});

describe('a guest at a seat', () => {
  /** A room as an exercise will have one: its guests and its trainer hear it. */
  const room = {
    method: 'GET',
    path: '/rooms/:room/events',
    summary: 'What happens in a room',
    roles: ['seat', 'trainer'],
    params: z.object({ room: z.string().max(40) }),
    answer: 'text/event-stream',
    event: z.object({ says: z.string() }),
  } as const satisfies StreamSpec;

  async function openRoom() {
    const { mayEnter } = await import('../accounts/access');
    const { problemHandler } = await import('../http/binder');
    const { ProblemError } = await import('../http/problem');
    const app = express();
    const router = Router();
    bindStream(router, yard.house, room, async ({ params, principal }) => {
      if (!principal || !mayEnter(principal, params.room))
        throw new ProblemError('not-found', 'There is no such room.');
      return { topic: `room ${params.room}` };
    });
    app.post('/sit/:room', async (request, response) => {
      const { seat, handOut } = await yard.house.db.transaction((db) =>
        takeSeat(yard.house, db, request.params.room, 'Guest', request),
      );
      handOut(response);
      response.json(seat);
    });
    app.use('/api', router);
    app.use(problemHandler(() => undefined));
    const server = await listen(app, 0, false);
    const sit = async (name: string) => {
      const answer = await fetch(`${server.address}/sit/${name}`, { method: 'POST' });
      return { address: server.address, cookie: answer.headers.getSetCookie()[0]!.split(';')[0]! };
    };
    return { server, sit };
  }

  it('hears their own room and no other, and nothing else of the house', async () => {
    const { server, sit } = await openRoom();
    const guest = await sit('north');
    const heard = await listenTo(guest, '/api/rooms/north/events');
    await heard.until((events) => events.length === 1);
    expect((await listenTo(guest, '/api/rooms/south/events')).response.status).toBe(404);
    await yard.house.db.transaction(async () => announce('room south', { says: 'not yours' }));
    await yard.house.db.transaction(async () => announce('room north', { says: 'yours' }));
    await heard.until((events) => events.some((each) => each.event === 'message'));
    expect(heard.events.filter((each) => each.event === 'message').map((each) => each.data)).toEqual([
      { says: 'yours' },
    ]);
    // The same cookie opens no route of accounts.
    for (const path of ['/api/session', '/api/people', '/api/today', '/api/changes'])
      expect((await fetch(`${yard.address}${path}`, { headers: { cookie: guest.cookie } })).status).toBe(401);
    heard.stop();
    await server.stop();
  });

  it('is told apart from a trainer, who may come in, and an operator, who may not', async () => {
    const { server } = await openRoom();
    const at = (who: Caller) => ({ address: server.address, cookie: who.cookie });
    const heard = await listenTo(at(trainer), `/api/rooms/${randomUUID()}/events`);
    expect(heard.response.status).toBe(200);
    heard.stop();
    expect((await listenTo(at(operator), '/api/rooms/north/events')).response.status).toBe(403);
    await server.stop();
  });

  it('leaves with the seat: the stream ends when the room is cleared or the seat has run out', async () => {
    const { clearRoom } = await import('../accounts/seats');
    const { server, sit } = await openRoom();
    const heard = await listenTo(await sit('east'), '/api/rooms/east/events');
    await heard.until((events) => events.length === 1);
    await clearRoom(yard.house.db, 'east');
    await heard.ended;
    expect(heard.events.at(-1)!.event).toBe('end');
    const late = await sit('west');
    yard.setClock(new Date(Date.now() + 13 * 3_600_000));
    expect((await listenTo(late, '/api/rooms/west/events')).response.status).toBe(401);
    yard.setClock(null);
    await server.stop();
  });
});
