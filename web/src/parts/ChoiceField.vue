<script setup lang="ts" generic="Value extends string">
import { Select } from 'ant-design-vue';
import type { SelectValue } from 'ant-design-vue/es/select';
import { computed } from 'vue';
import { useDescribedSelect } from './useDescribedSelect';

interface Choice<V extends string = string> {
  value: V;
  label: string;
  /** A second line, quieter. */
  more?: string;
  disabled?: boolean;
}

/** A choice of one from a list, with search where the list is long. */
const props = withDefaults(
  defineProps<{
    label: string;
    options: readonly Choice<Value>[];
    id?: string;
    disabled?: boolean;
    /** Type to find; by default where there are more than eight. */
    searchable?: boolean;
    placeholder?: string;
    clearable?: boolean;
    /** The options come from a search of the server: nothing is filtered here. */
    remote?: boolean;
    loading?: boolean;
    invalid?: boolean;
  }>(),
  // A boolean that is not given would be false.
  { searchable: undefined },
);
const emit = defineEmits<{ search: [text: string] }>();
const value = defineModel<Value | ''>('value', { required: true });
const { open, toggled } = useDescribedSelect(() => ({ label: props.label, invalid: props.invalid ?? false }));
const searches = computed(() => props.remote || (props.searchable ?? props.options.length > 8));

const take = (chosen: SelectValue) => (value.value = (chosen ?? '') as Value | '');
const finds = (text: string, option?: { label?: unknown; more?: unknown }) =>
  `${option?.label ?? ''} ${option?.more ?? ''}`.toLowerCase().includes(text.trim().toLowerCase());
const shown = computed(() => [...props.options]);
</script>

<template>
  <Select
    :id="id"
    ref="field"
    class="choice"
    :value="value === '' ? undefined : value"
    :options="shown"
    :placeholder="placeholder ?? 'Choose'"
    :disabled="disabled"
    :allow-clear="clearable"
    :show-search="searches"
    :filter-option="remote ? false : finds"
    :loading="loading"
    :status="invalid ? 'error' : ''"
    :dropdown-match-select-width="false"
    :list-height="320"
    not-found-content="Nothing matches"
    @change="take"
    v-bind="remote ? { onSearch: (text: string) => emit('search', text) } : {}"
    :open="open"
    @dropdown-visible-change="toggled"
  >
    <template #option="option">
      <slot name="option" v-bind="option as Choice<Value>">
        <span>{{ option.label }}</span><span v-if="option.more" class="quiet more">{{ option.more }}</span>
      </slot>
    </template>
  </Select>
</template>

<style scoped>
.choice {
  width: 100%;
}
.more {
  margin-left: 0.6rem;
}
</style>
