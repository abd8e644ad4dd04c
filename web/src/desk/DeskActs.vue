<script setup lang="ts">
import { deskCalls } from '@rounds/core/machine';
import { Button } from 'ant-design-vue';
import { ref } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FieldItem from '../parts/FieldItem.vue';
import DeskLooks from './DeskLooks.vue';
import type { Desk } from './useDesk';

/** What is done that is no control: looking, reading, listening, saying something, and what is done away from here. */
const props = defineProps<{ desk: Desk }>();
const { machine, session } = props.desk;
const calls = deskCalls(machine.desk).map((each) => ({ value: each, label: each }));
const says = ref('');
function call() {
  if (!says.value) return;
  props.desk.act({ kind: 'call', says: says.value }, `You say: "${says.value}"`);
  says.value = '';
}
/** Steps that are done elsewhere and told here. */
const elsewhere = session.steps
  .filter((each) => {
    const spec = machine.desk.steps[each.id];
    return !spec || spec.away;
  })
  .map((each) => ({ value: each.id, label: each.do }));
const step = ref('');
function away() {
  const found = elsewhere.find((each) => each.value === step.value);
  if (!found) return;
  props.desk.act({ kind: 'away', step: found.value }, `Done: ${found.label}`);
  step.value = '';
}
</script>

<template>
  <section class="stack" aria-label="Look, listen, say">
    <h2>Look, listen, ask</h2>
    <DeskLooks :desk="desk" />
    <FieldItem v-if="calls.length > 0" v-slot="{ id }" label="Say aloud">
      <div class="row tight">
        <ChoiceField
          :id="id"
          v-model:value="says"
          class="grow"
          label="Say aloud"
          placeholder="What do you say?"
          :options="calls"
        />
        <Button :disabled="!says" @click="call">Say it</Button>
      </div>
    </FieldItem>
    <FieldItem v-if="elsewhere.length > 0" v-slot="{ id }" label="Done away from the desk">
      <div class="row tight">
        <ChoiceField
          :id="id"
          v-model:value="step"
          class="grow"
          label="Done away from the desk"
          placeholder="What is done?"
          :options="elsewhere"
        />
        <Button :disabled="!step" @click="away">Done</Button>
      </div>
    </FieldItem>
  </section>
</template>

<style scoped>
.tight {
  flex-wrap: nowrap;
}
</style>
