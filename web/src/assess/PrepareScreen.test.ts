import { assessRoutes } from '@rounds/contract/assess';
import { classRoutes } from '@rounds/contract/classes';
import { certificationRoutes } from '@rounds/contract/certification';
import { machineRoutes } from '@rounds/contract/machines';
import { peopleRoutes } from '@rounds/contract/people';
import { DEFAULT_RULES } from '@rounds/core/certification';
import { forkliftPack } from '@rounds/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, choose, click, eventually, show, text, the, type } from '../testing/mount';
import { somebody } from '../testing/people';
import PrepareScreen from './PrepareScreen.vue';

const pack = forkliftPack();
const PERSON = somebody();
const unit = (n: number, name: string, inService = true) => ({
  id: `01900000-0000-7000-8000-00000000c00${n}`,
  classId: pack.id,
  name,
  site: 'Quay',
  variant: 'diesel',
  features: {},
  inService,
});
const summary = {
  id: pack.id,
  title: pack.title,
  family: pack.family,
  revision: 1,
  checkpoints: pack.checkpoints.length,
  faults: pack.faults.length,
  units: 2,
  outlines: [],
};
let server: FakeServer;
beforeEach(() => {
  indexedDB.deleteDatabase('rounds');
  server = fakeServer();
  server.answer(peopleRoutes.people, {
    rows: [{ person: PERSON, standings: [] }],
    next: null,
    total: 1,
    sites: ['Quay'],
    teams: ['Blue'],
  });
  server.answer(certificationRoutes.prerequisites, { missing: [] });
  server.answer(classRoutes.classes, {
    classes: [summary, { ...summary, id: 'reach-truck', title: 'Reach truck', revision: null }],
  });
  server.answer(classRoutes.machineClass, {
    summary,
    pack,
    publishedAt: '2026-01-01T00:00:00.000Z',
    rules: DEFAULT_RULES,
    units: [unit(1, 'FLT-01'), unit(2, 'FLT-02'), unit(3, 'FLT-99', false)],
    sites: ['Quay'],
    choices: {},
    choiceLog: [],
    policy: [],
  });
});
const missing = () => text().match(/Still to do: ([^.]*?)$/)?.[1] ?? '';
async function ready() {
  const shown = await show(PrepareScreen, { path: '/assess/new', at: '/assess/new' });
  await choose('Operator', /^Anna Berg/);
  await click('button', /^FLT-01/);
  return shown;
}
const plants = () => all('checkbox', /^Planted: /);

