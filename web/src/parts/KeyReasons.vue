<script setup lang="ts">
import type { GradingKey } from '@rounds/contract/bench';
import GradeDisc from '../drawing/GradeDisc.vue';
import { ACT_WORDS, BY_WORDS, CLEAR_WORDS } from './findingWords';

/** Why a finding has its grade, a reason after the other with where it comes from, and what is to be done about it. */
defineProps<{ grading: GradingKey }>();
</script>

<template>
  <div class="why">
    <ol class="reasons" aria-label="Why">
      <li v-for="each in grading.reasons" :key="each.says">
        <GradeDisc :grade="each.grade" />
        <span
          ><span class="says capital">{{ each.says }}</span>
          <span class="quiet small">{{ each.origin }}</span></span
        >
      </li>
    </ol>
    <dl class="do">
      <div>
        <dt>Do</dt>
        <dd>
          <strong>{{ grading.acts.map((each) => ACT_WORDS[each].name).join(', or ') }}.</strong>
          {{ grading.instructions[0] }}
        </dd>
      </div>
      <div v-if="grading.by">
        <dt>By when</dt>
        <dd>
          {{ BY_WORDS[grading.by] }}<template v-if="grading.until">. {{ grading.until }}</template>
        </dd>
      </div>
      <div v-if="grading.mayClear">
        <dt>Who</dt>
        <dd>{{ CLEAR_WORDS[grading.mayClear] }}</dd>
      </div>
    </dl>
  </div>
</template>

<style scoped>
.why {
  display: grid;
  gap: 0.7rem;
}
.reasons {
  list-style: none;
  display: grid;
  gap: 0.4rem;
}
.reasons li {
  display: flex;
  gap: 0.5rem;
  align-items: flex-start;
}
.says {
  display: block;
}
.do {
  display: grid;
  gap: 0.3rem;
}
.do div {
  display: grid;
  grid-template-columns: 5.5rem 1fr;
  gap: 0.5rem;
}
.do dt {
  color: var(--quiet);
}
</style>
