<script setup lang="ts">
import type { Grade } from '@rounds/core/catalogue';
import { GRADE_FILL, sectorPath } from '@rounds/core/drawing';

/** A grade as a disc: how full, how bad. Decorative beside its word; give `label` where it stands alone. */
withDefaults(defineProps<{ grade: Grade; size?: number; label?: string }>(), { size: 22 });
</script>

<template>
  <svg
    :width="size"
    :height="size"
    viewBox="0 0 24 24"
    :role="label ? 'img' : undefined"
    :aria-label="label"
    :aria-hidden="label ? undefined : 'true'"
    class="disc"
    :class="grade"
  >
    <circle cx="12" cy="12" r="9.5" fill="none" stroke="currentColor" stroke-width="2" />
    <path v-if="GRADE_FILL[grade] > 0" :d="sectorPath(12, 12, 8.5, GRADE_FILL[grade])" fill="currentColor" />
    <path v-if="grade === 'stop'" d="M7.5 12h9" stroke="var(--sheet)" stroke-width="2.6" />
  </svg>
</template>

<style scoped>
.disc {
  flex: none;
  vertical-align: -0.3em;
  color: var(--ink);
}
.stop {
  color: var(--crimson);
}
</style>
