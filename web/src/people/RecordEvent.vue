<script setup lang="ts">
import { certificationEventInput } from '@rounds/contract/certification';
import { type Trigger, TRIGGER_NAMES, TRIGGERS } from '@rounds/core/certification';
import { Button, Form, Input, InputNumber, Modal } from 'ant-design-vue';
import { computed } from 'vue';
import { useSession } from '../device/session';
import ChoiceField from '../parts/ChoiceField.vue';
import DateField from '../parts/DateField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useClasses } from '../parts/queries';
import { useContractForm } from '../parts/useContractForm';
import { eventBody, type EventFields, KIND_NAMES, kindsOf, WORDS_ASKED } from './eventForm';
import { useRecordEvent } from './queries';

/** A dated fact about a person in a class. Facts are only added; a mistake is put right by a further one. */
const props = defineProps<{ personId: string; classId?: string }>();
const open = defineModel<boolean>('open', { required: true });
const session = useSession();
const { list } = useClasses();
const recordEvent = useRecordEvent();
const today = session.installation?.today ?? '';
const form = useContractForm(
  certificationEventInput,
  () => ({
    classId: props.classId ?? '',
    on: today,
    kind: 'trigger' as EventFields['kind'],
    words: '',
    trigger: 'incident' as Trigger,
    hours: 8 as number | undefined,
    until: '',
  }),
  {
    fields: { 'date-in-future': 'on' },
    read: ({ classId, on, ...fields }) => ({ classId, on, body: eventBody(fields) }),
  },
);
const { values, errors, problem, busy } = form;
const kinds = computed(() => kindsOf(session.role).map((value) => ({ value, label: KIND_NAMES[value] })));
const triggers = TRIGGERS.map((value) => ({ value, label: TRIGGER_NAMES[value] }));
const asksWords = computed(() => WORDS_ASKED[values.kind]);
const wordsError = computed(
  () => errors.value['body.words'] ?? errors.value['body.unit'] ?? errors.value['body'],
);

async function record() {
  const taken = await form.submit((body) =>
    recordEvent.mutateAsync({ params: { id: props.personId }, body }),
  );
  if (!taken) return;
  form.clear();
  open.value = false;
}
</script>

<template>
  <Modal v-model:open="open" title="Record an event" :footer="null" destroy-on-close>
    <Form layout="vertical" @submit.prevent="record">
      <FieldItem v-slot="{ id, invalid }" label="Class" :error="errors['classId']"
        ><ChoiceField
          :id="id"
          v-model:value="values.classId"
          label="Class"
          :invalid="invalid"
          :options="list.map((each) => ({ value: each.id, label: each.title }))"
      /></FieldItem>
      <FieldItem v-slot="{ id }" label="What happened"
        ><ChoiceField :id="id" v-model:value="values.kind" label="What happened" :options="kinds"
      /></FieldItem>
      <FieldItem v-slot="{ id, invalid }" label="On" :error="errors['on']"
        ><DateField :id="id" v-model:value="values.on" label="On" :to="today" :invalid="invalid"
      /></FieldItem>
      <FieldItem v-if="values.kind === 'trigger'" v-slot="{ id }" label="Trigger"
        ><ChoiceField :id="id" v-model:value="values.trigger" label="Trigger" :options="triggers"
      /></FieldItem>
      <FieldItem
        v-if="values.kind === 'hours-logged'"
        v-slot="{ id }"
        label="Hours"
        :error="errors['body.hours']"
        ><InputNumber :id="id" v-model:value="values.hours" :min="0.25" :step="0.25" addon-after="hours"
      /></FieldItem>
      <FieldItem
        v-if="values.kind === 'certificate-recorded'"
        v-slot="{ id, invalid }"
        label="Runs to"
        optional
        hint="Empty: as long as the rules give from its date."
        :error="errors['body.until']"
        ><DateField :id="id" v-model:value="values.until" label="Runs to" :invalid="invalid"
      /></FieldItem>
      <FieldItem
        v-if="asksWords"
        v-slot="{ id }"
        :label="asksWords.label"
        :optional="!asksWords.needed"
        :error="wordsError"
        ><Input :id="id" v-model:value="values.words" :maxlength="200"
      /></FieldItem>
      <ProblemAlert :problem="problem" class="refused" />
      <Button type="primary" block html-type="submit" :loading="busy">Record</Button>
      <p class="quiet after">
        Events are only added, never changed. A mistake is put right by a further event.
      </p>
    </Form>
  </Modal>
</template>

<style scoped>
.refused {
  margin-bottom: 1rem;
}
.after {
  margin-top: 0.75rem;
}
</style>
