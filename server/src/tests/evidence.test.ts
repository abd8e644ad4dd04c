import { routes, type RouteSpec } from '@rounds/contract';
import { compose } from '@rounds/core/catalogue';
import { type DeviceEventBody, faultName } from '@rounds/core/evaluation';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { createAccount } from '../index';
import {
  type Caller,
  DEVICE,
  forklift,
  FORKLIFT,
  openYard,
  PASSWORD,
  send,
  STROKES,
  wholeRound,
  wholeSheet,
  wholeText,
  type Yard,
} from './desk';

/** Evidence and fairness: what an evaluation proves, and who learns what of it when. */
let yard: Yard;
let trainer: Caller;
let second: Caller;
const pack = compose(forklift(), { variant: 'diesel' });
const stop = pack.faults.find((each) => each.grade === 'stop' && each.plant)!;

beforeAll(async () => {
  yard = await openYard();
  trainer = await yard.as('trainer');
  second = await yard.as('trainer2');
});
afterEach(() => yard.setClock(null));
afterAll(() => yard.stop());

const code = async (answer: ReturnType<typeof send>) => (await answer).problem.code ?? 'taken';
const decide = (outcome: 'competent' | 'not-yet' | 'stopped', words?: string): DeviceEventBody => ({
  kind: 'decided',
  outcome,
  ...(words ? { override: { kind: 'seen-otherwise', words } } : {}),
});
const sign = (role: 'trainer' | 'operator'): DeviceEventBody => ({ kind: 'signed', role, strokes: STROKES });
const read = async (id: string, by = trainer) =>
  (await by.call(routes.evaluation, { params: { id } })).body as {
    summary: { phase: string; stillPlanted: unknown[]; trainerName: string };
    events: { body: DeviceEventBody & { kind: string }; at: string; receivedAt: string; by: string }[];
  };

