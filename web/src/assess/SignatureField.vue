<script setup lang="ts">
import { signatureProblem } from '@rounds/core/evaluation';
import { Button, Form, FormItem, Input, InputPassword } from 'ant-design-vue';
import { computed, reactive, ref, watch } from 'vue';

/**
 * A signature, drawn with finger, pen or mouse (kept as an SVG path on a 600 x 200 field), or given by full
 * name and password for those who cannot draw.
 */
const props = defineProps<{ role: 'trainer' | 'operator'; name: string; login: string; busy: boolean }>();
const emit = defineEmits<{
  drawn: [strokes: string];
  typed: [by: { name: string; login: string; password: string }];
}>();
const byName = ref(false);
const strokes = ref<string[]>([]);
const field = ref<SVGSVGElement | null>(null);
let drawing = false;
const path = computed(() => strokes.value.join(''));
const drawn = computed(() => path.value !== '' && signatureProblem(path.value) === null);
const typed = reactive({ name: '', login: props.login, password: '' });
watch(
  () => props.login,
  (login) => (typed.login = login),
);

function point(event: PointerEvent): string {
  const box = field.value!.getBoundingClientRect();
  const within = (share: number, size: number) => Math.min(size, Math.max(0, Math.round(share * size)));
  return `${within((event.clientX - box.left) / box.width, 600)} ${within((event.clientY - box.top) / box.height, 200)}`;
}
function down(event: PointerEvent) {
  drawing = true;
  field.value!.setPointerCapture(event.pointerId);
  strokes.value.push(`M${point(event)}`);
}
function move(event: PointerEvent) {
  if (drawing) strokes.value[strokes.value.length - 1] += `L${point(event)}`;
}
</script>

<template>
  <div v-if="!byName">
    <svg
      ref="field"
      viewBox="0 0 600 200"
      role="img"
      :aria-label="`Signature field of the ${role}`"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="drawing = false"
      @pointercancel="drawing = false"
    >
      <path d="M30 160H570" stroke="var(--line)" stroke-width="2" />
      <path
        :d="path || 'M0 0'"
        fill="none"
        stroke="var(--ink)"
        stroke-width="5"
        stroke-linecap="round"
        stroke-linejoin="round"
      />
    </svg>
    <div class="row">
      <button type="button" @click="strokes = []">Clear</button
      ><button type="button" class="primary" :disabled="busy || !drawn" @click="emit('drawn', path)">
        Sign</button
      ><Button type="link" size="large" @click="byName = true">Sign by name instead</Button>
    </div>
    <p v-if="path && !drawn" class="quiet">Draw a little more: a dot or a slip is no signature.</p>
  </div>
  <Form v-else layout="vertical" @submit.prevent="emit('typed', { ...typed })">
    <FormItem :label="`Full name, as in &quot;${name}&quot;`"
      ><Input
        v-model:value="typed.name"
        autocomplete="off"
        size="large"
        :aria-label="`Full name of the ${role}`"
    /></FormItem>
    <FormItem label="Sign-in name"
      ><Input
        v-model:value="typed.login"
        autocomplete="off"
        size="large"
        :disabled="role === 'trainer'"
        :aria-label="`Sign-in name of the ${role}`"
    /></FormItem>
    <FormItem label="Password again"
      ><InputPassword
        v-model:value="typed.password"
        autocomplete="off"
        size="large"
        :aria-label="`Password of the ${role}`"
    /></FormItem>
    <div class="row">
      <button
        type="submit"
        class="primary"
        :disabled="busy || !typed.name || !typed.login || !typed.password"
      >
        Sign</button
      ><Button type="link" size="large" @click="byName = false">Draw instead</Button>
    </div>
  </Form>
</template>

<style scoped>
svg {
  width: 100%;
  background: var(--raised);
  border: 2px solid var(--ink);
  border-radius: 3px;
  touch-action: none;
  cursor: crosshair;
  display: block;
  margin-bottom: 0.5rem;
}
.row > button:not(:last-child) {
  font: inherit;
  font-weight: 700;
  min-height: 56px;
  min-width: 120px;
  border: 2px solid var(--ink);
  background: var(--raised);
  color: var(--ink);
  border-radius: 3px;
  cursor: pointer;
}
.row > .primary:not(:last-child) {
  background: var(--petrol);
  color: var(--on-petrol);
  border-color: var(--petrol);
}
.row > .primary:disabled {
  background: var(--raised);
  color: var(--quiet);
  border-color: var(--line);
  cursor: default;
}
</style>
