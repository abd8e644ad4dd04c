<script setup lang="ts">
import type { SequenceSession } from '@rounds/contract/assess';
import { hesitations, recurringFlaws, spanWords } from '@rounds/core/procedure';
import { computed } from 'vue';
import PagedList from '../parts/PagedList.vue';
import { day } from '../parts/words';
import { usePersonSequences } from './queries';

/**
 * How a person starts and stops machines: the last sessions of each procedure, the steps that go wrong again and
 * again, and where they hesitate against their own usual time.
 */
const props = defineProps<{ personId: string }>();
const sequences = usePersonSequences(() => props.personId);
const sessions = computed(() => sequences.data.value?.sessions ?? []);
/** Sessions of the figures: the last few, so that what was learnt since counts. */
const LAST = 6;
interface Group {
  key: string;
  title: string;
  classTitle: string;
  all: SequenceSession[];
}
const groups = computed<Group[]>(() => {
  const found = new Map<string, Group>();
  for (const each of sessions.value) {
    const title = each.procedures.map((procedure) => procedure.title).join(', ');
    const key = `${each.classId} ${title}`;
    const group = found.get(key) ?? { key, title, classTitle: each.classTitle, all: [] };
    group.all.push(each);
    found.set(key, group);
  }
  return [...found.values()];
});
const shown = computed(() =>
  groups.value.map((group) => {
    const last = group.all.slice(0, LAST);
    return {
      ...group,
      last,
      flaws: recurringFlaws(last.map((each) => each.steps)).slice(0, 3),
      slow: hesitations(
        group.all[0]!.steps,
        group.all.slice(1).map((each) => each.steps),
      ).slice(0, 3),
    };
  }),
);
const percent = (score: number | null) => (score === null ? '–' : `${Math.round(score)} %`);
</script>

<template>
  <section v-if="shown.length > 0" class="stack" aria-label="Start and stop">
    <h2>Start and stop</h2>
    <PagedList v-slot="{ row }" :rows="shown" :size="6" nothing="Nothing stamped yet." name="Start and stop">
      <div class="group">
        <div>
          <strong>{{ row.title }}</strong> <span class="quiet">{{ row.classTitle }}</span>
        </div>
        <div class="scores">
          <RouterLink
            v-for="each in [...row.last].reverse()"
            :key="each.id"
            :to="`/assess/${each.evaluationId}`"
            :title="day(each.endedAt)"
            ><span class="visually-hidden">{{ day(each.endedAt) }}: </span>{{ percent(each.score)
            }}<span v-if="each.critical" aria-label="with a critical flaw"> !</span></RouterLink
          >
          <span v-if="row.all.length > row.last.length" class="quiet">of {{ row.all.length }} sessions</span>
        </div>
        <p v-if="row.flaws.length" class="small">
          Again and again:
          {{ row.flaws.map((each) => `“${each.do}” ${each.flawed} of ${each.sessions}`).join('; ') }}
        </p>
        <p v-if="row.slow.length" class="small">
          Hesitated last time:
          {{
            row.slow
              .map(
                (each) => `before “${each.do}” ${spanWords(each.seconds)}, usually ${spanWords(each.usual)}`,
              )
              .join('; ')
          }}
        </p>
      </div>
    </PagedList>
  </section>
</template>

<style scoped>
.group {
  display: grid;
  gap: 0.2rem;
  width: 100%;
}
.scores {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 0.9rem;
  font-variant-numeric: tabular-nums;
}
.small {
  margin: 0;
  font-size: 0.92rem;
}
</style>