describe('a decision', () => {
  it.each<[string, DeviceEventBody[]]>([
    [
      'planted again after it was taken out',
      [
        { kind: 'planted', fault: 'CF-F10' },
        { kind: 'retrieved', fault: 'CF-F10' },
        { kind: 'planted', fault: 'CF-F10' },
      ],
    ],
    ['whose plant somebody tried to undo', [{ kind: 'planted', fault: 'CF-F10' }]],
  ])('waits for a fault %s', async (_, plants) => {
    const id = await yard.prepare(trainer);
    await send(trainer, id, plants);
    const planted = (await read(id)).events.find((each) => each.body.kind === 'planted') as unknown as {
      id: string;
    };
    expect(await code(send(trainer, id, [{ kind: 'undone', event: planted.id }]))).toBe('undo-refused');
    await send(trainer, id, [...wholeRound(pack), ...wholeSheet(pack)]);
    expect(await code(send(trainer, id, [decide('not-yet', 'nothing to be seen here')]))).toBe(
      'planted-faults-remain',
    );
  });
  it('refuses a retrieval before the plant, a second plant, and an undo before its cause', async () => {
    const id = await yard.prepare(trainer);
    expect(await code(send(trainer, id, [{ kind: 'retrieved', fault: 'CF-F10' }]))).toBe('plant-order');
    await send(trainer, id, [{ kind: 'planted', fault: 'CF-F10' }]);
    expect(await code(send(trainer, id, [{ kind: 'planted', fault: 'CF-F10' }]))).toBe('plant-order');
    const later = uuidv7();
    const at = new Date().toISOString();
    const answer = await trainer.call(routes.appendEvents, {
      params: { id },
      body: {
        device: DEVICE,
        events: [
          { id: uuidv7(), at, body: { kind: 'undone', event: later } },
          { id: later, at, body: { kind: 'arrived', station: 'st-01' } },
        ],
      },
    });
    expect(answer.problem.code).toBe('undo-refused');
  });
  it('takes a stated correction of a plant, with its reason on record', async () => {
    const id = await yard.prepare(trainer);
    await send(trainer, id, [{ kind: 'planted', fault: 'CF-F10' }]);
    const correct = (reason: string) =>
      send(trainer, id, [{ kind: 'plant-corrected', fault: 'CF-F10', says: 'never-planted', reason }]);
    expect(await code(correct('oops'))).toBe('invalid');
    expect((await correct('tapped the line above by mistake')).status).toBe(200);
    expect((await read(id)).summary.stillPlanted).toEqual([]);
    expect((await yard.audited('plant-corrected'))[0]).toMatchObject({
      by: 'trainer',
      detail: { fault: 'CF-F10' },
    });
  });
  it('against the computed outcome needs a kind and words of substance, and stays visible', async () => {
    const id = await yard.prepare(trainer, yard.ids.otherId);
    await send(trainer, id, [...wholeRound(pack), ...wholeSheet(pack)]);
    expect(await code(send(trainer, id, [decide('not-yet')]))).toBe('override-needs-reason');
    expect(await code(send(trainer, id, [decide('not-yet', 'x')]))).toBe('invalid');
    await send(trainer, id, [
      decide('not-yet', 'rushed the last three loads'),
      sign('trainer'),
      sign('operator'),
    ]);
    const person = (await trainer.call(routes.person, { params: { id: yard.ids.otherId } })).body as {
      history: { words: string }[];
      evaluations: object[];
    };
    expect(person.history[0]!.words).toMatch(/not passed.*overrode the computed outcome "competent"/);
    expect(person.evaluations[0]).toMatchObject({
      overridden: true,
      computed: 'competent',
      outcome: 'not-yet',
    });

    const passing = await yard.prepare(trainer, yard.ids.otherId);
    await send(trainer, passing, [
      ...wholeRound(pack),
      ...wholeSheet(pack).map((each) =>
        each.kind === 'scored' ? { ...each, result: 'not' as const } : each,
      ),
      decide('competent', 'scored the wrong column all through'),
      sign('trainer'),
      sign('operator'),
    ]);
    const held = (await trainer.call(routes.person, { params: { id: yard.ids.otherId } })).body as {
      standings: { standing: { overridden: boolean; reasons: string[] } }[];
    };
    expect(held.standings[0]!.standing).toMatchObject({ overridden: true });
    expect(held.standings[0]!.standing.reasons.join()).toMatch(/against the computed outcome/);
    const csv = new TextDecoder().decode((await trainer.call(routes.exportPeople, {})).body);
    expect(csv).toMatch(/valid until .* \(computed outcome overridden\)/);
  });
  it('passes over a missed stop or critical error only with a second, different account', async () => {
    const id = await yard.prepare(trainer);
    await send(trainer, id, [
      { kind: 'planted', fault: stop.id },
      ...wholeRound(pack),
      { kind: 'retrieved', fault: stop.id },
      ...wholeSheet(pack),
    ]);
    const lifting = decide('competent', 'the operator named it on the way back');
    expect(await code(send(trainer, id, [lifting]))).toBe('agreement-needed');
    const agree = async (login: string, password = PASSWORD, by = trainer) =>
      (
        await by.call(routes.agree, {
          params: { id },
          body: {
            id: uuidv7(),
            outcome: 'competent',
            words: 'I stood beside them and heard it',
            login,
            password,
          },
        })
      ).problem.code ?? 'taken';
    expect(await agree('trainer')).toBe('wrong-signer');
    expect(await agree('supervisor')).toBe('wrong-signer');
    expect(await agree('trainer2', 'a wrong password')).toBe('wrong-sign-in');
    expect(await agree('trainer2')).toBe('taken');
    // What weighs and comes after the agreement was not agreed to.
    await send(trainer, id, [{ kind: 'critical-error', error: pack.sheet.criticalErrors[0]!.id }]);
    expect(await code(send(trainer, id, [lifting]))).toBe('agreement-needed');
    expect(await agree('trainer2')).toBe('taken');
    expect((await send(trainer, id, [lifting])).status).toBe(200);
    expect((await yard.audited('evaluation-agreed'))[0]).toMatchObject({ by: 'second trainer' });
  });
});

