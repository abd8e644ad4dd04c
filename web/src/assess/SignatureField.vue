<script setup lang="ts">
import { signatureProblem } from '@rounds/core/evaluation';
import { useElementSize } from '@vueuse/core';
import { Button, Form, Input, InputPassword } from 'ant-design-vue';
import SignaturePad from 'signature_pad';
import { computed, onScopeDispose, reactive, ref, watch } from 'vue';
import FieldItem from '../parts/FieldItem.vue';
import { strokesPath } from './strokes';

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
const path = ref('');
const drawn = computed(() => path.value !== '' && signatureProblem(path.value) === null);
const canvas = ref<HTMLCanvasElement | null>(null);
const { width } = useElementSize(canvas);
let pad: SignaturePad | null = null;
let size = { width: 1, height: 1 };

/** The pen draws in the colour of the page's ink, on as many dots as the screen has. */
function prepare(on: HTMLCanvasElement): void {
  const box = on.getBoundingClientRect();
  const dots = window.devicePixelRatio || 1;
  size = { width: box.width, height: box.height };
  on.width = box.width * dots;
  on.height = box.height * dots;
  on.getContext('2d')?.scale(dots, dots);
  pad ??= new SignaturePad(on, { minDistance: 2 });
  pad.penColor = getComputedStyle(on).color;
  pad.addEventListener('endStroke', take);
  clear();
}
function take() {
  path.value = pad ? strokesPath(pad.toData(), size) : '';
}
function clear() {
  pad?.clear();
  path.value = '';
}
// A field of another width is another field: what was drawn would no longer lie where it was.
watch([canvas, width], ([on, wide]) => {
  if (on && wide > 0 && Math.abs(wide - size.width) > 1) prepare(on);
});
watch(canvas, (on) => {
  if (on) return;
  pad?.off();
  pad = null;
  size = { width: 1, height: 1 };
});
onScopeDispose(() => pad?.off());
const typed = reactive({ name: '', login: props.login, password: '' });
watch(
  () => props.login,
  (login) => (typed.login = login),
);
</script>

<template>
  <div v-if="!byName">
    <canvas ref="canvas" class="field" role="img" :aria-label="`Signature field of the ${role}`"></canvas>
    <div class="row">
      <button type="button" class="big" @click="clear">Clear</button
      ><button type="button" class="big primary" :disabled="busy || !drawn" @click="emit('drawn', path)">
        Sign</button
      ><Button type="link" size="large" @click="byName = true">Sign by name instead</Button>
    </div>
    <p v-if="path && !drawn" class="quiet">Draw a little more: a dot or a slip is no signature.</p>
  </div>
  <Form v-else layout="vertical" @submit.prevent="emit('typed', { ...typed })">
    <FieldItem v-slot="{ id }" :label="`Full name of the ${role}, as in &quot;${name}&quot;`"
      ><Input :id="id" v-model:value="typed.name" autocomplete="off" size="large"
    /></FieldItem>
    <FieldItem v-slot="{ id }" :label="`Sign-in name of the ${role}`"
      ><Input
        :id="id"
        v-model:value="typed.login"
        autocomplete="off"
        size="large"
        :disabled="role === 'trainer'"
    /></FieldItem>
    <FieldItem v-slot="{ id }" :label="`Password of the ${role}`"
      ><InputPassword :id="id" v-model:value="typed.password" autocomplete="off" size="large"
    /></FieldItem>
    <div class="row">
      <button
        type="submit"
        class="big primary"
        :disabled="busy || !typed.name || !typed.login || !typed.password"
      >
        Sign</button
      ><Button type="link" size="large" @click="byName = false">Draw instead</Button>
    </div>
  </Form>
</template>

<style scoped>
.field {
  width: 100%;
  aspect-ratio: 3;
  color: var(--ink);
  background: var(--raised);
  border: 2px solid var(--ink);
  border-radius: 3px;
  touch-action: none;
  cursor: crosshair;
  display: block;
  margin-bottom: 0.5rem;
}
</style>
