<script setup lang="ts">
import { Select } from 'ant-design-vue';
import { useDescribedSelect } from './useDescribedSelect';

/** A choice of several from a list, found by typing; the field says how many and its name to readers. */
const props = defineProps<{
  label: string;
  options: readonly { value: string; label: string; more?: string }[];
  placeholder?: string;
  id?: string;
  disabled?: boolean;
  /** Shows every one that is chosen, not only the first. */
  whole?: boolean;
  /** Takes words that are not in the list too. */
  free?: boolean;
  /** The options come from a search of the server: nothing is filtered here. */
  remote?: boolean;
}>();
const emit = defineEmits<{ search: [text: string] }>();
const value = defineModel<string[]>('value', { required: true });
const { open, toggled } = useDescribedSelect(() => ({ label: props.label }));
const finds = (text: string, option?: { label?: unknown }) =>
  String(option?.label ?? '')
    .toLowerCase()
    .includes(text.trim().toLowerCase());
</script>

<template>
  <Select
    :id="id"
    ref="field"
    v-model:value="value"
    :mode="free ? 'tags' : 'multiple'"
    class="several"
    :options="[...options]"
    :placeholder="placeholder"
    :disabled="disabled"
    :filter-option="remote ? false : finds"
    :max-tag-count="whole ? undefined : 1"
    :max-tag-text-length="whole ? undefined : 16"
    show-arrow
    allow-clear
    not-found-content="Nothing matches"
    :open="open"
    @dropdown-visible-change="toggled"
    @search="emit('search', $event)"
  />
</template>

<style scoped>
.several {
  width: 100%;
}
</style>
