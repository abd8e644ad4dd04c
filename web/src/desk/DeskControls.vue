<script setup lang="ts">
import type { Control, ControlKind } from '@rounds/core/machine';
import { computed } from 'vue';
import DeskControl from './DeskControl.vue';
import type { RunningMachine } from './useMachine';

/** The controls in reach, by what works them. */
const props = defineProps<{
  desk: RunningMachine;
  /** All of them close together, for whoever must see them at one glance. */
  close?: boolean;
}>();
const GROUPS: readonly { name: string; kinds: readonly ControlKind[]; choice?: boolean }[] = [
  { name: 'Levers, held while they are worked', kinds: ['lever'] },
  { name: 'Foot', kinds: ['pedal'] },
  { name: 'Buttons and cords', kinds: ['hold', 'press', 'pull'] },
  { name: 'Switches, keys and what is put somewhere', kinds: ['selector'] },
  { name: 'Up to you', kinds: ['selector'], choice: true },
];
const groups = computed(() => {
  const here = props.desk.machine.desk.controls.filter((each) => props.desk.isHere(each.at));
  return GROUPS.map((group) => ({
    ...group,
    controls: here.filter(
      ({ kind, choice = false }) => group.kinds.includes(kind) && choice === (group.choice ?? false),
    ) as Control[],
  })).filter((group) => group.controls.length > 0);
});
</script>

<template>
  <section v-if="close" class="close" aria-label="Controls">
    <h2 class="visually-hidden">Controls</h2>
    <DeskControl
      v-for="each in groups.flatMap((group) => group.controls)"
      :key="each.id"
      :desk="desk"
      :control="each"
    />
  </section>
  <section v-for="group in close ? [] : groups" :key="group.name" :aria-label="group.name">
    <h2>{{ group.name }}</h2>
    <div class="controls">
      <DeskControl v-for="each in group.controls" :key="each.id" :desk="desk" :control="each" />
    </div>
  </section>
</template>

<style scoped>
.controls {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 0.5rem;
  margin-top: 0.35rem;
}
.close {
  columns: 230px;
  column-gap: 0.5rem;
}
.close > * {
  break-inside: avoid;
  margin-bottom: 0.5rem;
}
</style>
