<script setup lang="ts">
import { assessRoutes } from '@rounds/contract/assess';
import { proceduresOf, type SequencePart } from '@rounds/core/evaluation';
import { session } from '@rounds/core/procedure';
import { Alert, CheckboxGroup } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { fileAddress } from '../device/api';
import SequenceRail from '../drawing/SequenceRail.vue';
import FileDrop from '../parts/FileDrop.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import LiveSequence from './LiveSequence.vue';
import { useImportTrace } from './queries';
import SequenceResult from './SequenceResult.vue';
import type { OpenEvaluation } from './useEvaluation';
import { useSequence } from './useSequence';

/**
 * Starting or stopping the machine, stamped as it happens: what is chosen and how it should go, then the live
 * session, then what the judge says of it.
 */
const props = defineProps<{
  evaluation: OpenEvaluation;
  readOnly: boolean;
  /** The part of the evaluation; null where start and stop are practised by themselves. */
  part: SequencePart | null;
}>();
const emit = defineEmits<{ go: ['sheet' | 'review'] }>();
const pack = computed(() => props.evaluation.pack.value!);
const id = computed(() => props.evaluation.opened.value!.summary.id);
const sequence = useSequence(props.evaluation, () => props.part);
const proposed = computed(() =>
  props.part
    ? proceduresOf(pack.value, props.part)
    : pack.value.procedures.filter((each) => each.kind === 'startup').map((each) => each.id),
);
const chosen = ref<string[]>([]);
watch(proposed, (ids) => (chosen.value = [...ids]), { immediate: true });
const options = computed(() =>
  pack.value.procedures.map((each) => ({ value: each.id, label: `${each.title} (${each.steps.length})` })),
);
/** In the order of the class, whatever was ticked first. */
const inOrder = computed(() =>
  pack.value.procedures.map((each) => each.id).filter((id) => chosen.value.includes(id)),
);
const preview = computed(() => (inOrder.value.length > 0 ? session(pack.value, inOrder.value) : null));
const again = ref(false);
const latest = computed(() => sequence.ended.value[0] ?? null);
const choosing = computed(() => !sequence.open.value && (latest.value === null || again.value));
const importTrace = useImportTrace();
const problem = ref<unknown>(null);
const remarks = ref<{ line: number; says: string; kept: string }[]>([]);
/** A trace that was recorded elsewhere becomes a session of this practice. */
async function takeFile(file: File) {
  problem.value = null;
  remarks.value = [];
  try {
    const made = await importTrace.mutateAsync({
      params: { id: id.value },
      body: {
        format: /\.(xes|xml)$/i.test(file.name) ? 'xes' : 'csv',
        procedures: inOrder.value,
        text: await file.text(),
      },
    });
    remarks.value = made.remarks;
    again.value = false;
    await props.evaluation.load();
  } catch (error) {
    problem.value = error;
  }
}
async function start() {
  again.value = false;
  await sequence.start(inOrder.value);
}
const NAMES = { start: 'Start, step by step', stop: 'Stop, step by step' } as const;
</script>

<template>
  <LiveSequence
    v-if="sequence.open.value"
    :evaluation="evaluation"
    :sequence="sequence"
    :read-only="readOnly"
  />
  <div v-else class="screen stack">
    <h1>{{ part ? NAMES[part] : 'Start and stop, beside the machine' }}</h1>
    <template v-if="choosing">
      <div class="choosing">
        <section class="sheet pad stack" aria-label="What is stamped">
          <h2>Which procedures?</h2>
          <p class="quiet">
            Tap each act as the operator does it. The judge knows what must come first, what is free, and how
            long each wait lasts.
          </p>
          <p v-if="sequence.elsewhere.value" class="amber-note">
            The other part is still being stamped. End it first.
          </p>
          <button
            v-if="!readOnly"
            class="big primary"
            :disabled="inOrder.length === 0 || sequence.elsewhere.value !== null"
            @click="start"
          >
            Begin: stamp as it happens
          </button>
          <button
            v-if="part && !readOnly"
            class="big"
            @click="emit('go', part === 'start' ? 'sheet' : 'review')"
          >
            Score it by hand instead
          </button>
          <CheckboxGroup v-model:value="chosen" class="check-list" :options="options" :disabled="readOnly" />
          <template v-if="part === null && !readOnly && inOrder.length > 0">
            <h2>Or a trace from a file</h2>
            <FileDrop
              label="Trace as CSV or XES"
              accept=".csv,.xes,.xml"
              says="CSV with the columns token and at, or XES"
              @file="takeFile"
            />
            <ProblemAlert :problem="problem" />
          </template>
        </section>
        <section class="sheet pad" aria-label="How it goes">
          <h2>How it goes</h2>
          <SequenceRail v-if="preview" :session="preview" label="Steps of the procedures chosen" />
          <p v-else class="quiet">Choose a procedure.</p>
        </section>
      </div>
    </template>
    <template v-else-if="latest">
      <Alert v-if="remarks.length" type="warning" role="status" message="Taken in, with this to know">
        <template #description>
          <ul class="remarks">
            <li v-for="(each, i) in remarks" :key="i">
              Line {{ each.line }}: {{ each.says }}; {{ each.kept }}.
            </li>
          </ul>
        </template>
      </Alert>
      <SequenceResult :evaluation-id="id" :judged="latest" :words="sequence.words(latest)" />
      <div class="row">
        <button v-if="!readOnly" class="big" @click="again = true">Stamp another</button>
        <a
          v-if="part === null"
          class="act plain"
          :href="fileAddress(assessRoutes.report, { id })"
          target="_blank"
          >Report (PDF)</a
        >
        <button v-if="part" class="big primary" @click="emit('go', part === 'start' ? 'sheet' : 'review')">
          {{ part === 'start' ? 'Go to the work' : 'Go to the review' }}
        </button>
      </div>
      <template v-if="sequence.ended.value.length > 1">
        <h2>Before that</h2>
        <SequenceResult
          v-for="each in sequence.ended.value.slice(1)"
          :key="each.sequence.id"
          :evaluation-id="id"
          :judged="each"
          :words="sequence.words(each)"
        />
      </template>
    </template>
  </div>
</template>

<style scoped>
.choosing {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.4fr);
  gap: 1rem;
  align-items: start;
}
.remarks {
  margin: 0;
  padding-left: 1.1rem;
}
.amber-note {
  border-left: 6px solid var(--amber);
  padding-left: 0.75rem;
}
@media (max-width: 900px) {
  .choosing {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
