<script setup lang="ts">
import { type EffectivePack, originWords } from '@rounds/core/catalogue';
import { commandStandard, SETS_TO_BE_READY } from '@rounds/core/commands';
import { DAYS_TO_BE_READY, drillCriterion } from '@rounds/core/drill';
import { computed } from 'vue';
import CourseSheet from './CourseSheet.vue';

/** How the class is taught: order, drills, what to watch, common mistakes, and notes on certification. */
const props = defineProps<{ pack: EffectivePack }>();
const standard = computed(() => commandStandard(props.pack));
</script>

<template>
  <div class="grid">
    <section class="sheet pad">
      <h2>Order of teaching</h2>
      <ol class="ladder">
        <li v-for="rung in pack.teaching.ladder" :id="`row-${rung.id}`" :key="rung.id">
          {{ rung.says }} <span v-if="rung.criterion" class="quiet small">{{ rung.criterion }}</span>
        </li>
      </ol>
    </section>
    <div class="stack">
      <section v-if="pack.teaching.drills.length" class="sheet pad">
        <h2>Drills</h2>
        <ul class="bullets">
          <li v-for="t in pack.teaching.drills" :key="t">{{ t }}</li>
        </ul>
      </section>
      <section v-if="pack.teaching.watch.length" class="sheet pad">
        <h2>What the trainer watches</h2>
        <ul class="bullets">
          <li v-for="t in pack.teaching.watch" :key="t">{{ t }}</li>
        </ul>
      </section>
    </div>
    <section class="sheet pad">
      <h2>Ready for assessment</h2>
      <p>
        A drill over the whole round with at least {{ drillCriterion(pack).score }} of 100, no stop missed,
        the ring closed, at an honest pace, on {{ DAYS_TO_BE_READY }} separate days.
      </p>
      <p v-if="pack.machine.desk?.commands.length">
        The controls: {{ SETS_TO_BE_READY }} sets of commands in a row, {{ standard.calls }} calls or more,
        each answered within {{ standard.seconds }} s,
        {{ standard.wrong === 0 ? 'none' : `at most ${standard.wrong}` }} wrong, at most
        {{ standard.late }} late.
      </p>
    </section>
    <CourseSheet v-if="pack.teaching.course" :key="pack.hash" :pack="pack" />
    <section class="sheet pad">
      <h2>Common mistakes</h2>
      <ul class="bullets">
        <li v-for="m in pack.mistakes" :id="`row-${m.id}`" :key="m.id">
          {{ m.says }} <span v-if="m.helps" class="quiet">Helps: {{ m.helps }}</span>
        </li>
      </ul>
    </section>
    <section class="sheet pad">
      <h2>Certification</h2>
      <ul class="bullets">
        <li v-for="c in pack.certification" :id="`row-${c.id}`" :key="c.id">
          {{ c.says }} <span class="quiet small">{{ originWords(c.origin) }}</span>
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(380px, 1fr));
  gap: 0.75rem;
  align-items: start;
}
.ladder {
  padding-left: 1.6rem;
}
.ladder li {
  padding: 0.2rem 0;
}
@media (max-width: 640px) {
  .grid {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
