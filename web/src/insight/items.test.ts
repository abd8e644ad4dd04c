import { insightRoutes, type ScrutinisedItemView } from '@rounds/contract/insight';
import { beforeEach, describe, expect, it } from 'vitest';
import { fakeServer, type FakeServer, Refusal } from '../testing/fakeServer';
import { all, click, eventually, show, text, the, type } from '../testing/mount';
import ItemsScreen from './ItemsScreen.vue';

const CLASS = 'wheel-loader';
const item = (row: string, more: Partial<ScrutinisedItemView> = {}): ScrutinisedItemView => ({
  item: `wl-01/${row}`,
  words: `Tyres: ${row}`,
  row,
  people: 24,
  right: 9,
  difficulty: 0.375,
  difficultyInterval: { low: 0.21, high: 0.57 },
  discrimination: -0.31,
  discriminationInterval: { low: -0.62, high: 0.1 },
  alphaIfDropped: 0.71,
  able: 0.2,
  others: 0.6,
  enough: true,
  flags: ['against-the-able'],
  says: 'Those who are good at the rest fail it more often.',
  state: 'to-review',
  mayRetire: true,
  reviews: [],
  ...more,
});
const STEP = item('wl-SU-1', { item: 'step:wl-SU-1', words: 'Start up: key on', mayRetire: false });
const CALM = item('wl-f03', { flags: [], state: 'unflagged', discrimination: 0.4 });
let items: ScrutinisedItemView[];
let server: FakeServer;
beforeEach(() => {
  items = [item('wl-f01'), STEP, CALM];
  server = fakeServer();
  server.answer(insightRoutes.scrutiny, () => ({
    classes: [{ id: CLASS, title: 'Wheel loader', people: 24, items: items.length, toReview: 2 }],
    classId: CLASS,
    least: 10,
    scale: { alpha: 0.66, interval: { low: 0.4, high: 0.83 }, items: 12, people: 20 },
    items,
  }));
});
const open = (query = '') => show(ItemsScreen, { path: '/insight/items', at: `/insight/items${query}` });
const shown = () => [...document.querySelectorAll('tbody strong')].map((each) => each.textContent);
const radio = (name: RegExp) =>
  [...document.querySelectorAll<HTMLElement>('label.ant-radio-wrapper')].filter((each) =>
    name.test(each.textContent!),
  );

describe('keys under scrutiny', () => {
  it('lists what is to be reviewed, with its figures and intervals', async () => {
    await open();
    const table = text();
    for (const each of [
      'Tyres: wl-f01',
      'Start up: key on',
      '9 of 24',
      '21 % to 57 %',
      '−0.31',
      '−0.62 to 0.10',
      '0.71',
    ])
      expect(table).toContain(each);
    expect(table).toContain('12 items that at least 20 people answered together: 0.66 (0.40 to 0.83)');
    expect(shown()).not.toContain('Tyres: wl-f03');
    expect(all('link', /^Editor/)[0]!.getAttribute('href')).toBe(`/classes/${CLASS}/edit?row=wl-f01`);
  });

  it('shows all of them where the address says so', async () => {
    await open('?show=all');
    expect(shown()).toContain('Tyres: wl-f03');
  });

  it('takes a decision only with a reason, and leads to the editor to change a key', async () => {
    server.answer(insightRoutes.reviewItem, { done: true });
    const { router } = await open();
    await click('button', /^Review: Tyres: wl-f01/);
    radio(/^Change it/)[0]!
      .querySelector('input')!
      .click();
    await eventually(() => expect(all('button', 'Note it and open the editor')).toHaveLength(1));
    const send = () => the('button', 'Note it and open the editor') as HTMLButtonElement;
    await type('Why', 'too short');
    expect(send().disabled).toBe(true);
    await type('Why', 'the fitters would have it mended');
    expect(send().disabled).toBe(false);
    send().click();
    send()
      .closest('form')!
      .dispatchEvent(new Event('submit', { cancelable: true }));
    await eventually(() =>
      expect(router.currentRoute.value.fullPath).toBe(`/classes/${CLASS}/edit?row=wl-f01`),
    );
    expect(server.asked(insightRoutes.reviewItem)[0]!.body).toMatchObject({
      classId: CLASS,
      item: 'wl-01/wl-f01',
      decision: 'change',
      reason: 'the fitters would have it mended',
    });
  });

  it('does not offer to leave out a step, and keeps what was written where it is refused', async () => {
    server.answer(insightRoutes.reviewItem, () => {
      throw new Refusal('unknown-row', 'This item is not in the class any more.');
    });
    await open();
    await click('button', /^Review: Start up/);
    expect(radio(/^Leave it out/)).toEqual([]);
    await type('Why', 'everybody knows it by now');
    the('button', 'Keep it')
      .closest('form')!
      .dispatchEvent(new Event('submit', { cancelable: true }));
    await eventually(() => expect(text()).toContain('This item is not in the class any more.'));
    expect((all('textbox', 'Why')[0] as HTMLTextAreaElement).value).toBe('everybody knows it by now');
  });

  it('says so where nothing stands out, and where nothing was practised', async () => {
    items = [CALM];
    await open();
    expect(text()).toContain('No item of this class stands out.');
    server.answer(insightRoutes.scrutiny, { classes: [], classId: null, least: 10, scale: null, items: [] });
    document.body.innerHTML = '';
    await open();
    expect(text()).toContain('Nothing was practised yet');
  });
});
