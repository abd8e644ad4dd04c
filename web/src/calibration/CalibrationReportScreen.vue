<script setup lang="ts">
import type { CalibrationReport } from '@rounds/contract/calibration';
import { GRADE_WORDS } from '@rounds/core/grading';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import { csvOf, saveText } from '../parts/csv';
import DataTable, { type Column } from '../parts/DataTable.vue';
import RangeChart from '../parts/RangeChart.vue';
import StateBox from '../parts/StateBox.vue';
import { day, percent } from '../parts/words';
import { useCalibrationReport } from './queries';
import { points, SCORE_WORDS, SECTION_WORDS } from './words';

/** What a calibration showed: who is milder or more severe, how far they agree, and on what they differ. */
const route = useRoute();
const query = useCalibrationReport(() => String(route.params['id']));
const report = computed<CalibrationReport | null>(() => query.data.value ?? null);
type Evaluator = CalibrationReport['evaluators'][number];
type Criterion = CalibrationReport['criteria'][number];

const two = (value: number | null) => (value === null ? '–' : value.toFixed(2).replace('-', '−'));
const ranged = (interval: { low: number; high: number } | null) =>
  interval ? `${two(interval.low)} to ${two(interval.high)}` : 'no interval';
const chart = computed(() =>
  (report.value?.evaluators ?? []).map((each) => ({
    name: each.name,
    value: each.severity,
    low: each.interval?.low ?? null,
    high: each.interval?.high ?? null,
    n: each.n,
  })),
);
const reach = computed(() => {
  const most = Math.max(
    0.2,
    ...chart.value.flatMap((each) => [Math.abs(each.low ?? 0), Math.abs(each.high ?? 0)]),
  );
  return Math.ceil(10 * most) / 10;
});
const columns: Column<Evaluator>[] = [
  { key: 'name', title: 'Evaluator', text: (row) => row.name },
  { key: 'severity', title: 'Difference from the key', align: 'right' },
  { key: 'exact', title: 'As the key has it', text: (row) => `${row.exact} of ${row.n}`, align: 'right' },
  { key: 'kappa', title: 'Kappa', align: 'right' },
  { key: 'apart', title: 'Apart on' },
];
const apartWords = ({ apart }: Evaluator) =>
  apart
    .map(({ section, severity }) => `${SECTION_WORDS[section].toLowerCase()} (${points(severity)})`)
    .join(', ');
const FORM_WORDS: Readonly<Record<string, string>> = {
  icc11: '1,1: one evaluator, each round scored by others',
  icc21: '2,1: one evaluator, any of these',
  icc31: '3,1: one evaluator, only these',
  icc1k: '1,k: the mean of as many, each round by others',
  icc2k: '2,k: the mean of as many, any of these',
  icc3k: '3,k: the mean of these',
};
const criteriaColumns = computed<Column<Criterion>[]>(() => [
  { key: 'title', title: 'What was scored' },
  { key: 'agreed', title: 'Agreed', text: (row) => percent(row.agreed), align: 'right', width: 90 },
  { key: 'key', title: 'Key', text: (row) => SCORE_WORDS[row.key], width: 100 },
  ...(report.value?.evaluators ?? []).map((each, i) => ({ key: `given-${i}`, title: each.name, width: 120 })),
]);
function save() {
  const { evaluators, criteria, title } = report.value!;
  saveText(
    csvOf(
      ['Part', 'What was scored', 'Key', 'Why', 'Agreed', ...evaluators.map((each) => each.name)],
      criteria.map((each) => [
        SECTION_WORDS[each.section],
        each.title,
        SCORE_WORDS[each.key],
        each.why,
        each.agreed,
        ...each.given.map((score) => (score ? SCORE_WORDS[score] : null)),
      ]),
    ),
    `calibration-${title.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.csv`,
    'text/csv',
  );
}
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="!report && !query.error.value"
      :error="report ? undefined : query.error.value"
      what="the calibration"
      @retry="query.refetch()"
    >
      <template v-if="report">
        <div class="row spread">
          <div>
            <h1>{{ report.title }}</h1>
            <p class="quiet">
              {{ report.classTitle }}, {{ report.criteria.length }} criteria, closed
              {{ day(report.closedAt) }}
            </p>
          </div>
          <Button @click="save">Save as CSV</Button>
        </div>
        <ul class="sheet pad stack told">
          <li v-for="each in report.says" :key="each">{{ each }}</li>
        </ul>
        <section class="stack" aria-label="Mild and severe">
          <h2>
            Mild and severe <span class="quiet">points of 100 given more (+) or less (−) than the key</span>
          </h2>
          <div class="halves">
            <DataTable
              name="Evaluators against the key"
              :columns="columns"
              :rows="report.evaluators"
              :row-key="(row) => row.name"
            >
              <template #name="{ row }">
                <strong>{{ row.name }}</strong>
                <div class="quiet small">{{ row.way === 'in-time' ? 'in time' : 'step by step' }}</div>
              </template>
              <template #severity="{ row }">
                <strong>{{ points(row.severity) }}</strong>
                <div class="quiet small">
                  {{ row.interval ? `${points(row.interval.low)} to ${points(row.interval.high)}` : '' }}
                </div>
              </template>
              <template #kappa="{ row }">
                <strong>{{ two(row.kappa) }}</strong>
                <div class="quiet small">{{ ranged(row.kappaInterval) }}</div>
              </template>
              <template #apart="{ row }">{{ apartWords(row) || 'nothing beyond chance' }}</template>
            </DataTable>
            <div class="sheet pad">
              <RangeChart
                :rows="chart"
                :from="-reach"
                :to="reach"
                :mark="0"
                :words="points"
                title="How much more or less than the key each evaluator gave, with its interval; the table says the same"
              />
            </div>
          </div>
        </section>
        <section class="stack" aria-label="What they differ on">
          <h2>What they differ on <span class="quiet">the least agreed first</span></h2>
          <DataTable
            name="Criteria by agreement"
            :columns="criteriaColumns"
            :rows="report.criteria"
            :row-key="(row) => row.id"
            :page-size="12"
          >
            <template #title="{ row }">
              <strong>{{ row.title }}</strong>
              <div class="quiet small">
                {{ row.grade ? `It is ${GRADE_WORDS[row.grade].toLowerCase()}. ` : '' }}{{ row.why }}
              </div>
            </template>
            <template v-for="(_, i) in report.evaluators" :key="i" #[`given-${i}`]="{ row }">
              <span :class="{ other: row.given[i] !== row.key }">{{
                row.given[i] ? SCORE_WORDS[row.given[i]!] : '–'
              }}</span>
            </template>
          </DataTable>
        </section>
        <section v-if="report.icc" class="sheet pad stack" aria-label="How far they agree">
          <h2>
            How far they agree <span class="quiet">intraclass correlation, all six forms, 95 % interval</span>
          </h2>
          <dl class="forms">
            <div v-for="each in report.icc" :key="each.form">
              <dt>{{ FORM_WORDS[each.form] }}</dt>
              <dd>
                <strong>{{ two(each.value) }}</strong> <span class="quiet">{{ ranged(each.interval) }}</span>
              </dd>
            </div>
          </dl>
        </section>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.told {
  font-size: 1.05rem;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 3fr) minmax(280px, 2fr);
  gap: 1rem;
  align-items: start;
}
.other {
  font-weight: 700;
  text-decoration: underline dotted;
}
.forms {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(340px, 100%), 1fr));
  gap: 0.5rem 1.5rem;
}
.forms div {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  border-bottom: 1px solid var(--line);
  padding: 0.3rem 0;
}
.forms dd {
  white-space: nowrap;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
