<script setup lang="ts">
import { routes, type PackImportPlan } from '@rounds/contract';
import { useQuery, useQueryCache } from '@pinia/colada';
import { Button } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { useRoute } from 'vue-router';
import { call, explain } from '../device/api';
import ChangeList from './ChangeList.vue';

/**
 * Import of a class (YAML, JSON) or of its checks or faults (CSV): see what would change, or every error
 * with its line, and only then write.
 */
const MAX_BYTES = 4_000_000;
const route = useRoute();
const cache = useQueryCache();
const classes = useQuery({ key: ['classes'], query: () => call(routes.classes, {}) });
const file = ref<{ name: string; source: string } | null>(null);
const kind = ref<'pack' | 'checkpoints' | 'faults'>('pack');
const classId = ref(typeof route.query['class'] === 'string' ? route.query['class'] : '');
const plan = ref<PackImportPlan | null>(null);
const written = ref<PackImportPlan | null>(null);
const problem = ref<{ title: string; detail: string } | null>(null);
const remark = ref('');
const busy = ref(false);
const table = computed(() => kind.value !== 'pack');

async function choose(event: Event) {
  const input = event.target as HTMLInputElement;
  const picked = input.files?.[0];
  if (!picked) return;
  plan.value = written.value = problem.value = null;
  if (picked.size > MAX_BYTES) {
    problem.value = {
      title: 'The file is larger than 4 MB',
      detail: `${picked.name} has ${(picked.size / 1e6).toFixed(1)} MB; a class has about 0.2 MB. Nothing was changed.`,
    };
    return;
  }
  try {
    file.value = {
      name: picked.name,
      source: new TextDecoder('utf-8', { fatal: true }).decode(await picked.arrayBuffer()),
    };
  } catch {
    problem.value = {
      title: 'The file is not UTF-8 text',
      detail: `${picked.name} cannot be read as text. Save it as UTF-8 and choose it again. Nothing was changed.`,
    };
    return;
  }
  if (/\.csv$/i.test(picked.name)) {
    if (!table.value)
      kind.value = /fault|cues,/i.test(picked.name + file.value.source.slice(0, 200))
        ? 'faults'
        : 'checkpoints';
  } else kind.value = 'pack';
  input.value = '';
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
  busy.value = true;
  problem.value = null;
  try {
    plan.value = await call(routes.previewPack, { body: body() });
  } catch (error) {
    plan.value = null;
    problem.value = explain(error);
  } finally {
    busy.value = false;
  }
}
async function write() {
  busy.value = true;
  problem.value = null;
  try {
    written.value = await call(routes.importPack, {
      body: { ...body(), hash: plan.value!.hash, note: remark.value },
    });
    plan.value = null;
    for (const key of [['classes'], ['class'], ['library']]) void cache.invalidateQueries({ key });
  } catch (error) {
    problem.value = explain(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="screen stack">
    <h1>Import a class</h1>
    <section class="sheet pad stack">
      <h2>1. Choose a file</h2>
      <p class="quiet">
        A whole class as YAML or JSON, or its checks or faults as CSV in the columns that Export gives.
        Nothing is written before you have seen what would change; a file with any error is refused whole.
      </p>
      <div class="row">
        <label class="choose act"
          ><input
            class="visually-hidden"
            type="file"
            accept=".yaml,.yml,.json,.csv,text/csv,application/json,text/plain"
            aria-label="Class file"
            @change="choose"
          />Choose a file</label
        ><span>{{ file?.name ?? 'No file chosen' }}</span>
      </div>
      <div v-if="file && table" class="row">
        <label class="field"
          >The table holds
          <select v-model="kind" class="plain" @change="look">
            <option value="checkpoints">checks</option>
            <option value="faults">faults</option>
          </select></label
        >
        <label class="field"
          >of the class
          <select v-model="classId" class="plain" @change="look">
            <option value="" disabled>choose</option>
            <option
              v-for="each in classes.data.value?.classes.filter((c) => c.revision !== null)"
              :key="each.id"
              :value="each.id"
            >
              {{ each.title }}
            </option>
          </select></label
        >
      </div>
    </section>
    <div v-if="problem" class="sheet pad problem" role="alert">
      <strong>{{ problem.title }}.</strong> {{ problem.detail }}
    </div>
    <p v-if="busy" role="status">Reading the file</p>
    <section
      v-if="plan"
      class="sheet pad stack"
      :class="{ problem: plan.outcome === 'refused' }"
      aria-label="What would change"
    >
      <h2>2. What would change</h2>
      <template v-if="plan.outcome === 'refused'">
        <p role="alert">
          <span class="stopped">Refused</span> {{ plan.errors.length }}
          {{ plan.errors.length === 1 ? 'error' : 'errors' }} in {{ file!.name }}. Nothing was changed.
        </p>
        <table class="rows">
          <thead>
            <tr>
              <th>Line</th>
              <th>What is wrong</th>
              <th>Where</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(e, i) in plan.errors.slice(0, 50)" :key="i">
              <td class="number">{{ e.line }}</td>
              <td>{{ e.message }}</td>
              <td class="quiet">{{ e.path || e.rule }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="plan.errors.length > 50" class="quiet">and {{ plan.errors.length - 50 }} more.</p>
      </template>
      <p v-else-if="plan.outcome === 'same'">
        <strong>{{ plan.title }}</strong> already says all of this. There is nothing to import.
      </p>
      <template v-else>
        <p v-if="plan.outcome === 'new-class'">
          <strong>{{ plan.title }}</strong> comes into use here with everything the file holds.
        </p>
        <ChangeList v-else :changes="plan.changes" before="in use now" after="in the file" />
        <label class="field"
          >Remark for the list of revisions
          <input v-model="remark" class="plain" maxlength="500" :placeholder="`imported from ${file!.name}`"
        /></label>
        <div class="row">
          <button class="act" :disabled="busy" @click="write">
            {{ plan.outcome === 'new-class' ? 'Take the class into use' : 'Import as a new revision' }}
          </button>
        </div>
      </template>
    </section>
    <section v-if="written" class="sheet pad stack" role="status">
      <h2>{{ written.title }} is {{ written.outcome === 'same' ? 'unchanged' : 'imported' }}</h2>
      <p>Evaluations made before keep the content they were made with.</p>
      <RouterLink :to="`/classes/${written.classId}`" class="act plain">Open the class</RouterLink>
    </section>
    <p class="quiet">
      <Button type="link" href="/api/schema/pack.json" download="pack.schema.json"
        >The format as JSON Schema (2020-12)</Button
      >
    </p>
  </div>
</template>

<style scoped>
.choose {
  cursor: pointer;
}
.choose:focus-within {
  outline: 3px solid var(--amber);
  outline-offset: 2px;
}
</style>
