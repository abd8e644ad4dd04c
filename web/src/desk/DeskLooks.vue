<script setup lang="ts">
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import type { RunningMachine } from './useMachine';

/** What can be looked at, read, listened to and felt from here. */
const props = defineProps<{ desk: RunningMachine }>();
const { machine } = props.desk;
const looks = computed(() => machine.desk.looks.filter((each) => props.desk.isHere(each.at)));
const perceives = new Map(machine.desk.shows.map((each) => [each.id, each]));
function look(id: string, name: string, of: string | undefined) {
  const show = of ? perceives.get(of) : undefined;
  const sees = show && props.desk.read(show.id) === true ? '' : of ? ': there is nothing of it' : '';
  props.desk.act({ kind: 'look', look: id }, `${name}${sees}`);
}
</script>

<template>
  <div class="looks">
    <Button v-for="each in looks" :key="each.id" class="look" @click="look(each.id, each.name, each.of)">{{
      each.name
    }}</Button>
  </div>
</template>

<style scoped>
.looks {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
}
.look {
  height: auto;
  min-height: 48px;
  white-space: normal;
  text-align: left;
}
</style>
