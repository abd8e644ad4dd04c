<script setup lang="ts">
import type { ExerciseSet, PreparedFinding } from '@rounds/contract/exercise';
import { BENCH_FORMS, type BenchForm } from '@rounds/core/bench';
import { GRADES } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import type { UnitSystem } from '@rounds/core/measuring';
import { useLocalStorage } from '@vueuse/core';
import { Button, Form, Input, InputNumber } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import GradeDisc from '../drawing/GradeDisc.vue';
import ClassFields from '../parts/ClassFields.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FieldItem from '../parts/FieldItem.vue';
import FindingCard from '../parts/FindingCard.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import { useChosenClass } from '../parts/useChosenClass';
import { amount, day } from '../parts/words';
import {
  useDropSet,
  useExercises,
  useExerciseSets,
  useKeepSet,
  useOpenSet,
  useProposeFindings,
  useStartExercise,
} from './queries';

/**
 * Prepare a class exercise: findings of a class level over the grades, each of which may be left out, moved or changed
 * for another; kept to be put again, or put to a room at once.
 */
const router = useRouter();
const problem = ref<unknown>(null);
const { usable, classId, pack, variants, variant, sites } = useChosenClass();
const site = ref('');
const form = ref<BenchForm | ''>('all');
const size = ref(10);
const system = useLocalStorage<UnitSystem>('rounds-units', 'si');
const title = ref('');
const findings = ref<PreparedFinding[]>([]);
/** The set that is being changed; a new one where nothing was taken up. */
const setId = ref(uuidv7());
const FORM_WORDS: Readonly<Record<BenchForm, string>> = {
  all: 'Of every kind',
  words: 'Seen, felt or heard',
  drawing: 'That can be drawn',
  measured: 'Measured',
};

const about = () => ({ classId: classId.value, variant: variant.value, site: site.value || null });
const seed = () => crypto.getRandomValues(new Uint32Array(1))[0]! >>> 1;
const proposing = useProposeFindings();
async function ask(wanted: number) {
  const { findings: found } = await proposing.mutateAsync({
    body: { ...about(), form: form.value || 'all', system: system.value, size: wanted, seed: seed() },
  });
  return found;
}
async function attempt(what: () => Promise<unknown>) {
  problem.value = null;
  try {
    await what();
  } catch (error) {
    problem.value = error;
  }
}
const propose = () =>
  attempt(async () => {
    findings.value = await ask(size.value);
  });
const placeOf = ({ case: { checkpoint, reading } }: PreparedFinding) =>
  `${checkpoint} ${reading?.quantity ?? ''}`;
/** Another finding of the same grade in place of one, which is not in the set yet. */
const change = (at: number) =>
  attempt(async () => {
    const taken = new Set(findings.value.map(placeOf));
    const wanted = findings.value[at]!.key.grade;
    for (let tries = 0; tries < 3; tries++) {
      const other = (await ask(24)).find((each) => each.key.grade === wanted && !taken.has(placeOf(each)));
      if (other) return void findings.value.splice(at, 1, other);
    }
    throw new Error(`The class has no other finding that is a ${wanted}. Leave this one out instead.`);
  });
const leave = (at: number) => findings.value.splice(at, 1);
function shift(at: number, by: 1 | -1) {
  const [moved] = findings.value.splice(at, 1);
  findings.value.splice(at + by, 0, moved!);
}
watch([classId, variant, site], () => (findings.value = []), { flush: 'sync' });
const levels = computed(() =>
  GRADES.map((grade) => ({
    grade,
    count: findings.value.filter((each) => each.key.grade === grade).length,
  })),
);

const sets = useExerciseSets();
const keeping = useKeepSet();
const dropping = useDropSet();
const said = ref('');
const keep = () =>
  attempt(async () => {
    await keeping.mutateAsync({
      params: { id: setId.value },
      body: { title: title.value, ...about(), cases: findings.value.map((each) => each.case) },
    });
    said.value = `Kept as “${title.value}”.`;
  });
