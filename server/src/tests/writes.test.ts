import { randomUUID } from 'node:crypto';
import { type RouteAnswer, type RouteCall, routes, type RouteSpec } from '@rounds/contract';
import { packToYaml } from '@rounds/core/catalogue';
import { DEFAULT_RULES } from '@rounds/core/certification';
import type { DeviceEventBody } from '@rounds/core/evaluation';
import { sql } from 'drizzle-orm';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { tables } from '../index';
import { Caller, DEVICE, forklift, FORKLIFT, openYard, PASSWORD, send, startDesk, type Yard } from './desk';

/** No write half done, none that overtakes another, none without its line in the audit. */
let yard: Yard;
let trainer: Caller;
let second: Caller;
beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
  second = await yard.as('trainer2');
});
afterEach(() => yard.setClock(null));
afterAll(() => yard.stop());

const times = <T>(n: number, what: (i: number) => Promise<T>) =>
  Promise.all(Array.from({ length: n }, (_, i) => what(i)));
const tally = (codes: readonly string[]) =>
  Object.fromEntries([...new Set(codes)].map((code) => [code, codes.filter((each) => each === code).length]));
const codes = async (answers: Promise<{ status: number; problem: { code?: string } }[]>) =>
  tally((await answers).map((each) => (each.status === 200 ? 'done' : each.problem.code!)));

