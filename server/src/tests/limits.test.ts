import { connect } from 'node:net';
import { availableParallelism } from 'node:os';
import { Writable } from 'node:stream';
import { routes } from '@rounds/contract';
import { packToYaml } from '@rounds/core/catalogue';
import { pino } from 'pino';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { application, listen } from '../index';
import { Caller, DEVICE, forklift, FORKLIFT, openYard, PASSWORD, send, type Yard } from './desk';
import { listenTo } from './listening';

/** What a stranger, a guesser or a clumsy client may not do to the server. */
let yard: Yard;
let trainer: Caller;
beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
});
afterEach(() => yard.setClock(null));
afterAll(() => yard.stop());

/** A caller that a proxy on this computer says comes from elsewhere. */
const from = (address: string) => new Caller(yard.address, { 'x-forwarded-for': address });
const wrong = (by: Caller, login = 'trainer') =>
  by.call(routes.signIn, { body: { login, password: 'not the password' } });

describe('guessing passwords', () => {
  it('is counted before it is looked at: of 200 at once few are evaluated', async () => {
    const answers = await Promise.all(Array.from({ length: 200 }, () => wrong(from('10.0.0.1'))));
    const evaluated = answers.filter((each) => each.problem.code === 'wrong-sign-in').length;
    expect(evaluated).toBeLessThanOrEqual(8);
    expect(answers.filter((each) => each.problem.code === 'too-many-attempts').length).toBe(200 - evaluated);
    // One line says that the name was locked, not one for each who knocked.
    expect((await yard.audited('sign-in-locked')).length).toBe(1);
  });
  it('does not shut the owner of a name out who signs in from elsewhere', async () => {
    for (let i = 0; i < 12; i++) await wrong(from('10.0.0.2'), 'workshop');
    expect(
      (await from('10.0.0.3').call(routes.signIn, { body: { login: 'workshop', password: PASSWORD } }))
        .status,
    ).toBe(200);
    expect(
      (await from('10.0.0.2').call(routes.signIn, { body: { login: 'workshop', password: PASSWORD } }))
        .problem.code,
    ).toBe('too-many-attempts');
  });
  it('ends for a name when the administrator gives it a new password', async () => {
    const made = (
      await yard.admin.call(routes.addAccount, {
        body: { name: 'L', login: 'locked', password: PASSWORD, role: 'trainer' },
      })
    ).body as { id: string };
    for (let i = 0; i < 10; i++) await wrong(from('10.0.0.4'), 'locked');
    await yard.admin.call(routes.changeAccount, {
      params: { id: made.id },
      body: { password: 'a new long one' },
    });
    expect(
      (await from('10.0.0.4').call(routes.signIn, { body: { login: 'locked', password: 'a new long one' } }))
        .status,
    ).toBe(200);
  });
  it('over many names is limited for an address', async () => {
    const codes: string[] = [];
    for (let i = 0; i < 70; i++) codes.push((await wrong(from('10.0.0.5'), `name-${i}`)).problem.code);
    expect(codes.filter((each) => each === 'wrong-sign-in').length).toBe(60);
  });
  it('of the current password in Settings is limited too, and so is signing by name', async () => {
    const device = await from('10.0.0.6').signIn('trainer2');
    const change = () =>
      device.call(routes.changePassword, { body: { current: 'not the password', next: 'another long one' } });
    const codes = [];
    for (let i = 0; i < 10; i++) codes.push((await change()).problem.code);
    expect(codes.at(-1)).toBe('too-many-attempts');
    const id = await yard.prepare(trainer);
    const sign = () =>
      from('10.0.0.7')
        .signIn('trainer')
        .then((by) =>
          by.call(routes.signByName, {
            params: { id },
            body: {
              id: uuidv7(),
              device: DEVICE,
              role: 'operator',
              name: 'O',
              login: 'operator',
              password: 'guess',
            },
          }),
        );
    const signed = [];
    for (let i = 0; i < 10; i++) signed.push((await sign()).problem.code);
    expect(signed.at(-1)).toBe('too-many-attempts');
  });
});

