<script setup lang="ts">
import type { ShareRow } from '@rounds/contract/insight';
import { LEAST_COUNTED } from '@rounds/core/insight';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import { csvOf, saveText } from '../parts/csv';
import DataTable, { type Column } from '../parts/DataTable.vue';
import RangeChart from '../parts/RangeChart.vue';
import { percent } from '../parts/words';
import TrendChart from './TrendChart.vue';

/** Shares as a table, the same as a picture beside it, and as a file. */
const props = defineProps<{
  rows: readonly ShareRow[];
  /** What the table holds, for readers and as the name of the file. */
  name: string;
  /** What a row is. */
  of: string;
  /** What is counted, as the head of the shares. */
  counted: string;
  overTime?: boolean;
  /** A row is a person. */
  ofPeople?: boolean;
}>();
defineSlots<{ name?: (slot: { row: ShareRow }) => unknown }>();
/** As many rows on a page as the picture has. */
const PAGE = 8;
const columns = computed<Column<ShareRow>[]>(() => [
  { key: 'name', title: props.of },
  { key: 'share', title: props.counted, align: 'right', width: 150 },
  { key: 'n', title: 'Of', text: (row) => `${row.count} of ${row.n}`, align: 'right', width: 110 },
  ...(props.ofPeople
    ? []
    : [
        {
          key: 'people',
          title: 'People',
          text: (row: ShareRow) => String(row.people),
          align: 'right',
          width: 90,
        } as const,
      ]),
]);
const charted = computed(() => props.rows.slice(0, PAGE).map((each) => ({ ...each, value: each.share })));
/** The axis ends a little above what there is, at a whole tenth. */
const reach = computed(() =>
  Math.min(1, Math.ceil(10 * Math.max(0.1, ...charted.value.map((each) => each.high))) / 10),
);
const file = computed(() => props.name.toLowerCase().replace(/[^a-z0-9]+/g, '-'));
function save() {
  saveText(
    csvOf(
      [props.of, 'Count', 'Of', 'People', 'Share', 'Low (95 %)', 'High (95 %)', 'In words'],
      props.rows.map(({ name, count, n, people, share, low, high, says }) => [
        name,
        count,
        n,
        people,
        share,
        low,
        high,
        says,
      ]),
    ),
    `${file.value}.csv`,
    'text/csv',
  );
}
</script>

<template>
  <div v-if="rows.length" class="halves">
    <DataTable
      :name="name"
      :columns="columns"
      :rows="rows"
      :row-key="(row) => row.key"
      :page-size="overTime ? 24 : PAGE"
    >
      <template #above
        ><Button class="save" :aria-label="`Save as CSV: ${name}`" @click="save"
          >Save as CSV</Button
        ></template
      >
      <template #name="{ row }">
        <slot name="name" :row="row"
          ><strong>{{ row.name }}</strong></slot
        >
      </template>
      <template #share="{ row }">
        <strong>{{ percent(row.share) }}</strong>
        <div class="quiet small">
          {{ row.n < LEAST_COUNTED ? 'too few to judge' : `${percent(row.low)} to ${percent(row.high)}` }}
        </div>
      </template>
    </DataTable>
    <figure class="sheet pad">
      <TrendChart
        v-if="overTime"
        :rows="rows"
        :title="`${name}; the table says the same`"
        :least="LEAST_COUNTED"
      />
      <RangeChart
        v-else
        :rows="charted"
        :from="0"
        :to="reach"
        :words="percent"
        :least="LEAST_COUNTED"
        :title="`${name}; the table says the same`"
      />
      <figcaption class="quiet small">
        Dot: the share. Line: what chance leaves open (95 %). Hollow: too few to judge.<template
          v-if="!overTime && rows.length > charted.length"
        >
          The first {{ charted.length }} of {{ rows.length }}.</template
        >
      </figcaption>
    </figure>
  </div>
  <p v-else class="sheet pad">Nothing of this kind is on record for these months.</p>
</template>

<style scoped>
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(280px, 1fr);
  gap: 1rem;
  align-items: start;
}
.save {
  margin: 0.25rem;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
