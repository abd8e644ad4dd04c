<script setup lang="ts">
import { DRILL_FORMS, type DrillForm } from '@rounds/core/drill';
import ChoiceField from '../parts/ChoiceField.vue';
import FieldItem from '../parts/FieldItem.vue';
import { FORM_WORDS } from './formWords';

/** Which walk-round drill: its form, and the station where it is about one. */
defineProps<{ stations: readonly { id: string; name: string; parts: number }[] }>();
const form = defineModel<DrillForm>('form', { required: true });
const station = defineModel<string>('station', { required: true });
</script>

<template>
  <div class="forms" role="group" aria-label="Which drill">
    <button
      v-for="each in DRILL_FORMS"
      :key="each"
      type="button"
      class="big form"
      :aria-pressed="form === each"
      @click="form = each"
    >
      <strong>{{ FORM_WORDS[each].name }}</strong>
      <span>{{ FORM_WORDS[each].more }}</span>
    </button>
  </div>
  <FieldItem v-if="form === 'station' && stations.length > 0" v-slot="{ id }" label="Station">
    <ChoiceField
      :id="id"
      v-model:value="station"
      label="Station"
      placeholder="Choose the station"
      :options="stations.map((each) => ({ value: each.id, label: each.name, more: `${each.parts} parts` }))"
    />
  </FieldItem>
</template>
