<script setup lang="ts">
import { EllipsisOutlined } from '@ant-design/icons-vue';
import { assessRoutes } from '@rounds/contract/assess';
import { type StandingStatus, STATUS_WORDS } from '@rounds/core/certification';
import { type Outcome, OUTCOME_WORDS, PHASE_WORDS } from '@rounds/core/evaluation';
import { Alert, Button, MenuItem } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { fileAddress } from '../device/api';
import { useSession } from '../device/session';
import MenuButton from '../parts/MenuButton.vue';
import PagedList from '../parts/PagedList.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useClasses } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { day } from '../parts/words';
import LadderPart from './LadderPart.vue';
import { useChangePerson, usePerson } from './queries';
import RecordEvent from './RecordEvent.vue';
import StandingCard from './StandingCard.vue';
import StartStopTrend from './StartStopTrend.vue';

/** A person: may they operate, what comes, and everything on record. */
const session = useSession();
const id = String(useRoute().params['id']);
const record = usePerson(() => id);
const data = computed(() => record.data.value);
const { title } = useClasses();
const changePerson = useChangePerson();
const open = ref(false);
const problem = ref<unknown>(null);
const office = session.is('trainer', 'administrator', 'supervisor');
const trains = session.is('trainer', 'administrator');

async function setActive(active: boolean) {
  problem.value = null;
  try {
    await changePerson.mutateAsync({ params: { id }, body: { active } });
  } catch (error) {
    problem.value = error;
  }
}
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="!data"
      :error="data ? undefined : record.error.value"
      what="this person's record"
      @retry="record.refetch()"
    >
      <template v-if="data">
        <div class="row spread">
          <div>
            <h1>{{ data.person.givenName }} {{ data.person.familyName }}</h1>
            <p class="quiet">
              Payroll {{ data.person.payroll }}, {{ data.person.team }}, {{ data.person.site
              }}{{ data.person.started ? `, since ${day(data.person.started)}` : '' }}
            </p>
          </div>
          <div v-if="office" class="row">
            <RouterLink
              v-if="trains"
              v-slot="{ navigate, href }"
              :to="{ path: '/assess/new', query: { person: data.person.id } }"
              custom
              ><Button type="primary" :href="href" @click="navigate">Evaluate</Button></RouterLink
            >
            <Button @click="open = true">Record an event</Button>
            <MenuButton v-if="trains" label="More acts">
              <EllipsisOutlined />
              <template #items>
                <MenuItem @click="setActive(!data.person.active)">{{
                  data.person.active ? 'Take off the roster' : 'Put back on the roster'
                }}</MenuItem>
              </template>
            </MenuButton>
          </div>
        </div>
        <ProblemAlert :problem="problem" />
        <Alert
          v-if="!data.person.active"
          type="info"
          :show-icon="false"
          role="status"
          message="Off the roster."
          description="The record is kept; cards of this person no longer answer as valid."
        />
        <section aria-label="Standing by class">
          <p v-if="data.standings.length === 0" class="sheet pad">
            Nothing on record in any class. Start with training, or take over an earlier certificate.
          </p>
          <ul class="standings">
            <StandingCard
              v-for="{ classId, standing } in data.standings"
              :key="classId"
              :class-id="classId"
              :title="title(classId)"
              :standing="standing"
            />
          </ul>
        </section>

        <div class="columns">
          <section class="stack" aria-label="History">
            <h2>History</h2>
            <PagedList
              v-slot="{ row: item }"
              :rows="data.history"
              :size="12"
              nothing="No events yet."
              name="History"
            >
              <span class="when">{{ day(item.on) }}</span>
              <span class="grow"
                ><strong>{{ item.words }}</strong>
                <span class="quiet">{{ title(item.classId) }}, recorded by {{ item.by }}</span></span
              >
              <span class="row">
                <a
                  v-if="item.token"
                  :href="fileAddress(assessRoutes.card, { token: item.token })"
                  target="_blank"
                  >Card</a
                >
                <RouterLink
                  v-if="item.evaluation && item.kind.startsWith('evaluation')"
                  :to="`/assess/${item.evaluation}`"
                  >Evaluation</RouterLink
                >
              </span>
            </PagedList>
          </section>
          <section class="stack" aria-label="What comes">
            <h2>If nothing happens</h2>
            <PagedList
              v-slot="{ row: item }"
              :rows="data.forecast"
              :size="8"
              nothing="No change ahead."
              name="If nothing happens"
            >
              <span class="when">{{ day(item.on) }}</span><span class="grow"
                ><strong>{{ title(item.classId) }}</strong>
                {{ STATUS_WORDS[item.status as StandingStatus].toLowerCase() }}</span
              >
            </PagedList>
            <StartStopTrend :person-id="data.person.id" />
            <h2>Evaluations</h2>
            <PagedList
              v-slot="{ row: item }"
              :rows="data.evaluations"
              :size="8"
              nothing="None made here."
              name="Evaluations"
            >
              <span class="when">{{ day(item.createdAt) }}</span><RouterLink
                class="grow"
                :to="`/assess/${item.id}`"
                >{{ item.classTitle }},
                {{
                  item.outcome
                    ? OUTCOME_WORDS[item.outcome as Outcome]
                    : PHASE_WORDS[item.phase as keyof typeof PHASE_WORDS]
                }}</RouterLink
              ><strong>{{ item.score === null ? '' : `${item.score} %` }}</strong>
            </PagedList>
          </section>
        </div>
        <LadderPart :person-id="data.person.id" />
        <RecordEvent v-model:open="open" :person-id="id" />
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.standings {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(400px, 1fr));
  gap: 0.9rem;
}
.columns {
  display: grid;
  grid-template-columns: minmax(0, 1.4fr) minmax(0, 1fr);
  gap: 1.5rem;
}
.when {
  flex: 0 0 9.5rem;
}
@media (max-width: 900px) {
  .columns,
  .standings {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
