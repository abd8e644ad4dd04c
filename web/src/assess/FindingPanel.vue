<script setup lang="ts">
import { type Checkpoint, type EffectivePack, type Grade, GRADES } from '@rounds/core/catalogue';
import { faultName } from '@rounds/core/evaluation';
import { GRADE_WORDS } from '@rounds/core/grading';
import { computed, ref } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';

/** What the operator called out at a check: which fault and what grade, in one tap. */
const props = defineProps<{ pack: EffectivePack; checkpoint: Checkpoint; prompted: boolean }>();
const emit = defineEmits<{
  back: [];
  report: [finding: { fault: string | null; grade: Grade; prompted: boolean; real: boolean }];
}>();
const prompted = ref(props.prompted);
const real = ref(false);
const rows = computed(() => [
  ...props.pack.faults
    .filter((each) => each.checkpoint === props.checkpoint.id)
    .map((each) => ({ id: each.id as string | null, name: faultName(each) })),
  { id: null, name: 'Something else at this point' },
]);
const report = (fault: string | null, grade: Grade) =>
  emit('report', { fault, grade, prompted: prompted.value, real: real.value });
</script>

<template>
  <div class="finding">
    <div class="row spread">
      <h2>Fault found: {{ checkpoint.part }}</h2>
      <button class="big" @click="emit('back')">Back</button>
    </div>
    <div class="ways" role="group" aria-label="How it was found">
      <button class="big" :aria-pressed="prompted" @click="prompted = !prompted">Only after a prompt</button>
      <button class="big" :aria-pressed="real" @click="real = !real">
        Truly on the machine, not planted
      </button>
    </div>
    <p>Which one, and what grade did the operator give?</p>
    <ul>
      <li v-for="row in rows" :key="row.id ?? ''" class="named">
        <strong>{{ row.name }}</strong>
        <div class="grades" role="group" :aria-label="`Grade of: ${row.name}`">
          <button v-for="g in GRADES" :key="g" class="big" @click="report(row.id, g)">
            <GradeDisc :grade="g" :size="30" />{{ GRADE_WORDS[g] }}
          </button>
        </div>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.finding {
  display: grid;
  gap: 0.75rem;
}
.named {
  display: grid;
  gap: 0.4rem;
  padding: 0.7rem 0;
  border-top: 1px solid var(--line);
}
.grades {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 0.4rem;
}
.grades .big {
  min-height: 76px;
  gap: 0.25rem;
  padding-inline: 0.2rem;
}
.ways {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.5rem;
}
</style>