describe('many at once', () => {
  it('make one administrator', async () => {
    const empty = await startDesk();
    const made = await codes(
      times(8, (i) =>
        new Caller(empty.address).call(routes.createAdministrator, {
          body: {
            organisation: `Yard ${i}`,
            name: `Ada ${i}`,
            login: `ada${i}`,
            password: PASSWORD,
            timeZone: 'UTC',
          },
        }),
      ),
    );
    const accounts = await empty.house.db.select().from(tables.account);
    await empty.stop();
    expect(made['done']).toBe(1);
    expect(accounts.length).toBe(1);
  });
  it('prepare one evaluation of a number', async () => {
    const id = uuidv7();
    const body = {
      id,
      personId: yard.ids.operatorId,
      classId: FORKLIFT,
      unitId: yard.ids.unitId,
      variant: 'diesel',
      features: {},
      conditions: '',
      device: DEVICE,
    };
    expect(
      await codes(times(6, (i) => (i % 2 === 0 ? trainer : second).call(routes.createEvaluation, { body }))),
    ).toEqual({ done: 3, 'evaluation-exists': 3 });
    expect((await yard.audited('evaluation-prepared')).filter((each) => each.subject === id).length).toBe(1);
  });
  it('hold an evaluation one device at a time', async () => {
    const id = await yard.prepare(trainer);
    const answers = await times(4, (i) =>
      second.call(routes.holdEvaluation, {
        params: { id },
        body: { device: `device-number-${i}`, takeOver: 'I take it over' },
      }),
    );
    const held = answers.map((each) => (each.body as { holder: { device: string } }).holder.device);
    const { holder, events } = (await trainer.call(routes.evaluation, { params: { id } })).body as {
      holder: { device: string };
      events: { body: { kind: string } }[];
    };
    // Each took it over from the one before, in some order, and the last one holds it.
    expect(held).toContain(holder.device);
    expect(events.filter((each) => each.body.kind === 'taken-over').length).toBe(4);
    const free = await times(4, (i) =>
      trainer.call(routes.holdEvaluation, { params: { id }, body: { device: `another-number-${i}` } }),
    );
    expect(free.map((each) => (each.body as { held: boolean }).held)).toEqual([false, false, false, false]);
  });
  it('publish a draft once, under one number', async () => {
    const source = packToYaml({ ...forklift(), summary: 'A summary that two people publish at one moment.' });
    const saved = (
      await trainer.call(routes.saveDraft, { params: { id: FORKLIFT }, body: { source, version: 0 } })
    ).body as { version: number };
    const note = 'both at once';
    expect(
      await codes(
        times(5, () =>
          trainer.call(routes.publishDraft, {
            params: { id: FORKLIFT },
            body: { version: saved.version, note },
          }),
        ),
      ),
    ).toEqual({
      done: 1,
      'draft-moved': 4,
    });
    const { revisions } = (await trainer.call(routes.classRevisions, { params: { id: FORKLIFT } })).body as {
      revisions: { revision: number }[];
    };
    expect(new Set(revisions.map((each) => each.revision)).size).toBe(revisions.length);
  });
  it('save one draft over another only when they have seen it', async () => {
    const save = (version: number) =>
      trainer.call(routes.saveDraft, {
        params: { id: FORKLIFT },
        body: { source: `id: ${FORKLIFT}\n`, version },
      });
    expect(await codes(times(4, () => save(0)))).toEqual({ done: 1, 'draft-moved': 3 });
    expect(await codes(times(4, () => save(1)))).toEqual({ done: 1, 'draft-moved': 3 });
    await trainer.call(routes.dropDraft, { params: { id: FORKLIFT } });
  });
  it('choose between schools only over what they saw', async () => {
    const school = forklift().schools[0]!;
    const choose = (i: number) =>
      trainer.call(routes.chooseSchool, {
        params: { id: FORKLIFT },
        body: {
          site: 'Quay',
          schoolId: school.id,
          optionId: school.options[i % school.options.length]!.id,
          reason: 'because we do so',
          instead: null,
        },
      });
    expect(await codes(times(4, choose))).toEqual({ done: 1, 'choice-moved': 3 });
  });
  it('give a sign-in name, a payroll number and a machine name once', async () => {
    expect(
      await codes(
        times(4, () =>
          yard.admin.call(routes.addAccount, {
            body: { name: 'T', login: 'twin', password: PASSWORD, role: 'trainer' },
          }),
        ),
      ),
    ).toEqual({
      done: 1,
      'login-taken': 3,
    });
    const person = { payroll: '777', givenName: 'Twin', familyName: 'Tester', site: 'Quay', team: 'Blue' };
    expect(await codes(times(4, () => trainer.call(routes.addPerson, { body: person })))).toEqual({
      done: 1,
      'payroll-taken': 3,
    });
    const unit = { classId: FORKLIFT, name: 'Twin truck', site: 'Quay', variant: 'diesel', features: {} };
    expect(await codes(times(4, () => trainer.call(routes.addUnit, { body: unit })))).toEqual({
      done: 1,
      'unit-taken': 3,
    });
  });
  it('rotate a session once, and no device is left with a dead cookie', async () => {
    for (let run = 0; run < 10; run++) {
      const device = await yard.as('trainer');
      const start = Date.now();
      yard.setClock(new Date(start + 2 * 3_600_000));
      // A browser keeps whichever cookie the last answer set.
      await times(6, () => device.call(routes.session, {}));
      yard.setClock(new Date(start + 2 * 3_600_000 + 300_000));
      expect((await device.call(routes.session, {})).status).toBe(200);
      yard.setClock(null);
    }
  });
  it('send the same taps: each is there once', async () => {
    const id = await yard.prepare(trainer);
    const event = (words: string) => ({
      id: uuidv7(),
      at: new Date().toISOString(),
      body: { kind: 'noted', words } satisfies DeviceEventBody,
    });
    const events = [event('one'), event('two'), event('three')];
    expect(
      await codes(
        times(5, () =>
          trainer.call(routes.appendEvents, {
            params: { id },
            body: { device: DEVICE, events: [...events, events[0]!] },
          }),
        ),
      ),
    ).toEqual({
      done: 5,
    });
    const opened = (await trainer.call(routes.evaluation, { params: { id } })).body as {
      events: { body: { words: string } }[];
    };
    expect(opened.events.map((each) => each.body.words)).toEqual(['one', 'two', 'three']);
  });
  it('record a fact about a person once when it is sent twice', async () => {
    const id = uuidv7();
    const post = () =>
      trainer.call(routes.addCertificationEvent, {
        params: { id: yard.ids.otherId },
        body: { id, classId: FORKLIFT, on: '2026-01-05', body: { kind: 'hours-logged', hours: 3 } },
      });
    expect(await codes(times(4, post))).toEqual({ done: 4 });
    const person = (await trainer.call(routes.person, { params: { id: yard.ids.otherId } })).body as {
      history: { id: string }[];
    };
    expect(person.history.filter((each) => each.id === id).length).toBe(1);
  });
});

describe('an event', () => {
  it('recorded under one evaluation is refused under another, with a code and not a failure', async () => {
    const [one, other] = [await yard.prepare(trainer), await yard.prepare(trainer)];
    const events = [
      {
        id: uuidv7(),
        at: new Date().toISOString(),
        body: { kind: 'noted', words: 'once' } satisfies DeviceEventBody,
      },
    ];
    const post = (id: string) =>
      trainer.call(routes.appendEvents, { params: { id }, body: { device: DEVICE, events } });
    expect((await post(one)).status).toBe(200);
    expect((await post(other)).problem).toMatchObject({ status: 409, code: 'event-elsewhere' });
  });
  it('made by another account is not taken as the caller’s', async () => {
    const id = await yard.prepare(trainer);
    const events = [
      {
        id: uuidv7(),
        at: new Date().toISOString(),
        body: { kind: 'noted', words: 'once' } satisfies DeviceEventBody,
      },
    ];
    const answer = await trainer.call(routes.appendEvents, {
      params: { id },
      body: { device: DEVICE, as: randomUUID(), events },
    });
    expect(answer.problem.code).toBe('wrong-account');
  });
});

