<script setup lang="ts">
import { compose, type Pack, packSchema } from '@rounds/core/catalogue';
import { DeskError, deskPackOf, type DeskPack, machineOf } from '@rounds/core/machine';
import { watchDebounced } from '@vueuse/core';
import { computed, ref, shallowRef } from 'vue';
import ChoiceField from '../../parts/ChoiceField.vue';
import LiveDeskWork from './LiveDeskWork.vue';

/** The desk of the draft as it would be now, to try what a row says while it is written. */
const props = defineProps<{ value: Pack }>();
const variants = computed(() =>
  (props.value.variants ?? []).map((each) => ({ value: each.id, label: each.name })),
);
const variant = ref(variants.value[0]?.value ?? '');
const made = shallowRef<{ pack: DeskPack | null; why: string; n: number }>({ pack: null, why: '', n: 0 });
function make() {
  const n = made.value.n + 1;
  try {
    // As it would be read: what a draft leaves out has its usual value.
    const read = packSchema.parse(JSON.parse(JSON.stringify(props.value)));
    const pack = deskPackOf(compose(read, { variant: variant.value }));
    made.value = machineOf(pack) ? { pack, why: '', n } : { pack: null, why: 'There is no desk yet.', n };
  } catch (error) {
    const found = error instanceof DeskError ? error.problems.length : 0;
    const why =
      found > 0
        ? `The desk does not hold together: ${found === 1 ? 'one thing is' : `${found} things are`} wrong, shown at their rows.`
        : 'The draft cannot be put together just now; its errors say why.';
    made.value = { pack: made.value.pack, why, n: made.value.n };
  }
}
watchDebounced([() => props.value, variant], make, { debounce: 600, immediate: true });
</script>

<template>
  <section class="sheet pad stack live" aria-label="The desk as it is now">
    <div class="row spread">
      <h2>The desk as it is now</h2>
      <ChoiceField
        v-if="variants.length > 1"
        v-model:value="variant"
        label="Kind of machine at the desk"
        :options="variants"
      />
    </div>
    <p v-if="made.why" class="stopped" role="status">
      {{ made.why }}
      <template v-if="made.pack">Below it is as it was before.</template>
    </p>
    <LiveDeskWork v-if="made.pack" :key="made.n" :pack="made.pack" />
  </section>
</template>

<style scoped>
.live {
  max-height: 80vh;
  overflow-y: auto;
}
</style>
