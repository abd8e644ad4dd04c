<script setup lang="ts">
import { routes, type PackDraft } from '@rounds/contract';
import {
  packDocumentText,
  packJsonSchema,
  packToYaml,
  type Pack,
  type PackError,
  type RowChange,
} from '@rounds/core/catalogue';
import type { Point } from '@rounds/core/round';
import { useQueryCache } from '@pinia/colada';
import { Button } from 'ant-design-vue';
import { computed, nextTick, onBeforeUnmount, provide, ref, shallowRef, watch } from 'vue';
import { onBeforeRouteLeave, useRoute, useRouter } from 'vue-router';
import { parseDocument, type Document } from 'yaml';
import StateBox from '../parts/StateBox.vue';
import { ApiProblem, call, explain } from '../device/api';
import ChangeList from './ChangeList.vue';
import CodeEditor from './edit/CodeEditor.vue';
import type { PackAnswer, PackQuestion } from './edit/packWorker';
import PlanEditor from './edit/PlanEditor.vue';
import SchemaForm from './edit/SchemaForm.vue';
import { POINTABLE } from './edit/pointable';
import { schemaAt, type SchemaNode } from './edit/yamlContext';

/** Editing a class: rows as forms, the text as YAML, stations on the plan; draft, check, publish. */
type Tab = 'rows' | 'text' | 'plan' | 'changes';
const TABS: Readonly<Record<Tab, string>> = {
  rows: 'Rows',
  text: 'Text',
  plan: 'Plan',
  changes: 'Changes and publishing',
};
/** Lists of rows that have a form of their own, by their path; `*` stands for each procedure or section. */
const LISTS = [
  ['Checks', ['checkpoints']],
  ['Faults', ['faults']],
  ['Steps', ['procedures', '*', 'steps']],
  ['Procedures', ['procedures']],
  ['Stations', ['plan', 'stations']],
  ['Numbers', ['numbers']],
  ['Criteria', ['sheet', 'sections', '*', 'criteria']],
  ['Critical errors', ['sheet', 'criticalErrors']],
  ['Forbidden', ['forbidden']],
  ['Schools', ['schools']],
  ['Cautions', ['cautions']],
  ['Switches', ['features']],
  ['Power variants', ['variants']],
  ['Conditions', ['conditions']],
  ['Simulated failures', ['machine', 'failures']],
  ['Certification notes', ['certification']],
  ['Common mistakes', ['mistakes']],
] as const;
const SAVE_AFTER = 1200;
const CHECK_AFTER = 250;

const route = useRoute();
const router = useRouter();
const cache = useQueryCache();
const id = String(route.params['id']);
const params = { id };
const kept = `rounds-draft-${id}`;
const schema = packJsonSchema() as SchemaNode;

const loading = ref(true);
const failure = ref<unknown>(null);
const published = shallowRef<Pack | null>(null);
const source = ref('');
const version = ref(0);
/** Text that the server has; what differs from it is not saved yet. */
const savedText = ref('');
const savedBy = ref('');
const savedAt = ref('');
const problem = ref<{ title: string; detail: string; code: string } | null>(null);
const saving = ref(false);
const tab = computed<Tab>({
  get: () => (String(route.query['tab'] ?? '') in TABS ? (String(route.query['tab']) as Tab) : 'rows'),
  set: (now) => void router.replace({ query: { ...route.query, tab: now } }),
});

async function load() {
  loading.value = true;
  failure.value = null;
  try {
    const [machineClass, { draft }] = await Promise.all([
      call(routes.machineClass, { params }),
      call(routes.classDraft, { params }),
    ]);
    published.value = machineClass.pack as Pack | null;
    take(draft);
    const left = localStorage.getItem(kept);
    if (left !== null && left !== savedText.value) {
      source.value = left;
      problem.value = {
        title: 'Text left on this device',
        detail: 'It was not saved last time and is shown here. It is saved as soon as you change something.',
        code: 'kept',
      };
    }
  } catch (error) {
    failure.value = error;
  } finally {
    loading.value = false;
  }
}
function take(draft: PackDraft | null) {
  version.value = draft?.version ?? 0;
  savedText.value = draft?.source ?? (published.value ? packToYaml(published.value) : '');
  savedBy.value = draft?.by ?? '';
  savedAt.value = draft?.at ?? '';
  source.value = savedText.value;
}
void load();

