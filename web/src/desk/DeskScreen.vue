<script setup lang="ts">
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import StateBox from '../parts/StateBox.vue';
import DeskWork from './DeskWork.vue';
import { useDeskView } from './queries';

/** The desk: a machine to start, stop and work, and to do the expensive mistakes at. */
const id = String(useRoute().params['id']);
const view = useDeskView(() => id);
const run = computed(() => view.data.value ?? null);
</script>

<template>
  <DeskWork v-if="run" :view="run" />
  <div v-else class="screen">
    <StateBox
      :loading="!view.error.value"
      :error="view.error.value"
      what="the desk"
      @retry="view.refetch()"
    />
  </div>
</template>
