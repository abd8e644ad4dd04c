<script setup lang="ts">
import { needsMet, type Pack } from '@rounds/core/catalogue';
import { Button, Collapse, CollapsePanel, Tag } from 'ant-design-vue';
import { computed } from 'vue';
import ChoiceField from './ChoiceField.vue';

/**
 * Power variant and switches of a machine. What differs from the usual machine stands first and by name; the
 * whole list is behind it.
 */
const props = defineProps<{ pack: Pack; heading?: string }>();
const variant = defineModel<string>('variant', { required: true });
const features = defineModel<Record<string, string>>('features', { required: true });
const shown = computed(() =>
  props.pack.features.filter((each) => needsMet(each.needs, { ...features.value, variant: variant.value })),
);
const words = (value: string | undefined) => (value ?? '').replaceAll('-', ' ');
const changed = computed(() => shown.value.filter((each) => features.value[each.id] !== each.default));
const set = (id: string, value: string) => (features.value = { ...features.value, [id]: value });
const reset = () =>
  (features.value = Object.fromEntries(props.pack.features.map((each) => [each.id, each.default])));
</script>

<template>
  <div class="stack fit-out">
    <div class="first">
      <ChoiceField
        v-if="pack.variants.length > 1"
        v-model:value="variant"
        label="Power"
        :options="pack.variants.map((each) => ({ value: each.id, label: each.name, more: 'power' }))"
      />
      <slot />
    </div>
    <Collapse v-if="shown.length" class="fit">
      <CollapsePanel key="all" force-render>
        <template #header>
          <span class="summary"
            ><strong>{{ heading ?? 'Fit-out' }}</strong>
            <span v-if="changed.length === 0" class="quiet">as usual, {{ shown.length }} switches</span>
            <Tag v-for="each in changed" :key="each.id" class="differs"
              >{{ each.name }}: {{ words(features[each.id]) }}</Tag
            ></span
          >
        </template>
        <div class="switches">
          <div
            v-for="each in shown"
            :key="each.id"
            class="field"
            :class="{ differs: features[each.id] !== each.default }"
          >
            <span
              >{{ each.name
              }}<span v-if="features[each.id] !== each.default" class="quiet">
                usually {{ words(each.default) }}</span
              ></span
            >
            <ChoiceField
              :value="features[each.id] ?? ''"
              :label="each.name"
              :options="each.values.map((value) => ({ value, label: words(value) }))"
              @update:value="set(each.id, $event)"
            />
            <span v-if="each.changes" class="quiet small">{{ each.changes }}</span>
          </div>
        </div>
        <Button v-if="changed.length" type="link" @click="reset">All as usual</Button>
      </CollapsePanel>
    </Collapse>
  </div>
</template>

<style scoped>
.fit-out {
  min-width: 0;
  width: 100%;
}
.field {
  display: grid;
  gap: 0.2rem;
  align-content: start;
  font-weight: 700;
}
.field .quiet {
  font-weight: 400;
}
.first {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.6rem;
}
.first > :deep(.ant-select) {
  flex: 1 1 150px;
  max-width: 260px;
}
.first > :deep(.grow) {
  flex: 1 1 240px;
}
.summary {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 0.3rem 0.6rem;
}
.switches {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 0.7rem 1rem;
}
.switches .field {
  padding-left: 0.6rem;
  border-left: 4px solid transparent;
}
.switches .field.differs {
  border-left-color: var(--amber);
}
.differs {
  white-space: normal;
}
</style>
