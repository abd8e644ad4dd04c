<script setup lang="ts">
import type { PolicyEffect, PolicyLine } from '@rounds/contract/grading';
import {
  GRADE_KINDS,
  type GradeKindId,
  type PolicyScope,
  type System,
  SYSTEM_WORDS,
  SYSTEMS,
} from '@rounds/core/catalogue';
import { GRADE_WORDS, GRADING_SCALES, scaleLosses } from '@rounds/core/grading';
import { Alert, Button, Collapse, CollapsePanel, Form, Segmented, Textarea } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';
import { useSession } from '../device/session';
import GradeDisc from '../drawing/GradeDisc.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import DataTable, { type Column } from '../parts/DataTable.vue';
import DateField from '../parts/DateField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useMachineClass } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { amount, day } from '../parts/words';
import EndPolicy from './EndPolicy.vue';
import { usePolicy, usePreviewPolicy, useRaisePolicy } from './queries';

/**
 * The grading policy: what a site has decided to grade higher than the class does, from when, by whom and why. What a
 * line would raise is shown before it is kept; nothing is ever lowered.
 */
const session = useSession();
const policy = usePolicy();
const preview = usePreviewPolicy();
const raise = useRaisePolicy();
const decides = session.is('trainer', 'administrator');

/** '' is everywhere. */
const site = ref('');
const of = ref<PolicyScope['of']>('every');
const system = ref<System | ''>('');
const kind = ref<GradeKindId | ''>('');
const classId = ref('');
const fault = ref('');
const atLeast = ref<'mend' | 'stop'>('stop');
const from = ref(session.installation?.today ?? '');
const why = ref('');
const effect = ref<PolicyEffect | null>(null);
const problem = ref<unknown>(null);
const said = ref('');
const ending = ref<PolicyLine | null>(null);

const SCOPES: { value: PolicyScope['of']; label: string; more: string }[] = [
  { value: 'every', label: 'Every defect', more: 'in every class' },
  { value: 'system', label: 'A system', more: 'brakes, hydraulics, tyres ...' },
  { value: 'kind', label: 'A kind of fault', more: 'the same in every class' },
  { value: 'class', label: 'A class', more: 'every defect of its machines' },
  { value: 'fault', label: 'One fault of a class', more: '' },
];
const machineClass = useMachineClass(() => (of.value === 'fault' ? classId.value : ''));
const faults = computed(() => {
  const pack = machineClass.data.value?.pack as {
    faults: { id: string; title: string; grade: string }[];
  } | null;
  return (pack?.faults ?? [])
    .filter((each) => each.grade === 'watch' || each.grade === 'mend')
    .map((each) => ({ value: each.id, label: each.title, more: each.grade }));
});
const scope = computed<PolicyScope | null>(() => {
  if (of.value === 'system') return system.value ? { of: 'system', system: system.value } : null;
  if (of.value === 'kind') return kind.value ? { of: 'kind', kind: kind.value } : null;
  if (of.value === 'class') return classId.value ? { of: 'class', classId: classId.value } : null;
  if (of.value === 'fault')
    return classId.value && fault.value ? { of: 'fault', classId: classId.value, fault: fault.value } : null;
  return { of: 'every' };
});
watch(classId, () => (fault.value = ''));
let number = uuidv7();
watch([site, scope, atLeast], () => (effect.value = null));
watch([site, scope, atLeast, from, why], () => {
  if (why.value) said.value = '';
  number = uuidv7();
});
const asked = () => ({ site: site.value || null, scope: scope.value!, atLeast: atLeast.value });
async function look() {
  problem.value = null;
  try {
    effect.value = await preview.mutateAsync({ body: asked() });
  } catch (error) {
    problem.value = error;
  }
}
async function keep() {
  problem.value = null;
  try {
    await raise.mutateAsync({ body: { id: number, ...asked(), from: from.value, why: why.value } });
    const count = effect.value!.faults;
    why.value = '';
    effect.value = null;
    said.value = `Kept. ${amount(count, 'fault is', 'faults are')} graded higher from ${day(from.value)}.`;
  } catch (error) {
    problem.value = error;
  }
}

