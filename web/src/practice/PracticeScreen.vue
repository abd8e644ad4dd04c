<script setup lang="ts">
import type { PracticeSet } from '@rounds/contract/practice';
import { DRILL_FORMS } from '@rounds/core/drill';
import { refDebounced } from '@vueuse/core';
import { Button, Form, Segmented } from 'ant-design-vue';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../device/session';
import ClassFields from '../parts/ClassFields.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { usePeopleLike, usePersonPractice } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { moment } from '../parts/words';
import BenchOptions from './BenchOptions.vue';
import CommandOptions from '../commands/CommandOptions.vue';
import DeskOptions from '../desk/DeskOptions.vue';
import DrillOptions from './DrillOptions.vue';
import { type What, WHAT_WORDS, WHATS } from './formWords';
import { beginOffline } from './offlineDrills';
import OfflinePractice from './OfflinePractice.vue';
import PracticeOverview from './PracticeOverview.vue';
import PracticeRecord from './PracticeRecord.vue';
import PracticeSets from './PracticeSets.vue';
import { usePracticeClasses } from './queries';
import SetPractice from './SetPractice.vue';
import { useAsked } from './useAsked';
import { useOfflinePractice } from './useOfflinePractice';

/** Practise: begin a walk-round drill or a bench, and see what was practised, what is forgotten and what comes next. */
const session = useSession();
const route = useRoute();
const router = useRouter();
const trains = session.is('trainer', 'administrator');
const drills = trains || session.is('operator');
const queried = (name: string) => (typeof route.query[name] === 'string' ? String(route.query[name]) : '');

const personId = ref(queried('person') || (session.account?.personId ?? ''));
const search = ref('');
const settled = refDebounced(search, 180);
const learners = usePeopleLike(
  () => settled.value,
  () => !session.is('operator'),
);
const practice = usePersonPractice(() => personId.value);
const personChoices = computed(() => {
  const found = (learners.data.value?.rows ?? []).map(({ person }) => ({
    value: person.id,
    label: `${person.givenName} ${person.familyName}`,
    more: `${person.payroll}, ${person.team}`,
  }));
  const chosen = practice.data.value?.person;
  if (!chosen || chosen.id !== personId.value || found.some((each) => each.value === chosen.id)) return found;
  return [{ value: chosen.id, label: chosen.name, more: '' }, ...found];
});

