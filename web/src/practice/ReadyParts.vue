<script setup lang="ts">
import type { ClassPractice } from '@rounds/contract/practice';

/** What makes ready for an assessment, part by part: met, or how far it is. */
defineProps<{ parts: ClassPractice['parts'] }>();
</script>

<template>
  <ul v-if="parts.length > 0" class="parts" aria-label="What makes ready">
    <li v-for="each in parts" :key="each.part" :class="{ quiet: !each.met }">
      <span class="mark" aria-hidden="true">{{ each.met ? '✓' : '–' }}</span>
      <span class="visually-hidden">{{ each.met ? 'Met: ' : 'Open: ' }}</span>{{ each.says }}
    </li>
  </ul>
</template>

<style scoped>
.parts {
  list-style: none;
  margin: 0.35rem 0 0.5rem;
  padding: 0;
  display: grid;
  gap: 0.2rem;
}
li {
  display: flex;
  align-items: baseline;
  gap: 0.45rem;
}
.mark {
  flex: none;
  width: 1.15em;
  text-align: center;
  font-weight: 700;
  color: var(--petrol);
}
</style>
