<script setup lang="ts">
import { railFlawed, railLayout, railSign, railState } from '@rounds/core/drawing';
import { type Judgement, momentWords, type Session, type Trace } from '@rounds/core/procedure';
import { useElementSize } from '@vueuse/core';
import { computed, ref } from 'vue';

/**
 * Procedures as a rail that forks where the order is free and is tied where it is not. A wait is long, a critical
 * step solid, an optional one dashed. With a judgement each step has beside it when it was done and what came of it.
 */
const props = defineProps<{
  session: Session;
  judgement?: Judgement | undefined;
  trace?: Pick<Trace, 'events'> | undefined;
  /** Steps that may come now. */
  next?: ReadonlySet<string> | undefined;
  label: string;
}>();
const frame = ref<HTMLElement | null>(null);
const { width } = useElementSize(frame, { width: 480, height: 0 });
const layout = computed(() =>
  railLayout(props.session, Math.max(280, Math.min(720, Math.floor(width.value) || 480)), props.judgement),
);
const momentOf = (act: number) => momentWords(props.trace?.events[act - 1]?.at ?? 0);
const rows = computed(() =>
  layout.value.rows.map((row) => ({
    ...row,
    says: railState(row, momentOf),
    state: row.judged?.state ?? 'plain',
    sign: railSign(row),
    flawed: railFlawed(row),
  })),
);
</script>

<template>
  <div ref="frame" class="rail-frame">
    <svg
      class="rail"
      :class="{ 'goes-on': judgement && !judgement.finished }"
      role="list"
      :aria-label="label"
      :viewBox="`0 0 ${layout.width} ${layout.height}`"
      :width="layout.width"
      :height="layout.height"
    >
      <path v-for="each in layout.ties" :key="`${each.from} ${each.to}`" class="tie" :d="each.path" />
      <text v-for="each in layout.heads" :key="each.title" class="head" x="0" :y="each.y">
        {{ each.title }}
      </text>
      <g
        v-for="row in rows"
        :key="row.step.id"
        role="listitem"
        :class="[
          'step',
          row.state,
          {
            critical: row.step.critical,
            optional: row.step.optional,
            flawed: row.flawed,
            next: next?.has(row.step.id),
          },
        ]"
        :data-step="row.step.id"
      >
        <title>{{ row.step.do }}{{ row.says ? `: ${row.says}` : '' }}</title>
        <path class="sign" :d="row.sign" />
        <path
          v-if="row.state === 'skipped'"
          class="strike"
          :d="`M${row.x - 11} ${row.y + 11}L${row.x + 11} ${row.y - 11}`"
        />
        <text
          v-for="(line, i) in row.lines"
          :key="i"
          class="says"
          :x="layout.textX"
          :y="row.top + 23 + i * 19"
        >
          {{ line }}
        </text>
        <text class="came" :x="layout.width" :y="row.top + 23" text-anchor="end">{{ row.says }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.rail-frame {
  width: 100%;
}
.rail {
  display: block;
  max-width: 100%;
  height: auto;
}
text {
  font-size: 15px;
  fill: var(--ink);
}
.head {
  font-weight: 700;
}
.came {
  font-size: 13px;
  font-variant-numeric: tabular-nums;
}
.tie {
  fill: none;
  stroke: var(--machine-deep);
  stroke-width: 2.4;
}
.sign {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 2.4;
}
.critical .sign {
  fill: var(--ink);
}
.optional .sign {
  stroke-dasharray: 3 3;
}
.next .sign {
  stroke: var(--amber);
  stroke-width: 4;
}
.next .says {
  font-weight: 700;
}
/* While it goes on, what is done steps back. */
.goes-on .done .says {
  fill: var(--quiet);
}
.strike {
  stroke: var(--crimson);
  stroke-width: 2.4;
}
.flawed .sign {
  stroke: var(--crimson);
}
.flawed.critical .sign {
  fill: var(--crimson);
}
.flawed .came {
  fill: var(--crimson);
  font-weight: 700;
}
</style>
