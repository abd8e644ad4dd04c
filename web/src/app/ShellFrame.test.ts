import { classRoutes } from '@rounds/contract/classes';
import { machineRoutes } from '@rounds/contract/machines';
import { peopleRoutes } from '@rounds/contract/people';
import { ROLES } from '@rounds/contract/route';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { defineComponent, h } from 'vue';
import { fakeServer, type FakeServer } from '../testing/fakeServer';
import { all, click, eventually, press, settled, show, text, the, type } from '../testing/mount';
import { AREAS, areasOf, phoneBar } from './areas';
import ShellFrame from './ShellFrame.vue';

let server: FakeServer;
/** Streams that the shell opened. */
let streams: { address: string; hear: (data: unknown) => void; close: () => void; closed: boolean }[];
beforeEach(() => {
  server = fakeServer();
  streams = [];
  vi.stubGlobal(
    'EventSource',
    class {
      private heard: ((message: { data: string }) => void)[] = [];
      readonly stream: (typeof streams)[number];
      constructor(address: string) {
        this.stream = {
          address,
          hear: (data) => this.heard.forEach((each) => each({ data: JSON.stringify(data) })),
          close: () => (this.stream.closed = true),
          closed: false,
        };
        streams.push(this.stream);
      }
      addEventListener(kind: string, hear: (message: { data: string }) => void) {
        if (kind === 'message') this.heard.push(hear);
      }
      close() {
        this.stream.close();
      }
    },
  );
});
const Screen = defineComponent(
  () => () =>
    h(ShellFrame, { bare: false }, () => [
      h('input', { type: 'search', 'aria-label': 'Search here' }),
      h('p', 'the work'),
    ]),
);
const address = (shown: Awaited<ReturnType<typeof show>>) => shown.router.currentRoute.value.fullPath;

describe('the areas', () => {
  it.each(ROLES)('of a %s are those of their work, each with a key of its own', (role) => {
    const areas = areasOf(role);
    expect(areas.length).toBeGreaterThan(2);
    expect(new Set(areas.map((each) => each.key)).size).toBe(areas.length);
    expect(areas.map((each) => each.name)).toContain('Settings');
  });
  it('of nobody are none', () => {
    expect(areasOf(null)).toEqual([]);
  });
  it('fit a phone: four places and "more", and no "more" for a single one', () => {
    const eleven = Array.from({ length: 11 }, (_, i) => ({ ...AREAS[0]!, name: `Area ${i}` }));
    expect(phoneBar(eleven).bar).toHaveLength(4);
    expect(phoneBar(eleven).more).toHaveLength(7);
    expect(phoneBar(eleven.slice(0, 5)).more).toEqual([]);
    expect(phoneBar(eleven.slice(0, 6)).bar).toHaveLength(4);
  });
  it('are on the rail as links, the one that is open marked', async () => {
    await show(Screen, { role: 'operator' });
    const links = [...document.querySelectorAll('nav[aria-label="Areas"] a.area')].map((each) =>
      each.textContent!.trim(),
    );
    expect(links).toEqual(['Today', 'Assess', 'Practise', 'Classes', 'Settings']);
  });
});

describe('the keys of the desk', () => {
  it('go to an area with g and its letter, and nowhere with the letter alone', async () => {
    const shown = await show(Screen);
    await press('p', document.body);
    expect(address(shown)).toBe('/');
    await press('g', document.body);
    await press('p', document.body);
    expect(address(shown)).toBe('/people');
  });
  it('do nothing while somebody types', async () => {
    const shown = await show(Screen);
    const field = the('textbox', 'Search here');
    field.focus();
    await press('g', field);
    await press('p', field);
    await press('n', field);
    expect(address(shown)).toBe('/');
  });
  it('begin a new evaluation for who may make one, and for nobody else', async () => {
    const supervisor = await show(Screen, { role: 'supervisor' });
    await press('n', document.body);
    expect(address(supervisor)).toBe('/');
    const trainer = await show(Screen, { role: 'trainer' });
    await press('n', document.body);
    expect(address(trainer)).toBe('/assess/new');
  });
  it('put the cursor into the search of the screen, and show themselves', async () => {
    await show(Screen);
    await press('/', document.body);
    expect(document.activeElement).toBe(the('textbox', 'Search here'));
    (document.activeElement as HTMLElement).blur();
    await press('?', document.body);
    expect(text()).toContain('Find anything');
    expect(text()).toContain('Go to Today');
  });
});