describe('sessions', () => {
  it('end after three days however busy they are', async () => {
    const device = await yard.as('trainer');
    const start = Date.now();
    for (let hours = 1; hours <= 71; hours++) {
      yard.setClock(new Date(start + hours * 3_600_000));
      expect([hours, (await device.call(routes.session, {})).status]).toEqual([hours, 200]);
    }
    yard.setClock(new Date(start + 73 * 3_600_000));
    expect((await device.call(routes.session, {})).status).toBe(401);
  });
  it('end on a device where somebody signs in again', async () => {
    const device = await yard.as('trainer');
    const before = new Caller(yard.address);
    before.cookie = device.cookie;
    await device.signIn('trainer2');
    expect((await before.call(routes.session, {})).status).toBe(401);
    expect((await device.call(routes.session, {})).status).toBe(200);
  });
});

describe('malformed requests', () => {
  const body = (value: unknown) => JSON.stringify(value);
  it.each<[string, () => Promise<Response>, number]>([
    ['a cursor that is none', () => trainer.raw('GET', '/api/people?cursor=bm9uc2Vuc2U'), 422],
    [
      'a cursor of another list',
      () => trainer.raw('GET', `/api/people?cursor=${Buffer.from('["a","b","c"]').toString('base64url')}`),
      422,
    ],
    [
      'a cursor with a zero character',
      () =>
        trainer.raw(
          'GET',
          `/api/people?cursor=${Buffer.from(body(['\u0000', 'b', uuidv7()])).toString('base64url')}`,
        ),
      422,
    ],
    ['an evaluations cursor', () => trainer.raw('GET', '/api/evaluations?cursor=2026-01-01'), 422],
    ['a zero character in a search', () => trainer.raw('GET', '/api/people?search=%00'), 422],
    ['a zero character in an address', () => trainer.raw('GET', '/api/classes/a%00b'), 422],
    [
      'half a character in a note',
      () =>
        trainer.raw(
          'POST',
          `/api/people/${yard.ids.operatorId}/certification`,
          `{"classId":"${FORKLIFT}","on":"2026-01-01","body":{"kind":"endorsed","words":"half \\ud83d"}}`,
        ),
      422,
    ],
    [
      'the year nought',
      () => trainer.raw('PATCH', `/api/people/${yard.ids.operatorId}`, body({ born: '0000-01-01' })),
      422,
    ],
    [
      'a number that no column holds',
      () =>
        trainer.raw('PUT', `/api/classes/${FORKLIFT}/draft`, body({ source: 'a: b', version: 99999999999 })),
      422,
    ],
    [
      'nesting without end',
      () => trainer.raw('POST', '/api/people', `${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`),
      422,
    ],
    ['an address that does not decode', () => trainer.raw('GET', '/api/classes/%E0%A4%A'), 404],
  ])('with %s are refused, not failed on', async (_, ask, status) => {
    const answer = await ask();
    expect(answer.status).toBe(status);
    expect(((await answer.json()) as { code: string }).code).toMatch(/invalid|not-found/);
  });
  it('name the field that is wrong', async () => {
    const answer = (await (
      await trainer.raw(
        'POST',
        '/api/people',
        '{"payroll":"1","givenName":"a\\u0000b","familyName":"B","site":"Q","team":"T"}',
      )
    ).json()) as {
      errors: { path: string }[];
    };
    expect(answer.errors[0]!.path).toBe('givenName');
  });
  it('in an encoding or character set that is not read are told so', async () => {
    const post = (headers: Record<string, string>) =>
      fetch(`${yard.address}/api/people`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', cookie: trainer.cookie, ...headers },
        body: '{}',
      });
    expect((await post({ 'content-encoding': 'zstd-and-more' })).status).toBe(415);
    expect((await post({ 'content-type': 'application/json; charset=ebcdic' })).status).toBe(415);
  });
  it('with a cookie that does not decode are those of nobody', async () => {
    const answer = await fetch(`${yard.address}/api/session`, {
      headers: { cookie: 'rounds_session=%E0%A4%A; rounds_session=%' },
    });
    expect(answer.status).toBe(401);
  });
  it('of strangers are not read: the answer comes before a large body has', async () => {
    // Only the head of a request that promises 10 MB; whoever reads bodies first would wait for it.
    const said = await new Promise<string>((resolve, reject) => {
      const socket = connect(Number(new URL(yard.address).port), '127.0.0.1', () =>
        socket.write(
          'POST /api/people/import HTTP/1.1\r\nhost: x\r\ncontent-type: ' +
            'application/json\r\ncontent-length: 10000000\r\n\r\n',
        ),
      );
      socket.once('data', (chunk: Buffer) => {
        resolve(chunk.toString().split('\r\n')[0]!);
        socket.destroy();
      });
      socket.once('error', reject);
    });
    expect(said).toMatch(/401/);
  });
});

