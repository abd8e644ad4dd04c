<script setup lang="ts">
import type { KeptPlan } from '@rounds/contract/teach';
import type { Pack } from '@rounds/core/catalogue';
import {
  type Direction,
  DIRECTIONS,
  LESSON_SUBJECTS,
  type LessonItem,
  type LessonSubject,
  lessonSeconds,
  lessonSlides,
  lessonStations,
  proposeLesson,
} from '@rounds/core/teaching';
import { until } from '@vueuse/core';
import { useSortable } from '@vueuse/integrations/useSortable';
import { Button, Form, InputNumber, Segmented } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import ClassFields from '../parts/ClassFields.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useClasses, useMachineClass } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { useFitOut } from '../parts/useFitOut';
import { day, duration } from '../parts/words';
import KeptPlans from './KeptPlans.vue';
import { useLessons, useStartLesson } from './queries';

/** Teach: a lesson on any class is proposed, put into the order the trainer wants, and begun; lessons given so far. */
const SUBJECT_WORDS: Readonly<Record<LessonSubject, string>> = {
  round: 'Walk-round',
  startup: 'Startup',
  shutdown: 'Shutdown',
};
const DIRECTION_WORDS: Readonly<Record<Direction, string>> = {
  clockwise: 'Clockwise',
  anticlockwise: 'Anticlockwise',
};
const KIND_WORDS: Readonly<Record<LessonItem['kind'], string>> = {
  opening: 'Opening',
  station: 'Station',
  check: 'Check',
  fault: 'Fault',
  school: 'Where people differ',
  step: 'Step',
  closing: 'Closing',
};
const route = useRoute();
const router = useRouter();
const classes = useClasses();
const usable = computed(() => classes.list.value.filter((each) => each.revision !== null));
const classId = ref(typeof route.query['class'] === 'string' ? route.query['class'] : '');
const site = ref('');
const machineClass = useMachineClass(
  () => classId.value,
  () => site.value || undefined,
);
const sites = computed(() => machineClass.data.value?.sites ?? []);
const pack = computed(() => {
  const found = machineClass.data.value;
  return found?.summary.id === classId.value ? (found.pack as Pack | null) : null;
});
const choices = computed(() => (site.value === '' ? {} : (machineClass.data.value?.choices ?? {})));
const policy = computed(() => machineClass.data.value?.policy ?? []);
const { variant, effective } = useFitOut(pack, choices, policy);

const subject = ref<LessonSubject>('round');
const direction = ref<Direction>('clockwise');
const start = ref('');
const minutes = ref(45);
watch(classId, () => (start.value = ''));
const stations = computed(() =>
  effective.value ? lessonStations(effective.value, 'clockwise', null).map((each) => each.station) : [],
);
const keyed = (list: readonly LessonItem[]) => list.map((item) => ({ key: `${item.kind} ${item.id}`, item }));
const items = ref<{ key: string; item: LessonItem }[]>([]);
/** A kept lesson on its way in: its order stands instead of a proposal once its class is there. */
let taking: KeptPlan | null = null;
// By its content: the same class fetched anew leaves the order that the trainer made.
watch(
  [() => effective.value?.hash, subject, direction, start, minutes],
  () => {
    if (!effective.value) return void (items.value = []);
    if (taking?.classId === effective.value.id) {
      items.value = keyed(taking.plan.items);
      return;
    }
    const plan = proposeLesson(effective.value, {
      subject: subject.value,
      direction: direction.value,
      start: start.value || null,
      minutes: minutes.value || 45,
    });
    items.value = keyed(plan.items);
  },
  { immediate: true },
);
/** Takes a kept lesson out again: its class, how it is done, and its order. */
async function take(kept: KeptPlan) {
  taking = kept;
  classId.value = kept.classId;
  site.value = kept.site ?? '';
  subject.value = kept.plan.subject;
  direction.value = kept.plan.direction;
  await nextTick();
  start.value = kept.plan.start ?? '';
  await until(() => effective.value?.id === kept.classId).toBe(true);
  variant.value = kept.variant;
  await nextTick();
  items.value = keyed(kept.plan.items);
  taking = null;
}
const planned = computed(() =>
  effective.value
    ? { classId: classId.value, variant: variant.value, site: site.value || null, plan: plan.value }
    : null,
);
const plan = computed(() => ({
  subject: subject.value,
  direction: direction.value,
  start: start.value || null,
  items: items.value.map((each) => each.item),
}));
const slides = computed(() => (effective.value ? lessonSlides(effective.value, plan.value) : []));
const slideOf = (key: string) =>
  slides.value.find((each) => `${each.item.kind} ${each.item.id}` === key) ?? null;

