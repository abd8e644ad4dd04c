<script setup lang="ts">
import { IMPORT_FIELDS, type ImportPreview, MAX_IMPORT_BYTES } from '@rounds/contract/people';
import { Button, Form, Progress, Result, Statistic, Steps } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { ownProblem } from '../device/api';
import { useJobProgress } from '../device/jobProgress';
import ChoiceField from '../parts/ChoiceField.vue';
import DataTable, { type Column } from '../parts/DataTable.vue';
import FieldItem from '../parts/FieldItem.vue';
import FileDrop from '../parts/FileDrop.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { amount } from '../parts/words';
import { useCancelJob, useImportPeople, usePreviewImport } from './queries';

/** Roster import: choose a file, match its columns, see every rejected row and why, and only then write. */
type Field = (typeof IMPORT_FIELDS)[number];
const LABELS: Record<Field, string> = {
  payroll: 'Payroll number',
  givenName: 'Given name',
  familyName: 'Family name',
  site: 'Site',
  team: 'Team',
  email: 'E-mail',
  born: 'Date of birth',
  started: 'Start date',
};
const REQUIRED: readonly Field[] = ['payroll', 'givenName', 'familyName', 'site', 'team'];

const router = useRouter();
const previewImport = usePreviewImport();
const importPeople = useImportPeople();
const cancelJob = useCancelJob();
const reading = useJobProgress();
const fileName = ref('');
const csv = ref('');
const preview = ref<ImportPreview | null>(null);
const mapping = ref<Partial<Record<Field, string | null>>>({});
const problem = ref<unknown>(null);
const written = ref<ImportPreview | null>(null);
const step = computed(() => {
  if (written.value) return 3;
  if (!preview.value) return 0;
  return unmatched.value.length > 0 ? 1 : 2;
});

async function choose(file: File) {
  fileName.value = file.name;
  preview.value = written.value = problem.value = null;
  mapping.value = {};
  if (file.size > MAX_IMPORT_BYTES) {
    problem.value = ownProblem(
      'too-large',
      'The file is larger than 5 MB',
      `${file.name} has ${(file.size / 1e6).toFixed(1)} MB. Split it and import the parts one after the ` +
        'other. Nothing was written.',
    );
    return;
  }
  csv.value = new TextDecoder('utf-8').decode(await file.arrayBuffer());
  await check();
}
async function check() {
  problem.value = null;
  try {
    const asked = Object.keys(mapping.value).length > 0 ? { mapping: mapping.value } : {};
    preview.value = await reading.follow((job) =>
      previewImport.mutateAsync({ body: { csv: csv.value, ...asked, job } }),
    );
    mapping.value = { ...(preview.value.mapping as Record<Field, string | null>) };
  } catch (error) {
    preview.value = null;
    problem.value = error;
  }
}
function match(field: Field, column: string) {
  mapping.value = { ...mapping.value, [field]: column === '' ? null : column };
  void check();
}
async function write() {
  problem.value = null;
  try {
    written.value = await reading.follow((job) =>
      importPeople.mutateAsync({ body: { csv: csv.value, mapping: mapping.value, job } }),
    );
  } catch (error) {
    problem.value = error;
  }
}
async function cancel() {
  const id = reading.job.value;
  if (!id) return;
  try {
    await cancelJob.mutateAsync({ params: { id } });
  } catch (error) {
    problem.value = error;
  }
}
const unmatched = computed(() => REQUIRED.filter((field) => !mapping.value[field]));
const columnChoices = computed(() =>
  (preview.value?.columns ?? []).map((column) => ({ value: column, label: column })),
);
const toWrite = computed(() => (preview.value ? preview.value.added + preview.value.changed : 0));

const columns: Column<ImportPreview['rejected'][number]>[] = [
  { key: 'row', title: 'Row', align: 'right', width: 80, text: (each) => String(each.row) },
  { key: 'why', title: 'Why it is rejected', text: (each) => each.reasons.join('; ') },
  { key: 'what', title: 'What stands there', text: (each) => each.values.join(' | ').slice(0, 160) },
];
</script>

<template>
  <div class="screen stack">
    <h1>Import people</h1>
    <Steps
      :current="step"
      size="small"
      :items="[{ title: 'Choose a file' }, { title: 'Match the columns' }, { title: 'See what will happen' }]"
    />
    <Result
      v-if="written"
      class="sheet"
      status="success"
      role="status"
      :title="`${amount(written.added + written.changed, 'row')} written`"
      :sub-title="`${amount(written.added, 'person', 'people')} added, ${written.changed} changed, ${written.unchanged} already as in the file, ${written.rejectedRows} rejected and not written.`"
    >
      <template #icon><span></span></template>
      <template #extra><Button type="primary" @click="router.push('/people')">Go to People</Button></template>
    </Result>
    <template v-else>
      <FileDrop
        label="CSV file"
        accept=".csv,text/csv,text/plain"
        says="CSV UTF-8 with a heading line, one row a person, up to 5 MB. People are matched by payroll number."
        :chosen="fileName"
        @file="choose"
      />
      <div v-if="reading.job.value" class="sheet pad row" role="status">
        <span>Reading the file on the server</span>
        <Progress :percent="reading.percent.value" class="grow" aria-label="How far the file is read" />
        <Button @click="cancel">Cancel</Button>
      </div>
      <ProblemAlert :problem="problem" />
      <template v-if="preview">
        <section class="sheet pad stack">
          <h2>Match the columns</h2>
          <Form layout="vertical" class="match">
            <FieldItem
              v-for="field in IMPORT_FIELDS"
              :key="field"
              v-slot="{ id, invalid }"
              :label="LABELS[field]"
              :optional="!REQUIRED.includes(field)"
              :error="unmatched.includes(field) ? 'still to match' : undefined"
            >
              <ChoiceField
                :id="id"
                :value="mapping[field] ?? ''"
                :label="LABELS[field]"
                :options="columnChoices"
                :invalid="invalid"
                clearable
                placeholder="not in the file"
                @update:value="match(field, $event)"
              />
            </FieldItem>
          </Form>
        </section>
        <section class="sheet pad stack">
          <h2>See what will happen</h2>
          <div class="figures">
            <Statistic title="Will be taken" :value="preview.accepted" :suffix="`of ${preview.rows}`" />
            <Statistic title="Added" :value="preview.added" />
            <Statistic title="Changed" :value="preview.changed" />
            <Statistic title="Unchanged" :value="preview.unchanged" />
            <Statistic title="Rejected" :value="preview.rejectedRows" />
          </div>
          <template v-if="preview.rejectedRows > 0">
            <DataTable
              class="prose"
              name="Rejected rows"
              :rows="preview.rejected"
              :columns="columns"
              :row-key="(each) => String(each.row)"
              :page-size="20"
            />
            <p v-if="preview.rejectedRows > preview.rejected.length" class="quiet">
              and {{ preview.rejectedRows - preview.rejected.length }} more rejected rows in the file
            </p>
          </template>
          <div class="row">
            <Button
              type="primary"
              size="large"
              :disabled="toWrite === 0"
              :loading="importPeople.isLoading.value"
              @click="write"
              >Write {{ amount(toWrite, 'row') }}</Button
            >
            <span class="quiet"
              >Nothing has been written yet. Rejected rows are left out; correct them and import again.</span
            >
          </div>
        </section>
      </template>
    </template>
  </div>
</template>

<style scoped>
.match {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(210px, 1fr));
  gap: 0 1rem;
}
.figures {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 2.5rem;
}
</style>
