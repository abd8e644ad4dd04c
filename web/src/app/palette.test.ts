import { describe, expect, it } from 'vitest';
import { AREAS } from './areas';
import { destinations, type Everything } from './palette';

const CLASSES = [
  { id: 'mobile-crane', title: 'Mobile crane' },
  { id: 'wheel-loader', title: 'Wheel loader' },
] as unknown as Everything['classes'];
const everything = (more: Partial<Everything> = {}): Everything => ({
  areas: AREAS,
  role: 'trainer',
  people: [],
  classes: CLASSES,
  units: [],
  hits: [],
  ...more,
});
const titles = (words: string, more: Partial<Everything> = {}) =>
  destinations(words, everything(more)).map((each) => each.title);

describe('where words lead', () => {
  it('no words: to every screen and act of the role', () => {
    const operator = AREAS.filter((each) => each.roles.includes('operator'));
    expect(titles('', { areas: operator, role: 'operator' })).toEqual([
      ...operator.map((each) => each.name),
      'Compare two classes',
    ]);
    expect(titles('')).toContain('Prepare an evaluation');
  });

  it('to what has every word at the start of one of its own, whatever the letters and accents', () => {
    expect(titles('crane')).toEqual(['Mobile crane']);
    expect(titles('CRÂN mob')).toEqual(['Mobile crane']);
    expect(titles('rane')).toEqual([]);
    expect(titles('crane loader')).toEqual([]);
  });

  it('to a machine by its name or class, and to a row with its part and place', () => {
    const units = [
      { id: 'u1', name: 'MC-01', classId: 'mobile-crane', site: 'Quay', number: null, note: null },
    ] as unknown as Everything['units'];
    const hits = [
      { classId: 'wheel-loader', id: 'WL 7/a', section: 'checkpoints', part: 'round', title: 'Tyres' },
    ] as unknown as Everything['hits'];
    const [crane, machine, row] = destinations('mobile', everything({ units, hits }));
    expect([crane!.to, machine!.to]).toEqual(['/classes/mobile-crane', '/classes/mobile-crane?unit=u1']);
    expect([machine!.more, row!.to]).toEqual([
      'Mobile crane, Quay',
      '/classes/wheel-loader?part=round&row=WL%207%2Fa',
    ]);
    expect(titles('mc-01', { units })).toEqual(['MC-01']);
  });

  it('to no more of a kind than can be overlooked', () => {
    const people = Array.from({ length: 30 }, (_, i) => ({
      id: String(i),
      givenName: 'Ann',
      familyName: `Berg ${i}`,
      payroll: '1',
      team: 'Blue',
    })) as unknown as Everything['people'];
    expect(
      destinations('ann', everything({ people }), 4).filter((each) => each.kind === 'person'),
    ).toHaveLength(4);
  });
});
