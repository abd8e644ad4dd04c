<script setup lang="ts">
import { STATUS_WORDS } from '@rounds/core/certification';
import { routes, type RouteAnswer } from '@rounds/contract';
import { Button } from 'ant-design-vue';
import { onMounted, ref, watch } from 'vue';
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router';
import StateBox from '../parts/StateBox.vue';
import TimeArc from '../drawing/TimeArc.vue';
import { call, fileAddress } from '../device/api';
import { useSession } from '../device/session';

import AddPerson from './AddPerson.vue';

type Page = RouteAnswer<typeof routes.people>;
const session = useSession();
const route = useRoute();
const router = useRouter();
const text = (value: unknown) => (typeof value === 'string' ? value : '');
const search = ref(text(route.query['search']));
const site = ref(text(route.query['site']));
const team = ref(text(route.query['team']));
const page = ref<Page | null>(null);
const rows = ref<Page['rows']>([]);
const error = ref<unknown>(null);
const loading = ref(true);
const adding = ref(false);
const titles = ref(new Map<string, string>());
let turn = 0;

async function load(more = false) {
  const mine = ++turn;
  loading.value = !more;
  error.value = null;
  try {
    const next = await call(routes.people, {
      query: {
        search: search.value || undefined,
        site: site.value || undefined,
        team: team.value || undefined,
        ...(more && page.value?.next ? { cursor: page.value.next } : {}),
      },
    });
    if (mine !== turn) return;
    page.value = next;
    rows.value = more ? [...rows.value, ...next.rows] : next.rows;
  } catch (problem) {
    if (mine === turn) error.value = problem;
  } finally {
    if (mine === turn) loading.value = false;
  }
}
onMounted(async () => {
  await load();
  try {
    titles.value = new Map((await call(routes.classes, {})).classes.map((each) => [each.id, each.title]));
  } catch {
    titles.value = new Map();
  }
});
let typing: ReturnType<typeof setTimeout> | undefined;
// A search still waiting to reach the address must not undo a step to another screen.
onBeforeRouteLeave(() => clearTimeout(typing));
watch([search, site, team], () => {
  clearTimeout(typing);
  typing = setTimeout(() => {
    void router.replace({
      query: {
        ...(search.value ? { search: search.value } : {}),
        ...(site.value ? { site: site.value } : {}),
        ...(team.value ? { team: team.value } : {}),
      },
    });
    void load();
  }, 200);
});
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>
        People <span v-if="page" class="quiet">{{ page.total }}</span>
      </h1>
      <div class="row">
        <a :href="fileAddress(routes.exportPeople)" download><Button>Export CSV</Button></a>
        <template v-if="session.is('trainer', 'administrator')">
          <RouterLink to="/people/import"><Button>Import CSV</Button></RouterLink>
          <Button type="primary" @click="adding = true">Add a person</Button>
        </template>
      </div>
    </div>
    <form class="row" role="search" @submit.prevent>
      <label class="field grow"
        >Search by name or payroll number <input v-model="search" type="search" class="plain" maxlength="100"
      /></label>
      <label class="field"
        >Site
        <select v-model="site" class="plain">
          <option value="">All sites</option>
          <option v-for="each in page?.sites" :key="each">{{ each }}</option>
        </select></label
      >
      <label class="field"
        >Team
        <select v-model="team" class="plain">
          <option value="">All teams</option>
          <option v-for="each in page?.teams" :key="each">{{ each }}</option>
        </select></label
      >
    </form>
    <StateBox
      :loading="loading && !page"
      :error="error"
      :empty="rows.length === 0"
      what="the roster"
      @retry="load()"
    >
      <template #empty>
        <h2>{{ search || site || team ? 'Nobody matches' : 'The roster is empty' }}</h2>
        <p v-if="search || site || team">Clear the search or the filters.</p>
        <p v-else>Import your people from a CSV file, or add the first by hand.</p>
      </template>
      <div class="sheet scrolls" tabindex="0" role="region" aria-label="Roster">
        <table class="rows">
          <thead>
            <tr>
              <th>Name</th>
              <th>Payroll</th>
              <th>Team</th>
              <th>Site</th>
              <th>Standing</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="{ person, standings } in rows" :key="person.id">
              <td>
                <RouterLink :to="`/people/${person.id}`"
                  ><strong>{{ person.familyName }}</strong
                  >, {{ person.givenName }}</RouterLink
                >
              </td>
              <td>{{ person.payroll }}</td>
              <td>{{ person.team }}</td>
              <td>{{ person.site }}</td>
              <td>
                <span
                  v-for="each in standings"
                  :key="each.classId"
                  class="held"
                  :title="`${titles.get(each.classId) ?? each.classId}: ${each.standing.sentence}`"
                >
                  <TimeArc
                    :status="each.standing.status"
                    :share="
                      each.standing.daysLeft !== null && each.standing.lengthDays
                        ? each.standing.daysLeft / each.standing.lengthDays
                        : null
                    "
                    :label="`${titles.get(each.classId) ?? each.classId}: ${STATUS_WORDS[each.standing.status]}`"
                  />
                </span>
                <span v-if="standings.length === 0" class="quiet">nothing on record</span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div v-if="page?.next" class="row">
        <Button @click="load(true)">Show more</Button
        ><span class="quiet">{{ rows.length }} of {{ page.total }}</span>
      </div>
    </StateBox>
    <AddPerson v-model:open="adding" :sites="page?.sites ?? []" :teams="page?.teams ?? []" @added="load()" />
  </div>
</template>

<style scoped>
.held {
  margin-right: 0.25rem;
}
</style>
