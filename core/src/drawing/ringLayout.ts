import type { Pack, Station } from '../catalogue';
import type { Point } from '../round/geometry';
import { walkingLine } from '../round/walkingLine';

/** A station as drawn on the plan ring: metres, x to the right, y down as on paper. */
export interface RingNode {
  id: string;
  name: string;
  /** Its number on the walk; null for a station that stands off the line. */
  order: number | null;
  at: [number, number];
  /** Where its spur leaves the walking line; `at` itself for a station on the line. */
  anchor: [number, number];
  spur: boolean;
  /**
   * Where the line from `anchor` ends: at the station itself for a spur, beside the name for one on the
   * walking line.
   */
  link: [number, number];
  /** Its name in one or two lines: where they begin, which way they run, and the middle height of each. */
  label: { lines: string[]; at: [number, number]; side: -1 | 1; heights: number[] };
}

/** A plan ring laid out: its stations, the walking line and the box all of it needs. */
export interface RingLayout {
  nodes: RingNode[];
  /** The closed line walked, y down. */
  line: [number, number][];
  /** The size of a station: its circle has a radius of 0.78 units, its target 1.15. */
  unit: number;
  box: { x: number; y: number; width: number; height: number };
  /**
   * Share of the walking line, 0 to 1, at which a station of the ring lies (where it truly is, not where it
   * is drawn).
   */
  shareOf: ReadonlyMap<string, number>;
}

/** Type size of a name and the step from line to line, in units of the drawing. */
export const NAME_SIZE = 0.56;
const NAME_STEP = 0.62;
/** Letters in a line of a name, and what one takes in units of the drawing. */
const LINE_LETTERS = 15;
const LETTER = 0.31;

/** A name in at most two lines, without what stands in brackets. */
export function nameLines(name: string): string[] {
  const words = name.replace(/ \(.*\)$/, '').split(' ');
  const lines = [''];
  for (const word of words) {
    const now = lines[lines.length - 1]!;
    const longer = now === '' ? word : `${now} ${word}`;
    if (longer.length <= LINE_LETTERS || now === '') lines[lines.length - 1] = longer;
    else lines.push(word);
  }
  const cut = (line: string, more: boolean) =>
    line.length > LINE_LETTERS + 2 ? `${line.slice(0, LINE_LETTERS)}…` : more ? `${line}…` : line;
  return lines.length <= 2
    ? lines.map((line) => cut(line, false))
    : [cut(lines[0]!, false), cut(lines[1]!, true)];
}

/** Measures a closed line: the share of its length nearest to a point, and the point at a share. */
function measured(line: readonly Point[]) {
  const edges = line.map((a, i) => ({ a, b: line[(i + 1) % line.length]! }));
  const lengths = edges.map(({ a, b }) => Math.hypot(b[0] - a[0], b[1] - a[1]));
  const perimeter = lengths.reduce((sum, each) => sum + each, 0);
  return {
    perimeter,
    shareAt(p: Point): number {
      let walked = 0;
      let best = 0;
      let least = Infinity;
      edges.forEach(({ a, b }, i) => {
        const length = lengths[i]!;
        const t =
          length === 0
            ? 0
            : Math.max(
                0,
                Math.min(1, ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / length ** 2),
              );
        const away = Math.hypot(p[0] - a[0] - t * (b[0] - a[0]), p[1] - a[1] - t * (b[1] - a[1]));
        if (away < least) {
          least = away;
          best = walked + t * length;
        }
        walked += length;
      });
      return perimeter === 0 ? 0 : best / perimeter;
    },
    pointAt(share: number): Point {
      let left = (((share % 1) + 1) % 1) * perimeter;
      for (const [i, { a, b }] of edges.entries()) {
        const length = lengths[i]!;
        if (left <= length && length > 0)
          return [a[0] + ((b[0] - a[0]) * left) / length, a[1] + ((b[1] - a[1]) * left) / length];
        left -= length;
      }
      return line[0]!;
    },
  };
}

/** Pushes shares of a closed line apart to at least `least`, keeping their order. */
function spreadRound(shares: readonly number[], least: number): number[] {
  const order = shares.map((share, i) => ({ share, i })).sort((a, b) => a.share - b.share);
  for (let turn = 0; turn < 200; turn++) {
    let moved = false;
    order.forEach((each, k) => {
      const next = order[(k + 1) % order.length]!;
      const gap = next.share - each.share + (k === order.length - 1 ? 1 : 0);
      if (order.length > 1 && gap < least - 1e-6) {
        each.share -= (least - gap) / 2;
        next.share += (least - gap) / 2;
        moved = true;
      }
    });
    if (!moved) break;
  }
  const result = [...shares];
  for (const each of order) result[each.i] = each.share;
  return result;
}

/**
 * Stacks entries of given heights in order, each as near to its wish as the others allow (pools of
 * neighbours share the shift).
 */
function stack(entries: readonly { wish: number; height: number }[]): number[] {
  const pools: { first: number; count: number; height: number; top: number }[] = [];
  entries.forEach((each, i) => {
    pools.push({ first: i, count: 1, height: each.height, top: each.wish - each.height / 2 });
    for (
      let last = pools.at(-1)!, before = pools.at(-2);
      before && last.top < before.top + before.height;
      last = pools.at(-1)!, before = pools.at(-2)
    ) {
      pools.pop();
      const count = before.count + last.count;
      // The mean of what each of its entries would like the pool's top to be.
      const top = (before.top * before.count + (last.top - before.height) * last.count) / count;
      Object.assign(before, { count, top, height: before.height + last.height });
    }
  });
  return pools.flatMap((pool) => {
    let top = pool.top;
    return entries.slice(pool.first, pool.first + pool.count).map((each) => {
      top += each.height;
      return top - each.height / 2;
    });
  });
}

