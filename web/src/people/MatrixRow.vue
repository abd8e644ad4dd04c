<script setup lang="ts">
import { computed } from 'vue';
import TimeArc from '../drawing/TimeArc.vue';
import { shareLeft } from '../parts/standing';
import { brief, cellsOf, cellWords, type MatrixColumn } from './matrixCells';
import type { MatrixPerson } from './queries';

/**
 * A person's line of the matrix. It is drawn anew only when something of its own changes, which keeps
 * scrolling through many lines even.
 */
const props = defineProps<{
  person: MatrixPerson;
  columns: readonly MatrixColumn[];
  index: number;
  /** The column that is chosen in this line, 0 for the name; -1 where another line is. */
  chosen: number;
}>();
const emit = defineEmits<{ choose: [column: number] }>();
const cells = computed(() => {
  const own = cellsOf(props.person);
  return props.columns.map((column) => {
    const cell = own.get(column.index);
    return {
      id: column.id,
      says: `${props.person.name}, ${column.title}: ${cellWords(cell)}`,
      drawn: cell ? { status: cell.status, share: shareLeft(cell), brief: brief(cell) } : null,
    };
  });
});
const cellId = (column: number) => `cell-${props.index}-${column}`;
</script>

<template>
  <div role="row" class="line" :aria-rowindex="index + 2">
    <div
      :id="cellId(0)"
      role="rowheader"
      class="name"
      :class="{ here: chosen >= 0 }"
      :tabindex="chosen === 0 ? 0 : -1"
      @click="emit('choose', 0)"
    >
      <RouterLink :to="`/people/${person.id}`" tabindex="-1">{{ person.name }}</RouterLink>
    </div>
    <div
      v-for="(cell, i) in cells"
      :id="cellId(i + 1)"
      :key="cell.id"
      role="gridcell"
      class="cell"
      :class="[cell.drawn?.status, { here: chosen === i + 1 }]"
      :tabindex="chosen === i + 1 ? 0 : -1"
      @click="emit('choose', i + 1)"
    >
      <span class="said">{{ cell.says }}</span>
      <template v-if="cell.drawn">
        <TimeArc :status="cell.drawn.status" :share="cell.drawn.share" :size="24" />
        <span class="brief" aria-hidden="true">{{ cell.drawn.brief }}</span>
      </template>
    </div>
  </div>
</template>

<style scoped>
/* Many hundred cells stand in view: what clips, moves or scales within one costs a frame while they scroll. */
.said {
  font-size: 0;
}
/* What was painted of a line that did not change is taken again as a whole. */
.line {
  display: grid;
  isolation: isolate;
}
.name {
  position: sticky;
  left: 0;
  z-index: 1;
  background: var(--sheet);
  border-right: 1px solid var(--line);
  padding: 0 0.6rem;
  display: flex;
  align-items: center;
  white-space: nowrap;
  overflow: hidden;
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
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  font-size: 0.72rem;
  line-height: 1.05;
  cursor: pointer;
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
