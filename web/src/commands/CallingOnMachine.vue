<script setup lang="ts">
import type { CommandView } from '@rounds/contract/commands';
import { onKeyStroke } from '@vueuse/core';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import CommandCall from './CommandCall.vue';
import { ANSWER_WORDS, tenths } from './commandWords';
import { useCalling } from './useCalling';

/** A set called on a machine that stands with its engine off: the trainer reads it out, watches the hands, and taps. */
const props = defineProps<{ view: CommandView }>();
const emit = defineEmits<{ ended: [] }>();
const set = useCalling(props.view);
const { answers, call, running, over, stood, problem, ending } = set;
const KINDS = ['right', 'late', 'wrong'] as const;
const KEYS = ['1', '2', '3'] as const;
onKeyStroke([...KEYS], (event) => {
  const at = KEYS.indexOf(event.key as (typeof KEYS)[number]);
  if (!event.ctrlKey && !event.metaKey && !event.altKey) set.tap(KINDS[at]!);
});
const last = computed(() => answers.value.at(-1) ?? null);
const idle = computed(() => {
  if (over.value) return 'All of it was called.';
  if (running.value) return 'Get ready';
  return answers.value.length === 0
    ? 'Engine off, key out, brake on, nobody near. Hands in the lap.'
    : 'Paused';
});
async function end() {
  if (await set.end()) emit('ended');
}
defineExpose({ end });
</script>

<template>
  <div class="stack">
    <CommandCall
      :call="call"
      :idle="idle"
      :done="answers.length"
      :of="set.of"
      :late="stood > set.standard.seconds"
    />
    <ProblemAlert :problem="problem" />
    <div v-if="over" class="taps one">
      <button type="button" class="big primary" :disabled="ending" @click="end">Keep it and see</button>
    </div>
    <div v-else-if="!running" class="taps one">
      <button type="button" class="big primary" @click="set.start()">
        {{ answers.length === 0 ? 'Start' : 'Go on' }}
      </button>
    </div>
    <div v-else class="taps" role="group" aria-label="How it was answered">
      <button
        v-for="(kind, i) in KINDS"
        :key="kind"
        type="button"
        class="big tap"
        :class="kind"
        :disabled="call === null"
        :title="`Key ${KEYS[i]}`"
        @click="set.tap(kind)"
      >
        {{ ANSWER_WORDS[kind] }}
      </button>
    </div>
    <div class="row spread">
      <p class="quiet" aria-live="polite">
        <template v-if="last"
          >Last: {{ set.say(last.call) }}, {{ ANSWER_WORDS[last.kind].toLowerCase() }},
          {{ tenths(last.seconds) }}</template
        >
        <template v-else
          >Late is later than {{ set.standard.seconds }} s. The edge turns amber then.</template
        >
      </p>
      <span class="row">
        <Button v-if="last" @click="set.back()">Take the last one back</Button>
        <Button v-if="running && !over" @click="set.pause()">Pause</Button>
      </span>
    </div>
    <p class="quiet small">
      The seconds run from the command to your tap, so your own hand is in them. They are compared with one
      another only.
    </p>
  </div>
</template>

<style scoped>
.taps {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 0.6rem;
}
.taps.one {
  grid-template-columns: minmax(0, 1fr);
}
.taps .big {
  min-height: max(110px, 24vh);
  font-size: 1.5rem;
}
.tap.right:not(:disabled) {
  border-bottom: 10px solid var(--petrol);
}
.tap.late:not(:disabled) {
  border-bottom: 10px solid var(--amber);
}
.tap.wrong:not(:disabled) {
  border-bottom: 10px solid var(--crimson);
}
@media (max-width: 640px) {
  .taps .big {
    min-height: max(84px, 20vh);
    font-size: 1.2rem;
  }
}
</style>
