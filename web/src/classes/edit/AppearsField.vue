<script setup lang="ts">
import { METHOD_WORDS, METHODS } from '@rounds/core/catalogue';
import { FormItem } from 'ant-design-vue';
import { computed, useId } from 'vue';
import SettledInput from './SettledInput.vue';

/** What a sound part shows: a sentence for each method that the check allows, and for no other. */
const props = defineProps<{ label: string; modelValue: unknown; methods: unknown }>();
const emit = defineEmits<{ 'update:modelValue': [value: Record<string, string>] }>();
const given = computed(() => (props.modelValue ?? {}) as Record<string, string>);
const allowed = computed(() =>
  Array.isArray(props.methods) ? (props.methods as unknown[]).map(String) : [],
);
/** Those the check allows, then any that is left over and has to go. */
const shown = computed(() => METHODS.filter((each) => allowed.value.includes(each) || each in given.value));
const id = useId();
function set(method: string, text: unknown) {
  const next = { ...given.value };
  if (typeof text === 'string' && text !== '') next[method] = text;
  else delete next[method];
  emit('update:modelValue', next);
}
</script>

<template>
  <fieldset class="part">
    <legend>{{ label }}</legend>
    <p v-if="shown.length === 0" class="quiet">Choose the methods of the check first.</p>
    <FormItem
      v-for="method in shown"
      :key="method"
      :html-for="`${id}-${method}`"
      :label="METHOD_WORDS[method]"
      :validate-status="allowed.includes(method) && given[method] ? '' : 'error'"
      :help="
        !allowed.includes(method)
          ? 'The check does not allow this method: empty the line.'
          : given[method]
            ? undefined
            : 'Say what a sound part shows to it.'
      "
    >
      <SettledInput
        :id="`${id}-${method}`"
        kind="line"
        :value="given[method]"
        @settle="set(method, $event)"
      />
    </FormItem>
  </fieldset>
</template>
