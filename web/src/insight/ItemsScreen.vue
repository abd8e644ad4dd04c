<script setup lang="ts">
import type { ScrutinisedItemView } from '@rounds/contract/insight';
import { Button, Segmented } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import ChoiceField from '../parts/ChoiceField.vue';
import { csvOf, saveText } from '../parts/csv';
import DataTable, { type Column } from '../parts/DataTable.vue';
import StateBox from '../parts/StateBox.vue';
import { useAddressQuery } from '../parts/useAddressQuery';
import { amount, day, percent } from '../parts/words';
import { useScrutiny } from './queries';
import ReviewItem from './ReviewItem.vue';

/** Keys that good people fail are probably bad keys: how every item of a class does, and what reviews decided. */
const route = useRoute();
const address = useAddressQuery();
const SHOW = [
  { value: 'flagged', label: 'To review' },
  { value: 'reviewed', label: 'Reviewed' },
  { value: 'all', label: 'All' },
];
const asked = ref(String(route.query['class'] ?? ''));
const show = ref(SHOW.find((each) => each.value === route.query['show'])?.value ?? 'flagged');
watch([asked, show], () => address({ class: asked.value || undefined, show: show.value }));
const query = useScrutiny(() => asked.value);
const found = computed(() => query.data.value ?? null);
const classId = computed({
  get: () => found.value?.classId ?? '',
  set: (now) => (asked.value = now),
});
type State = ScrutinisedItemView['state'];
const STATE_WORDS: Readonly<Record<State, string>> = {
  unflagged: 'Nothing to see',
  'to-review': 'To review',
  kept: 'Kept',
  'to-change': 'To be changed',
  changed: 'Changed',
  retired: 'Left out',
};
const rows = computed(() =>
  (found.value?.items ?? []).filter(
    ({ state, reviews }) =>
      show.value === 'all' ||
      (show.value === 'reviewed' ? reviews.length > 0 : state === 'to-review' || state === 'to-change'),
  ),
);
const reviewing = ref<ScrutinisedItemView | null>(null);
const two = (value: number | null) => (value === null ? '–' : value.toFixed(2).replace('-', '−'));
const between = (interval: { low: number; high: number } | null) =>
  interval ? `${two(interval.low)} to ${two(interval.high)}` : '';
