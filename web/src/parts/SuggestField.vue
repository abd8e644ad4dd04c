<script setup lang="ts">
import { AutoComplete } from 'ant-design-vue';
import { computed } from 'vue';
import { useDescribedSelect } from './useDescribedSelect';

/** A text with what is in use already offered; anything else may be typed. */
const props = defineProps<{ label: string; options: readonly string[]; id?: string; invalid?: boolean }>();
const value = defineModel<string>('value', { required: true });
const { toggled } = useDescribedSelect(() => ({ label: props.label, invalid: props.invalid ?? false }), {
  typed: true,
});
const offered = computed(() =>
  props.options
    .filter((each) => each.toLowerCase().includes(value.value.toLowerCase()))
    .map((each) => ({ value: each })),
);
</script>

<template>
  <AutoComplete
    :id="id"
    ref="field"
    v-model:value="value"
    class="suggest"
    :options="offered"
    :status="invalid ? 'error' : ''"
    @dropdown-visible-change="toggled"
  />
</template>

<style scoped>
.suggest {
  width: 100%;
}
</style>
