<script setup lang="ts">
import { dealtMachine, type DeskPack, machineOf, TICKS } from '@rounds/core/machine';
import { Segmented } from 'ant-design-vue';
import DeskControls from '../../desk/DeskControls.vue';
import DeskLooks from '../../desk/DeskLooks.vue';
import DeskPlaces from '../../desk/DeskPlaces.vue';
import DeskSenses from '../../desk/DeskSenses.vue';
import { type Speed, SPEED_CHOICES, useMachine } from '../../desk/useMachine';

/** A machine of the draft that runs here, for whoever writes its desk: nothing is kept and nothing is judged. */
const props = defineProps<{ pack: DeskPack }>();
const machine = machineOf(props.pack)!;
const desk = {
  ...useMachine(machine, dealtMachine(machine, { procedures: [], found: null, failures: [] })),
  pack: props.pack,
};
const { speed, told, state } = desk;
</script>

<template>
  <div class="stack">
    <div class="row">
      <Segmented
        :value="speed"
        :options="SPEED_CHOICES"
        aria-label="How fast this desk runs"
        @change="speed = Number($event) as Speed"
      />
      <span class="quiet">{{ (state.tick / TICKS).toFixed(0) }} s</span>
    </div>
    <p class="quiet" role="status">{{ told[0]?.says ?? 'Try what you wrote.' }}</p>
    <DeskPlaces :desk="desk" />
    <DeskSenses :desk="desk" />
    <DeskControls :desk="desk" close />
    <DeskLooks :desk="desk" />
  </div>
</template>
