<script setup lang="ts">
import { SearchOutlined } from '@ant-design/icons-vue';
import type { ClassSummary } from '@rounds/contract/classes';
import { FAMILY_WORDS, type LibraryHit, SECTIONS } from '@rounds/core/catalogue';
import { refDebounced } from '@vueuse/core';
import { Button, CheckableTag, Input } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import { useSession } from '../device/session';
import MachineOutline from '../drawing/MachineOutline.vue';
import { useClasses, useLibrary } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { useAddressQuery } from '../parts/useAddressQuery';
import { amount } from '../parts/words';

const route = useRoute();
const write = useAddressQuery();
const session = useSession();
const classes = useClasses();
const words = ref(typeof route.query['find'] === 'string' ? route.query['find'] : '');
const settled = refDebounced(words, 120);
const library = useLibrary(() => words.value.trim() !== '');
const { engine } = library;
const onlyClass = ref('');
watch(settled, (now) => write(now ? { find: now } : {}));
const hits = computed<LibraryHit[]>(() => engine.value?.find(settled.value, 400) ?? []);
const byClass = computed(() => {
  const counts = new Map<string, number>();
  for (const hit of hits.value) counts.set(hit.classId, (counts.get(hit.classId) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1]);
});
const shown = computed(() =>
  hits.value.filter((each) => !onlyClass.value || each.classId === onlyClass.value).slice(0, 60),
);
watch(byClass, (now) => {
  if (!now.some(([id]) => id === onlyClass.value)) onlyClass.value = '';
});

const families = computed(() => {
  const groups = new Map<string, ClassSummary[]>();
  for (const each of classes.list.value) groups.set(each.family, [...(groups.get(each.family) ?? []), each]);
  const order = Object.keys(FAMILY_WORDS);
  return [...groups].sort((a, b) => order.indexOf(a[0]) - order.indexOf(b[0]));
});
const mayEdit = session.is('trainer', 'administrator');
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>Machine classes</h1>
      <div class="row">
        <RouterLink v-slot="{ navigate, href }" to="/classes/compare" custom
          ><Button :href="href" @click="navigate">Compare two</Button></RouterLink
        >
        <RouterLink v-if="mayEdit" v-slot="{ navigate, href }" to="/classes/drawings" custom
          ><Button :href="href" @click="navigate">Drawings</Button></RouterLink
        >
        <RouterLink v-if="mayEdit" v-slot="{ navigate, href }" to="/classes/import" custom
          ><Button :href="href" @click="navigate">Import</Button></RouterLink
        >
      </div>
    </div>
    <StateBox
      :loading="!classes.data.value"
      :error="classes.data.value ? undefined : classes.error.value"
      :empty="classes.list.value.length === 0"
      what="the machine classes"
      @retry="classes.refetch()"
    >
      <template #empty
        ><h2>No class is published</h2>
        <p>The administrator imports or publishes a class pack first.</p></template
      >
      <Input
        v-model:value="words"
        type="search"
        size="large"
        class="find"
        allow-clear
        placeholder="cool down, belt, two wraps, a row number"
        :maxlength="120"
        aria-label="Search every class"
      >
        <template #prefix><SearchOutlined aria-hidden="true" /></template>
      </Input>
      <section v-if="words.trim()" class="stack" aria-label="Search results" aria-live="polite">
        <StateBox
          v-if="library.error.value"
          :error="library.error.value"
          what="what the classes say"
          @retry="library.refetch()"
        />
        <p v-else-if="!engine" role="status">Fetching what the classes say</p>
        <template v-else>
          <p>
            <strong>{{ hits.length === 400 ? 'More than 400 rows' : amount(hits.length, 'row') }}</strong>
            {{
              hits.length === 0
                ? 'say that. Try fewer words, or the start of a word.'
                : `in ${amount(byClass.length, 'class', 'classes')}`
            }}
          </p>
          <div v-if="byClass.length > 1" class="chips" role="group" aria-label="Only one class">
            <CheckableTag
              v-for="[id, n] in [['', hits.length] as const, ...byClass]"
              :key="id"
              role="button"
              tabindex="0"
              :checked="onlyClass === id"
              :aria-pressed="onlyClass === id"
              @change="onlyClass = onlyClass === id ? '' : id"
              @keydown.enter.space.prevent="onlyClass = onlyClass === id ? '' : id"
              >{{ id === '' ? 'All' : (library.data.value!.titles[id] ?? id) }} {{ n }}</CheckableTag
            >
          </div>
          <ul class="sheet hits">
            <li v-for="hit in shown" :key="`${hit.classId}/${hit.id}`">
              <RouterLink :to="{ path: `/classes/${hit.classId}`, query: { part: hit.part, row: hit.id } }">
                <span class="what">{{ SECTIONS[hit.section] }}</span>
                <span class="grow"
                  ><strong>{{ hit.title }}</strong>
                  <span class="says">{{ hit.says.slice(0, 170) }}</span></span
                >
                <span class="quiet where"
                  >{{ library.data.value!.titles[hit.classId] }}<br />{{ hit.id }}</span
                >
              </RouterLink>
            </li>
          </ul>
          <p v-if="hits.length > shown.length && !onlyClass" class="quiet">
            The best {{ shown.length }} are shown; choose a class or add a word for the rest.
          </p>
        </template>
      </section>
      <template v-else>
        <section v-for="[family, list] in families" :key="family">
          <h2>{{ FAMILY_WORDS[family] ?? family }}</h2>
          <ul class="cards">
            <li v-for="each in list" :key="each.id">
              <RouterLink
                :to="`/classes/${each.id}`"
                class="sheet card"
                :class="{ bare: each.revision === null }"
              >
                <MachineOutline v-if="each.outlines.length" :outlines="each.outlines" :size="104" />
                <span class="grow"
                  ><strong>{{ each.title }}</strong
                  ><span v-if="each.revision !== null" class="quiet"
                    >{{ amount(each.checkpoints, 'check') }}, {{ amount(each.faults, 'fault') }}</span
                  ><span v-else class="quiet">certificates only</span
                  ><span v-if="each.units" class="quiet">{{ amount(each.units, 'machine') }} here</span></span
                >
              </RouterLink>
            </li>
          </ul>
        </section>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.find {
  max-width: 46rem;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}
.hits li + li {
  border-top: 1px solid var(--line);
}
.hits a {
  display: flex;
  gap: 1rem;
  padding: 0.6rem 1rem;
  color: var(--ink);
  text-decoration: none;
  min-height: 56px;
}
.hits a:hover {
  background: var(--raised);
}
.what {
  flex: 0 0 7.5rem;
  font-size: 0.88rem;
  color: var(--petrol);
  font-weight: 700;
}
.says {
  display: block;
  font-size: 0.92rem;
  color: var(--quiet);
}
.where {
  flex: 0 0 12rem;
  text-align: right;
  font-size: 0.88rem;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(270px, 1fr));
  gap: 0.75rem;
  margin-top: 0.5rem;
}
.card {
  display: flex;
  gap: 1rem;
  align-items: center;
  padding: 0.7rem 1rem;
  color: var(--ink);
  text-decoration: none;
  min-height: 72px;
  height: 100%;
}
.card .machine {
  flex: none;
}
.card:hover {
  border-color: var(--petrol);
}
.card strong,
.card .quiet {
  display: block;
}
.card.bare {
  background: none;
  border-style: dashed;
}
@media (max-width: 700px) {
  .hits a {
    flex-direction: column;
    gap: 0.2rem;
  }
  .what,
  .where {
    flex: none;
    text-align: left;
  }
}
</style>
