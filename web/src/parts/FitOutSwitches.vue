<script setup lang="ts">
import { needsMet, type Pack } from '@rounds/core/catalogue';
import { computed } from 'vue';

/** Power variant and switches of a machine. */
const props = defineProps<{ pack: Pack; heading?: string }>();
const variant = defineModel<string>('variant', { required: true });
const features = defineModel<Record<string, string>>('features', { required: true });
const shown = computed(() =>
  props.pack.features.filter((each) => needsMet(each.needs, { ...features.value, variant: variant.value })),
);
const changed = computed(() => shown.value.filter((each) => features.value[each.id] !== each.default).length);
function set(id: string, event: Event) {
  features.value = { ...features.value, [id]: (event.target as HTMLSelectElement).value };
}
</script>

<template>
  <label v-if="pack.variants.length > 1" class="field"
    >Power
    <select v-model="variant" class="plain">
      <option v-for="each in pack.variants" :key="each.id" :value="each.id">{{ each.name }}</option>
    </select></label
  >
  <details v-if="shown.length">
    <summary>
      {{ heading ?? 'Fit-out' }}: {{ shown.length }} switches{{ changed ? `, ${changed} changed` : '' }}
    </summary>
    <div class="more">
      <label v-for="each in shown" :key="each.id" class="field" :title="each.changes"
        >{{ each.name }}
        <select :value="features[each.id]" class="plain" @change="set(each.id, $event)">
          <option v-for="value in each.values" :key="value" :value="value">
            {{ value.replace(/-/g, ' ') }}
          </option>
        </select></label
      >
    </div>
  </details>
</template>

<style scoped>
details {
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.6rem 0.8rem;
  background: var(--sheet);
}
summary {
  cursor: pointer;
  min-height: 24px;
}
.more {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 0.6rem;
  padding-top: 0.6rem;
  min-width: min(70vw, 780px);
}
@media (max-width: 640px) {
  .more {
    min-width: 0;
  }
}
</style>
