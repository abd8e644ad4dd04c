<script setup lang="ts">
import { pointsTo } from '@rounds/core/catalogue';
import { Button, Checkbox, FormItem } from 'ant-design-vue';
import { computed, inject, ref, useId } from 'vue';
import { parse, stringify } from 'yaml';
import ChoiceField from '../../parts/ChoiceField.vue';
import SeveralField from '../../parts/SeveralField.vue';
import AppearsField from './AppearsField.vue';
import EvidenceField from './EvidenceField.vue';
import {
  EDITED,
  EDITED_LIST,
  fieldName,
  needChoices,
  ROW_ERRORS,
  rowChoices,
  unitOf,
  valueChoices,
} from './fields';
import OriginField from './OriginField.vue';
import SettledInput from './SettledInput.vue';
import StepsField from './StepsField.vue';
import TimingField from './TimingField.vue';
import UntilField from './UntilField.vue';
import type { SchemaNode } from './yamlContext';

/** A form made from a schema: every field of a row, with what it means, whatever its kind. */
const props = defineProps<{
  schema: SchemaNode;
  modelValue: unknown;
  name: string;
  /** The field this one stands in. */
  within?: string;
  /** The unit of the measure it belongs to. */
  measure?: string | undefined;
  /** The row it is a field of. */
  row?: Readonly<Record<string, unknown>>;
  needed?: boolean;
  top?: boolean;
  /** Where it is in its row, as errors name it. */
  path?: string | undefined;
}>();
const emit = defineEmits<{ 'update:modelValue': [value: unknown] }>();

const listed = inject(EDITED_LIST, ref(undefined));
const label = computed(() => fieldName(props.name, listed.value));
const items = computed(() => (typeof props.schema.items === 'object' ? props.schema.items : null));
const edited = inject(EDITED, ref(undefined));
const list = computed(() => pointsTo(props.name, props.within ?? '', listed.value));
const wrongs = inject(ROW_ERRORS, ref([]));
/** What the check of the class says of this very field. */
const told = computed(() => {
  const { path } = props;
  if (path === undefined) return '';
  return wrongs.value
    .filter((each) => each.path === path || each.path.startsWith(`${path}/`))
    .map((each) => each.message)
    .join('; ');
});
const isText = (node: SchemaNode | null) => node?.type === 'string' && !node.enum;

type Kind =
  | 'origin'
  | 'appears'
  | 'until'
  | 'timing'
  | 'evidence'
  | 'needs'
  | 'steps'
  | 'reference'
  | 'references'
  | 'choice'
  | 'switch'
  | 'number'
  | 'text'
  | 'line'
  | 'several'
  | 'lines'
  | 'rows'
  | 'point'
  | 'record'
  | 'scalar'
  | 'raw';
/** Parts of a row that have a form of their own. */
const OWN_FORMS: Partial<Record<string, Kind>> = {
  origin: 'origin',
  appears: 'appears',
  until: 'until',
  timing: 'timing',
  evidence: 'evidence',
  drawing: 'evidence',
};
/** What a field of text is: a reference by name, a long text or a line. */
function textKind(schema: SchemaNode): Kind {
  if (schema.enum) return 'choice';
  if (list.value) return 'reference';
  return (schema.maxLength ?? 0) > 200 ? 'text' : 'line';
}
function listKind(schema: SchemaNode): Kind {
  if (schema.prefixItems?.length === 2 && schema.prefixItems.every((each) => each.type === 'number'))
    return 'point';
  if (props.name === 'needs') return 'needs';
  if (list.value === 'steps') return 'steps';
  if (items.value?.enum) return 'several';
  if (list.value && isText(items.value)) return 'references';
  if (items.value?.type === 'string' || isPlain(items.value)) return 'lines';
  if (list.value && chosenIds.value) return 'references';
  return items.value?.properties ? 'rows' : 'raw';
}
/** A text, a number or a truth, whichever. */
const isPlain = (node: SchemaNode | null): boolean =>
  Array.isArray(node?.type)
    ? node.type.every((each) => PLAIN.includes(each))
    : (node?.anyOf?.every((each) => PLAIN.includes(String(each.type))) ?? false);
