<script setup lang="ts">
import { OUTCOME_WORDS, PHASE_WORDS } from '@rounds/core/evaluation';
import { STATUS_WORDS } from '@rounds/core/certification';
import { routes } from '@rounds/contract';
import { useQuery } from '@pinia/colada';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import StateBox from '../parts/StateBox.vue';
import { call } from '../device/api';
import { useSession } from '../device/session';
import { day } from '../parts/words';
import TimeArc from '../drawing/TimeArc.vue';
import type { Outcome } from '@rounds/core/evaluation';

const session = useSession();
const { data, error, isPending, refetch } = useQuery({ key: ['today'], query: () => call(routes.today, {}) });

const weekday = computed(() =>
  data.value ? new Date(`${data.value.today}T12:00:00`).toLocaleDateString('en-GB', { weekday: 'long' }) : '',
);
const stopped = computed(
  () => data.value?.attention.filter((each) => each.standing.status === 'suspended') ?? [],
);
const lapsed = computed(
  () => data.value?.attention.filter((each) => ['lapsed', 'in-grace'].includes(each.standing.status)) ?? [],
);
const due = computed(() => data.value?.attention.filter((each) => each.standing.status === 'due') ?? []);
const groups = computed(() => [
  {
    id: 'suspended',
    title: 'Suspended',
    rows: stopped.value,
    hint: 'Stood down until evaluated again or reinstated.',
  },
  { id: 'lapsed', title: 'Lapsed', rows: lapsed.value, hint: 'The certificate has run out.' },
  { id: 'due', title: 'Due', rows: due.value, hint: 'Runs out within the lead time.' },
]);
</script>

