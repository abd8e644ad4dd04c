<script setup lang="ts">
import type { Checkpoint, Method } from '@rounds/core/catalogue';
import type { Recording } from '@rounds/core/evaluation';
import type { ObservedCheck } from '@rounds/core/round';
import { computed } from 'vue';

/** One check on the run: what sound means, and the big buttons for how it went. */
const props = defineProps<{
  check: Checkpoint;
  observed: ObservedCheck | undefined;
  /** The method it is taken to be made by when nothing else is tapped. */
  named: Method;
  recording: Recording;
  disabled: boolean;
}>();
defineEmits<{ mark: [result: ObservedCheck['result'], method?: Method]; found: [] }>();

interface Way {
  word: string;
  result: ObservedCheck['result'];
  method?: Method;
}
const ownAccord = (word: string, method?: Method): Way => ({
  word,
  result: 'done',
  ...(method ? { method } : {}),
});
const others: Way[] = [
  { word: 'Prompted', result: 'prompted' },
  { word: 'Missed', result: 'missed' },
];
/** A look alone is worth a tap where the check is made by another sense. */
const byLook = computed(() =>
  props.check.methods.includes('look') && props.named !== 'look' ? [ownAccord('Looked only', 'look')] : [],
);
const tapped = computed(() => (props.observed?.presumed ? undefined : props.observed));
const ways = computed<Way[]>(() => {
  if (props.recording === 'each-check') return [ownAccord('Done'), ...others];
  return [...(tapped.value ? [ownAccord('Done after all', props.named)] : []), ...others, ...byLook.value];
});
const pressed = (way: Way) =>
  tapped.value?.result === way.result &&
  (props.recording === 'each-check' || way.method === undefined || tapped.value.method === way.method);
</script>

<template>
  <li class="check" :class="[observed?.result, { presumed: observed?.presumed }]">
    <div>
      <strong>{{ check.part }}</strong> <span class="quiet">{{ check.id }}</span>
      <div class="quiet">{{ check.sound }}</div>
    </div>
    <div class="ways" role="group" :aria-label="`${check.id} ${check.part}`">
      <button
        v-for="way in ways"
        :key="way.word"
        class="big"
        :aria-pressed="pressed(way)"
        :disabled="disabled"
        @click="$emit('mark', way.result, way.method)"
      >
        {{ way.word }}
      </button>
      <button class="big found" :disabled="disabled" @click="$emit('found')">Fault found</button>
    </div>
    <div
      v-if="
        recording === 'each-check' && observed && observed.result !== 'missed' && check.methods.length > 1
      "
      class="methods"
      role="group"
      :aria-label="`How, ${check.id}`"
    >
      <button
        v-for="m in check.methods"
        :key="m"
        class="big"
        :aria-pressed="observed.method === m"
        :disabled="disabled"
        @click="$emit('mark', observed.result, m)"
      >
        {{ m }}
      </button>
    </div>
    <slot />
  </li>
</template>

<style scoped>
.check {
  padding: 0.75rem 0 0.85rem 0.75rem;
  border-top: 1px solid var(--line);
  border-left: 6px solid transparent;
  display: grid;
  gap: 0.45rem;
}
.check.done {
  border-left-color: var(--petrol);
}
.check.presumed {
  border-left-style: dashed;
}
.check.prompted {
  border-left: 6px double var(--petrol);
}
.check.missed {
  border-left: 6px dotted var(--quiet);
}
.ways {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(92px, 1fr));
  gap: 0.4rem;
}
.ways .big {
  padding-inline: 0.3rem;
}
.found {
  border-style: dashed;
}
.methods {
  display: flex;
  gap: 0.4rem;
  flex-wrap: wrap;
}
.methods .big {
  font-weight: 400;
  border-width: 1px;
}
</style>
