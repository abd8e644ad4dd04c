import { describe, expect, it } from 'vitest';
import { COURSE_LAYOUTS } from '../catalogue';
import { courseScale, courseSvg } from '../drawing';
import { shippedClasses, shippedPack } from '../testing';
import { type Course, courseFor, machineSize } from './index';

const sizes = shippedClasses().flatMap((id) => {
  const { plan, teaching } = shippedPack(id);
  return teaching.course
    ? teaching.course.layouts.map((layout) => ({
        name: `${id} ${layout}`,
        layout,
        size: machineSize(plan, teaching.course!.turns),
        plan,
      }))
    : [];
});
type Spot = readonly [number, number];
const far = (a: Spot, b: Spot) => Math.hypot(a[0] - b[0], a[1] - b[1]);

/** The nearest that the middle of the machine comes to a spot. */
function nearest({ path }: Course, spot: Spot): number {
  return Math.min(
    ...path.slice(1).map((b, i) => {
      const a = path[i]!;
      const along = far(a, b);
      const share =
        along === 0
          ? 0
          : Math.max(
              0,
              Math.min(1, ((spot[0] - a[0]) * (b[0] - a[0]) + (spot[1] - a[1]) * (b[1] - a[1])) / along ** 2),
            );
      return far(spot, [a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1])]);
    }),
  );
}

/** The tightest turn of the way: radius of the circle through three points, ever so near one another. */
function tightest({ path }: Course): number {
  return Math.min(
    ...path.slice(2).map((c, i) => {
      const [a, b] = [path[i]!, path[i + 1]!];
      const area = Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (c[0] - a[0]) * (b[1] - a[1])) / 2;
      return area < 1e-9 ? Infinity : (far(a, b) * far(b, c) * far(a, c)) / (4 * area);
    }),
  );
}

describe('a course', () => {
  it('is there for every class that drives, and for none that does not', () => {
    const without = shippedClasses().filter((id) => !shippedPack(id).teaching.course);
    expect(without.sort()).toEqual([
      'mining-shovel',
      'mobile-column-lift',
      'overhead-crane',
      'push-mower',
      'string-trimmer',
      'towed-generator-set',
    ]);
    expect(sizes.length).toBeGreaterThan(40);
  });

  it.each(sizes)('$name can be driven by its machine without touching a cone', ({ layout, size }) => {
    const course = courseFor(layout, size);
    // Round a corner or a cone the middle never turns tighter than the machine can; the slalom is gentler still.
    if (layout !== 'slalom') expect(tightest(course)).toBeGreaterThanOrEqual(size.turns - size.width / 2);
    const nearestCone = Math.min(...course.cones.map((cone) => nearest(course, cone)));
    expect(nearestCone).toBeGreaterThanOrEqual(size.width / 2 + 0.29);
  });

  it.each(sizes)(
    '$name lies within its area, and everything measured is as far as it says',
    ({ layout, size }) => {
      const course = courseFor(layout, size);
      const { left, bottom, width, length } = course.area;
      const inside = ([x, y]: Spot) =>
        x >= left - 1e-9 && x <= left + width + 1e-9 && y >= bottom - 1e-9 && y <= bottom + length + 1e-9;
      expect([...course.cones, ...course.path].filter((each) => !inside(each))).toEqual([]);
      for (const each of course.measures)
        expect(Math.abs(each.metres - far(each.from, each.to))).toBeLessThan(0.01);
      expect(course.setOut[0]).toMatch(/^Free and level ground, \d/);
      expect(course.setOut).toContain(`${course.cones.length} cones`);
    },
  );

  it('of a figure of eight has circles that touch in the middle, as its geometry says', () => {
    // A turn of 8 m set out a quarter wider is 10 m to the outside; the middle of a 2 m machine then goes round at 9 m.
    const course = courseFor('figure-of-eight', { length: 6, width: 2, turns: 8 });
    const [a, b] = course.cones as [Spot, Spot];
    expect(far(a, b)).toBeCloseTo(18);
    expect(course.path.every((each) => Math.min(far(each, a), far(each, b)) < 9.001)).toBe(true);
    expect(course.path.filter((each) => far(each, [0, 0]) < 1e-6).length).toBeGreaterThanOrEqual(2);
  });

  it('is refused for a size that no machine has', () => {
    for (const size of [
      { length: 0, width: 1, turns: 2 },
      { length: 3, width: 1, turns: 0.4 },
      { length: 3, width: Number.NaN, turns: 2 },
      { length: 300, width: 3, turns: 9 },
    ])
      expect(() => courseFor('slalom', size)).toThrow(RangeError);
  });

  it('grows with its machine', () => {
    for (const layout of COURSE_LAYOUTS) {
      const [small, large] = [2, 8].map((turns) =>
        courseFor(layout, { length: turns, width: turns / 3, turns }),
      );
      expect(large!.area.width * large!.area.length).toBeGreaterThan(small!.area.width * small!.area.length);
    }
  });
});

describe('a drawing of a course', () => {
  const paper = { width: 515, height: 560 };

  it.each(sizes)('$name is to scale, and fits on a sheet', ({ layout, size, plan }) => {
    const course = courseFor(layout, size);
    const { scale, width } = courseScale(course, paper);
    expect(width).toBeLessThanOrEqual(paper.width);
    const svg = courseSvg(course, plan.outlines, { width });
    const [, , box] = /viewBox="(\S+) \S+ (\S+) /.exec(svg)!;
    // A metre of the drawing, in points, is a metre of the ground over the scale.
    expect((width / Number(box)) * scale).toBeCloseTo((1000 / 25.4) * 72, -1);
    expect(svg.match(/<circle /g)).toHaveLength(course.cones.length);
    expect(svg).not.toMatch(/NaN|undefined|Infinity/);
    for (const each of course.measures) expect(svg).toContain(`>${Number(each.metres.toFixed(2))} m<`);
  });
});