describe('preparing an evaluation', () => {
  it('says what is still to do, and takes the only class there is by itself', async () => {
    await show(PrepareScreen, { path: '/assess/new', at: '/assess/new' });
    expect(text()).toContain('Still to do: choose the operator; choose the machine');
    expect(all('button', /^FLT-/).map((each) => each.textContent!.trim().slice(0, 6))).toEqual([
      'FLT-01',
      'FLT-02',
    ]);
  });
  it('takes the person that a link names', async () => {
    server.answer(peopleRoutes.person, {
      person: { ...PERSON, givenName: 'Linked' },
      standings: [],
      forecast: [],
      history: [],
      evaluations: [],
    });
    await show(PrepareScreen, { path: '/assess/new', at: `/assess/new?person=${PERSON.id}` });
    expect(text()).not.toContain('choose the operator');
  });
  it('says what a pass would wait for, and lets prepare it all the same', async () => {
    server.answer(certificationRoutes.prerequisites, { missing: ['theory passed', 'drill standard met'] });
    await ready();
    await eventually(() =>
      expect(text()).toContain(
        'Anna Berg is not ready by the rules in force: theory passed, drill standard met not on record',
      ),
    );
    expect(missing()).not.toContain('theory');
  });
  it('proposes a balanced set of four for the machine, each to be confirmed or left out', async () => {
    await ready();
    expect(plants()).toHaveLength(4);
    expect(missing()).toContain('confirm 4 faults as planted');
    plants()[0]!.click();
    await eventually(() => expect(missing()).toContain('confirm 3 faults'));
    for (let i = 0; i < 2; i++) await click('button', /^Leave out/);
    await eventually(() => expect(plants()).toHaveLength(2));
  });
  it('proposes others when asked, of which none is confirmed', async () => {
    await ready();
    plants()[0]!.click();
    const before = plants().map((each) => each.getAttribute('aria-label'));
    await click('button', 'Propose another set');
    const after = plants();
    expect(after.map((each) => each.getAttribute('aria-label'))).not.toEqual(before);
    for (const each of after) expect(each.getAttribute('aria-checked')).toBe('false');
  });
  it('exchanges a fault for another, which is then to be confirmed', async () => {
    await ready();
    plants()[0]!.click();
    await eventually(() => expect(plants()[0]!.getAttribute('aria-checked')).toBe('true'));
    const was = plants()[0]!.getAttribute('aria-label')!;
    const first = all('combobox', 'Replace by')[0]!;
    first
      .closest('.ant-select')!
      .querySelector('.ant-select-selector')!
      .dispatchEvent(new MouseEvent('mousedown', { bubbles: true }));
    await eventually(() =>
      expect(document.querySelectorAll('.ant-select-item-option').length).toBeGreaterThan(1),
    );
    document
      .querySelectorAll<HTMLElement>('.ant-select-item-option:not(.ant-select-item-option-selected)')[0]!
      .click();
    await eventually(() => expect(plants()[0]!.getAttribute('aria-label')).not.toBe(was));
    expect(plants()[0]!.getAttribute('aria-checked')).toBe('false');
  });
  it('makes the same evaluation when the first answer was lost, and sends what was planted', async () => {
    let lost = true;
    server.answer(assessRoutes.createEvaluation, () => {
      if (lost) throw new Refusal('busy', 'The server has too much to do just now.');
      return {
        summary: {} as never,
        pack: {},
        unitId: unit(1, '').id,
        conditions: '',
        earlierStarts: [],
        events: [],
        keyHidden: false,
        holder: null,
        certificate: null,
        evaluator: {
          state: 'never' as const,
          last: null,
          until: null,
          says: 'Not calibrated, which the rules ask for.',
        },
      };
    });
    const { router } = await ready();
    while (all('button', /^Leave out/).length > 0) await click('button', /^Leave out/);
    await type(/^Conditions/, 'rain');
    await click('button', 'Go to the machine');
    await eventually(() =>
      expect(
        all('alert')
          .map((each) => each.textContent)
          .join(),
      ).toContain('too much to do'),
    );
    lost = false;
    await click('button', 'Go to the machine');
    await eventually(() => expect(server.asked(assessRoutes.createEvaluation)).toHaveLength(2));
    const [first, second] = server
      .asked(assessRoutes.createEvaluation)
      .map((each) => each.body as Record<string, unknown>);
    expect(first!['id']).toBe(second!['id']);
    expect(first).toMatchObject({
      personId: PERSON.id,
      unitId: unit(1, '').id,
      variant: 'diesel',
      conditions: 'rain',
    });
    void router;
  });
  it('adds a machine that is not on the list and takes it at once', async () => {
    server.answer(
      machineRoutes.addUnit,
      ({ body }) => ({ ...(body as object), id: unit(4, '').id, inService: true }) as never,
    );
    await show(PrepareScreen, { path: '/assess/new', at: '/assess/new' });
    await choose('Operator', /^Anna Berg/);
    await type('Not on the list? Add a machine', 'FLT-50');
    await click('button', 'Add');
    await eventually(() =>
      expect(server.asked(machineRoutes.addUnit)[0]!.body).toMatchObject({ name: 'FLT-50', site: 'Quay' }),
    );
    await eventually(() => expect(plants()).toHaveLength(4));
  });
  it('tells which switches differ from the usual machine', async () => {
    server.answer(classRoutes.machineClass, {
      summary,
      pack,
      publishedAt: null,
      rules: DEFAULT_RULES,
      units: [
        {
          ...unit(1, 'FLT-01'),
          features: {
            [pack.features[0]!.id]: pack.features[0]!.values.find(
              (each) => each !== pack.features[0]!.default,
            )!,
          },
        },
      ],
      sites: [],
      choices: {},
      choiceLog: [],
      policy: [],
    });
    await ready();
    const differs = [...document.querySelectorAll('.ant-tag')].map((each) => each.textContent);
    expect(differs.join()).toContain(pack.features[0]!.name);
    the('button', 'All as usual');
  });
});
