<script setup lang="ts">
import { ref } from 'vue';

/** A signature drawn with finger, pen or mouse, kept as an SVG path on a 600 x 200 field. */
const props = defineProps<{ label: string }>();
const emit = defineEmits<{ signed: [strokes: string] }>();
const strokes = ref<string[]>([]);
const field = ref<SVGSVGElement | null>(null);
let drawing = false;

function point(event: PointerEvent): string {
  const box = field.value!.getBoundingClientRect();
  return `${Math.max(0, Math.round(((event.clientX - box.left) / box.width) * 600))} ${Math.max(0, Math.round(((event.clientY - box.top) / box.height) * 200))}`;
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
  <div class="pad">
    <svg
      ref="field"
      viewBox="0 0 600 200"
      role="img"
      :aria-label="props.label"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="drawing = false"
      @pointercancel="drawing = false"
    >
      <path d="M30 160H570" stroke="var(--line)" stroke-width="2" />
      <path :d="strokes.join('') || 'M0 0'" fill="none" stroke="var(--ink)" stroke-width="5" stroke-linecap="round" stroke-linejoin="round" />
    </svg>
    <div class="row">
      <button type="button" @click="strokes = []">Clear</button
      ><button type="button" class="primary" :disabled="strokes.join('').length < 12" @click="emit('signed', strokes.join(''))">Sign</button>
    </div>
  </div>
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
button {
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
.primary {
  background: var(--petrol);
  color: var(--on-petrol);
  border-color: var(--petrol);
}
.primary:disabled {
  background: var(--raised);
  color: var(--quiet);
  border-color: var(--line);
  cursor: default;
}
</style>
