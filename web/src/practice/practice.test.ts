import { peopleRoutes } from '@rounds/contract/people';
import { commandRoutes } from '@rounds/contract/commands';
import { deskRoutes } from '@rounds/contract/desk';
import { type PracticeSet, practiceRoutes } from '@rounds/contract/practice';
import { compose } from '@rounds/core/catalogue';
import {
  conditionGroups,
  conditionsHolding,
  dealDrill,
  doAct,
  doActs,
  type DrillAct,
  DrillActError,
  drillResult,
  drillStations,
  type DrillState,
  LOOK_ONLY,
  scriptedDrill,
  startOfDrill,
  unmetCriterion,
  USUAL_CRITERION,
} from '@rounds/core/drill';
import { honestSeconds } from '@rounds/core/round';
import { forkliftPack } from '@rounds/core/testing';
import { beforeEach, describe, expect, it } from 'vitest';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, choose, click, eventually, press, settled, show, text, the } from '../testing/mount';
import DrillResultScreen from './DrillResultScreen.vue';
import DrillScreen from './DrillScreen.vue';
import PracticeScreen from './PracticeScreen.vue';

const pack = compose(forkliftPack(), { variant: 'diesel' });
const deal = dealDrill(pack, { form: 'round', seed: 5 });
const ID = '01900000-0000-7000-8000-00000000d001';
const PERSON = { id: '01900000-0000-7000-8000-00000000b001', name: 'Isla Marwick' };
const AT = '2026-03-02T09:00:00.000Z';
const progressOf = (state: DrillState) => ({
  station: state.station,
  holding: conditionsHolding(state.machine),
  arrivals: state.arrivals.map((each) => each.station),
  readings: state.readings,
  calls: [...state.calls].map(([checkpoint, { grade }]) => ({ checkpoint, grade })),
  seconds: state.seconds,
  waited: state.waited,
  ended: state.ended,
});
const stations = drillStations(pack, deal).map(({ parts, ...each }) => ({
  ...each,
  parts: parts.map((part) => ({
    id: part.id,
    part: part.part,
    methods: part.methods,
    seconds: honestSeconds(part),
  })),
}));
let server: FakeServer;
let state: DrillState;
beforeEach(() => {
  server = fakeServer();
  state = startOfDrill(pack);
  server.answer(practiceRoutes.drill, () => ({
    id: ID,
    classId: pack.id,
    classTitle: pack.title,
    variant: 'diesel',
    form: 'round' as const,
    person: PERSON,
    startedAt: AT,
    plan: pack.plan,
    stations,
    conditions: conditionGroups(pack),
    progress: progressOf(state),
  }));
  server.answer(practiceRoutes.doDrillAct, ({ body }) => {
    try {
      const done = doAct(pack, deal, state, (body as { act: DrillAct }).act);
      state = done.state;
      return {
        reading: done.answer.kind === 'reading' ? done.answer.reading : null,
        refused: done.answer.kind === 'brought' ? done.answer.refused : null,
        progress: progressOf(state),
      };
    } catch (error) {
      if (error instanceof DrillActError) throw new Refusal('drill-act', error.message);
      throw error;
    }
  });
});
const openDrill = () => show(DrillScreen, { path: '/practise/:id', at: `/practise/${ID}`, role: 'operator' });
const group = (name: RegExp) =>
  [...document.querySelectorAll('[role="group"]')].find((each) =>
    name.test(each.getAttribute('aria-label') ?? ''),
  )!;
const buttonsOf = (name: RegExp) => [...group(name).querySelectorAll<HTMLButtonElement>('button')];
/** Walks on to the first station with a part. */
async function walkToPart(): Promise<void> {
  do await click('button', 'Next station');
  while (!group(/^Parts/));
}

