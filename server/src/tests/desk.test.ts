import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROLES, routes, type RouteSpec } from '@rounds/contract';
import { compose } from '@rounds/core/catalogue';
import { DEFAULT_RULES } from '@rounds/core/certification';
import type { EvaluationEventBody } from '@rounds/core/evaluation';
import { sql } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import {
  addPeople,
  Caller,
  DEVICE,
  forklift,
  PASSWORD,
  send,
  startDesk,
  STROKES,
  wholeRound,
  wholeSheet,
} from './desk';

let desk: Awaited<ReturnType<typeof startDesk>>;
let admin: Caller;
let ids: Awaited<ReturnType<typeof addPeople>>;
const pack = compose(forklift(), { variant: 'diesel' });

beforeAll(async () => {
  desk = await startDesk();
  const made = await desk.nobody.call(routes.createAdministrator, {
    body: {
      organisation: 'Test Yard',
      name: 'Ada',
      login: 'administrator',
      password: PASSWORD,
      timeZone: 'Europe/London',
    },
  });
  expect(made.status).toBe(200);
  admin = await desk.as('administrator');
  ids = await addPeople(desk.house, admin);
});
afterEach(() => desk.setClock(null));
afterAll(() => desk.stop());

async function prepare(by: Caller, personId = ids.operatorId): Promise<string> {
  const id = uuidv7();
  const made = await desk.earlier(2, () =>
    by.call(routes.createEvaluation, {
      body: {
        id,
        personId,
        classId: 'counterbalance-forklift',
        unitId: ids.unitId,
        variant: 'diesel',
        features: {},
        conditions: 'dry',
        device: DEVICE,
      },
    }),
  );
  expect(made.status).toBe(200);
  return id;
}

describe('the installation', () => {
  it('makes its administrator once', async () => {
    const again = await new Caller(desk.address).call(routes.createAdministrator, {
      body: { organisation: 'X', name: 'Y', login: 'z', password: PASSWORD, timeZone: 'UTC' },
    });
    expect(again.problem).toMatchObject({ status: 409, code: 'already-set-up' });
  });
  it('refuses the demo password outside the demo', async () => {
    const refused = await admin.call(routes.addAccount, {
      body: { name: 'D', login: 'd', password: 'walk-the-ring', role: 'trainer' },
    });
    expect(refused.problem.detail).toMatch(/printed in the demo/);
  });
  it('describes itself in OpenAPI 3.1 with every route of the contract', async () => {
    const document = (await (await new Caller(desk.address).raw('GET', '/api/openapi.json')).json()) as {
      openapi: string;
      paths: Record<string, Record<string, { operationId: string }>>;
    };
    expect(document.openapi).toBe('3.1.0');
    const named = new Set(
      Object.values(document.paths).flatMap((each) => Object.values(each).map((op) => op.operationId)),
    );
    expect([...named].sort()).toEqual(Object.keys(routes).sort());
  });
  it('reports health and metrics, and sends a strict content policy', async () => {
    const nobody = new Caller(desk.address);
    expect(await (await nobody.raw('GET', '/healthz')).json()).toEqual({ healthy: true });
    expect(await (await nobody.raw('GET', '/metrics')).text()).toMatch(/rounds_requests_total \d+/);
    const policy = (await nobody.raw('GET', '/api/installation')).headers.get('content-security-policy')!;
    expect(policy).toContain("script-src 'self'");
    expect(policy).not.toContain("script-src 'self' 'unsafe-inline'");
  });
});

