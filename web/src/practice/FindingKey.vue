<script setup lang="ts">
import type { AnsweredFinding } from '@rounds/contract/bench';
import { GRADE_WORDS } from '@rounds/core/grading';
import { computed } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import { ACT_WORDS, BY_WORDS, CLEAR_WORDS } from './benchWords';

/** The key of an answered finding: the verdict, the chain of reasons with where each comes from, and what to do. */
const props = defineProps<{ answered: AnsweredFinding }>();
const verdict = computed(() => {
  const { answer, key, gradeRight, actRight, by, late } = props.answered;
  const said = GRADE_WORDS[answer.grade].toLowerCase();
  const parts = [
    gradeRight ? `${GRADE_WORDS[key.grade]}: right.` : `${GRADE_WORDS[key.grade]}. You said ${said}.`,
  ];
  if (gradeRight && !actRight) parts.push(`But not "${ACT_WORDS[answer.act].name.toLowerCase()}".`);
  if (by === 'later') parts.push('And not so late.');
  if (by === 'sooner') parts.push('Sooner than need be.');
  if (late) parts.push('It took longer than the time.');
  return parts.join(' ');
});
const critical = computed(
  () => props.answered.key.grade === 'stop' && ['sound', 'watch'].includes(props.answered.answer.grade),
);
</script>

<template>
  <div class="key" :class="{ critical }" role="group" aria-label="The key">
    <p class="verdict" role="status">
      <GradeDisc :grade="answered.key.grade" :size="34" /><strong>{{ verdict }}</strong>
    </p>
    <p v-if="critical">A machine that must stand would have gone to work.</p>
    <ol class="reasons" aria-label="Why">
      <li v-for="each in answered.key.reasons" :key="each.says">
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
          <strong>{{ answered.key.acts.map((each) => ACT_WORDS[each].name).join(', or ') }}.</strong>
          {{ answered.key.instructions[0] }}
        </dd>
      </div>
      <div v-if="answered.key.by">
        <dt>By when</dt>
        <dd>
          {{ BY_WORDS[answered.key.by]
          }}<template v-if="answered.key.until">. {{ answered.key.until }}</template>
        </dd>
      </div>
      <div v-if="answered.key.mayClear">
        <dt>Who</dt>
        <dd>{{ CLEAR_WORDS[answered.key.mayClear] }}</dd>
      </div>
    </dl>
  </div>
</template>

<style scoped>
.key {
  display: grid;
  gap: 0.7rem;
  border-top: 2px solid var(--ink);
  padding-top: 0.8rem;
}
.critical .verdict {
  color: var(--crimson);
}
.verdict {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  font-size: 1.3rem;
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