/* Checking, in a worker: a pack takes a tenth of a second to read. */
const errors = shallowRef<PackError[]>([]);
const changes = shallowRef<RowChange[]>([]);
const checked = ref(false);
const worker = new Worker(new URL('./edit/packWorker.ts', import.meta.url), { type: 'module' });
let turn = 0;
worker.onmessage = (event: MessageEvent<PackAnswer>) => {
  if (event.data.turn !== turn) return;
  errors.value = event.data.errors;
  changes.value = event.data.changes;
  checked.value = true;
};
let checking: ReturnType<typeof setTimeout> | undefined;
let waiting: ReturnType<typeof setTimeout> | undefined;
watch(source, (text) => {
  checked.value = false;
  clearTimeout(checking);
  checking = setTimeout(() => {
    turn += 1;
    worker.postMessage({
      turn,
      source: text,
      published: JSON.parse(JSON.stringify(published.value)) as Pack | null,
    } satisfies PackQuestion);
  }, CHECK_AFTER);
  clearTimeout(waiting);
  if (text === savedText.value) return localStorage.removeItem(kept);
  localStorage.setItem(kept, text);
  if (problem.value?.code !== 'draft-moved') waiting = setTimeout(save, SAVE_AFTER);
});
onBeforeUnmount(() => {
  worker.terminate();
  clearTimeout(checking);
  clearTimeout(waiting);
});
onBeforeRouteLeave(async () => {
  if (source.value !== savedText.value && !problem.value) await save();
});

/** The save under way; whoever needs the draft settled waits for it. */
let underWay: Promise<void> = Promise.resolve();
function save(): Promise<void> {
  underWay = underWay.then(saveNow);
  return underWay;
}

async function saveNow(): Promise<void> {
  clearTimeout(waiting);
  if (source.value === savedText.value) return;
  saving.value = true;
  const text = source.value;
  try {
    const draft = await call(routes.saveDraft, { params, body: { source: text, version: version.value } });
    version.value = draft.version;
    savedText.value = text;
    savedBy.value = draft.by;
    savedAt.value = draft.at;
    problem.value = null;
    if (source.value === text) localStorage.removeItem(kept);
  } catch (error) {
    problem.value = explain(error);
    if (error instanceof ApiProblem && error.code === 'offline') waiting = setTimeout(save, 5000);
  } finally {
    saving.value = false;
  }
}
async function takeTheirs() {
  localStorage.removeItem(kept);
  problem.value = null;
  await load();
}
async function discard() {
  if (!confirm('Throw this draft away? What is in use stays as it is.')) return;
  clearTimeout(waiting);
  // A save that is under way would bring the draft back after it was thrown away.
  await underWay;
  try {
    if (version.value > 0) await call(routes.dropDraft, { params });
    localStorage.removeItem(kept);
    problem.value = null;
    take(null);
  } catch (error) {
    problem.value = explain(error);
  }
}
const remark = ref('');
const publishing = ref(false);
async function publish() {
  publishing.value = true;
  try {
    await save();
    if (problem.value) return;
    await call(routes.publishDraft, { params, body: { version: version.value, note: remark.value } });
    localStorage.removeItem(kept);
    savedText.value = source.value;
    for (const key of [['classes'], ['class'], ['library'], ['revisions']])
      void cache.invalidateQueries({ key });
    await router.push(`/classes/${id}`);
  } catch (error) {
    problem.value = explain(error);
  } finally {
    publishing.value = false;
  }
}

