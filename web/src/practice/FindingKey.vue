<script setup lang="ts">
import type { AnsweredFinding } from '@rounds/contract/bench';
import { GRADE_WORDS } from '@rounds/core/grading';
import { computed } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import { ACT_WORDS } from '../parts/findingWords';
import KeyReasons from '../parts/KeyReasons.vue';

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
    <KeyReasons :grading="answered.key" />
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
</style>
