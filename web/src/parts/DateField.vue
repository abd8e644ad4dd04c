<script setup lang="ts">
import { DatePicker } from 'ant-design-vue';
import { dateFormats, dateHint } from './dateOrder';

/** A date (YYYY-MM-DD), typed in the person's own order or picked; '' for none. */
const props = defineProps<{
  label: string;
  id?: string;
  /** First and last day that may be chosen. */
  from?: string;
  to?: string;
  clearable?: boolean;
  disabled?: boolean;
  invalid?: boolean;
}>();
const value = defineModel<string>('value', { required: true });
const formats = dateFormats(navigator.language);
const hint = dateHint(navigator.language);
const outside = (day: { format: (pattern: string) => string }) => {
  const date = day.format('YYYY-MM-DD');
  return (props.from !== undefined && date < props.from) || (props.to !== undefined && date > props.to);
};
const take = (chosen: unknown) => (value.value = typeof chosen === 'string' ? chosen : '');
</script>

<template>
  <DatePicker
    :id="id"
    class="date"
    :value="value === '' ? undefined : value"
    value-format="YYYY-MM-DD"
    :format="formats"
    :placeholder="hint"
    :allow-clear="clearable ?? true"
    :disabled="disabled"
    :disabled-date="outside"
    :status="invalid ? 'error' : ''"
    :show-today="false"
    :aria-label="label"
    @change="take"
  />
</template>

<style scoped>
.date {
  width: 100%;
}
</style>