describe('the person evaluated', () => {
  it('learns nothing of plants, key or appraisal before the decision, from any answer', async () => {
    const id = await yard.prepare(trainer);
    await send(trainer, id, [
      { kind: 'planted', fault: stop.id },
      ...wholeRound(pack),
      { kind: 'noted', words: 'a private remark of the trainer' },
    ]);
    const operator = await yard.as('operator');
    const answers: string[] = [];
    for (const [name, spec] of Object.entries<RouteSpec>(routes)) {
      if (spec.method !== 'GET' || (spec.roles !== 'public' && !spec.roles.includes('operator'))) continue;
      // The class itself is open to everybody; what is secret is which of its faults is in the machine.
      if (
        [
          'library',
          'machineClass',
          'classYaml',
          'classJson',
          'faultsCsv',
          'checkpointsCsv',
          'openapi',
        ].includes(name)
      )
        continue;
      const path = spec.path
        .replace(
          ':id',
          spec.path.startsWith('/evaluations')
            ? id
            : spec.path.startsWith('/people')
              ? yard.ids.operatorId
              : FORKLIFT,
        )
        .replace(':token', 'none');
      const answer = await operator.raw('GET', `/api${path}`);
      const text = await wholeText(answer);
      if (name === 'evaluation') {
        const opened = JSON.parse(text) as {
          events: unknown[];
          keyHidden: boolean;
          summary: { stillPlanted: unknown[]; phase: string };
          conditions: string;
          pack: unknown;
        };
        expect(opened).toMatchObject({
          events: [],
          keyHidden: true,
          conditions: '',
          summary: { stillPlanted: [], phase: 'reviewing' },
        });
        answers.push(JSON.stringify({ ...opened, pack: null }));
      } else answers.push(text);
    }
    for (const secret of [faultName(stop), 'a private remark', `"fault":"${stop.id}"`, 'retrieving'])
      expect(answers.join('\n')).not.toContain(secret);
    expect((await operator.call(routes.appraisal, { params: { id } })).problem.code).toBe('not-decided');
    expect((await operator.call(routes.report, { params: { id } })).problem.code).toBe('not-decided');

    await send(trainer, id, [{ kind: 'retrieved', fault: stop.id }, ...wholeSheet(pack), decide('not-yet')]);
    expect((await read(id, operator)).events.length).toBeGreaterThan(10);
    expect((await operator.call(routes.appraisal, { params: { id } })).status).toBe(200);
  });
  it('nor as a trainer; nobody evaluates, signs for or records facts about themselves', async () => {
    const own = await createAccount(yard.house, {
      name: 'Olla Trains',
      login: 'olla-trains',
      password: PASSWORD,
      role: 'trainer',
      team: null,
      personId: yard.ids.operatorId,
    });
    const self = await yard.as('olla-trains');
    const made = await self.call(routes.createEvaluation, {
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
    });
    expect(made.problem.code).toBe('own-record');
    const id = await yard.prepare(trainer);
    await send(trainer, id, [{ kind: 'planted', fault: stop.id }]);
    expect((await self.call(routes.evaluation, { params: { id } })).body).toMatchObject({
      events: [],
      keyHidden: true,
    });
    expect(JSON.stringify((await self.call(routes.today, {})).body)).not.toContain(faultName(stop));
    expect(
      (
        await self.call(routes.holdEvaluation, {
          params: { id },
          body: { device: 'own-device', takeOver: 'I would like to' },
        })
      ).problem.code,
    ).toBe('own-record');
    expect(await code(send(self, id, [{ kind: 'round-started' }]))).toBe('own-record');
    const fact = await self.call(routes.addCertificationEvent, {
      params: { id: yard.ids.operatorId },
      body: { classId: FORKLIFT, on: '2026-01-01', body: { kind: 'certificate-recorded' } },
    });
    expect(fact.problem.code).toBe('own-record');
    expect(own.role).toBe('trainer');
  });
});

