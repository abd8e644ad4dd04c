<script setup lang="ts">
import { Alert } from 'ant-design-vue';
import { explain } from '../device/api';

/** What went wrong, what was kept and what to do, wherever something is refused. Nothing for no problem. */
defineProps<{ problem: unknown }>();
</script>

<template>
  <Alert
    v-if="problem"
    type="error"
    show-icon
    role="alert"
    :message="explain(problem).title"
    :description="explain(problem).detail"
  />
</template>
