<script setup lang="ts">
import { useElementSize, useLocalStorage } from '@vueuse/core';
import { Button, Input, Segmented } from 'ant-design-vue';
import { computed, ref, useTemplateRef, watch } from 'vue';
import { useSession } from '../device/session';
import ChoiceField from '../parts/ChoiceField.vue';
import SeveralField from '../parts/SeveralField.vue';
import StateBox from '../parts/StateBox.vue';
import { cellsOf, cellWords, columnsOf, mostPressing, needsSomebody } from './matrixCells';
import MatrixLines from './MatrixLines.vue';
import { useMatrix } from './queries';
import { amount } from '../parts/words';

/**
 * People x classes as one grid that is walked with the arrow keys. Only the rows in view are in the page; the
 * line underneath says the cell that is chosen.
 */
const COLUMN = 40;
const session = useSession();
const site = ref('');
const team = ref('');
const search = ref('');
const only = ref<'Everybody' | 'Who needs somebody'>('Everybody');
const matrix = useMatrix(() => ({ site: site.value || undefined, team: team.value || undefined }));
// The first people show at once; the others are fetched behind them.
watch(
  () => [matrix.hasNextPage.value, matrix.isLoading.value] as const,
  ([more, busy]) => {
    if (more && !busy) void matrix.loadNextPage();
  },
  { immediate: true },
);
const pages = computed(() => matrix.data.value?.pages ?? []);
const latest = computed(() => pages.value.at(-1) ?? null);
/** Sites and teams to choose from stay while another page is on its way. */
const offered = ref<{ sites: string[]; teams: string[] }>({ sites: [], teams: [] });
watch(latest, (now) => {
  if (now) offered.value = { sites: now.sites, teams: now.teams };
});
const everybody = computed(() => pages.value.flatMap((page) => page.people));
const people = computed(() => {
  const text = search.value.trim().toLowerCase();
  return everybody.value.filter(
    (each) =>
      (!text || each.name.toLowerCase().includes(text)) &&
      (only.value === 'Everybody' || needsSomebody(each)),
  );
});

const frame = ref<HTMLElement | null>(null);
const { width } = useElementSize(frame);
const all = computed(() => columnsOf(latest.value?.classes ?? [], everybody.value));
const kept = useLocalStorage<string[]>('rounds-matrix-classes', []);
const nameWidth = computed(() => (width.value < 500 ? 132 : 190));
const room = computed(() => Math.max(3, Math.floor((width.value - nameWidth.value) / COLUMN)));
const columns = computed(() => {
  const chosen = all.value.filter((each) => kept.value.includes(each.id));
  if (chosen.length > 0) return chosen;
  return width.value > 0 && width.value < 700 ? mostPressing(all.value, room.value) : all.value;
});
const template = computed(
  () => `${nameWidth.value}px repeat(${columns.value.length}, minmax(${COLUMN}px, 1fr))`,
);

const narrowest = computed(() => nameWidth.value + columns.value.length * COLUMN);
/** The names stay in view only where there is something to scroll beside them. */
const sideways = computed(() => narrowest.value > width.value);

/** The cell that is chosen: column 0 is the name. */
const at = ref({ row: 0, column: 0 });
const chosen = computed(() => {
  const person = people.value[at.value.row];
  const column = columns.value[at.value.column - 1];
  if (!person) return null;
  return { person, column, cell: column ? cellsOf(person).get(column.index) : undefined };
});
const lines = useTemplateRef('lines');
watch([people, columns], () => (at.value = { row: 0, column: 0 }));
const choices = (values: readonly string[] | undefined) =>
  (values ?? []).map((value) => ({ value, label: value }));
</script>

