<script setup lang="ts">
import { Button, Empty, Skeleton } from 'ant-design-vue';
import { computed } from 'vue';
import { explain } from '../device/api';
import { MessagePage } from './messagePage';

/** Loading, error, no-permission and empty states of a screen or panel, so that they always say what to do. */
const props = defineProps<{
  loading?: boolean;
  error?: unknown;
  empty?: boolean;
  what: string;
  /** Lines of the drawing that stands in while it loads. */
  lines?: number;
}>();
defineEmits<{ retry: [] }>();
const told = computed(() => (props.error ? explain(props.error) : null));
const forbidden = computed(() => told.value?.code === 'forbidden');
</script>

<template>
  <MessagePage
    v-if="told"
    class="state sheet"
    :status="forbidden ? 'warning' : 'error'"
    :title="forbidden ? 'Not open to your role' : told.title"
    :sub-title="forbidden ? `${told.detail} Ask the administrator if your work needs ${what}.` : told.detail"
    role="alert"
  >
    <template #icon><span></span></template>
    <template v-if="!forbidden" #extra><Button @click="$emit('retry')">Try again</Button></template>
  </MessagePage>
  <div v-else-if="loading" role="status" class="sheet pad">
    <span class="visually-hidden">Fetching {{ what }}</span>
    <Skeleton active :paragraph="{ rows: lines ?? 5 }" :title="false" />
  </div>
  <Empty v-else-if="empty" class="state sheet">
    <template #image><span></span></template>
    <template #description><slot name="empty">There is nothing here yet.</slot></template>
  </Empty>
  <slot v-else />
</template>

<style scoped>
.state {
  padding: 1.5rem;
  margin: 0;
  text-align: left;
}
</style>
