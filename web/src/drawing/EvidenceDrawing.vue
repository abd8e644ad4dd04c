<script setup lang="ts">
import {
  drawEvidence,
  type Evidence,
  FIGURE_LINE,
  figureSize,
  SIDE,
  type Tone,
} from '@rounds/core/drawing/evidence';
import { computed } from 'vue';

/** A finding as it looks, drawn from a kind and its parameters, and said in the same words to whoever cannot see it. */
const props = defineProps<{
  evidence: Evidence;
  /** What was measured or read stands below it in figures. */
  figures?: boolean;
  /** The same is said in words beside it. */
  decorative?: boolean;
}>();
const drawing = computed(() => drawEvidence(props.evidence, { figures: props.figures ?? false }));
const height = computed(() => SIDE + (drawing.value?.figures.length ?? 0) * FIGURE_LINE);
const COLOURS: Readonly<Record<Tone, string>> = {
  ink: 'var(--ink)',
  quiet: 'var(--quiet)',
  ground: 'var(--raised)',
  shade: 'var(--machine)',
  deep: 'var(--machine-deep)',
  glow: 'var(--amber)',
};
</script>

<template>
  <svg
    v-if="drawing"
    class="evidence"
    :viewBox="`-2 -2 ${SIDE + 4} ${height + 4}`"
    :role="decorative ? undefined : 'img'"
    :aria-label="decorative ? undefined : drawing.text"
    :aria-hidden="decorative ? true : undefined"
  >
    <template v-for="(mark, i) in drawing.marks" :key="i">
      <text
        v-if="'text' in mark"
        :x="mark.x"
        :y="mark.y"
        :font-size="mark.size"
        :text-anchor="mark.anchor"
        :font-weight="mark.bold ? 700 : 400"
        :fill="COLOURS[mark.tone]"
      >
        {{ mark.text }}
      </text>
      <path
        v-else
        :d="mark.d"
        :fill="mark.fill ? COLOURS[mark.fill] : 'none'"
        :stroke="mark.stroke ? COLOURS[mark.stroke] : undefined"
        :stroke-width="mark.width"
        :stroke-dasharray="mark.dash"
        stroke-linejoin="round"
        stroke-linecap="round"
      />
    </template>
    <text
      v-for="(line, i) in drawing.figures"
      :key="line"
      x="50"
      :y="SIDE + 9 + i * FIGURE_LINE"
      :font-size="figureSize(drawing.figures)"
      text-anchor="middle"
      :fill="COLOURS.ink"
    >
      {{ line }}
    </text>
  </svg>
</template>

<style scoped>
.evidence {
  display: block;
  width: 100%;
  height: 100%;
  /* What is cut out of a part is cut out to its card. */
  background: var(--raised);
  border: 1px solid var(--line);
  border-radius: 4px;
}
</style>