describe('roles', () => {
  const uuid = '01900000-0000-7000-8000-000000000000';
  const fill = ({ path }: RouteSpec) => {
    const id = path.startsWith('/classes') ? 'counterbalance-forklift' : uuid;
    return `/api${path.replace(':id', id).replace(':token', 'nothing')}`;
  };
  it('every route is bound, and answers only to its roles', async () => {
    const callers = new Map<string, Caller>();
    for (const role of ROLES) callers.set(role, role === 'administrator' ? admin : await desk.as(role));
    for (const [name, spec] of Object.entries<RouteSpec>(routes)) {
      if (spec.roles === 'public') continue;
      const out = await new Caller(desk.address).raw(
        spec.method,
        fill(spec),
        spec.method === 'GET' ? undefined : {},
      );
      expect([name, out.status]).toEqual([name, 401]);
      for (const role of ROLES) {
        if (name === 'signOut' || name === 'changePassword') continue;
        const answer = await callers
          .get(role)!
          .raw(spec.method, fill(spec), spec.method === 'GET' ? undefined : {});
        if (spec.roles.includes(role))
          expect([name, role, answer.status === 403 || answer.status >= 500]).toEqual([name, role, false]);
        else expect([name, role, answer.status]).toEqual([name, role, 403]);
        await answer.body?.cancel();
      }
    }
  });
  it('an operator sees only their own record, a supervisor only the team', async () => {
    const operator = await desk.as('operator');
    expect((await operator.call(routes.person, { params: { id: ids.operatorId } })).status).toBe(200);
    expect((await operator.call(routes.person, { params: { id: ids.otherId } })).status).toBe(404);
    const supervisor = await desk.as('supervisor');
    expect((await supervisor.call(routes.person, { params: { id: ids.operatorId } })).status).toBe(200);
    expect((await supervisor.call(routes.person, { params: { id: ids.otherId } })).status).toBe(404);
    const listed = (await supervisor.call(routes.people, {})).body as { rows: { person: { id: string } }[] };
    expect(listed.rows.map((each) => each.person.id)).toEqual([ids.operatorId]);
  });
  it('refuses a write that another site started', async () => {
    const crossed = new Caller(desk.address, {
      origin: 'https://elsewhere.example',
      'sec-fetch-site': 'cross-site',
    });
    expect(
      (await crossed.call(routes.signIn, { body: { login: 'trainer', password: PASSWORD } })).problem.code,
    ).toBe('cross-site');
  });
});

describe('sessions', () => {
  it('end after twelve hours without use, and the answer says so', async () => {
    const trainer = await desk.as('trainer');
    desk.setClock(new Date(Date.now() + 13 * 3_600_000));
    const ended = await trainer.call(routes.today, {});
    desk.setClock(null);
    expect(ended.problem).toMatchObject({ status: 401, code: 'not-signed-in' });
  });
  it('change their token every hour, and the one before still serves requests under way', async () => {
    const trainer = await desk.as('trainer');
    const before = trainer.cookie;
    desk.setClock(new Date(Date.now() + 2 * 3_600_000));
    expect((await trainer.call(routes.today, {})).status).toBe(200);
    expect(trainer.cookie).not.toBe(before);
    const late = new Caller(desk.address);
    late.cookie = before;
    expect((await late.call(routes.today, {})).status).toBe(200);
    // Once the new one has come back, the one before is over after a while.
    expect((await trainer.call(routes.today, {})).status).toBe(200);
    desk.setClock(new Date(Date.now() + 2 * 3_600_000 + 10 * 60_000));
    expect((await late.call(routes.today, {})).status).toBe(401);
  });
  it('stop guessing of passwords', async () => {
    const nobody = new Caller(desk.address);
    const codes: string[] = [];
    for (let i = 0; i < 10; i++)
      codes.push(
        (await nobody.call(routes.signIn, { body: { login: 'ghost', password: 'wrong' } })).problem.code,
      );
    expect(codes.slice(0, 8)).toEqual(Array(8).fill('wrong-sign-in'));
    expect(codes.at(-1)).toBe('too-many-attempts');
  });
  it('of a closed account end at once, and the last administrator stays', async () => {
    const made = (
      await admin.call(routes.addAccount, {
        body: { name: 'T', login: 'leaver', password: PASSWORD, role: 'trainer' },
      })
    ).body as { id: string };
    const leaver = await desk.as('leaver');
    await admin.call(routes.changeAccount, { params: { id: made.id }, body: { active: false } });
    expect((await leaver.call(routes.today, {})).status).toBe(401);
    const own = (await admin.call(routes.session, {})).body as { id: string };
    expect(
      (await admin.call(routes.changeAccount, { params: { id: own.id }, body: { active: false } })).problem
        .code,
    ).toBe('last-administrator');
  });
});