const STATES = { 'in-force': 'In force', 'to-come': 'To come', ended: 'Ended' } as const;
const columns: Column<PolicyLine>[] = [
  { key: 'about', title: 'What is raised', fixed: true },
  { key: 'to', title: 'At least', width: 110 },
  { key: 'state', title: 'State', sorts: (a, b) => a.state.localeCompare(b.state) },
  { key: 'why', title: 'Why and by whom' },
  ...(decides ? [{ key: 'end', title: 'End', width: 90 }] : []),
];
</script>

<template>
  <StateBox
    :loading="!policy.data.value && !policy.error.value"
    :error="policy.data.value ? undefined : policy.error.value"
    what="the grading policy"
    @retry="policy.refetch()"
  >
    <div v-if="policy.data.value" class="two" :class="{ alone: !decides }">
      <Form v-if="decides" layout="vertical" class="sheet pad" @submit.prevent="effect ? keep() : look()">
        <h2>Grade something higher</h2>
        <p class="quiet">
          Raised only, never lowered. What is sound stays sound. What was found before keeps its grade.
        </p>
        <FieldItem v-slot="{ id }" label="What">
          <ChoiceField :id="id" v-model:value="of" label="What" :options="SCOPES" />
        </FieldItem>
        <FieldItem v-if="of === 'system'" v-slot="{ id }" label="System">
          <ChoiceField
            :id="id"
            v-model:value="system"
            label="System"
            :options="SYSTEMS.map((each) => ({ value: each, label: SYSTEM_WORDS[each] }))"
          />
        </FieldItem>
        <FieldItem v-if="of === 'kind'" v-slot="{ id }" label="Kind of fault">
          <ChoiceField
            :id="id"
            v-model:value="kind"
            label="Kind of fault"
            :options="
              GRADE_KINDS.filter((each) => each.grade === 'watch' || each.grade === 'mend').map((each) => ({
                value: each.id,
                label: each.says,
                more: each.grade,
              }))
            "
          />
        </FieldItem>
        <FieldItem v-if="of === 'class' || of === 'fault'" v-slot="{ id }" label="Class">
          <ChoiceField
            :id="id"
            v-model:value="classId"
            label="Class"
            :options="policy.data.value.classes.map((each) => ({ value: each.id, label: each.title }))"
          />
        </FieldItem>
        <FieldItem v-if="of === 'fault'" v-slot="{ id }" label="Fault">
          <ChoiceField
            :id="id"
            v-model:value="fault"
            label="Fault"
            :disabled="!classId"
            :loading="machineClass.isLoading.value"
            :options="faults"
          />
        </FieldItem>
        <div class="row wide">
          <span>Graded at least</span>
          <Segmented
            :value="atLeast"
            :options="[
              { value: 'mend', label: 'Mend' },
              { value: 'stop', label: 'Stop' },
            ]"
            aria-label="Graded at least"
            @change="atLeast = $event as typeof atLeast"
          />
        </div>
        <FieldItem v-slot="{ id }" label="Where">
          <ChoiceField
            :id="id"
            v-model:value="site"
            label="Where"
            placeholder="Everywhere"
            clearable
            :options="policy.data.value.sites.map((each) => ({ value: each, label: each }))"
          />
        </FieldItem>
        <FieldItem v-slot="{ id }" label="From">
          <DateField :id="id" v-model:value="from" label="From" />
        </FieldItem>
        <FieldItem v-slot="{ id }" label="Why">
          <Textarea
            :id="id"
            v-model:value="why"
            :rows="2"
            :maxlength="500"
            placeholder="what happened, who asked for it"
          />
        </FieldItem>
        <ProblemAlert :problem="problem" />
        <Alert v-if="said" type="success" show-icon :message="said" role="status" />
        <section v-if="effect" class="effect" aria-label="What it would raise">
          <h3>
            {{ amount(effect.faults, 'fault is', 'faults are') }} raised to {{ atLeast }} in
            {{ amount(effect.classes.length, 'class', 'classes') }}
          </h3>
          <Collapse v-if="effect.faults > 0" ghost>
            <CollapsePanel
              v-for="each in effect.classes"
              :key="each.id"
              :header="`${each.title}: ${each.faults.length}`"
            >
              <ul class="bullets">
                <li v-for="one in each.faults" :key="one.id">
                  {{ one.title }} <span class="quiet">{{ one.from }} to {{ one.to }}</span>
                </li>
              </ul>
            </CollapsePanel>
          </Collapse>
        </section>
        <div class="row">
          <Button
            html-type="submit"
            type="primary"
            :disabled="!scope || (effect !== null && (effect.faults === 0 || why.trim().length < 3))"
            :loading="preview.isLoading.value || raise.isLoading.value"
            >{{ effect ? 'Keep it' : 'See what it raises' }}</Button
          >
          <span v-if="effect && why.trim().length < 3" class="quiet">Say why first.</span>
        </div>
      </Form>
      <div class="stack">
        <section class="sheet pad stack" aria-label="Lines of the policy">
          <h2>What holds</h2>
          <p v-if="policy.data.value.lines.length === 0" class="quiet">
            Nothing is raised: every site grades as its classes do.
          </p>
          <DataTable
            v-else
            name="Grading policy"
            :rows="policy.data.value.lines"
            :columns="columns"
            :row-key="(line) => line.id"
            :page-size="50"
          >
            <template #about="{ row }">
              {{ row.about }}
              <div class="quiet small">{{ row.site ?? 'Everywhere' }}</div>
            </template>
            <template #to="{ row }">
              <span class="grade"><GradeDisc :grade="row.atLeast" /> {{ GRADE_WORDS[row.atLeast] }}</span>
            </template>
            <template #state="{ row }">
              <strong>{{ STATES[row.state] }}</strong>
              <div class="quiet small">
                from {{ day(row.from) }}<template v-if="row.ended"> until {{ day(row.ended.on) }}</template>
              </div>
            </template>
            <template #why="{ row }">
              {{ row.why }}
              <div class="quiet small">{{ row.by }}, {{ day(row.madeAt) }}</div>
              <div v-if="row.ended" class="quiet small">Ended: {{ row.ended.why }}, {{ row.ended.by }}</div>
            </template>
            <template #end="{ row }">
              <Button v-if="!row.ended" size="small" @click="ending = row">End</Button>
            </template>
          </DataTable>
        </section>
        <section class="sheet pad stack" aria-label="Other scales">
          <h2>Sheets with another scale</h2>
          <div v-for="scale in GRADING_SCALES" :key="scale.id" class="scale">
            <h3>{{ scale.name }}</h3>
            <p>
              <span v-for="(level, grade) in scale.from" :key="grade" class="pair"
                ><GradeDisc :grade="grade" :size="18" /> {{ GRADE_WORDS[grade] }}: {{ level }}</span
              >
            </p>
            <p v-for="loss in scaleLosses(scale)" :key="loss.grade" class="quiet">Lost: {{ loss.says }}.</p>
          </div>
        </section>
      </div>
      <EndPolicy v-if="decides" v-model:line="ending" />
    </div>
  </StateBox>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(300px, 400px) minmax(0, 1fr);
  gap: 1rem;
  align-items: start;
}
.alone {
  grid-template-columns: minmax(0, 1fr);
}
.wide {
  justify-content: space-between;
  margin-bottom: 1rem;
}
.effect {
  margin-bottom: 1rem;
}
.grade,
.pair {
  white-space: nowrap;
}
.pair + .pair {
  margin-left: 1.1rem;
}
@media (max-width: 1000px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