<template>
  <div class="screen stack full">
    <div class="row spread">
      <h1>
        Standing matrix
        <span v-if="latest" class="quiet"
          >{{ amount(people.length, 'person', 'people') }}, {{ columns.length
          }}{{ columns.length < all.length ? ` of ${all.length}` : '' }} classes{{
            matrix.hasNextPage.value ? `, fetching the rest of ${latest.total}` : ''
          }}</span
        >
      </h1>
      <Segmented v-model:value="only" :options="['Everybody', 'Who needs somebody']" aria-label="Show" />
    </div>
    <form class="filters" role="search" @submit.prevent>
      <Input
        v-model:value="search"
        type="search"
        allow-clear
        class="search"
        placeholder="Find a person"
        aria-label="Find a person"
      />
      <ChoiceField
        v-model:value="site"
        label="Site"
        placeholder="All sites"
        clearable
        :options="choices(offered.sites)"
      />
      <ChoiceField
        v-model:value="team"
        label="Team"
        placeholder="All teams"
        clearable
        :options="choices(offered.teams)"
      />
      <SeveralField
        v-model:value="kept"
        label="Classes shown"
        placeholder="Classes: all that fit"
        :options="all.map((each) => ({ value: each.id, label: each.title }))"
      />
    </form>
    <StateBox
      :loading="!latest"
      :error="latest ? undefined : matrix.error.value"
      :empty="people.length === 0"
      what="the matrix"
      :lines="12"
      @retry="matrix.refetch()"
    >
      <template #empty>
        <h2>Nobody to show</h2>
        <p>Import people first, or clear the filters.</p>
      </template>
      <div
        ref="frame"
        class="sheet frame"
        role="grid"
        aria-label="Standing of people in classes"
        :aria-rowcount="people.length + 1"
        :aria-colcount="columns.length + 1"
        @keydown="lines?.walk($event)"
      >
        <div role="row" aria-rowindex="1" class="line head" :style="{ gridTemplateColumns: template }">
          <div role="columnheader" class="name">Person</div>
          <div v-for="each in columns" :key="each.id" role="columnheader" class="class">
            <RouterLink :to="`/classes/${each.id}`" tabindex="-1">{{ each.title }}</RouterLink>
          </div>
        </div>
        <MatrixLines
          ref="lines"
          v-model:at="at"
          :people="people"
          :columns="columns"
          :frame="frame"
          :template="template"
          :sideways="sideways"
          :style="{ minWidth: `${narrowest}px` }"
        />
      </div>
      <div v-if="chosen" class="sheet told" role="status">
        <span
          ><strong>{{ chosen.person.name }}</strong
          ><template v-if="chosen.column">, {{ chosen.column.title }}: {{ cellWords(chosen.cell) }}</template
          ><span v-else class="quiet">{{ ` ${chosen.person.team}, ${chosen.person.site}` }}</span></span
        >
        <span class="row">
          <RouterLink v-slot="{ navigate, href }" :to="`/people/${chosen.person.id}`" custom
            ><Button size="small" :href="href" @click="navigate">Open the record</Button></RouterLink
          >
          <RouterLink
            v-if="session.is('trainer', 'administrator')"
            v-slot="{ navigate, href }"
            :to="{
              path: '/assess/new',
              query: { person: chosen.person.id, ...(chosen.column ? { class: chosen.column.id } : {}) },
            }"
            custom
            ><Button size="small" type="primary" :href="href" @click="navigate">Evaluate</Button></RouterLink
          >
        </span>
      </div>
    </StateBox>
  </div>
</template>

<style scoped>
.full {
  max-width: none;
}
.filters {
  display: grid;
  grid-template-columns: minmax(180px, 2fr) 1fr 1fr minmax(200px, 2fr);
  gap: 0.6rem;
}
.frame {
  overflow: auto;
  height: calc(100vh - 292px);
  min-height: 320px;
  position: relative;
  contain: strict;
  overflow-anchor: none;
}
.line {
  display: grid;
}
.head {
  position: sticky;
  top: 0;
  z-index: 2;
  background: var(--sheet);
  border-bottom: 2px solid var(--ink);
  height: 148px;
  align-items: end;
}
.class {
  font-size: 0.84rem;
  line-height: 1.05;
  height: 146px;
  display: grid;
  justify-items: center;
  align-items: end;
  padding-bottom: 0.35rem;
  background: var(--sheet);
}
.class a {
  writing-mode: vertical-rl;
  transform: rotate(180deg);
  max-height: 140px;
  color: var(--ink);
  text-decoration: none;
}
.head .name {
  position: sticky;
  left: 0;
  z-index: 1;
  background: var(--sheet);
  border-right: 1px solid var(--line);
  padding-inline: 0.6rem;
  display: flex;
  height: 146px;
  align-items: end;
  font-weight: 700;
  padding-bottom: 0.35rem;
}
.told {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  align-items: center;
  gap: 0.4rem 1rem;
  padding: 0.4rem 0.9rem;
}
@media (max-width: 760px) {
  .filters {
    grid-template-columns: 1fr 1fr;
  }
  .filters > :first-child,
  .filters > :last-child {
    grid-column: 1 / -1;
  }
  .frame {
    height: calc(100vh - 420px);
  }
}
</style>