describe('a drill on the screen', () => {
  it('walks, tries and calls; says what was shown and what does not count yet', async () => {
    await openDrill();
    expect(text()).toContain('Where do you begin?');
    expect(text()).toContain(`0 of ${deal.cases.length} called`);
    await walkToPart();
    const first = stations.find((each) => each.parts.length > 0)!.parts[0]!;
    expect(buttonsOf(/^Ways to check/)).toHaveLength(first.methods.length);
    buttonsOf(/^Ways to check/)[0]!.click();
    await settled();
    const [reading] = state.readings;
    expect(text()).toContain(reading!.counts ? reading!.shows! : 'Does not count. First:');
    for (const each of reading!.unmet) {
      await click('button', /^Machine/);
      await click('button', each);
      await click('button', 'Close');
    }
    await press('1', document.body);
    await settled();
    expect(state.calls.size).toBe(0);
    await press('w', document.body);
    await settled();
    expect(state.calls.get(first.id)?.grade).toBe('watch');
    expect(text()).toContain(`1 of ${deal.cases.length} called`);
  });

  it('keeps an act that did not reach the server, and sends the same one again', async () => {
    await openDrill();
    server.goOffline(true);
    await click('button', 'Next station');
    expect(text()).toContain('No connection');
    await click('button', 'Next station');
    server.goOffline(false);
    await click('button', 'Send it again');
    expect(state.arrivals).toHaveLength(1);
    expect(server.asked(practiceRoutes.doDrillAct)).toHaveLength(1);
    expect(text()).not.toContain('No connection');
  });

  it('says why a condition cannot be brought about, and asks before parts are left uncalled', async () => {
    await openDrill();
    await walkToPart();
    await click('button', /^Machine/);
    await click('button', 'at working temperature');
    expect(text()).toContain('It warms up only while it runs');
    await click('button', 'End');
    await settled();
    expect(text()).toContain('parts are not called yet');
    expect(state.ended).toBe(false);
    await click('button', 'End it');
    expect(state.ended).toBe(true);
  });
});

describe('what a drill says', () => {
  it('puts the score first, then each miss with what would have shown it', async () => {
    const acts = scriptedDrill(pack, deal, LOOK_ONLY);
    const result = drillResult(pack, deal, acts);
    expect(doActs(pack, deal, acts).ended).toBe(true);
    server.answer(practiceRoutes.drillOutcome, {
      id: ID,
      classId: pack.id,
      classTitle: pack.title,
      form: 'round',
      person: PERSON,
      endedAt: AT,
      result,
      stations: pack.plan.stations.map(({ id, name }) => ({ id, name })),
      plan: pack.plan,
      unmet: unmetCriterion(deal, result, USUAL_CRITERION),
      offline: false,
      earlier: [{ endedAt: AT, score: 31 }],
    });
    await show(DrillResultScreen, { path: '/practise/:id/result', at: `/practise/${ID}/result` });
    expect(the('heading', `${Math.round(result.score)} of 100`)).toBeTruthy();
    const missed = result.cases.filter((each) => each.outcome === 'miss');
    expect(missed.length).toBeGreaterThan(0);
    for (const each of missed) {
      expect(text()).toContain(each.fault!.title);
      for (const { shows } of each.shownBy) expect(text()).toContain(shows);
    }
    expect(text()).toContain('It does not count towards readiness');
    expect(text()).toContain('Before:');
  });
});

