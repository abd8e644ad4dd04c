<script setup lang="ts">
import { BOUND_WORDS, UNTIL_BOUNDS } from '@rounds/core/catalogue';
import { Button, FormItem } from 'ant-design-vue';
import { computed, useId } from 'vue';
import ChoiceField from '../../parts/ChoiceField.vue';
import { filledOnly } from './fields';
import SettledInput from './SettledInput.vue';

/** How far a mend may go on: a bound that a due date follows from, and the sentence that is said. */
const props = defineProps<{ label: string; modelValue: unknown; mend: boolean }>();
const emit = defineEmits<{ 'update:modelValue': [value: unknown] }>();
const given = computed(() => (props.modelValue ?? {}) as { bound?: string; n?: number; says?: string });
const counted = computed(() => given.value.bound === 'hours' || given.value.bound === 'days');
const id = useId();
function set(change: Readonly<Record<string, unknown>>) {
  const next: Record<string, unknown> = { ...given.value, ...change };
  if (next['bound'] !== 'hours' && next['bound'] !== 'days') delete next['n'];
  emit('update:modelValue', filledOnly(next));
}
</script>

<template>
  <fieldset v-if="mend || modelValue !== undefined" class="part">
    <legend>{{ label }}</legend>
    <p v-if="!mend" class="stopped">
      Only a mend goes on.
      <Button type="link" @click="emit('update:modelValue', undefined)">Take it out</Button>
    </p>
    <FormItem :html-for="id" label="Until">
      <ChoiceField
        :id="id"
        :value="given.bound ?? ''"
        label="Until"
        :options="UNTIL_BOUNDS.map((value) => ({ value, label: BOUND_WORDS[value] }))"
        @update:value="set({ bound: $event })"
      />
    </FormItem>
    <FormItem v-if="counted" :html-for="`${id}-n`" label="How many">
      <SettledInput
        :id="`${id}-n`"
        kind="number"
        :value="given.n"
        :unit="given.bound ?? ''"
        @settle="set({ n: $event })"
      />
    </FormItem>
    <FormItem :html-for="`${id}-says`" label="As it is said">
      <SettledInput :id="`${id}-says`" kind="line" :value="given.says" @settle="set({ says: $event })" />
    </FormItem>
  </fieldset>
</template>
