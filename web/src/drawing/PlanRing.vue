<script setup lang="ts">
import type { Pack } from '@rounds/core/catalogue';
import { NAME_SIZE, ringLayout, type RingNode } from '@rounds/core/drawing';
import type { StationMark } from '@rounds/core/evaluation';
import { computed } from 'vue';
import MachineOutline from './MachineOutline.vue';

/** How a station stands: as in a round under way, or left out when it was never reached. */
export type RingMark = Omit<StationMark, 'state' | 'faults'> & {
  state: StationMark['state'] | 'gap';
  faults?: number;
};

/**
 * The plan ring: the machine from above, to scale, with its stations on the walking line and the off-line
 * ones on short spurs.
 * The walked part of the line fills; a gap stays visible. Takes plain data, emits the station touched.
 */
const props = withDefaults(
  defineProps<{
    plan: Pack['plan'];
    marks?: Record<string, RingMark>;
    walked?: readonly string[];
    current?: string | null;
    gaps?: readonly string[];
    /** Stations to show; all when absent. */
    only?: readonly string[] | undefined;
    interactive?: boolean;
    small?: boolean;
    title: string;
  }>(),
  {
    marks: () => ({}),
    walked: () => [],
    current: null,
    gaps: () => [],
    only: undefined,
    interactive: false,
    small: false,
  },
);
const emit = defineEmits<{ station: [id: string] }>();

const layout = computed(() => ringLayout(props.plan, { only: props.only, small: props.small }));
const nodes = computed(() => layout.value.nodes);
const unit = computed(() => layout.value.unit);
const path = computed(() => `M${layout.value.line.map((p) => p.join(' ')).join('L')}Z`);
const box = computed(() => Object.values(layout.value.box).join(' '));

/** Stretches of the line between neighbouring arrivals, as start and length along it. */
const stretches = computed(() => {
  const shares = layout.value.shareOf;
  const seen = props.walked.filter((id) => shares.has(id));
  return seen.slice(1).map((id, i) => {
    const a = shares.get(seen[i]!)!;
    const b = shares.get(id)!;
    const forward = (b - a + 1) % 1;
    return forward <= 0.5 ? { from: a, length: forward } : { from: b, length: 1 - forward };
  });
});

const spoken = (node: RingNode) => {
  const mark = props.marks[node.id];
  return mark
    ? `${node.name}: ${mark.done} of ${mark.total} checks${mark.faults ? `, ${mark.faults} reported` : ''}`
    : node.name;
};
const circumference = 2 * Math.PI;
</script>

<template>
  <svg
    class="plan"
    :class="{ interactive }"
    :viewBox="box"
    :role="interactive ? 'group' : 'img'"
    :aria-label="title"
    preserveAspectRatio="xMidYMid meet"
  >
    <path
      :d="path"
      class="line"
      :stroke-width="unit * 0.16"
      :stroke-dasharray="`${unit * 0.42} ${unit * 0.34}`"
    />
    <path
      v-for="(each, i) in stretches"
      :key="i"
      :d="path"
      pathLength="1"
      class="walked"
      :stroke-width="unit * 0.34"
      :stroke-dasharray="`${each.length} ${1 - each.length}`"
      :stroke-dashoffset="-each.from"
    />
    <MachineOutline bare :outlines="plan.outlines" :line="unit * 0.07" />
    <line
      v-for="node in nodes.filter((n) => n.spur || !small)"
      :key="`spur-${node.id}`"
      :x1="node.anchor[0]"
      :y1="node.anchor[1]"
      :x2="node.link[0]"
      :y2="node.link[1]"
      :class="node.spur ? 'spur' : 'leader'"
      :stroke-width="unit * (node.spur ? 0.08 : 0.05)"
    />
    <g
      v-for="node in nodes"
      :key="node.id"
      :transform="`translate(${node.at[0]} ${node.at[1]})`"
      class="station"
      :class="[
        marks[node.id]?.state ?? 'untouched',
        { current: current === node.id, gap: gaps.includes(node.id), spurred: node.spur },
      ]"
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
      <template v-if="!small">
        <text
          v-for="node in nodes"
          :key="`name-${node.id}`"
          class="name"
          :class="{ current: current === node.id }"
          :font-size="unit * NAME_SIZE"
          :text-anchor="node.label.side < 0 ? 'end' : 'start'"
          dominant-baseline="central"
        >
          <tspan
            v-for="(each, i) in node.label.lines"
            :key="i"
            :x="node.label.at[0]"
            :y="node.label.heights[i]"
          >
            {{ each }}
          </tspan>
        </text>
      </template>
      <g
        v-for="node in nodes"
        :key="node.id"
        :transform="`translate(${node.at[0]} ${node.at[1]})`"
        :class="[marks[node.id]?.state ?? 'untouched', { current: current === node.id }]"
      >
        <text class="number" :font-size="unit * 0.72" text-anchor="middle" dominant-baseline="central">
          {{ node.order ?? node.name.slice(0, 1) }}
        </text>
        <g v-if="marks[node.id]?.faults" :transform="`translate(${unit * 0.72} ${-unit * 0.72})`">
          <circle :r="unit * 0.4" class="badge" />
          <text :font-size="unit * 0.5" text-anchor="middle" dominant-baseline="central" class="badge-text">
            {{ marks[node.id]!.faults }}
          </text>
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
.spur,
.leader {
  stroke: var(--quiet);
}
.leader {
  opacity: 0.55;
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
.captions .name.current {
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
