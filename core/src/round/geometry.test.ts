import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { convexHull, offsetHull, type Point, standingPoint, walkingDistance } from './geometry';

const square: Point[] = [
  [-1, -1],
  [1, -1],
  [1, 1],
  [-1, 1],
];

describe('the way round a machine', () => {
  it('goes round a square by its corners, never through it', () => {
    // From the middle of the left side to the middle of the right side of a 2 x 2 square: 1 + 2 + 1 along
    // the edge.
    expect(walkingDistance(square, [-1, 0], [1, 0])).toBeCloseTo(4, 9);
    // A little outside on both sides: two legs to the corners and the edge between.
    expect(walkingDistance(square, [-2, 0], [2, 0])).toBeCloseTo(2 * Math.SQRT2 + 2, 9);
  });
  it('is right from anywhere on the edge, not only from corners', () => {
    expect(walkingDistance(square, [-1, 0.9], [1, 0.8])).toBeCloseTo(0.1 + 2 + 0.2, 9);
    expect(walkingDistance(square, [-1, 0.5], [-1, -0.5])).toBeCloseTo(1, 9);
    expect(walkingDistance(square, [-0.4, 1], [1, -0.2])).toBeCloseTo(1.4 + 1.2, 9);
  });
  it('is straight where nothing is in the way', () => {
    expect(walkingDistance(square, [-2, 2], [2, 2])).toBeCloseTo(4, 9);
    expect(walkingDistance(square, [3, 0], [5, 0])).toBeCloseTo(2, 9);
  });
  it('moves a point inside the machine to where a person can stand', () => {
    expect(standingPoint(square, [0.8, 0])).toEqual([1, 0]);
    expect(standingPoint(square, [4, 0])).toEqual([4, 0]);
  });

  /** Shortest way on a fine grid of allowed points, by Dijkstra: an independent check of the hull method. */
  function gridDistance(hull: Point[], a: Point, b: Point): number {
    const nodes: Point[] = [a, b, ...hull];
    const n = nodes.length;
    const blocked = (p: Point, q: Point) => {
      for (let i = 1; i < 200; i++) {
        const x: Point = [p[0] + ((q[0] - p[0]) * i) / 200, p[1] + ((q[1] - p[1]) * i) / 200];
        if (
          hull.every((c, k) => {
            const d = hull[(k + 1) % hull.length]!;
            return (d[0] - c[0]) * (x[1] - c[1]) - (d[1] - c[1]) * (x[0] - c[0]) > 1e-6;
          })
        )
          return true;
      }
      return false;
    };
    const best = Array<number>(n).fill(Infinity);
    const done = Array<boolean>(n).fill(false);
    best[0] = 0;
    for (;;) {
      let u = -1;
      for (let i = 0; i < n; i++) if (!done[i] && (u < 0 || best[i]! < best[u]!)) u = i;
      if (u < 0 || best[u] === Infinity) return best[1]!;
      if (u === 1) return best[1]!;
      done[u] = true;
      for (let v = 0; v < n; v++)
        if (!done[v] && !blocked(nodes[u]!, nodes[v]!))
          best[v] = Math.min(
            best[v]!,
            best[u]! + Math.hypot(nodes[u]![0] - nodes[v]![0], nodes[u]![1] - nodes[v]![1]),
          );
    }
  }

  it('is the same as the shortest path over the visibility graph for random machines (Dijkstra)', () => {
    const coordinate = fc.double({ min: -4, max: 4, noNaN: true });
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate), { minLength: 5, maxLength: 8 }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        fc.double({ min: 0, max: 6.28, noNaN: true }),
        (points, s, t) => {
          const hull = convexHull(points.map((p): Point => [p[0], p[1]]));
          fc.pre(hull.length >= 3);
          const a: Point = [9 * Math.cos(s), 9 * Math.sin(s)];
          const b: Point = [9 * Math.cos(t), 9 * Math.sin(t)];
          expect(walkingDistance(hull, a, b)).toBeCloseTo(gridDistance(hull, a, b), 5);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('widens a hull by the margin all round', () => {
    const wide = offsetHull(square, 1);
    for (const corner of square)
      for (const p of wide) expect(Math.hypot(p[0] - corner[0], p[1] - corner[1])).toBeGreaterThan(0.99);
    expect(Math.max(...wide.map((p) => p[0]))).toBeCloseTo(2, 9);
  });
});
