<script setup lang="ts">
import { BENCH_KINDS, type BenchKind } from '@rounds/contract/bench';
import type { UnitSystem } from '@rounds/core/measuring';
import { Checkbox, InputNumber, Segmented } from 'ant-design-vue';
import { BENCH_WORDS } from './benchWords';

/** What is put on the bench, how much of it, in which units, and whether against time. */
const kind = defineModel<BenchKind>('kind', { required: true });
const size = defineModel<number>('size', { required: true });
const system = defineModel<UnitSystem>('system', { required: true });
const timed = defineModel<number | null>('timed', { required: true });
/** Seconds for a case where somebody asks for a time. */
const USUAL = 30;
const SIZES = [6, 12, 20].map((each) => ({ value: each, label: `${each}` }));
const UNITS = [
  { value: 'si', label: 'mm, bar, °C' },
  { value: 'us', label: 'in, psi, °F' },
];
</script>

<template>
  <div class="forms" role="group" aria-label="What is put on the bench">
    <button
      v-for="each in BENCH_KINDS"
      :key="each"
      type="button"
      class="big form"
      :aria-pressed="kind === each"
      @click="kind = each"
    >
      <strong>{{ BENCH_WORDS[each].name }}</strong>
      <span>{{ BENCH_WORDS[each].more }}</span>
    </button>
  </div>
  <div class="row wide">
    <span>How many</span>
    <Segmented :value="size" :options="SIZES" aria-label="How many" @change="size = Number($event)" />
  </div>
  <div v-if="kind !== 'words' && kind !== 'drawing' && kind !== 'numbers'" class="row wide">
    <span>Measured in</span>
    <Segmented
      :value="system"
      :options="UNITS"
      aria-label="Measured in"
      @change="system = $event as UnitSystem"
    />
  </div>
  <div class="row wide">
    <Checkbox :checked="timed !== null" @change="timed = $event.target.checked ? USUAL : null"
      >Against time</Checkbox
    >
    <span v-if="timed !== null" class="row"
      ><InputNumber
        :value="timed"
        :min="5"
        :max="180"
        :precision="0"
        aria-label="Seconds for each"
        @change="timed = typeof $event === 'number' ? $event : USUAL"
      />
      seconds each</span
    >
  </div>
</template>

<style scoped>
.wide {
  justify-content: space-between;
}
</style>
