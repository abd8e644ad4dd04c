<script setup lang="ts">
import type { StandingStatus } from '@rounds/core/certification';
import { computed } from 'vue';
import { arcStrokes, arcTone } from './arcStrokes';

/** What is left of a certificate: an arc that shrinks from full; a broken ring when nothing is left. */
const props = withDefaults(
  defineProps<{ status: StandingStatus; share: number | null; size?: number; label?: string }>(),
  { size: 24 },
);
const strokes = computed(() => arcStrokes(props.status, props.share));
</script>

<template>
  <svg
    :width="size"
    :height="size"
    viewBox="0 0 24 24"
    :role="label ? 'img' : undefined"
    :aria-label="label"
    :aria-hidden="label ? undefined : 'true'"
    class="arc"
    :style="{ color: `var(--${arcTone(status)})` }"
  >
    <path
      v-for="stroke in strokes"
      :key="stroke.d"
      :d="stroke.d"
      fill="none"
      :stroke="stroke.pale ? 'var(--line)' : 'currentColor'"
      :stroke-width="stroke.width"
    />
  </svg>
</template>

<style scoped>
.arc {
  flex: none;
  overflow: visible;
  vertical-align: -0.35em;
}
</style>
