<script setup lang="ts">
import { dealtMachine, type DeskPack, machineOf } from '@rounds/core/machine';
import { Button, Segmented } from 'ant-design-vue';
import DeskControls from '../../desk/DeskControls.vue';
import DeskPlaces from '../../desk/DeskPlaces.vue';
import DeskSenses from '../../desk/DeskSenses.vue';
import { type Speed, SPEEDS, useMachine } from '../../desk/useMachine';

/** A machine of the draft that runs here, for whoever writes its desk: nothing is kept and nothing is judged. */
const props = defineProps<{ pack: DeskPack }>();
const machine = machineOf(props.pack)!;
const desk = {
  ...useMachine(machine, dealtMachine(machine, { procedures: [], found: null, failures: [] })),
  pack: props.pack,
};
const { speed, told, state } = desk;
const speeds = SPEEDS.map((value) => ({ value, label: value === 0 ? 'Pause' : `×${value}` }));
const looks = machine.desk.looks;
</script>

<template>
  <div class="stack">
    <div class="row">
      <Segmented
        :value="speed"
        :options="speeds"
        aria-label="How fast this desk runs"
        @change="speed = Number($event) as Speed"
      />
      <span class="quiet">{{ (state.tick / 10).toFixed(0) }} s</span>
    </div>
    <p class="quiet" role="status">{{ told[0]?.says ?? 'Try what you wrote.' }}</p>
    <DeskPlaces :desk="desk" />
    <DeskSenses :desk="desk" />
    <DeskControls :desk="desk" close />
    <div class="row">
      <Button
        v-for="each in looks.filter((one) => desk.isHere(one.at))"
        :key="each.id"
        @click="desk.act({ kind: 'look', look: each.id }, each.name)"
        >{{ each.name }}</Button
      >
    </div>
  </div>
</template>
