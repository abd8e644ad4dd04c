<script setup lang="ts">
import { GRADES } from '@rounds/core/catalogue';
import type { Appraisal } from '@rounds/core/evaluation';
import { GRADE_WORDS } from '@rounds/core/grading';
import { computed } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';

/** How the operator graded against the key: every pair of grades counted, and how far they agree. */
const props = defineProps<{ grading: Appraisal['grading'] }>();
const kappa = computed(() => props.grading.quadratic.kappa);
</script>

<template>
  <section class="sheet pad" aria-label="Grading against the key">
    <h2>Grading: {{ grading.exact }} of {{ grading.n }} as the key</h2>
    <div role="table" aria-label="Rows the key, columns the operator">
      <div role="row" class="grades">
        <span role="columnheader">Key</span>
        <span v-for="g in GRADES" :key="g" role="columnheader"
          ><GradeDisc :grade="g" :label="GRADE_WORDS[g]"
        /></span>
      </div>
      <div v-for="(row, i) in grading.confusion" :key="i" role="row" class="grades">
        <span role="rowheader"><GradeDisc :grade="GRADES[i]!" :label="GRADE_WORDS[GRADES[i]!]" /></span>
        <span
          v-for="(n, j) in row"
          :key="j"
          role="cell"
          :class="{ hit: i === j && n > 0, low: j < i && n > 0 }"
          >{{ n || '' }}</span
        >
      </div>
    </div>
    <p class="quiet">
      {{ grading.tooLow.count }} graded too low, {{ grading.tooHigh }} too high. Weighted kappa
      {{ kappa === null ? 'undefined here' : kappa.toFixed(2) }} (quadratic).
    </p>
  </section>
</template>

<style scoped>
.grades {
  display: grid;
  grid-template-columns: repeat(5, 56px);
}
.grades > span {
  border: 1px solid var(--line);
  margin: 0 -1px -1px 0;
  height: 42px;
  display: grid;
  place-items: center;
}
.hit {
  background: var(--petrol);
  color: var(--on-petrol);
  font-weight: 700;
}
.low {
  background: var(--amber);
  color: var(--on-amber);
  font-weight: 700;
}
</style>