describe('signing out', () => {
  it('asks first while taps are only on this device', async () => {
    const { session } = await show(Screen);
    const left = vi.spyOn(session, 'signOut').mockResolvedValue();
    const { useOutbox } = await import('../device/useOutbox');
    useOutbox().waiting = 2;
    await settled();
    the('button', /your menu$/).click();
    await eventually(() => the('menuitem', 'Sign out'));
    the('menuitem', 'Sign out').click();
    await eventually(() => expect(text()).toContain('2 taps are not on the server yet'));
    expect(left).not.toHaveBeenCalled();
    await click('button', 'Sign out');
    expect(left).toHaveBeenCalledOnce();
  });
});

describe('what others change', () => {
  it('is fetched anew while the window is seen, and the stream ends with the shell', async () => {
    const shown = await show(Screen);
    expect(streams.map((each) => each.address)).toEqual(['/api/changes']);
    shown.wrapper.unmount();
    expect(streams[0]!.closed).toBe(true);
  });
});

describe('finding anything', () => {
  beforeEach(() => {
    server.answer(classRoutes.classes, {
      classes: [
        {
          id: 'wheel-loader',
          title: 'Wheel loader',
          family: 'earthmoving',
          revision: 1,
          checkpoints: 40,
          faults: 30,
          units: 1,
          outlines: [],
        },
      ],
    });
    server.answer(machineRoutes.units, {
      units: [
        {
          id: '01900000-0000-7000-8000-00000000c001',
          classId: 'wheel-loader',
          name: 'WL-04',
          site: 'Quarry',
          variant: null,
          features: {},
          inService: true,
        },
      ],
    });
    server.answer(classRoutes.library, {
      titles: { 'wheel-loader': 'Wheel loader' },
      rows: [
        {
          classId: 'wheel-loader',
          section: 'checkpoints',
          part: 'round',
          id: 'WL-C01',
          title: 'Wheel nuts',
          says: 'none loose',
        },
      ],
    });
    server.answer(peopleRoutes.people, {
      rows: [
        {
          person: {
            id: '01900000-0000-7000-8000-00000000b001',
            payroll: '20192',
            givenName: 'Anna',
            familyName: 'Wheelwright',
            site: 'Quarry',
            team: 'Pit',
            email: null,
            born: null,
            started: null,
            active: true,
          },
          standings: [],
        },
      ],
      next: null,
      total: 1,
      sites: [],
      teams: [],
    });
  });
  const ctrlK = async () => {
    document.body.dispatchEvent(
      new KeyboardEvent('keydown', { key: 'k', ctrlKey: true, bubbles: true, cancelable: true }),
    );
    await eventually(() => the('combobox', 'Find anything'));
  };

  it('finds a person, a class, a machine and a row by one word, and goes where Enter points', async () => {
    const shown = await show(Screen);
    await ctrlK();
    await type('Find anything', 'wheel');
    await eventually(() => expect(all('option').map((each) => each.textContent)).toHaveLength(4));
    const kinds = [...document.querySelectorAll('.kind')].map((each) => each.textContent!.trim());
    expect(kinds).toEqual(['People', 'Classes', 'Machines', 'What the classes say']);
    const field = the('combobox', 'Find anything');
    await press('ArrowDown', field);
    expect(the('option', /^Wheel loader/).getAttribute('aria-selected')).toBe('true');
    await press('Enter', field);
    expect(address(shown)).toBe('/classes/wheel-loader');
  });
  it('asks for no people where the role may see none', async () => {
    await show(Screen, { role: 'workshop' });
    await ctrlK();
    await type('Find anything', 'wheel');
    await eventually(() => expect(all('option').length).toBeGreaterThan(1));
    expect(server.asked(peopleRoutes.people)).toEqual([]);
    expect(server.unknown).toEqual([]);
  });
  it('says so when nothing is called that', async () => {
    server.answer(peopleRoutes.people, { rows: [], next: null, total: 0, sites: [], teams: [] });
    await show(Screen);
    await ctrlK();
    await type('Find anything', 'zeppelin');
    await eventually(() => expect(text()).toContain('Nothing is called that.'));
  });
});
