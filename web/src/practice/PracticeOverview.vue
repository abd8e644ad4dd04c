<script setup lang="ts">
import type { ClassPractice } from '@rounds/contract/practice';
import PagedList from '../parts/PagedList.vue';
import StateBox from '../parts/StateBox.vue';
import { amount, day } from '../parts/words';
import PracticeSets from './PracticeSets.vue';
import { usePracticeOverview } from './queries';

/** Who practised what, and what goes wrong most in a class: for those who see more than themselves. */
const props = defineProps<{ classId: string; classTitle: string }>();
const emit = defineEmits<{ person: [id: string] }>();
const overview = usePracticeOverview(
  () => true,
  () => props.classId,
);
const PART_WORDS = { round: 'walk-round', desk: 'start and stop', commands: 'controls' } as const;
/** What is still to be shown before somebody is ready. */
const leftOf = (parts: ClassPractice['parts']) =>
  parts.flatMap((each) => (each.met ? [] : PART_WORDS[each.part])).join(', ');
</script>

<template>
  <StateBox
    :loading="!overview.data.value && !overview.error.value"
    :error="overview.data.value ? undefined : overview.error.value"
    what="the practice of your people"
    @retry="overview.refetch()"
  >
    <template v-if="overview.data.value">
      <PracticeSets :sets="overview.data.value.sets" :may-begin="false" />
      <section class="sheet pad" aria-label="Who practised">
        <h2>
          Who practised <span class="quiet">{{ classTitle || 'any class' }}</span>
        </h2>
        <PagedList
          v-slot="{ row }"
          :rows="overview.data.value.rows"
          :size="10"
          nothing="Nobody has practised yet."
          name="Who practised"
        >
          <div class="row spread whole">
            <span>
              <button type="button" class="link" @click="emit('person', row.person.id)">
                {{ row.person.name }}
              </button>
              <span class="quiet"> {{ row.person.team }}</span>
              <span v-if="!classId" class="what">{{ row.classTitle }}</span>
              <span v-if="!row.ready && row.parts.length > 0" class="what quiet"
                >Still open: {{ leftOf(row.parts) }}</span
              >
            </span>
            <span>
              <strong v-if="row.ready" class="ready">Ready</strong>
              <RouterLink :to="`/practise/${row.last.id}/result`"
                ><span class="visually-hidden">Last score of {{ row.person.name }}: </span
                >{{ Math.round(row.last.score) }}</RouterLink
              >
              <span class="quiet"> {{ day(row.last.endedAt) }}, {{ amount(row.drills, 'drill') }}</span>
            </span>
          </div>
        </PagedList>
      </section>
      <section v-if="overview.data.value.forgotten.length > 0" class="sheet pad" aria-label="Goes wrong most">
        <h2>Goes wrong most</h2>
        <ul class="bullets">
          <li v-for="each in overview.data.value.forgotten" :key="each.item">
            {{ each.says }}
            <span class="quiet"
              >{{ each.wrong }} of {{ each.times }} wrong, {{ amount(each.people, 'person', 'people') }}</span
            >
          </li>
        </ul>
      </section>
    </template>
  </StateBox>
</template>

<style scoped>
.whole {
  width: 100%;
}
.what {
  display: block;
}
.ready {
  border: 2px solid var(--petrol);
  border-radius: 3px;
  padding: 0 0.4rem;
  margin-right: 0.5rem;
  color: var(--petrol);
}
</style>