/**
 * Lays out the plan ring of a class: ring stations on the walking line, pushed apart so that each can be
 * touched; stations off the line in a column on the side of the one they are reached from; names in columns
 * left and right, none over another. Positions along the line are schematic where stations lie closer than a
 * finger; the outline and the line are to scale.
 * @param only Stations to lay out; all when absent.
 * @param small A picture without names.
 */
export function ringLayout(
  plan: Pack['plan'],
  options: { only?: readonly string[] | undefined; small?: boolean } = {},
): RingLayout {
  const small = options.small ?? false;
  const { hull, ring, positions } = walkingLine(plan);
  const closed: Point[] = hull.length > 2 ? hull : ring.map((each) => positions.get(each.id)!);
  const line = measured(closed);
  const [xs, ys] = [closed.map((p) => p[0]), closed.map((p) => -p[1])];
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const middle = (left + right) / 2;
  const unit = Math.max(right - left, bottom - top) / (small ? 14 : 17);
  const shown = (id: string) => !options.only || options.only.includes(id);
  const shareOf = new Map(ring.map((each) => [each.id, line.shareAt(positions.get(each.id)!)]));

  const onLine = ring
    .map((station, i) => ({ station, order: i + 1 }))
    .filter(({ station }) => shown(station.id));
  const least =
    line.perimeter === 0 ? 0 : Math.min((unit * 2.05) / line.perimeter, 0.9 / Math.max(1, onLine.length));
  const shares = spreadRound(
    onLine.map(({ station }) => shareOf.get(station.id)!),
    least,
  );
  const drawn = new Map<string, [number, number]>(
    onLine.map(({ station }, i) => {
      const p = line.pointAt(shares[i]!);
      return [station.id, [p[0], -p[1]]];
    }),
  );

  interface Entry {
    station: Station;
    order: number | null;
    at: [number, number];
    wish: number;
    height: number;
    lines: string[];
  }
  const columns: Record<-1 | 1, Entry[]> = { [-1]: [], [1]: [] };
  const sideless: Entry[] = [];
  const place = (entry: Entry) => {
    if (Math.abs(entry.at[0] - middle) < unit * 0.6) sideless.push(entry);
    else columns[entry.at[0] < middle ? -1 : 1].push(entry);
  };
  for (const { station, order } of onLine) {
    const lines = nameLines(station.name);
    const at = drawn.get(station.id)!;
    place({ station, order, at, wish: at[1], height: unit * (0.5 + NAME_STEP * lines.length), lines });
  }
  for (const station of plan.stations) {
    if (station.at || !shown(station.id)) continue;
    const from = station.spurFrom ?? ring[0]?.id ?? '';
    const given = positions.get(from);
    const at =
      drawn.get(from) ??
      (given ? ([given[0], -given[1]] as [number, number]) : ([middle, top] as [number, number]));
    place({
      station,
      order: null,
      at,
      wish: at[1] + (at[1] < (top + bottom) / 2 ? -0.1 : 0.1) * unit,
      height: unit * 2.05,
      lines: nameLines(station.name),
    });
  }
  // Stations straight ahead or behind go to the side with more room.
  const filled = (side: -1 | 1) => columns[side].reduce((sum, each) => sum + each.height, 0);
  for (const each of sideless) columns[filled(-1) < filled(1) ? -1 : 1].push(each);

  const nodes: RingNode[] = [];
  for (const side of [-1, 1] as const) {
    const entries = [...columns[side]].sort((a, b) => a.wish - b.wish || (a.order ?? 99) - (b.order ?? 99));
    // Without names only the stations off the line need room in the column.
    const inColumn = entries.filter((each) => !small || each.order === null);
    const heights = new Map(stack(inColumn).map((y, i) => [inColumn[i], y]));
    const column = (side < 0 ? left : right) + side * unit * 2.5;
    for (const each of entries) {
      const y = heights.get(each) ?? each.at[1];
      const spur = each.order === null;
      const at: [number, number] = spur ? [column, y] : each.at;
      const text: [number, number] = [column + side * unit * (spur ? 1.05 : -0.6), y];
      nodes.push({
        id: each.station.id,
        name: each.station.name,
        order: each.order,
        at,
        anchor: each.at,
        spur,
        link: spur ? at : [text[0] - side * unit * 0.2, y],
        label: {
          lines: each.lines,
          side,
          at: text,
          heights: each.lines.map((_, i) => y + (i - (each.lines.length - 1) / 2) * unit * NAME_STEP),
        },
      });
    }
  }
  // In the order they are walked, then the ones off the line: the order in which the keyboard reaches them.
  const rank = new Map([...ring, ...plan.stations.filter((each) => !each.at)].map((each, i) => [each.id, i]));
  nodes.sort((a, b) => rank.get(a.id)! - rank.get(b.id)!);

  const margin = unit * 1.15;
  const across = [
    left,
    right,
    ...nodes.flatMap((n) => [
      n.at[0],
      ...(small
        ? []
        : [
            n.label.at[0] +
              n.label.side * unit * LETTER * Math.max(...n.label.lines.map((each) => each.length)),
          ]),
    ]),
  ];
  const down = [top, bottom, ...nodes.flatMap((n) => [n.at[1], ...(small ? [] : [n.label.at[1]])])];
  const x = Math.min(...across) - margin * (small ? 1 : 0.4);
  const y = Math.min(...down) - margin;
  return {
    nodes,
    line: closed.map((p) => [p[0], -p[1]]),
    unit,
    box: {
      x,
      y,
      width: Math.max(...across) + margin * (small ? 1 : 0.4) - x,
      height: Math.max(...down) + margin - y,
    },
    shareOf,
  };
}
