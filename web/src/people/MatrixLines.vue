<script setup lang="ts">
import { useVirtualizer } from '@tanstack/vue-virtual';
import { computed, nextTick } from 'vue';
import type { MatrixColumn } from './matrixCells';
import MatrixRow from './MatrixRow.vue';
import type { MatrixPerson } from './queries';

/** The lines of the matrix that are in view, and the walk through all of them with the arrow keys. */
const ROW = 44;
/**
 * Lines stand in blocks that clip: a browser takes up again what it painted of a block, and without them would
 * paint every line anew with each one that comes or goes.
 */
const BLOCK = 16;
const props = defineProps<{
  people: readonly MatrixPerson[];
  columns: readonly MatrixColumn[];
  /** What scrolls. */
  frame: HTMLElement | null;
  /** The columns of a line, as a grid's template. */
  template: string;
  /** The names stay in view while the rest scrolls sideways. */
  sideways: boolean;
}>();
/** The cell that is chosen: column 0 is the name. */
const at = defineModel<{ row: number; column: number }>('at', { required: true });

const rows = useVirtualizer(
  computed(() => ({
    count: props.people.length,
    getScrollElement: () => props.frame,
    estimateSize: () => ROW,
    overscan: 4,
  })),
);
const blocks = computed(() => {
  const found = new Map<number, { person: MatrixPerson; index: number }[]>();
  for (const { index } of rows.value.getVirtualItems()) {
    const person = props.people[index];
    const block = Math.floor(index / BLOCK);
    if (person) found.set(block, [...(found.get(block) ?? []), { person, index }]);
  }
  return [...found].map(([number, lines]) => ({ number, lines }));
});

const STEPS: Readonly<Record<string, [row: number, column: number]>> = {
  ArrowDown: [1, 0],
  ArrowUp: [-1, 0],
  ArrowRight: [0, 1],
  ArrowLeft: [0, -1],
  PageDown: [10, 0],
  PageUp: [-10, 0],
  Home: [0, -1000],
  End: [0, 1000],
};
/** Takes a key of the grid. */
function walk(event: KeyboardEvent) {
  const step = STEPS[event.key];
  if (!step || event.ctrlKey) return;
  event.preventDefault();
  const within = (value: number, most: number) => Math.min(most, Math.max(0, value));
  const row = within(at.value.row + step[0], props.people.length - 1);
  const column = within(at.value.column + step[1], props.columns.length);
  at.value = { row, column };
  rows.value.scrollToIndex(row);
  void nextTick(() => document.getElementById(`cell-${row}-${column}`)?.focus());
}
defineExpose({ walk });
</script>

<template>
  <div class="window" role="presentation" :style="{ height: `${people.length * ROW}px` }">
    <div
      v-for="{ number, lines } in blocks"
      :key="number"
      class="block"
      role="presentation"
      :style="{ top: `${number * BLOCK * ROW}px`, height: `${BLOCK * ROW}px` }"
    >
      <MatrixRow
        v-for="{ person, index } in lines"
        :key="person.id"
        :person="person"
        :columns="columns"
        :index="index"
        :chosen="at.row === index ? at.column : -1"
        :template="template"
        :top="(index % BLOCK) * ROW"
        :class="{ sideways }"
        @choose="at = { row: index, column: $event }"
      />
    </div>
  </div>
</template>

<style scoped>
.window {
  position: relative;
}
.block {
  position: absolute;
  width: 100%;
  overflow: clip;
}
</style>
