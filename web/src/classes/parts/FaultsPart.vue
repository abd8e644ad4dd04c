<script setup lang="ts">
import { GRADE_WORDS } from '@rounds/core/grading';
import { GRADES, type EffectivePack, type Grade, originWords } from '@rounds/core/catalogue';
import { computed, ref } from 'vue';
import GradeDisc from '../../drawing/GradeDisc.vue';

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
const part = computed(() => new Map(props.pack.checkpoints.map((each) => [each.id, each.part])));
const CURE = { operator: 'operator on the spot', competent: 'competent person', maker: 'maker' } as const;
</script>

<template>
  <div class="stack">
    <div class="row" role="group" aria-label="Only one grade">
      <button
        v-for="grade in GRADES"
        :key="grade"
        class="act plain"
        :aria-pressed="only === grade"
        @click="only = only === grade ? null : grade"
      >
        <span class="row nowrap"
          ><GradeDisc :grade="grade" /> {{ grade === 'sound' ? 'Lookalikes' : GRADE_WORDS[grade] }}
          {{ counts.get(grade) }}</span
        >
      </button>
    </div>
    <div class="sheet scrolls" tabindex="0" role="region" aria-label="List of faults">
      <table class="rows">
        <thead>
          <tr>
            <th>Grade</th>
            <th>What shows</th>
            <th>Where</th>
            <th>Why</th>
            <th>Do</th>
            <th>Planting</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in shown" :id="`row-${f.id}`" :key="f.id">
            <td class="grade">
              <GradeDisc :grade="f.grade" /> {{ GRADE_WORDS[f.grade] }}
              <div v-if="byChoice.has(f.id)" class="by-choice">site choice</div>
            </td>
            <td>
              <div v-for="c in f.cues" :key="c.shows">
                <span class="quiet">{{ c.method }}:</span> {{ c.shows }}
              </div>
              <div class="quiet small">{{ f.id }}. {{ originWords(f.origin) }}</div>
            </td>
            <td>{{ part.get(f.checkpoint) }}</td>
            <td>
              {{ f.why }}
              <div v-if="f.limit" class="small"><strong>Limit:</strong> {{ f.limit }}</div>
              <div v-if="f.escalates" class="small">{{ f.escalates }}</div>
            </td>
            <td>
              {{ f.do }}
              <div v-if="f.cure" class="quiet small">{{ CURE[f.cure] }}</div>
            </td>
            <td>
              <template v-if="f.plant"
                >{{ f.plant.how }}
                <div class="quiet small">Out again: {{ f.plant.retrieve }}</div></template
              ><span v-else class="quiet">not planted{{ f.substitute ? `: ${f.substitute}` : '' }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.grade {
  white-space: nowrap;
}
.nowrap {
  flex-wrap: nowrap;
}
.act[aria-pressed='true'] {
  background: var(--raised);
  box-shadow: inset 0 -4px 0 var(--petrol);
}
</style>
