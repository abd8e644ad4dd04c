<script setup lang="ts">
import { ROLES, routes, type Role } from '@rounds/contract';
import { useQuery } from '@pinia/colada';
import { Button } from 'ant-design-vue';
import { reactive, ref } from 'vue';
import StateBox from '../parts/StateBox.vue';
import { call, explain } from '../device/api';
import { useSession } from '../device/session';
import { ROLE_WORDS } from '../parts/words';
import RulesSection from './RulesSection.vue';

const session = useSession();
const administers = session.is('administrator');
const accounts = useQuery({
  key: ['accounts'],
  query: () => call(routes.accounts, {}),
  enabled: administers,
});
const said = ref<string | null>(null);
const passwords = reactive({ current: '', next: '' });
const blank = { name: '', login: '', password: '', role: 'trainer' as Role, team: '', payroll: '' };
const fresh = reactive({ ...blank });
async function act(what: () => Promise<unknown>, done: string) {
  said.value = null;
  try {
    await what();
    said.value = done;
  } catch (error) {
    said.value = explain(error).detail;
  }
}
const changePassword = () =>
  act(async () => {
    await call(routes.changePassword, { body: passwords });
    Object.assign(passwords, { current: '', next: '' });
  }, 'Your password is changed; other devices are signed out.');
const addAccount = () =>
  act(async () => {
    await call(routes.addAccount, {
      body: { ...fresh, team: fresh.team || null, payroll: fresh.payroll || null },
    });
    Object.assign(fresh, blank);
    await accounts.refetch();
  }, 'The account is ready.');
const toggle = (id: string, active: boolean) =>
  act(
    async () => {
      await call(routes.changeAccount, { params: { id }, body: { active } });
      await accounts.refetch();
    },
    active ? 'The account is open again.' : 'The account is closed and signed out everywhere.',
  );
</script>

<template>
  <div class="screen stack">
    <h1>Settings</h1>
    <p v-if="said" class="sheet pad" role="status">
      <strong>{{ said }}</strong>
    </p>
    <section class="sheet pad stack">
      <h2>Your password</h2>
      <form class="row" @submit.prevent="changePassword">
        <label class="field"
          >Current
          <input
            v-model="passwords.current"
            class="plain"
            type="password"
            autocomplete="current-password"
            required /></label
        ><label class="field"
          >New, at least 10 characters
          <input
            v-model="passwords.next"
            class="plain"
            type="password"
            autocomplete="new-password"
            minlength="10"
            required /></label
        ><Button html-type="submit" style="align-self: flex-end">Change</Button>
      </form>
    </section>
    <RulesSection :administers="administers" />
    <section v-if="administers" class="sheet pad stack">
      <h2>Accounts</h2>
      <StateBox
        :loading="accounts.isPending.value"
        :error="accounts.error.value"
        what="the accounts"
        @retry="accounts.refetch()"
      >
        <div class="scrolls" tabindex="0" role="region" aria-label="List of accounts">
          <table class="rows">
            <thead>
              <tr>
                <th>Name</th>
                <th>Sign-in</th>
                <th>Role</th>
                <th>Team</th>
                <th>State</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="each in accounts.data.value?.accounts" :key="each.id">
                <td>{{ each.name }}</td>
                <td>{{ each.login }}</td>
                <td>{{ ROLE_WORDS[each.role] }}</td>
                <td>{{ each.team ?? '' }}</td>
                <td class="row">
                  {{ each.active ? 'open' : 'closed' }}
                  <Button v-if="each.id !== session.account?.id" @click="toggle(each.id, !each.active)">{{
                    each.active ? 'Close' : 'Reopen'
                  }}</Button>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </StateBox>
      <h3>Add an account</h3>
      <form class="grid" @submit.prevent="addAccount">
        <label class="field"
          >Name <input v-model="fresh.name" class="plain" required maxlength="200"
        /></label>
        <label class="field"
          >Sign-in name <input v-model="fresh.login" class="plain" required maxlength="60" autocomplete="off"
        /></label>
        <label class="field"
          >First password
          <input
            v-model="fresh.password"
            class="plain"
            type="password"
            minlength="10"
            required
            autocomplete="new-password"
        /></label>
        <label class="field"
          >Role
          <select v-model="fresh.role" class="plain">
            <option v-for="each in ROLES" :key="each" :value="each">{{ ROLE_WORDS[each] }}</option>
          </select></label
        >
        <label v-if="fresh.role === 'supervisor'" class="field"
          >Team <input v-model="fresh.team" class="plain" required maxlength="80"
        /></label>
        <label v-if="fresh.role === 'operator'" class="field"
          >Payroll number of the person <input v-model="fresh.payroll" class="plain" required maxlength="40"
        /></label>
        <Button type="primary" html-type="submit" style="align-self: end">Add</Button>
      </form>
    </section>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 0.75rem;
}
</style>