<template>
  <div class="screen stack">
    <StateBox :loading="isPending" :error="error" what="this morning's list" @retry="refetch()">
      <template v-if="data">
        <div class="row spread">
          <h1>{{ weekday }} {{ day(data.today) }}</h1>
          <RouterLink
            v-if="session.role === 'operator' && session.account?.personId"
            :to="`/people/${session.account.personId}`"
            ><Button type="primary" size="large">My record and cards</Button></RouterLink
          >
          <RouterLink v-if="session.is('trainer', 'administrator')" to="/assess/new"
            ><Button type="primary" size="large">Prepare an evaluation</Button></RouterLink
          >
        </div>

        <section v-if="data.planted.length > 0" class="alarm" aria-label="Faults still planted">
          <h2>
            Faults are still planted in
            {{ data.planted.length === 1 ? 'a machine' : `${data.planted.length} machines` }}
          </h2>
          <ul>
            <li v-for="each in data.planted" :key="each.evaluationId" class="row spread">
              <span
                ><strong>{{ each.unitName }}</strong> ({{ each.classTitle }}, {{ each.site }}):
                {{ each.faults.join('; ') }}</span
              >
              <RouterLink v-if="session.is('trainer', 'administrator')" :to="`/assess/${each.evaluationId}`"
                ><Button>Take them out</Button></RouterLink
              >
              <span v-else>Ask {{ each.trainerName }} before this machine is used.</span>
            </li>
          </ul>
        </section>

        <template v-if="session.role !== 'workshop'">
          <dl class="tally" aria-label="Certificates by standing">
            <div
              v-for="status in ['valid', 'due', 'lapsed', 'suspended', 'in-training'] as const"
              :key="status"
              :class="status"
            >
              <dt>
                <TimeArc
                  :status="status"
                  :share="status === 'valid' ? 0.85 : status === 'due' ? 0.12 : null"
                  :size="34"
                />
                {{ STATUS_WORDS[status] }}
              </dt>
              <dd>{{ data.counts[status] ?? 0 }}</dd>
            </div>
          </dl>

          <div class="columns">
            <section class="stack" aria-label="People who need attention">
              <p v-if="data.attention.length === 0" class="sheet pad">Nobody is due, lapsed or suspended.</p>
              <p v-else-if="data.attentionTotal > data.attention.length" class="sheet pad">
                The gravest {{ data.attention.length }} of {{ data.attentionTotal }} are shown.
                <RouterLink to="/people">The roster</RouterLink> has them all.
              </p>
              <div v-for="group in groups.filter((g) => g.rows.length > 0)" :key="group.id">
                <h2>
                  {{ group.title }}
                  <span class="quiet">{{ group.rows.length }}, {{ group.hint.toLowerCase() }}</span>
                </h2>
                <ul class="sheet list">
                  <li v-for="each in group.rows" :key="each.personId + each.classId">
                    <TimeArc
                      :status="each.standing.status"
                      :share="
                        each.standing.daysLeft !== null && each.standing.lengthDays
                          ? each.standing.daysLeft / each.standing.lengthDays
                          : null
                      "
                      :size="30"
                    />
                    <div class="grow">
                      <RouterLink :to="`/people/${each.personId}`"
                        ><strong>{{ each.personName }}</strong></RouterLink
                      >
                      <span class="quiet"> {{ each.classTitle }}, {{ each.team }}</span>
                      <div>{{ each.standing.sentence }}</div>
                    </div>
                  </li>
                </ul>
              </div>
            </section>

            <section class="stack" aria-label="Evaluations">
              <div>
                <h2>Unfinished evaluations</h2>
                <p v-if="data.open.length === 0" class="sheet pad">
                  None.
                  {{ session.is('trainer', 'administrator') ? 'Prepare one when somebody is due.' : '' }}
                </p>
                <ul v-else class="sheet list">
                  <li v-for="each in data.open" :key="each.id">
                    <div class="grow">
                      <RouterLink :to="`/assess/${each.id}`"
                        ><strong>{{ each.personName }}</strong></RouterLink
                      >
                      on {{ each.unitName }}
                      <div class="quiet">
                        {{ PHASE_WORDS[each.phase] }}, {{ each.trainerName }}, {{ day(each.createdAt) }}
                      </div>
                    </div>
                  </li>
                </ul>
              </div>
              <div>
                <h2>Lately decided</h2>
                <p v-if="data.recent.length === 0" class="sheet pad">Nothing decided yet.</p>
                <ul v-else class="sheet list">
                  <li v-for="each in data.recent" :key="each.id">
                    <div class="grow">
                      <RouterLink :to="`/assess/${each.id}`"
                        ><strong>{{ each.personName }}</strong></RouterLink
                      >
                      {{ each.classTitle.toLowerCase() }}
                      <div class="quiet">
                        {{ OUTCOME_WORDS[each.outcome as Outcome]
                        }}{{ each.overridden ? ' (overridden)' : '' }}, {{ day(each.createdAt) }}
                      </div>
                    </div>
                    <strong class="number">{{ each.score === null ? '' : `${each.score} %` }}</strong>
                  </li>
                </ul>
              </div>
            </section>
          </div>
        </template>
        <p v-else-if="data.planted.length === 0" class="sheet pad">
          No machine has a training fault in it. Machines and their defects will be listed here when they are
          tagged.
        </p>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.alarm {
  background: var(--amber);
  color: var(--on-amber);
  padding: 0.9rem 1.1rem;
  border-radius: 4px;
}
.alarm li {
  padding-top: 0.5rem;
}
.tally {
  display: flex;
  flex-wrap: wrap;
  gap: 0.75rem 2.25rem;
}
.tally > div {
  display: flex;
  align-items: center;
  gap: 0.6rem;
}
.tally dt {
  display: flex;
  align-items: center;
  gap: 0.45rem;
}
.tally dd {
  font-size: 1.75rem;
  font-weight: 700;
  line-height: 1;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1.35fr) minmax(0, 1fr);
  gap: 1.5rem;
}
.list li {
  display: flex;
  align-items: flex-start;
  gap: 0.75rem;
  padding: 0.65rem 0.9rem;
  border-bottom: 1px solid var(--line);
}
.list li:last-child {
  border-bottom: 0;
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
