<script setup lang="ts">
import { OUTCOME_WORDS, PHASE_WORDS } from '@rounds/core/evaluation';
import { routes } from '@rounds/contract';
import { TRIGGERS, type CertificationEventBody, STATUS_WORDS } from '@rounds/core/certification';
import type { Outcome } from '@rounds/core/evaluation';
import { useQuery } from '@pinia/colada';
import { Button, Modal } from 'ant-design-vue';
import { computed, reactive, ref } from 'vue';
import { useRoute } from 'vue-router';
import StateBox from '../parts/StateBox.vue';
import TimeArc from '../drawing/TimeArc.vue';
import { call, explain, fileAddress } from '../device/api';
import { useSession } from '../device/session';
import { day } from '../parts/words';

const session = useSession();
const id = String(useRoute().params['id']);
const { data, error, isPending, refetch } = useQuery({
  key: ['person', id],
  query: () => call(routes.person, { params: { id } }),
});
const classes = useQuery({ key: ['classes'], query: () => call(routes.classes, {}) });
const title = (classId: string) =>
  classes.data.value?.classes.find((each) => each.id === classId)?.title ?? classId;
const may = {
  yes: 'May operate today',
  supervised: 'Only under supervision',
  no: 'May not operate',
} as const;

const open = ref(false);
const problem = ref<string | null>(null);
const form = reactive({
  classId: '',
  kind: 'trigger' as CertificationEventBody['kind'],
  on: session.installation?.today ?? '',
  words: '',
  trigger: 'incident' as (typeof TRIGGERS)[number],
  hours: 8,
  until: '',
});
const kinds = computed(() => {
  const all: [CertificationEventBody['kind'], string][] = [
    ['trigger', 'Trigger raised'],
    ['hours-logged', 'Hours logged'],
    ['certificate-recorded', 'Earlier certificate taken over'],
    ['familiarised', 'Familiarised with a machine'],
    ['training-started', 'Training started'],
    ['theory-passed', 'Theory passed'],
    ['drill-met', 'Drill standard met'],
    ['medical', 'Medical passed'],
    ['refresher-done', 'Refresher done'],
    ['suspended', 'Suspended'],
    ['reinstated', 'Reinstated'],
    ['withdrawn', 'Withdrawn'],
  ];
  return session.role === 'supervisor' ? all.slice(0, 2) : all;
});

async function setActive(active: boolean) {
  problem.value = null;
  try {
    await call(routes.changePerson, { params: { id }, body: { active } });
    await refetch();
  } catch (failure) {
    problem.value = explain(failure).detail;
  }
}

async function record() {
  problem.value = null;
  const { kind, words } = form;
  const body = (
    kind === 'trigger'
      ? { kind, trigger: form.trigger, ...(words ? { words } : {}) }
      : kind === 'hours-logged'
        ? { kind, hours: Number(form.hours) }
        : kind === 'certificate-recorded'
          ? { kind, ...(form.until ? { until: form.until } : {}), ...(words ? { words } : {}) }
          : kind === 'familiarised'
            ? { kind, unit: words }
            : kind === 'suspended' || kind === 'reinstated' || kind === 'withdrawn'
              ? { kind, words }
              : { kind }
  ) as CertificationEventBody;
  try {
    await call(routes.addCertificationEvent, {
      params: { id },
      body: { classId: form.classId, on: form.on, body },
    });
    open.value = false;
    form.words = '';
    await refetch();
  } catch (failure) {
    problem.value = explain(failure).detail;
  }
}
</script>

