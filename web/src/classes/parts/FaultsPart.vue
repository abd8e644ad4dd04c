<script setup lang="ts">
import {
  boundWords,
  type EffectivePack,
  type Fault,
  faultEvidence,
  type Grade,
  GRADES,
  gradeKind,
  originWords,
  PLANT_WORDS,
  raisedWords,
  severity,
} from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import { CheckableTag } from 'ant-design-vue';
import { computed, ref } from 'vue';
import EvidenceDrawing from '../../drawing/EvidenceDrawing.vue';
import GradeDisc from '../../drawing/GradeDisc.vue';
import DataTable, { type Column } from '../../parts/DataTable.vue';

/** Faults and lookalikes: cues by method, grade, what to do, planting. */
const props = defineProps<{ pack: EffectivePack; byChoice: ReadonlyMap<string, string> }>();
const only = ref<Grade | null>(null);
const counts = computed(
  () =>
    new Map(GRADES.map((grade) => [grade, props.pack.faults.filter((each) => each.grade === grade).length])),
);
const shown = computed(() =>
  props.pack.faults.filter((each) => only.value === null || each.grade === only.value),
);
const check = computed(() => new Map(props.pack.checkpoints.map((each) => [each.id, each])));
const place = (f: Fault) => check.value.get(f.checkpoint)?.part ?? '';
function drawingOf(fault: Fault) {
  const own = check.value.get(fault.checkpoint);
  return own ? faultEvidence(own, fault) : null;
}
const columns: Column<Fault>[] = [
  {
    key: 'grade',
    title: 'Grade',
    fixed: true,
    width: 150,
    sorts: (a, b) => severity(b.grade) - severity(a.grade),
  },
  { key: 'shows', title: 'Fault and what shows', fixed: true },
  { key: 'looks', title: 'Looks', width: 130 },
  { key: 'where', title: 'Where', text: place, sorts: (a, b) => place(a).localeCompare(place(b)) },
  { key: 'why', title: 'Why' },
  { key: 'do', title: 'Do' },
  { key: 'plant', title: 'Planting' },
];
const CURE = { operator: 'operator on the spot', competent: 'competent person', maker: 'maker' } as const;
</script>

<template>
  <div class="stack">
    <div class="row" role="group" aria-label="Only one grade">
      <CheckableTag
        v-for="grade in GRADES"
        :key="grade"
        :checked="only === grade"
        :aria-pressed="only === grade"
        role="button"
        tabindex="0"
        @change="only = only === grade ? null : grade"
        @keydown.enter.space.prevent="only = only === grade ? null : grade"
        ><GradeDisc :grade="grade" /> {{ grade === 'sound' ? 'Lookalikes' : GRADE_WORDS[grade] }}
        {{ counts.get(grade) }}</CheckableTag
      >
    </div>
    <DataTable
      class="prose"
      name="List of faults"
      choose
      :rows="shown"
      :columns="columns"
      :row-key="(f) => f.id"
      :anchor="(f) => `row-${f.id}`"
      :page-size="500"
    >
      <template #grade="{ row: f }">
        <span class="grade"><GradeDisc :grade="f.grade" /> {{ GRADE_WORDS[f.grade] }}</span>
        <div v-if="f.kind" class="quiet small" :title="gradeKind(f.kind).why">
          {{ gradeKind(f.kind).says }}
        </div>
        <div v-if="f.departs" class="small">Graded otherwise here: {{ f.departs }}</div>
        <div v-if="raisedWords(pack, f)" class="raised">{{ raisedWords(pack, f) }}</div>
        <div v-if="byChoice.has(f.id)" class="by-choice">site choice</div>
      </template>
      <template #shows="{ row: f }">
        <strong>{{ f.title }}</strong>
        <div v-for="c in f.cues" :key="c.shows">
          <span class="quiet">{{ c.method }}:</span> {{ c.shows }}
        </div>
        <div class="quiet small">{{ f.id }}. {{ originWords(f.origin) }}</div>
      </template>
      <template #looks="{ row: f }">
        <EvidenceDrawing v-if="drawingOf(f)" class="picture" v-bind="drawingOf(f)!" />
      </template>
      <template #why="{ row: f }">
        {{ f.why }}
      </template>
      <template #do="{ row: f }">
        {{ f.do }}
        <div v-if="f.until" class="small">
          <strong>Until {{ boundWords(f.until) }}:</strong> {{ f.until.says }}
        </div>
        <div v-if="f.escalates" class="small">{{ f.escalates }}</div>
        <div v-if="f.cure" class="quiet small">{{ CURE[f.cure] }}</div>
      </template>
      <template #plant="{ row: f }">
        <template v-if="f.plant"
          ><strong class="small">{{ PLANT_WORDS[f.plant.as] }}</strong>
          <div>{{ f.plant.how }}</div>
          <div class="quiet small">Out again: {{ f.plant.retrieve }}</div></template
        ><template v-else
          ><strong class="small">never planted</strong>
          <div>{{ f.substitute }}</div></template
        >
      </template>
    </DataTable>
  </div>
</template>

<style scoped>
.grade {
  white-space: nowrap;
}
.raised {
  border-left: 4px solid var(--amber);
  padding-left: 0.4rem;
  font-size: 0.88rem;
}
.picture {
  width: 100px;
  height: 100px;
}
</style>
