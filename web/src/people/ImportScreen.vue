<script setup lang="ts">
import { IMPORT_FIELDS, MAX_IMPORT_BYTES, routes, type ImportPreview } from '@rounds/contract';
import { Button, Progress } from 'ant-design-vue';
import { v4 as uuidv4 } from 'uuid';
import { computed, ref } from 'vue';
import { useRouter } from 'vue-router';
import { call, explain } from '../device/api';

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
const fileName = ref('');
const csv = ref('');
const preview = ref<ImportPreview | null>(null);
const mapping = ref<Partial<Record<Field, string | null>>>({});
const problem = ref<{ title: string; detail: string } | null>(null);
const busy = ref(false);
const written = ref<ImportPreview | null>(null);

async function choose(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0];
  if (!file) return;
  fileName.value = file.name;
  preview.value = null;
  written.value = null;
  problem.value = null;
  mapping.value = {};
  if (file.size > MAX_IMPORT_BYTES) {
    problem.value = {
      title: 'The file is larger than 5 MB',
      detail: `${file.name} has ${(file.size / 1e6).toFixed(1)} MB. Split it and import the parts one after the other. Nothing was written.`,
    };
    return;
  }
  csv.value = new TextDecoder('utf-8').decode(await file.arrayBuffer());
  await check();
}

/** The reading that is under way on the server: how far it is, and how to end it. */
const reading = ref<{ job: string; percent: number } | null>(null);

/** Runs work that reads the file on the server, and asks after it until it ends. */
async function follow<T>(work: (job: string) => Promise<T>): Promise<T> {
  const job = uuidv4();
  reading.value = { job, percent: 0 };
  const timer = setInterval(async () => {
    try {
      const { done, total } = await call(routes.job, { params: { id: job } });
      if (reading.value?.job === job)
        reading.value.percent = total === 0 ? 0 : Math.round((100 * done) / total);
    } catch {
      // It has ended; the answer itself is on its way.
    }
  }, 500);
  try {
    return await work(job);
  } finally {
    clearInterval(timer);
    reading.value = null;
  }
}
async function cancel() {
  const job = reading.value?.job;
  if (!job) return;
  try {
    await call(routes.cancelJob, { params: { id: job } });
  } catch (error) {
    problem.value = explain(error);
  }
}

async function check() {
  busy.value = true;
  problem.value = null;
  try {
    const asked = Object.keys(mapping.value).length > 0 ? { mapping: mapping.value } : {};
    preview.value = await follow((job) =>
      call(routes.previewImport, { body: { csv: csv.value, ...asked, job } }),
    );
    mapping.value = { ...(preview.value.mapping as Record<Field, string | null>) };
  } catch (error) {
    preview.value = null;
    problem.value = explain(error);
  } finally {
    busy.value = false;
  }
}

async function write() {
  busy.value = true;
  problem.value = null;
  try {
    written.value = await follow((job) =>
      call(routes.importPeople, { body: { csv: csv.value, mapping: mapping.value, job } }),
    );
  } catch (error) {
    problem.value = explain(error);
  } finally {
    busy.value = false;
  }
}

const unmatched = computed(() =>
  REQUIRED.filter((field) => !mapping.value[field]).map((field) => LABELS[field].toLowerCase()),
);
</script>

<template>
  <div class="screen stack">
    <h1>Import people</h1>
    <section v-if="written" class="sheet pad stack" role="status">
      <h2>{{ written.added + written.changed }} rows written</h2>
      <p>
        {{ written.added }} people added, {{ written.changed }} changed, {{ written.unchanged }} already as in
        the file, {{ written.rejectedRows }} rejected and not written.
      </p>
      <Button type="primary" @click="router.push('/people')">Go to People</Button>
    </section>
    <template v-else>
      <section class="sheet pad stack">
        <h2>1. Choose a CSV file</h2>
        <p class="quiet">
          A heading line, then one row a person, saved as "CSV UTF-8", up to 5 MB. People are matched by
          payroll number.
        </p>
        <div class="file">
          <label class="choose"
            ><input
              class="visually-hidden"
              type="file"
              accept=".csv,text/csv,text/plain"
              aria-label="CSV file"
              @change="choose"
            />Choose a file</label
          ><span>{{ fileName || 'No file chosen' }}</span>
        </div>
      </section>
      <div v-if="reading" class="sheet pad row" role="status">
        <span>Reading the file on the server</span>
        <Progress :percent="reading.percent" class="grow" aria-label="How far the file is read" />
        <Button @click="cancel">Cancel</Button>
      </div>
      <div v-if="problem" class="sheet pad problem" role="alert">
        <strong>{{ problem.title }}.</strong> {{ problem.detail }}
      </div>
      <template v-if="preview">
        <section class="sheet pad stack">
          <h2>2. Match the columns</h2>
          <div class="match">
            <label v-for="field in IMPORT_FIELDS" :key="field" class="field">
              {{ LABELS[field] }}{{ REQUIRED.includes(field) ? '' : ' (may be missing)' }}
              <select v-model="mapping[field]" class="plain" @change="check">
                <option :value="null">not in the file</option>
                <option v-for="column in preview.columns" :key="column" :value="column">{{ column }}</option>
              </select>
            </label>
          </div>
          <p v-if="unmatched.length > 0">
            <span class="needs-you">Still to match</span> {{ unmatched.join(', ') }}
          </p>
        </section>
        <section class="sheet pad stack">
          <h2>3. See what will happen</h2>
          <p>
            <strong>{{ preview.accepted }} of {{ preview.rows }} rows will be taken:</strong>
            {{ preview.added }} added, {{ preview.changed }} changed, {{ preview.unchanged }} unchanged.
            <strong>{{ preview.rejectedRows }} rejected.</strong>
          </p>
          <div
            v-if="preview.rejectedRows > 0"
            class="scrolls"
            tabindex="0"
            role="region"
            aria-label="Rows that are rejected"
          >
            <table class="rows" aria-label="Rejected rows">
              <thead>
                <tr>
                  <th>Row</th>
                  <th>Why it is rejected</th>
                  <th>What stands there</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="each in preview.rejected" :key="each.row">
                  <td class="number">{{ each.row }}</td>
                  <td>{{ each.reasons.join('; ') }}</td>
                  <td class="quiet">{{ each.values.join(' | ').slice(0, 160) }}</td>
                </tr>
              </tbody>
            </table>
            <p v-if="preview.rejectedRows > preview.rejected.length" class="quiet">
              and {{ preview.rejectedRows - preview.rejected.length }} more
            </p>
          </div>
          <div class="row">
            <Button
              type="primary"
              size="large"
              :disabled="preview.added + preview.changed === 0"
              :loading="busy"
              @click="write"
              >Write {{ preview.added + preview.changed }} rows</Button
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
  gap: 0.75rem;
}
.problem {
  border-left: 6px solid var(--crimson);
}
.file {
  display: flex;
  gap: 1rem;
  align-items: center;
}
.choose {
  font-weight: 700;
  border: 1px solid var(--ink);
  border-radius: 3px;
  min-height: 48px;
  padding: 0 1.1rem;
  display: inline-flex;
  align-items: center;
  cursor: pointer;
  background: var(--raised);
}
.choose:focus-within {
  outline: 3px solid var(--amber);
  outline-offset: 2px;
}
</style>
