<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import { Form, InputNumber, Modal } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';
import { useSession } from '../device/session';
import DateField from '../parts/DateField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { usePeopleLike } from '../parts/queries';
import SeveralField from '../parts/SeveralField.vue';
import { type SetTask, taskWords } from './formWords';
import { useSetPractice } from './queries';

/** Sets people what to practise: who, by which day, how many times. */
const props = defineProps<{
  classId: string;
  classTitle: string;
  variant: string;
  task: SetTask;
}>();
const open = defineModel<boolean>('open', { required: true });
const search = ref('');
const settled = refDebounced(search, 180);
const found = usePeopleLike(
  () => settled.value,
  () => open.value,
);
const people = ref<string[]>([]);
/** People seen so far by id, so that a chosen one keeps the name when another is searched for. */
const known = ref(new Map<string, { value: string; label: string; more: string }>());
watch(
  () => found.data.value,
  (now) => {
    for (const { person } of now?.rows ?? [])
      known.value.set(person.id, {
        value: person.id,
        label: `${person.givenName} ${person.familyName}`,
        more: `${person.payroll}, ${person.team}`,
      });
  },
);
const choices = computed(() => {
  const rows = (found.data.value?.rows ?? []).map(({ person }) => person.id);
  return [...new Set([...rows, ...people.value])].flatMap((id) => known.value.get(id) ?? []);
});
const today = useSession().installation?.today ?? '';
const dueOn = ref('');
const times = ref(1);
const set = useSetPractice();
const problem = ref<unknown>(null);
/** One number for each person: sent again nothing is set twice. */
const numbers = new Map<string, string>();
watch(open, (now) => {
  if (!now) return;
  people.value = [];
  dueOn.value = '';
  times.value = 1;
  problem.value = null;
  numbers.clear();
});
async function finish() {
  problem.value = null;
  try {
    await set.mutateAsync({
      body: {
        people: people.value.map((personId) => {
          const id = numbers.get(personId) ?? uuidv7();
          numbers.set(personId, id);
          return { id, personId };
        }),
        classId: props.classId,
        variant: props.variant,
        ...props.task,
        times: times.value,
        dueOn: dueOn.value,
      },
    });
    open.value = false;
  } catch (error) {
    problem.value = error;
  }
}
</script>

<template>
  <Modal
    v-model:open="open"
    title="Set this practice"
    ok-text="Set it"
    cancel-text="Not now"
    :ok-button-props="{ disabled: people.length === 0 || dueOn === '' }"
    :confirm-loading="set.isLoading.value"
    @ok="finish"
  >
    <Form layout="vertical" component="div" class="stack">
      <p>
        <strong>{{ taskWords(task) }}</strong>, {{ classTitle }}
      </p>
      <FieldItem v-slot="{ id }" label="Who does it">
        <SeveralField
          :id="id"
          v-model:value="people"
          label="Who does it"
          placeholder="Find by name or payroll number"
          remote
          whole
          :options="choices"
          @search="search = $event"
        />
      </FieldItem>
      <FieldItem v-slot="{ id }" label="By">
        <DateField :id="id" v-model:value="dueOn" label="By" :from="today" />
      </FieldItem>
      <FieldItem v-slot="{ id }" label="How many times">
        <InputNumber :id="id" v-model:value="times" :min="1" :max="20" :precision="0" />
      </FieldItem>
      <ProblemAlert :problem="problem" />
    </Form>
  </Modal>
</template>
