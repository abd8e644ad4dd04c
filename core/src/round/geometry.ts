/** A point on the ground in metres: [x to the right, y to the front]. */
export type Point = readonly [number, number];

const distance = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);
const cross = (o: Point, a: Point, b: Point) => (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);

/** Convex hull, counter-clockwise, without collinear points: A. M. Andrew's monotone chain (1979). */
export function convexHull(points: readonly Point[]): Point[] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  if (sorted.length < 3) return sorted;
  const half = (list: readonly Point[]) => {
    const chain: Point[] = [];
    for (const p of list) {
      while (chain.length >= 2 && cross(chain.at(-2)!, chain.at(-1)!, p) <= 1e-12) chain.pop();
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

/**
 * The line at `margin` metres outside a convex hull (corners rounded in steps of at most 15 degrees),
 * itself convex and counter-clockwise.
 */
export function offsetHull(hull: readonly Point[], margin: number): Point[] {
  const around: Point[] = [];
  for (const [x, y] of hull)
    for (let step = 0; step < 24; step++) {
      const angle = (step * Math.PI) / 12;
      around.push([x + margin * Math.cos(angle), y + margin * Math.sin(angle)]);
    }
  return convexHull(around);
}

function inside(hull: readonly Point[], p: Point): boolean {
  return hull.length >= 3 && hull.every((a, i) => cross(a, hull[(i + 1) % hull.length]!, p) > 1e-9);
}

/** Whether the open segment a-b passes through the inside of a convex hull (clipping by its half-planes). */
function crosses(hull: readonly Point[], a: Point, b: Point): boolean {
  let enter = 0;
  let leave = 1;
  for (let i = 0; i < hull.length; i++) {
    const p = hull[i]!;
    const q = hull[(i + 1) % hull.length]!;
    const atA = cross(p, q, a) - 1e-9;
    const atB = cross(p, q, b) - 1e-9;
    if (atA <= 0 && atB <= 0) return false;
    const t = atA / (atA - atB);
    if (atA <= 0) enter = Math.max(enter, t);
    else if (atB <= 0) leave = Math.min(leave, t);
  }
  return leave - enter > 1e-9;
}

/**
 * Where a person stands to look at a point: itself when outside the hull, else the nearest point of the
 * hull's edge.
 */
export function standingPoint(hull: readonly Point[], p: Point): Point {
  if (!inside(hull, p)) return p;
  let best: Point = p;
  let least = Infinity;
  hull.forEach((a, i) => {
    const b = hull[(i + 1) % hull.length]!;
    const length = distance(a, b) ** 2;
    const t = Math.max(
      0,
      Math.min(1, ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / length),
    );
    const foot: Point = [a[0] + t * (b[0] - a[0]), a[1] + t * (b[1] - a[1])];
    if (distance(p, foot) < least) {
      least = distance(p, foot);
      best = foot;
    }
  });
  return best;
}

/** The hull with a point of its edge as a corner; the same hull when the point is a corner already. */
function withCorner(hull: readonly Point[], p: Point): Point[] {
  if (hull.some((each) => distance(each, p) < 1e-9)) return [...hull];
  const detour = (i: number) =>
    distance(hull[i]!, p) +
    distance(p, hull[(i + 1) % hull.length]!) -
    distance(hull[i]!, hull[(i + 1) % hull.length]!);
  const edge = hull.reduce((best, _, i) => (detour(i) < detour(best) ? i : best), 0);
  return [...hull.slice(0, edge + 1), p, ...hull.slice(edge + 1)];
}

/**
 * Metres of the shortest way between two points round a convex obstacle, never through it. Points inside
 * are first moved to its edge.
 * When the straight way is blocked, both points are corners of the hull of obstacle and points, and the
 * shorter of the two chains is the way.
 */
export function walkingDistance(hull: readonly Point[], from: Point, to: Point): number {
  const a = standingPoint(hull, from);
  const b = standingPoint(hull, to);
  if (hull.length < 3 || !crosses(hull, a, b)) return distance(a, b);
  const around = withCorner(withCorner(convexHull([...hull, a, b]), a), b);
  const nearest = (p: Point) =>
    around.reduce((best, each, i) => (distance(each, p) < distance(around[best]!, p) ? i : best), 0);
  const i = nearest(a);
  const j = nearest(b);
  const chain = (start: number, end: number) => {
    let sum = 0;
    for (let k = start; k !== end; k = (k + 1) % around.length)
      sum += distance(around[k]!, around[(k + 1) % around.length]!);
    return sum;
  };
  return Math.min(chain(i, j), chain(j, i));
}
