<script setup lang="ts">
import type { ExerciseReport } from '@rounds/contract/exercise';
import { refDebounced } from '@vueuse/core';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import ChoiceField from '../parts/ChoiceField.vue';
import ConfusionTable from '../parts/ConfusionTable.vue';
import FindingCard from '../parts/FindingCard.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { usePeopleLike } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { amount, day } from '../parts/words';
import { useExerciseReport, useMatch } from './queries';
import SpreadBars from './SpreadBars.vue';

/** What a room showed: against the key, among itself, what split it, and each person's own; guests are matched here. */
const route = useRoute();
const id = String(route.params['id']);
const query = useExerciseReport(() => id);
const report = computed(() => query.data.value ?? null);
const split = computed(() => report.value?.findings.filter((each) => each.split) ?? []);
const rest = computed(() => report.value?.findings.filter((each) => !each.split) ?? []);
const chosen = ref('');
const shown = computed(() => report.value?.people.find((each) => each.id === chosen.value) ?? null);

const match = useMatch();
const problem = ref<unknown>(null);
const search = ref('');
const settled = refDebounced(search, 180);
const found = usePeopleLike(() => settled.value);
const optionsFor = (each: ExerciseReport['people'][number]) => {
  const list = (found.data.value?.rows ?? []).map(({ person }) => ({
    value: person.id,
    label: `${person.givenName} ${person.familyName}`,
    more: `${person.payroll}, ${person.team}`,
  }));
  return each.person && !list.some((one) => one.value === each.person!.id)
    ? [{ value: each.person.id, label: each.person.name, more: '' }, ...list]
    : list;
};
async function say(participant: string, personId: string) {
  problem.value = null;
  try {
    await match.mutateAsync({ params: { id, participant }, body: { personId: personId || null } });
    await query.refetch();
  } catch (error) {
    problem.value = error;
  }
}
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="!report && !query.error.value"
      :error="report ? undefined : query.error.value"
      what="the exercise"
      @retry="query.refetch()"
    >
      <template v-if="report">
        <div>
          <h1>{{ report.title }}</h1>
          <p class="quiet">
            {{ report.classTitle }}, {{ day(report.startedAt) }},
            {{ amount(report.people.length, 'person', 'people') }},
            {{ amount(report.findings.length, 'finding')
            }}<template v-if="!report.endedAt">, still open</template>
          </p>
        </div>
        <div class="columns">
          <section class="sheet pad stack" aria-label="The room">
            <ul class="says">
              <li v-for="each in report.says" :key="each">{{ each }}</li>
            </ul>
            <ConfusionTable :confusion="report.whole.confusion" />
          </section>
          <section class="sheet pad stack" aria-label="Everybody">
            <h2>Everybody</h2>
            <ProblemAlert :problem="problem" />
            <ul class="people">
              <li v-for="each in report.people" :key="each.id">
                <button
                  type="button"
                  class="name"
                  :aria-expanded="chosen === each.id"
                  @click="chosen = chosen === each.id ? '' : each.id"
                >
                  <strong>{{ each.name }}</strong>
                  <span>{{ each.summary.exact }} of {{ each.summary.n }}</span>
                  <span v-if="each.summary.criticalMisses.length" class="bad"
                    >{{ amount(each.summary.criticalMisses.length, 'stop') }} let go on</span
                  >
                  <span v-else-if="each.summary.tooLow.count" class="quiet"
                    >{{ each.summary.tooLow.count }} too low</span
                  >
                </button>
                <div v-if="chosen === each.id && shown" class="own">
                  <ul class="says">
                    <li v-for="line in shown.summary.says" :key="line">{{ line }}</li>
                  </ul>
                  <ConfusionTable :confusion="shown.summary.confusion" />
                </div>
                <ChoiceField
                  v-if="each.guest"
                  :value="each.person?.id ?? ''"
                  :label="`Who is ${each.name}`"
                  placeholder="Guest: whose record does it join?"
                  remote
                  clearable
                  :options="optionsFor(each)"
                  @search="search = $event"
                  @update:value="say(each.id, $event)"
                />
              </li>
            </ul>
          </section>
        </div>
        <template
          v-for="group in [
            { name: 'Split the room', list: split },
            { name: 'The other findings', list: rest },
          ]"
          :key="group.name"
        >
          <section v-if="group.list.length" class="sheet pad" :aria-label="group.name">
            <h2>
              {{ group.name }} <span class="quiet">{{ group.list.length }}</span>
            </h2>
            <div v-for="each in group.list" :key="each.n" class="put">
              <FindingCard :finding="each.finding" figures small class="grow" />
              <div class="told">
                <SpreadBars :spread="each.spread" :key-grade="each.key.grade" />
              </div>
            </div>
          </section>
        </template>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(320px, 1fr) minmax(0, 1fr);
  gap: 1rem;
  align-items: start;
}
.says {
  list-style: none;
  display: grid;
  gap: 0.5rem;
}
.people {
  list-style: none;
  display: grid;
  gap: 0.4rem;
}
.people > li {
  display: grid;
  gap: 0.4rem;
  border-bottom: 1px solid var(--line);
  padding-bottom: 0.5rem;
}
.name {
  font: inherit;
  color: inherit;
  background: none;
  border: 0;
  min-height: 44px;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 0.9rem;
  text-align: left;
  cursor: pointer;
}
.name strong {
  text-decoration: underline;
}
.bad {
  color: var(--crimson);
  font-weight: 700;
}
.own {
  display: grid;
  gap: 0.7rem;
}
.put {
  display: flex;
  flex-wrap: wrap;
  gap: 1rem;
  padding: 0.8rem 0;
  border-bottom: 1px solid var(--line);
}
.told {
  flex: 1 1 280px;
  display: grid;
  gap: 0.5rem;
  align-content: start;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
