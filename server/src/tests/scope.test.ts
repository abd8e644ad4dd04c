import { type Role, ROLES, type RouteAnswer, routes, type RouteSpec } from '@rounds/contract';
import { compose } from '@rounds/core/catalogue';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { createAccount } from '../index';
import {
  Caller,
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

/** Whose records each role sees, in every list, file and answer. */
let yard: Yard;
const callers = new Map<string, Caller>();
const pack = compose(forklift(), { variant: 'diesel' });
/**
 * One person of the supervisor's team, one of another; each with an evaluation, a certificate and a
 * standing.
 */
const people = {
  own: { id: '', evaluation: '', token: '', sequence: '' },
  other: { id: '', evaluation: '', token: '', sequence: '' },
};
/** A procedure that the sheet does not ask for, so that how it went decides nothing. */
const asked = pack.sheet.sections.flatMap((each) => each.criteria.flatMap((c) => c.link?.procedures ?? []));
const unasked = pack.procedures.find((each) => !asked.includes(each.id))!.id;

beforeAll(async () => {
  yard = await openYard();
  people.own.id = yard.ids.operatorId;
  people.other.id = yard.ids.otherId;
  const trainer = await yard.as('trainer');
  for (const each of Object.values(people)) {
    each.evaluation = await yard.prepare(trainer, each.id);
    const closed = await send(trainer, each.evaluation, [
      ...wholeRound(pack),
      ...wholeSheet(pack),
      { kind: 'sequence-started', procedures: [unasked] },
      { kind: 'sequence-ended' },
      { kind: 'decided', outcome: 'competent' },
      { kind: 'signed', role: 'trainer', strokes: STROKES },
      { kind: 'signed', role: 'operator', strokes: STROKES },
    ]);
    each.token = (closed.body as { certificate: { token: string } }).certificate.token;
    const { sessions } = (await trainer.call(routes.personSequences, { params: { id: each.id } }))
      .body as RouteAnswer<typeof routes.personSequences>;
    each.sequence = sessions[0]!.id;
    const open = await yard.prepare(trainer, each.id);
    await send(trainer, open, [{ kind: 'planted', fault: 'CF-F10' }]);
    await trainer.call(routes.addCertificationEvent, {
      params: { id: each.id },
      body: { classId: FORKLIFT, on: '2026-01-05', body: { kind: 'trigger', trigger: 'incident' } },
    });
  }
  await createAccount(yard.house, {
    name: 'Nobody’s supervisor',
    login: 'no-team',
    password: PASSWORD,
    role: 'supervisor',
    team: null,
    personId: null,
  });
  for (const role of ROLES) callers.set(role, role === 'administrator' ? yard.admin : await yard.as(role));
  callers.set('no-team', await yard.as('no-team'));
});
afterAll(() => yard.stop());

/** Every GET route with its parameters filled for one of the two people. */
function addresses(of: (typeof people)['own']): [string, RouteSpec, string][] {
  return Object.entries<RouteSpec>(routes)
    .filter(([, spec]) => spec.method === 'GET' && spec.roles !== 'public')
    .map(([name, spec]) => {
      const id = /^\/(sequences\/)?people/.test(spec.path)
        ? of.id
        : spec.path.startsWith('/evaluations')
          ? of.evaluation
          : FORKLIFT;
      return [
        name,
        spec,
        `/api${spec.path.replace(':id', id).replace(':token', of.token).replace(':hash', 'none').replace(':sequence', of.sequence).replace(':procedure', unasked)}${name === 'prerequisites' ? `?classId=${FORKLIFT}` : ''}`,
      ];
    });
}

/** Whether a role may see the person in question. */
const sees: Record<string, { own: boolean; other: boolean }> = {
  trainer: { own: true, other: true },
  administrator: { own: true, other: true },
  supervisor: { own: true, other: false },
  operator: { own: true, other: false },
  workshop: { own: false, other: false },
  'no-team': { own: false, other: false },
};

describe.each(Object.keys(sees))('%s', (login) => {
  const role = (login === 'no-team' ? 'supervisor' : login) as Role;
  it.each(['own', 'other'] as const)('sees the person of %s team exactly where they may', async (which) => {
    const caller = callers.get(login)!;
    const name = which === 'own' ? 'Olla' : 'Pim';
    for (const [route, spec, address] of addresses(people[which])) {
      const answer = await caller.raw('GET', address);
      const text = await wholeText(answer, 'latin1');
      if (!(spec.roles as readonly Role[]).includes(role)) {
        expect([route, answer.status]).toEqual([route, 403]);
        continue;
      }
      if (/^\/(people|evaluations|sequences\/people)\/:id|^\/certificates/.test(spec.path))
        expect([route, answer.status]).toEqual([route, sees[login]![which] ? 200 : 404]);
      if (!sees[login]![which] && answer.headers.get('content-type') !== 'application/pdf')
        expect([route, text.includes(name)]).toEqual([route, false]);
      // Lists show whom they may show.
      if (sees[login]![which] && ['people', 'exportPeople', 'matrix', 'evaluations', 'today'].includes(route))
        expect([route, text.includes(name)]).toEqual([route, true]);
    }
  });
});

describe('faults still planted', () => {
  const today = async (login: string) =>
    (await callers.get(login)!.call(routes.today, {})).body as {
      planted: { personName: string | null; unitName: string; faults: string[] }[];
    };
  it('are known to all who work with the machine, the names only to those who may see them', async () => {
    expect((await today('trainer')).planted.map((each) => each.personName).sort()).toEqual([
      'Olla Tester',
      'Pim Tester',
    ]);
    expect((await today('supervisor')).planted.map((each) => each.personName).sort()).toEqual([
      'Olla Tester',
      null,
    ]);
    expect((await today('workshop')).planted.map((each) => [each.unitName, each.personName])).toEqual([
      ['T-1', null],
      ['T-1', null],
    ]);
    expect((await today('operator')).planted).toEqual([]);
  });
});

describe('every route that writes', () => {
  it('answers a role it is not open to with 403 and nobody with 401, and changes nothing', async () => {
    for (const [name, spec] of Object.entries<RouteSpec>(routes)) {
      if (spec.roles === 'public' || spec.method === 'GET') continue;
      const address = `/api${spec.path.replace(':id', people.own.id)}`;
      expect([name, (await new Caller(yard.address).raw(spec.method, address, {})).status]).toEqual([
        name,
        401,
      ]);
      for (const role of ROLES) {
        if (spec.roles.includes(role)) continue;
        expect([name, role, (await callers.get(role)!.raw(spec.method, address, {})).status]).toEqual([
          name,
          role,
          403,
        ]);
      }
    }
  });
});