/* Forms work on the YAML document, so that comments and the order of everything else stay. */
const document = computed<Document | null>(() => {
  if (tab.value === 'text' || tab.value === 'changes') return null;
  const parsed = parseDocument(source.value);
  return parsed.errors.length === 0 ? parsed : null;
});
const value = computed(() => document.value?.toJS({ maxAliasCount: 100 }) as Pack | undefined);
provide(
  POINTABLE,
  computed(() => {
    const stations = value.value?.plan.stations.map((each) => ({ id: each.id, name: each.name })) ?? [];
    return {
      station: stations,
      spurFrom: stations,
      checkpoint: value.value?.checkpoints.map((each) => ({ id: each.id, name: each.part })) ?? [],
    };
  }),
);
const list = ref<(typeof LISTS)[number][0]>('Checks');
const search = ref('');
const chosen = ref('');
interface FormRow {
  path: (string | number)[];
  id: string;
  title: string;
  where: string;
}
function gather(
  node: unknown,
  pattern: readonly string[],
  path: (string | number)[],
  where: string,
): FormRow[] {
  const [head, ...rest] = pattern;
  if (head === undefined)
    return (Array.isArray(node) ? node : []).map((row: Record<string, unknown>, i) => {
      const cues = row['cues'] as { shows?: string }[] | undefined;
      const title =
        row['title'] ??
        row['part'] ??
        row['name'] ??
        row['do'] ??
        row['says'] ??
        row['question'] ??
        row['point'] ??
        row['rule'] ??
        row['failure'] ??
        cues?.[0]?.shows ??
        row['id'];
      return { path: [...path, i], id: String(row['id'] ?? ''), title: String(title ?? ''), where };
    });
  if (head === '*')
    return (Array.isArray(node) ? node : []).flatMap((each: Record<string, unknown>, i) =>
      gather(each[rest[0]!], rest.slice(1), [...path, i, rest[0]!], String(each['title'] ?? '')),
    );
  return gather((node as Record<string, unknown> | undefined)?.[head], rest, [...path, head], where);
}
const pattern = computed(() => LISTS.find((each) => each[0] === list.value)![1]);
const rows = computed(() => (value.value ? gather(value.value, pattern.value, [], '') : []));
const shown = computed(() =>
  rows.value.filter((each) =>
    `${each.id} ${each.title} ${each.where}`.toLowerCase().includes(search.value.toLowerCase()),
  ),
);
const row = computed(() => rows.value.find((each) => each.path.join('/') === chosen.value) ?? null);
const rowValue = computed(() =>
  row.value?.path.reduce<unknown>(
    (node, key) => (node as Record<string | number, unknown>)[key],
    value.value,
  ),
);
const rowSchema = computed(() =>
  row.value
    ? formSchema(
        schemaAt(
          schema,
          row.value.path.map((each) => (typeof each === 'number' ? 0 : each)),
        ),
      )
    : null,
);
const errorsOf = (path: readonly (string | number)[]) =>
  errors.value.filter((each) => `${each.path}/`.startsWith(`${path.join('/')}/`));
