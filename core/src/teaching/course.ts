import type { CourseLayout } from '../catalogue/vocabulary';

/** A point on the ground in metres, x to the right and y ahead. */
type Spot = readonly [x: number, y: number];

/** How large a machine is, in metres: over all, and the outermost point in its tightest turn. */
export interface MachineSize {
  length: number;
  width: number;
  turns: number;
}

/** A course to be set out: where cones and tape go, the way that is driven, and what is measured out. */
export interface Course {
  layout: CourseLayout;
  title: string;
  /** What is driven, and what counts. */
  says: string;
  cones: readonly Spot[];
  tapes: readonly { from: Spot; to: Spot; says: string }[];
  /** The middle of the machine along the way. */
  path: readonly Spot[];
  /** Where the machine stands at the beginning, and which way it looks: 0 is ahead, positive to the right, in degrees. */
  start: { at: Spot; turned: number };
  measures: readonly { from: Spot; to: Spot; metres: number; says: string }[];
  /** The free area it needs, with a strip of a machine's width all round. */
  area: { left: number; bottom: number; width: number; length: number };
  /** What to bring and what to measure out, in order. */
  setOut: readonly string[];
}

/** How much wider than the tightest turn a learner's turn is set out (common practice). */
const EASE = 1.25;
/** Free on each side of the machine between cones: a seventh of its width, 30 cm at least (common practice). */
const clearance = (width: number) => Math.max(0.3, rounded(width / 7, 0.05));

function rounded(value: number, step: number): number {
  return Math.round(Math.ceil(value / step - 1e-9) * step * 1000) / 1000;
}
const metres = (value: number) => `${Number(value.toFixed(2))} m`;

/** Points along a part of a circle, from one angle to another, in radians. */
function arc([x, y]: Spot, radius: number, from: number, to: number): Spot[] {
  const steps = Math.max(2, Math.ceil(Math.abs(to - from) / (Math.PI / 36)));
  return Array.from({ length: steps + 1 }, (_, i): Spot => {
    const angle = from + ((to - from) * i) / steps;
    return [x + radius * Math.cos(angle), y + radius * Math.sin(angle)];
  });
}

function areaOf(points: readonly Spot[], strip: number): Course['area'] {
  const xs = points.map((each) => each[0]);
  const ys = points.map((each) => each[1]);
  const [left, bottom] = [Math.min(...xs) - strip, Math.min(...ys) - strip];
  return {
    left,
    bottom,
    width: rounded(Math.max(...xs) + strip - left, 0.1),
    length: rounded(Math.max(...ys) + strip - bottom, 0.1),
  };
}

function finished(
  course: Omit<Course, 'area' | 'setOut'>,
  { width, length }: MachineSize,
  ground: readonly Spot[],
): Course {
  const { cones, tapes, measures, start } = course;
  const rad = (start.turned * Math.PI) / 180;
  const reach = length / 2;
  const ends: Spot[] = [-reach, reach].map((d) => [
    start.at[0] + d * Math.sin(rad),
    start.at[1] + d * Math.cos(rad),
  ]);
  const area = areaOf([...ground, ...cones, ...ends], width);
  return {
    ...course,
    area,
    setOut: [
      `Free and level ground, ${metres(area.width)} by ${metres(area.length)}, nobody on it`,
      `${cones.length} cones`,
      ...tapes.map((each) => `${each.says}: ${metres(distance(each.from, each.to))} of tape`),
      ...measures.map((each) => `${each.says}: ${metres(each.metres)}`),
    ],
  };
}

const distance = (a: Spot, b: Spot) => rounded(Math.hypot(a[0] - b[0], a[1] - b[1]), 0.01);
const measure = (from: Spot, to: Spot, says: string) => ({ from, to, metres: distance(from, to), says });

