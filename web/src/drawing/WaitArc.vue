<script setup lang="ts">
import { arcPath } from '@rounds/core/drawing';
import { computed } from 'vue';

/**
 * A clock as an arc: a wait fills until it is long enough and is closed then; a limit runs towards its tick, and past
 * it the arc breaks into dashes.
 */
const props = defineProps<{ share: number; means: 'wait' | 'limit' }>();
/** A limit's tick stands at three quarters, so that what is past it can be seen. */
const whole = computed(() => (props.means === 'limit' ? 0.75 : 1));
const arc = computed(() => arcPath(24, 24, 18, 0, Math.min(1, props.share * whole.value)));
const past = computed(() => props.means === 'limit' && props.share > 1);
</script>

<template>
  <svg
    class="wait"
    :class="[means, { past, full: means === 'wait' && share >= 1 }]"
    viewBox="0 0 48 48"
    aria-hidden="true"
  >
    <circle class="ground" cx="24" cy="24" r="18" />
    <path class="passed" :d="arc" />
    <path v-if="means === 'limit'" class="tick" d="M0 24H12" />
    <path v-if="means === 'wait' && share >= 1" class="tick" d="M16 24l6 7 11-14" />
  </svg>
</template>

<style scoped>
.wait {
  width: 48px;
  height: 48px;
  flex: none;
}
.ground {
  fill: none;
  stroke: var(--line);
  stroke-width: 4;
}
.passed {
  fill: none;
  stroke: var(--petrol);
  stroke-width: 7;
}
.past .passed {
  stroke: var(--crimson);
  stroke-dasharray: 6 5;
}
.tick {
  fill: none;
  stroke: var(--ink);
  stroke-width: 3.5;
}
</style>
