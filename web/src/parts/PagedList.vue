<script setup lang="ts" generic="Row">
import { useIntersectionObserver } from '@vueuse/core';
import { computed, defineAsyncComponent, ref, useTemplateRef, watch } from 'vue';

/**
 * Rows that stand whole on the device, some at a time: the pages below show only where not all fit, and are
 * fetched only when one comes to them. The slot draws a row; `nothing` says what an empty list means.
 */
const props = defineProps<{ rows: readonly Row[]; size: number; nothing: string; name: string }>();
defineSlots<{ default: (slot: { row: Row }) => unknown }>();
const Pagination = defineAsyncComponent(() => import('ant-design-vue/es/pagination'));
const page = ref(1);
const foot = useTemplateRef<HTMLElement>('foot');
const reached = ref(false);
useIntersectionObserver(foot, (entries) => {
  reached.value ||= entries.some((each) => each.isIntersecting);
});
watch(
  () => props.rows,
  (rows) => (page.value = Math.min(page.value, Math.max(1, Math.ceil(rows.length / props.size)))),
);
const shown = computed(() => props.rows.slice((page.value - 1) * props.size, page.value * props.size));
</script>

<template>
  <div class="sheet">
    <p v-if="rows.length === 0" class="quiet nothing">{{ nothing }}</p>
    <ul v-else :aria-label="name">
      <li v-for="(row, i) in shown" :key="i" class="item"><slot :row="row" /></li>
    </ul>
    <div v-if="rows.length > size" ref="foot" class="pages">
      <Pagination
        v-if="reached"
        v-model:current="page"
        size="small"
        show-less-items
        :show-size-changer="false"
        :total="rows.length"
        :page-size="size"
      />
    </div>
  </div>
</template>

<style scoped>
.item {
  display: flex;
  align-items: flex-start;
  gap: 0.9rem;
  padding: 0.55rem 0.9rem;
}
.item + .item {
  border-top: 1px solid var(--line);
}
.nothing {
  padding: 0.75rem 0.9rem;
}
.pages {
  min-height: 44px;
  margin: 0.4rem 0.75rem;
  text-align: right;
}
</style>
