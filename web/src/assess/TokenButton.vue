<script setup lang="ts">
import type { SessionStep } from '@rounds/core/procedure';
import { onLongPress } from '@vueuse/core';
import { ref } from 'vue';

/** A token of an act: a tap stamps it, a long press asks whether it was prompted or wrong. */
defineProps<{ step: SessionStep; number: number | null; likely: boolean; disabled: boolean }>();
const emit = defineEmits<{ stamp: []; mark: ['prompted' | 'wrong'] }>();
const HOLD = 500;
const button = ref<HTMLElement | null>(null);
const asking = ref(false);
/** A long press is no tap as well. */
let held = false;
onLongPress(
  button,
  () => {
    held = true;
    asking.value = true;
  },
  { delay: HOLD },
);
function tapped() {
  if (held) {
    held = false;
    return;
  }
  asking.value = false;
  emit('stamp');
}
function mark(how: 'prompted' | 'wrong') {
  asking.value = false;
  held = false;
  emit('mark', how);
}
</script>

<template>
  <div class="slot">
    <button
      ref="button"
      class="big token"
      :class="{ likely, critical: step.critical }"
      :disabled="disabled"
      @click="tapped"
      @contextmenu.prevent
    >
      <span v-if="number !== null" class="key" aria-hidden="true">{{ number }}</span>
      <span class="do">{{ step.do }}</span>
      <span v-if="step.optional" class="quiet">if needed</span>
    </button>
    <div v-if="asking" class="asking" role="group" :aria-label="`How: ${step.do}`">
      <button class="big" @click="mark('prompted')">Prompted</button>
      <button class="big" @click="mark('wrong')">Wrong</button>
      <button class="big" @click="asking = false">Back</button>
    </div>
  </div>
</template>

<style scoped>
.slot {
  position: relative;
  display: grid;
}
.token {
  position: relative;
  align-items: flex-start;
  justify-content: center;
  text-align: left;
  padding: 0.5rem 0.8rem 0.5rem 2.1rem;
  touch-action: manipulation;
  user-select: none;
  -webkit-touch-callout: none;
}
.likely {
  border-width: 4px;
  border-color: var(--petrol);
}
.key {
  position: absolute;
  left: 0.6rem;
  top: 0.5rem;
  font-size: 0.85rem;
  font-weight: 400;
}
.do {
  line-height: 1.25;
}
.quiet {
  font-weight: 400;
  font-size: 0.85rem;
}
.asking {
  position: absolute;
  inset: 0;
  z-index: 2;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.3rem;
  padding: 0.3rem;
  background: var(--ground);
  border: 2px solid var(--ink);
  height: max-content;
}
.asking .big:last-child {
  grid-column: 1 / -1;
}
</style>
