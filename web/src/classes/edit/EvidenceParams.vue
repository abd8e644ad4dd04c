<script setup lang="ts">
import {
  EVIDENCE_KINDS,
  type EvidenceParam,
  fullParams,
  type Lamp,
  LAMP_STATES,
} from '@rounds/core/drawing/evidence';
import { capital } from '@rounds/core/text';
import { FormItem, Input, InputNumber, Slider, Textarea } from 'ant-design-vue';
import { computed, useId } from 'vue';
import ChoiceField from '../../parts/ChoiceField.vue';
import SeveralField from '../../parts/SeveralField.vue';

/**
 * The parameters of a kind of drawing as fields: choices, sliders for what is drawn to scale, places, words, lamps. A
 * parameter that is as `base` has it is left out, so that a fault keeps only what differs.
 */
type Params = Record<string, unknown>;
const props = defineProps<{
  kind: string;
  modelValue: Readonly<Params>;
  base?: Readonly<Params> | undefined;
}>();
const emit = defineEmits<{ 'update:modelValue': [value: Params] }>();
const id = useId();
const kind = computed(() => EVIDENCE_KINDS.get(props.kind) ?? null);
const sound = computed<Params>(() => (kind.value ? fullParams(kind.value, props.base ?? {}) : {}));
const values = computed<Params>(() => ({ ...sound.value, ...props.modelValue }));
const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);

function set(key: string, value: unknown) {
  const next: Params = { ...props.modelValue, [key]: value };
  if (value === undefined || value === null || same(value, sound.value[key])) delete next[key];
  emit('update:modelValue', next);
}
const options = (param: EvidenceParam & { type: 'choice' }) =>
  Object.entries(param.says).map(([value, says]) => ({
    value,
    label: capital(value.replaceAll('-', ' ')),
    ...(says && { more: says }),
  }));
/** Sliders where a hand can find a value; figures typed where the scale is open. */
const slides = (param: EvidenceParam & { type: 'number' }) => param.most - param.least <= 1000;
const places = (param: EvidenceParam & { type: 'places' }) =>
  Array.from({ length: Number(values.value[param.of] ?? 0) }, (_, i) => ({
    value: String(i + 1),
    label: `${param.label} ${i + 1}`,
  }));
const listed = (key: string) => (values.value[key] as unknown[]).map(String);
const lines = (text: string) =>
  text
    .split('\n')
    .map((each) => each.trim())
    .filter(Boolean);
const lampLines = (list: readonly Lamp[]) => list.map((each) => `${each.name}: ${each.state}`).join('\n');
const lampsOf = (text: string): Lamp[] =>
  lines(text).map((each) => {
    const at = each.lastIndexOf(':');
    const state = each.slice(at + 1).trim();
    const known = LAMP_STATES.find((one) => one === state);
    return { name: (at < 0 ? each : each.slice(0, at)).trim(), state: known ?? 'off' };
  });
function setHalf(key: string, index: 0 | 1, value: unknown) {
  const range = [...(values.value[key] as readonly [number, number])] as [number, number];
  range[index] = typeof value === 'number' ? value : 0;
  set(key, range);
}
</script>

<template>
  <div v-if="kind" class="params">
    <FormItem
      v-for="(param, key) in kind.params"
      :key="key"
      :html-for="`${id}-${key}`"
      :label="capital(param.label)"
      class="one"
      :class="{ changed: key in modelValue }"
    >
      <ChoiceField
        v-if="param.type === 'choice'"
        :id="`${id}-${key}`"
        :label="capital(param.label)"
        :value="String(values[key])"
        :options="options(param)"
        @update:value="set(String(key), $event)"
      />
      <div v-else-if="param.type === 'number'" class="scale">
        <Slider
          v-if="slides(param)"
          :value="Number(values[key])"
          :min="param.least"
          :max="param.most"
          :step="param.step"
          :tooltip-open="false"
          :handle-style="{ borderWidth: '2px' }"
          :aria-label-for-handle="capital(param.label)"
          @change="set(String(key), $event)"
        />
        <InputNumber
          :id="`${id}-${key}`"
          :value="Number(values[key])"
          :min="param.least"
          :max="param.most"
          :step="param.step"
          :addon-after="param.unit || undefined"
          :aria-label="capital(param.label)"
          @change="set(String(key), $event)"
        />
      </div>
      <SeveralField
        v-else-if="param.type === 'places'"
        :id="`${id}-${key}`"
        :label="capital(param.label)"
        :value="listed(String(key))"
        :options="places(param)"
        placeholder="none"
        whole
        @update:value="
          set(
            String(key),
            $event.map(Number).sort((a, b) => a - b),
          )
        "
      />
      <Input
        v-else-if="param.type === 'text'"
        :id="`${id}-${key}`"
        :value="String(values[key])"
        :maxlength="120"
        @change="set(String(key), $event.target.value)"
      />
      <Textarea
        v-else-if="param.type === 'texts'"
        :id="`${id}-${key}`"
        :value="listed(String(key)).join('\n')"
        :auto-size="{ minRows: 2, maxRows: 8 }"
        placeholder="one on a line"
        @change="set(String(key), lines($event.target.value ?? ''))"
      />
      <span v-else-if="param.type === 'range'" class="row">
        <InputNumber
          v-for="half in [0, 1] as const"
          :id="half === 0 ? `${id}-${key}` : undefined"
          :key="half"
          :value="(values[key] as number[])[half]"
          :aria-label="`${capital(param.label)}, ${half === 0 ? 'from' : 'to'}`"
          @change="setHalf(String(key), half, $event)"
        />
      </span>
      <Textarea
        v-else
        :id="`${id}-${key}`"
        :value="lampLines(values[key] as Lamp[])"
        :auto-size="{ minRows: 2, maxRows: 12 }"
        placeholder="Oil pressure: on"
        @change="set(String(key), lampsOf($event.target.value ?? ''))"
      />
    </FormItem>
  </div>
</template>

<style scoped>
.params {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(15rem, 1fr));
  gap: 0 1rem;
}
.one {
  margin-bottom: 0.5rem;
}
.changed :deep(label) {
  font-weight: 700;
}
.scale {
  display: grid;
  grid-template-columns: 1fr 9rem;
  gap: 0.75rem;
  align-items: center;
}
.scale > :only-child {
  grid-column: 1 / -1;
}
</style>
