<script setup lang="ts">
import { PlusOutlined } from '@ant-design/icons-vue';
import {
  findListedRow,
  keyedBy,
  listedRows,
  type Pack,
  type PackError,
  packJsonSchema,
  placeOfList,
  type Procedure,
  ROW_LISTS,
  type RowListId,
  type Step,
} from '@rounds/core/catalogue';
import { COMPONENT_KINDS } from '@rounds/core/machine';
import { Button, Form, Input } from 'ant-design-vue';
import { computed, nextTick, provide, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import type { Document } from 'yaml';
import { toJSONSchema } from 'zod';
import { askFirst } from '../../parts/askFirst';
import ChoiceField from '../../parts/ChoiceField.vue';
import { EDITED, EDITED_LIST, EDITED_ROW, ROW_ERRORS } from './fields';
import LiveDesk from './LiveDesk.vue';
import OrderGraph from './OrderGraph.vue';
import SchemaForm from './SchemaForm.vue';
import { schemaAt, type SchemaNode, schemaOfRow } from './yamlContext';

/** The rows of a class as forms. They change the YAML document itself, so comments and order stay. */
const props = defineProps<{ value: Pack; errors: readonly PackError[] }>();
const emit = defineEmits<{ write: [change: (doc: Document) => void] }>();
const schema = packJsonSchema() as SchemaNode;
const route = useRoute();
provide(
  EDITED,
  computed(() => props.value),
);

const list = ref<RowListId>('checkpoints');
const search = ref('');
const chosen = ref('');
const key = (path: readonly (string | number)[]) => path.join('/');
const rows = computed(() => listedRows(props.value, list.value));
const shown = computed(() =>
  rows.value.filter((each) =>
    `${each.id} ${each.title} ${each.where}`.toLowerCase().includes(search.value.toLowerCase()),
  ),
);
const row = computed(() => rows.value.find((each) => key(each.path) === chosen.value) ?? null);
const at = (path: readonly (string | number)[]) =>
  path.reduce<unknown>((node, step) => (node as Record<string | number, unknown>)[step], props.value);
const rowValue = computed(() => (row.value ? at(row.value.path) : undefined));
provide(
  EDITED_ROW,
  computed(() => rowValue.value as Readonly<Record<string, unknown>> | undefined),
);
const rowSchema = computed(() => {
  if (!row.value) return null;
  const given = (rowValue.value ?? {}) as Readonly<Record<string, unknown>>;
  const own = schemaOfRow(
    schema,
    row.value.path.map((each) => (typeof each === 'number' ? 0 : each)),
    given,
  );
  return list.value === 'deskComponents' ? componentSchema(own, given['kind']) : withoutSteps(own);
});
provide(EDITED_LIST, list);
provide(
  ROW_ERRORS,
  computed(() => {
    if (!row.value) return [];
    const own = key(row.value.path);
    return errorsOf(row.value.path).map((each) => ({ ...each, path: each.path.slice(own.length) }));
  }),
);
/** A component has the fields of its kind. */
function componentSchema(own: SchemaNode | null, kind: unknown): SchemaNode | null {
  const found = COMPONENT_KINDS.get(String(kind));
  const parameters = (found ? toJSONSchema(found.parameters, { io: 'input' }) : {}) as SchemaNode;
  const { kind: _kind, id, needs, ...rest } = own?.properties ?? {};
  const origin = schemaAt(schema, ['numbers', 0, 'origin']);
  return {
    type: 'object',
    required: ['kind', ...(parameters.required ?? [])],
    properties: {
      kind: { type: 'string', enum: [...COMPONENT_KINDS.keys()], description: found?.says ?? '' },
      ...(id ? { id } : {}),
      ...parameters.properties,
      ...(needs ? { needs } : {}),
      ...rest,
      ...(origin ? { origin } : {}),
    },
  };
}
/** What stands in a desk for a row that is the class's own: how it is shown, or why it cannot be. */
const turnsTo = computed(() => {
  if (list.value !== 'deskForbidden' && list.value !== 'deskFailures') return null;
  const given = (rowValue.value ?? {}) as Readonly<Record<string, unknown>>;
  // What is asked on a card is asked either way.
  const asked = 'asked' in given ? { asked: given['asked'] } : {};
  if (!('notHere' in given)) return { name: 'The desk cannot show it', row: { notHere: '', ...asked } };
  return {
    name: 'The desk shows it',
    row:
      list.value === 'deskForbidden'
        ? { when: '', ...asked }
        : { begins: '', sets: {}, seen: [], right: [], wrong: [] },
  };
});
const onDesk = computed(() => list.value.startsWith('desk') || list.value === 'failures');
/** Steps have their own list, so a procedure's form leaves them out. */
function withoutSteps(node: SchemaNode | null): SchemaNode | null {
  if (!node?.properties?.['steps']) return node;
  const { steps: _steps, ...properties } = node.properties;
  return { ...node, properties };
}
const errorsOf = (path: readonly (string | number)[]) =>
  props.errors.filter((each) => `${each.path}/`.startsWith(`${key(path)}/`));

function choose(id: RowListId) {
  list.value = id;
  chosen.value = '';
}
// A link may name the row to edit.
watch(
  () => route.query['row'],
  (wanted) => {
    if (typeof wanted !== 'string') return;
    const found = findListedRow(props.value, wanted);
    if (!found) return;
    list.value = found.list;
    chosen.value = key(found.row.path);
  },
  { immediate: true },
);

// The row that a link names is where it can be seen.
watch(
  chosen,
  () =>
    void nextTick(() =>
      document.querySelector('.list [aria-pressed="true"]')?.scrollIntoView({ block: 'nearest' }),
    ),
  { immediate: true, flush: 'post' },
);

function setRow(given: unknown) {
  const { path } = row.value!;
  const whole =
    list.value === 'procedures'
      ? { ...(given as object), steps: (rowValue.value as { steps: unknown }).steps }
      : given;
  emit('write', (doc) => doc.setIn(path, doc.createNode(whole)));
}
/** What a step of the chosen procedure waits for. */
function setAfter(step: string, after: Step['after']) {
  const path = [...row.value!.path, 'steps'];
  const i = (rowValue.value as Procedure).steps.findIndex((each) => each.id === step);
  emit('write', (doc) =>
    after.length === 0
      ? doc.deleteIn([...path, i, 'after'])
      : doc.setIn([...path, i, 'after'], doc.createNode(after, { flow: true })),
  );
}
function addRow() {
  if (keyedBy(list.value)) return;
  const model = row.value ?? rows.value.at(-1);
  if (!model) {
    // The first of its list says what it lacks in its form.
    const place = [...placeOfList(list.value)];
    if (place.includes('*')) return;
    emit('write', (doc) => doc.setIn(place, doc.createNode([{ id: 'new-row' }])));
    return void nextTick(() => (chosen.value = key([...place, 0])));
  }
  const copy = JSON.parse(JSON.stringify(at(model.path))) as Record<string, unknown>;
  const taken = new Set(rows.value.map((each) => each.id));
  let n = 2;
  while (taken.has(`${model.id}-${n}`)) n += 1;
  if ('id' in copy) copy['id'] = `${model.id}-${n}`;
  const parent = model.path.slice(0, -1);
  const { length } = at(parent) as unknown[];
  emit('write', (doc) => doc.addIn(parent, doc.createNode(copy)));
  void nextTick(() => (chosen.value = key([...parent, length])));
}
/** Rows of the class that the desk says nothing of yet. */
const unsaid = computed(() => {
  const of = keyedBy(list.value);
  if (!of) return [];
  const there = new Set(rows.value.map((each) => each.id));
  return listedRows(props.value, of)
    .filter((each) => !there.has(each.id))
    .map((each) => ({ value: each.id, label: each.title, more: each.id }));
});
function say(id: string) {
  const place = placeOfList(list.value);
  const blank = list.value === 'deskSteps' ? { acts: [] } : { notHere: '' };
  emit('write', (doc) => doc.setIn([...place, id], doc.createNode(blank)));
  void nextTick(() => (chosen.value = key([...place, id])));
}
function removeRow() {
  const { path, title } = row.value!;
  askFirst(
    {
      title: `Remove "${title}" from the draft?`,
      content: 'What is in use stays as it is until the draft is published.',
      act: 'Remove',
      stay: 'Keep it',
      grave: true,
    },
    () => {
      chosen.value = '';
      emit('write', (doc) => doc.deleteIn(path));
    },
  );
}
</script>

<template>
  <div class="two">
    <div class="stack">
      <div class="finding">
        <ChoiceField
          :value="list"
          label="Rows"
          :searchable="true"
          :options="ROW_LISTS.map((each) => ({ value: each.id, label: each.name }))"
          @update:value="choose($event as RowListId)"
        />
        <Input v-model:value="search" type="search" allow-clear placeholder="Find" aria-label="Find" />
      </div>
      <ul class="sheet list" :class="{ short: onDesk }" aria-label="Rows">
        <li v-for="each in shown" :key="key(each.path)">
          <button :aria-pressed="chosen === key(each.path)" @click="chosen = key(each.path)">
            <strong>{{ each.title }}</strong>
            <span class="quiet small">{{ [each.id, each.where].filter(Boolean).join(', ') }}</span>
            <span v-if="errorsOf(each.path).length" class="stopped">{{ errorsOf(each.path).length }}</span>
          </button>
        </li>
      </ul>
      <ChoiceField
        v-if="keyedBy(list)"
        value=""
        label="Say of another one"
        :placeholder="unsaid.length > 0 ? 'Say of another one' : 'All of them are said'"
        :disabled="unsaid.length === 0"
        :options="unsaid"
        @update:value="say"
      />
      <Button v-else @click="addRow"
        ><template #icon><PlusOutlined /></template>Add a row{{ row ? ' like the chosen one' : '' }}</Button
      >
      <LiveDesk v-if="onDesk" :value="value" />
    </div>
    <Form
      v-if="row && rowSchema"
      layout="vertical"
      class="sheet pad stack"
      :aria-label="`Row ${row.id}`"
      @submit.prevent
    >
      <div class="row spread">
        <h2>{{ row.title }}</h2>
        <span class="row">
          <Button v-if="turnsTo" @click="setRow(turnsTo.row)">{{ turnsTo.name }}</Button>
          <Button danger @click="removeRow">Remove</Button>
        </span>
      </div>
      <p v-for="(e, i) in errorsOf(row.path)" :key="i" class="wrong" role="alert">{{ e.message }}</p>
      <OrderGraph
        v-if="list === 'procedures'"
        :key="`graph ${chosen}`"
        :pack="value"
        :procedure="rowValue as Procedure"
        @after="setAfter"
      />
      <SchemaForm
        :key="chosen"
        :schema="rowSchema"
        :name="row.id || 'row'"
        path=""
        :model-value="rowValue"
        needed
        top
        @update:model-value="setRow"
      />
    </Form>
    <p v-else class="sheet pad quiet">Choose a row to change it.</p>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(300px, 34%) minmax(0, 1fr);
  gap: 1rem;
  align-items: start;
}
.finding {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.5rem;
}
.list {
  max-height: 60vh;
  overflow-y: auto;
}
.list.short {
  max-height: 30vh;
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
