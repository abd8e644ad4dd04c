<script setup lang="ts">
import { deskSpots, planBox } from '@rounds/core/drawing';
import { leadsTo } from '@rounds/core/machine';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import MachineOutline from '../drawing/MachineOutline.vue';
import type { Desk } from './useDesk';
import type { RunningMachine } from './useMachine';

/** The machine from above with the places where one can be; the person is the amber dot, and one steps into a ring. */
const props = defineProps<{ desk: RunningMachine & Pick<Desk, 'pack'> }>();
const { machine, pack } = props.desk;
const places = machine.desk.places.filter((each) => !each.helper);
const spots = deskSpots({ places }, pack.plan);
const box = computed(() => {
  const around = planBox(pack.plan);
  const xs = [around.x, around.x + around.width, ...spots.map((each) => each.x)];
  const ys = [around.y, around.y + around.height, ...spots.map((each) => each.y)];
  const gap = Math.max(around.width, around.height) * 0.14;
  const [x, y] = [Math.min(...xs) - gap, Math.min(...ys) - gap];
  return { x, y, width: Math.max(...xs) + gap - x, height: Math.max(...ys) + gap - y };
});
const unit = computed(() => Math.max(box.value.width, box.value.height) / 22);
const numbered = computed(() =>
  places.map((place, i) => {
    const { x, y } = spots[i]!;
    const leads = leadsTo(place, props.desk.place.value);
    const here = place.id === props.desk.place.value;
    return { ...place, n: i + 1, x, y, leads, here };
  }),
);
const go = (place: string, name: string) => props.desk.act({ kind: 'go', place }, `You go: ${name}`);
</script>

<template>
  <section class="stack places" aria-label="Where you are">
    <svg
      :viewBox="`${box.x} ${box.y} ${box.width} ${box.height}`"
      class="plan"
      role="img"
      :aria-label="`The machine from above. You are: ${numbered.find((each) => each.here)?.name ?? ''}`"
    >
      <MachineOutline bare :outlines="pack.plan.outlines" :line="unit * 0.08" />
      <g v-for="each in numbered" :key="each.id" :transform="`translate(${each.x} ${each.y})`">
        <circle
          :r="unit * 1.25"
          class="ring"
          :class="{ here: each.here, leads: each.leads }"
          :stroke-width="unit * (each.here ? 0.34 : 0.18)"
          @click="each.leads && go(each.id, each.name)"
        />
        <circle v-if="each.here" :r="unit * 0.62" class="person" />
        <text v-else class="n" :font-size="unit * 1.3" text-anchor="middle" dominant-baseline="central">
          {{ each.n }}
        </text>
      </g>
    </svg>
    <ul class="list">
      <li v-for="each in numbered" :key="each.id">
        <p v-if="each.here" class="now" role="status">
          <span class="dot" aria-hidden="true"></span><strong>{{ each.name }}</strong>
        </p>
        <Button v-else block :disabled="!each.leads" :danger="each.wrong" @click="go(each.id, each.name)"
          ><span class="number">{{ each.n }}</span> {{ each.name }}</Button
        >
      </li>
    </ul>
  </section>
</template>

<style scoped>
.plan {
  width: 100%;
  max-height: 300px;
}
.ring {
  fill: var(--sheet);
  fill-opacity: 0.85;
  stroke: var(--quiet);
}
.ring.leads {
  stroke: var(--petrol);
  cursor: pointer;
}
.ring.here {
  stroke: var(--ink);
}
.person {
  fill: var(--amber);
  stroke: var(--ink);
  stroke-width: 0.04;
}
.n {
  fill: var(--ink);
  font-weight: 700;
  pointer-events: none;
}
.list {
  display: grid;
  gap: 0.35rem;
}
.list :deep(.ant-btn) {
  height: auto;
  min-height: 44px;
  display: flex;
  align-items: baseline;
  white-space: normal;
  text-align: left;
  justify-content: flex-start;
}
.number {
  flex: none;
  min-width: 1.1em;
  margin-right: 0.4rem;
  font-weight: 700;
}
.now {
  display: flex;
  align-items: center;
  gap: 0.5rem;
  min-height: 44px;
  padding: 0 0.9rem;
  border-left: 6px solid var(--amber);
}
.dot {
  width: 14px;
  height: 14px;
  flex: none;
  border-radius: 50%;
  background: var(--amber);
  border: 2px solid var(--ink);
}
@media (max-width: 1000px) {
  .places {
    display: grid;
    grid-template-columns: minmax(90px, 1fr) minmax(0, 2fr);
    align-items: center;
  }
}
</style>
