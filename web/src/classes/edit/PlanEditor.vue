<script setup lang="ts">
import type { Pack } from '@rounds/core/catalogue';
import { type Point, walkingLine } from '@rounds/core/round';
import { computed, ref } from 'vue';
import MachineOutline from '../../drawing/MachineOutline.vue';

/**
 * The plan with stations that are dragged, or moved with the arrow keys: filled ones look at a point on the
 * walking line, hollow ones stand off it.
 */
const props = defineProps<{ plan: Pack['plan'] }>();
const emit = defineEmits<{ move: [station: string, field: 'at' | 'spot', to: Point] }>();
const STEP = 0.05;
const svg = ref<SVGSVGElement | null>(null);
const dragging = ref<{ id: string; field: 'at' | 'spot'; to: Point } | null>(null);
const chosen = ref('');

const stations = computed(() =>
  props.plan.stations.flatMap((each) => {
    const field = each.at ? ('at' as const) : ('spot' as const);
    const held = dragging.value?.id === each.id ? dragging.value.to : undefined;
    const p = held ?? each.at ?? each.spot;
    if (!p) return [];
    const { x, y, w, h, unit } = frame.value;
    // A place far off, such as a test lane, is drawn at the edge of the board.
    const shown = {
      left: Math.min(Math.max(p[0], x + unit), x + w - unit),
      top: Math.min(Math.max(-p[1], y + unit), y + h - unit),
    };
    const side = Math.abs(shown.left) < unit ? 0 : Math.sign(shown.left);
    return [{ id: each.id, name: each.name, field, x: p[0], y: -p[1], ...shown, side, off: !each.at }];
  }),
);
const moved = computed(() => ({
  ...props.plan,
  stations: props.plan.stations.map((each) =>
    dragging.value?.id === each.id ? { ...each, [dragging.value.field]: dragging.value.to } : each,
  ),
}));
const hull = computed(() => walkingLine(moved.value).hull);
/** The frame stays still while a station is dragged. */
const frame = computed(() => {
  const points = [
    ...props.plan.outlines.flatMap((each) => each.points),
    ...props.plan.stations.flatMap((each) => (each.at ? [each.at] : [])),
  ];
  const xs = points.map((p) => p[0]);
  const ys = points.map((p) => -p[1]);
  const size = Math.max(Math.max(...xs) - Math.min(...xs), Math.max(...ys) - Math.min(...ys));
  const margin = size * 0.14 + 1.1;
  return {
    x: Math.min(...xs) - margin,
    y: Math.min(...ys) - margin,
    w: Math.max(...xs) - Math.min(...xs) + 2 * margin,
    h: Math.max(...ys) - Math.min(...ys) + 2 * margin,
    unit: size / 24,
  };
});
const snap = (value: number) => Math.round(Math.round(value / STEP) * STEP * 100) / 100;
function point(event: PointerEvent): Point {
  const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.value!.getScreenCTM()!.inverse());
  return [snap(at.x), snap(-at.y)];
}
function take(event: PointerEvent, station: { id: string; field: 'at' | 'spot' }) {
  chosen.value = station.id;
  (event.currentTarget as Element).setPointerCapture(event.pointerId);
  dragging.value = { ...station, to: point(event) };
}
function drag(event: PointerEvent) {
  if (dragging.value) dragging.value = { ...dragging.value, to: point(event) };
}
function drop() {
  const done = dragging.value;
  dragging.value = null;
  if (done) emit('move', done.id, done.field, done.to);
}
const ARROWS: Readonly<Record<string, Point>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
function nudge(event: KeyboardEvent, station: { id: string; field: 'at' | 'spot'; x: number; y: number }) {
  const way = ARROWS[event.key];
  if (!way) return;
  event.preventDefault();
  const by = event.shiftKey ? 0.5 : 0.1;
  emit('move', station.id, station.field, [snap(station.x + way[0] * by), snap(-station.y + way[1] * by)]);
}
const name = computed(() => stations.value.find((each) => each.id === chosen.value));
</script>

<template>
  <div class="stack">
    <p class="quiet">
      Drag a station, or choose it and use the arrow keys (with Shift, half a metre). Positions are in metres
      from the middle of the machine; they snap to 5 cm.
    </p>
    <div class="sheet board">
      <svg
        ref="svg"
        :viewBox="`${frame.x} ${frame.y} ${frame.w} ${frame.h}`"
        role="group"
        aria-label="Plan with stations to move"
      >
        <path
          v-if="hull.length > 2"
          :d="`M${hull.map((p) => `${p[0]} ${-p[1]}`).join('L')}Z`"
          class="line"
          :stroke-width="frame.unit * 0.08"
          :stroke-dasharray="`${frame.unit * 0.3} ${frame.unit * 0.2}`"
        />
        <MachineOutline bare :outlines="plan.outlines" :line="frame.unit * 0.05" />
        <g
          v-for="s in stations"
          :key="s.id"
          role="button"
          tabindex="0"
          class="station"
          :class="{ off: s.off, held: chosen === s.id }"
          :transform="`translate(${s.left} ${s.top})`"
          :aria-label="`${s.name} at ${s.x.toFixed(2)}, ${(-s.y).toFixed(2)}`"
          @pointerdown.prevent="take($event, s)"
          @pointermove="drag"
          @pointerup="drop"
          @pointercancel="dragging = null"
          @focus="chosen = s.id"
          @keydown="nudge($event, s)"
        >
          <circle :r="frame.unit * 0.95" class="touch" />
          <circle :r="frame.unit * 0.42" class="dot" :stroke-width="frame.unit * 0.1" />
          <text
            class="name"
            :x="s.side * frame.unit * 0.65"
            :y="s.side === 0 ? -frame.unit * 0.65 : 0"
            :font-size="frame.unit * 0.52"
            :text-anchor="s.side === 0 ? 'middle' : s.side < 0 ? 'end' : 'start'"
            :dominant-baseline="s.side === 0 ? undefined : 'central'"
          >
            {{ s.name }}
          </text>
        </g>
      </svg>
    </div>
    <p v-if="name" role="status">
      <strong>{{ name.name }}</strong> ({{ name.id }}) {{ name.off ? 'is drawn' : 'looks at' }}
      {{ name.x.toFixed(2) }} m across, {{ (-name.y).toFixed(2) }} m along
    </p>
  </div>
</template>

<style scoped>
.board svg {
  display: block;
  width: 100%;
  height: min(64vh, 820px);
  touch-action: none;
}
.line {
  fill: none;
  stroke: var(--quiet);
}
.touch {
  fill: transparent;
}
.dot {
  fill: var(--petrol);
  stroke: var(--ink);
}
.off .dot {
  fill: var(--sheet);
}
.off .name {
  display: none;
}
.off.held .name,
.off:hover .name {
  display: inline;
  font-weight: 700;
}
.held .dot {
  fill: var(--amber);
}
.station {
  cursor: grab;
  outline: none;
}
.station:focus-visible .touch {
  stroke: var(--amber);
  stroke-width: 3px;
  vector-effect: non-scaling-stroke;
}
text {
  fill: var(--ink);
  font-family: var(--font);
  pointer-events: none;
}
</style>
