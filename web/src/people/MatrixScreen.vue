<script setup lang="ts">
import { STATUS_WORDS } from '@rounds/core/certification';
import { routes, type RouteAnswer } from '@rounds/contract';
import type { StandingStatus } from '@rounds/core/certification';
import { computed, onMounted, ref, watch } from 'vue';
import StateBox from '../parts/StateBox.vue';
import TimeArc from '../drawing/TimeArc.vue';
import { call } from '../device/api';

/**
 * People x classes. Only the rows in view are in the page, so that a thousand people scroll as lightly as
 * twenty.
 */
type Matrix = RouteAnswer<typeof routes.matrix>;
const ROW = 50;
const data = ref<Matrix | null>(null);
const error = ref<unknown>(null);
const site = ref('');
const team = ref('');
const search = ref('');
const only = ref<'all' | 'attention'>('all');
const frame = ref<HTMLElement | null>(null);
const top = ref(0);
const height = ref(700);

/** Raised with each new question: an answer to an earlier one is thrown away. */
let asked = 0;
const fetching = ref(false);

async function page(cursor: string | undefined, question: number): Promise<Matrix | null> {
  const answer = await call(routes.matrix, {
    query: { site: site.value || undefined, team: team.value || undefined, cursor },
  });
  return question === asked ? answer : null;
}

/** Shows the first people at once and fetches the others behind them. */
async function load() {
  const question = (asked += 1);
  error.value = null;
  fetching.value = true;
  try {
    let answer = await page(undefined, question);
    if (!answer) return;
    data.value = answer;
    while (answer.next !== null) {
      const more = await page(answer.next, question);
      if (!more) return;
      data.value = { ...more, people: [...data.value.people, ...more.people] };
      answer = more;
    }
  } catch (problem) {
    if (question === asked) error.value = problem;
  } finally {
    if (question === asked) fetching.value = false;
  }
}
onMounted(load);
watch([site, team], load);
watch(frame, (el) => {
  if (el) height.value = el.clientHeight;
});

const ATTENTION = new Set(['due', 'in-grace', 'lapsed', 'suspended']);
const people = computed(() => {
  const text = search.value.trim().toLowerCase();
  return (data.value?.people ?? []).filter(
    (each) =>
      (!text || each.name.toLowerCase().includes(text)) &&
      (only.value === 'all' || each.cells.some((cell) => ATTENTION.has(cell[1]))),
  );
});
/** Classes that anybody stands in, the most held first. */
const columns = computed(() => {
  const used = new Set((data.value?.people ?? []).flatMap((each) => each.cells.map((cell) => cell[0])));
  const weight = (index: number) =>
    data.value!.people.filter((each) => each.cells.some((cell) => cell[0] === index)).length;
  return (data.value?.classes ?? [])
    .map((each, index) => ({ ...each, index }))
    .filter((each) => used.has(each.index))
    .map((each) => ({ ...each, weight: weight(each.index) }))
    .sort((a, b) => b.weight - a.weight);
});
const first = computed(() => Math.max(0, Math.floor(top.value / ROW) - 6));
const shown = computed(() =>
  people.value
    .slice(first.value, first.value + Math.ceil(height.value / ROW) + 14)
    .map((each) => ({ ...each, byClass: new Map(each.cells.map((cell) => [cell[0], cell])) })),
);
const words = (cell: Matrix['people'][number]['cells'][number]) =>
  `${STATUS_WORDS[cell[1] as StandingStatus]}${cell[2] === null ? '' : cell[2] >= 0 ? `, ${cell[2]} days left` : `, ended ${-cell[2]} days ago`}`;
const brief = (cell: Matrix['people'][number]['cells'][number]) =>
  cell[1] === 'valid' || cell[1] === 'due'
    ? cell[2]! > 99
      ? `${Math.round(cell[2]! / 30.4)} mo`
      : `${cell[2]} d`
    : ((
        { suspended: 'susp.', 'in-training': 'train.', 'in-grace': 'grace', withdrawn: 'withdr.' } as Record<
          string,
          string
        >
      )[cell[1]] ?? STATUS_WORDS[cell[1] as StandingStatus].toLowerCase());
</script>

