<script setup lang="ts">
import { walkingLine, type Pack, type Point } from '@rounds/core';
import { computed } from 'vue';
import MachineOutline from './MachineOutline.vue';

/** How a station stands in a round. */
export interface StationMark {
  /** Checks claimed and in all. */
  done: number;
  total: number;
  state: 'untouched' | 'begun' | 'complete' | 'gap';
  faults?: number;
}

/**
 * The plan ring: the machine from above, to scale, with its stations on the walking line and the off-line ones on short spurs.
 * The walked part of the line fills; a gap stays visible. Takes plain data, emits the station touched.
 */
const props = withDefaults(
  defineProps<{
    plan: Pack['plan'];
    marks?: Record<string, StationMark>;
    walked?: readonly string[];
    current?: string | null;
    gaps?: readonly string[];
    /** Stations to show; all when absent. */ only?: readonly string[] | undefined;
    interactive?: boolean;
    small?: boolean;
    title: string;
  }>(),
  { marks: () => ({}), walked: () => [], current: null, gaps: () => [], only: undefined, interactive: false, small: false },
);
const emit = defineEmits<{ station: [id: string] }>();

const line = computed(() => walkingLine(props.plan));
const flip = (p: Point): [number, number] => [p[0], -p[1]];
const toPath = (points: readonly (readonly number[])[]) => `M${points.map((p) => `${p[0]} ${-p[1]!}`).join('L')}Z`;

const hullPath = computed(() => (line.value.hull.length > 2 ? toPath(line.value.hull) : toPath(line.value.ring.map((each) => line.value.positions.get(each.id)!))));
const outlineOfLine = computed(() => (line.value.hull.length > 2 ? line.value.hull : line.value.ring.map((each) => line.value.positions.get(each.id)!)));

/** Position of a point along the walking line, 0 to 1. */
function along(p: Point): number {
  const hull = outlineOfLine.value;
  let walkedLength = 0;
  let best = 0;
  let least = Infinity;
  hull.forEach((a, i) => {
    const b = hull[(i + 1) % hull.length]!;
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    const t = length === 0 ? 0 : Math.max(0, Math.min(1, ((p[0] - a[0]) * (b[0] - a[0]) + (p[1] - a[1]) * (b[1] - a[1])) / length ** 2));
    const away = Math.hypot(p[0] - a[0] - t * (b[0] - a[0]), p[1] - a[1] - t * (b[1] - a[1]));
    if (away < least) {
      least = away;
      best = walkedLength + t * length;
    }
    walkedLength += length;
  });
  return best / walkedLength;
}

interface Node {
  id: string;
  name: string;
  /** Which way its name stands: the sign of x away from the machine. */
  side: -1 | 0 | 1;
  at: [number, number];
  anchor: [number, number];
  spur: boolean;
  order: number | null;
}

const centre = computed<Point>(() => {
  const hull = outlineOfLine.value;
  return [hull.reduce((s, p) => s + p[0], 0) / hull.length, hull.reduce((s, p) => s + p[1], 0) / hull.length];
});
const reach = computed(() => {
  const xs = outlineOfLine.value.map((p) => p[0]);
  const ys = outlineOfLine.value.map((p) => p[1]);
  return Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
});
/** Size of a station in metres of the plan, so that it stays touchable whatever the machine's size. */
const unit = computed(() => reach.value / (props.small ? 14 : 17));

const nodes = computed<Node[]>(() => {
  const { ring, positions } = line.value;
  const shown = (id: string) => !props.only || props.only.includes(id);
  const numbered = ring.map((each, i) => ({ each, order: i + 1 })).filter(({ each }) => shown(each.id));
  const spots = spreadOut(numbered.map(({ each }) => along(positions.get(each.id)!)));
  const side = (x: number): -1 | 0 | 1 => (Math.abs(x - centre.value[0]) < unit.value * 0.6 ? 0 : x < centre.value[0] ? -1 : 1);
  const result: Node[] = numbered.map(({ each, order }, i) => {
    const p = pointAt(spots[i]!);
    return { id: each.id, name: each.name, side: side(p[0]), at: flip(p), anchor: flip(p), spur: false, order };
  });
  const anchorOf = new Map(result.map((each) => [each.id, each.at]));
  // A station with spurs has them on its outer side, so its own name goes to the inner one.
  const spurred = new Set(props.plan.stations.flatMap((each) => (!each.at && shown(each.id) ? [each.spurFrom ?? ring[0]?.id] : [])));
  for (const each of result) if (spurred.has(each.id) && each.side !== 0) each.side = each.side === 1 ? -1 : 1;
  const byAnchor = new Map<string, typeof props.plan.stations>();
  for (const each of props.plan.stations)
    if (!each.at && shown(each.id)) {
      const anchor = each.spurFrom ?? ring[0]?.id ?? '';
      byAnchor.set(anchor, [...(byAnchor.get(anchor) ?? []), each]);
    }
  for (const [anchorId, list] of byAnchor) {
    const drawn = anchorOf.get(anchorId);
    const anchor: Point = drawn ? [drawn[0], -drawn[1]] : (positions.get(anchorId) ?? centre.value);
    const outward = Math.atan2(anchor[1] - centre.value[1], anchor[0] - centre.value[0]);
    list.forEach((each, i) => {
      const angle = outward + (i - (list.length - 1) / 2) * 0.95;
      const length = unit.value * 2.7;
      const at: Point = [anchor[0] + Math.cos(angle) * length, anchor[1] + Math.sin(angle) * length];
      result.push({ id: each.id, name: each.name, side: at[0] < centre.value[0] ? -1 : 1, at: flip(at), anchor: flip(anchor), spur: true, order: null });
    });
  }
  // A name that a spur's station would cover goes to the inner side too.
  for (const each of result)
    if (
      !each.spur &&
      each.side !== 0 &&
      result.some(
        (s) =>
          s.spur && Math.abs(s.at[1] - each.at[1]) < unit.value * 1.2 && Math.sign(s.at[0] - each.at[0]) === each.side && Math.abs(s.at[0] - each.at[0]) < unit.value * 6,
      )
    )
      each.side = each.side === 1 ? -1 : 1;
  return result;
});