const PLAIN: readonly string[] = ['string', 'number', 'integer', 'boolean'];
/** What is chosen where one or several rows are pointed to by their ids alone; null where more is said of them. */
const chosenIds = computed<string[] | null>(() => {
  const given = props.modelValue;
  if (given === undefined) return [];
  if (typeof given === 'string') return [given];
  return Array.isArray(given) && given.every((each) => typeof each === 'string') ? given : null;
});
/** One row or a list of them may be pointed to. */
const oneOrMore = computed(() => props.schema.anyOf?.some((each) => each.type === 'array') ?? false);
const kind = computed<Kind>(() => {
  const { schema, name } = props;
  if (list.value && oneOrMore.value && chosenIds.value) return 'references';
  const own = OWN_FORMS[name];
  if (own && schema.type === 'object') return own;
  if (schema.enum) return 'choice';
  if (schema.type === 'boolean') return 'switch';
  if (schema.type === 'number' || schema.type === 'integer') return 'number';
  if (schema.type === 'string') return textKind(schema);
  if (schema.type === 'array') return listKind(schema);
  if (isPlain(schema)) return 'scalar';
  return schema.type === 'object' && schema.properties ? 'record' : 'raw';
});
const record = computed(() => (props.modelValue ?? {}) as Record<string, unknown>);
const rows = computed(() => (props.modelValue as Record<string, unknown>[] | undefined) ?? []);
const chosen = computed(() =>
  kind.value === 'references' ? (chosenIds.value ?? []) : ((props.modelValue as string[] | undefined) ?? []),
);
const setChosen = (ids: string[]) => set(oneOrMore.value && ids.length === 1 ? ids[0] : ids);
const pair = computed(() => (props.modelValue as (number | undefined)[] | undefined) ?? []);
const ownMeasure = computed(() => {
  const unit = record.value['unit'];
  return typeof unit === 'string' ? unit : props.measure;
});
const unit = computed(() => {
  if (kind.value === 'point') return props.name === 'range' ? unitOf('range', props.measure) : 'm';
  return unitOf(props.name, props.measure);
});
const choices = computed(() => {
  if (kind.value === 'choice') return valueChoices(props.name, props.within ?? '', props.schema.enum!);
  if (kind.value === 'needs') return needChoices(edited.value);
  return list.value ? rowChoices(edited.value, list.value) : [];
});
const problem = ref('');
const id = useId();

const clean = (value: unknown) =>
  value === '' || value === null || (Array.isArray(value) && value.length === 0 && !props.needed)
    ? undefined
    : value;
const set = (value: unknown) => emit('update:modelValue', clean(value));
function setField(field: string, value: unknown) {
  const next = { ...record.value, [field]: value };
  if (value === undefined) delete next[field];
  const empty = !props.needed && !props.top && Object.keys(next).length === 0;
  emit('update:modelValue', empty ? undefined : next);
}
const setRow = (index: number, value: unknown) =>
  emit(
    'update:modelValue',
    rows.value.map((each, i) => (i === index ? value : each)),
  );
function setHalf(index: number, value: unknown) {
  const next = [pair.value[0], pair.value[1]];
  next[index] = typeof value === 'number' ? value : undefined;
  if (next.every((each) => each === undefined)) set(undefined);
  else emit('update:modelValue', [next[0] ?? 0, next[1] ?? 0]);
}
const lines = (text: string) =>
  text
    .split('\n')
    .map((each) => each.trim())
    .filter(Boolean);
function raw(text: string) {
  try {
    problem.value = '';
    const given = text.trim();
    set(given === '' ? undefined : parse(given));
  } catch (error) {
    problem.value = error instanceof Error ? error.message.split('\n')[0]! : String(error);
  }
}
const plain = computed(() => props.modelValue as string | number | undefined);
const asYaml = computed(() => (props.modelValue === undefined ? '' : stringify(props.modelValue).trim()));
</script>

