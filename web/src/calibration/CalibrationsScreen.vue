<script setup lang="ts">
import { REPLAY_LENGTHS, type ReplayLength } from '@rounds/core/calibration';
import { Button, Form, Input } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useSession } from '../device/session';
import ClassFields from '../parts/ClassFields.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import DataTable, { type Column } from '../parts/DataTable.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import { useChosenClass } from '../parts/useChosenClass';
import { amount, day } from '../parts/words';
import { useCalibrations, useOpenCalibration } from './queries';

/** Who is calibrated, the calibrations under way and closed, and putting another to the evaluators. */
const router = useRouter();
const session = useSession();
const query = useCalibrations();
type Evaluator = NonNullable<typeof query.data.value>['evaluators'][number];
const rows = computed(() => query.data.value?.rows ?? []);
const waiting = computed(() => rows.value.filter((each) => !each.closedAt));
const closed = computed(() => rows.value.filter((each) => each.closedAt));

const { usable, classId, pack, variants, variant } = useChosenClass();
const length = ref<ReplayLength | ''>('short');
const LENGTHS: Readonly<Record<ReplayLength, string>> = {
  short: 'A part of the round, about ten minutes',
  whole: 'The whole round',
};
const title = ref('');
const opening = useOpenCalibration();
const problem = ref<unknown>(null);
/** Its number, so that a second press puts no second one. */
let number = uuidv7();
watch([classId, variant, length, title], () => (number = uuidv7()));
async function open() {
  problem.value = null;
  try {
    const made = await opening.mutateAsync({
      body: {
        id: number,
        title: title.value.trim() || `${pack.value!.title}, ${day(session.installation?.today)}`,
        classId: classId.value,
        variant: variant.value,
        length: length.value || 'short',
      },
    });
    await router.push(`/assess/calibration/${made.id}`);
  } catch (error) {
    problem.value = error;
  }
}
const columns: Column<Evaluator>[] = [
  { key: 'name', title: 'Evaluator', text: (row) => row.name },
  { key: 'standing', title: 'Stands' },
  { key: 'severity', title: 'Last time' },
];
</script>

<template>
  <div class="screen stack">
    <div>
      <h1>Calibration</h1>
      <p class="quiet lead">
        Everybody who evaluates scores the same replayed round, alone and without seeing another’s scores.
        Then it shows who is milder, on what, and how far you agree.
      </p>
    </div>
    <StateBox
      :loading="!query.data.value && !query.error.value"
      :error="query.data.value ? undefined : query.error.value"
      what="calibrations"
      @retry="query.refetch()"
    >
      <section v-if="waiting.length" class="stack" aria-label="Open calibrations">
        <h2>Open</h2>
        <ul class="stack">
          <li v-for="each in waiting" :key="each.id" class="sheet pad open">
            <div class="grow">
              <strong>{{ each.title }}</strong>
              <div class="quiet">
                {{ each.classTitle }}, {{ each.criteria }} criteria, about {{ each.minutes }} min; put by
                {{ each.madeBy }} on {{ day(each.startedAt) }}; {{ each.handedIn }} handed in
              </div>
            </div>
            <span v-if="each.mineHandedIn" class="quiet">You have handed in</span>
            <RouterLink v-slot="{ navigate, href }" :to="`/assess/calibration/${each.id}`" custom>
              <Button
                :type="each.mineHandedIn ? 'default' : 'primary'"
                size="large"
                :href="href"
                @click="navigate"
                >{{ each.mineHandedIn ? 'Look' : each.scored ? `Go on, ${each.scored} scored` : 'Score it'
                }}<span class="visually-hidden">: {{ each.title }}</span></Button
              >
            </RouterLink>
          </li>
        </ul>
      </section>
      <div class="halves">
        <section class="stack" aria-label="Evaluators">
          <h2>Evaluators</h2>
          <DataTable
            name="Who is calibrated"
            :columns="columns"
            :rows="query.data.value!.evaluators"
            :row-key="(row) => row.id"
          >
            <template #standing="{ row }">
              <span
                :class="{ 'needs-you': row.standing.state === 'due' || row.standing.state === 'never' }"
                class="state"
                >{{
                  row.standing.state === 'calibrated'
                    ? `Until ${day(row.standing.until)}`
                    : row.standing.state === 'due'
                      ? `Due since ${day(row.standing.until)}`
                      : row.standing.state === 'never'
                        ? 'Never'
                        : row.standing.last
                          ? day(row.standing.last)
                          : 'Not asked for'
                }}</span
              >
            </template>
            <template #severity="{ row }">
              <template v-if="row.severity">
                {{ row.severity.says }}
                <RouterLink :to="`/assess/calibration/${row.calibrationId}/report`" class="quiet"
                  >{{ row.classTitle }}, {{ day(row.standing.last) }}</RouterLink
                >
              </template>
              <span v-else class="quiet">–</span>
            </template>
          </DataTable>
          <template v-if="closed.length">
            <h2>Closed</h2>
            <ul class="sheet pad list">
              <li v-for="each in closed" :key="each.id">
                <RouterLink :to="`/assess/calibration/${each.id}/report`"
                  ><strong>{{ each.title }}</strong></RouterLink
                >
                <span class="quiet">
                  {{ each.classTitle }}, {{ amount(each.handedIn, 'evaluator') }}, closed
                  {{ day(each.closedAt) }}</span
                >
              </li>
            </ul>
          </template>
        </section>
        <Form layout="vertical" class="sheet pad" aria-label="Put another" @submit.prevent="open">
          <h2>Put another</h2>
          <p class="quiet">
            A run is recorded and its key stays closed, also to you: score it like everybody else.
          </p>
          <ClassFields
            v-model:class-id="classId"
            v-model:variant="variant"
            :classes="usable"
            :variants="variants"
          />

          <FieldItem v-slot="{ id }" label="How much">
            <ChoiceField
              :id="id"
              v-model:value="length"
              label="How much"
              :options="REPLAY_LENGTHS.map((each) => ({ value: each, label: LENGTHS[each] }))"
            />
          </FieldItem>
          <FieldItem v-slot="{ id }" label="Title" optional
            ><Input :id="id" v-model:value="title" :maxlength="80" placeholder="Named by class and day"
          /></FieldItem>
          <ProblemAlert :problem="problem" />
          <Button
            html-type="submit"
            :type="waiting.length ? 'default' : 'primary'"
            block
            :disabled="!pack || !variant"
            :loading="opening.isLoading.value"
            >Put it to the evaluators</Button
          >
        </Form>
      </div>
    </StateBox>
  </div>
</template>

<style scoped>
.open {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.75rem;
}
.halves {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(280px, 360px);
  gap: 1rem;
  align-items: start;
  margin-top: 0.75rem;
}
.state {
  white-space: nowrap;
}
.list {
  display: grid;
  gap: 0.5rem;
}
@media (max-width: 900px) {
  .halves {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
