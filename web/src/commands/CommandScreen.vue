<script setup lang="ts">
import type { CommandView } from '@rounds/contract/commands';
import { Button } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { askFirst } from '../parts/askFirst';
import StateBox from '../parts/StateBox.vue';
import WorkHeader from '../parts/WorkHeader.vue';
import CallingAtDesk from './CallingAtDesk.vue';
import CallingOnMachine from './CallingOnMachine.vue';
import { CALLED_AT_WORDS } from './commandWords';
import { useCommandView } from './queries';

/** The command caller: a class's controls called out in random order, until the hand finds them without thinking. */
const router = useRouter();
const id = String(useRoute().params['id']);
const set = useCommandView(() => id);
const view = computed<CommandView | null>(() => set.data.value ?? null);
const toResult = () => void router.replace(`/practise/commands/${id}/result`);
watch(
  () => view.value?.ended,
  (ended) => ended && toResult(),
  { immediate: true },
);
const calling = ref<{ end: () => Promise<void> } | null>(null);
const askEnd = () =>
  askFirst(
    {
      title: 'End the set?',
      content: 'It is taken as far as it went. A set that is too short makes nobody ready.',
      act: 'End it',
      stay: 'Go on',
    },
    () => calling.value?.end(),
  );
</script>

<template>
  <div v-if="view" class="caller">
    <WorkHeader back="/practise" back-label="Back to practice">
      <h1>{{ view.classTitle }}</h1>
      <span class="quiet small"
        >Commands, {{ CALLED_AT_WORDS[view.calledAt].name.toLowerCase() }},
        {{ view.person?.name ?? 'a try-out, for nobody' }}</span
      >
      <template #acts><Button @click="askEnd">End</Button></template>
    </WorkHeader>
    <div class="work">
      <component
        :is="view.calledAt === 'machine' ? CallingOnMachine : CallingAtDesk"
        v-if="!view.ended"
        ref="calling"
        :view="view"
        @ended="toResult"
      />
    </div>
  </div>
  <div v-else class="screen">
    <StateBox
      :loading="!set.error.value"
      :error="set.error.value"
      what="the commands"
      @retry="set.refetch()"
    />
  </div>
</template>

<style scoped>
h1 {
  font-size: 1rem;
  line-height: 1.25;
}
.work {
  max-width: 1400px;
  margin: 0 auto;
  padding: 0.9rem 1rem 2rem;
}
</style>
