<script setup lang="ts">
import type { CustomSeriesOption } from 'echarts/charts';
import { computed } from 'vue';
import { Chart } from './useChart';
import { useTheme } from './theme';
import { FONT, PALETTES } from './tokens';

/** A figure with its interval, a line of the chart. */
interface RangeRow {
  name: string;
  value: number | null;
  low: number | null;
  high: number | null;
  /** How many it rests on. */
  n: number;
}

/**
 * Figures as dots with whiskers, a row each, the first on top. What is too few to judge has a hollow dot. The table
 * beside it says the same: the chart itself is a picture.
 */
const props = withDefaults(
  defineProps<{
    rows: readonly RangeRow[];
    title: string;
    /** The ends of the axis. */
    from: number;
    to: number;
    words: (value: number) => string;
    /** A line to hold the figures against. */
    mark?: number | undefined;
    /** From how many on a figure is judged. */
    least?: number;
  }>(),
  { mark: undefined, least: 10 },
);
const theme = useTheme();
const ROW = 44;
const short = (name: string) => (name.length > 34 ? `${name.slice(0, 33)}…` : name);

const option = computed(() => {
  const { ink, quiet, line, petrol, sheet } = PALETTES[theme.name];
  const rows = props.rows;
  const whiskers: CustomSeriesOption = {
    type: 'custom',
    silent: true,
    data: rows.map((each, i) => [each.low ?? NaN, each.high ?? NaN, i]),
    encode: { x: [0, 1], y: 2 },
    renderItem: (_params, api) => {
      const [low, y] = api.coord([api.value(0), api.value(2)]) as [number, number];
      const [high] = api.coord([api.value(1), api.value(2)]) as [number];
      if (!Number.isFinite(low) || !Number.isFinite(high)) return null;
      const stroke = { stroke: petrol, lineWidth: 2 };
      const cap = (x: number) => ({
        type: 'line' as const,
        shape: { x1: x, y1: y - 6, x2: x, y2: y + 6 },
        style: stroke,
      });
      return {
        type: 'group',
        children: [
          { type: 'line', shape: { x1: low, y1: y, x2: high, y2: y }, style: stroke },
          cap(low),
          cap(high),
        ],
      };
    },
  };
  return {
    animation: false,
    textStyle: { fontFamily: FONT },
    grid: { left: 8, right: 24, top: 6, bottom: 6, containLabel: true },
    xAxis: {
      type: 'value',
      min: props.from,
      max: props.to,
      axisLabel: { color: quiet, fontSize: 13, formatter: props.words },
      splitLine: { lineStyle: { color: line } },
      splitNumber: 4,
    },
    yAxis: {
      type: 'category',
      inverse: true,
      data: rows.map((each) => short(each.name)),
      axisLabel: { color: ink, fontSize: 14 },
      axisLine: { lineStyle: { color: line } },
      axisTick: { show: false },
    },
    series: [
      whiskers,
      {
        type: 'scatter',
        silent: true,
        symbolSize: 12,
        data: rows.map((each, i) => ({
          value: [each.value ?? NaN, i],
          itemStyle:
            each.n < props.least
              ? { color: sheet, borderColor: petrol, borderWidth: 2 }
              : { color: petrol, borderColor: petrol, borderWidth: 2 },
        })),
        ...(props.mark === undefined
          ? {}
          : {
              markLine: {
                silent: true,
                symbol: 'none',
                label: { show: false },
                lineStyle: { color: ink, type: 'dashed', width: 1.5 },
                data: [{ xAxis: props.mark }],
              },
            }),
      },
    ],
  };
});
</script>

<template>
  <div class="range" role="img" :aria-label="title" :style="{ height: `${rows.length * ROW + 46}px` }">
    <Chart :option="option" autoresize aria-hidden="true" />
  </div>
</template>

<style scoped>
.range {
  min-width: 280px;
  font-family: var(--font);
}
</style>
