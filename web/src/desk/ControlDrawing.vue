<script setup lang="ts">
import type { ControlKind } from '@rounds/core/machine';
import { computed } from 'vue';

/**
 * A control as what a hand or a foot does with it: a selector is an arc with stops, a lever a cross with its travel, a
 * button a disc, a pedal a wedge, a pull a cord. `at` of `stops` is where it stands, `rest` where it falls back to.
 */
const props = defineProps<{
  kind: ControlKind;
  stops: number;
  at: number;
  rest: number;
  worked: boolean;
  depth: number;
}>();

/** Stops of a selector on its arc, from left to right. */
const arc = computed(() =>
  Array.from({ length: props.stops }, (_, i) => {
    const turn = props.stops === 1 ? 0 : -120 + (240 * i) / (props.stops - 1);
    const angle = ((turn - 90) * Math.PI) / 180;
    return { x: 32 + 22 * Math.cos(angle), y: 30 + 22 * Math.sin(angle) };
  }),
);
/** How far a lever is moved along its travel. */
const travel = computed(() => Math.max(-22, Math.min(22, (props.at - props.rest) * 16)));
</script>

<template>
  <svg class="control" viewBox="0 0 64 60" width="64" height="60" aria-hidden="true">
    <template v-if="kind === 'selector'">
      <path class="line" d="M12.9 41A22 22 0 1 1 51.1 41" />
      <circle
        v-for="(each, i) in arc"
        :key="i"
        :cx="each.x"
        :cy="each.y"
        :r="i === at ? 6 : 3.5"
        :class="i === at ? 'now' : 'stop'"
      />
      <line v-if="arc[at]" class="hand" x1="32" y1="30" :x2="arc[at]!.x" :y2="arc[at]!.y" />
      <circle class="hub" cx="32" cy="30" r="5" />
    </template>
    <template v-else-if="kind === 'lever'">
      <path class="line" d="M32 6V54M10 30H54" />
      <circle class="stop" :cx="32 + travel" cy="30" r="11" :class="{ now: worked }" />
    </template>
    <template v-else-if="kind === 'pedal'">
      <path class="line" d="M10 50H54V14Z" />
      <path class="now" :d="`M10 50H${10 + 44 * depth}V${50 - 36 * depth}Z`" />
    </template>
    <template v-else-if="kind === 'pull'">
      <path class="line" :d="worked ? 'M32 4V44' : 'M32 4V30'" />
      <path class="stop" :d="worked ? 'M22 44H42V52H22Z' : 'M22 30H42V38H22Z'" :class="{ now: worked }" />
    </template>
    <template v-else>
      <circle class="line" cx="32" cy="30" r="24" />
      <circle class="stop" cx="32" cy="30" :r="worked ? 17 : 14" :class="{ now: worked }" />
    </template>
  </svg>
</template>

<style scoped>
.control {
  flex: none;
}
.line {
  fill: none;
  stroke: var(--machine-deep);
  stroke-width: 3;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.stop {
  fill: var(--machine);
  stroke: var(--ink);
  stroke-width: 2;
}
.hand {
  stroke: var(--petrol);
  stroke-width: 5;
  stroke-linecap: round;
}
.hub,
.now {
  fill: var(--petrol);
  stroke: var(--petrol);
}
</style>
