<script setup lang="ts">
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import SeveralField from '../../parts/SeveralField.vue';
import type { FieldChoice } from './fields';

/** Steps that must come before: all of these, and one of each of those groups. */
type Prerequisite = string | { anyOf: string[] };
const props = defineProps<{ label: string; modelValue: unknown; steps: readonly FieldChoice[] }>();
const emit = defineEmits<{ 'update:modelValue': [value: unknown] }>();
const given = computed(() => (props.modelValue ?? []) as Prerequisite[]);
const all = computed(() => given.value.filter((each) => typeof each === 'string'));
const groups = computed(() => given.value.filter((each) => typeof each !== 'string'));
const options = computed(() =>
  props.steps.map(({ value, label }) => ({ value, label: `${value}: ${label}` })),
);
function send(steps: readonly string[], some: readonly { anyOf: string[] }[]) {
  const next = [...steps, ...some];
  emit('update:modelValue', next.length === 0 ? undefined : next);
}
const setGroup = (at: number, anyOf: string[]) =>
  send(
    all.value,
    groups.value.flatMap((each, i) => (i !== at ? [each] : anyOf.length > 0 ? [{ anyOf }] : [])),
  );
</script>

<template>
  <fieldset class="part steps">
    <legend>{{ label }}</legend>
    <SeveralField
      :value="all"
      :label="`${label}: all of these`"
      placeholder="all of these steps; none: any time"
      :options="options"
      whole
      @update:value="send($event, groups)"
    />
    <div v-for="(group, i) in groups" :key="i" class="row">
      <span class="quiet">and one of</span>
      <SeveralField
        class="grow"
        :value="group.anyOf"
        :label="`${label}: one of group ${i + 1}`"
        :options="options"
        whole
        @update:value="setGroup(i, $event)"
      />
    </div>
    <Button type="link" @click="send(all, [...groups, { anyOf: [options[0]?.value ?? ''] }])"
      >And one of several</Button
    >
  </fieldset>
</template>

<style scoped>
.steps {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.5rem;
  justify-items: start;
}
.steps > :not(legend, .ant-btn) {
  width: 100%;
}
.row {
  flex-wrap: nowrap;
}
</style>
