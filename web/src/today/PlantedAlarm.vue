<script setup lang="ts">
import type { PlantedNow } from '@rounds/contract/assess';
import { Alert, Button } from 'ant-design-vue';
import { useSession } from '../device/session';

/** Training faults that are still in machines: the first thing anybody must know in the morning. */
defineProps<{ planted: readonly PlantedNow[] }>();
const session = useSession();
</script>

<template>
  <Alert v-if="planted.length" type="warning" class="alarm" :show-icon="false" role="alert">
    <template #message>
      <h2>
        Faults are still planted in
        {{ planted.length === 1 ? 'a machine' : `${planted.length} machines` }}
      </h2>
    </template>
    <template #description>
      <ul aria-label="Faults still planted">
        <li v-for="each in planted" :key="each.evaluationId" class="row spread">
          <span
            ><strong>{{ each.unitName }}</strong> ({{ each.classTitle }}, {{ each.site }}):
            {{ each.faults.join('; ') }}</span
          >
          <RouterLink
            v-if="session.is('trainer', 'administrator')"
            v-slot="{ navigate, href }"
            :to="`/assess/${each.evaluationId}`"
            custom
            ><Button :href="href" @click="navigate">Take them out</Button></RouterLink
          >
          <span v-else>Ask {{ each.trainerName }} before this machine is used.</span>
        </li>
      </ul>
    </template>
  </Alert>
</template>

<style scoped>
.alarm {
  background: var(--amber);
  color: var(--on-amber);
  border: 0;
}
.alarm :deep(.ant-alert-message),
.alarm :deep(.ant-alert-description) {
  color: var(--on-amber);
}
li {
  padding-top: 0.4rem;
}
</style>
