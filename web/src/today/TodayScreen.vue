<script setup lang="ts">
import { computed, defineAsyncComponent } from 'vue';
import { useSession } from '../device/session';
import StateBox from '../parts/StateBox.vue';
import { dayHeading } from './dayHeading';
import OfficeToday from './OfficeToday.vue';
import PlantedAlarm from './PlantedAlarm.vue';
import { useToday } from './queries';

/** The day's first page, made for the work of the role: the office, an operator, the workshop. */
const OperatorToday = defineAsyncComponent(() => import('./OperatorToday.vue'));
const session = useSession();
const today = useToday();
const data = computed(() => today.data.value);
</script>

<template>
  <div class="screen stack">
    <OperatorToday v-if="session.role === 'operator'" />
    <StateBox
      v-else
      :loading="!data"
      :error="data ? undefined : today.error.value"
      what="this morning's list"
      :lines="10"
      @retry="today.refetch()"
    >
      <template v-if="data">
        <OfficeToday v-if="session.role !== 'workshop'" :data="data" />
        <template v-else>
          <h1>{{ dayHeading(data.today) }}</h1>
          <PlantedAlarm :planted="data.planted" />
          <p v-if="data.planted.length === 0" class="sheet pad">
            No machine has a training fault in it. Machines and their defects will be listed here when they
            are tagged.
          </p>
        </template>
      </template>
    </StateBox>
  </div>
</template>
