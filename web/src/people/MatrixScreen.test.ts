import { certificationRoutes } from '@rounds/contract/certification';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { fakeServer, type FakeServer } from '../testing/fakeServer';
import { all, choose, eventually, press, settled, show, text, type } from '../testing/mount';
import { brief, cellWords, columnsOf, mostPressing } from './matrixCells';
import MatrixScreen from './MatrixScreen.vue';
import type { MatrixPage } from './queries';

const CLASSES = ['Forklift', 'Wheel loader', 'Mobile crane'].map((title, i) => ({
  id: `class-${i}`,
  title,
  family: 'lifting',
}));
type Cells = MatrixPage['people'][number]['cells'];
const person = (n: number, name: string, cells: Cells) => ({
  id: `01900000-0000-7000-8000-${String(n).padStart(12, '0')}`,
  name,
  team: 'Blue',
  site: 'Quay',
  cells,
});
const matrix = (people: MatrixPage['people'], next: string | null = null): MatrixPage => ({
  today: '2026-03-02',
  classes: CLASSES,
  people,
  next,
  total: people.length,
  sites: ['Quay', 'Quarry'],
  teams: ['Blue'],
});
const ANNA = person(1, 'Berg, Anna', [[0, 'valid', 320, 'yes', 1095]]);
const BO = person(2, 'Dahl, Bo', [
  [0, 'lapsed', -12, 'no', 1095],
  [2, 'due', 20, 'yes', 1095],
]);

let server: FakeServer;
beforeEach(() => {
  server = fakeServer();
  // The pretended browser lays nothing out; the grid is given the room of a tablet.
  vi.spyOn(HTMLElement.prototype, 'clientHeight', 'get').mockReturnValue(500);
  vi.spyOn(HTMLElement.prototype, 'clientWidth', 'get').mockReturnValue(1100);
});

describe('a cell', () => {
  it('says what is left in a few letters, and in a sentence', () => {
    const cell = (status: 'valid' | 'due' | 'lapsed' | 'suspended', daysLeft: number | null) => ({
      status,
      daysLeft,
      lengthDays: 1095,
    });
    expect(brief(cell('valid', 320))).toBe('11 mo');
    expect(brief(cell('due', 20))).toBe('20 d');
    expect(brief(cell('suspended', null))).toBe('susp.');
    expect(cellWords(cell('lapsed', -12))).toBe('lapsed, ended 12 days ago');
    expect(cellWords(cell('valid', 0))).toBe('valid, 0 days left');
    expect(cellWords(cell('valid', 1))).toBe('valid, 1 day left');
    expect(cellWords(undefined)).toBe('nothing on record');
  });
});

describe('the columns', () => {
  it('are the classes anybody stands in, the most held first', () => {
    expect(columnsOf(CLASSES, [ANNA, BO]).map((each) => each.title)).toEqual(['Forklift', 'Mobile crane']);
    expect(columnsOf(CLASSES, [])).toEqual([]);
  });
  it('on a phone are those that press most', () => {
    const held = columnsOf(CLASSES, [
      ANNA,
      person(3, 'C', [[0, 'valid', 9, 'yes', 9]]),
      person(4, 'D', [
        [2, 'lapsed', -1, 'no', 9],
        [1, 'valid', 3, 'yes', 9],
      ]),
      person(5, 'E', [[2, 'due', 1, 'yes', 9]]),
    ]);
    expect(mostPressing(held, 1).map((each) => each.title)).toEqual(['Mobile crane']);
  });
});

describe('the matrix', () => {
  it('shows who stands where, and only who needs somebody when asked', async () => {
    server.answer(certificationRoutes.matrix, matrix([ANNA, BO]));
    await show(MatrixScreen);
    await eventually(() => expect(all('gridcell', /^Berg, Anna/).length).toBeGreaterThan(0));
    expect(all('gridcell', 'Dahl, Bo, Forklift: lapsed, ended 12 days ago')).toHaveLength(1);
    const [, pressing] = [...document.querySelectorAll<HTMLElement>('.ant-segmented-item input')];
    pressing!.click();
    await eventually(() => expect(all('gridcell', /^Berg, Anna/)).toEqual([]));
    expect(text()).toContain('1 person');
  });
  it('fetches page after page behind the first', async () => {
    server.answer(certificationRoutes.matrix, ({ query }) =>
      query['cursor'] ? matrix([BO]) : matrix([ANNA], 'the-rest'),
    );
    await show(MatrixScreen);
    await eventually(() => expect(all('gridcell', /^Dahl, Bo/).length).toBeGreaterThan(0));
    expect(server.asked(certificationRoutes.matrix).map((each) => each.query['cursor'])).toEqual([
      undefined,
      'the-rest',
    ]);
  });
  it('drops an answer to a question that was changed meanwhile', async () => {
    const waiting: Record<string, (page: MatrixPage) => void> = {};
    server.answer(certificationRoutes.matrix, ({ query }) => {
      const site = query['site'] ?? 'all';
      if (site === 'all') return matrix([ANNA, BO]);
      return new Promise<MatrixPage>((resolve) => (waiting[site] = resolve));
    });
    await show(MatrixScreen);
    await choose('Site', 'Quay');
    await choose('Site', 'Quarry');
    await eventually(() => expect(Object.keys(waiting)).toEqual(['Quay', 'Quarry']));
    waiting['Quarry']!(matrix([BO]));
    await eventually(() => expect(all('gridcell', /^Dahl, Bo/).length).toBeGreaterThan(0));
    waiting['Quay']!(matrix([ANNA]));
    await settled();
    expect(all('gridcell', /^Berg, Anna/)).toEqual([]);
  });
  it('is walked with the arrow keys; the chosen cell is said in words with what can be done', async () => {
    server.answer(certificationRoutes.matrix, matrix([ANNA, BO]));
    await show(MatrixScreen);
    await eventually(() => expect(all('gridcell').length).toBeGreaterThan(0));
    const grid = document.querySelector('[role="grid"]')!;
    await press('ArrowDown', grid);
    await press('ArrowRight', grid);
    const told = () => document.querySelector('.told')!.textContent!.replace(/\s+/g, ' ');
    expect(told()).toContain('Dahl, Bo, Forklift: lapsed, ended 12 days ago');
    await press('End', grid);
    expect(told()).toContain('Mobile crane: due, 20 days left');
    await press('Home', grid);
    await press('ArrowUp', grid);
    await press('ArrowUp', grid);
    expect(told()).toContain('Berg, Anna');
    expect(document.querySelectorAll('[role="grid"] [tabindex="0"]')).toHaveLength(1);
  });
  it('finds a person by part of the name', async () => {
    server.answer(certificationRoutes.matrix, matrix([ANNA, BO]));
    await show(MatrixScreen);
    await type('Find a person', 'dahl');
    await eventually(() => expect(all('gridcell', /^Berg, Anna/)).toEqual([]));
    await type('Find a person', 'nobody of that name');
    await eventually(() => expect(text()).toContain('Nobody to show'));
  });
});
