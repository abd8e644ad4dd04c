<script setup lang="ts">
import { accountRoutes } from '@rounds/contract/accounts';
import { Alert, Button, Form, InputPassword } from 'ant-design-vue';
import { ref } from 'vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useContractForm } from '../parts/useContractForm';
import { useChangePassword } from './queries';

/** One's own password; other devices are signed out with it. */
const changePassword = useChangePassword();
const form = useContractForm(accountRoutes.changePassword.body, () => ({ current: '', next: '' }), {
  fields: { 'wrong-sign-in': 'current' },
});
const { values, errors, problem, busy } = form;
const done = ref(false);
async function change() {
  done.value = false;
  if (!(await form.submit((body) => changePassword.mutateAsync({ body })))) return;
  form.clear();
  done.value = true;
}
</script>

<template>
  <section class="sheet pad stack" aria-label="Your password">
    <h2>Your password</h2>
    <Form layout="vertical" @submit.prevent="change">
      <FieldItem v-slot="{ id }" label="Current" :error="errors['current']"
        ><InputPassword :id="id" v-model:value="values.current" autocomplete="current-password"
      /></FieldItem>
      <FieldItem v-slot="{ id }" label="New, at least 10 characters" :error="errors['next']"
        ><InputPassword :id="id" v-model:value="values.next" autocomplete="new-password"
      /></FieldItem>
      <Button html-type="submit" :loading="busy">Change</Button>
    </Form>
    <ProblemAlert :problem="problem" />
    <Alert
      v-if="done"
      type="success"
      role="status"
      message="Your password is changed; other devices are signed out."
    />
  </section>
</template>