const list = useTemplateRef<HTMLElement>('list');
useSortable(list, items, { handle: '.handle', animation: 120, watchElement: true });
async function moveBy(index: number, by: number) {
  const to = index + by;
  if (to < 0 || to >= items.value.length) return;
  const next = [...items.value];
  next.splice(to, 0, ...next.splice(index, 1));
  items.value = next;
  await nextTick();
  list.value?.querySelectorAll<HTMLElement>('.handle')[to]?.focus();
}
const leaveOut = (key: string) => (items.value = items.value.filter((each) => each.key !== key));

const begin = useStartLesson();
const problem = ref<unknown>(null);
/** The number of the lesson to be begun: a second press begins no second one. */
let number = uuidv7();
watch([plan, variant, site], () => (number = uuidv7()));
async function go() {
  problem.value = null;
  try {
    const { id } = await begin.mutateAsync({
      body: {
        id: number,
        classId: classId.value,
        variant: variant.value,
        site: site.value || null,
        plan: plan.value,
      },
    });
    await router.push(`/teach/${id}`);
  } catch (error) {
    problem.value = error;
  }
}
const lessons = useLessons();
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>Teach</h1>
      <RouterLink v-slot="{ navigate, href }" to="/teach/exercise" custom
        ><Button :href="href" @click="navigate">Class exercise</Button></RouterLink
      >
      <Button v-if="effective" type="primary" :loading="begin.isLoading.value" @click="go"
        >Begin the lesson</Button
      >
    </div>
    <ProblemAlert :problem="problem" />
    <div class="columns">
      <div class="stack">
        <Form layout="vertical" class="sheet pad fields">
          <ClassFields
            v-model:class-id="classId"
            v-model:variant="variant"
            :classes="usable"
            :variants="pack?.variants ?? []"
          />
          <template v-if="pack">
            <Segmented
              v-model:value="subject"
              :options="LESSON_SUBJECTS.map((each) => ({ value: each, label: SUBJECT_WORDS[each] }))"
              aria-label="What it is about"
            />
            <template v-if="subject === 'round'">
              <Segmented
                v-model:value="direction"
                :options="DIRECTIONS.map((each) => ({ value: each, label: DIRECTION_WORDS[each] }))"
                aria-label="Which way round"
              />
              <FieldItem v-slot="{ id }" label="Begins at">
                <ChoiceField
                  :id="id"
                  v-model:value="start"
                  label="Begins at"
                  clearable
                  :placeholder="stations[0]?.name ?? 'The first station'"
                  :options="stations.map((each) => ({ value: each.id, label: each.name }))"
                />
              </FieldItem>
              <FieldItem v-slot="{ id }" label="About how many minutes">
                <InputNumber :id="id" v-model:value="minutes" :min="10" :max="480" :step="5" />
              </FieldItem>
            </template>
            <FieldItem v-slot="{ id }" label="As this site does it">
              <ChoiceField
                :id="id"
                v-model:value="site"
                label="As this site does it"
                clearable
                placeholder="As the class is written"
                :options="sites.map((each) => ({ value: each, label: each }))"
              />
            </FieldItem>
          </template>
        </Form>
        <KeptPlans :planned="planned" :subjects="SUBJECT_WORDS" @take="take" />
        <section class="sheet pad" aria-label="Lessons">
          <h2>Lessons</h2>
          <StateBox
            :loading="!lessons.data.value && !lessons.error.value"
            :error="lessons.data.value ? undefined : lessons.error.value"
            what="the lessons"
            :lines="3"
            @retry="lessons.refetch()"
          >
            <p v-if="lessons.data.value?.rows.length === 0" class="quiet">None given yet.</p>
            <ul>
              <li v-for="each in lessons.data.value?.rows.slice(0, 10)" :key="each.id" class="lesson">
                <RouterLink v-if="each.presents" :to="`/teach/${each.id}`"
                  >Go on: {{ each.classTitle }}</RouterLink
                >
                <strong v-else>{{ each.classTitle }}</strong>
                <span class="quiet"
                  >{{ SUBJECT_WORDS[each.subject] }}, {{ day(each.on) }}, {{ each.trainer
                  }}{{ each.ended ? `, ${each.attended} attended` : '' }}</span
                >
              </li>
            </ul>
          </StateBox>
        </section>
      </div>
      <section v-if="effective" class="sheet pad plan" aria-label="Plan of the lesson">
        <div class="row spread">
          <h2>{{ items.length }} things, {{ duration(lessonSeconds(slides)) }}</h2>
          <span class="quiet">Drag to put in order, or use the arrow keys on a handle.</span>
        </div>
        <ol ref="list" class="list">
          <li v-for="(each, i) in items" :key="each.key" class="thing" :class="each.item.kind">
            <button
              type="button"
              class="handle"
              :aria-label="`Move: ${slideOf(each.key)?.heading ?? each.key}`"
              @keydown.up.prevent="moveBy(i, -1)"
              @keydown.down.prevent="moveBy(i, 1)"
            >
              <svg viewBox="0 0 16 16" width="16" height="16" aria-hidden="true">
                <path d="M3 5h10M3 8h10M3 11h10" />
              </svg>
            </button>
            <span class="grow">
              {{ slideOf(each.key)?.heading ?? 'Not on this machine' }}
              <span class="quiet small">{{ KIND_WORDS[each.item.kind] }}</span>
            </span>
            <span class="quiet time">{{ duration(slideOf(each.key)?.seconds ?? 0) }}</span>
            <Button
              type="text"
              :aria-label="`Leave out: ${slideOf(each.key)?.heading ?? each.key}`"
              @click="leaveOut(each.key)"
              >Leave out</Button
            >
          </li>
        </ol>
      </section>
      <p v-else class="sheet pad quiet">
        {{
          classId
            ? 'Fetching the class …'
            : 'Choose a class: a lesson is proposed, station by station along the ring or step by step along the rail.'
        }}
      </p>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(280px, 4fr) minmax(0, 8fr);
  gap: 1rem;
  align-items: start;
}
.fields {
  display: grid;
  gap: 0.7rem;
}
.list {
  list-style: none;
  padding: 0;
}
.thing {
  display: flex;
  align-items: center;
  gap: 0.6rem;
  border-top: 1px solid var(--line);
  min-height: 48px;
  background: var(--sheet);
}
.thing.station {
  font-weight: 700;
}
.thing.check {
  padding-left: 1.2rem;
}
.thing.fault {
  padding-left: 2.4rem;
}
.handle {
  width: 44px;
  height: 44px;
  border: 0;
  background: none;
  cursor: grab;
  color: var(--ink);
}
.handle path {
  stroke: currentColor;
  stroke-width: 1.8;
  stroke-linecap: round;
}
.time {
  white-space: nowrap;
}
.small {
  font-weight: 400;
}
.lesson {
  display: flex;
  flex-direction: column;
  padding: 0.4rem 0;
  border-top: 1px solid var(--line);
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
