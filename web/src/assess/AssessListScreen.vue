<script setup lang="ts">
import { PlusOutlined } from '@ant-design/icons-vue';
import type { EvaluationSummary } from '@rounds/contract/assess';
import { DECIDED, type Decided, type Outcome, OUTCOME_WORDS, PHASE_WORDS } from '@rounds/core/evaluation';
import { refDebounced } from '@vueuse/core';
import { Button, Input, Segmented } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useSession } from '../device/session';
import ChoiceField from '../parts/ChoiceField.vue';
import DataTable, { type Column, type Place } from '../parts/DataTable.vue';
import { useClasses } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { day } from '../parts/words';
import { type EvaluationsAsked, useEvaluations } from './queries';

/** Evaluations: what is open, what was decided; ordered and narrowed by the server. */
const PAGE = 25;
const PURPOSES = ['Evaluations', 'Start and stop'] as const;
const STATES = ['All', 'Open', 'Closed'] as const;
const session = useSession();
const trains = session.is('trainer', 'administrator');
const { list: classes } = useClasses();
const state = ref<(typeof STATES)[number]>('All');
const purpose = ref<(typeof PURPOSES)[number]>('Evaluations');
/** A practice has neither outcome nor score. */
const practices = computed(() => purpose.value === 'Start and stop');
const search = ref('');
const settled = refDebounced(search, 200);
const classId = ref('');
const outcome = ref<Decided | ''>('');
const place = ref<Place>({ page: 1, sort: 'when', order: 'descending' });
watch([purpose, settled, state, classId, outcome], () => (place.value = { ...place.value, page: 1 }));
const asked = computed<EvaluationsAsked>(() => ({
  ...(state.value === 'All' ? {} : { open: state.value === 'Open' ? 'yes' : 'no' }),
  purpose: practices.value ? 'practice' : 'evaluation',
  search: settled.value || undefined,
  classId: classId.value || undefined,
  outcome: (!practices.value && outcome.value) || undefined,
  page: place.value.page,
  sort: place.value.sort as EvaluationsAsked['sort'],
  order: place.value.order,
  limit: PAGE,
}));
const evaluations = useEvaluations(() => asked.value);
const rows = computed(() => evaluations.data.value?.rows ?? []);
const narrowed = computed(() =>
  Boolean(settled.value || classId.value || asked.value.outcome || state.value !== 'All'),
);
const PRACTICE_WORDS: Partial<Record<EvaluationSummary['phase'], string>> = {
  prepared: 'Nothing stamped yet',
  running: 'Under way',
  reviewing: 'Judged',
};
function resultWords(each: EvaluationSummary): string {
  if (each.purpose === 'practice') return PRACTICE_WORDS[each.phase] ?? '';
  const result = each.outcome ? OUTCOME_WORDS[each.outcome as Outcome] : PHASE_WORDS[each.phase];
  return each.overridden ? `${result} (overridden)` : result;
}
const heading = computed(() => {
  if (practices.value) return 'Practices of start and stop';
  return session.role === 'operator' ? 'My evaluations' : 'Evaluations';
});
const columns: Column<EvaluationSummary>[] = [
  { key: 'person', title: 'Person', sorts: true, fixed: true },
  {
    key: 'class',
    title: 'Class and machine',
    sorts: true,
    text: (row) => `${row.classTitle}, ${row.unitName}`,
  },
  { key: 'when', title: 'When', sorts: true, text: (row) => day(row.createdAt) },
  { key: 'trainer', title: 'Trainer', sorts: true, text: (row) => row.trainerName },
  { key: 'result', title: 'Result', fixed: true },
  {
    key: 'score',
    title: 'Score',
    sorts: true,
    align: 'right',
    text: (row) => (row.score === null ? '' : `${row.score} %`),
  },
];
const outcomes = DECIDED.map((value) => ({ value, label: OUTCOME_WORDS[value] }));
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>
        {{ heading }}
        <span v-if="evaluations.data.value" class="quiet">{{ evaluations.data.value.total }}</span>
      </h1>
      <span class="row">
        <RouterLink v-if="trains" v-slot="{ navigate, href }" to="/assess/calibration" custom
          ><Button :href="href" @click="navigate">Calibration</Button></RouterLink
        >
        <RouterLink v-if="trains" v-slot="{ navigate, href }" to="/assess/practice" custom
          ><Button :href="href" @click="navigate">Practise start and stop</Button></RouterLink
        >
        <RouterLink v-if="trains" v-slot="{ navigate, href }" to="/assess/new" custom
          ><Button type="primary" :href="href" @click="navigate"
            ><template #icon><PlusOutlined /></template>Prepare an evaluation</Button
          ></RouterLink
        ></span
      >
    </div>
    <Segmented v-model:value="purpose" :options="[...PURPOSES]" aria-label="What is listed" class="purpose" />
    <form class="filters" role="search" @submit.prevent>
      <Input
        v-model:value="search"
        type="search"
        allow-clear
        :maxlength="100"
        placeholder="Person, machine or class"
        aria-label="Search by person, machine or class"
      />
      <ChoiceField
        v-model:value="classId"
        label="Class"
        placeholder="Any class"
        clearable
        :options="classes.map((each) => ({ value: each.id, label: each.title }))"
      />
      <ChoiceField
        v-if="!practices"
        v-model:value="outcome"
        label="Result"
        placeholder="Any result"
        clearable
        :options="outcomes"
      />
      <Segmented v-model:value="state" :options="[...STATES]" aria-label="Show" />
    </form>
    <StateBox
      :loading="!evaluations.data.value"
      :error="evaluations.data.value ? undefined : evaluations.error.value"
      :empty="rows.length === 0"
      what="evaluations"
      :lines="10"
      @retry="evaluations.refetch()"
    >
      <template #empty>
        <template v-if="narrowed">
          <h2>None like that</h2>
          <p>Clear the search or the filters.</p>
        </template>
        <template v-else>
          <h2>{{ practices ? 'No practice yet' : 'No evaluation yet' }}</h2>
          <p>
            {{
              trains && practices
                ? 'Practise a start or a stop beside the machine: tap the acts, and the judge says what was right.'
                : trains
                  ? 'Prepare the first: choose a person, a machine, and what to plant.'
                  : 'They appear here when a trainer has made one.'
            }}
          </p>
        </template>
      </template>
      <DataTable
        v-model:place="place"
        name="List of evaluations"
        choose
        :rows="rows"
        :columns="practices ? columns.filter((each) => each.key !== 'score') : columns"
        :row-key="(row) => row.id"
        :total="evaluations.data.value?.total ?? 0"
        :page-size="PAGE"
      >
        <template #person="{ row }">
          <RouterLink :to="`/assess/${row.id}`"
            ><strong>{{ row.personName }}</strong></RouterLink
          >
        </template>
        <template #result="{ row }">
          <span v-if="row.stillPlanted.length" class="needs-you"
            >{{ row.stillPlanted.length }} still planted</span
          >
          {{ resultWords(row) }}
        </template>
      </DataTable>
    </StateBox>
  </div>
</template>

<style scoped>
.purpose {
  width: max-content;
}
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
}
.filters > * {
  flex: 1 1 150px;
}
.filters > :first-child {
  flex: 2 1 200px;
}
.filters > :last-child {
  flex: none;
}
@media (max-width: 900px) {
  .filters > :first-child,
  .filters > :last-child {
    flex: 1 0 100%;
  }
}
</style>
