<script setup lang="ts">
import type { ShareRow } from '@rounds/contract/insight';
import type { CustomSeriesOption } from 'echarts/charts';
import { computed } from 'vue';
import { useTheme } from '../parts/theme';
import { FONT, PALETTES } from '../parts/tokens';
import { Chart } from '../parts/useChart';
import { percent } from '../parts/words';

/** Shares month by month with their intervals; the months that are too few have hollow dots. */
const props = defineProps<{ rows: readonly ShareRow[]; title: string; least: number }>();
const theme = useTheme();
const months = computed(() => props.rows.map((each) => each.name.replace(/^(\w{3})\w* \d\d/, '$1 ')));

const option = computed(() => {
  const { quiet, line, petrol, sheet } = PALETTES[theme.name];
  const whiskers: CustomSeriesOption = {
    type: 'custom',
    silent: true,
    data: props.rows.map((each, i) => [i, each.low, each.high]),
    encode: { x: 0, y: [1, 2] },
    renderItem: (_params, api) => {
      const [x, low] = api.coord([api.value(0), api.value(1)]) as [number, number];
      const [, high] = api.coord([api.value(0), api.value(2)]) as [number, number];
      const style = { stroke: petrol, lineWidth: 1.5, opacity: 0.6 };
      return { type: 'line', shape: { x1: x, y1: low, x2: x, y2: high }, style };
    },
  };
  return {
    animation: false,
    textStyle: { fontFamily: FONT },
    grid: { left: 8, right: 16, top: 14, bottom: 6, containLabel: true },
    xAxis: {
      type: 'category',
      data: months.value,
      axisLabel: { color: quiet, fontSize: 13 },
      axisLine: { lineStyle: { color: line } },
      axisTick: { show: false },
    },
    yAxis: {
      type: 'value',
      min: 0,
      max: 1,
      axisLabel: { color: quiet, fontSize: 13, formatter: percent },
      splitLine: { lineStyle: { color: line } },
    },
    series: [
      whiskers,
      {
        type: 'line',
        silent: true,
        symbol: 'circle',
        symbolSize: 11,
        lineStyle: { color: petrol, width: 2 },
        data: props.rows.map((each) => ({
          value: each.share,
          itemStyle: {
            color: each.n < props.least ? sheet : petrol,
            borderColor: petrol,
            borderWidth: 2,
          },
        })),
      },
    ],
  };
});
</script>

<template>
  <div class="trend" role="img" :aria-label="title">
    <Chart :option="option" autoresize aria-hidden="true" />
  </div>
</template>

<style scoped>
.trend {
  min-width: 280px;
  height: 420px;
}
</style>