describe('a change of a person', () => {
  it('leaves what was not sent as it was, and the audit has before and after', async () => {
    const made = (
      await trainer.call(routes.addPerson, {
        body: {
          payroll: '900',
          givenName: 'Keep',
          familyName: 'Tester',
          site: 'Quay',
          team: 'Blue',
          email: 'k@yard.example',
          born: '2010-02-03',
          started: '2026-01-02',
        },
      })
    ).body as { id: string };
    const changed = (
      await trainer.call(routes.changePerson, { params: { id: made.id }, body: { team: 'Green' } })
    ).body;
    expect(changed).toMatchObject({
      team: 'Green',
      email: 'k@yard.example',
      born: '2010-02-03',
      started: '2026-01-02',
    });
    expect((await yard.audited('person-changed'))[0]).toMatchObject({
      subject: made.id,
      detail: { team: { before: 'Blue', after: 'Green' } },
    });
    const emptied = (
      await trainer.call(routes.changePerson, { params: { id: made.id }, body: { email: null } })
    ).body;
    expect(emptied).toMatchObject({ email: null, born: '2010-02-03' });
  });
});

describe('the audit', () => {
  it('says by name what a line is about, and nothing where it is about nothing known', async () => {
    const id = await yard.prepare(trainer);
    await trainer.call(routes.changePerson, {
      params: { id: yard.ids.otherId },
      body: { team: 'Yellow' },
    });
    await trainer.call(routes.changePerson, { params: { id: yard.ids.otherId }, body: { team: 'Green' } });
    await new Caller(yard.address).call(routes.signIn, {
      body: { login: 'nobody-at-all', password: PASSWORD },
    });
    const { rows } = (await yard.admin.call(routes.audit, { query: { limit: 200 } })).body as RouteAnswer<
      typeof routes.audit
    >;
    const about = (act: string, subject?: string) =>
      rows.find((each) => each.act === act && (!subject || each.subject === subject))?.about;
    expect(about('evaluation-prepared', id)).toBe('evaluation of Olla Tester on T-1');
    expect(about('person-changed', yard.ids.otherId)).toBe('Pim Tester');
    expect(about('signed-in')).toMatch(/^[a-zA-Z]/);
    expect(about('unit-added', yard.ids.unitId)).toBe('T-1');
    expect(about('sign-in-failed', 'nobody-at-all')).toBe('nobody-at-all');
    expect(rows.filter((each) => /^[0-9a-f-]{36}$/.test(each.about ?? ''))).toEqual([]);
  });
  it('has a line for every act that matters', async () => {
    const nobody = new Caller(yard.address);
    await nobody.call(routes.signIn, { body: { login: 'trainer', password: 'wrong password' } });
    await trainer.call(routes.exportPeople, {});
    await trainer.call(routes.saveDraft, {
      params: { id: FORKLIFT },
      body: { source: `id: ${FORKLIFT}\n`, version: 0 },
    });
    await trainer.call(routes.dropDraft, { params: { id: FORKLIFT } });
    await trainer.call(routes.importPeople, {
      body: {
        csv: 'Payroll,Given name,Family name,Site,Team\n1,Olla,Tester,Quay,Green\n888,New,Person,Quay,Blue\n',
      },
    });
    const account = (
      await yard.admin.call(routes.addAccount, {
        body: { name: 'R', login: 'reset', password: PASSWORD, role: 'trainer' },
      })
    ).body as { id: string };
    await yard.admin.call(routes.changeAccount, {
      params: { id: account.id },
      body: { password: 'another long one' },
    });
    for (const act of [
      'signed-in',
      'sign-in-failed',
      'people-exported',
      'draft-saved',
      'draft-dropped',
      'account-added',
      'password-reset',
      'people-imported',
    ])
      expect([act, (await yard.audited(act)).length > 0]).toEqual([act, true]);
    const imported = await yard.audited('people-imported');
    expect(JSON.stringify(imported)).toMatch(
      /"team":\{"after":"Green","before":"Blue"\}|"team":\{"before":"Blue","after":"Green"\}/,
    );
    expect(JSON.stringify((await yard.admin.call(routes.audit, { query: { limit: 200 } })).body)).not.toMatch(
      /another long one|a long password|\$argon2/,
    );
    await trainer.call(routes.importPeople, {
      body: { csv: 'Payroll,Given name,Family name,Site,Team\n1,Olla,Tester,Quay,Blue\n' },
    });
  });

  it('stands or falls with the write it is about', async () => {
    // From here on no audit line can be written; then no write may have happened either.
    const { db } = yard.house;
    await db.execute(
      sql.raw(
        'create function no_audit() returns trigger language plpgsql as $$ begin raise ' +
          "exception 'no audit'; end $$",
      ),
    );
    await db.execute(
      sql.raw('create trigger no_audit before insert on audit for each row execute function no_audit()'),
    );
    const counts = async () => {
      const all: Record<string, string> = {};
      for (const table of [
        'person',
        'account',
        'unit',
        'evaluation',
        'evaluation_event',
        'certification_event',
        'rule_set',
        'school_choice',
        'pack_draft',
        'pack_revision',
        'session',
        'standing',
      ]) {
        const result = (await db.execute(
          sql.raw(
            `select md5(coalesce(string_agg(t::text, ',' order by t::text), '')) as sum from ${table} t`,
          ),
        )) as unknown as {
          rows: { sum: string }[];
        };
        all[table] = result.rows[0]!.sum;
      }
      return all;
    };
    const { today } = (await yard.nobody.call(routes.installation, {})).body as { today: string };
    const school = forklift().schools[0]!;
    const account = (await db.select().from(tables.account)).find((each) => each.login === 'workshop')!;
    const writes: [RouteSpec, object][] = [
      [
        routes.addPerson,
        { body: { payroll: '901', givenName: 'A', familyName: 'B', site: 'Quay', team: 'Blue' } },
      ],
      [routes.changePerson, { params: { id: yard.ids.operatorId }, body: { team: 'Red' } }],
      [
        routes.importPeople,
        { body: { csv: 'Payroll,Given name,Family name,Site,Team\n902,New,Person,Quay,Blue\n' } },
      ],
      [
        routes.addCertificationEvent,
        {
          params: { id: yard.ids.otherId },
          body: { classId: FORKLIFT, on: '2026-01-05', body: { kind: 'medical' } },
        },
      ],
      [
        routes.addUnit,
        { body: { classId: FORKLIFT, name: 'Unwritten', site: 'Quay', variant: 'diesel', features: {} } },
      ],
      [routes.addAccount, { body: { name: 'X', login: 'unwritten', password: PASSWORD, role: 'trainer' } }],
      [routes.changeAccount, { params: { id: account.id }, body: { active: false } }],
      [
        routes.setRules,
        { body: { effectiveFrom: today, rules: { ...DEFAULT_RULES, validMonths: 2 }, given: 'keep' } },
      ],
      [
        routes.chooseSchool,
        {
          params: { id: FORKLIFT },
          body: {
            site: 'Quay',
            schoolId: school.id,
            optionId: school.options[1]!.id,
            reason: 'because we do so',
          },
        },
      ],
      [routes.saveDraft, { params: { id: FORKLIFT }, body: { source: `id: ${FORKLIFT}\n`, version: 0 } }],
      [routes.withdrawClass, { params: { id: FORKLIFT }, body: { reason: 'no longer used' } }],
      [
        routes.createEvaluation,
        {
          body: {
            id: uuidv7(),
            personId: yard.ids.operatorId,
            classId: FORKLIFT,
            unitId: yard.ids.unitId,
            variant: 'diesel',
            features: {},
            conditions: '',
            device: DEVICE,
          },
        },
      ],
      [routes.signIn, { body: { login: 'trainer', password: PASSWORD } }],
    ];
    const before = await counts();
    for (const [spec, input] of writes) {
      const caller = spec === routes.signIn ? new Caller(yard.address) : yard.admin;
      const { status } = await caller.call(spec, input as RouteCall<RouteSpec>);
      expect([spec.path, status]).toEqual([spec.path, 500]);
      expect([spec.path, await counts()]).toEqual([spec.path, before]);
    }
    await db.execute(sql.raw('drop trigger no_audit on audit'));
    await db.execute(sql.raw('drop function no_audit()'));
  });
});

