<script setup lang="ts">
import type { CommandView } from '@rounds/contract/commands';
import { Button } from 'ant-design-vue';
import { watch } from 'vue';
import DeskControls from '../desk/DeskControls.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import CommandCall from './CommandCall.vue';
import { ANSWER_WORDS, tenths } from './commandWords';
import { useCallsAtDesk } from './useCalling';

/** A set at the desk: the controls of the place, with nothing behind them, and what is called. It scores itself. */
const props = defineProps<{ view: CommandView }>();
const emit = defineEmits<{ ended: [] }>();
const set = useCallsAtDesk(props.view);
const { answers, call, running, over, told, problem } = set;
async function end() {
  if (await set.end()) emit('ended');
}
watch(over, (now) => now && void end(), { immediate: true });
defineExpose({ end });
</script>

<template>
  <div class="stack">
    <div class="top">
      <CommandCall
        short
        :call="call"
        :idle="
          running
            ? 'Get ready'
            : answers.length === 0
              ? 'Engine off. Look where everything is, then start.'
              : 'Paused'
        "
        :done="answers.length"
        :of="set.of"
      />
      <div class="row spread">
        <p class="quiet grow" role="status">
          <template v-if="answers.length > 0"
            >Last: {{ set.say(answers.at(-1)!.call) }},
            {{ ANSWER_WORDS[answers.at(-1)!.kind].toLowerCase() }},
            {{ tenths(answers.at(-1)!.seconds) }}</template
          >
          <template v-else-if="told[0]">{{ told[0].says }}</template>
          <template v-else
            >Work what is called, within {{ set.standard.seconds }} s; the first thing you touch
            counts.</template
          >
        </p>
        <Button v-if="!running && !over" type="primary" size="large" @click="set.start()">{{
          answers.length === 0 ? 'Start' : 'Go on'
        }}</Button>
        <Button v-else-if="!over" size="large" @click="set.pause()">Pause</Button>
      </div>
    </div>
    <ProblemAlert :problem="problem" />
    <Button v-if="over && problem" type="primary" @click="end">Keep it and see</Button>
    <DeskControls :desk="set" close />
  </div>
</template>

<style scoped>
.top {
  position: sticky;
  top: 0;
  z-index: 4;
  background: var(--paper);
  padding-bottom: 0.5rem;
  display: grid;
  gap: 0.5rem;
}
</style>