describe('when something happened', () => {
  it('may not lie ahead, before the preparation, or further back than a device is offline', async () => {
    const prepared = Date.parse('2026-05-04T08:00:00Z');
    const at = (hours: number) => new Date(prepared + hours * 3_600_000);
    // An evaluation is prepared two hours before the clock.
    yard.setClock(at(2));
    const early = await yard.as('trainer');
    const id = await yard.prepare(early);
    const tap = (when: Date) =>
      code(send(early, id, [{ kind: 'noted', words: 'tap' }], DEVICE, when.toISOString()));
    expect(await tap(at(2.05))).toBe('taken');
    expect(await tap(at(3))).toBe('clock-off');
    expect(await tap(at(-0.05))).toBe('taken');
    expect(await tap(at(-1))).toBe('clock-off');
    yard.setClock(at(24 * 20));
    const late = await yard.as('trainer');
    const back = (when: Date) =>
      code(send(late, id, [{ kind: 'noted', words: 'tap' }], DEVICE, when.toISOString()));
    expect(await back(at(24 * 1))).toBe('clock-off');
    expect(await back(at(24 * 19))).toBe('taken');
    const { events } = await read(id, late);
    expect(events.at(-1)).toMatchObject({
      at: at(24 * 19).toISOString(),
      receivedAt: at(24 * 20).toISOString(),
    });
  });
});

describe('signatures', () => {
  const decided = async () => {
    const id = await yard.prepare(trainer);
    await send(trainer, id, [...wholeRound(pack), ...wholeSheet(pack), decide('competent')]);
    return id;
  };
  it('are drawn with enough of a stroke, within the field, once, and not after closing', async () => {
    const id = await decided();
    for (const strokes of ['', 'M1 1', 'M1 1L2 2', 'M1 1L1e24 9', 'M1 1L700 1'])
      expect(await code(send(trainer, id, [{ kind: 'signed', role: 'trainer', strokes }]))).toBe('invalid');
    expect((await send(trainer, id, [sign('trainer')])).status).toBe(200);
    expect(await code(send(trainer, id, [sign('trainer')]))).toBe('signed-already');
    expect((await send(trainer, id, [sign('operator')])).status).toBe(200);
    expect(await code(send(trainer, id, [sign('operator')]))).toBe('evaluation-closed');
    expect((await trainer.call(routes.report, { params: { id } })).status).toBe(200);
  });
  it('are given by full name and password where nobody can draw, as the account they stand for', async () => {
    const id = await decided();
    const by = async (role: 'trainer' | 'operator', name: string, login: string, password = PASSWORD) =>
      (
        await trainer.call(routes.signByName, {
          params: { id },
          body: { id: uuidv7(), device: DEVICE, role, name, login, password },
        })
      ).problem.code ?? 'taken';
    expect(await by('trainer', 'second trainer', 'trainer2')).toBe('wrong-signer');
    expect(await by('trainer', 'somebody', 'trainer')).toBe('wrong-signer');
    expect(await by('trainer', 'trainer', 'trainer', 'not the password')).toBe('wrong-sign-in');
    expect(await by('trainer', ' Trainer ', 'trainer')).toBe('taken');
    expect(await by('operator', 'Pim Tester', 'operator')).toBe('wrong-signer');
    expect(await by('operator', 'Olla Tester', 'operator')).toBe('taken');
    const { events, summary } = await read(id);
    expect(summary.phase).toBe('closed');
    expect(events.slice(-2).map((each) => [each.body.kind, each.by])).toEqual([
      ['signed-by-name', 'trainer'],
      ['signed-by-name', 'Olla Tester'],
    ]);
    expect(JSON.stringify(events)).not.toContain(PASSWORD);
  });
  it('after a take-over the paper names who decided, not who prepared', async () => {
    const id = await yard.prepare(trainer);
    await send(trainer, id, [...wholeRound(pack), ...wholeSheet(pack)]);
    await second.call(routes.holdEvaluation, {
      params: { id },
      body: { device: 'another-device', takeOver: 'the first was called away' },
    });
    expect(
      await code(send(second, id, [{ kind: 'taken-over', reason: 'by hand' } as never], 'another-device')),
    ).toBe('invalid');
    await send(second, id, [decide('competent'), sign('trainer'), sign('operator')], 'another-device');
    const { summary, events } = await read(id);
    expect(summary.trainerName).toBe('second trainer');
    expect(events.find((each) => each.body.kind === 'signed')!.by).toBe('second trainer');
    const person = (await trainer.call(routes.person, { params: { id: yard.ids.operatorId } })).body as {
      history: { by: string; evaluation: string | null }[];
    };
    expect(person.history.filter((each) => each.evaluation === id).map((each) => each.by)).toEqual([
      'second trainer',
      'second trainer',
    ]);
  });
});
