<script setup lang="ts">
import { routes } from '@rounds/contract';
import { useQueryCache } from '@pinia/colada';
import { computed, ref, watch } from 'vue';
import { explain, fileAddress } from '../house/api';
import { OUTCOME_WORDS, day } from '../house/words';
import SignaturePad from './SignaturePad.vue';
import type { OpenEvaluation } from './useEvaluation';

/** Decide and sign: the computed outcome, or another with a reason that is shown for ever; then trainer and operator sign on the screen. */
const props = defineProps<{ evaluation: OpenEvaluation }>();
const emit = defineEmits<{ go: ['review' | 'retrieve' | 'sheet'] }>();
const cache = useQueryCache();
const a = computed(() => props.evaluation.appraisal.value!);
const record = computed(() => props.evaluation.record.value);
const summary = computed(() => props.evaluation.opened.value!.summary);
const ready = computed(() => a.value.outcome !== 'blocked' && a.value.outcome !== 'incomplete');
type Decided = 'competent' | 'not-yet' | 'stopped';
const chosen = ref<Decided>('not-yet');
watch(
  () => a.value.outcome,
  (now) => {
    if (now === 'competent' || now === 'not-yet' || now === 'stopped') chosen.value = now;
  },
  { immediate: true },
);
const reason = ref('');
const problem = ref<{ title: string; detail: string } | null>(null);
const busy = ref(false);
const override = computed(() => chosen.value !== a.value.outcome);
const decision = computed(() => record.value.decision);
const both = computed(() => record.value.signatures.size === 2);

async function act(what: () => Promise<void>) {
  busy.value = true;
  problem.value = null;
  try {
    await what();
    void cache.invalidateQueries();
  } catch (error) {
    problem.value = explain(error);
  } finally {
    busy.value = false;
  }
}
const decide = () => act(() => props.evaluation.settle({ kind: 'decided', outcome: chosen.value, ...(override.value ? { reason: reason.value.trim() } : {}) }));
const sign = (role: 'trainer' | 'operator', strokes: string) => act(() => props.evaluation.settle({ kind: 'signed', role, strokes }));
</script>

<template>
  <div class="screen stack narrow">
    <template v-if="!decision">
      <h1>Decide</h1>
      <div v-if="!ready" class="sheet pad stack" role="alert">
        <h2>No outcome yet</h2>
        <p v-if="a.outcome === 'blocked'">
          {{ a.stillPlanted.length }} planted {{ a.stillPlanted.length === 1 ? 'fault is' : 'faults are' }} not ticked out. Take
          {{ a.stillPlanted.length === 1 ? 'it' : 'them' }} out first.
        </p>
        <p v-else-if="a.unscored.length">{{ a.unscored.length }} criteria are not scored.</p>
        <p v-else>The round has not been started and ended.</p>
        <button class="act" @click="emit('go', a.outcome === 'blocked' ? 'retrieve' : 'sheet')">{{ a.outcome === 'blocked' ? 'Take out' : 'Score sheet' }}</button>
      </div>
      <template v-else>
        <p>
          The computed outcome is <strong>{{ OUTCOME_WORDS[a.outcome] }}</strong> with {{ a.score }} %.
        </p>
        <div class="choices" role="radiogroup" aria-label="Outcome">
          <button v-for="each in ['competent', 'not-yet', 'stopped'] as const" :key="each" role="radio" :aria-checked="chosen === each" @click="chosen = each">
            {{ OUTCOME_WORDS[each] }}
          </button>
        </div>
        <label v-if="override" class="field"
          ><span><span class="needs-you">Override</span> Why the computed outcome does not stand (shown on every report)</span
          ><textarea v-model="reason" class="plain" rows="3" maxlength="2000"></textarea>
        </label>
        <div>
          <button class="act" :disabled="busy || (override && reason.trim().length < 10)" @click="decide">Decide: {{ OUTCOME_WORDS[chosen] }}</button>
        </div>
        <p v-if="override && reason.trim().length < 10" class="quiet">An override needs a reason of at least ten letters.</p>
      </template>
    </template>
    <template v-else>
      <h1>{{ OUTCOME_WORDS[decision.outcome] }}</h1>
      <p v-if="decision.reason"><strong>Overridden.</strong> {{ decision.reason }}</p>
      <template v-if="!both">
        <p>Both sign here. Then the result is on record and, where competent, the card can be printed.</p>
        <div class="two">
          <section class="sheet pad stack" aria-label="Trainer signs">
            <h2>Trainer: {{ summary.trainerName }}</h2>
            <p v-if="record.signatures.has('trainer')">Signed.</p>
            <SignaturePad v-else label="Signature field of the trainer" @signed="sign('trainer', $event)" />
          </section>
          <section class="sheet pad stack" aria-label="Operator signs">
            <h2>Operator: {{ summary.personName }}</h2>
            <p v-if="record.signatures.has('operator')">Signed.</p>
            <SignaturePad v-else label="Signature field of the operator" @signed="sign('operator', $event)" />
          </section>
        </div>
      </template>
      <div v-else class="sheet pad stack" role="status">
        <h2>Signed and on record</h2>
        <p>
          <strong>{{ summary.personName }}</strong> on the {{ summary.classTitle.toLowerCase() }} {{ summary.unitName }}: {{ summary.score ?? a.score }} %, evaluated by
          {{ summary.trainerName }}, {{ day(decision.at) }}.
          {{ evaluation.token.value ? 'The standing and the card follow from it.' : 'No card follows from it; the standing shows why.' }}
        </p>
        <ul>
          <li v-for="r in a.reasons" :key="r.text">{{ r.text }}</li>
        </ul>
        <div class="row">
          <a v-if="evaluation.token.value" class="act" :href="fileAddress(routes.card, { token: evaluation.token.value })" target="_blank">Print the card</a>
          <a class="act plain" :href="fileAddress(routes.report, { id: summary.id })" target="_blank">Report (PDF)</a>
          <RouterLink class="act plain" :to="`/people/${summary.personId}`">{{ summary.personName }}</RouterLink>
          <RouterLink class="act plain" to="/people/matrix">Standing matrix</RouterLink>
        </div>
      </div>
    </template>
    <div v-if="problem" class="sheet pad problem" role="alert">
      <strong>{{ problem.title }}.</strong> {{ problem.detail }}
    </div>
  </div>
</template>

<style scoped>
.narrow {
  max-width: 1060px;
}
.choices {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 0.6rem;
}
.choices button {
  font: inherit;
  font-weight: 700;
  min-height: 72px;
  border: 2px solid var(--ink);
  background: var(--raised);
  color: var(--ink);
  border-radius: 3px;
  cursor: pointer;
}
.choices [aria-checked='true'] {
  background: var(--petrol);
  color: var(--on-petrol);
  border-color: var(--petrol);
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
}
.problem {
  border-left: 6px solid var(--crimson);
}
@media (max-width: 760px) {
  .two,
  .choices {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
