<script setup lang="ts">
import type { Insight } from '@rounds/contract/insight';
import { Button, Segmented } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { useSession } from '../device/session';
import ChoiceField from '../parts/ChoiceField.vue';
import { useClasses } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import TabRow from '../parts/TabRow.vue';
import { useAddressQuery } from '../parts/useAddressQuery';
import { amount, day } from '../parts/words';
import { type Measure, useInsight } from './queries';
import SharePanel from './SharePanel.vue';

/** What is missed most, who grades too low, how evaluators record, and whether it changes over the months. */
const session = useSession();
const trains = session.is('trainer', 'administrator');
const { list: classes } = useClasses();
const MEASURES: { value: Measure; label: string }[] = [
  { value: 'faults', label: 'Planted faults' },
  { value: 'checks', label: 'Checks of the round' },
  { value: 'practice', label: 'Practice' },
];
const MONTHS = [
  { value: '6', label: '6 months' },
  { value: '12', label: '12 months' },
  { value: '24', label: '24 months' },
];
const COUNTED: Readonly<Record<Measure, string>> = {
  faults: 'Not found unprompted',
  checks: 'Missed or prompted',
  practice: 'Answered wrong',
};
const BY = [
  { key: 'systems', name: 'By system' },
  { key: 'checks', name: 'By check' },
  { key: 'methods', name: 'By method' },
  { key: 'classes', name: 'By class' },
] as const;
type By = (typeof BY)[number]['key'];
const OF: Readonly<Record<By, string>> = {
  checks: 'Check or fault',
  systems: 'System',
  methods: 'Method',
  classes: 'Class',
};

const route = useRoute();
const address = useAddressQuery();
const asked = (key: string) => String(route.query[key] ?? '');
const measure = ref(MEASURES.find((each) => each.value === asked('measure'))?.value ?? 'faults');
const classId = ref(asked('class'));
const months = ref(MONTHS.find((each) => each.value === asked('months'))?.value ?? '12');
const by = ref<By>(BY.find((each) => each.key === asked('by'))?.key ?? 'systems');
watch([measure, classId, months, by], () =>
  address({
    measure: measure.value,
    class: classId.value || undefined,
    months: months.value,
    by: by.value,
  }),
);
const query = useInsight(() => ({
  measure: measure.value,
  classId: classId.value || undefined,
  months: Number(months.value),
}));
const found = computed<Insight | null>(() => query.data.value ?? null);
const severityOf = (key: string) => found.value?.evaluators?.find((each) => each.key === key);
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>Insight</h1>
      <span v-if="trains" class="row">
        <RouterLink v-slot="{ navigate, href }" to="/assess/calibration" custom
          ><Button :href="href" @click="navigate">Calibration</Button></RouterLink
        >
        <RouterLink v-slot="{ navigate, href }" to="/insight/items" custom
          ><Button :href="href" @click="navigate">Keys under scrutiny</Button></RouterLink
        >
      </span>
    </div>
    <form class="filters" role="search" aria-label="What is looked at" @submit.prevent>
      <Segmented v-model:value="measure" :options="MEASURES" aria-label="What is counted" />
      <ChoiceField
        v-model:value="classId"
        label="Class"
        placeholder="Every class"
        clearable
        :options="classes.map((each) => ({ value: each.id, label: each.title }))"
      />
      <Segmented v-model:value="months" :options="MONTHS" aria-label="How far back" />
    </form>
    <StateBox
      :loading="!found && !query.error.value"
      :error="found ? undefined : query.error.value"
      what="what is on record"
      :lines="10"
      @retry="query.refetch()"
    >
      <template v-if="found">
        <ul class="sheet pad stack told" aria-label="In words">
          <li v-for="each in found.says" :key="each">{{ each }}</li>
          <li class="quiet">
            {{ day(found.from) }} to {{ day(found.to) }}; {{ amount(found.evaluations, 'evaluation') }},
            {{ amount(found.people, 'person', 'people') }} counted here.
          </li>
        </ul>
        <section class="stack" aria-label="What is missed most">
          <h2>What is missed most</h2>
          <TabRow v-model:chosen="by" label="What it is counted by" :tabs="BY" />
          <SharePanel
            :rows="found.missed[by]"
            :name="`Missed most, ${BY.find((each) => each.key === by)!.name.toLowerCase()}`"
            :of="OF[by]"
            :counted="COUNTED[measure]"
          />
        </section>
        <section class="stack" aria-label="Over the months">
          <h2>Over the months</h2>
          <SharePanel
            :rows="found.trend"
            name="Missed, month by month"
            of="Month"
            :counted="COUNTED[measure]"
            over-time
          />
        </section>
        <section class="stack" aria-label="Who grades too low">
          <h2>
            Who grades too low
            <span class="quiet">evaluations, benches and class exercises together</span>
          </h2>
          <p v-if="found.grading.whole" class="quiet">{{ found.grading.whole.says }}</p>
          <SharePanel
            :rows="found.grading.people"
            name="Graded too low"
            of="Person"
            counted="Too low"
            of-people
          >
            <template #name="{ row }"
              ><RouterLink :to="`/people/${row.key}`"
                ><strong>{{ row.name }}</strong></RouterLink
              ></template
            >
          </SharePanel>
        </section>
        <section v-if="found.evaluators" class="stack" aria-label="How evaluators record">
          <h2>How evaluators record <span class="quiet">checks written down as prompted or missed</span></h2>
          <p class="quiet">
            Who writes down few may be mild, or may have had good people. Only a calibration, where all score
            the same round, tells the two apart.
          </p>
          <SharePanel
            :rows="found.evaluators"
            name="Prompted or missed, by evaluator"
            of="Evaluator"
            counted="Prompted or missed"
          >
            <template #name="{ row }">
              <strong>{{ row.name }}</strong>
              <div class="quiet small">
                {{ amount(severityOf(row.key)?.evaluations ?? 0, 'evaluation') }}.
                {{ severityOf(row.key)?.severity ?? 'Not calibrated.' }}
              </div>
            </template>
          </SharePanel>
        </section>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.filters {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem;
  align-items: center;
}
.filters :deep(.ant-select) {
  width: 300px;
}
.told {
  font-size: 1.05rem;
}
section {
  margin-top: 0.75rem;
}
</style>