/** Room for the names beside the stations. */
const label = (n: Node) => n.name.replace(/ \(.*\)$/, '').replace(/^(.{25}).{2,}$/, '$1…');
const nameRoom = (n: Node) => (props.small ? 0 : (n.side === 0 ? 0 : n.side) * unit.value * (0.95 + 0.29 * label(n).length));

const box = computed(() => {
  const margin = unit.value * 1.15;
  const xs = [...nodes.value.flatMap((n) => [n.at[0], n.at[0] + nameRoom(n)]), ...outlineOfLine.value.map((p) => p[0])];
  const ys = [...nodes.value.map((n) => n.at[1]), ...outlineOfLine.value.map((p) => -p[1])];
  const x = Math.min(...xs) - margin;
  const y = Math.min(...ys) - margin;
  return `${x} ${y} ${Math.max(...xs) - x + margin} ${Math.max(...ys) - y + margin}`;
});

/** The point of the walking line at a share of its length. */
function pointAt(share: number): Point {
  const hull = outlineOfLine.value;
  let left = (((share % 1) + 1) % 1) * perimeter.value;
  for (let i = 0; i < hull.length; i++) {
    const a = hull[i]!;
    const b = hull[(i + 1) % hull.length]!;
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (left <= length) return [a[0] + ((b[0] - a[0]) * left) / length, a[1] + ((b[1] - a[1]) * left) / length];
    left -= length;
  }
  return hull[0]!;
}
const perimeter = computed(() =>
  outlineOfLine.value.reduce((sum, a, i, hull) => sum + Math.hypot(hull[(i + 1) % hull.length]![0] - a[0], hull[(i + 1) % hull.length]![1] - a[1]), 0),
);

