<script setup lang="ts">
import { classRoutes, type PackImportPlan } from '@rounds/contract/classes';
import { Alert, Button, Form, Input, Result, Spin, Steps } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { fileAddress, ownProblem } from '../device/api';
import ChoiceField from '../parts/ChoiceField.vue';
import DataTable, { type Column } from '../parts/DataTable.vue';
import FieldItem from '../parts/FieldItem.vue';
import FileDrop from '../parts/FileDrop.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useClasses } from '../parts/queries';
import ChangeList from './ChangeList.vue';
import { useImportPack, usePreviewPack } from './queries';
import { amount } from '../parts/words';

/**
 * Import of a class (YAML, JSON) or of its checks or faults (CSV): see what would change, or every error
 * with its line, and only then write.
 */
type FileKind = 'pack' | 'checkpoints' | 'faults';
const MAX_BYTES = 4_000_000;
const route = useRoute();
const router = useRouter();
const { list: classes } = useClasses();
const previewPack = usePreviewPack();
const importPack = useImportPack();
const file = ref<{ name: string; source: string } | null>(null);
const kind = ref<FileKind>('pack');
const classId = ref(typeof route.query['class'] === 'string' ? route.query['class'] : '');
const plan = ref<PackImportPlan | null>(null);
const written = ref<PackImportPlan | null>(null);
const problem = ref<unknown>(null);
const remark = ref('');
const table = computed(() => kind.value !== 'pack');
const busy = computed(() => previewPack.isLoading.value || importPack.isLoading.value);
const step = computed(() => {
  if (written.value) return 2;
  return plan.value ? 1 : 0;
});

/** A table holds faults where its name or its heading says so. */
function kindOf(name: string, source: string): FileKind {
  if (!/\.csv$/i.test(name)) return 'pack';
  if (table.value) return kind.value;
  return /fault|cues,/i.test(name + source.slice(0, 200)) ? 'faults' : 'checkpoints';
}
async function choose(picked: File) {
  plan.value = written.value = problem.value = null;
  if (picked.size > MAX_BYTES) {
    problem.value = ownProblem(
      'too-large',
      'The file is larger than 4 MB',
      `${picked.name} has ${(picked.size / 1e6).toFixed(1)} MB; a class has about 0.2 MB. Nothing was changed.`,
    );
    return;
  }
  try {
    const source = new TextDecoder('utf-8', { fatal: true }).decode(await picked.arrayBuffer());
    file.value = { name: picked.name, source };
    kind.value = kindOf(picked.name, source);
  } catch {
    problem.value = ownProblem(
      'not-text',
      'The file is not UTF-8 text',
      `${picked.name} cannot be read as text. Save it as UTF-8 and choose it again. Nothing was changed.`,
    );
    return;
  }
  await look();
}
const body = () => ({
  name: file.value!.name,
  kind: kind.value,
  classId: table.value ? classId.value || null : null,
  source: file.value!.source,
});
async function look() {
  if (!file.value || (table.value && !classId.value)) return;
  problem.value = null;
  try {
    plan.value = await previewPack.mutateAsync({ body: body() });
  } catch (error) {
    plan.value = null;
    problem.value = error;
  }
}
function setKind(now: string) {
  kind.value = now as FileKind;
  void look();
}
function setClass(now: string) {
  classId.value = now;
  void look();
}
async function write() {
  problem.value = null;
  try {
    written.value = await importPack.mutateAsync({
      body: { ...body(), hash: plan.value!.hash, note: remark.value },
    });
    plan.value = null;
  } catch (error) {
    problem.value = error;
  }
}
type Wrong = PackImportPlan['errors'][number];
const columns: Column<Wrong>[] = [
  { key: 'line', title: 'Line', align: 'right', width: 80, text: (row) => String(row.line) },
  { key: 'message', title: 'What is wrong', text: (row) => row.message },
  { key: 'where', title: 'Where', text: (row) => row.path || row.rule },
];
</script>

<template>
  <div class="screen stack">
    <h1>Import a class</h1>
    <Steps
      :current="step"
      size="small"
      :items="[{ title: 'Choose a file' }, { title: 'See what would change' }, { title: 'In use' }]"
    />
    <FileDrop
      label="Class file"
      accept=".yaml,.yml,.json,.csv,text/csv,application/json,text/plain"
      says="A whole class as YAML or JSON, or its checks or faults as CSV in the columns that Export gives. A file with any error is refused whole."
      :chosen="file?.name"
      @file="choose"
    />
    <Form v-if="file && table" layout="vertical" class="pair">
      <FieldItem v-slot="{ id }" label="The table holds"
        ><ChoiceField
          :id="id"
          :value="kind"
          label="The table holds"
          :options="[
            { value: 'checkpoints', label: 'checks' },
            { value: 'faults', label: 'faults' },
          ]"
          @update:value="setKind"
      /></FieldItem>
      <FieldItem v-slot="{ id }" label="of the class"
        ><ChoiceField
          :id="id"
          :value="classId"
          label="of the class"
          :options="
            classes
              .filter((each) => each.revision !== null)
              .map((each) => ({ value: each.id, label: each.title }))
          "
          @update:value="setClass"
      /></FieldItem>
    </Form>
    <ProblemAlert :problem="problem" />
    <p v-if="busy" role="status"><Spin size="small" /> Reading the file</p>
    <section v-if="plan" class="sheet pad stack" aria-label="What would change">
      <h2>What would change</h2>
      <template v-if="plan.outcome === 'refused'">
        <Alert
          type="error"
          show-icon
          role="alert"
          :message="`Refused: ${amount(plan.errors.length, 'error')} in ${file!.name}`"
          description="Nothing was changed."
        />
        <DataTable
          class="prose"
          name="Errors in the file"
          :rows="plan.errors.map((row, at) => ({ ...row, at }))"
          :columns="columns"
          :row-key="(row) => `${row.line} ${row.path} ${row.message}`"
        />
      </template>
      <p v-else-if="plan.outcome === 'same'">
        <strong>{{ plan.title }}</strong> already says all of this. There is nothing to import.
      </p>
      <template v-else>
        <p v-if="plan.outcome === 'new-class'">
          <strong>{{ plan.title }}</strong> comes into use here with everything the file holds.
        </p>
        <ChangeList v-else :changes="plan.changes" before="in use now" after="in the file" />
        <Form layout="vertical" @submit.prevent="write">
          <FieldItem v-slot="{ id }" label="Remark for the list of revisions" optional
            ><Input
              :id="id"
              v-model:value="remark"
              :maxlength="500"
              :placeholder="`imported from ${file!.name}`"
          /></FieldItem>
          <Button type="primary" html-type="submit" :loading="busy">{{
            plan.outcome === 'new-class' ? 'Take the class into use' : 'Import as a new revision'
          }}</Button>
        </Form>
      </template>
    </section>
    <Result
      v-if="written"
      class="sheet"
      status="success"
      role="status"
      :title="`${written.title} is ${written.outcome === 'same' ? 'unchanged' : 'imported'}`"
      sub-title="Evaluations made before keep the content they were made with."
    >
      <template #icon><span></span></template>
      <template #extra
        ><Button type="primary" @click="router.push(`/classes/${written.classId}`)"
          >Open the class</Button
        ></template
      >
    </Result>
    <p class="quiet">
      <Button type="link" :href="fileAddress(classRoutes.packSchema)" download="pack.schema.json"
        >The format as JSON Schema (2020-12)</Button
      >
    </p>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(220px, 340px));
  gap: 0 1rem;
}
</style>