describe('what is heavy to read', () => {
  /** The longest that a small request had to wait while something heavy was asked for. */
  async function longestWait(heavy: Promise<unknown>): Promise<number> {
    let done = false;
    void heavy.finally(() => (done = true));
    let longest = 0;
    while (!done) {
      const began = performance.now();
      await fetch(`${yard.address}/healthz`);
      longest = Math.max(longest, performance.now() - began);
    }
    return longest;
  }
  const preview = (csv: string) => trainer.call(routes.previewImport, { body: { csv } });
  const save = (source: string) =>
    trainer.call(routes.saveDraft, { params: { id: FORKLIFT }, body: { source, version: 0 } });

  it('is refused by its size, in rows, columns, lines and characters', async () => {
    expect((await preview('a\n'.repeat(2_400_000))).problem.detail).toMatch(/more than 20000 rows/);
    expect((await preview(`${'x,'.repeat(500)}y\n1\n`)).problem.detail).toMatch(/at most 60/);
    const { errors } = (await save('a: b\n'.repeat(40_000))).body as { errors: { message: string }[] };
    expect(errors[0]!.message).toMatch(/more than 30000 lines/);
    await trainer.call(routes.dropDraft, { params: { id: FORKLIFT } });
    expect((await save('a'.repeat(1_600_000))).status).toBe(422);
  });
  it('lists no more errors than a person reads', async () => {
    const shown = (await preview(`Payroll,Given name,Family name,Site,Team\n${',,,,\n'.repeat(15_000)}`))
      .body as { rejectedRows: number; rejected: unknown[] };
    expect(shown.rejectedRows).toBe(15_000);
    expect(shown.rejected.length).toBe(200);
  });
  it('is read away from the thread that answers others', async () => {
    const rows = Array.from({ length: 15_000 }, (_, i) => `${i},Name${i},Family${i},Quay,Blue`).join('\n');
    const waits = [
      await longestWait(preview(`Payroll,Given name,Family name,Site,Team\n${rows}\n`)),
      await longestWait(
        save(`id: ${FORKLIFT}\n${Array.from({ length: 16_000 }, (_, i) => `key${i}: ${i}`).join('\n')}\n`),
      ),
      await longestWait(trainer.raw('GET', `/api/classes/${FORKLIFT}/check-sheet.pdf`)),
    ];
    await trainer.call(routes.dropDraft, { params: { id: FORKLIFT } });
    // Against a second of reading, others wait for a fraction; the figures themselves are in the bench.
    for (const wait of waits) expect(wait).toBeLessThan(1500);
  });
  /** A roster as long as one may be. */
  const longRoster = (job: string) => {
    const filler = 'x'.repeat(60);
    const rows = Array.from({ length: 20_000 }, (_, i) => `${i},"Name ${i}",${filler},${filler},${filler}`);
    return { csv: `Payroll,Given name,Family name,Site,Team\n${rows.join('\n')}\n`, job };
  };
  it('tells how far it is to who started it, and to nobody else', async () => {
    const job = uuidv7();
    const other = await yard.as('trainer2');
    // Work is listened for before it begins, so that none of it is missed.
    const heard = await listenTo(trainer, `/api/jobs/${job}/progress`);
    await heard.until((events) => events.some((each) => each.event === 'ready'));
    const reading = trainer.call(routes.previewImport, { body: longRoster(job) });
    // How much is told beside the beginning depends on how fast the machine is.
    await heard.until((events) => events.some((each) => (each.data as { total?: number }).total === 20_000));
    expect((await reading).status).toBe(200);
    heard.stop();
    // The name of the work is not enough: others hear nothing of it.
    const stranger = await listenTo(other, `/api/jobs/${job}/progress`, '0');
    await stranger.beats(2);
    expect(stranger.events.filter((each) => each.event === 'message')).toEqual([]);
    stranger.stop();
  });
  it('is cancelled by who started it, and by nobody else', async () => {
    const job = uuidv7();
    const other = await yard.as('trainer2');
    const cancel = async (by: Caller) => {
      const answer = await by.call(routes.cancelJob, { params: { id: job } });
      return answer.status === 200 ? 'done' : answer.problem.code;
    };
    // Work before it holds the threads, so that it cannot end before it is cancelled.
    const before = Array.from({ length: availableParallelism() }, () =>
      other.call(routes.previewImport, { body: { csv: longRoster(job).csv } }),
    );
    const reading = trainer.call(routes.previewImport, { body: longRoster(job) });
    // A slow machine takes its time until the work is there to be cancelled.
    const patience = { timeout: 20_000 };
    await vi.waitFor(async () => {
      expect(await cancel(other)).toBe('not-found');
      expect(await cancel(trainer)).toBe('done');
    }, patience);
    expect((await reading).problem.code).toBe('cancelled');
    await Promise.all(before);
  });
  it('finds the errors of a draft once, when it is saved', async () => {
    const saved = (await save(packToYaml(forklift()).replace('revision: 2\n', 'revision: 2\nsticker: yes\n')))
      .body as { errors: unknown[] };
    expect(saved.errors.length).toBe(1);
    await yard.house.pool.close();
    const run = yard.house.pool.run;
    yard.house.pool.run = () => Promise.reject(new Error('read again'));
    const { draft } = (await trainer.call(routes.classDraft, { params: { id: FORKLIFT } })).body as {
      draft: { errors: unknown[] };
    };
    yard.house.pool.run = run;
    expect(draft.errors).toEqual(saved.errors);
    await trainer.call(routes.dropDraft, { params: { id: FORKLIFT } });
  });
});

