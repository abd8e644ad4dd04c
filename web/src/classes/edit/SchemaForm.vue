<script setup lang="ts">
import { computed, inject, ref, useId } from 'vue';
import { parse, stringify } from 'yaml';
import { POINTABLE } from './pointable';
import type { SchemaNode } from './yamlContext';

/** A form made from a schema: every field of a row, with what it means, whatever its kind. */
const props = defineProps<{
  schema: SchemaNode;
  modelValue: unknown;
  name: string;
  needed?: boolean;
  top?: boolean;
}>();
const emit = defineEmits<{ 'update:modelValue': [value: unknown] }>();

const WORDS: Readonly<Record<string, string>> = {
  honestSeconds: 'Honest seconds',
  alsoAt: 'Also at stations',
  whenNote: 'Conditions in words',
  spurFrom: 'Hangs from station',
  afterNote: 'Prerequisite that is no step',
  ifFails: 'If it fails',
  do: 'What to do',
};
const label = computed(
  () => WORDS[props.name] ?? props.name.replace(/([A-Z])/g, ' $1').replace(/^./, (c) => c.toUpperCase()),
);
const items = computed(() => (typeof props.schema.items === 'object' ? props.schema.items : null));
const kind = computed(() => {
  const { schema } = props;
  if (schema.enum) return 'choice';
  if (schema.type === 'boolean') return 'switch';
  if (schema.type === 'number' || schema.type === 'integer') return 'number';
  if (schema.type === 'string') return (schema.maxLength ?? 0) > 200 ? 'text' : 'line';
  if (schema.type === 'array' && items.value?.enum) return 'several';
  if (schema.type === 'array' && items.value?.type === 'string') return 'lines';
  if (schema.type === 'array' && items.value?.properties) return 'rows';
  if (schema.type === 'object' && schema.properties) return 'record';
  return 'raw';
});
const record = computed(() => (props.modelValue ?? {}) as Record<string, unknown>);
const rows = computed(() => (props.modelValue as Record<string, unknown>[] | undefined) ?? []);
const chosen = computed(() => (props.modelValue as string[] | undefined) ?? []);
const problem = ref('');
const listId = useId();
/** Ids that a field such as `station` may point to. */
const pointable = inject(POINTABLE, null);
const ids = computed(() => pointable?.value[props.name] ?? []);

const clean = (value: unknown) =>
  value === '' || (Array.isArray(value) && value.length === 0 && !props.needed) ? undefined : value;
const set = (value: unknown) => emit('update:modelValue', clean(value));
const setField = (field: string, value: unknown) => {
  const next = { ...record.value, [field]: value };
  if (value === undefined) delete next[field];
  emit('update:modelValue', !props.needed && !props.top && Object.keys(next).length === 0 ? undefined : next);
};
const setRow = (index: number, value: unknown) =>
  emit(
    'update:modelValue',
    rows.value.map((each, i) => (i === index ? value : each)),
  );
const text = (event: Event) => (event.target as HTMLInputElement).value;
function raw(event: Event) {
  try {
    problem.value = '';
    const given = text(event).trim();
    set(given === '' ? undefined : parse(given));
  } catch (error) {
    problem.value = error instanceof Error ? error.message.split('\n')[0]! : String(error);
  }
}
</script>

<template>
  <fieldset v-if="kind === 'record'" class="record" :class="{ top }">
    <legend v-if="!top">{{ label }}</legend>
    <SchemaForm
      v-for="(each, field) in schema.properties"
      :key="field"
      :schema="each"
      :name="String(field)"
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
        needed
        top
        :model-value="each"
        @update:model-value="setRow(i, $event)"
      />
      <button type="button" class="link" @click="set(rows.filter((_, k) => k !== i))">
        Remove {{ label.toLowerCase() }} {{ i + 1 }}
      </button>
    </div>
    <button type="button" class="link" @click="emit('update:modelValue', [...rows, {}])">
      Add to {{ label.toLowerCase() }}
    </button>
  </fieldset>
  <fieldset v-else-if="kind === 'several'" class="several">
    <legend>{{ label }}{{ needed ? '' : ' (may be empty)' }}</legend>
    <label v-for="value in items!.enum" :key="value" class="tick"
      ><input
        type="checkbox"
        :checked="chosen.includes(String(value))"
        @change="
          set(
            chosen.includes(String(value))
              ? chosen.filter((each) => each !== value)
              : [...chosen, String(value)],
          )
        "
      />
      {{ value }}</label
    >
  </fieldset>
  <label v-else-if="kind === 'switch'" class="tick"
    ><input
      type="checkbox"
      :checked="modelValue === true"
      @change="set(($event.target as HTMLInputElement).checked)"
    />
    {{ label }}</label
  >
  <label v-else class="field"
    ><span
      >{{ label }}{{ needed ? '' : ' (may be empty)' }}
      <span v-if="schema.description" class="quiet small hint">{{ schema.description }}</span></span
    >
    <select
      v-if="kind === 'choice'"
      class="plain"
      :value="modelValue ?? ''"
      @change="set(text($event) || undefined)"
    >
      <option value="" :disabled="needed">{{ needed ? 'choose' : 'nothing' }}</option>
      <option v-for="value in schema.enum" :key="value" :value="value">{{ value }}</option>
    </select>
    <input
      v-else-if="kind === 'number'"
      class="plain"
      type="number"
      step="any"
      :value="modelValue as number"
      @change="set(text($event) === '' ? undefined : Number(text($event)))"
    />
    <template v-else-if="kind === 'line'"
      ><input
        class="plain"
        type="text"
        :value="modelValue as string"
        :list="ids.length ? listId : undefined"
        @change="set(text($event))"
      /><datalist v-if="ids.length" :id="listId">
        <option v-for="each in ids" :key="each.id" :value="each.id">{{ each.name }}</option>
      </datalist></template
    >
    <textarea
      v-else-if="kind === 'text'"
      class="plain"
      rows="2"
      :value="modelValue as string"
      @change="set(text($event).trim())"
    ></textarea>
    <textarea
      v-else-if="kind === 'lines'"
      class="plain"
      rows="2"
      :value="chosen.join('\n')"
      placeholder="one on a line"
      @change="
        set(
          text($event)
            .split('\n')
            .map((each) => each.trim())
            .filter(Boolean),
        )
      "
    ></textarea>
    <textarea
      v-else
      class="plain raw"
      rows="2"
      :value="modelValue === undefined ? '' : stringify(modelValue).trim()"
      placeholder="as YAML"
      @change="raw"
    ></textarea>
    <span v-if="problem" class="small wrong" role="alert">{{ problem }}</span>
  </label>
</template>

<style scoped>
.record,
.several {
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.5rem 0.75rem 0.7rem;
  margin: 0;
  display: grid;
  gap: 0.6rem;
  min-width: 0;
}
.record.top {
  border: 0;
  padding: 0;
}
.several {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 1rem;
}
legend {
  font-weight: 700;
  font-size: 0.95rem;
  padding: 0 0.3rem;
}
.nested {
  border-left: 3px solid var(--line);
  padding-left: 0.75rem;
}
.tick {
  display: inline-flex;
  align-items: center;
  gap: 0.45rem;
  min-height: 40px;
}
.tick input {
  width: 22px;
  height: 22px;
  accent-color: var(--petrol);
}
.hint {
  font-weight: 400;
  margin-left: 0.4rem;
}
.raw {
  font-family: ui-monospace, 'DejaVu Sans Mono', monospace;
}
.wrong {
  color: var(--crimson);
}
</style>
