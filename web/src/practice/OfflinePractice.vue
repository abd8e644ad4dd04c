<script setup lang="ts">
import type { practiceRoutes } from '@rounds/contract/practice';
import type { RouteAnswer } from '@rounds/contract/route';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { moment } from '../parts/words';
import { hasEnded } from './offlineDrills';
import type { useOfflinePractice } from './useOfflinePractice';

/** Practice without a network: what this device keeps for it, and the drills on it that the server has not yet. */
const props = defineProps<{
  offline: ReturnType<typeof useOfflinePractice>;
  chosen: RouteAnswer<typeof practiceRoutes.practiceClasses>['classes'][number] | null;
  variant: string;
  away: boolean;
}>();
const kept = computed(() => props.offline.kept.value);
const own = computed(() =>
  kept.value.find((each) => each.classId === props.chosen?.id && each.variant === props.variant),
);
const titleOf = (classId: string) => kept.value.find((each) => each.classId === classId)?.title ?? classId;
</script>

<template>
  <section class="stack offline" aria-label="Without a network">
    <p v-if="away" class="away" role="status">
      <strong>The server cannot be reached.</strong>
      {{
        kept.length > 0
          ? 'You can practise what this device keeps, for yourself. It joins your record as offline and counts for no readiness.'
          : 'This device keeps no class to practise without it.'
      }}
    </p>
    <template v-else-if="chosen">
      <p v-if="own" class="row">
        <span class="grow">Kept on this device for practice without a network.</span>
        <Button type="link" :loading="offline.busy.value" @click="offline.drop(own)">Take it off</Button>
      </p>
      <Button v-else :loading="offline.busy.value" @click="offline.keep(chosen, variant)"
        >Keep it for practice without a network</Button
      >
    </template>
    <ProblemAlert :problem="offline.problem.value" />
    <ul v-if="offline.drills.value.length" aria-label="Drills on this device">
      <li v-for="each in offline.drills.value" :key="each.id">
        <RouterLink :to="`/practise/offline/${each.id}${hasEnded(each) ? '/result' : ''}`">
          {{ hasEnded(each) ? 'Waits for the server' : 'Go on' }}: {{ titleOf(each.classId) }}, begun
          {{ moment(each.startedAt) }}
        </RouterLink>
        <span v-if="each.refused">Not taken: {{ each.refused }}</span>
        <Button v-if="each.refused || !hasEnded(each)" type="link" danger @click="offline.leave(each.id)"
          >Remove</Button
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.offline {
  gap: 0.6rem;
}
.away {
  border-left: 6px solid var(--amber);
  padding-left: 0.6rem;
}
li {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 0.6rem;
  min-height: 44px;
}
</style>
