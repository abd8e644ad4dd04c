import { EVIDENCE_KINDS } from '@rounds/core/drawing/evidence';
import { describe, expect, it } from 'vitest';
import { all, choose, click, eventually, show, text, the, type } from '../testing/mount';
import DrawingsScreen from './DrawingsScreen.vue';

const open = (kind: string) =>
  show(DrawingsScreen, { path: '/classes/drawings', at: `/classes/drawings?kind=${kind}` });

describe('the page of all drawings', () => {
  it('lists every kind, and finds one by the words of its states', async () => {
    await open('hose');
    const kinds = () =>
      [...EVIDENCE_KINDS.values()]
        .filter(({ title }) => all('button', title).length > 0)
        .map(({ title }) => title);
    expect(kinds()).toHaveLength(EVIDENCE_KINDS.size);
    await type('Search the drawings', 'like a cage');
    await eventually(() => expect(kinds()).toEqual(['Wire rope']));
    await type('Search the drawings', 'nothing of the kind');
    expect(text()).toContain('No drawing has that in its words.');
  });

  it('moves a parameter and says what is seen, with figures only where they are asked for', async () => {
    await open('tyre');
    await choose('Bulge', /^Yes/);
    expect(the('img', /^Tyre:.*a bulge in its wall/)).toBeTruthy();
    await type('Tread', '3');
    await eventually(() => expect(the('img', /tread 3 mm/)).toBeTruthy());
    await click('checkbox');
    expect(all('img', /tread 3 mm$/)).toEqual([]);
    await click('button', 'All sound again');
    expect(all('img', /bulge/)).toEqual([]);
  });

  it('shows the first kind where the address names one that there is not', async () => {
    await open('photograph');
    expect(the('heading', 'The area')).toBeTruthy();
  });
});
