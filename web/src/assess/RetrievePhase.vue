<script setup lang="ts">
import { correctionWords, faultName, LEAST_REASON } from '@rounds/core/evaluation';
import { GRADE_WORDS } from '@rounds/core/grading';
import { Button, Form, FormItem, RadioButton, RadioGroup, Textarea } from 'ant-design-vue';
import { computed, ref } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import type { OpenEvaluation } from './useEvaluation';

/**
 * Every planted fault is ticked out of the machine before there is an outcome. What was recorded wrongly is
 * corrected with a reason.
 */
const props = defineProps<{ evaluation: OpenEvaluation; readOnly: boolean }>();
defineEmits<{ go: ['start'] }>();
const pack = computed(() => props.evaluation.pack.value!);
const record = computed(() => props.evaluation.record.value);
/** In the order they were planted: a row stays where it is when it is ticked. */
const ids = computed(() => {
  const known = new Set([...record.value.inMachine, ...record.value.retrieved]);
  return [
    ...new Set(
      record.value.inForce.flatMap(({ body }) =>
        body.kind === 'planted' && known.has(body.fault) ? [body.fault] : [],
      ),
    ),
  ];
});
const planted = computed(() =>
  ids.value.flatMap((id) => pack.value.faults.find((each) => each.id === id) ?? []),
);
const out = (id: string) => !record.value.inMachine.includes(id);
const left = computed(() => record.value.inMachine.length);
const part = (checkpoint: string) => {
  const found = pack.value.checkpoints.find((each) => each.id === checkpoint);
  return `${found?.part ?? ''}, ${pack.value.plan.stations.find((each) => each.id === found?.station)?.name ?? ''}`;
};
const correcting = ref<{ fault: string; says: 'never-planted' | 'still-in'; reason: string } | null>(null);
const enough = computed(() => (correcting.value?.reason.replace(/\s/g, '').length ?? 0) >= LEAST_REASON);
async function correct() {
  if (!correcting.value || !enough.value) return;
  await props.evaluation.tap({
    kind: 'plant-corrected',
    ...correcting.value,
    reason: correcting.value.reason.trim(),
  });
  correcting.value = null;
}
</script>

<template>
  <div class="screen stack narrow">
    <h1 v-if="planted.length === 0">Nothing was planted</h1>
    <h1 v-else-if="left > 0">
      <span class="needs-you">{{ left }} still in the machine</span>
    </h1>
    <h1 v-else>All {{ planted.length }} are out</h1>
    <p v-if="left > 0">
      Take each one out with your own hands, see the part sound again, then tick it. There is no outcome
      before that.
    </p>
    <ul class="stack">
      <li v-for="each in planted" :key="each.id" class="sheet plant" :class="{ out: out(each.id) }">
        <div class="line">
          <div class="grow">
            <div>
              <GradeDisc :grade="each.grade" /> <strong>{{ faultName(each) }}</strong>
            </div>
            <div class="quiet">
              {{ GRADE_WORDS[each.grade] }}, {{ part(each.checkpoint) }}. Planted: {{ each.plant?.how }}
            </div>
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
          <button
            v-if="!readOnly"
            class="tick plain"
            :aria-label="`Recorded wrongly: ${faultName(each)}`"
            @click="
              correcting = { fault: each.id, says: out(each.id) ? 'still-in' : 'never-planted', reason: '' }
            "
          >
            Recorded wrongly
          </button>
        </div>
        <Form
          v-if="correcting?.fault === each.id"
          layout="vertical"
          class="correct"
          @submit.prevent="correct"
        >
          <FormItem label="What is true">
            <RadioGroup v-model:value="correcting.says" button-style="solid">
              <RadioButton value="never-planted">It was never put in</RadioButton>
              <RadioButton v-if="out(each.id)" value="still-in">It is still in the machine</RadioButton>
            </RadioGroup>
          </FormItem>
          <FormItem :label="`How that came about (stays on the report, at least ${LEAST_REASON} letters)`">
            <Textarea
              v-model:value="correcting.reason"
              :rows="2"
              :maxlength="2000"
              aria-label="How that came about"
            />
          </FormItem>
          <div class="row">
            <Button type="primary" size="large" html-type="submit" :disabled="!enough"
              >Keep the correction</Button
            >
            <Button size="large" @click="correcting = null">Leave it</Button>
          </div>
        </Form>
      </li>
    </ul>
    <section v-if="record.corrections.length" aria-label="Corrections">
      <h2>Corrected</h2>
      <ul>
        <li v-for="each in record.corrections" :key="each.at + each.fault">
          {{ correctionWords(pack, each) }}
        </li>
      </ul>
    </section>
    <div class="row">
      <button class="tick go" @click="$emit('go', 'start')">Go to the start</button>
    </div>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 900px;
}
.line {
  display: flex;
  gap: 1rem;
  align-items: center;
  flex-wrap: wrap;
}
.correct {
  margin-top: 0.9rem;
  border-top: 1px solid var(--line);
  padding-top: 0.9rem;
}
.plant {
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