describe('the practice of a person', () => {
  const sets: PracticeSet[] = [];
  beforeEach(() => {
    sets.length = 0;
    server.answer(practiceRoutes.practiceClasses, {
      classes: [
        {
          id: pack.id,
          title: pack.title,
          variants: [{ id: 'diesel', name: 'Diesel' }],
          stations: [{ id: 'S1', name: '1. Fork arms', parts: 4 }],
          programs: ['start', 'stop', 'whole', 'free'],
          commandPlaces: [{ id: 'seat', name: 'In the seat' }],
        },
      ],
    });
    server.answer(practiceRoutes.personPractice, {
      person: PERSON,
      classes: [
        {
          classId: pack.id,
          classTitle: pack.title,
          drills: 3,
          last: { id: ID, endedAt: AT, score: 85 },
          trend: [{ id: ID, endedAt: AT, score: 85, chance: 25, dPrime: 1.2 }],
          benches: 2,
          graded: 20,
          gradedRight: 13,
          lastBench: { id: ID, endedAt: AT },
          desks: 0,
          lastDesk: null,
          commandSets: 0,
          lastCommands: null,
          commandsReady: false,
          items: 40,
          due: 12,
          forgotten: [{ item: 'a/b', says: 'Seat belt: frayed', times: 3, wrong: 2 }],
          metOn: ['2026-03-01'],
          parts: [
            { part: 'round' as const, met: false, says: 'Walk-round: standard met on 1 of 2 days' },
            {
              part: 'commands' as const,
              met: true,
              says: 'Controls: the last sets were within the standard',
            },
          ],
          ready: false,
        },
      ],
      offline: [],
      sets,
      open: [],
      exercises: [],
    });
  });

  it('says where it stands, and deals one drill for one press, of the class practised last', async () => {
    server.answer(practiceRoutes.startDrill, () => {
      throw new Refusal('forbidden', 'Not today.');
    });
    await show(PracticeScreen, { role: 'operator', personId: PERSON.id });
    expect(text()).toContain('Not ready yet');
    const parts = [...document.querySelectorAll('[aria-label="What makes ready"] li')].map((each) =>
      each.textContent?.trim(),
    );
    expect(parts).toEqual([
      expect.stringMatching(/Open: ?Walk-round: standard met on 1 of 2 days/),
      expect.stringMatching(/Met: ?Controls: the last sets/),
    ]);
    expect(text()).toContain('Seat belt: frayed 2 of 3 wrong');
    await click('button', /^One station/);
    expect(text()).toContain('Choose the station first.');
    await choose('Station', /^1. Fork arms/);
    await click('button', 'Begin');
    expect(text()).toContain('Not today.');
    // The field's Enter, while the button still shows that it was pressed.
    document.querySelector('form')!.dispatchEvent(new Event('submit', { cancelable: true }));
    await settled();
    const asked = server.asked(practiceRoutes.startDrill).map((each) => each.body as { id: string });
    expect(asked[0]).toMatchObject({ classId: pack.id, form: 'station', station: 'S1', personId: PERSON.id });
    expect(asked[1]!.id).toBe(asked[0]!.id);
    expect(all('button', 'Begin')).toHaveLength(1);
  });

  it('offers the start first at the desk, and sends what was chosen for commands', async () => {
    server.answer(commandRoutes.startCommands, () => {
      throw new Refusal('command-set', 'Not today.');
    });
    await show(PracticeScreen, { role: 'operator', personId: PERSON.id, at: '/?what=desk' });
    await eventually(() => the('button', /^Start it/));
    expect(the('button', /^Start it/).getAttribute('aria-pressed')).toBe('true');
    document.querySelectorAll<HTMLInputElement>('[aria-label="What to practise"] input').item(3).click();
    await eventually(() => expect(text()).toContain('Every reversal'));
    await click('button', 'Begin');
    await eventually(() => expect(text()).toContain('Not today.'));
    expect(server.asked(commandRoutes.startCommands)[0]!.body).toMatchObject({
      classId: pack.id,
      variant: 'diesel',
      calledAt: 'desk',
      place: 'seat',
      full: false,
      personId: PERSON.id,
    });
  });

  it('takes up what was set: a stop at the desk, as a test', async () => {
    sets.push({
      id: ID,
      classId: pack.id,
      classTitle: pack.title,
      variant: 'diesel',
      form: 'desk',
      station: null,
      program: 'stop',
      times: 1,
      done: 0,
      dueOn: '2026-03-09',
      overdue: false,
      by: 'Some trainer',
    });
    server.answer(deskRoutes.startDesk, () => {
      throw new Refusal('desk-run', 'Not today.');
    });
    await show(PracticeScreen, { role: 'operator', personId: PERSON.id });
    await eventually(() => expect(text()).toContain('Stop it, at the desk, as a test'));
    await click('button', 'Do it');
    await eventually(() => the('button', /^Stop it/));
    await click('button', 'Begin');
    await eventually(() => expect(text()).toContain('Not today.'));
    expect(server.asked(deskRoutes.startDesk)[0]!.body).toMatchObject({
      classId: pack.id,
      program: 'stop',
      mode: 'test',
    });
  });

  it('lets a trainer set what is chosen, unless it is only tried out', async () => {
    server.answer(peopleRoutes.people, { rows: [], next: null, total: 0, sites: [], teams: [] });
    server.answer(practiceRoutes.practiceOverview, { sets: [], rows: [], forgotten: [] });
    await show(PracticeScreen, { role: 'trainer', at: '/?what=desk' });
    await choose('Class', pack.title);
    await click('button', /^All of it/);
    await click('button', 'Set it to people');
    await eventually(() => expect(text()).toContain('All of it, at the desk, as a test'));
    await click('button', 'Not now');
    await click('button', /^Try it out/);
    expect(all('button', 'Set it to people')).toHaveLength(0);
  });

  it('shows a supervisor who of the team practised what, and opens one of them', async () => {
    server.answer(peopleRoutes.people, { rows: [], next: null, total: 0, sites: [], teams: [] });
    server.answer(practiceRoutes.practiceOverview, {
      sets: [],
      rows: [
        {
          person: { id: PERSON.id, name: PERSON.name, team: 'Blue' },
          classId: pack.id,
          classTitle: pack.title,
          drills: 3,
          last: { id: ID, endedAt: AT, score: 85 },
          parts: [{ part: 'round' as const, met: true, says: 'Walk-round: standard met on 2 of 2 days' }],
          ready: true,
        },
      ],
      forgotten: [],
    });
    await show(PracticeScreen, { role: 'supervisor' });
    expect(all('button', 'Begin')).toEqual([]);
    expect(text()).toContain('Who practised any class');
    expect(text()).toMatch(/Isla Marwick.*Ready.*85/);
    await click('button', PERSON.name);
    expect(text()).toContain('Seat belt: frayed 2 of 3 wrong');
  });
});
