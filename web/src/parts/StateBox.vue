<script setup lang="ts">
import { Button } from 'ant-design-vue';
import { explain } from '../device/api';

/**
 * Loading, error, no-permission and empty states of a screen or panel, in one place so that they always say
 * what to do.
 */
defineProps<{ loading?: boolean; error?: unknown; empty?: boolean; what: string }>();
defineEmits<{ retry: [] }>();
</script>

<template>
  <div v-if="error" class="state sheet" role="alert">
    <h2>{{ explain(error).code === 'forbidden' ? 'Not open to your role' : explain(error).title }}</h2>
    <p>{{ explain(error).detail }}</p>
    <p v-if="explain(error).code === 'forbidden'" class="quiet">
      Ask the administrator if your work needs {{ what }}.
    </p>
    <Button v-else @click="$emit('retry')">Try again</Button>
  </div>
  <div v-else-if="loading" class="state" role="status">
    <svg class="turning" viewBox="0 0 40 40" width="40" height="40" aria-hidden="true">
      <circle cx="20" cy="20" r="16" fill="none" stroke="var(--line)" stroke-width="4" />
      <path
        d="M20 4a16 16 0 0 1 16 16"
        fill="none"
        stroke="var(--petrol)"
        stroke-width="4"
        stroke-linecap="round"
      />
    </svg>
    <span>Fetching {{ what }}</span>
  </div>
  <div v-else-if="empty" class="state sheet"><slot name="empty">There is nothing here yet.</slot></div>
  <slot v-else />
</template>

<style scoped>
.state {
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  gap: 0.75rem;
  padding: 1.5rem;
}
.turning {
  animation: turn 1.2s linear infinite;
}
@keyframes turn {
  to {
    transform: rotate(360deg);
  }
}
</style>
