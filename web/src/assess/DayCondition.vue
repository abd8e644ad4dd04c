<script setup lang="ts">
import type { SessionStep } from '@rounds/core/procedure';
import { CheckboxGroup, Form, Input } from 'ant-design-vue';
import { ref } from 'vue';
import FieldItem from '../parts/FieldItem.vue';

/** A condition of the day, with the steps whose time it lifts. Nothing need be typed. */
defineProps<{ steps: readonly SessionStep[] }>();
const emit = defineEmits<{ state: [says: string, lifts: string[]] }>();
/** What a day may bring that shortens a time. */
const DAYS = [
  'Engine still warm',
  'Warm-up cut short by order of the site',
  'No level place',
  'Purge not fitted',
];
const says = ref('');
const lifts = ref<string[]>([]);
function state() {
  if (says.value.trim().length >= 3 && lifts.value.length > 0)
    emit('state', says.value.trim(), [...lifts.value]);
}
</script>

<template>
  <Form layout="vertical" class="stack" @submit.prevent="state">
    <p class="quiet">A condition of the day lifts a time that would else be asked. It stays on record.</p>
    <div class="chips">
      <button
        v-for="each in DAYS"
        :key="each"
        type="button"
        class="big"
        :aria-pressed="says === each"
        @click="says = each"
      >
        {{ each }}
      </button>
    </div>
    <FieldItem v-slot="{ id }" label="The condition"
      ><Input :id="id" v-model:value="says" :maxlength="300"
    /></FieldItem>
    <CheckboxGroup
      v-model:value="lifts"
      class="check-list"
      aria-label="Times that it lifts"
      :options="steps.map((each) => ({ value: each.id, label: `${each.do} (${each.timing!.says})` }))"
    />
    <button class="big primary" type="submit" :disabled="says.trim().length < 3 || lifts.length === 0">
      State the condition
    </button>
  </Form>
</template>

<style scoped>
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
</style>
