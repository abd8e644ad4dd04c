<script setup lang="ts">
import { useLocalStorage, useSpeechSynthesis } from '@vueuse/core';
import { Checkbox } from 'ant-design-vue';
import { watch } from 'vue';

/** The call that stands, as large as it can be read from a seat, and said aloud where the browser can and it is wanted. */
const props = defineProps<{
  call: string | null;
  /** What stands there between calls. */
  idle: string;
  done: number;
  of: number;
  /** The call has stood longer than an answer may take. */
  late?: boolean;
  /** Low, where controls must be seen beside it. */
  short?: boolean;
}>();
const aloud = useLocalStorage('rounds-commands-aloud', false);
const speech = useSpeechSynthesis(() => props.call ?? '', { lang: 'en' });
watch(
  () => props.call,
  (now) => {
    if (now && aloud.value && speech.isSupported.value) speech.speak();
  },
);
</script>

<template>
  <section class="call" :class="{ stands: call !== null, late, short }" aria-label="The command">
    <p class="words" role="status" aria-live="assertive">{{ call ?? idle }}</p>
    <div class="row spread">
      <span class="quiet">{{ Math.min(done + 1, of) }} of {{ of }}</span>
      <Checkbox v-if="speech.isSupported.value" v-model:checked="aloud">Say it aloud</Checkbox>
    </div>
  </section>
</template>

<style scoped>
.call {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-left: 12px solid var(--line);
  border-radius: 3px;
  padding: 0.8rem 1.2rem;
  display: grid;
  gap: 0.4rem;
}
.call.stands {
  border-left-color: var(--petrol);
}
.call.late {
  border-left-color: var(--amber);
}
.words {
  font-size: clamp(2rem, 7vw, 4.6rem);
  font-weight: 700;
  line-height: 1.1;
  min-height: 2.2em;
  display: grid;
  align-content: center;
  text-wrap: balance;
}
.call:not(.stands) .words {
  color: var(--quiet);
  font-weight: 400;
  font-size: clamp(1.4rem, 4vw, 2.4rem);
  min-height: calc(2.2 * clamp(2rem, 7vw, 4.6rem));
}
.call.short {
  padding: 0.4rem 1rem;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
}
.call.short .words {
  font-size: clamp(1.5rem, 3.4vw, 2.6rem);
  min-height: 1.2em;
}
.call.short:not(.stands) .words {
  font-size: clamp(1rem, 2vw, 1.5rem);
  min-height: calc(1.2 * clamp(1.5rem, 3.4vw, 2.6rem));
}
</style>
