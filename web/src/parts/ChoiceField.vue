<script setup lang="ts">
import { Select } from 'ant-design-vue';
import type { SelectValue } from 'ant-design-vue/es/select';
import { nextTick, onMounted, onUpdated, ref, type ComponentPublicInstance } from 'vue';

/**
 * A select whose field says its name and state to readers: the library's own leaves its input without
 * either while the list is closed.
 */
const props = defineProps<{
  label: string;
  options: { value: string; label: string }[];
  disabled?: boolean;
  searchable?: boolean;
}>();
const value = defineModel<string>('value', { required: true });
const select = ref<ComponentPublicInstance | null>(null);
const open = ref(false);

function describe(): void {
  const input = (select.value?.$el as HTMLElement | undefined)?.querySelector('input[role="combobox"]');
  if (!input) return;
  input.setAttribute('aria-label', props.label);
  input.setAttribute('aria-expanded', String(open.value));
  for (const name of ['aria-controls', 'aria-owns', 'aria-activedescendant']) {
    const id = input.getAttribute(name);
    if (id && !document.getElementById(id)) input.removeAttribute(name);
  }
}
onMounted(describe);
onUpdated(describe);
function toggled(now: boolean) {
  open.value = now;
  void nextTick(describe);
}
const take = (chosen: SelectValue) => (value.value = String(chosen));
</script>

<template>
  <Select
    ref="select"
    :value="value"
    :options="options"
    :disabled="disabled ?? false"
    :show-search="searchable ?? false"
    option-filter-prop="label"
    size="large"
    @change="take"
    @dropdown-visible-change="toggled"
  />
</template>