const opening = useOpenSet();
/** Takes up a kept set as it is by now: to be changed by whoever kept it, else to make another of it. */
const takeUp = (set: ExerciseSet) =>
  attempt(async () => {
    const opened = await opening.mutateAsync({ params: { id: set.id } });
    classId.value = opened.classId;
    variant.value = opened.variant;
    site.value = opened.site ?? '';
    title.value = opened.title;
    findings.value = opened.findings;
    setId.value = set.own ? set.id : uuidv7();
    said.value = '';
  });
watch([title, findings], () => (said.value = ''), { deep: true });

const starting = useStartExercise();
/** The number of the room to be opened: a second press opens no second one. */
let number = uuidv7();
watch([title, findings], () => (number = uuidv7()), { deep: true });
const start = () =>
  attempt(async () => {
    const room = await starting.mutateAsync({
      body: {
        id: number,
        title: title.value.trim() || `${pack.value?.title ?? 'Class'} exercise`,
        ...about(),
        cases: findings.value.map((each) => each.case),
      },
    });
    await router.push(`/teach/exercise/${room.id}`);
  });
const rooms = useExercises();
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>Class exercise</h1>
      <Button
        v-if="findings.length"
        type="primary"
        size="large"
        :loading="starting.isLoading.value"
        @click="start"
        >Open the room</Button
      >
    </div>
    <ProblemAlert :problem="problem" />
    <div class="columns">
      <div class="stack">
        <Form layout="vertical" class="sheet pad fields" @submit.prevent="propose">
          <p class="quiet">
            Everybody grades the same findings on their own phone; the room sees how far apart it is, and why.
          </p>
          <ClassFields
            v-model:class-id="classId"
            v-model:variant="variant"
            :classes="usable"
            :variants="variants"
          />

          <FieldItem v-if="pack" v-slot="{ id }" label="As this site grades it">
            <ChoiceField
              :id="id"
              v-model:value="site"
              label="As this site grades it"
              clearable
              placeholder="As the class is written"
              :options="sites.map((each) => ({ value: each, label: each }))"
            />
          </FieldItem>
          <FieldItem v-slot="{ id }" label="Which findings">
            <ChoiceField
              :id="id"
              v-model:value="form"
              label="Which findings"
              :options="BENCH_FORMS.map((each) => ({ value: each, label: FORM_WORDS[each] }))"
            />
          </FieldItem>
          <FieldItem v-slot="{ id }" label="How many">
            <InputNumber :id="id" v-model:value="size" :min="1" :max="40" :precision="0" />
          </FieldItem>
          <Button
            html-type="submit"
            :type="findings.length ? 'default' : 'primary'"
            block
            :disabled="!pack || !variant"
            :loading="proposing.isLoading.value"
            >{{ findings.length ? 'Propose others' : 'Propose findings' }}</Button
          >
        </Form>
        <section class="sheet pad" aria-label="Kept sets">
          <h2>Kept sets</h2>
          <p v-if="sets.data.value?.sets.length === 0" class="quiet">None kept yet.</p>
          <ul class="list">
            <li v-for="each in sets.data.value?.sets ?? []" :key="each.id">
              <span
                ><strong>{{ each.title }}</strong
                ><span class="quiet small"
                  >{{ each.classTitle }}, {{ amount(each.findings, 'finding') }}, {{ each.by }}</span
                ></span
              >
              <span class="row keep"
                ><Button size="small" @click="takeUp(each)">Take up</Button
                ><Button
                  v-if="each.own"
                  size="small"
                  danger
                  :aria-label="`Drop ${each.title}`"
                  @click="attempt(() => dropping.mutateAsync({ params: { id: each.id } }))"
                  >Drop</Button
                ></span
              >
            </li>
          </ul>
        </section>
        <section class="sheet pad" aria-label="Exercises">
          <h2>Exercises</h2>
          <StateBox
            :loading="!rooms.data.value && !rooms.error.value"
            :error="rooms.data.value ? undefined : rooms.error.value"
            what="the exercises"
            :lines="3"
            @retry="rooms.refetch()"
          >
            <p v-if="rooms.data.value?.rows.length === 0" class="quiet">None given yet.</p>
            <ul class="list">
              <li v-for="each in rooms.data.value?.rows.slice(0, 10)" :key="each.id">
                <span>
                  <RouterLink v-if="each.own && !each.ended" :to="`/teach/exercise/${each.id}`"
                    >Go on: {{ each.title }}</RouterLink
                  >
                  <RouterLink v-else-if="each.own" :to="`/teach/exercise/${each.id}/report`">{{
                    each.title
                  }}</RouterLink>
                  <strong v-else>{{ each.title }}</strong>
                  <span class="quiet small"
                    >{{ each.classTitle }}, {{ day(each.startedAt) }}, {{ each.trainer }},
                    {{ amount(each.people, 'person', 'people') }},
                    {{ amount(each.findings, 'finding') }}</span
                  >
                </span>
              </li>
            </ul>
          </StateBox>
        </section>
      </div>
      <section class="sheet pad stack" aria-label="Findings">
        <div v-if="findings.length" class="row keep">
          <Input v-model:value="title" :maxlength="80" placeholder="Title" aria-label="Title" />
          <Button :disabled="!title.trim()" :loading="keeping.isLoading.value" @click="keep"
            >Keep this set</Button
          >
        </div>
        <p v-if="said" role="status">{{ said }}</p>
        <p v-if="findings.length" class="levels">
          <span v-for="each in levels" :key="each.grade"
            ><GradeDisc :grade="each.grade" :size="18" /> {{ GRADE_WORDS[each.grade] }} {{ each.count }}</span
          >
        </p>
        <p v-else class="quiet">Choose a class, and findings are proposed: as many of each grade.</p>
        <ol class="findings" aria-label="Findings in their order">
          <li v-for="(each, i) in findings" :key="`${placeOf(each)} ${each.case.fault}`">
            <div class="key">
              <GradeDisc :grade="each.key.grade" :size="28" :label="GRADE_WORDS[each.key.grade]" />
            </div>
            <FindingCard :finding="each.finding" figures small class="grow" />
            <div class="acts">
              <Button
                size="small"
                :disabled="i === 0"
                :aria-label="`Move up: ${each.finding.part}`"
                @click="shift(i, -1)"
                >Up</Button
              >
              <Button
                size="small"
                :disabled="i === findings.length - 1"
                :aria-label="`Move down: ${each.finding.part}`"
                @click="shift(i, 1)"
                >Down</Button
              >
              <Button size="small" :aria-label="`Another in place of ${each.finding.part}`" @click="change(i)"
                >Another</Button
              >
              <Button size="small" :aria-label="`Leave out: ${each.finding.part}`" @click="leave(i)"
                >Leave out</Button
              >
            </div>
          </li>
        </ol>
      </section>
    </div>
  </div>
</template>

<style scoped>
.columns {
  display: grid;
  grid-template-columns: minmax(300px, 380px) minmax(0, 1fr);
  gap: 1rem;
  align-items: start;
}
.fields {
  display: grid;
  gap: 0.6rem;
}
.list {
  list-style: none;
  display: grid;
}
.list li {
  display: flex;
  justify-content: space-between;
  align-items: center;
  gap: 0.6rem;
  padding: 0.45rem 0;
  border-bottom: 1px solid var(--line);
}
.list .small {
  display: block;
}
.keep {
  flex-wrap: nowrap;
}
.levels {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 1.2rem;
}
.findings {
  list-style: none;
  display: grid;
}
.findings li {
  display: flex;
  gap: 0.8rem;
  padding: 0.7rem 0;
  border-bottom: 1px solid var(--line);
}
.acts {
  display: grid;
  grid-template-columns: auto auto;
  gap: 0.3rem;
  align-content: start;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .findings li {
    flex-wrap: wrap;
  }
}
</style>