<template>
  <div class="screen stack full">
    <div class="row spread">
      <h1>
        Standing matrix
        <span v-if="data" class="quiet"
          >{{ people.length }} people, {{ columns.length }} classes{{
            fetching ? `, fetching the rest of ${data.total}` : ''
          }}</span
        >
      </h1>
      <div class="row legend" aria-label="Signs">
        <span v-for="status in ['valid', 'due', 'lapsed', 'suspended', 'in-training'] as const" :key="status"
          ><TimeArc :status="status" :share="status === 'valid' ? 0.8 : 0.1" />
          {{ STATUS_WORDS[status] }}</span
        >
      </div>
    </div>
    <form class="row" @submit.prevent>
      <label class="field grow">Find a person <input v-model="search" type="search" class="plain" /></label>
      <label class="field"
        >Site
        <select v-model="site" class="plain">
          <option value="">All sites</option>
          <option v-for="each in data?.sites" :key="each">{{ each }}</option>
        </select></label
      >
      <label class="field"
        >Team
        <select v-model="team" class="plain">
          <option value="">All teams</option>
          <option v-for="each in data?.teams" :key="each">{{ each }}</option>
        </select></label
      >
      <label class="field"
        >Show
        <select v-model="only" class="plain">
          <option value="all">Everybody</option>
          <option value="attention">Who needs attention</option>
        </select></label
      >
    </form>
    <StateBox :loading="!data" :error="error" :empty="people.length === 0" what="the matrix" @retry="load">
      <template #empty
        ><h2>Nobody to show</h2>
        <p>Import people first, or clear the filters.</p></template
      >
      <div
        ref="frame"
        class="sheet frame"
        tabindex="0"
        role="region"
        aria-label="Standing of people in classes"
        @scroll="top = ($event.target as HTMLElement).scrollTop"
      >
        <table :aria-rowcount="people.length + 1">
          <thead>
            <tr>
              <th scope="col" class="name">Person</th>
              <th v-for="each in columns" :key="each.id" scope="col" class="class">
                <div>
                  <RouterLink :to="`/classes/${each.id}`">{{ each.title }}</RouterLink>
                </div>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-if="first > 0" aria-hidden="true">
              <td :style="{ height: `${first * ROW}px` }" :colspan="columns.length + 1"></td>
            </tr>
            <tr v-for="(each, i) in shown" :key="each.id" :aria-rowindex="first + i + 2">
              <th scope="row" class="name">
                <RouterLink :to="`/people/${each.id}`">{{ each.name }}</RouterLink>
              </th>
              <td
                v-for="column in columns"
                :key="column.id"
                :title="
                  each.byClass.get(column.index)
                    ? `${each.name}, ${column.title}: ${words(each.byClass.get(column.index)!)}`
                    : undefined
                "
              >
                <template v-if="each.byClass.get(column.index)">
                  <TimeArc
                    :status="each.byClass.get(column.index)![1] as StandingStatus"
                    :share="
                      (each.byClass.get(column.index)![2] ?? 0) / (each.byClass.get(column.index)![4] ?? 1)
                    "
                    :size="22"
                  />
                  <span class="brief" :class="each.byClass.get(column.index)![1]">{{
                    brief(each.byClass.get(column.index)!)
                  }}</span>
                </template>
              </td>
            </tr>
            <tr v-if="first + shown.length < people.length" aria-hidden="true">
              <td
                :style="{ height: `${(people.length - first - shown.length) * ROW}px` }"
                :colspan="columns.length + 1"
              ></td>
            </tr>
          </tbody>
        </table>
      </div>
    </StateBox>
  </div>
</template>

<style scoped>
.full {
  max-width: none;
}
.legend {
  font-size: 0.9rem;
  gap: 1rem;
}
.frame {
  overflow: auto;
  height: calc(100vh - 250px);
  min-height: 320px;
}
thead th {
  position: sticky;
  top: 0;
  background: var(--sheet);
  z-index: 2;
  border-bottom: 2px solid var(--ink);
  vertical-align: bottom;
}
.class {
  height: 150px;
  min-width: 40px;
  padding: 0.3rem 0;
  font-size: 0.82rem;
  line-height: 1.05;
}
.class div {
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  max-height: 146px;
  margin: 0 auto;
  width: fit-content;
}
.name {
  position: sticky;
  left: 0;
  background: var(--sheet);
  z-index: 1;
  min-width: 180px;
  padding: 0 0.75rem;
  white-space: nowrap;
  font-weight: 400;
  border-right: 1px solid var(--line);
}
thead .name {
  z-index: 3;
  font-weight: 700;
  padding-bottom: 0.4rem;
}
tbody tr {
  height: 50px;
}
tbody td {
  padding: 0 1px;
  border-bottom: 1px solid var(--line);
  white-space: nowrap;
  font-size: 0.69rem;
  text-align: center;
  line-height: 1.1;
}
tbody th {
  border-bottom: 1px solid var(--line);
}
.brief {
  display: block;
}
.lapsed,
.suspended,
.withdrawn {
  color: var(--crimson);
  font-weight: 700;
}
.due,
.in-grace {
  font-weight: 700;
}
</style>