<template>
  <div class="screen stack">
    <StateBox :loading="isPending" :error="error" what="this person's record" @retry="refetch()">
      <template v-if="data">
        <div class="row spread">
          <div>
            <h1>{{ data.person.givenName }} {{ data.person.familyName }}</h1>
            <p class="quiet">
              Payroll {{ data.person.payroll }}, {{ data.person.team }}, {{ data.person.site
              }}{{ data.person.started ? `, since ${day(data.person.started)}` : '' }}
            </p>
          </div>
          <div v-if="session.is('trainer', 'administrator', 'supervisor')" class="row">
            <Button v-if="session.role !== 'supervisor'" @click="setActive(!data.person.active)">{{
              data.person.active ? 'Take off the roster' : 'Put back on the roster'
            }}</Button>
            <Button @click="open = true">Record an event</Button>
            <RouterLink
              v-if="session.role !== 'supervisor'"
              :to="{ path: '/assess/new', query: { person: data.person.id } }"
              ><Button type="primary">Evaluate</Button></RouterLink
            >
          </div>
        </div>

        <p v-if="!data.person.active" class="sheet pad" role="status">
          <strong>Off the roster.</strong> The record is kept; cards of this person no longer answer as valid.
        </p>
        <section aria-label="Standing by class">
          <p v-if="data.standings.length === 0" class="sheet pad">
            Nothing on record in any class. Start with training, or take over an earlier certificate.
          </p>
          <ul class="standings">
            <li v-for="{ classId, standing } in data.standings" :key="classId" class="sheet">
              <TimeArc
                :status="standing.status"
                :share="
                  standing.daysLeft !== null && standing.lengthDays
                    ? standing.daysLeft / standing.lengthDays
                    : null
                "
                :size="64"
              />
              <div class="grow">
                <h2>
                  <RouterLink :to="`/classes/${classId}`">{{ title(classId) }}</RouterLink>
                </h2>
                <p>
                  <strong :class="{ stopped: standing.mayOperate === 'no' && standing.status !== 'none' }">{{
                    may[standing.mayOperate]
                  }}</strong>
                  <span class="quiet">{{ STATUS_WORDS[standing.status] }}</span>
                </p>
                <p>{{ standing.sentence }}</p>
                <p v-for="each in standing.reasons" :key="each" class="quiet">{{ each }}</p>
                <p v-if="standing.next.length" class="next">Next: {{ standing.next.join('. ') }}</p>
                <p class="quiet">
                  {{
                    standing.familiarisedWith.length
                      ? `Familiarised with ${standing.familiarisedWith.join(', ')}`
                      : 'Not familiarised with any machine of this class'
                  }}
                </p>
              </div>
            </li>
          </ul>
        </section>

        <div class="columns">
          <section class="stack" aria-label="History">
            <h2>History</h2>
            <p v-if="data.history.length === 0" class="sheet pad">No events yet.</p>
            <ol v-else class="sheet history">
              <li v-for="each in data.history" :key="each.id">
                <span class="when">{{ day(each.on) }}</span>
                <span class="grow"
                  ><strong>{{ each.words }}</strong>
                  <span class="quiet">{{ title(each.classId) }}, recorded by {{ each.by }}</span></span
                >
                <span class="row">
                  <a v-if="each.token" :href="fileAddress(routes.card, { token: each.token })" target="_blank"
                    >Card</a
                  >
                  <RouterLink
                    v-if="each.evaluation && each.kind.startsWith('evaluation')"
                    :to="`/assess/${each.evaluation}`"
                    >Evaluation</RouterLink
                  >
                </span>
              </li>
            </ol>
          </section>
          <section class="stack" aria-label="What comes">
            <h2>If nothing happens</h2>
            <p v-if="data.forecast.length === 0" class="sheet pad">No change ahead.</p>
            <ul v-else class="sheet history">
              <li v-for="each in data.forecast.slice(0, 12)" :key="each.classId + each.on">
                <span class="when">{{ day(each.on) }}</span><span class="grow"
                  ><strong>{{ title(each.classId) }}</strong>
                  {{ STATUS_WORDS[each.status as keyof typeof STATUS_WORDS].toLowerCase() }}</span
                >
              </li>
            </ul>
            <h2>Evaluations</h2>
            <p v-if="data.evaluations.length === 0" class="sheet pad">None made here.</p>
            <ul v-else class="sheet history">
              <li v-for="each in data.evaluations" :key="each.id">
                <span class="when">{{ day(each.createdAt) }}</span><RouterLink
                  class="grow"
                  :to="`/assess/${each.id}`"
                  >{{ each.classTitle }},
                  {{
                    each.outcome ? OUTCOME_WORDS[each.outcome as Outcome] : PHASE_WORDS[each.phase]
                  }}</RouterLink
                ><strong>{{ each.score === null ? '' : `${each.score} %` }}</strong>
              </li>
            </ul>
          </section>
        </div>
      </template>
    </StateBox>
    <Modal v-model:open="open" title="Record an event" :footer="null" destroy-on-close>
      <form class="stack" @submit.prevent="record">
        <label class="field"
          >Class
          <select v-model="form.classId" class="plain" required>
            <option v-for="each in classes.data.value?.classes" :key="each.id" :value="each.id">
              {{ each.title }}
            </option>
          </select></label
        >
        <label class="field"
          >What happened
          <select v-model="form.kind" class="plain">
            <option v-for="[value, name] in kinds" :key="value" :value="value">{{ name }}</option>
          </select></label
        >
        <label class="field"
          >On <input v-model="form.on" class="plain" type="date" required :max="session.installation?.today"
        /></label>
        <label v-if="form.kind === 'trigger'" class="field"
          >Trigger
          <select v-model="form.trigger" class="plain">
            <option v-for="each in TRIGGERS" :key="each" :value="each">{{ each.replace('-', ' ') }}</option>
          </select></label
        >
        <label v-if="form.kind === 'hours-logged'" class="field"
          >Hours
          <input v-model.number="form.hours" class="plain" type="number" min="0.25" step="0.25" required
        /></label>
        <label v-if="form.kind === 'certificate-recorded'" class="field"
          >Runs to (empty: by the rules) <input v-model="form.until" class="plain" type="date"
        /></label>
        <label
          v-if="
            [
              'trigger',
              'certificate-recorded',
              'familiarised',
              'suspended',
              'reinstated',
              'withdrawn',
            ].includes(form.kind)
          "
          class="field"
          >{{ form.kind === 'familiarised' ? 'Machine' : 'In a few words' }}
          <input
            v-model="form.words"
            class="plain"
            maxlength="200"
            :required="['familiarised', 'suspended', 'reinstated', 'withdrawn'].includes(form.kind)"
        /></label>
        <p v-if="problem" role="alert">
          <strong>{{ problem }}</strong>
        </p>
        <Button type="primary" html-type="submit">Record</Button>
        <p class="quiet">Events are only added, never changed. A mistake is put right by a further event.</p>
      </form>
    </Modal>
  </div>
</template>

<style scoped>
.standings {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(400px, 1fr));
  gap: 0.9rem;
}
.standings li {
  display: flex;
  gap: 1rem;
  padding: 0.9rem 1rem;
}
.next {
  margin-top: 0.3rem;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr);
  gap: 1.5rem;
}
.history li {
  display: flex;
  gap: 0.9rem;
  padding: 0.55rem 0.9rem;
  border-bottom: 1px solid var(--line);
  align-items: baseline;
}
.history li:last-child {
  border-bottom: 0;
}
.when {
  min-width: 9.5rem;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .standings {
    grid-template-columns: minmax(0, 1fr);
  }
  .history li {
    flex-wrap: wrap;
  }
}
</style>
