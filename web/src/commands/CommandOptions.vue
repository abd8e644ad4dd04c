<script setup lang="ts">
import { CALLED_AT, type CalledAt } from '@rounds/contract/commands';
import { Segmented } from 'ant-design-vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FieldItem from '../parts/FieldItem.vue';
import { CALLED_AT_WORDS } from './commandWords';

/** Where a set of commands is answered, from which place, and how long it is. */
defineProps<{ places: readonly { id: string; name: string }[]; onMachine: boolean }>();
const calledAt = defineModel<CalledAt>('calledAt', { required: true });
const place = defineModel<string>('place', { required: true });
const full = defineModel<boolean>('full', { required: true });
const LENGTHS = [
  { value: 'short', label: 'Short' },
  { value: 'full', label: 'Every reversal' },
];
</script>

<template>
  <div v-if="onMachine" class="forms" role="group" aria-label="Where it is answered">
    <button
      v-for="each in CALLED_AT"
      :key="each"
      type="button"
      class="big form"
      :aria-pressed="calledAt === each"
      @click="calledAt = each"
    >
      <strong>{{ CALLED_AT_WORDS[each].name }}</strong>
      <span>{{ CALLED_AT_WORDS[each].says }}</span>
    </button>
  </div>
  <FieldItem v-if="places.length > 1" v-slot="{ id }" label="Controls of">
    <ChoiceField
      :id="id"
      v-model:value="place"
      label="Controls of"
      :options="places.map((each) => ({ value: each.id, label: each.name }))"
    />
  </FieldItem>
  <div class="row wide">
    <span>How long</span>
    <Segmented
      :value="full ? 'full' : 'short'"
      :options="LENGTHS"
      aria-label="How long"
      @change="full = $event === 'full'"
    />
  </div>
</template>

<style scoped>
.wide {
  justify-content: space-between;
}
</style>
