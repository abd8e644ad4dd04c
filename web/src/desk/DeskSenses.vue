<script setup lang="ts">
import { perceived } from '@rounds/core/machine';
import { computed } from 'vue';
import type { RunningMachine } from './useMachine';

/** What can be seen, heard, smelt and felt from where one stands, what came last first, and never anything else. */
const props = defineProps<{ desk: RunningMachine }>();
const { machine } = props.desk;
const specs = new Map(machine.desk.shows.map((each) => [each.id, each]));
const SENSE: Readonly<Record<string, string>> = {
  lamp: 'Lit',
  gauge: 'Gauge',
  display: 'Display',
  sight: 'You see',
  sound: 'You hear',
  smell: 'You smell',
  feel: 'You feel',
};
/** When each came, so that what is new stands first. */
const since = new Map<string, number>();
const figure = (value: number) =>
  Math.abs(value) >= 100 ? String(Math.round(value)) : value.toFixed(Number.isInteger(value) ? 0 : 1);

const rows = computed(() => {
  const { tick } = props.desk.state.value;
  const found = perceived(machine, props.desk.state.value);
  const here = new Set(found.map((each) => each.id));
  for (const id of [...since.keys()]) if (!here.has(id)) since.delete(id);
  for (const id of here) if (!since.has(id)) since.set(id, tick);
  return found
    .map((each) => {
      const spec = specs.get(each.id)!;
      const value = typeof each.value === 'number' ? each.value : null;
      const off = value !== null && spec.normal && (value < spec.normal[0] || value > spec.normal[1]);
      const share =
        value !== null && spec.range
          ? Math.min(1, Math.max(0, (value - spec.range[0]) / (spec.range[1] - spec.range[0] || 1)))
          : null;
      const normal =
        spec.range && spec.normal
          ? spec.normal.map((one) => (one - spec.range![0]) / (spec.range![1] - spec.range![0] || 1))
          : null;
      return {
        id: each.id,
        kind: each.kind,
        sense: SENSE[each.kind] ?? '',
        name: each.name,
        says:
          value !== null
            ? `${figure(value)} ${spec.unit ?? ''}`.trim()
            : each.value === true
              ? ''
              : String(each.value ?? ''),
        more: spec.says ?? '',
        off: off ?? false,
        share,
        normal,
        since: since.get(each.id)!,
      };
    })
    .sort((a, b) => b.since - a.since);
});
</script>

<template>
  <section class="senses" aria-label="What you perceive here">
    <p v-if="rows.length === 0" class="quiet">Nothing to be seen or heard from here.</p>
    <ul v-else>
      <li v-for="each in rows" :key="each.id" :class="[each.kind, { off: each.off }]">
        <span class="sense quiet small">{{ each.sense }}</span>
        <strong>{{ each.name }}</strong>
        <span v-if="each.says" class="value">{{ each.says }}</span>
        <svg
          v-if="each.share !== null"
          class="bar"
          viewBox="0 0 100 8"
          preserveAspectRatio="none"
          aria-hidden="true"
        >
          <rect class="track" width="100" height="8" />
          <rect
            v-if="each.normal"
            class="normal"
            :x="100 * Math.max(0, each.normal[0]!)"
            :width="100 * Math.max(0, Math.min(1, each.normal[1]!) - Math.max(0, each.normal[0]!))"
            height="8"
          />
          <rect class="mark" :x="Math.min(97, 100 * each.share)" width="3" height="8" />
        </svg>
        <span v-else-if="each.more" class="quiet small">{{ each.more }}</span>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}
li {
  display: flex;
  flex-direction: column;
  min-width: 128px;
  max-width: 240px;
  padding: 0.3rem 0.6rem;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
  line-height: 1.25;
}
.lamp {
  border-left: 8px solid var(--petrol);
}
.sound,
.smell,
.feel {
  border-style: dashed;
}
.off {
  border: 2px solid var(--ink);
}
.value {
  font-weight: 700;
  font-size: 1.1rem;
}
.bar {
  width: 100%;
  height: 8px;
  margin-top: 0.2rem;
}
.track {
  fill: var(--ground);
}
.normal {
  fill: var(--machine-deep);
}
.mark {
  fill: var(--ink);
}
</style>
