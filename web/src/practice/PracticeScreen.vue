<script setup lang="ts">
import type { PracticeSet } from '@rounds/contract/practice';
import { DRILL_FORMS, type DrillForm } from '@rounds/core/drill';
import { refDebounced } from '@vueuse/core';
import { Button, Form } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../device/session';
import ChoiceField from '../parts/ChoiceField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { usePeopleLike, usePersonPractice } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { moment } from '../parts/words';
import { FORM_WORDS } from './formWords';
import { beginOffline } from './offlineDrills';
import OfflinePractice from './OfflinePractice.vue';
import PracticeOverview from './PracticeOverview.vue';
import PracticeRecord from './PracticeRecord.vue';
import PracticeSets from './PracticeSets.vue';
import { usePracticeClasses, useStartDrill } from './queries';
import SetPractice from './SetPractice.vue';
import { useOfflinePractice } from './useOfflinePractice';

/** Practise: begin a walk-round drill, and see what was practised, what is forgotten and what comes next. */
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
const start = useStartDrill();
const problem = ref<unknown>(null);
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
const form = ref<DrillForm>('round');
const missing = computed(() => {
  if (!chosen.value) return 'Choose the class first.';
  return form.value === 'station' && !station.value ? 'Choose the station first.' : '';
});
/** The number of the drill to be dealt: a second press deals no second one. */
let number = uuidv7();
watch([classId, variant, form, station, personId], () => (number = uuidv7()));
async function begin() {
  if (away.value) return beginHere();
  problem.value = null;
  try {
    const made = await start.mutateAsync({
      body: {
        id: number,
        classId: classId.value,
        variant: variant.value,
        form: form.value,
        station: form.value === 'station' ? station.value : null,
        personId: personId.value || null,
      },
    });
    await router.push(`/practise/${made.id}`);
  } catch (error) {
    problem.value = error;
  }
}
const setting = ref(false);
/** A drill that was set, ready to begin. */
async function takeUp(set: PracticeSet) {
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
    <h1>Practise</h1>
    <div class="columns">
      <Form v-if="drills" layout="vertical" class="sheet pad begin" @submit.prevent="begin">
        <h2>Walk-round drill</h2>
        <p class="quiet">
          A machine with faults nobody has told you of. Walk round, check, call what you find.
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
        <FieldItem v-slot="{ id }" label="Class">
          <ChoiceField
            :id="id"
            v-model:value="classId"
            label="Class"
            placeholder="Choose the class"
            :options="offered.map((each) => ({ value: each.id, label: each.title }))"
          />
        </FieldItem>
        <FieldItem v-if="chosen && chosen.variants.length > 1" v-slot="{ id }" label="Kind">
          <ChoiceField
            :id="id"
            v-model:value="variant"
            label="Kind"
            :options="chosen.variants.map((each) => ({ value: each.id, label: each.name }))"
          />
        </FieldItem>
        <div class="forms" role="group" aria-label="Which drill">
          <button
            v-for="each in DRILL_FORMS"
            :key="each"
            type="button"
            class="big form"
            :aria-pressed="form === each"
            @click="form = each"
          >
            <strong>{{ FORM_WORDS[each].name }}</strong>
            <span>{{ FORM_WORDS[each].more }}</span>
          </button>
        </div>
        <FieldItem v-if="form === 'station' && chosen" v-slot="{ id }" label="Station">
          <ChoiceField
            :id="id"
            v-model:value="station"
            label="Station"
            placeholder="Choose the station"
            :options="
              chosen.stations.map((each) => ({
                value: each.id,
                label: each.name,
                more: `${each.parts} parts`,
              }))
            "
          />
        </FieldItem>
        <ProblemAlert v-if="!away" :problem="problem" />
        <Button
          type="primary"
          html-type="submit"
          block
          :disabled="missing !== ''"
          :loading="start.isLoading.value"
        >
          {{ away ? 'Begin, for yourself' : 'Begin' }}
        </Button>
        <Button v-if="trains && !away" block :disabled="missing !== ''" @click="setting = true"
          >Set it to people</Button
        >
        <p v-if="missing" class="quiet small">{{ missing }}</p>
        <ul v-if="practice.data.value?.open.length" class="open" aria-label="Drills not ended">
          <li v-for="each in practice.data.value.open" :key="each.id">
            <RouterLink :to="`/practise/${each.id}`"
              >Go on: {{ each.classTitle }}, begun {{ moment(each.startedAt) }}</RouterLink
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
.forms {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.5rem;
}
.form {
  align-items: flex-start;
  text-align: left;
  font-weight: 400;
  gap: 0.2rem;
  padding: 0.6rem 0.7rem;
}
.form span {
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