describe('the roster', () => {
  const header = 'Payroll,Given name,Family name,Site,Team,Date of birth\r\n';
  const preview = (csv: string) => admin.call(routes.previewImport, { body: { csv } });
  const count = async () => ((await admin.call(routes.people, {})).body as { total: number }).total;

  it('shows every rejected row and why, and writes only when asked', async () => {
    const before = await count();
    const rows = [
      `100,Anna,"O'Neil, jr",Quay,Blue,1990-02-28`,
      '100,Bo,Twice,Quay,Blue,',
      '101,,Nameless,Quay,Blue,',
      '102,Cy,Date,Quay,Blue,31/02/1990',
      '103,Di,Short,Quay',
      `104,Ed,Long,Quay,${'x'.repeat(300)},`,
      '105,<script>alert(1)</script>,Tag,Quay,Blue,28.2.1991',
    ];
    const csv = `${header}${rows.join('\r\n')}\r\n`;
    const shown = (await preview(csv)).body as {
      accepted: number;
      rejected: { row: number; reasons: string[] }[];
    };
    expect(shown.accepted).toBe(2);
    expect(shown.rejected.map((each) => each.row)).toEqual([3, 4, 5, 6, 7]);
    const why = [
      'stands already in row 2',
      'given name is empty',
      'not a date that exists',
      '4 cells where the heading has 6',
      'longer than',
    ];
    shown.rejected.forEach((each, i) => expect(each.reasons.join()).toContain(why[i]));
    expect(await count()).toBe(before);
    const done = await admin.call(routes.importPeople, { body: { csv } });
    expect(done.body).toMatchObject({ added: 2 });
    expect(await count()).toBe(before + 2);
    expect((await preview(csv)).body).toMatchObject({ added: 0, changed: 0, unchanged: 2 });
  });
  it.each([
    ['a wrong encoding', '\uFFFDlaf;x\r\n1;2\r\n', 'csv-unreadable', /UTF-8/],
    ['UTF-16', 'P\u0000a\u0000\r\n1,2', 'csv-unreadable', /zero bytes/],
    [
      'an open quotation mark',
      `${header}1,"Anna,B,Quay,Blue,\r\n2,C,D,Quay,Blue,\r\n`,
      'csv-unreadable',
      /stopped at line/,
    ],
    ['no rows', header, 'csv-empty', /at least one row/],
    ['nothing', '', 'csv-empty', /heading line/],
  ])('refuses %s with a clear message and writes nothing', async (_what, csv, code, says) => {
    const before = await count();
    for (const route of [routes.previewImport, routes.importPeople]) {
      const { problem } = await admin.call(route, { body: { csv } });
      expect(problem.code).toBe(code);
      expect(problem.detail).toMatch(says);
    }
    expect(await count()).toBe(before);
  });
  it('refuses more than 5 MB', async () => {
    expect((await preview(`${header}${'x'.repeat(5_100_000)}`)).problem).toMatchObject({
      status: 422,
      code: 'invalid',
    });
    expect((await preview('x'.repeat(13_000_000))).problem).toMatchObject({ status: 413, code: 'too-large' });
  });
  it('imports a large file in one go', async () => {
    const rows = Array.from(
      { length: 3000 },
      (_, i) => `9${i},Given${i},Family${i},Quay,Crew ${i % 7},`,
    ).join('\r\n');
    expect((await admin.call(routes.importPeople, { body: { csv: header + rows } })).body).toMatchObject({
      added: 3000,
      rejected: [],
    });
    const seen = new Set<string>();
    let cursor: string | null = null;
    do {
      const page = (await admin.call(routes.people, { query: { limit: 200, ...(cursor ? { cursor } : {}) } }))
        .body as {
        rows: { person: { id: string } }[];
        next: string | null;
      };
      page.rows.forEach((each) => seen.add(each.person.id));
      cursor = page.next;
    } while (cursor);
    expect(seen.size).toBe(await count());
  });
  it('exports what a spreadsheet will not run, and reads its own export back unchanged', async () => {
    await admin.call(routes.addPerson, {
      body: { payroll: '=1+1', givenName: '+cmd', familyName: 'Formula', site: 'Quay', team: 'Blue' },
    });
    const text = await (await admin.raw('GET', '/api/people.csv')).text();
    expect(text).toContain("'=1+1");
    expect(text).toContain("'+cmd");
    const again = (await admin.call(routes.previewImport, { body: { csv: text } })).body as {
      added: number;
      changed: number;
      rejected: unknown[];
    };
    expect(again).toMatchObject({ changed: 0, rejected: [] });
  });
});