/** Two cones to be driven round in turn, once one way and once the other. */
function figureOfEight(size: MachineSize): Course {
  const half = size.width / 2;
  // Whoever turns on the spot still goes round the cone with room to spare.
  const middle = rounded(Math.max(size.turns * EASE - half, half + clearance(size.width)), 0.1);
  const outer = middle + half;
  const [a, b]: [Spot, Spot] = [
    [0, middle],
    [0, -middle],
  ];
  const path = [
    ...arc(b, middle, Math.PI / 2, Math.PI / 2 + 2 * Math.PI),
    ...arc(a, middle, -Math.PI / 2, -Math.PI / 2 - 2 * Math.PI),
  ];
  const far = middle + outer + clearance(size.width);
  const side = outer + clearance(size.width);
  const corners: Spot[] = [
    [-side, far],
    [side, far],
    [side, -far],
    [-side, -far],
  ];
  return finished(
    {
      layout: 'figure-of-eight',
      title: 'Figure of eight',
      says: 'Round one cone, across the middle, round the other. Twice, then the other way about. No cone touched, nothing outside the corners, eyes where it goes.',
      cones: [a, b, ...corners],
      tapes: [],
      path,
      start: { at: [0, 0], turned: 90 },
      measures: [
        measure(a, b, 'Between the two cones in the middle'),
        measure(corners[0]!, corners[1]!, 'Across, between the corner cones'),
        measure(corners[1]!, corners[2]!, 'Along, between the corner cones'),
      ],
    },
    size,
    corners,
  );
}

const SLALOM_CONES = 5;

/** Cones in a line to be driven round, one on this side, the next on that. */
function slalom(size: MachineSize): Course {
  const swing = size.width / 2 + clearance(size.width);
  // Far enough apart that the way past a cone is never rounder than it is away from it.
  const gap = rounded(Math.max(1.5 * size.length, EASE * size.turns, Math.PI * swing), 0.5);
  const cones = Array.from({ length: SLALOM_CONES }, (_, i): Spot => [0, i * gap]);
  const gate = (y: number): Spot[] => [
    [-swing, y],
    [swing, y],
  ];
  const [first, last] = [gate(-gap), gate(SLALOM_CONES * gap)];
  const steps = 24 * (SLALOM_CONES + 1);
  const path = Array.from({ length: steps + 1 }, (_, i): Spot => {
    const y = -gap + ((SLALOM_CONES + 1) * gap * i) / steps;
    const turn = Math.cos((Math.PI * y) / gap);
    // Straight through the gates, and from there to the side of the nearest cone.
    const last = SLALOM_CONES - 1;
    if (y < 0) return [(swing * (1 + turn)) / 2, y];
    const lastSide = last % 2 === 0 ? 1 : -1;
    return y > last * gap ? [(swing * lastSide * (1 + turn * lastSide)) / 2, y] : [swing * turn, y];
  });
  return finished(
    {
      layout: 'slalom',
      title: 'Slalom',
      says: 'In by the gate, round every cone on the other side than the one before, out by the gate. Then back to the start in reverse, with a signaller. Watch the tail and the load, not the cone.',
      cones: [...cones, ...first, ...last],
      tapes: [],
      path,
      start: { at: [0, -gap - size.length / 2], turned: 0 },
      measures: [
        measure(cones[0]!, cones[1]!, 'From cone to cone, and from the last one to each gate'),
        measure(first[0]!, first[1]!, 'Width of each gate'),
      ],
    },
    size,
    path.flatMap(([x, y]): Spot[] => [
      [x - size.width / 2, y],
      [x + size.width / 2, y],
    ]),
  );
}

