import { mount } from '@vue/test-utils';
import { describe, expect, it } from 'vitest';
import { forklift } from '../testing/evaluation';
import PlanRing, { type RingMark } from './PlanRing.vue';

const stations = forklift.plan.stations;
const mark = (state: RingMark['state'], done: number, total: number, faults = 0): RingMark => ({
  state,
  done,
  total,
  faults,
});
const ring = (props: Record<string, unknown> = {}) =>
  mount(PlanRing, {
    props: { plan: forklift.plan, title: 'Plan of the truck', interactive: true, ...props },
  });

describe('the plan ring', () => {
  it('has a button for every station, named with what was done there', () => {
    const [first, second] = stations;
    const drawn = ring({
      marks: { [first!.id]: mark('begun', 2, 5, 1), [second!.id]: mark('complete', 3, 3) },
    });
    const names = drawn.findAll('[role="button"]').map((each) => each.attributes('aria-label'));
    expect(names).toHaveLength(stations.length);
    expect(names).toContain(`${first!.name}: 2 of 5 checks, 1 reported`);
    expect(names).toContain(`${second!.name}: 3 of 3 checks`);
    expect(drawn.get('svg').attributes('aria-label')).toBe('Plan of the truck');
  });

  it('is used by finger and by key, and says where one stands', async () => {
    const [first, second] = stations;
    const drawn = ring({ current: second!.id });
    const button = (name: string) => drawn.get(`[role="button"][aria-label="${name}"]`);
    expect(button(first!.name).attributes('aria-pressed')).toBe('false');
    expect(button(second!.name).attributes('aria-pressed')).toBe('true');
    await button(first!.name).trigger('click');
    await button(second!.name).trigger('keydown', { key: 'Enter' });
    await button(first!.name).trigger('keydown', { key: ' ' });
    expect(drawn.emitted('station')).toEqual([[first!.id], [second!.id], [first!.id]]);
  });

  it('draws the walked part of the line the short way round, and leaves gaps in it', () => {
    const line = stations.filter((each) => each.at);
    const walked = [line[0]!.id, line[1]!.id, line.at(-1)!.id];
    const lengths = ring({ walked })
      .findAll('.walked')
      .map((each) => Number(each.attributes('stroke-dasharray')!.split(' ')[0]));
    expect(lengths).toHaveLength(2);
    for (const length of lengths) {
      expect(length).toBeGreaterThan(0);
      expect(length).toBeLessThanOrEqual(0.5);
    }
    expect(ring({ walked: [line[0]!.id] }).findAll('.walked')).toHaveLength(0);
    expect(ring({ walked: ['nowhere', line[0]!.id] }).findAll('.walked')).toHaveLength(0);
  });

  it('is a picture, with nothing to press, where it only shows', async () => {
    const drawn = ring({ interactive: false, only: [stations[0]!.id], gaps: [stations[0]!.id] });
    expect(drawn.get('svg').attributes('role')).toBe('img');
    expect(drawn.findAll('[role="button"]')).toHaveLength(0);
    expect(drawn.findAll('.station')).toHaveLength(1);
    expect(drawn.findAll('.station.gap')).toHaveLength(1);
    await drawn.get('.station').trigger('click');
    expect(drawn.emitted('station')).toBeUndefined();
  });
});