watch(list, () => (chosen.value = ''));
watch(
  [rows, () => route.query['row']],
  () => {
    const wanted = route.query['row'];
    if (typeof wanted !== 'string' || !value.value || chosen.value) return;
    for (const [name, way] of LISTS) {
      const found = gather(value.value, way, [], '').find((each) => each.id === wanted);
      if (found) {
        list.value = name;
        void nextTick(() => (chosen.value = found.path.join('/')));
        return;
      }
    }
  },
  { immediate: true },
);
/** Steps and criteria have their own list, so a procedure's form leaves them out. */
function formSchema(node: SchemaNode | null): SchemaNode | null {
  if (!node?.properties?.['steps']) return node;
  const { steps: _steps, ...properties } = node.properties;
  return { ...node, properties };
}
function write(change: (doc: Document) => void) {
  const doc = document.value;
  if (!doc) return;
  change(doc);
  source.value = packDocumentText(doc);
}
function setRow(given: unknown) {
  const { path } = row.value!;
  const whole =
    list.value === 'Procedures'
      ? { ...(given as object), steps: (rowValue.value as { steps: unknown }).steps }
      : given;
  write((doc) => doc.setIn(path, doc.createNode(whole)));
}
function addRow() {
  const model = row.value ?? rows.value.at(-1);
  if (!model) return;
  const copy = structuredClone(
    JSON.parse(
      JSON.stringify(
        model.path.reduce<unknown>(
          (node, key) => (node as Record<string | number, unknown>)[key],
          value.value,
        ),
      ),
    ) as Record<string, unknown>,
  );
  const taken = new Set(rows.value.map((each) => each.id));
  let n = 2;
  while (taken.has(`${model.id}-${n}`)) n += 1;
  copy['id'] = `${model.id}-${n}`;
  const parent = model.path.slice(0, -1);
  const length = (
    parent.reduce<unknown>(
      (node, key) => (node as Record<string | number, unknown>)[key],
      value.value,
    ) as unknown[]
  ).length;
  write((doc) => doc.addIn(parent, doc.createNode(copy)));
  void nextTick(() => (chosen.value = [...parent, length].join('/')));
}
function removeRow() {
  const { path, title } = row.value!;
  if (!confirm(`Remove "${title}" from the draft?`)) return;
  chosen.value = '';
  write((doc) => doc.deleteIn(path));
}
function moveStation(station: string, field: 'at' | 'spot', to: Point) {
  const index = value.value!.plan.stations.findIndex((each) => each.id === station);
  write((doc) => doc.setIn(['plan', 'stations', index, field], doc.createNode(to)));
}
const editor = ref<InstanceType<typeof CodeEditor> | null>(null);
async function goTo(line: number) {
  tab.value = 'text';
  await nextTick();
  setTimeout(() => editor.value?.goTo(line), 60);
}
const status = computed(() => {
  if (saving.value) return 'Saving';
  if (source.value !== savedText.value)
    return problem.value ? 'Kept on this device, not saved' : 'Changed, saved in a moment';
  return version.value > 0
    ? `Draft saved ${new Date(savedAt.value).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })} by ${savedBy.value}`
    : 'As published, no draft';
});
</script>

