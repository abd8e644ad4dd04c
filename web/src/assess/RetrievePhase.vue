<script setup lang="ts">
import { faultName } from '@rounds/core';
import { computed } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import { GRADE_WORDS } from '../house/words';
import type { OpenEvaluation } from './useEvaluation';

/** Every planted fault is ticked out of the machine before there is an outcome. */
const props = defineProps<{ evaluation: OpenEvaluation; readOnly: boolean }>();
defineEmits<{ go: ['sheet'] }>();
const pack = computed(() => props.evaluation.pack.value!);
const record = computed(() => props.evaluation.record.value);
const planted = computed(() => record.value.planted.flatMap((id) => pack.value.faults.find((each) => each.id === id) ?? []));
const out = (id: string) => record.value.retrieved.includes(id);
const left = computed(() => planted.value.filter((each) => !out(each.id)).length);
const part = (checkpoint: string) => {
  const found = pack.value.checkpoints.find((each) => each.id === checkpoint);
  return `${found?.part ?? ''}, ${pack.value.plan.stations.find((each) => each.id === found?.station)?.name ?? ''}`;
};
</script>

<template>
  <div class="screen stack narrow">
    <h1 v-if="planted.length === 0">Nothing was planted</h1>
    <h1 v-else-if="left > 0">
      <span class="needs-you">{{ left }} still in the machine</span>
    </h1>
    <h1 v-else>All {{ planted.length }} are out</h1>
    <p v-if="left > 0">Take each one out with your own hands, see the part sound again, then tick it. There is no outcome before that.</p>
    <ul class="stack">
      <li v-for="each in planted" :key="each.id" class="sheet plant" :class="{ out: out(each.id) }">
        <div class="grow">
          <div>
            <GradeDisc :grade="each.grade" /> <strong>{{ faultName(each) }}</strong>
          </div>
          <div class="quiet">{{ GRADE_WORDS[each.grade] }}, {{ part(each.checkpoint) }}. Planted: {{ each.plant?.how }}</div>
          <div>{{ each.plant?.retrieve }}</div>
        </div>
        <button
          class="tick"
          role="checkbox"
          :aria-checked="out(each.id)"
          :disabled="readOnly || out(each.id)"
          :aria-label="`Taken out: ${faultName(each)}`"
          @click="evaluation.tap({ kind: 'retrieved', fault: each.id })"
        >
          {{ out(each.id) ? 'Out' : 'Taken out' }}
        </button>
      </li>
    </ul>
    <div class="row">
      <button v-if="!readOnly && planted.length" class="tick plain" @click="evaluation.undo()">Undo</button
      ><button class="tick go" @click="$emit('go', 'sheet')">Go to the score sheet</button>
    </div>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 900px;
}
.plant {
  display: flex;
  gap: 1rem;
  align-items: center;
  padding: 0.9rem 1.1rem;
  border-left: 8px solid var(--amber);
}
.plant.out {
  border-left-color: var(--line);
}
.tick {
  font: inherit;
  font-weight: 700;
  min-height: 64px;
  min-width: 150px;
  border: 2px solid var(--ink);
  border-radius: 3px;
  background: var(--amber);
  color: var(--on-amber);
  cursor: pointer;
}
.tick[aria-checked='true'],
.tick.plain {
  background: var(--raised);
  color: var(--ink);
}
.tick.go {
  background: var(--petrol);
  color: var(--on-petrol);
  border-color: var(--petrol);
  padding: 0 1.2rem;
}
</style>
