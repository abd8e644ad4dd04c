<script setup lang="ts">
import { TIMING_MEANS, TIMING_UNITS, TIMING_WORDS, type TimingMeans } from '@rounds/core/catalogue';
import { Button, FormItem } from 'ant-design-vue';
import { computed, inject, ref, useId } from 'vue';
import ChoiceField from '../../parts/ChoiceField.vue';
import { EDITED, filledOnly, rowChoices } from './fields';
import SettledInput from './SettledInput.vue';

/** What the time or number of a step means, with the figures that this meaning has and no others. */
const props = defineProps<{ label: string; modelValue: unknown }>();
const emit = defineEmits<{ 'update:modelValue': [value: unknown] }>();
const edited = inject(EDITED, ref(undefined));
type Figure = 'least' | 'most' | 'tries' | 'rest';
const given = computed(() => (props.modelValue ?? {}) as Partial<Record<string, string | number>>);
const FIGURES: Readonly<Record<TimingMeans, readonly Figure[]>> = {
  dwell: ['least', 'most'],
  limit: ['most', 'tries', 'rest'],
  within: ['most'],
  rest: ['least', 'tries'],
  typical: ['least', 'most'],
  count: ['least', 'most'],
  none: [],
};
const NAMES: Readonly<Record<Figure, string>> = {
  least: 'At least',
  most: 'At most',
  tries: 'Tries',
  rest: 'Rest between tries',
};
const figures = computed(() => FIGURES[given.value['means'] as TimingMeans] ?? []);
const number = (figure: Figure): number | undefined => {
  const value = given.value[figure];
  return typeof value === 'number' ? value : undefined;
};
const steps = computed(() => rowChoices(edited.value, 'steps'));
const id = useId();
function set(change: Readonly<Record<string, unknown>>) {
  const next: Record<string, unknown> = { ...given.value, ...change };
  const means = next['means'] as TimingMeans | undefined;
  if (means) {
    for (const figure of ['least', 'most', 'tries', 'rest'] as const)
      if (!FIGURES[means].includes(figure)) delete next[figure];
    if (FIGURES[means].length === 0) for (const key of ['unit', 'since', 'until']) delete next[key];
    if (means !== 'dwell') delete next['until'];
  }
  emit('update:modelValue', filledOnly(next));
}
</script>

<template>
  <fieldset class="part">
    <legend>{{ label }} <span class="quiet">may stay empty</span></legend>
    <FormItem :html-for="id" label="What it means">
      <ChoiceField
        :id="id"
        :value="String(given['means'] ?? '')"
        label="What it means"
        :options="TIMING_MEANS.map((value) => ({ value, label: TIMING_WORDS[value] }))"
        @update:value="set({ means: $event })"
      />
    </FormItem>
    <div v-if="figures.length" class="figures">
      <FormItem v-for="each in figures" :key="each" :html-for="`${id}-${each}`" :label="NAMES[each]">
        <SettledInput
          :id="`${id}-${each}`"
          kind="number"
          :value="number(each)"
          :unit="each === 'tries' ? '' : String(given['unit'] ?? '')"
          @settle="set({ [each]: $event })"
        />
      </FormItem>
      <FormItem :html-for="`${id}-unit`" label="Unit">
        <ChoiceField
          :id="`${id}-unit`"
          :value="String(given['unit'] ?? '')"
          label="Unit"
          :options="TIMING_UNITS.map((value) => ({ value, label: value }))"
          @update:value="set({ unit: $event })"
        />
      </FormItem>
      <FormItem :html-for="`${id}-since`" label="Counted from" class="wide">
        <ChoiceField
          :id="`${id}-since`"
          :value="String(given['since'] ?? '')"
          label="Counted from"
          placeholder="this step itself"
          :options="steps"
          searchable
          clearable
          @update:value="set({ since: $event })"
        />
      </FormItem>
      <FormItem v-if="given['means'] === 'dwell'" :html-for="`${id}-until`" label="Or until" class="wide">
        <SettledInput
          :id="`${id}-until`"
          kind="line"
          :value="given['until']"
          @settle="set({ until: $event })"
        />
      </FormItem>
    </div>
    <FormItem v-if="given['means']" :html-for="`${id}-says`" label="As it is said">
      <SettledInput :id="`${id}-says`" kind="line" :value="given['says']" @settle="set({ says: $event })" />
    </FormItem>
    <Button v-if="modelValue !== undefined" type="link" danger @click="emit('update:modelValue', undefined)"
      >Take the time out</Button
    >
  </fieldset>
</template>

<style scoped>
.figures {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 0 0.75rem;
}
.wide {
  grid-column: 1 / -1;
}
</style>