<template>
  <fieldset v-if="kind === 'record'" class="record" :class="{ top }">
    <legend v-if="!top">{{ label }}</legend>
    <SchemaForm
      v-for="(each, field) in schema.properties"
      :key="field"
      :schema="each"
      :name="String(field)"
      :within="name"
      :measure="ownMeasure"
      :row="record"
      :path="path === undefined ? undefined : `${path}/${field}`"
      :needed="schema.required?.includes(String(field)) ?? false"
      :model-value="record[field]"
      @update:model-value="setField(String(field), $event)"
    />
  </fieldset>
  <fieldset v-else-if="kind === 'rows'" class="record">
    <legend>{{ label }}</legend>
    <div v-for="(each, i) in rows" :key="i" class="nested">
      <SchemaForm
        :schema="items!"
        :name="`${name} ${i + 1}`"
        :within="name"
        :measure="measure"
        :path="path === undefined ? undefined : `${path}/${i}`"
        needed
        top
        :model-value="each"
        @update:model-value="setRow(i, $event)"
      />
      <Button type="link" danger @click="set(rows.filter((_, k) => k !== i))"
        >Remove {{ label.toLowerCase() }} {{ i + 1 }}</Button
      >
    </div>
    <Button type="link" @click="emit('update:modelValue', [...rows, {}])"
      >Add to {{ label.toLowerCase() }}</Button
    >
  </fieldset>
  <OriginField
    v-else-if="kind === 'origin'"
    :label="label"
    :model-value="modelValue"
    @update:model-value="set"
  />
  <AppearsField
    v-else-if="kind === 'appears'"
    :label="label"
    :methods="row?.['methods']"
    :model-value="modelValue"
    @update:model-value="emit('update:modelValue', $event)"
  />
  <UntilField
    v-else-if="kind === 'until'"
    :label="label"
    :mend="row?.['grade'] === 'mend'"
    :model-value="modelValue"
    @update:model-value="set"
  />
  <TimingField
    v-else-if="kind === 'timing'"
    :label="label"
    :model-value="modelValue"
    @update:model-value="set"
  />
  <EvidenceField
    v-else-if="kind === 'evidence'"
    :label="label"
    :of="name === 'drawing' ? 'cue' : 'check'"
    :model-value="modelValue"
    @update:model-value="set"
  />
  <StepsField
    v-else-if="kind === 'steps'"
    :label="label"
    :steps="choices"
    :model-value="modelValue"
    @update:model-value="set"
  />
  <Checkbox
    v-else-if="kind === 'switch'"
    :checked="modelValue === true"
    class="tick"
    @change="set($event.target.checked)"
    >{{ label }}</Checkbox
  >
  <FormItem
    v-else
    :html-for="id"
    :validate-status="problem || told ? 'error' : ''"
    :help="problem || told || undefined"
    class="one"
  >
    <template #label
      >{{ label }}<span v-if="!needed" class="quiet may"> may stay empty</span
      ><span v-if="schema.description" class="quiet small may">{{ ` ${schema.description}` }}</span></template
    >
    <ChoiceField
      v-if="kind === 'choice' || kind === 'reference'"
      :id="id"
      :value="typeof modelValue === 'string' || typeof modelValue === 'number' ? String(modelValue) : ''"
      :label="label"
      :options="choices"
      :clearable="!needed"
      @update:value="set"
    />
    <SeveralField
      v-else-if="kind === 'several' || kind === 'references' || kind === 'needs'"
      :id="id"
      :value="chosen"
      :label="label"
      :options="
        kind === 'several'
          ? items!.enum!.map((each) => ({ value: String(each), label: String(each) }))
          : choices
      "
      placeholder="none"
      :free="kind === 'needs' || name === 'holds'"
      whole
      @update:value="setChosen"
    />
    <span v-else-if="kind === 'point'" class="row pair">
      <SettledInput
        :id="id"
        kind="number"
        :value="pair[0]"
        :unit="unit"
        :label="`${label}, first`"
        @settle="setHalf(0, $event)"
      />
      <SettledInput
        kind="number"
        :value="pair[1]"
        :unit="unit"
        :label="`${label}, second`"
        @settle="setHalf(1, $event)"
      />
    </span>
    <SettledInput
      v-else-if="kind === 'number' || kind === 'line' || kind === 'text'"
      :id="id"
      :kind="kind"
      :value="plain"
      :unit="unit"
      @settle="set"
    />
    <SettledInput
      v-else-if="kind === 'scalar'"
      :id="id"
      kind="line"
      :value="asYaml"
      @settle="raw(String($event ?? ''))"
    />
    <SettledInput
      v-else-if="kind === 'lines'"
      :id="id"
      kind="text"
      :value="chosen.join('\n')"
      placeholder="one on a line"
      @settle="set(lines(String($event ?? '')))"
    />
    <SettledInput
      v-else
      :id="id"
      kind="text"
      class="raw"
      :value="asYaml"
      placeholder="as YAML"
      @settle="raw(String($event ?? ''))"
    />
  </FormItem>
</template>

<style scoped>
.record {
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.5rem 0.75rem 0.7rem;
  margin: 0;
  display: grid;
  gap: 0.6rem;
}
.record > .ant-btn {
  justify-self: start;
}
.record.top {
  border: 0;
  padding: 0;
}
.nested {
  border-left: 3px solid var(--line);
  padding-left: 0.75rem;
}
.one {
  margin-bottom: 0.3rem;
}
.may {
  font-weight: 400;
  margin-left: 0.25rem;
}
.pair {
  flex-wrap: nowrap;
}
.raw {
  font-family: ui-monospace, 'DejaVu Sans Mono', monospace;
}
</style>
