<script setup lang="ts">
import { type Grade, GRADES } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import { computed } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';

/** How a room graded a finding: a bar a grade, the key marked. */
const props = defineProps<{ spread: readonly number[]; keyGrade: Grade }>();
const most = computed(() => Math.max(1, ...props.spread));
</script>

<template>
  <dl class="bars">
    <div v-for="(grade, i) in GRADES" :key="grade" :class="{ key: grade === keyGrade }">
      <dt><GradeDisc :grade="grade" /> {{ GRADE_WORDS[grade] }}</dt>
      <dd>
        <span class="bar" :style="{ width: `${(100 * spread[i]!) / most}%` }"></span>
        <strong>{{ spread[i] }}</strong>
        <span v-if="grade === keyGrade" class="is">the key</span>
      </dd>
    </div>
  </dl>
</template>

<style scoped>
.bars {
  display: grid;
  gap: 0.5rem;
}
.bars div {
  display: grid;
  grid-template-columns: 6.5em minmax(0, 1fr);
  align-items: center;
  gap: 0.6rem;
}
dd {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 2.5em 5em;
  align-items: center;
  gap: 0.6rem;
}
.bar {
  display: block;
  height: 1.5em;
  background: var(--machine);
  border: 1px solid var(--ink);
  min-width: 2px;
}
.key dt {
  font-weight: 700;
}
.key .bar {
  background: var(--petrol);
}
.is {
  white-space: nowrap;
  color: var(--petrol);
  font-weight: 700;
}
</style>
