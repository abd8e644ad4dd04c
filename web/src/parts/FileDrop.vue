<script setup lang="ts">
import { InboxOutlined } from '@ant-design/icons-vue';
import { UploadDragger } from 'ant-design-vue';
import { type ComponentPublicInstance, onMounted, ref, useId } from 'vue';

/** A place to drop or choose one file, which is read here and sent by nobody but the screen. */
const props = defineProps<{ label: string; accept: string; says: string; chosen?: string }>();
const emit = defineEmits<{ file: [file: File] }>();
const drop = ref<ComponentPublicInstance | null>(null);
const id = useId();

function take(file: File) {
  emit('file', file);
  // The library sends nothing: the screen reads it and asks.
  return false;
}
onMounted(() => {
  const input = (drop.value?.$el as HTMLElement | undefined)?.querySelector('input[type="file"]');
  input?.setAttribute('aria-label', props.label);
  input?.setAttribute('tabindex', '-1');
});
</script>

<template>
  <UploadDragger
    :id="id"
    ref="drop"
    :accept="accept"
    :multiple="false"
    :show-upload-list="false"
    :before-upload="take"
  >
    <p class="line">
      <InboxOutlined aria-hidden="true" class="sign" />
      <strong>{{ chosen || 'Drop the file here, or choose it' }}</strong>
      <span class="quiet">{{ says }}</span>
    </p>
  </UploadDragger>
</template>

<style scoped>
.line {
  display: grid;
  gap: 0.2rem;
  justify-items: center;
  padding: 0.4rem 1rem;
}
.sign {
  font-size: 1.8rem;
}
</style>
