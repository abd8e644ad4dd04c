<script setup lang="ts">
import { outlineDrawing } from '@rounds/core/drawing';
import { computed } from 'vue';

/** A machine from above, to scale, as a picture of its own or as a group inside a larger drawing (`bare`). */
const props = defineProps<{
  outlines: readonly { part: string; points: readonly (readonly number[])[]; solid?: boolean }[];
  size?: number;
  bare?: boolean;
  line?: number;
}>();
const drawing = computed(() => outlineDrawing(props.outlines));
const side = computed(() => Math.max(drawing.value.box.width, drawing.value.box.height) * 1.1);
const box = computed(() => {
  const { x, y, width, height } = drawing.value.box;
  return `${x + width / 2 - side.value / 2} ${y + height / 2 - side.value / 2} ${side.value} ${side.value}`;
});
const stroke = computed(() => props.line ?? side.value / 130);
</script>

<template>
  <g v-if="bare" class="machine">
    <path
      v-for="(each, i) in drawing.paths"
      :key="i"
      :d="each.d"
      :class="[each.tone, { open: !each.solid }]"
      :stroke-width="stroke"
    />
  </g>
  <svg v-else class="machine" :viewBox="box" :width="size" :height="size" aria-hidden="true">
    <path
      v-for="(each, i) in drawing.paths"
      :key="i"
      :d="each.d"
      :class="[each.tone, { open: !each.solid }]"
      :stroke-width="stroke"
    />
  </svg>
</template>

<style scoped>
path {
  stroke: var(--machine-deep);
  stroke-linejoin: round;
}
.body {
  fill: var(--machine);
}
.deep {
  fill: var(--machine-deep);
  stroke: var(--sheet);
}
.light {
  fill: var(--sheet);
}
.line {
  fill: none;
  stroke: var(--quiet);
}
.open.deep,
.open.light {
  opacity: 0.75;
}
</style>
