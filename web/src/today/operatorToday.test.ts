import { classRoutes } from '@rounds/contract/classes';
import { peopleRoutes } from '@rounds/contract/people';
import { type PracticeSet, practiceRoutes } from '@rounds/contract/practice';
import { beforeEach, describe, expect, it } from 'vitest';
import { fakeServer, type FakeServer } from '../testing/fakeServer';
import { eventually, show, text, the } from '../testing/mount';
import { somebody } from '../testing/people';
import OperatorToday from './OperatorToday.vue';

const ID = '01900000-0000-7000-8000-00000000e001';
let server: FakeServer;
let sets: PracticeSet[];
beforeEach(() => {
  sets = [];
  server = fakeServer();
  server.answer(classRoutes.classes, { classes: [] });
  server.answer(peopleRoutes.person, {
    person: somebody({ id: ID }),
    standings: [],
    forecast: [],
    history: [],
    evaluations: [],
  });
  server.answer(practiceRoutes.personPractice, () => ({
    person: { id: ID, name: 'Ann Moor' },
    classes: [],
    offline: [],
    exercises: [],
    sets,
    open: [],
  }));
});
const set = (form: PracticeSet['form'], change: Partial<PracticeSet> = {}): PracticeSet => ({
  id: ID,
  classId: 'wheel-loader',
  classTitle: 'Wheel loader',
  variant: 'diesel',
  form,
  station: null,
  program: null,
  times: 1,
  done: 0,
  dueOn: '2026-03-09',
  overdue: false,
  by: 'Some trainer',
  ...change,
});

describe('the day of an operator', () => {
  it('says that nothing is on record yet, and that nothing is held against them', async () => {
    await show(OperatorToday, { role: 'operator', personId: ID });
    await eventually(() => expect(text()).toContain('you may not operate any machine here'));
    expect(text()).toContain('You have not been evaluated here yet.');
  });

  it('leads to what is set, each to where it is done', async () => {
    sets = [
      set('weak', { overdue: true, dueOn: '2026-02-27' }),
      set('desk', { program: 'start' }),
      set('bench'),
      set('commands'),
    ].map((each, i) => ({ ...each, id: ID.replace(/1$/, String(i + 2)) }));
    await show(OperatorToday, { role: 'operator', personId: ID });
    await eventually(() => expect(text()).toContain('overdue since 27 February 2026'));
    const leads = (name: string) => the('link', name).getAttribute('href');
    expect(leads('A drill on the wheel loader')).toBe('/practise?class=wheel-loader');
    expect(leads('Start and stop on the wheel loader')).toBe('/practise?class=wheel-loader&what=desk');
    expect(leads('Findings to grade on the wheel loader')).toBe('/practise?class=wheel-loader&what=bench');
    expect(leads('Commands on the wheel loader')).toBe('/practise?class=wheel-loader&what=commands');
  });
});
