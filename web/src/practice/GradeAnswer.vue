<script setup lang="ts">
import { type Grade, GRADES, UNTIL_BOUNDS, type UntilBound } from '@rounds/core/catalogue';
import type { BenchAnswer } from '@rounds/core/bench';
import { FINDER_ACTS, type FinderAct, GRADE_WORDS } from '@rounds/core/grading';
import { onKeyStroke } from '@vueuse/core';
import { computed, ref } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import { ACT_WORDS, BY_WORDS } from '../parts/findingWords';

/** The answer to a finding in three taps: the grade, what to do, and by when where there is something to cure. */
const props = defineProps<{ busy: boolean }>();
const emit = defineEmits<{ answer: [answer: BenchAnswer] }>();
const grade = ref<Grade | null>(null);
const act = ref<FinderAct | null>(null);
const by = ref<UntilBound | null>(null);
const needsTime = computed(() => act.value === 'top-up' || act.value === 'order-repair');
/** A sound part needs nothing, so nothing else is asked. */
function take(chosen: Grade) {
  grade.value = chosen;
  if (chosen === 'sound') {
    act.value = 'go-on';
    by.value = null;
  }
}
function choose(chosen: FinderAct) {
  act.value = chosen;
  if (!needsTime.value) by.value = null;
}
const complete = computed(
  () => grade.value !== null && act.value !== null && (!needsTime.value || by.value !== null),
);
function send() {
  if (!complete.value || props.busy) return;
  emit('answer', { grade: grade.value!, act: act.value!, by: needsTime.value ? by.value : null });
}
/** Acts that fit a grade: what is sound goes on. */
const mayAct = (each: FinderAct) => grade.value !== 'sound' || each === 'go-on';
onKeyStroke(['1', '2', '3', '4'], ({ key }) => take(GRADES[Number(key) - 1]!));
onKeyStroke(['5', '6', '7', '8'], ({ key }) => {
  const chosen = FINDER_ACTS[Number(key) - 5]!;
  if (mayAct(chosen)) choose(chosen);
});
</script>

<template>
  <form class="answer" aria-label="Your answer" @submit.prevent="send">
    <div class="four" role="group" aria-label="How bad is it?">
      <button
        v-for="each in GRADES"
        :key="each"
        type="button"
        class="big"
        :aria-pressed="grade === each"
        @click="take(each)"
      >
        <GradeDisc :grade="each" :size="26" />{{ GRADE_WORDS[each] }}
      </button>
    </div>
    <div class="four" role="group" aria-label="What do you do?">
      <button
        v-for="each in FINDER_ACTS"
        :key="each"
        type="button"
        class="big does"
        :aria-pressed="act === each"
        :disabled="!mayAct(each)"
        @click="choose(each)"
      >
        <strong>{{ ACT_WORDS[each].name }}</strong><span>{{ ACT_WORDS[each].more }}</span>
      </button>
    </div>
    <div v-if="needsTime" class="times" role="group" aria-label="By when?">
      <span class="quiet">By when?</span>
      <button
        v-for="each in UNTIL_BOUNDS"
        :key="each"
        type="button"
        class="big time"
        :aria-pressed="by === each"
        @click="by = each"
      >
        {{ BY_WORDS[each] }}
      </button>
    </div>
    <button type="submit" class="big primary" :disabled="!complete || busy">Answer</button>
  </form>
</template>

<style scoped>
.answer {
  display: grid;
  gap: 0.5rem;
}
.four {
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 0.5rem;
}
.four .big {
  gap: 0.2rem;
  min-height: 64px;
  padding: 0.3rem;
}
.does span {
  font-weight: 400;
  font-size: 0.82rem;
}
.times {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
  align-items: center;
}
.time {
  flex: 1 1 auto;
  font-weight: 400;
  padding: 0.3rem 0.7rem;
}
.time[aria-pressed='true'] {
  font-weight: 700;
}
.big[aria-pressed='true'] :deep(.disc) {
  color: var(--on-petrol);
}
.big[aria-pressed='true'] :deep(.disc.stop path:last-of-type) {
  stroke: var(--petrol);
}
@media (max-width: 640px) {
  .four,
  .times {
    gap: 0.35rem;
  }
  .does strong {
    font-size: 0.92rem;
  }
  .does span {
    display: none;
  }
}
</style>
