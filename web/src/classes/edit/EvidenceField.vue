<script setup lang="ts">
import type { Checkpoint, Pack } from '@rounds/core/catalogue';
import { EVIDENCE_KINDS, type Evidence } from '@rounds/core/drawing/evidence';
import { Button, FormItem } from 'ant-design-vue';
import { computed, inject, ref, useId } from 'vue';
import EvidenceDrawing from '../../drawing/EvidenceDrawing.vue';
import ChoiceField from '../../parts/ChoiceField.vue';
import EvidenceParams from './EvidenceParams.vue';
import { EDITED, EDITED_ROW } from './fields';

/**
 * A drawing of a check while it is sound, or what a fault changes in it: the kind, its parameters, and the picture beside
 * them. A fault starts from its check's drawing and keeps only what differs.
 */
type Params = Record<string, unknown>;
const props = defineProps<{ label: string; modelValue: unknown; of: 'check' | 'cue' }>();
const emit = defineEmits<{ 'update:modelValue': [value: unknown] }>();
const id = useId();
const edited = inject(EDITED, ref(undefined));
const row = inject(EDITED_ROW, ref(undefined));
const given = computed(
  () => (props.modelValue ?? {}) as { kind?: string; sound?: Params; params?: Params; by?: unknown },
);
/** The drawing of the check that a fault belongs to. */
const own = computed<Checkpoint['evidence']>(() => {
  if (props.of === 'check') return undefined;
  const pack = edited.value as Pack | undefined;
  return pack?.checkpoints.find((each) => each.id === row.value?.['checkpoint'])?.evidence;
});
const kind = computed(() => given.value.kind ?? own.value?.kind ?? '');
const base = computed<Params | undefined>(() =>
  own.value && kind.value === own.value.kind ? own.value.sound : undefined,
);
const params = computed<Params>(() => (props.of === 'check' ? given.value.sound : given.value.params) ?? {});
const evidence = computed<Evidence>(() => ({ kind: kind.value, params: { ...base.value, ...params.value } }));
const kinds = [...EVIDENCE_KINDS.values()].map((each) => ({
  value: each.id,
  label: each.title,
  more: each.id,
}));

function write(next: string, changed: Params) {
  if (!next) return emit('update:modelValue', undefined);
  if (props.of === 'check')
    return emit('update:modelValue', {
      kind: next,
      sound: changed,
      ...(given.value.by && next === kind.value ? { by: given.value.by } : {}),
    });
  emit('update:modelValue', { ...(next === own.value?.kind ? {} : { kind: next }), params: changed });
}
</script>

<template>
  <fieldset class="part">
    <legend>{{ label }}</legend>
    <div class="side">
      <div>
        <FormItem :html-for="id" label="Drawn as" class="one">
          <ChoiceField
            :id="id"
            label="Drawn as"
            :value="kind"
            :options="kinds"
            clearable
            placeholder="no drawing"
            @update:value="write($event, {})"
          />
        </FormItem>
        <Button v-if="modelValue !== undefined" type="link" danger @click="write('', {})"
          >Take the drawing out</Button
        >
      </div>
      <EvidenceDrawing v-if="kind" class="picture" :evidence="evidence" figures />
    </div>
    <EvidenceParams
      v-if="EVIDENCE_KINDS.has(kind)"
      :kind="kind"
      :base="base"
      :model-value="params"
      @update:model-value="write(kind, $event)"
    />
  </fieldset>
</template>

<style scoped>
.part {
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.5rem 0.75rem 0.7rem;
  margin: 0;
}
.side {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 170px;
  gap: 1rem;
  align-items: start;
}
.picture {
  width: 170px;
  height: 170px;
}
.one {
  margin-bottom: 0.3rem;
}
</style>
