import { useQueryCache } from '@pinia/colada';
import { peopleRoutes } from '@rounds/contract/people';
import { todayRoutes } from '@rounds/contract/today';
import { beforeEach, describe, expect, it } from 'vitest';
import { defineComponent, h, ref } from 'vue';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { eventually, settled, show, text } from '../testing/mount';
import { routeKey, useRouteMutation, useRouteQuery } from './query';

let server: FakeServer;
beforeEach(() => {
  server = fakeServer();
});
const page = (total: number) => ({ rows: [], next: null, total, sites: [], teams: [] });

describe('the key of an answer', () => {
  it('begins with the area, and is the same for the same question', () => {
    expect(routeKey(peopleRoutes.people, { query: { search: 'a' } })[0]).toBe('people');
    expect(routeKey(peopleRoutes.people, { query: { search: 'a', site: undefined } })).toEqual(
      routeKey(peopleRoutes.people, { query: { search: 'a' } }),
    );
    expect(routeKey(peopleRoutes.people, { query: { search: 'a' } })).not.toEqual(
      routeKey(peopleRoutes.people, { query: { search: 'b' } }),
    );
  });
});

describe('asking', () => {
  it('is done again when the question changes; the earlier answer stays until the new one is there', async () => {
    server.answer(peopleRoutes.people, ({ query }) => page(query['search'] === 'b' ? 2 : 1));
    const search = ref('a');
    await show(
      defineComponent(() => {
        const query = useRouteQuery(peopleRoutes.people, () => ({ query: { search: search.value } }));
        return () => h('p', `total ${query.data.value?.total ?? 'none'}`);
      }),
    );
    expect(text()).toContain('total 1');
    search.value = 'b';
    await eventually(() => expect(text()).toContain('total 2'));
    expect(server.asked(peopleRoutes.people).map((each) => each.query['search'])).toEqual(['a', 'b']);
  });
  it('drops an answer that comes after its question has changed', async () => {
    const waiting: Record<string, (total: number) => void> = {};
    server.answer(
      peopleRoutes.people,
      ({ query }) => new Promise((resolve) => (waiting[query['search']!] = (total) => resolve(page(total)))),
    );
    const search = ref('a');
    await show(
      defineComponent(() => {
        const query = useRouteQuery(peopleRoutes.people, () => ({ query: { search: search.value } }));
        return () => h('p', `total ${query.data.value?.total ?? 'none'}`);
      }),
    );
    search.value = 'b';
    await settled();
    waiting['b']!(2);
    await eventually(() => expect(text()).toContain('total 2'));
    waiting['a']!(1);
    await settled();
    expect(text()).toContain('total 2');
  });
  it('is not done for null', async () => {
    await show(
      defineComponent(() => {
        const query = useRouteQuery(peopleRoutes.people, () => null);
        return () => h('p', query.status.value);
      }),
    );
    expect(server.asked(peopleRoutes.people)).toEqual([]);
    expect(server.unknown).toEqual([]);
  });
});

describe('an act', () => {
  const Screen = defineComponent(() => {
    const today = useRouteQuery(todayRoutes.today, () => ({}));
    const people = useRouteQuery(peopleRoutes.people, () => ({ query: {} }));
    const change = useRouteMutation(peopleRoutes.changePerson, ['people']);
    const cache = useQueryCache();
    void cache;
    const go = () =>
      void change
        .mutateAsync({ params: { id: '01900000-0000-7000-8000-000000000001' }, body: { active: false } })
        .catch(() => undefined);
    return () => [
      h('p', `${today.data.value?.today ?? ''} ${people.data.value?.total ?? ''}`),
      h('button', { onClick: go }, 'act'),
      h('p', change.error.value ? `refused: ${change.error.value.message}` : ''),
    ];
  });
  beforeEach(() => {
    server.answer(todayRoutes.today, {
      today: '2026-03-02',
      attention: [],
      attentionTotal: 0,
      counts: {},
      open: [],
      planted: [],
      recent: [],
      calibration: null,
    });
    server.answer(peopleRoutes.people, page(1));
  });
  it('makes the areas it touches be fetched anew, and no others', async () => {
    server.answer(peopleRoutes.changePerson, {
      id: '01900000-0000-7000-8000-000000000001',
      payroll: '1',
      givenName: 'A',
      familyName: 'B',
      site: 'Q',
      team: 'T',
      email: null,
      born: null,
      started: null,
      active: false,
    });
    await show(Screen);
    document.querySelector('button')!.click();
    await eventually(() => expect(server.asked(peopleRoutes.people)).toHaveLength(2));
    expect(server.asked(todayRoutes.today)).toHaveLength(1);
  });
  it('that is refused says why', async () => {
    server.answer(peopleRoutes.changePerson, () => {
      throw new Refusal('payroll-taken', 'Payroll number 1 belongs to Bo.');
    });
    await show(Screen);
    document.querySelector('button')!.click();
    await eventually(() => expect(text()).toContain('refused: Payroll number 1 belongs to Bo.'));
  });
});
