<script setup lang="ts">
import { type Account, accountRoutes } from '@rounds/contract/accounts';
import { type Role, ROLES } from '@rounds/contract/route';
import { Alert, Button, Form, Input, InputPassword, Modal, Switch } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { useSession } from '../device/session';
import { askFirst } from '../parts/askFirst';
import ChoiceField from '../parts/ChoiceField.vue';
import DataTable, { type Column } from '../parts/DataTable.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import { useContractForm } from '../parts/useContractForm';
import { ROLE_WORDS } from '../parts/words';
import { useAccounts, useAddAccount, useChangeAccount } from './queries';

/** Accounts of the installation: who may sign in, as what. */
const session = useSession();
const accounts = useAccounts();
const addAccount = useAddAccount();
const changeAccount = useChangeAccount();
const said = ref<string | null>(null);
const refused = ref<unknown>(null);

async function act(what: () => Promise<unknown>, done: string) {
  said.value = null;
  refused.value = null;
  try {
    await what();
    said.value = done;
  } catch (error) {
    refused.value = error;
  }
}
const setActive = (id: string, active: boolean) =>
  act(
    () => changeAccount.mutateAsync({ params: { id }, body: { active } }),
    active ? 'The account is open again.' : 'The account is closed and signed out everywhere.',
  );
function toggle(each: Account) {
  if (!each.active) {
    void setActive(each.id, true);
    return;
  }
  askFirst(
    {
      title: `Close the account of ${each.name}?`,
      content: 'They are signed out everywhere and cannot sign in. What they recorded stays.',
      act: 'Close it',
      stay: 'Leave it open',
      grave: true,
    },
    () => setActive(each.id, false),
  );
}

const form = useContractForm(
  accountRoutes.addAccount.body,
  () => ({ name: '', login: '', password: '', role: 'trainer' as Role, team: '', payroll: '' }),
  {
    fields: { 'login-taken': 'login', 'not-found': 'payroll' },
    read: (typed) => ({ ...typed, team: typed.team || null, payroll: typed.payroll || null }),
  },
);
const { values, errors, problem, busy } = form;
async function add() {
  said.value = null;
  if (!(await form.submit((body) => addAccount.mutateAsync({ body })))) return;
  form.clear();
  said.value = 'The account is ready.';
}

const reset = useContractForm(accountRoutes.changeAccount.body.required({ password: true }), () => ({
  password: '',
}));
const resetting = ref<Account | null>(null);
async function giveNew() {
  const { id, name } = resetting.value!;
  const taken = await reset.submit((body) => changeAccount.mutateAsync({ params: { id }, body }));
  if (!taken) return;
  reset.clear();
  resetting.value = null;
  said.value = `${name} has a new password; hand it over yourself.`;
}

const roles = ROLES.map((value) => ({ value, label: ROLE_WORDS[value] ?? value }));
const byText = (read: (row: Account) => string) => (a: Account, b: Account) => read(a).localeCompare(read(b));
const columns: Column<Account>[] = [
  { key: 'name', title: 'Name', text: (row) => row.name, sorts: byText((row) => row.name), fixed: true },
  { key: 'login', title: 'Sign-in', text: (row) => row.login, sorts: byText((row) => row.login) },
  {
    key: 'role',
    title: 'Role',
    text: (row) => ROLE_WORDS[row.role] ?? row.role,
    sorts: byText((row) => row.role),
    filters: ROLES.map((role) => ({
      value: role,
      text: ROLE_WORDS[role] ?? role,
      keeps: (row) => row.role === role,
    })),
  },
  { key: 'team', title: 'Team', text: (row) => row.team ?? '' },
  { key: 'state', title: 'Open', fixed: true },
];
const rows = computed(() => accounts.data.value?.accounts ?? []);
</script>

<template>
  <div class="stack">
    <Alert v-if="said" type="success" role="status" :message="said" />
    <ProblemAlert :problem="refused" />
    <StateBox
      :loading="!accounts.data.value"
      :error="accounts.data.value ? undefined : accounts.error.value"
      what="the accounts"
      @retry="accounts.refetch()"
    >
      <DataTable name="List of accounts" :rows="rows" :columns="columns" :row-key="(row) => row.id">
        <template #state="{ row }">
          <span class="row">
            <Switch
              :checked="row.active"
              :disabled="row.id === session.account?.id"
              :aria-label="`Account of ${row.name} is open`"
              @change="toggle(row)"
            />
            <Button v-if="row.id !== session.account?.id" type="link" @click="resetting = row"
              >New password</Button
            >
          </span>
        </template>
      </DataTable>
    </StateBox>
    <section class="sheet pad stack" aria-label="Add an account">
      <h2>Add an account</h2>
      <Form layout="vertical" class="grid" @submit.prevent="add">
        <FieldItem v-slot="{ id }" label="Name" :error="errors['name']"
          ><Input :id="id" v-model:value="values.name" :maxlength="200"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Sign-in name" :error="errors['login']"
          ><Input :id="id" v-model:value="values.login" :maxlength="60" autocomplete="off"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="First password" :error="errors['password']"
          ><InputPassword :id="id" v-model:value="values.password" autocomplete="new-password"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Role"
          ><ChoiceField :id="id" v-model:value="values.role" label="Role" :options="roles"
        /></FieldItem>
        <FieldItem v-if="values.role === 'supervisor'" v-slot="{ id }" label="Team" :error="errors['team']"
          ><Input :id="id" v-model:value="values.team" :maxlength="80"
        /></FieldItem>
        <FieldItem
          v-if="values.role === 'operator'"
          v-slot="{ id }"
          label="Payroll number of the person"
          :error="errors['payroll']"
          ><Input :id="id" v-model:value="values.payroll" :maxlength="40"
        /></FieldItem>
        <div class="last">
          <Button type="primary" html-type="submit" :loading="busy">Add</Button>
        </div>
      </Form>
      <ProblemAlert :problem="problem" />
    </section>
    <Modal
      :open="resetting !== null"
      :title="`New password for ${resetting?.name ?? ''}`"
      :footer="null"
      destroy-on-close
      @cancel="resetting = null"
    >
      <Form layout="vertical" @submit.prevent="giveNew">
        <FieldItem v-slot="{ id }" label="New password" :error="reset.errors.value['password']"
          ><InputPassword :id="id" v-model:value="reset.values.password" autocomplete="new-password"
        /></FieldItem>
        <ProblemAlert :problem="reset.problem.value" />
        <Button type="primary" html-type="submit" :loading="reset.busy.value">Give it</Button>
      </Form>
    </Modal>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 0 1rem;
}
.last {
  align-self: center;
}
</style>