const classes = usePracticeClasses();
const classId = ref(queried('class'));
const offline = useOfflinePractice();
const isOffline = (error: unknown) => (error as { code?: string } | null)?.code === 'offline';
/** Why something could not be begun. */
const refused = ref<unknown>(null);
/** The server cannot be reached: what the device keeps can still be practised. */
const away = computed(() => isOffline(classes.error.value) || isOffline(refused.value));
/** What there is to practise, from the server or from this device. */
const offered = computed(() => {
  if (!away.value) return classes.data.value?.classes ?? [];
  const kept = offline.kept.value;
  return [...new Set(kept.map((each) => each.classId))].map((id) => {
    const own = kept.filter((each) => each.classId === id);
    return {
      id,
      title: own[0]!.title,
      variants: own.map((each) => ({ id: each.variant, name: each.variantName })),
      stations: own[0]!.stations,
      programs: [],
      commandPlaces: [],
    };
  });
});
const chosen = computed(() => offered.value.find((each) => each.id === classId.value) ?? null);
const variant = ref('');
watch(
  [() => classes.data.value, () => practice.data.value],
  () => {
    // What was practised last is what most likely goes on.
    if (!classId.value) classId.value = practice.data.value?.classes[0]?.classId ?? '';
  },
  { immediate: true },
);
const asked = useAsked({ classId, variant, personId, chosen, away, trains, first: queried('what') });
const { what, walks, form, station, kind, size, system, timed, missing, problem } = asked;
const { programs, program, mode, surprise, places, calledAt, place, full, task } = asked;
watch(problem, (now) => (refused.value = now));
const kinds = WHATS.map((value) => ({ value, label: WHAT_WORDS[value].name }));
const OPEN = { drill: 'round', bench: 'grading', desk: 'desk', commands: 'commands' } as const;
const begin = () => (away.value ? beginHere() : asked.begin());
const setting = ref(false);
/** What was set, ready to begin. */
async function takeUp(set: PracticeSet) {
  const drill = DRILL_FORMS.find((each) => each === set.form);
  what.value = WHATS.find((each) => each === set.form) ?? 'walk';
  classId.value = set.classId;
  await nextTick();
  variant.value = set.variant;
  if (drill) form.value = drill;
  station.value = set.station ?? '';
  if (!set.program) return;
  program.value = set.program;
  mode.value = 'test';
}
/** Deals a drill on this device, for the learner alone. */
async function beginHere() {
  const kept = offline.kept.value.find(
    (each) => each.classId === classId.value && each.variant === variant.value,
  );
  if (!kept) return;
  const drill = await beginOffline(
    session.account!,
    kept,
    form.value,
    form.value === 'station' ? station.value : null,
  );
  await router.push(`/practise/offline/${drill.id}`);
}
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>Practise</h1>
      <RouterLink v-slot="{ navigate, href }" to="/join" custom
        ><Button v-if="!trains" :href="href" @click="navigate">Join a class exercise</Button></RouterLink
      >
    </div>
    <div class="columns">
      <Form v-if="drills" layout="vertical" class="sheet pad begin" @submit.prevent="begin">
        <Segmented
          v-if="!away"
          class="what"
          :value="what"
          :options="kinds"
          block
          size="large"
          aria-label="What to practise"
          @change="what = $event as What"
        />
        <p class="quiet">
          {{ WHAT_WORDS[walks ? 'walk' : what].says }}
        </p>
        <FieldItem v-if="trains" v-slot="{ id }" label="Who practises">
          <ChoiceField
            :id="id"
            v-model:value="personId"
            label="Who practises"
            placeholder="Nobody: only to try it"
            remote
            clearable
            :loading="learners.isLoading.value"
            :options="personChoices"
            @search="search = $event"
          />
        </FieldItem>
        <ClassFields
          v-model:class-id="classId"
          v-model:variant="variant"
          :classes="offered"
          :variants="chosen?.variants ?? []"
        />

        <DrillOptions
          v-if="walks"
          v-model:form="form"
          v-model:station="station"
          :stations="chosen?.stations ?? []"
        />
        <DeskOptions
          v-else-if="what === 'desk'"
          v-model:program="program"
          v-model:mode="mode"
          v-model:surprise="surprise"
          :programs="programs"
        />
        <CommandOptions
          v-else-if="what === 'commands'"
          v-model:called-at="calledAt"
          v-model:place="place"
          v-model:full="full"
          :places="places"
          :on-machine="trains"
        />
        <BenchOptions
          v-else
          v-model:kind="kind"
          v-model:size="size"
          v-model:system="system"
          v-model:timed="timed"
        />
        <ProblemAlert v-if="!away" :problem="problem" />
        <Button
          type="primary"
          html-type="submit"
          block
          :disabled="missing !== ''"
          :loading="asked.busy.value"
        >
          {{ away ? 'Begin, for yourself' : 'Begin' }}
        </Button>
        <Button v-if="trains && task && !away" block :disabled="missing !== ''" @click="setting = true"
          >Set it to people</Button
        >
        <p v-if="missing" class="quiet small">{{ missing }}</p>
        <ul v-if="practice.data.value?.open.length" class="open" aria-label="Not ended">
          <li v-for="each in practice.data.value.open" :key="each.id">
            <RouterLink :to="`/practise/${each.what === 'drill' ? '' : `${each.what}/`}${each.id}`"
              >Go on: {{ OPEN[each.what] }}, {{ each.classTitle }}, begun
              {{ moment(each.startedAt) }}</RouterLink
            >
          </li>
        </ul>
        <OfflinePractice :offline="offline" :chosen="chosen" :variant="variant" :away="away" />
      </Form>
      <section class="stack" aria-label="Practice record">
        <FieldItem v-if="!drills" v-slot="{ id }" label="Whose practice">
          <ChoiceField
            :id="id"
            v-model:value="personId"
            label="Whose practice"
            placeholder="Find by name or payroll number"
            remote
            clearable
            :loading="learners.isLoading.value"
            :options="personChoices"
            @search="search = $event"
          />
        </FieldItem>
        <StateBox
          v-if="personId && !(away && !practice.data.value)"
          :loading="!practice.data.value && !practice.error.value"
          :error="practice.data.value ? undefined : practice.error.value"
          :empty="
            practice.data.value?.classes.length === 0 &&
            practice.data.value.offline.length + practice.data.value.sets.length === 0
          "
          what="the practice record"
          @retry="practice.refetch()"
        >
          <template #empty>
            <h2>Nothing practised yet</h2>
            <p>The first drill shows what to come back to.</p>
          </template>
          <PracticeSets
            v-if="practice.data.value"
            :sets="practice.data.value.sets"
            :may-begin="drills"
            @take="takeUp"
          />
          <PracticeRecord v-if="practice.data.value" :practice="practice.data.value" />
        </StateBox>
        <PracticeOverview
          v-else-if="!session.is('operator')"
          :class-id="classId"
          :class-title="chosen?.title ?? ''"
          @person="personId = $event"
        />
      </section>
    </div>
    <SetPractice
      v-if="trains && chosen && task"
      v-model:open="setting"
      :class-id="classId"
      :class-title="chosen.title"
      :variant="variant"
      :task="task"
    />
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(320px, 5fr) minmax(0, 7fr);
  gap: 1rem;
  align-items: start;
}
.columns > :only-child {
  grid-column: 1 / -1;
}
.begin {
  display: grid;
  gap: 0.75rem;
}
.begin :deep(.ant-segmented-item-label) {
  display: grid;
  place-content: center;
  padding: 0.2rem 0.3rem;
  text-align: center;
  white-space: normal;
  line-height: 1.2;
}
.begin .what :deep(.ant-segmented-item-label) {
  font-size: 1rem;
  min-height: 48px;
}
@media (max-width: 640px) {
  .begin .what :deep(.ant-segmented-item-label) {
    font-size: 0.9rem;
    padding: 0.2rem 0;
  }
}
/* Of the options, which are parts of their own. */
.begin :deep(.forms) {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.5rem;
}
.begin :deep(.form) {
  align-items: flex-start;
  text-align: left;
  font-weight: 400;
  gap: 0.2rem;
  padding: 0.6rem 0.7rem;
}
.begin :deep(.form:last-child:nth-child(odd)) {
  grid-column: 1 / -1;
}
.begin :deep(.form span) {
  font-size: 0.88rem;
}
.open li {
  min-height: 44px;
  display: flex;
  align-items: center;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
