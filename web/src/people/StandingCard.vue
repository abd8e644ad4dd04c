<script setup lang="ts">
import type { peopleRoutes } from '@rounds/contract/people';
import type { RouteAnswer } from '@rounds/contract/route';
import { STATUS_WORDS } from '@rounds/core/certification';
import TimeArc from '../drawing/TimeArc.vue';
import { shareLeft } from '../parts/standing';

/** How a person stands in a class: may they operate, until when, why, and what comes next. */
defineProps<{
  title: string;
  classId: string;
  standing: RouteAnswer<typeof peopleRoutes.person>['standings'][number]['standing'];
}>();
const MAY = {
  yes: 'May operate today',
  supervised: 'Only under supervision',
  no: 'May not operate',
} as const;
</script>

<template>
  <li class="sheet card">
    <TimeArc :status="standing.status" :share="shareLeft(standing)" :size="64" />
    <div class="grow">
      <h2>
        <RouterLink :to="`/classes/${classId}`">{{ title }}</RouterLink>
      </h2>
      <p>
        <strong :class="{ stopped: standing.mayOperate === 'no' && standing.status !== 'none' }">{{
          MAY[standing.mayOperate]
        }}</strong>
        <span class="quiet">{{ ' ' }}{{ STATUS_WORDS[standing.status] }}</span>
      </p>
      <p>{{ standing.sentence }}</p>
      <p v-for="each in standing.reasons" :key="each" class="quiet">{{ each }}</p>
      <p v-if="standing.next.length" class="next">Next: {{ standing.next.join('. ') }}</p>
      <p class="quiet">
        {{
          standing.familiarisedWith.length
            ? `Familiarised with ${standing.familiarisedWith.join(', ')}`
            : 'Not familiarised with any machine of this class'
        }}
      </p>
      <slot />
    </div>
  </li>
</template>

<style scoped>
.card {
  display: flex;
  gap: 1rem;
  padding: 0.9rem 1rem;
}
.next {
  margin-top: 0.3rem;
}
</style>