/** A bay to be entered square from a lane that runs across it. */
function squareApproach(size: MachineSize): Course {
  const free = clearance(size.width);
  const half = size.width / 2 + free;
  const radius = rounded(size.turns * EASE - size.width / 2, 0.1);
  const deep = rounded(size.length / 2, 0.1);
  const mouth = radius + size.length / 2;
  const bay: Spot[] = [
    [-half, mouth],
    [half, mouth],
    [-half, mouth + deep],
    [half, mouth + deep],
  ];
  const from = -radius - size.length;
  const lane: Spot[] = [
    [from, half],
    [from, -half],
  ];
  const path: Spot[] = [
    [from, 0],
    ...arc([-radius, radius], radius, -Math.PI / 2, 0),
    [0, mouth + deep - size.length / 2],
  ];
  return finished(
    {
      layout: 'square-approach',
      title: 'Square approach',
      says: 'Along the lane, round the corner in one turn, and straight into the bay up to the line. Square and in the middle at the first try; back out the same way. No cone touched, stopped short of the line by less than a hand.',
      cones: [...bay, ...lane],
      tapes: [{ from: bay[2]!, to: bay[3]!, says: 'Line at the end of the bay' }],
      path,
      start: { at: [from - size.length / 2, 0], turned: 90 },
      measures: [
        measure(bay[0]!, bay[1]!, 'Width of the bay and of the lane'),
        measure(bay[0]!, bay[2]!, 'Depth of the bay'),
        measure([0, 0], [0, mouth], 'From the middle of the lane to the mouth of the bay'),
        measure([from, 0], [0, 0], 'From the start of the lane to the middle of the bay'),
      ],
    },
    size,
    [...bay, ...lane, [half, -half]],
  );
}

const LANE_LENGTHS = 3;

/** A lane to be reversed along, to a line that ends it. */
function reverseLane(size: MachineSize): Course {
  const half = size.width / 2 + clearance(size.width);
  const long = rounded(size.length, 0.1);
  const pairs = Array.from({ length: LANE_LENGTHS + 1 }, (_, i): Spot[] => [
    [-half, -i * long],
    [half, -i * long],
  ]);
  const end = pairs.at(-1)!;
  return finished(
    {
      layout: 'reverse-lane',
      title: 'Reverse lane',
      says: 'Backwards down the lane to the line, at a walk, looking behind and in the mirrors in turn; stop when the signaller is out of sight. No cone touched, not more than one correction, stopped before the line.',
      cones: pairs.flat(),
      tapes: [{ from: end[0]!, to: end[1]!, says: 'Line at the end of the lane' }],
      path: [
        [0, size.length / 2],
        [0, end[0]![1] + size.length / 2],
      ],
      start: { at: [0, size.length / 2], turned: 0 },
      measures: [
        measure(pairs[0]![0]!, pairs[0]![1]!, 'Width of the lane'),
        measure(pairs[0]![0]!, pairs[1]![0]!, 'From pair to pair of cones'),
      ],
    },
    size,
    pairs.flat(),
  );
}

const LAYOUTS: Readonly<Record<CourseLayout, (size: MachineSize) => Course>> = {
  'figure-of-eight': figureOfEight,
  slalom,
  'square-approach': squareApproach,
  'reverse-lane': reverseLane,
};

/**
 * A course for a machine of a size, to be set out with cones and tape. Clearances, gaps and the ease of turns are common
 * practice; the trainer on the ground decides.
 *
 * @throws RangeError for a size that no machine has
 */
export function courseFor(layout: CourseLayout, size: MachineSize): Course {
  const { length, width, turns } = size;
  if (![length, width, turns].every((each) => Number.isFinite(each) && each >= 0.3 && each <= 60))
    throw new RangeError('length, width and turn are from 0.3 m to 60 m');
  if (turns < width / 2) throw new RangeError('no machine turns within half its own width');
  return LAYOUTS[layout](size);
}

/** The size of a class's machine over all, by its outlines; the turn is what its class says. */
export function machineSize(
  { outlines }: { outlines: readonly { points: readonly (readonly number[])[] }[] },
  turns: number,
): MachineSize {
  const points = outlines.flatMap((each) => each.points);
  const span = (axis: 0 | 1) => {
    const of = points.map((each) => each[axis]!);
    return rounded(Math.max(...of) - Math.min(...of), 0.05);
  };
  return { length: span(1), width: span(0), turns };
}