const columns: Column<ScrutinisedItemView>[] = [
  { key: 'words', title: 'Item' },
  {
    key: 'difficulty',
    title: 'Right',
    align: 'right',
    width: 130,
    sorts: (a, b) => a.difficulty - b.difficulty,
  },
  {
    key: 'discrimination',
    title: 'Tells good from others',
    align: 'right',
    width: 150,
    sorts: (a, b) => (a.discrimination ?? 2) - (b.discrimination ?? 2),
  },
  {
    key: 'alpha',
    title: 'Alpha without it',
    text: (row) => two(row.alphaIfDropped),
    align: 'right',
    width: 110,
  },
  { key: 'state', title: 'Stands', width: 150 },
];
const DECIDED = { keep: 'kept', change: 'to be changed', retire: 'left out' } as const;
function save() {
  const { classId: id } = found.value!;
  saveText(
    csvOf(
      [
        'Item',
        'Right',
        'People',
        'Difficulty',
        'Low (95 %)',
        'High (95 %)',
        'Discrimination',
        'Low (95 %)',
        'High (95 %)',
        'Alpha without it',
        'Stands',
        'In words',
      ],
      found.value!.items.map((each) => [
        each.words,
        each.right,
        each.people,
        each.difficulty,
        each.difficultyInterval.low,
        each.difficultyInterval.high,
        each.discrimination,
        each.discriminationInterval?.low ?? null,
        each.discriminationInterval?.high ?? null,
        each.alphaIfDropped,
        STATE_WORDS[each.state],
        each.says,
      ]),
    ),
    `items-${id}.csv`,
    'text/csv',
  );
}
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>Keys under scrutiny</h1>
      <Button v-if="found?.items.length" @click="save">Save as CSV</Button>
    </div>
    <p class="quiet lead">
      Where those who are good at the rest fail an item more often than the others, or nearly all fail it,
      look at the key before blaming people. Nothing is judged below {{ found?.least ?? 10 }} people.
    </p>
    <StateBox
      :loading="!found && !query.error.value"
      :error="found ? undefined : query.error.value"
      :empty="found?.classId === null"
      what="the items"
      :lines="8"
      @retry="query.refetch()"
    >
      <template #empty>
        <h2>Nothing was practised yet</h2>
        <p>Items come from drills, benches, class exercises and practices of start and stop.</p>
      </template>
      <template v-if="found">
        <form class="filters" role="search" aria-label="Which items" @submit.prevent>
          <ChoiceField
            v-model:value="classId"
            label="Class"
            :options="
              found.classes.map((each) => ({
                value: each.id,
                label: each.title,
                more: `${amount(each.people, 'person', 'people')}${each.toReview ? `, ${each.toReview} to review` : ''}`,
              }))
            "
          />
          <Segmented v-model:value="show" :options="SHOW" aria-label="Which are shown" />
          <span v-if="found.scale" class="quiet"
            >Alpha of the {{ found.scale.items }} items that at least {{ found.scale.people }} people answered
            together: {{ two(found.scale.alpha) }} ({{ between(found.scale.interval) }})</span
          >
        </form>
        <DataTable
          v-if="rows.length"
          name="Items under scrutiny"
          :columns="columns"
          :rows="rows"
          :row-key="(row) => row.item"
          :page-size="15"
        >
          <template #words="{ row }">
            <strong>{{ row.words }}</strong>
            <div class="quiet">{{ row.says }}</div>
            <ul v-if="row.reviews.length" class="reviews">
              <li v-for="each in row.reviews" :key="each.id">
                {{ day(each.at) }}, {{ each.by }}: {{ DECIDED[each.decision]
                }}<template v-if="each.revision">, revision {{ each.revision }} reads otherwise</template>.
                “{{ each.reason }}”
              </li>
            </ul>
          </template>
          <template #difficulty="{ row }">
            <template v-if="row.people">
              <strong>{{ percent(row.difficulty) }}</strong>
              <div class="quiet small">{{ row.right }} of {{ row.people }}</div>
              <div class="quiet small">
                {{ percent(row.difficultyInterval.low) }} to {{ percent(row.difficultyInterval.high) }}
              </div>
            </template>
          </template>
          <template #discrimination="{ row }">
            <strong>{{ two(row.discrimination) }}</strong>
            <div class="quiet small">{{ between(row.discriminationInterval) }}</div>
          </template>
          <template #state="{ row }">
            <span :class="{ 'needs-you': row.state === 'to-review' || row.state === 'to-change' }">{{
              STATE_WORDS[row.state]
            }}</span>
            <div class="acts">
              <Button @click="reviewing = row"
                >Review<span class="visually-hidden">: {{ row.words }}</span></Button
              >
              <RouterLink :to="{ path: `/classes/${found!.classId}/edit`, query: { row: row.row } }"
                >Editor<span class="visually-hidden">: {{ row.words }}</span></RouterLink
              >
            </div>
          </template>
        </DataTable>
        <p v-else class="sheet pad">
          {{
            show === 'reviewed'
              ? 'No item of this class has been reviewed yet.'
              : show === 'flagged'
                ? 'No item of this class stands out. All shows how each does.'
                : 'Nothing of this class was practised yet.'
          }}
        </p>
        <ReviewItem
          :item="reviewing"
          :class-id="found.classId ?? ''"
          @close="reviewing = null"
          @done="reviewing = null"
        />
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
  margin-bottom: 0.75rem;
}
.filters :deep(.ant-select) {
  width: 340px;
}
.reviews {
  margin-top: 0.35rem;
  border-left: 3px solid var(--line);
  padding-left: 0.6rem;
}
.acts {
  display: flex;
  align-items: center;
  gap: 0.75rem;
  margin-top: 0.4rem;
}
</style>
