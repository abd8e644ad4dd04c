<script setup lang="ts">
import { computed } from 'vue';
import { arcImage } from '../drawing/arcImage';
import { arcTone } from '../drawing/arcStrokes';
import { shareLeft } from '../parts/standing';
import { useTheme } from '../parts/theme';
import { PALETTES } from '../parts/tokens';
import { brief, type Cell, cellsOf, cellWords, type MatrixColumn } from './matrixCells';
import type { MatrixPerson } from './queries';

/**
 * A person's line of the matrix. It is drawn anew only when something of its own changes, which keeps
 * scrolling through many lines even.
 */
const props = defineProps<{
  person: MatrixPerson;
  columns: readonly MatrixColumn[];
  index: number;
  /** The columns of the line, as a grid's template. */
  template: string;
  /** Where it stands in its block, in pixels. */
  top: number;
  /** The column that is chosen in this line, 0 for the name; -1 where another line is. */
  chosen: number;
}>();
const emit = defineEmits<{ choose: [column: number] }>();
const theme = useTheme();
const cells = computed(() => {
  const palette = PALETTES[theme.name];
  const arc = (cell: Cell) =>
    arcImage(cell.status, shareLeft(cell), {
      own: palette[arcTone(cell.status)],
      pale: palette.line,
    });
  const own = cellsOf(props.person);
  return props.columns.map((column) => {
    const cell = own.get(column.index);
    return {
      id: column.id,
      says: `${props.person.name}, ${column.title}: ${cellWords(cell)}`,
      drawn: cell ? { status: cell.status, arc: arc(cell), brief: brief(cell) } : null,
    };
  });
});
/** One listener for the line: hundreds of cells come and go while it scrolls. */
function choose(event: MouseEvent) {
  const cell = (event.target as Element).closest('[id^="cell-"]');
  if (cell) emit('choose', Number(cell.id.split('-')[2]));
}
</script>

<template>
  <div
    role="row"
    class="line"
    :aria-rowindex="index + 2"
    :style="{ gridTemplateColumns: template, top: `${top}px` }"
    @click="choose"
  >
    <div
      :id="`cell-${index}-0`"
      role="rowheader"
      class="name"
      :class="{ here: chosen >= 0 }"
      :tabindex="chosen === 0 ? 0 : -1"
    >
      <RouterLink :to="`/people/${person.id}`" tabindex="-1">{{ person.name }}</RouterLink>
    </div>
    <div
      v-for="(cell, i) in cells"
      :id="`cell-${index}-${i + 1}`"
      :key="cell.id"
      role="gridcell"
      class="cell"
      :class="[cell.drawn?.status, { here: chosen === i + 1 }]"
      :style="{ backgroundImage: cell.drawn?.arc }"
      :tabindex="chosen === i + 1 ? 0 : -1"
    >
      {{ cell.says }}
      <span v-if="cell.drawn" class="brief" aria-hidden="true">{{ cell.drawn.brief }}</span>
    </div>
  </div>
</template>

<style scoped>
/* What was painted of a line that did not change is taken again as a whole. */
.line {
  position: absolute;
  width: 100%;
  height: 44px;
  border-bottom: 1px solid var(--line);
  display: grid;
  isolation: isolate;
}
.name {
  background: var(--sheet);
  border-right: 1px solid var(--line);
  padding: 0 0.6rem;
  display: flex;
  align-items: center;
  white-space: nowrap;
  overflow: hidden;
}
.sideways .name {
  position: sticky;
  left: 0;
  z-index: 1;
}
.name a {
  overflow: hidden;
  text-overflow: ellipsis;
  line-height: 44px;
}
.name.here {
  font-weight: 700;
}
.cell {
  padding-top: 30px;
  background: no-repeat center 4px / 24px;
  text-align: center;
  cursor: pointer;
  /* The sentence is for who listens. Clipped text, as usual elsewhere, costs frames in hundreds of cells. */
  font-size: 0;
}
.brief {
  font-size: 0.72rem;
  line-height: 1.05;
}
.lapsed,
.suspended,
.withdrawn {
  color: var(--crimson);
  font-weight: 700;
}
.due,
.in-grace {
  font-weight: 700;
}
.cell.here {
  box-shadow: inset 0 0 0 3px var(--amber);
}
</style>
