<script setup lang="ts">
import { DownloadOutlined, PlusOutlined, UploadOutlined } from '@ant-design/icons-vue';
import { peopleRoutes } from '@rounds/contract/people';
import { GRAVEST_FIRST, type StandingStatus, STATUS_WORDS } from '@rounds/core/certification';
import { refDebounced } from '@vueuse/core';
import { Button, Input, Popover } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { fileAddress } from '../device/api';
import { useSession } from '../device/session';
import TimeArc from '../drawing/TimeArc.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import DataTable, { type Column, type Place } from '../parts/DataTable.vue';
import { useClasses } from '../parts/queries';
import { shareLeft } from '../parts/standing';
import StateBox from '../parts/StateBox.vue';
import { useAddressQuery } from '../parts/useAddressQuery';
import { day } from '../parts/words';
import AddPerson from './AddPerson.vue';
import { type RosterAsked, type RosterRow, useRoster } from './queries';
import { gravestOf, soonestEnd } from './standingsOf';

/** The roster: who is on it, how they stand, ordered and narrowed by the server. */
const PAGE = 25;
const session = useSession();
const route = useRoute();
const write = useAddressQuery();
const { title, list: classes } = useClasses();
const text = (value: unknown) => (typeof value === 'string' ? value : '');

const search = ref(text(route.query['search']));
const settled = refDebounced(search, 200);
const site = ref(text(route.query['site']));
const team = ref(text(route.query['team']));
const status = ref(text(route.query['status']) as StandingStatus | '');
const classId = ref(text(route.query['class']));
const place = ref<Place>({
  page: Number(route.query['page']) || 1,
  sort: text(route.query['sort']) || undefined,
  order: route.query['order'] === 'descending' ? 'descending' : undefined,
});
watch([settled, site, team, status, classId], () => (place.value = { ...place.value, page: 1 }));
const asked = computed<RosterAsked>(() => ({
  search: settled.value,
  site: site.value || undefined,
  team: team.value || undefined,
  status: status.value || undefined,
  classId: classId.value || undefined,
  page: place.value.page,
  sort: place.value.sort as RosterAsked['sort'],
  order: place.value.order,
  limit: PAGE,
}));
// The address says what is shown, so that it can be kept, sent and come back to.
watch(asked, () => {
  const named = {
    search: settled.value,
    site: site.value,
    team: team.value,
    status: status.value,
    class: classId.value,
    page: place.value.page > 1 ? String(place.value.page) : '',
    sort: place.value.sort ?? '',
    order: place.value.order === 'descending' ? 'descending' : '',
  };
  const given = Object.entries(named).filter(([, value]) => value !== '');
  write(Object.fromEntries(given));
});
const roster = useRoster(() => asked.value);
const rows = computed(() => roster.data.value?.rows ?? []);
const narrowed = computed(() =>
  Boolean(settled.value || site.value || team.value || status.value || classId.value),
);
const adding = ref(false);

const columns: Column<RosterRow>[] = [
  { key: 'name', title: 'Name', sorts: true, fixed: true },
  { key: 'payroll', title: 'Payroll', sorts: true, text: (row) => row.person.payroll },
  { key: 'team', title: 'Team', sorts: true, text: (row) => row.person.team },
  { key: 'site', title: 'Site', sorts: true, text: (row) => row.person.site },
  { key: 'standing', title: 'Standing', sorts: true, fixed: true },
  { key: 'until', title: 'Soonest end', sorts: true, text: (row) => day(soonestEnd(row.standings)) },
  { key: 'email', title: 'E-mail', hidden: true, text: (row) => row.person.email ?? '' },
  { key: 'started', title: 'Since', hidden: true, text: (row) => day(row.person.started) },
];
const choices = (values: readonly string[] | undefined) =>
  (values ?? []).map((value) => ({ value, label: value }));
