<script setup lang="ts">
import ChoiceField from './ChoiceField.vue';
import FieldItem from './FieldItem.vue';

/** The choice of a machine class and, where it has several, of its kind. */
defineProps<{
  classes: readonly { id: string; title: string }[];
  variants: readonly { id: string; name: string }[];
}>();
const classId = defineModel<string>('classId', { required: true });
const variant = defineModel<string>('variant', { required: true });
</script>

<template>
  <FieldItem v-slot="{ id }" label="Class">
    <ChoiceField
      :id="id"
      v-model:value="classId"
      label="Class"
      placeholder="Choose the class"
      :options="classes.map((each) => ({ value: each.id, label: each.title }))"
    />
  </FieldItem>
  <FieldItem v-if="variants.length > 1" v-slot="{ id }" label="Kind">
    <ChoiceField
      :id="id"
      v-model:value="variant"
      label="Kind"
      :options="variants.map((each) => ({ value: each.id, label: each.name }))"
    />
  </FieldItem>
</template>