describe('an evaluation on the server', () => {
  it('goes from planted faults to a certificate, and refuses each shortcut', async () => {
    const trainer = await desk.as('trainer');
    const id = await prepare(trainer);
    await send(trainer, id, [
      { kind: 'planted', fault: 'CF-F10' },
      ...wholeRound(pack),
      { kind: 'reported', checkpoint: 'CF-13', fault: 'CF-F10', grade: 'mend', prompted: false, real: false },
    ]);
    const decide = (outcome: 'competent' | 'not-yet', reason?: string) =>
      send(trainer, id, [{ kind: 'decided', outcome, ...(reason ? { reason } : {}) }]);
    expect((await decide('competent')).problem).toMatchObject({ code: 'planted-faults-remain' });
    expect(
      (await send(trainer, id, [{ kind: 'signed', role: 'trainer', strokes: STROKES }])).problem.code,
    ).toBe('not-decided');
    await send(trainer, id, [{ kind: 'retrieved', fault: 'CF-F10' }]);
    expect((await decide('competent')).problem.code).toBe('not-complete');
    await send(trainer, id, wholeSheet(pack));
    expect((await decide('not-yet')).problem.code).toBe('override-needs-reason');
    expect((await decide('competent')).status).toBe(200);
    expect(
      (await send(trainer, id, [{ kind: 'checked', checkpoint: 'CF-61', result: 'missed' }])).problem.code,
    ).toBe('evaluation-closed');
    await send(trainer, id, [{ kind: 'signed', role: 'trainer', strokes: STROKES }]);
    const signed = (await send(trainer, id, [{ kind: 'signed', role: 'operator', strokes: STROKES }]))
      .body as {
      certificate: { token: string };
      summary: { phase: string; score: number };
    };
    expect(signed.summary).toMatchObject({ phase: 'closed', score: 100 });
    const person = (await trainer.call(routes.person, { params: { id: ids.operatorId } })).body as {
      standings: { classId: string; standing: { status: string; familiarisedWith: string[] } }[];
    };
    expect(person.standings[0]!.standing).toMatchObject({ status: 'valid', familiarisedWith: ['T-1'] });

    const nobody = new Caller(desk.address);
    const answer = (await nobody.call(routes.verify, { params: { token: signed.certificate.token } }))
      .body as Record<string, unknown>;
    expect(answer).toEqual({ known: true, valid: true, on: expect.any(String) as string });
    await admin.call(routes.addCertificationEvent, {
      params: { id: ids.operatorId },
      body: {
        classId: 'counterbalance-forklift',
        on: String(answer['on']),
        body: { kind: 'trigger', trigger: 'incident' },
      },
    });
    expect(
      (await nobody.call(routes.verify, { params: { token: signed.certificate.token } })).body,
    ).toMatchObject({ known: true, valid: false });
    expect((await nobody.call(routes.verify, { params: { token: 'guess' } })).body).toMatchObject({
      known: false,
      valid: false,
    });

    const folder = mkdtempSync(join(tmpdir(), 'papers-'));
    for (const [name, spec, params] of [
      ['card', routes.card, { token: signed.certificate.token }],
      ['report', routes.report, { id }],
    ] as const) {
      const pdf = await trainer.call(spec as RouteSpec, { params } as never);
      writeFileSync(join(folder, `${name}.pdf`), Buffer.from(pdf.body as ArrayBuffer));
      const text = execFileSync('pdftotext', ['-layout', join(folder, `${name}.pdf`), '-'], {
        encoding: 'utf8',
      });
      expect(text).toContain('Olla Tester');
      expect(
        execFileSync('pdffonts', [join(folder, `${name}.pdf`)], { encoding: 'utf8' })
          .split('\n')
          .slice(2)
          .filter(Boolean)
          .every((line) => /\byes\s+(yes|no)\s+(yes|no)/.test(line)),
      ).toBe(true);
    }
  });

  it('keeps an override and its reason for ever', async () => {
    const trainer = await desk.as('trainer');
    const id = await prepare(trainer, ids.otherId);
    await send(trainer, id, [
      ...wholeRound(pack),
      ...wholeSheet(pack),
      {
        kind: 'decided',
        outcome: 'not-yet',
        override: { kind: 'seen-otherwise', words: 'rushed the last three loads' },
      },
    ]);
    const opened = (await trainer.call(routes.evaluation, { params: { id } })).body as {
      summary: { overridden: boolean; outcome: string };
    };
    expect(opened.summary).toMatchObject({ overridden: true, outcome: 'not-yet' });
  });

  it('takes a repeated send once, and all of a batch or nothing', async () => {
    const trainer = await desk.as('trainer');
    const id = await prepare(trainer);
    const event = {
      id: uuidv7(),
      at: new Date().toISOString(),
      body: { kind: 'arrived', station: 'st-01' } satisfies EvaluationEventBody,
    };
    const post = (events: object[]) =>
      trainer.call(routes.appendEvents, {
        params: { id },
        body: { device: DEVICE, events: events as never },
      });
    for (let i = 0; i < 3; i++) expect((await post([event])).status).toBe(200);
    expect(
      (
        await post([
          { ...event, id: uuidv7() },
          { ...event, id: uuidv7(), body: { kind: 'arrived', station: 'st-99' } },
        ])
      ).problem.code,
    ).toBe('unknown-row');
    expect(
      ((await trainer.call(routes.evaluation, { params: { id } })).body as { events: unknown[] }).events
        .length,
    ).toBe(1);
  });

  it('is written by one device at a time; the other may take over with a reason', async () => {
    const first = await desk.as('trainer');
    const second = await desk.as('trainer2');
    const id = await prepare(first);
    const held = (
      await second.call(routes.holdEvaluation, { params: { id }, body: { device: 'another-device' } })
    ).body as { held: boolean; holder: { name: string } };
    expect(held).toMatchObject({ held: false, holder: { name: 'trainer' } });
    expect((await send(second, id, [{ kind: 'round-started' }], 'another-device')).problem.code).toBe(
      'evaluation-held',
    );
    expect(
      (
        await second.call(routes.holdEvaluation, {
          params: { id },
          body: { device: 'another-device', takeOver: 'tablet of the first went flat' },
        })
      ).body,
    ).toMatchObject({ held: true });
    expect((await send(second, id, [{ kind: 'round-started' }], 'another-device')).status).toBe(200);
    expect((await send(first, id, [{ kind: 'round-ended' }])).problem.code).toBe('evaluation-held');
    const opened = (await first.call(routes.evaluation, { params: { id } })).body as {
      events: { body: { kind: string } }[];
    };
    expect(opened.events.map((each) => each.body.kind)).toEqual(['taken-over', 'round-started']);
  });

  it('refuses over-long text, unknown fields, a clock far off, a class without a pack', async () => {
    const trainer = await desk.as('trainer');
    const id = await prepare(trainer);
    expect((await send(trainer, id, [{ kind: 'noted', words: 'x'.repeat(3000) }])).problem.code).toBe(
      'invalid',
    );
    expect((await trainer.raw('POST', `/api/evaluations/${id}/events`, '{"device": ')).status).toBe(422);
    expect(
      (await send(trainer, id, [{ kind: 'round-started' }], DEVICE, '2001-01-01T00:00:00Z')).problem.detail,
    ).toMatch(/clock/);
    expect(
      (
        await trainer.call(routes.createEvaluation, {
          body: {
            id: uuidv7(),
            personId: ids.operatorId,
            classId: 'counterbalance-forklift',
            unitId: ids.unitId,
            variant: 'steam',
            features: {},
            conditions: '',
            device: DEVICE,
          },
        })
      ).problem.code,
    ).toBe('composition');
  });

  it('never changes or deletes what proves something', async () => {
    for (const table of ['evaluation_event', 'certification_event', 'audit'])
      for (const statement of [`update ${table} set account_id = account_id`, `delete from ${table}`])
        await expect(desk.house.db.execute(sql.raw(statement))).rejects.toThrow();
  });
});