const standings = GRAVEST_FIRST.map((value) => ({ value, label: STATUS_WORDS[value] }));
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>
        People <span v-if="roster.data.value" class="quiet">{{ roster.data.value.total }}</span>
      </h1>
      <div class="row">
        <Button :href="fileAddress(peopleRoutes.exportPeople)" download
          ><template #icon><DownloadOutlined /></template>Export CSV</Button
        >
        <template v-if="session.is('trainer', 'administrator')">
          <RouterLink v-slot="{ navigate, href }" to="/people/import" custom
            ><Button :href="href" @click="navigate"
              ><template #icon><UploadOutlined /></template>Import CSV</Button
            ></RouterLink
          >
          <Button type="primary" @click="adding = true"
            ><template #icon><PlusOutlined /></template>Add a person</Button
          >
        </template>
      </div>
    </div>
    <form class="filters" role="search" @submit.prevent>
      <Input
        v-model:value="search"
        type="search"
        class="search"
        :maxlength="100"
        allow-clear
        placeholder="Name or payroll number"
        aria-label="Search by name or payroll number"
      />
      <ChoiceField
        v-model:value="status"
        label="Standing"
        placeholder="Any standing"
        clearable
        :options="standings"
      >
        <template #option="{ value, label }">
          <TimeArc :status="value" :share="value === 'valid' ? 0.8 : value === 'due' ? 0.12 : null" />
          {{ label }}
        </template>
      </ChoiceField>
      <ChoiceField
        v-model:value="classId"
        label="Class"
        placeholder="Any class"
        clearable
        :options="classes.map((each) => ({ value: each.id, label: each.title }))"
      />
      <ChoiceField
        v-model:value="site"
        label="Site"
        placeholder="All sites"
        clearable
        :options="choices(roster.data.value?.sites)"
      />
      <ChoiceField
        v-model:value="team"
        label="Team"
        placeholder="All teams"
        clearable
        :options="choices(roster.data.value?.teams)"
      />
    </form>
    <StateBox
      :loading="!roster.data.value"
      :error="roster.data.value ? undefined : roster.error.value"
      :empty="rows.length === 0"
      what="the roster"
      :lines="12"
      @retry="roster.refetch()"
    >
      <template #empty>
        <h2>{{ narrowed ? 'Nobody matches' : 'The roster is empty' }}</h2>
        <p v-if="narrowed">Clear the search or the filters.</p>
        <p v-else>Import your people from a CSV file, or add the first by hand.</p>
      </template>
      <DataTable
        v-model:place="place"
        name="Roster"
        choose
        :rows="rows"
        :columns="columns"
        :row-key="(row) => row.person.id"
        :total="roster.data.value?.total ?? 0"
        :page-size="PAGE"
      >
        <template #name="{ row }">
          <RouterLink :to="`/people/${row.person.id}`"
            ><strong>{{ row.person.familyName }}</strong
            >, {{ row.person.givenName }}</RouterLink
          >
        </template>
        <template #standing="{ row }">
          <Popover v-if="row.standings.length" :trigger="['hover', 'click', 'focus']" placement="left">
            <template #content>
              <ul class="held">
                <li v-for="each in row.standings" :key="each.classId">
                  <strong>{{ title(each.classId) }}</strong> {{ each.standing.sentence }}
                </li>
              </ul>
            </template>
            <Button type="text" class="arcs">
              <TimeArc
                v-for="each in row.standings"
                :key="each.classId"
                :status="each.standing.status"
                :share="shareLeft(each.standing)"
                :label="`${title(each.classId)}: ${STATUS_WORDS[each.standing.status]}`"
              />
              <span v-if="gravestOf(row.standings)" class="gravest">{{
                STATUS_WORDS[gravestOf(row.standings)!].toLowerCase()
              }}</span>
            </Button>
          </Popover>
          <span v-else class="quiet">nothing on record</span>
        </template>
      </DataTable>
    </StateBox>
    <AddPerson
      v-model:open="adding"
      :sites="roster.data.value?.sites ?? []"
      :teams="roster.data.value?.teams ?? []"
    />
  </div>
</template>

<style scoped>
.filters {
  display: grid;
  grid-template-columns: minmax(200px, 2fr) repeat(4, minmax(130px, 1fr));
  gap: 0.6rem;
}
.arcs {
  height: auto;
  min-height: 34px;
  display: inline-flex;
  align-items: center;
  gap: 0.2rem;
  padding: 0 0.3rem;
  margin-left: -0.3rem;
}
.gravest {
  margin-left: 0.4rem;
  font-weight: 400;
}
.held {
  display: grid;
  gap: 0.35rem;
  max-width: 30rem;
}
@media (max-width: 900px) {
  .filters {
    grid-template-columns: 1fr 1fr;
  }
  .search {
    grid-column: 1 / -1;
  }
}
</style>
