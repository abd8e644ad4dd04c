<script setup lang="ts">
import type { SetForm } from '@rounds/contract/practice';
import { daysBetween } from '@rounds/core/calendar';
import { type Outcome, OUTCOME_WORDS } from '@rounds/core/evaluation';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import { useSession } from '../device/session';
import TimeArc from '../drawing/TimeArc.vue';
import { useClasses, usePersonPractice } from '../parts/queries';
import { shareLeft } from '../parts/standing';
import StateBox from '../parts/StateBox.vue';
import { amount, day } from '../parts/words';
import { dayHeading } from './dayHeading';
import { useAppraisal, useOwnRecord } from './queries';

/** An operator's day: what may I operate, what comes next, what do I practise. */
const session = useSession();
const personId = session.account?.personId ?? '';
const record = useOwnRecord(() => personId);
const practice = usePersonPractice(() => personId);
/** What is set that is no drill: as Practise calls it, and as it is said here. */
const KINDS: Readonly<Partial<Record<SetForm, string>>> = {
  bench: 'Findings to grade',
  desk: 'Start and stop',
  commands: 'Commands',
};
/** What a trainer has set. */
const sets = computed(() =>
  (practice.data.value?.sets ?? []).map((each) => ({
    ...each,
    says: `${KINDS[each.form] ?? 'A drill'} on the ${each.classTitle.toLowerCase()}`,
    to: {
      path: '/practise',
      query: { class: each.classId, ...(KINDS[each.form] ? { what: each.form } : {}) },
    },
  })),
);
const data = computed(() => record.data.value);
const { title } = useClasses();
const today = session.installation?.today ?? '';

const MAY = [
  { may: 'yes', heading: 'You may operate' },
  { may: 'supervised', heading: 'Only with somebody beside you' },
  { may: 'no', heading: 'You may not operate' },
] as const;
const groups = computed(() =>
  MAY.map((group) => ({
    ...group,
    rows: (data.value?.standings ?? []).filter(
      ({ standing }) => standing.mayOperate === group.may && standing.status !== 'none',
    ),
  })).filter((group) => group.rows.length > 0),
);

/** What comes in each class, the soonest first, with how far away the first change is. */
const steps = computed(() =>
  (data.value?.standings ?? [])
    .filter(({ standing }) => standing.next.length > 0)
    .map(({ classId, standing }) => {
      const first = data.value!.forecast.find((each) => each.classId === classId);
      return { classId, next: standing.next, on: first?.on ?? null };
    })
    .sort((a, b) => (a.on ?? '9').localeCompare(b.on ?? '9')),
);
const away = (date: string) => {
  const days = daysBetween(today, date);
  return days > 60 ? `in ${Math.round(days / 30.4)} months` : `in ${amount(days, 'day')}`;
};

/** What went wrong the last time is what is practised before the next. */
const last = computed(() => data.value?.evaluations.find((each) => each.outcome !== null) ?? null);
const appraisal = useAppraisal(() => last.value?.id ?? '');
const practise = computed(() =>
  (appraisal.data.value?.reasons ?? []).filter((each) => each.weighs !== 'for').map((each) => each.text),
);
</script>

<template>
  <p v-if="personId === ''" class="sheet pad">
    This account belongs to nobody on the roster yet. Ask the administrator to join it to your record.
  </p>
  <StateBox
    v-else
    :loading="!data"
    :error="data ? undefined : record.error.value"
    what="your record"
    @retry="record.refetch()"
  >
    <div v-if="data" class="stack">
      <div class="row spread">
        <h1>{{ dayHeading(today) }}</h1>
        <RouterLink v-slot="{ navigate, href }" :to="`/people/${personId}`" custom
          ><Button type="primary" :href="href" @click="navigate">My record and cards</Button></RouterLink
        >
      </div>
      <p v-if="groups.length === 0" class="sheet pad">
        Nothing is on record for you yet: you may not operate any machine here. Your trainer starts your
        training.
      </p>
      <section v-for="group in groups" :key="group.may" :aria-label="group.heading">
        <h2>{{ group.heading }}</h2>
        <ul class="machines">
          <li v-for="{ classId, standing } in group.rows" :key="classId" class="sheet">
            <TimeArc :status="standing.status" :share="shareLeft(standing)" :size="52" />
            <div class="grow">
              <RouterLink :to="`/classes/${classId}`"
                ><strong>{{ title(classId) }}</strong></RouterLink
              >
              <div>{{ standing.sentence }}</div>
              <div class="quiet">
                {{
                  standing.familiarisedWith.length
                    ? `On ${standing.familiarisedWith.join(', ')}`
                    : 'Ask to be shown the machine before you use it'
                }}
              </div>
            </div>
          </li>
        </ul>
      </section>
      <div class="columns">
        <section aria-label="What comes next">
          <h2>What comes next</h2>
          <ul class="sheet list">
            <li v-for="each in steps" :key="each.classId">
              <span class="grow"
                ><strong>{{ title(each.classId) }}</strong
                >. {{ each.next.join('. ') }}.</span
              ><span v-if="each.on" class="quiet">{{ away(each.on) }}</span>
            </li>
            <li v-if="steps.length === 0">Nothing changes for now.</li>
          </ul>
        </section>
        <section aria-label="What to practise">
          <h2>What to practise</h2>
          <ul v-if="sets.length" class="sheet list" aria-label="Set to do">
            <li v-for="each in sets" :key="each.id">
              <RouterLink class="grow" :to="each.to">{{ each.says }}</RouterLink><span
                :class="each.overdue ? 'late' : 'quiet'"
                >{{ each.overdue ? 'overdue since' : 'by' }} {{ day(each.dueOn) }}</span
              >
            </li>
          </ul>
          <div v-if="last" class="sheet pad stack">
            <p>
              Last time: <RouterLink :to="`/assess/${last.id}`">{{ last.classTitle }}</RouterLink>,
              {{ OUTCOME_WORDS[last.outcome as Outcome].toLowerCase() }}, {{ day(last.createdAt) }}.
            </p>
            <ul v-if="practise.length" class="bullets">
              <li v-for="each in practise" :key="each">{{ each }}</li>
            </ul>
            <p v-else>Nothing was held against you. Walk the ring as you did.</p>
            <div class="row">
              <RouterLink :to="`/classes/${last.classId}?part=round`"
                >The round, station by station</RouterLink
              >
              <RouterLink :to="`/classes/${last.classId}?part=faults`"
                >Its faults and how they show</RouterLink
              >
              <RouterLink :to="`/classes/${last.classId}?part=start-stop`">Start and stop</RouterLink>
            </div>
          </div>
          <p v-else class="sheet pad">
            You have not been evaluated here yet. Learn the round of your machine under
            <RouterLink to="/classes">Classes</RouterLink>.
          </p>
        </section>
      </div>
    </div>
  </StateBox>
</template>

<style scoped>
h2 {
  margin-bottom: 0.4rem;
}
.machines {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(330px, 1fr));
  gap: 0.7rem;
}
.machines li {
  display: flex;
  gap: 0.9rem;
  padding: 0.75rem 0.9rem;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.5rem;
}
.list li > .quiet {
  white-space: nowrap;
}
.list li {
  display: flex;
  gap: 0.9rem;
  padding: 0.6rem 0.9rem;
  border-bottom: 1px solid var(--line);
}
.late {
  font-weight: 700;
  white-space: nowrap;
}
.list li:last-child {
  border-bottom: 0;
}
@media (max-width: 900px) {
  .columns,
  .machines {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