describe('certification on the server', () => {
  it('records only what has happened, and leaves evaluations to signing', async () => {
    const post = (body: object, on = '2020-01-01') =>
      admin.call(routes.addCertificationEvent, {
        params: { id: ids.otherId },
        body: { classId: 'counterbalance-forklift', on, body: body as never },
      });
    expect((await post({ kind: 'medical' }, '2199-01-01')).problem.code).toBe('date-in-future');
    expect((await post({ kind: 'evaluation-passed' })).problem.code).toBe('forbidden');
    expect((await post({ kind: 'suspended', words: '' })).problem.code).toBe('invalid');
    expect((await post({ kind: 'certificate-recorded', until: '2020-02-30' })).problem.code).toBe('invalid');
    expect((await post({ kind: 'certificate-recorded' })).body).toMatchObject({ status: 'lapsed' });
  });
  it('lets a supervisor raise a trigger for the team and nothing else', async () => {
    const supervisor = await desk.as('supervisor');
    const post = (id: string, body: object) =>
      supervisor.call(routes.addCertificationEvent, {
        params: { id },
        body: { classId: 'counterbalance-forklift', on: '2020-01-02', body: body as never },
      });
    expect((await post(ids.operatorId, { kind: 'trigger', trigger: 'near-miss' })).status).toBe(200);
    expect((await post(ids.operatorId, { kind: 'reinstated', words: 'I say so' })).status).toBe(403);
    expect((await post(ids.otherId, { kind: 'trigger', trigger: 'near-miss' })).status).toBe(404);
  });
  it('keeps rule sets by their date', async () => {
    const strict = { ...DEFAULT_RULES, validMonths: 12 };
    await admin.call(routes.setRules, {
      body: { effectiveFrom: '2199-01-01', rules: strict, given: 'keep' },
    });
    expect((await admin.call(routes.rules, {})).body).toMatchObject({ rules: { validMonths: 36 } });
    expect(
      (
        await admin.call(routes.setRules, {
          body: { effectiveFrom: '2021-01-01', rules: strict, given: 'keep' },
        })
      ).problem.code,
    ).toBe('date-in-past');
    const { today } = (await admin.call(routes.installation, {})).body as { today: string };
    await admin.call(routes.setRules, { body: { effectiveFrom: today, rules: strict, given: 'keep' } });
    expect((await admin.call(routes.rules, {})).body).toMatchObject({
      effectiveFrom: today,
      rules: { validMonths: 12 },
    });
  });
});
