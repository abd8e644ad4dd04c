<script setup lang="ts">
import { Input, InputNumber, Textarea } from 'ant-design-vue';
import { ref, watch } from 'vue';

/**
 * A field whose value counts when it is left, or with Enter: a whole class is written anew with every change,
 * so not every key is one.
 */
const props = defineProps<{
  id?: string;
  value: string | number | undefined;
  kind: 'line' | 'text' | 'number';
  label?: string | undefined;
  unit?: string | undefined;
  placeholder?: string;
}>();
const emit = defineEmits<{ settle: [value: string | number | undefined] }>();
const typed = ref(props.value);
watch(
  () => props.value,
  (now) => (typed.value = now),
);
function settle() {
  const now = typeof typed.value === 'string' ? typed.value.trim() : typed.value;
  if (now !== props.value) emit('settle', now ?? undefined);
}
</script>

<template>
  <InputNumber
    v-if="kind === 'number'"
    :id="id"
    v-model:value="typed as number | undefined"
    class="number-field"
    :addon-after="unit || undefined"
    :aria-label="label"
    @blur="settle"
    @press-enter.prevent="settle"
  />
  <Input
    v-else-if="kind === 'line'"
    :id="id"
    v-model:value="typed as string | undefined"
    :aria-label="label"
    :placeholder="placeholder"
    @blur="settle"
    @press-enter.prevent="settle"
  />
  <Textarea
    v-else
    :id="id"
    v-model:value="typed as string | undefined"
    :aria-label="label"
    :placeholder="placeholder"
    :auto-size="{ minRows: 1, maxRows: 10 }"
    @blur="settle"
  />
</template>

<style scoped>
.number-field {
  width: 100%;
  max-width: 220px;
}
</style>