/** Pushes stations that lie too close along the line apart, keeping their order, so that each can be touched. */
function spreadOut(shares: readonly number[]): number[] {
  const least = Math.min((unit.value * 2.05) / perimeter.value, 0.9 / Math.max(1, shares.length));
  const order = shares.map((share, i) => ({ share, i })).sort((a, b) => a.share - b.share);
  for (let turn = 0; turn < 60; turn++) {
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

/** Stretches of the line between neighbouring arrivals, as start and length along it. */
const stretches = computed(() => {
  const { positions } = line.value;
  const seen = props.walked.filter((id) => positions.has(id) && line.value.ring.some((each) => each.id === id));
  return seen.slice(1).map((id, i) => {
    const a = along(positions.get(seen[i]!)!);
    const b = along(positions.get(id)!);
    const forward = (b - a + 1) % 1;
    return forward <= 0.5 ? { from: a, length: forward } : { from: b, length: 1 - forward };
  });
});

const spoken = (node: Node) => {
  const mark = props.marks[node.id];
  return mark ? `${node.name}: ${mark.done} of ${mark.total} checks${mark.faults ? `, ${mark.faults} reported` : ''}` : node.name;
};
const circumference = 2 * Math.PI;
</script>

<template>
  <svg class="plan" :class="{ interactive }" :viewBox="box" :role="interactive ? 'group' : 'img'" :aria-label="title" preserveAspectRatio="xMidYMid meet">
    <path :d="hullPath" class="line" :stroke-width="unit * 0.16" :stroke-dasharray="`${unit * 0.42} ${unit * 0.34}`" />
    <path
      v-for="(each, i) in stretches"
      :key="i"
      :d="hullPath"
      pathLength="1"
      class="walked"
      :stroke-width="unit * 0.34"
      :stroke-dasharray="`${each.length} ${1 - each.length}`"
      :stroke-dashoffset="-each.from"
    />
    <MachineOutline bare :outlines="plan.outlines" :line="unit * 0.07" />
    <line
      v-for="node in nodes.filter((n) => n.spur)"
      :key="`spur-${node.id}`"
      :x1="node.anchor[0]"
      :y1="node.anchor[1]"
      :x2="node.at[0]"
      :y2="node.at[1]"
      class="spur"
      :stroke-width="unit * 0.08"
    />
    <g
      v-for="node in nodes"
      :key="node.id"
      :transform="`translate(${node.at[0]} ${node.at[1]})`"
      class="station"
      :class="[marks[node.id]?.state ?? 'untouched', { current: current === node.id, gap: gaps.includes(node.id), spurred: node.spur }]"
      :role="interactive ? 'button' : undefined"
      :tabindex="interactive ? 0 : undefined"
      :aria-label="interactive ? spoken(node) : undefined"
      :aria-pressed="interactive ? current === node.id : undefined"
      @click="interactive && emit('station', node.id)"
      @keydown.enter.prevent="interactive && emit('station', node.id)"
      @keydown.space.prevent="interactive && emit('station', node.id)"
    >
      <circle v-if="interactive" :r="unit * 1.15" class="touch" />
      <circle :r="unit * 0.78" class="face" :stroke-width="unit * 0.12" />
      <circle
        v-if="marks[node.id] && marks[node.id]!.total > 0 && marks[node.id]!.done > 0"
        :r="unit * 0.78"
        class="progress"
        transform="rotate(-90)"
        :stroke-width="unit * 0.26"
        :stroke-dasharray="`${(marks[node.id]!.done / marks[node.id]!.total) * circumference * unit * 0.78} ${circumference * unit}`"
      />
    </g>
    <g class="captions" aria-hidden="true">
      <g
        v-for="node in nodes"
        :key="node.id"
        :transform="`translate(${node.at[0]} ${node.at[1]})`"
        :class="[marks[node.id]?.state ?? 'untouched', { current: current === node.id }]"
      >
        <text class="number" :font-size="unit * 0.72" text-anchor="middle" dominant-baseline="central">{{ node.order ?? node.name.slice(0, 1) }}</text>
        <text
          v-if="!small"
          class="name"
          :x="node.side * unit * 1.05"
          :y="node.side === 0 ? (node.at[1] > -centre[1] ? -1.25 : 1.25) * unit : 0"
          :font-size="unit * 0.52"
          :text-anchor="node.side === 0 ? 'middle' : node.side < 0 ? 'end' : 'start'"
          dominant-baseline="central"
        >
          {{ label(node) }}
        </text>
        <g v-if="marks[node.id]?.faults" :transform="`translate(${unit * 0.72} ${-unit * 0.72})`">
          <circle :r="unit * 0.4" class="badge" />
          <text :font-size="unit * 0.5" text-anchor="middle" dominant-baseline="central" class="badge-text">{{ marks[node.id]!.faults }}</text>
        </g>
      </g>
    </g>
  </svg>
</template>

<style scoped>
.plan {
  width: 100%;
  height: 100%;
  display: block;
  touch-action: manipulation;
}
.line {
  fill: none;
  stroke: var(--quiet);
  stroke-linecap: round;
  opacity: 0.7;
}
.walked {
  fill: none;
  stroke: var(--walked);
}
.spur {
  stroke: var(--quiet);
}
.station .face {
  fill: var(--sheet);
  stroke: var(--ink);
}
.station.spurred .face {
  stroke-dasharray: 0.12 0.08;
}
.captions {
  pointer-events: none;
}
.captions text {
  fill: var(--ink);
  font-family: var(--font);
}
.captions .number {
  font-weight: 700;
}
.station.complete .face {
  fill: var(--petrol);
  stroke: var(--petrol);
}
.captions .complete .number {
  fill: var(--on-petrol);
}
.progress {
  fill: none;
  stroke: var(--petrol);
}
.station.gap .face {
  stroke: var(--crimson);
  stroke-dasharray: 0.1 0.1;
}
.station.current .face {
  fill: var(--amber);
  stroke: var(--ink);
}
.captions .current .number {
  fill: var(--on-amber);
}
.captions .current .name {
  font-weight: 700;
}
.touch {
  fill: transparent;
}
.badge {
  fill: var(--ink);
}
.captions .badge-text {
  fill: var(--sheet);
}
.interactive .station {
  cursor: pointer;
  outline: none;
}
.interactive .station:focus-visible .face {
  stroke: var(--amber);
  stroke-width: 0.14;
}
.interactive .station:focus-visible .touch {
  stroke: var(--ink);
  stroke-width: 0.05;
}
</style>
