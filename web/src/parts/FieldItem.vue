<script setup lang="ts">
import { FormItem } from 'ant-design-vue';
import { useId } from 'vue';

/** A labelled field of a form with what is wrong with it underneath. The slot gets the id for the control. */
defineProps<{ label: string; error?: string | undefined; hint?: string; optional?: boolean }>();
const id = useId();
</script>

<template>
  <FormItem
    :html-for="id"
    :validate-status="error ? 'error' : ''"
    :help="error"
    class="field-item"
    :colon="false"
  >
    <template #label>{{ label }}<span v-if="optional" class="quiet may"> may stay empty</span></template>
    <slot :id="id" :invalid="Boolean(error)" />
    <template v-if="hint && !error" #extra>{{ hint }}</template>
  </FormItem>
</template>

<style scoped>
.may {
  font-weight: 400;
  white-space: pre;
}
</style>
