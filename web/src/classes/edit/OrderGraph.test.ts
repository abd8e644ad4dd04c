import type { Pack, Procedure, Step } from '@rounds/core/catalogue';
import { forkliftPack } from '@rounds/core/testing';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { fakeServer } from '../../testing/fakeServer';
import { click, settled, show, text } from '../../testing/mount';
import OrderGraph from './OrderGraph.vue';

beforeEach(() => void fakeServer());
const pack: Pack = forkliftPack();
const procedure: Procedure = pack.procedures.find((each) => each.kind === 'shutdown')!;
const onAfter = vi.fn<(step: string, after: Step['after']) => void>();
const open = () => show(OrderGraph, { path: '/', at: '/', props: { pack, procedure, onAfter } });
const node = (n: number) =>
  [...document.querySelectorAll<SVGElement>('g.node')].find((each) =>
    each.getAttribute('aria-label')!.startsWith(`${n}. `),
  )!;
async function press(target: SVGElement): Promise<void> {
  target.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
  await settled();
}
const place = (id: string) => procedure.steps.findIndex((each) => each.id === id) + 1;

describe('the order of a procedure as a graph', () => {
  it('puts one step before another, and refuses a circle with the circle shown', async () => {
    onAfter.mockClear();
    await open();
    const later = procedure.steps.findLast((each) => typeof each.after[0] === 'string')!;
    const earlier = procedure.steps.find((each) => each.id === later.after[0])!;
    await press(node(place(later.id)));
    await press(node(place(earlier.id)));
    expect(onAfter).not.toHaveBeenCalled();
    expect(text()).toMatch(/That would run in a circle: .*Nothing was changed/);
    const [first] = procedure.steps;
    const last = procedure.steps.findLast((each) => !each.after.includes(first!.id) && each !== first)!;
    await press(node(1));
    await press(node(place(last.id)));
    expect(onAfter).toHaveBeenCalledWith(last.id, [...last.after, first!.id]);
  });

  it('shows of each step the very words that a screen reader says', async () => {
    await open();
    const nodes = [...document.querySelectorAll('g.node')];
    expect(nodes).toHaveLength(procedure.steps.length);
    for (const each of nodes)
      expect(each.textContent!.trim().replace(/\s+/g, ' ')).toBe(each.getAttribute('aria-label'));
  });

  it('removes a chosen line', async () => {
    onAfter.mockClear();
    await open();
    const [line] = document.querySelectorAll<SVGElement>('g.way');
    line!.dispatchEvent(new MouseEvent('click', { bubbles: true }));
    await settled();
    await click('button', 'Remove the line');
    expect(onAfter).toHaveBeenCalledTimes(1);
    const [step, after] = onAfter.mock.calls[0]!;
    expect(after.length).toBe(procedure.steps.find((each) => each.id === step)!.after.length - 1);
  });

  it('tells in a dry run what the judge says of the steps in the order they are tapped', async () => {
    await open();
    document.querySelector<HTMLElement>('[role="switch"]')!.click();
    await settled();
    const last = procedure.steps.findLast((each) => each.after.length > 0)!;
    await press(node(place(last.id)));
    expect(text()).toMatch(/Left out: “/);
    await click('button', 'From the beginning');
    await press(node(1));
    expect(text()).toContain('Everything in order so far.');
  });
});