<template>
  <div class="screen stack">
    <StateBox :loading="loading" :error="failure" what="the draft" @retry="load()">
      <div class="row spread">
        <div>
          <h1>Edit {{ published?.title.toLowerCase() ?? id }}</h1>
          <p class="quiet" role="status">
            {{ status }}.
            <template v-if="checked && errors.length === 0">No errors.</template>
            <template v-else-if="checked"
              ><span class="stopped"
                >{{ errors.length }} {{ errors.length === 1 ? 'error' : 'errors' }}</span
              ></template
            >
          </p>
        </div>
        <div class="row">
          <Button v-if="version > 0 || source !== savedText" @click="discard">Throw the draft away</Button>
          <RouterLink :to="`/classes/${id}`" class="act plain">Back to the class</RouterLink>
        </div>
      </div>
      <div v-if="problem" class="sheet pad problem row spread" role="alert">
        <span
          ><strong>{{ problem.title }}.</strong> {{ problem.detail }}</span
        >
        <Button v-if="problem.code === 'draft-moved'" @click="takeTheirs">Open what is saved</Button>
        <Button v-else-if="problem.code === 'kept'" @click="takeTheirs">Leave it, open what is saved</Button>
      </div>
      <div class="tabs" role="tablist" aria-label="Ways to edit">
        <button
          v-for="(name, key) in TABS"
          :id="`tab-${key}`"
          :key="key"
          role="tab"
          :aria-selected="tab === key"
          aria-controls="part"
          @click="tab = key"
        >
          {{ name }}
          <span v-if="key === 'changes' && changes.length" class="quiet">{{ changes.length }}</span>
        </button>
      </div>
      <div id="part" role="tabpanel" :aria-labelledby="`tab-${tab}`" class="stack">
        <p v-if="(tab === 'rows' || tab === 'plan') && !value" class="sheet pad problem">
          The text is not readable YAML at the moment.
          <button class="link" @click="goTo(errors[0]?.line ?? 1)">
            Go to line {{ errors[0]?.line ?? 1 }}
          </button>
        </p>
        <div v-else-if="tab === 'rows'" class="two">
          <div class="stack">
            <div class="row">
              <label class="field"
                >Rows
                <select v-model="list" class="plain">
                  <option v-for="[name] in LISTS" :key="name">{{ name }}</option>
                </select></label
              >
              <label class="field grow">Find <input v-model="search" type="search" class="plain" /></label>
            </div>
            <ul class="sheet list" aria-label="Rows">
              <li v-for="each in shown" :key="each.path.join('/')">
                <button :aria-pressed="chosen === each.path.join('/')" @click="chosen = each.path.join('/')">
                  <strong>{{ each.title }}</strong>
                  <span class="quiet small">{{ [each.id, each.where].filter(Boolean).join(', ') }}</span>
                  <span v-if="errorsOf(each.path).length" class="stopped">{{
                    errorsOf(each.path).length
                  }}</span>
                </button>
              </li>
            </ul>
            <Button @click="addRow">Add a row{{ row ? ' like the chosen one' : '' }}</Button>
          </div>
          <form v-if="row && rowSchema" class="sheet pad stack" :aria-label="`Row ${row.id}`" @submit.prevent>
            <div class="row spread">
              <h2>{{ row.title }}</h2>
              <Button danger @click="removeRow">Remove</Button>
            </div>
            <p v-for="(e, i) in errorsOf(row.path)" :key="i" class="wrong" role="alert">{{ e.message }}</p>
            <SchemaForm
              :key="chosen"
              :schema="rowSchema"
              :name="row.id"
              :model-value="rowValue"
              needed
              top
              @update:model-value="setRow"
            />
          </form>
          <p v-else class="sheet pad quiet">Choose a row to change it.</p>
        </div>
        <template v-else-if="tab === 'text'">
          <CodeEditor ref="editor" v-model="source" :errors="errors" label="The class as YAML" />
          <p class="quiet small">
            Ctrl+Space offers the keys and values that may stand here. Errors are marked at their lines.
            Escape, then Tab, leaves the text.
          </p>
        </template>
        <PlanEditor v-else-if="tab === 'plan' && value" :plan="value.plan" @move="moveStation" />
        <template v-else-if="tab === 'changes'">
          <section v-if="errors.length" class="sheet pad stack" aria-label="Errors">
            <h2>To put right before publishing</h2>
            <ul>
              <li v-for="(e, i) in errors.slice(0, 40)" :key="i" class="change row spread">
                <span>{{ e.message }}</span><button class="link" @click="goTo(e.line)">
                  line {{ e.line }}
                </button>
              </li>
            </ul>
          </section>
          <section class="sheet pad">
            <h2>What publishing would change</h2>
            <p v-if="!checked" role="status">Checking</p>
            <p v-else-if="errors.length" class="quiet">Shown when there are no errors.</p>
            <p v-else-if="changes.length === 0">
              Nothing: the draft says what revision {{ published?.revision }} says.
            </p>
            <ChangeList v-else :changes="changes" :before="`revision ${published?.revision}`" after="draft" />
          </section>
          <form class="sheet pad stack" @submit.prevent="publish">
            <h2>Publish as revision {{ (published?.revision ?? 0) + 1 }} or the next free number</h2>
            <p class="quiet">
              From then on it is assessed here. Evaluations made before keep the content they were made with.
            </p>
            <label class="field"
              >Why it changes
              <input v-model="remark" class="plain" maxlength="500" placeholder="for the list of revisions"
            /></label>
            <div>
              <button
                class="act"
                :disabled="
                  publishing ||
                  !checked ||
                  errors.length > 0 ||
                  changes.length === 0 ||
                  remark.trim().length < 3
                "
              >
                Publish
              </button>
            </div>
          </form>
        </template>
      </div>
    </StateBox>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(300px, 36%) 1fr;
  gap: 1rem;
  align-items: start;
}
.list {
  max-height: 62vh;
  overflow-y: auto;
}
.list button {
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  border-bottom: 1px solid var(--line);
  text-align: left;
  width: 100%;
  padding: 0.5rem 0.8rem;
  min-height: 48px;
  cursor: pointer;
}
.list strong,
.list .small {
  display: block;
}
.list button[aria-pressed='true'] {
  background: var(--raised);
  box-shadow: inset 4px 0 0 var(--petrol);
}
.wrong {
  color: var(--crimson);
  font-weight: 700;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .list {
    max-height: 34vh;
  }
}
</style>
