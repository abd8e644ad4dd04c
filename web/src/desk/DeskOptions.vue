<script setup lang="ts">
import type { DeskMode } from '@rounds/contract/desk';
import { DESK_PROGRAMS, type DeskProgram } from '@rounds/core/machine';
import { Checkbox } from 'ant-design-vue';
import { computed, onMounted } from 'vue';
import { MODE_WORDS, PROGRAM_WORDS } from './deskWords';

/** What is practised at the desk, how much of the way is shown, and whether something goes wrong. */
const props = defineProps<{ programs: readonly DeskProgram[] }>();
const program = defineModel<DeskProgram>('program', { required: true });
const mode = defineModel<Exclude<DeskMode, 'free'>>('mode', { required: true });
const surprise = defineModel<boolean>('surprise', { required: true });
const shown = computed(() => DESK_PROGRAMS.filter((each) => props.programs.includes(each)));
const modes = Object.keys(MODE_WORDS) as (keyof typeof MODE_WORDS)[];
// The desk itself is fetched while somebody chooses; where it cannot be, going there says so.
onMounted(() => void import('./DeskScreen.vue').catch(() => undefined));
</script>

<template>
  <div class="forms" role="group" aria-label="What to do at the desk">
    <button
      v-for="each in shown"
      :key="each"
      type="button"
      class="big form"
      :aria-pressed="program === each"
      @click="program = each"
    >
      <strong>{{ PROGRAM_WORDS[each].name }}</strong>
      <span>{{ PROGRAM_WORDS[each].says }}</span>
    </button>
  </div>
  <div v-if="program !== 'free'" class="forms" role="group" aria-label="How much is shown">
    <button
      v-for="each in modes"
      :key="each"
      type="button"
      class="big form"
      :aria-pressed="mode === each"
      @click="mode = each"
    >
      <strong>{{ MODE_WORDS[each].name }}</strong>
      <span>{{ MODE_WORDS[each].says }}</span>
    </button>
  </div>
  <Checkbox v-model:checked="surprise">Let something go wrong, unannounced</Checkbox>
</template>
