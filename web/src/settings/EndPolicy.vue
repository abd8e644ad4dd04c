<script setup lang="ts">
import type { PolicyLine } from '@rounds/contract/grading';
import { Form, Modal, Textarea } from 'ant-design-vue';
import { ref, watch } from 'vue';
import { useSession } from '../device/session';
import DateField from '../parts/DateField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useEndPolicy } from './queries';

/** Ends a line of the grading policy from a day on, with the reason. */
const line = defineModel<PolicyLine | null>('line', { required: true });
const session = useSession();
const end = useEndPolicy();
const on = ref('');
const why = ref('');
const problem = ref<unknown>(null);
watch(line, () => {
  on.value = session.installation?.today ?? '';
  why.value = '';
  problem.value = null;
});
async function keep() {
  problem.value = null;
  try {
    await end.mutateAsync({ params: { id: line.value!.id }, body: { on: on.value, why: why.value } });
    line.value = null;
  } catch (error) {
    problem.value = error;
  }
}
</script>

<template>
  <Modal
    :open="line !== null"
    :title="`End: ${line?.about ?? ''}`"
    ok-text="End it"
    :ok-button-props="{ disabled: why.trim().length < 3, loading: end.isLoading.value }"
    @ok="keep"
    @cancel="line = null"
  >
    <Form layout="vertical">
      <p class="quiet">From that day the class's own grade holds again. The line stays on record.</p>
      <FieldItem v-slot="{ id }" label="From"
        ><DateField :id="id" v-model:value="on" label="From"
      /></FieldItem>
      <FieldItem v-slot="{ id }" label="Why"
        ><Textarea :id="id" v-model:value="why" :rows="2" :maxlength="500"
      /></FieldItem>
    </Form>
    <ProblemAlert :problem="problem" />
  </Modal>
</template>
