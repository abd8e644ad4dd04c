<script setup lang="ts">
import type { PracticeSet } from '@rounds/contract/practice';
import type { BenchKind } from '@rounds/contract/bench';
import type { DrillForm } from '@rounds/core/drill';
import type { DeskProgram } from '@rounds/core/machine';
import type { UnitSystem } from '@rounds/core/measuring';
import { refDebounced, useLocalStorage } from '@vueuse/core';
import { Button, Form, Segmented } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
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
import DeskOptions from '../desk/DeskOptions.vue';
import DrillOptions from './DrillOptions.vue';
import { beginOffline } from './offlineDrills';
import OfflinePractice from './OfflinePractice.vue';
import PracticeOverview from './PracticeOverview.vue';
import PracticeRecord from './PracticeRecord.vue';
import PracticeSets from './PracticeSets.vue';
import { usePracticeClasses } from './queries';
import SetPractice from './SetPractice.vue';
import { useBegin } from './useBegin';
import { useOfflinePractice } from './useOfflinePractice';

/** Practise: begin a walk-round drill or a bench, and see what was practised, what is forgotten and what comes next. */
const session = useSession();
const route = useRoute();
const router = useRouter();
const trains = session.is('trainer', 'administrator');
const drills = trains || session.is('operator');
const asked = (name: string) => (typeof route.query[name] === 'string' ? String(route.query[name]) : '');

const personId = ref(asked('person') || (session.account?.personId ?? ''));
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
const classId = ref(asked('class'));
const beginning = useBegin();
const { problem } = beginning;
const offline = useOfflinePractice();
const isOffline = (error: unknown) => (error as { code?: string } | null)?.code === 'offline';
/** The server cannot be reached: what the device keeps can still be practised. */
const away = computed(() => isOffline(classes.error.value) || isOffline(problem.value));
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
    };
  });
});
const chosen = computed(() => offered.value.find((each) => each.id === classId.value) ?? null);
const variant = ref('');
const station = ref('');
// By its id: the same class fetched anew leaves what was chosen.
watch(
  () => chosen.value?.id,
  () => {
    variant.value = chosen.value?.variants[0]?.id ?? '';
    station.value = '';
  },
);
watch(
  [() => classes.data.value, () => practice.data.value],
  () => {
    // What was practised last is what most likely goes on.
    if (!classId.value) classId.value = practice.data.value?.classes[0]?.classId ?? '';
  },
  { immediate: true },
);
/** A round to walk, findings to grade, or a machine to start and stop. Without a network there are rounds alone. */
type What = 'walk' | 'bench' | 'desk';
const what = ref<What>((['bench', 'desk'] as const).find((each) => each === asked('what')) ?? 'walk');
const walks = computed(() => what.value === 'walk' || away.value);
const WHAT: { value: What; label: string }[] = [
  { value: 'walk', label: 'Walk round' },
  { value: 'bench', label: 'Grade findings' },
  { value: 'desk', label: 'Start and stop' },
];
const OPEN = { drill: 'round', bench: 'grading', desk: 'desk' } as const;
const SAYS: Readonly<Record<What, string>> = {
  walk: 'A machine with faults nobody has told you of. Walk round, check, call what you find.',
  bench: 'Findings one after the other: how bad is it, what do you do, by when? Then the key, and why.',
  desk: 'The machine itself, to start, stop and work. Make the expensive mistakes here.',
};
const form = ref<DrillForm>('round');
const kind = ref<BenchKind>('all');
const size = ref(12);
const system = useLocalStorage<UnitSystem>('rounds-units', 'si');
const timed = ref<number | null>(null);
const programs = computed(() => chosen.value?.programs ?? []);
const program = ref<DeskProgram>('start');
const mode = ref<'guided' | 'test'>('guided');
const surprise = ref(false);
watch(programs, (now) => {
  if (!now.includes(program.value)) program.value = now[0] ?? 'free';
});
const missing = computed(() => {
  if (!chosen.value) return 'Choose the class first.';
  if (!walks.value && what.value === 'desk')
    return programs.value.length === 0 ? 'This class has no desk yet.' : '';
  return walks.value && form.value === 'station' && !station.value ? 'Choose the station first.' : '';
});
/** The number of what is to be dealt: a second press deals no second one. */
let number = uuidv7();
watch(
  [classId, variant, what, form, station, kind, size, system, timed, program, mode, surprise, personId],
  () => (number = uuidv7()),
);
async function begin() {
  if (away.value) return beginHere();
  const common = {
    id: number,
    classId: classId.value,
    variant: variant.value,
    personId: personId.value || null,
  };
  if (walks.value)
    return beginning.drill({
      ...common,
      form: form.value,
      station: form.value === 'station' ? station.value : null,
    });
  if (what.value === 'bench')
    return beginning.bench({
      ...common,
      kind: kind.value,
      size: size.value,
      system: system.value,
      timed: timed.value,
    });
  return beginning.desk({
    ...common,
    program: program.value,
    mode: program.value === 'free' ? 'free' : mode.value,
    surprise: surprise.value,
  });
}
const setting = ref(false);
/** A drill that was set, ready to begin. */
async function takeUp(set: PracticeSet) {
  what.value = 'walk';
  classId.value = set.classId;
  form.value = set.form;
  await nextTick();
  variant.value = set.variant;
  station.value = set.station ?? '';
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
          :value="what"
          :options="WHAT"
          block
          size="large"
          aria-label="What to practise"
          @change="what = $event as What"
        />
        <p class="quiet">
          {{ SAYS[walks ? 'walk' : what] }}
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
          :loading="beginning.busy.value"
        >
          {{ away ? 'Begin, for yourself' : 'Begin' }}
        </Button>
        <Button v-if="trains && walks && !away" block :disabled="missing !== ''" @click="setting = true"
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
      v-if="trains && chosen"
      v-model:open="setting"
      :class-id="classId"
      :class-title="chosen.title"
      :variant="variant"
      :form="form"
      :station="form === 'station' ? station : null"
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
  text-align: center;
}
@media (max-width: 640px) {
  .begin :deep(.ant-segmented-item-label) {
    display: grid;
    place-content: center;
    padding: 0.2rem 0.3rem;
    white-space: normal;
    line-height: 1.2;
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
