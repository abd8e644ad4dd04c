<script setup lang="ts">
import type { StandingStatus } from '@rounds/core/certification';
import { arcPath } from '@rounds/core/drawing';
import { computed } from 'vue';

/** What is left of a certificate: an arc that shrinks from full; a broken ring when nothing is left. */
const props = withDefaults(
  defineProps<{ status: StandingStatus; share: number | null; size?: number; label?: string }>(),
  { size: 24 },
);
const path = computed(() => {
  if (props.status === 'valid' || props.status === 'due')
    return arcPath(12, 12, 9, 0, Math.max(0.04, Math.min(1, props.share ?? 1)));
  if (props.status === 'in-training') return arcPath(12, 12, 9, 0, 0.06);
  return '';
});
const broken = computed(() => ['lapsed', 'suspended', 'withdrawn', 'in-grace'].includes(props.status));
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
    :class="status"
  >
    <circle v-if="!broken" cx="12" cy="12" r="9" fill="none" stroke="var(--line)" stroke-width="2" />
    <path v-if="path" :d="path" fill="none" stroke="currentColor" stroke-width="4" />
    <template v-if="broken">
      <path :d="arcPath(12, 12, 9, 0.08, 0.42)" fill="none" stroke="currentColor" stroke-width="3" />
      <path :d="arcPath(12, 12, 9, 0.58, 0.92)" fill="none" stroke="currentColor" stroke-width="3" />
      <path
        v-if="status === 'suspended' || status === 'withdrawn'"
        d="M7 12h10"
        stroke="currentColor"
        stroke-width="3"
      />
    </template>
  </svg>
</template>

<style scoped>
.arc {
  flex: none;
  overflow: visible;
  color: var(--petrol);
  vertical-align: -0.35em;
}
.due,
.in-grace {
  color: var(--ink);
}
.lapsed,
.suspended,
.withdrawn {
  color: var(--crimson);
}
</style>
