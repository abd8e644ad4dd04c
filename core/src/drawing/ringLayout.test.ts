import { describe, expect, it } from 'vitest';
import { walkingLine } from '../round/walkingLine';
import { shippedClasses, shippedPack } from '../testing';
import { planSvg } from './plan';
import { nameLines, ringLayout, type RingNode } from './ringLayout';

/**
 * What a trainer must be able to touch and read: no station over another, no name over a name or a station.
 */
function box(node: RingNode, unit: number) {
  const width = 0.31 * unit * Math.max(...node.label.lines.map((each) => each.length));
  const height = 0.6 * unit * node.label.lines.length;
  const [x, y] = node.label.at;
  return {
    left: node.label.side < 0 ? x - width : x,
    right: node.label.side < 0 ? x : x + width,
    top: y - height / 2,
    bottom: y + height / 2,
  };
}

describe.each(shippedClasses())('the ring of %s', (id) => {
  const { plan } = shippedPack(id);
  const { nodes, unit, box: frame } = ringLayout(plan);

  it('shows every station once, in the order of the walk', () => {
    expect(nodes.map((each) => each.id).sort()).toEqual(plan.stations.map((each) => each.id).sort());
    expect(nodes.filter((each) => each.order !== null).map((each) => each.id)).toEqual(
      walkingLine(plan).ring.map((each) => each.id),
    );
  });
  it('keeps stations a finger apart', () => {
    for (const [i, a] of nodes.entries())
      for (const b of nodes.slice(i + 1))
        expect(
          Math.hypot(a.at[0] - b.at[0], a.at[1] - b.at[1]) / unit,
          `${a.name} and ${b.name}`,
        ).toBeGreaterThan(1.55);
  });
  it('keeps names off each other and off the stations, and inside the frame', () => {
    const boxes = nodes.map((each) => ({ name: each.name, ...box(each, unit) }));
    for (const [i, a] of boxes.entries()) {
      for (const b of boxes.slice(i + 1))
        expect(
          a.left < b.right && b.left < a.right && a.top < b.bottom - 1e-9 && b.top < a.bottom - 1e-9,
          `${a.name} over ${b.name}`,
        ).toBe(false);
      for (const node of nodes) {
        const nearest = [
          Math.max(a.left, Math.min(node.at[0], a.right)),
          Math.max(a.top, Math.min(node.at[1], a.bottom)),
        ] as const;
        expect(
          Math.hypot(nearest[0] - node.at[0], nearest[1] - node.at[1]) / unit,
          `${a.name} and the station ${node.name}`,
        ).toBeGreaterThan(0.7);
      }
      expect(a.left).toBeGreaterThanOrEqual(frame.x);
      expect(a.right).toBeLessThanOrEqual(frame.x + frame.width);
      expect(a.top).toBeGreaterThanOrEqual(frame.y);
      expect(a.bottom).toBeLessThanOrEqual(frame.y + frame.height);
    }
  });
  it('draws as SVG with all names', () => {
    const svg = planSvg(plan, 'a plan', { names: true });
    for (const each of nodes) expect(svg).toContain(`>${each.label.lines[0]!.replace(/&/g, '&amp;')}<`);
  });
});

describe('the lines of a name', () => {
  it.each([
    ['Rear', ['Rear']],
    ['Left side (mounting side)', ['Left side']],
    ['Carriage and mast front', ['Carriage and', 'mast front']],
    ['Engine bay / battery compartment and the way to it', ['Engine bay /', 'battery…']],
  ])('of "%s"', (name, lines) => {
    expect(nameLines(name)).toEqual(lines);
  });
});