describe('what the log says', () => {
  it('is where a failure came from, and nothing of what was in it', async () => {
    const lines: string[] = [];
    const log = pino(
      { level: 'info' },
      new Writable({ write: (chunk: Buffer, _, done) => (lines.push(chunk.toString()), done()) }),
    );
    const listening = await listen(application(yard.house, { webRoot: null, log }), 0, false);
    const caller = new Caller(listening.address);
    await yard.house.store.query('alter table account rename to account_gone', []);
    const { status } = await caller.call(routes.signIn, {
      body: { login: 'a.secret.name@yard.example', password: 'a secret password' },
    });
    await yard.house.store.query('alter table account_gone rename to account', []);
    await caller.raw('GET', '/api/verify/a-secret-card-token');
    await listening.stop();
    expect(status).toBe(500);
    const text = lines.join('');
    expect(text).toMatch(/42P01/);
    expect(text).not.toMatch(/secret|argon2|select|params/i);
  });
});

describe('figures of the server', () => {
  it('are for this computer, or for who has the token', async () => {
    expect((await new Caller(yard.address).raw('GET', '/metrics')).status).toBe(200);
    expect((await from('10.0.0.9').raw('GET', '/metrics')).status).toBe(404);
    yard.house.metricsToken = 'for the collector';
    expect(
      (
        await new Caller(yard.address, {
          'x-forwarded-for': '10.0.0.9',
          authorization: 'Bearer for the collector',
        }).raw('GET', '/metrics')
      ).status,
    ).toBe(200);
    expect(
      (
        await new Caller(yard.address, { 'x-forwarded-for': '10.0.0.9', authorization: 'Bearer guess' }).raw(
          'GET',
          '/metrics',
        )
      ).status,
    ).toBe(404);
    yard.house.metricsToken = null;
  });
  it('a command of this computer is let in by the secret of the data directory only', async () => {
    expect(
      (await new Caller(yard.address, { 'x-rounds-control': 'guess' }).raw('POST', '/control/backup')).status,
    ).toBe(404);
  });
});

it('a note with half a character is refused by itself, and the taps beside it can go', async () => {
  const id = await yard.prepare(trainer);
  const tap = (words: string) => send(trainer, id, [{ kind: 'noted', words }]);
  expect((await tap('half \ud83d of it')).problem).toMatchObject({ status: 422, code: 'invalid' });
  expect((await tap('a whole one 🙂')).status).toBe(200);
});
