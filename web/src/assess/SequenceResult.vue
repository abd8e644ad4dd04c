<script setup lang="ts">
import { assessRoutes } from '@rounds/contract/assess';
import type { JudgedSequence } from '@rounds/core/evaluation';
import { type Sentence, tellsCriticalFlaw } from '@rounds/core/procedure';
import { computed } from 'vue';
import { fileAddress } from '../device/api';
import SequenceRail from '../drawing/SequenceRail.vue';
import { moment } from '../parts/words';

/** What the judge says of a session: the answer first, then every sentence, then the rail with its trace. */
const props = defineProps<{ evaluationId: string; judged: JudgedSequence; words: readonly Sentence[] }>();
const address = computed(() => ({ id: props.evaluationId, sequence: props.judged.sequence.id }));
const judgement = computed(() => props.judged.judgement);
const score = computed(() =>
  judgement.value.score === null ? '–' : `${Math.round(judgement.value.score)} %`,
);
const titles = computed(() => judgement.value.session.procedures.map((each) => each.title).join(', '));
</script>

<template>
  <section class="sheet pad result" :aria-label="`Judged: ${titles}`">
    <div class="answer">
      <div class="row spread">
        <h2>{{ titles }}</h2>
        <span class="score">{{ score }}</span>
      </div>
      <p class="quiet">
        {{ moment(judged.sequence.startedAt) }}.
        {{
          judgement.critical === 0
            ? 'Nothing critical.'
            : judgement.critical === 1
              ? 'One critical flaw.'
              : `${judgement.critical} critical flaws.`
        }}
        {{ judgement.moves > 0 ? `Acts to move: ${judgement.moves}.` : '' }}
      </p>
      <ol class="words">
        <li
          v-for="(each, i) in words"
          :key="i"
          :class="{
            critical: tellsCriticalFlaw(each),
            note: each.kind === 'note',
          }"
        >
          {{ each.says }}
        </li>
      </ol>
      <p class="files">
        <a :href="fileAddress(assessRoutes.traceCsv, address)">Trace as CSV</a>
        <a :href="fileAddress(assessRoutes.traceXes, address)">Trace as XES</a>
        <a :href="fileAddress(assessRoutes.sequenceRail, address)" target="_blank">Rail as SVG</a>
      </p>
    </div>
    <SequenceRail
      :session="judgement.session"
      :judgement="judgement"
      :trace="judged.sequence.trace"
      :label="`What was done: ${titles}`"
    />
  </section>
</template>

<style scoped>
.result {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.1fr);
  gap: 1.5rem;
  align-items: start;
}
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 1.2rem;
  margin-top: 1rem;
}
.score {
  font-size: 1.8rem;
  font-weight: 700;
}
.words {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
.words li {
  border-left: 6px solid var(--line);
  padding: 0.15rem 0 0.15rem 0.7rem;
}
.words .critical {
  border-left-color: var(--crimson);
  font-weight: 700;
}
.words .note {
  border-left-color: transparent;
}
@media (max-width: 900px) {
  .result {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
