<script setup lang="ts">
import type { RouteAnswer } from '@rounds/contract/route';
import type { todayRoutes } from '@rounds/contract/today';
import { type StandingStatus, STATUS_WORDS } from '@rounds/core/certification';
import { type Outcome, OUTCOME_WORDS, PHASE_WORDS } from '@rounds/core/evaluation';
import { Alert, Button } from 'ant-design-vue';
import { computed } from 'vue';
import { useSession } from '../device/session';
import TimeArc from '../drawing/TimeArc.vue';
import PagedList from '../parts/PagedList.vue';
import { shareLeft } from '../parts/standing';
import { day } from '../parts/words';
import { dayHeading } from './dayHeading';
import PlantedAlarm from './PlantedAlarm.vue';

/** A trainer's or supervisor's morning: what is dangerous, who is stood down, lapsed or due, what is open. */
const props = defineProps<{ data: RouteAnswer<typeof todayRoutes.today> }>();
const session = useSession();
const trains = session.is('trainer', 'administrator');

/** What a trainer is asked to score, or that the rules ask for a calibration. */
const calls = computed(() => {
  const asked = props.data.calibration;
  if (!asked) return '';
  const { standing, waiting } = asked;
  if (waiting.length > 0)
    return `${waiting.length === 1 ? 'A replayed round waits' : `${waiting.length} replayed rounds wait`} for your scores: ${waiting.map((each) => each.title).join(', ')}.`;
  return standing.state === 'due' || standing.state === 'never'
    ? `You as an evaluator: ${standing.says}`
    : '';
});

const GROUPS: readonly { title: string; hint: string; statuses: readonly StandingStatus[] }[] = [
  { title: 'Suspended', hint: 'stood down until evaluated again or reinstated', statuses: ['suspended'] },
  { title: 'Lapsed', hint: 'the certificate has run out', statuses: ['lapsed', 'in-grace'] },
  { title: 'Due', hint: 'runs out within the lead time', statuses: ['due'] },
];
const groups = computed(() =>
  GROUPS.map((group) => ({
    ...group,
    rows: props.data.attention.filter((each) => group.statuses.includes(each.standing.status)),
  })).filter((group) => group.rows.length > 0),
);
const TALLY = ['valid', 'due', 'lapsed', 'suspended', 'in-training'] as const;
const SHARES: Partial<Record<StandingStatus, number>> = { valid: 0.85, due: 0.12 };
</script>

<template>
  <div class="stack">
    <div class="row spread">
      <h1>{{ dayHeading(data.today) }}</h1>
      <RouterLink v-if="trains" v-slot="{ navigate, href }" to="/assess/new" custom
        ><Button type="primary" :href="href" @click="navigate">Prepare an evaluation</Button></RouterLink
      >
    </div>
    <PlantedAlarm :planted="data.planted" />
    <Alert v-if="calls" type="warning" show-icon role="note" :message="calls">
      <template #action><RouterLink to="/assess/calibration">Calibration</RouterLink></template>
    </Alert>
    <ul class="tally" aria-label="Certificates by standing">
      <li v-for="status in TALLY" :key="status">
        <RouterLink :to="{ path: '/people', query: { status } }">
          <TimeArc :status="status" :share="SHARES[status] ?? null" :size="34" />
          <span>{{ STATUS_WORDS[status] }}</span><strong>{{ data.counts[status] ?? 0 }}</strong>
        </RouterLink>
      </li>
    </ul>

    <div class="columns">
      <section class="stack" aria-label="People who need attention">
        <p v-if="data.attention.length === 0" class="sheet pad">Nobody is due, lapsed or suspended.</p>
        <p v-else-if="data.attentionTotal > data.attention.length" class="sheet pad">
          The gravest {{ data.attention.length }} of {{ data.attentionTotal }} are shown.
          <RouterLink :to="{ path: '/people', query: { sort: 'standing' } }">The roster</RouterLink> has them
          all.
        </p>
        <div v-for="group in groups" :key="group.title">
          <h2>
            {{ group.title }} <span class="quiet">{{ group.rows.length }}, {{ group.hint }}</span>
          </h2>
          <PagedList v-slot="{ row: item }" :rows="group.rows" :size="12" nothing="None." :name="group.title">
            <TimeArc :status="item.standing.status" :share="shareLeft(item.standing)" :size="30" />
            <div class="grow">
              <RouterLink :to="`/people/${item.personId}`"
                ><strong>{{ item.personName }}</strong></RouterLink
              >
              <span class="quiet"> {{ item.classTitle }}, {{ item.team }}</span>
              <div>{{ item.standing.sentence }}</div>
            </div>
          </PagedList>
        </div>
      </section>

      <div class="stack">
        <section aria-label="Unfinished evaluations">
          <h2>Unfinished evaluations</h2>
          <PagedList
            v-slot="{ row: item }"
            :rows="data.open"
            :size="6"
            :nothing="trains ? 'None. Prepare one when somebody is due.' : 'None.'"
            name="Unfinished evaluations"
          >
            <div class="grow">
              <RouterLink :to="`/assess/${item.id}`"
                ><strong>{{ item.personName }}</strong></RouterLink
              >
              on {{ item.unitName }}
              <div class="quiet">
                {{ PHASE_WORDS[item.phase as keyof typeof PHASE_WORDS] }}, {{ item.trainerName }},
                {{ day(item.createdAt) }}
              </div>
            </div>
          </PagedList>
        </section>
        <section aria-label="Lately decided">
          <h2>Lately decided</h2>
          <PagedList
            v-slot="{ row: item }"
            :rows="data.recent"
            :size="12"
            nothing="Nothing decided yet."
            name="Lately decided"
          >
            <div class="grow">
              <RouterLink :to="`/assess/${item.id}`"
                ><strong>{{ item.personName }}</strong></RouterLink
              >
              {{ item.classTitle.toLowerCase() }}
              <div class="quiet">
                {{ OUTCOME_WORDS[item.outcome as Outcome] }}{{ item.overridden ? ' (overridden)' : '' }},
                {{ day(item.createdAt) }}
              </div>
            </div>
            <strong class="number">{{ item.score === null ? '' : `${item.score} %` }}</strong>
          </PagedList>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.tally {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1.4rem;
}
.tally a {
  display: flex;
  align-items: center;
  gap: 0.5rem;
  min-height: 44px;
  color: var(--ink);
  text-decoration: none;
  border-bottom: 3px solid transparent;
}
.tally a:hover {
  border-bottom-color: var(--petrol);
}
.tally strong {
  font-size: 1.75rem;
  line-height: 1;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
  gap: 1.5rem;
}
h2 {
  margin-bottom: 0.4rem;
}
h2 .quiet {
  font-weight: 400;
  font-size: 0.95rem;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
