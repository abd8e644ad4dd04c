<script setup lang="ts">
import { Result } from 'ant-design-vue';
</script>

<template>
  <div class="screen">
    <h1 class="visually-hidden">There is nothing at this address</h1>
    <Result
      class="sheet"
      title="There is nothing at this address"
      sub-title="The link may be old, or the record was never here."
    >
      <template #icon><span></span></template>
      <template #extra><RouterLink to="/">Go to Today</RouterLink></template>
    </Result>
  </div>
</template>