describe('what proves something', () => {
  it('is never changed, deleted or emptied', async () => {
    const id = await yard.prepare(trainer);
    await send(trainer, id, [{ kind: 'noted', words: 'proof' }]);
    await yard.house.db
      .insert(tables.certificate)
      .values({ token: 'proof', personId: yard.ids.operatorId, classId: FORKLIFT, eventId: uuidv7() });
    for (const table of [
      'evaluation_event',
      'certification_event',
      'audit',
      'certificate',
      'pack_revision',
      'school_choice',
      'rule_set',
    ]) {
      const [column] = (
        (await yard.house.db.execute(
          sql.raw(
            `select column_name as c from information_schema.columns where table_name = '${table}' limit 1`,
          ),
        )) as unknown as {
          rows: { c: string }[];
        }
      ).rows;
      const rows = (
        (await yard.house.db.execute(sql.raw(`select count(*)::int as n from ${table}`))) as unknown as {
          rows: { n: number }[];
        }
      ).rows[0]!.n;
      for (const statement of [
        `truncate ${table} cascade`,
        ...(rows > 0 ? [`update ${table} set ${column!.c} = ${column!.c}`, `delete from ${table}`] : []),
      ])
        await expect(yard.house.db.execute(sql.raw(statement)), statement).rejects.toThrow();
    }
  });
});
