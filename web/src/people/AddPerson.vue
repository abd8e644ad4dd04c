<script setup lang="ts">
import { personInput } from '@rounds/contract/people';
import { Button, Form, Input, Modal } from 'ant-design-vue';
import DateField from '../parts/DateField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import SuggestField from '../parts/SuggestField.vue';
import { useContractForm } from '../parts/useContractForm';
import { useAddPerson } from './queries';

/** One person typed in. Sites and teams in use are offered; a new one may be typed. */
defineProps<{ sites: readonly string[]; teams: readonly string[] }>();
const open = defineModel<boolean>('open', { required: true });
const addPerson = useAddPerson();
const blank = () => ({
  payroll: '',
  givenName: '',
  familyName: '',
  site: '',
  team: '',
  email: '',
  born: '',
  started: '',
});
const form = useContractForm(personInput, blank, {
  fields: { 'payroll-taken': 'payroll' },
  // An empty field is no value, not an empty one.
  read: (typed) => ({
    ...typed,
    email: typed.email || null,
    born: typed.born || null,
    started: typed.started || null,
  }),
});
const { values, errors, problem, busy } = form;
async function save() {
  const taken = await form.submit((body) => addPerson.mutateAsync({ body }));
  if (!taken) return;
  form.clear();
  open.value = false;
}
</script>

<template>
  <Modal v-model:open="open" title="Add a person" :footer="null" destroy-on-close>
    <Form layout="vertical" @submit.prevent="save">
      <div class="pair">
        <FieldItem v-slot="{ id }" label="Given name" :error="errors['givenName']"
          ><Input :id="id" v-model:value="values.givenName" :maxlength="80"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Family name" :error="errors['familyName']"
          ><Input :id="id" v-model:value="values.familyName" :maxlength="80"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Payroll number" :error="errors['payroll']"
          ><Input :id="id" v-model:value="values.payroll" :maxlength="40"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="E-mail" optional :error="errors['email']"
          ><Input :id="id" v-model:value="values.email" type="email" :maxlength="200"
        /></FieldItem>
        <FieldItem v-slot="{ id, invalid }" label="Site" :error="errors['site']"
          ><SuggestField
            :id="id"
            v-model:value="values.site"
            label="Site"
            :options="sites"
            :invalid="invalid"
        /></FieldItem>
        <FieldItem v-slot="{ id, invalid }" label="Team" :error="errors['team']"
          ><SuggestField
            :id="id"
            v-model:value="values.team"
            label="Team"
            :options="teams"
            :invalid="invalid"
        /></FieldItem>
        <FieldItem v-slot="{ id, invalid }" label="Date of birth" optional :error="errors['born']"
          ><DateField :id="id" v-model:value="values.born" label="Date of birth" :invalid="invalid"
        /></FieldItem>
        <FieldItem v-slot="{ id, invalid }" label="Start date" optional :error="errors['started']"
          ><DateField :id="id" v-model:value="values.started" label="Start date" :invalid="invalid"
        /></FieldItem>
      </div>
      <ProblemAlert :problem="problem" class="refused" />
      <Button type="primary" block html-type="submit" :loading="busy">Add</Button>
    </Form>
  </Modal>
</template>

<style scoped>
.pair {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 1rem;
}
.refused {
  margin-bottom: 1rem;
}
@media (max-width: 640px) {
  .pair {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
