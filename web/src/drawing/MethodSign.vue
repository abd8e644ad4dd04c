<script setup lang="ts">
import type { Method } from '@rounds/core/catalogue';

/** How a check is made, as a hand or a sense in our own line. Decorative beside its word. */
defineProps<{ method: Method }>();
/** Strokes on a 32 grid: the part is the plain line, the hand or sense what touches it. */
const STROKES: Readonly<Record<Method, string>> = {
  look: 'M4 16c4-6 8-9 12-9s8 3 12 9c-4 6-8 9-12 9s-8-3-12-9M16 12a4 4 0 1 0 0 8a4 4 0 0 0 0-8',
  touch: 'M4 25h24M14 22V8a2.2 2.2 0 0 1 4.4 0v8l4.6 1.4c1.6.5 2 1.7 1.7 3.2l-.3 1.4',
  press: 'M4 26h8c2 0 2-3 4-3s2 3 4 3h8M13 5h6v8h4l-7 7-7-7h4z',
  pull: 'M4 6v20M8 16h6M20 8l8 8-8 8v-5h-6v-6h6z',
  turn: 'M25 16a9 9 0 1 1-3-6.7M22 4v6h-6M16 14a2 2 0 1 0 0 4a2 2 0 0 0 0-4',
  wipe: 'M4 26h24M7 20c3-9 8-12 17-12M10 22c2-6 6-9 13-9M13 24c2-3 4-5 9-6',
  operate: 'M6 26h20M16 26V12M16 12l6-6M22 3.5a2.8 2.8 0 1 0 0 5.6a2.8 2.8 0 0 0 0-5.6M9 18l-3 3 3 3',
  listen:
    'M10 20c-3-2-4-5-4-8a8 8 0 0 1 16 0c0 5-6 6-6 11a4 4 0 0 1-7 2M11 12a3.5 3.5 0 0 1 7 0M26 8c1.5 3 1.5 6 0 9',
  smell: 'M17 5c0 6-5 10-6 15a4.5 4.5 0 0 0 8 3M4 27c2-2 4 2 6 0M22 26c2-2 4 2 6 0M23 20c1.5-1.5 3 1.5 5 0',
  measure: 'M4 11h24v10H4zM8 11v4M12 11v6M16 11v4M20 11v6M24 11v4',
  read: 'M8 4h12l5 5v19H8zM20 4v5h5M12 14h9M12 18h9M12 22h6',
};
</script>

<template>
  <svg class="sign" viewBox="0 0 32 32" width="30" height="30" aria-hidden="true">
    <path :d="STROKES[method]" />
  </svg>
</template>

<style scoped>
.sign {
  flex: none;
}
.sign path {
  fill: none;
  stroke: currentColor;
  stroke-width: 2;
  stroke-linecap: round;
  stroke-linejoin: round;
}
</style>
