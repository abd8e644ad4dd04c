<script setup lang="ts" generic="Key extends string">
import { TabPane, Tabs } from 'ant-design-vue';

/** Tabs that are walked with the arrow keys too; Home and End go to the first and last. */
const props = defineProps<{
  tabs: readonly { key: Key; name: string; hint?: string }[];
  label: string;
}>();
const chosen = defineModel<Key>('chosen', { required: true });

const STEPS: Readonly<Record<string, number>> = { ArrowLeft: -1, ArrowRight: 1, Home: -1000, End: 1000 };
function walk(event: KeyboardEvent) {
  const step = STEPS[event.key];
  const tab = (event.target as HTMLElement).closest('[role="tab"]');
  const row = event.currentTarget as HTMLElement;
  if (!step || !tab) return;
  event.preventDefault();
  const at = props.tabs.findIndex((each) => each.key === chosen.value);
  const most = props.tabs.length - 1;
  const to =
    Math.abs(step) > 1 ? Math.min(most, Math.max(0, at + step)) : (at + step + most + 1) % (most + 1);
  chosen.value = props.tabs[to]!.key;
  row.querySelectorAll<HTMLElement>('[role="tab"]')[to]?.focus();
}
</script>

<template>
  <div class="tab-row" @keydown="walk">
    <Tabs v-model:active-key="chosen" :aria-label="label" :tab-bar-gutter="0" :animated="false">
      <TabPane v-for="each in tabs" :key="each.key">
        <template #tab>
          <span class="tab"
            ><strong>{{ each.name }}</strong
            ><span v-if="each.hint" class="quiet hint">{{ each.hint }}</span></span
          >
        </template>
      </TabPane>
    </Tabs>
  </div>
</template>

<style scoped>
.tab-row {
  min-width: 0;
  overflow: hidden;
}
.tab-row :deep(.ant-tabs-nav) {
  margin: 0;
}
.tab-row :deep(.ant-tabs-content-holder) {
  display: none;
}
.tab {
  display: inline-flex;
  flex-direction: column;
  align-items: center;
  line-height: 1.15;
}
.hint {
  font-size: 0.82rem;
  font-weight: 400;
}
</style>
