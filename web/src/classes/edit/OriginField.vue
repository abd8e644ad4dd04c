<script setup lang="ts">
import { Segmented } from 'ant-design-vue';
import { computed } from 'vue';
import SettledInput from './SettledInput.vue';

/** Where a fact comes from: its kind, what is cited, and which part of the row that covers. */
interface Origin {
  kind?: string;
  cite?: string;
  note?: string;
}
const props = defineProps<{ label: string; modelValue: unknown }>();
const emit = defineEmits<{ 'update:modelValue': [value: unknown] }>();
const origin = computed(() => (props.modelValue ?? {}) as Origin);
const KINDS = [
  { value: 'published', label: 'Published' },
  { value: 'practice', label: 'Common practice' },
  { value: 'memory', label: 'From memory' },
];
function set(field: keyof Origin, value: string) {
  const next = { ...origin.value, [field]: value };
  if (value === '') delete next[field];
  emit('update:modelValue', next);
}
</script>

<template>
  <fieldset class="part origin">
    <legend>{{ label }}</legend>
    <Segmented
      :value="origin.kind ?? ''"
      :options="KINDS"
      :aria-label="label"
      @change="set('kind', String($event))"
    />
    <SettledInput
      kind="line"
      :value="origin.cite"
      :label="`${label}: standard, clause or document`"
      placeholder="standard, clause or document"
      @settle="set('cite', String($event ?? ''))"
    />
    <SettledInput
      kind="line"
      :value="origin.note"
      :label="`${label}: which part of the row`"
      placeholder="which part of the row, when not all of it"
      @settle="set('note', String($event ?? ''))"
    />
  </fieldset>
</template>

<style scoped>
.origin {
  display: grid;
  grid-template-columns: auto 1fr 1fr;
  gap: 0.6rem;
}
@media (max-width: 1100px) {
  .origin {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
