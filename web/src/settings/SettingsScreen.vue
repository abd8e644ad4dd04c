<script setup lang="ts">
import { ROLES, routes, type Role } from '@rounds/contract';
import type { RuleSet } from '@rounds/core';
import { useQuery } from '@pinia/colada';
import { Button } from 'ant-design-vue';
import { reactive, ref, watch } from 'vue';
import StateBox from '../house/StateBox.vue';
import { call, explain } from '../house/api';
import { useSession } from '../house/session';
import { ROLE_WORDS, day } from '../house/words';

const session = useSession();
const administers = session.is('administrator');
const accounts = useQuery({ key: ['accounts'], query: () => call(routes.accounts, {}), enabled: administers });
const rules = useQuery({ key: ['rules'], query: () => call(routes.rules, {}) });
const said = ref<string | null>(null);
const passwords = reactive({ current: '', next: '' });
const blank = { name: '', login: '', password: '', role: 'trainer' as Role, team: '', payroll: '' };
const fresh = reactive({ ...blank });
const edited = ref<RuleSet | null>(null);
const from = ref(session.installation?.today ?? '');
watch(
  () => rules.data.value,
  (now) => {
    if (now) edited.value = JSON.parse(JSON.stringify(now.rules)) as RuleSet;
  },
  { immediate: true },
);

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
    await call(routes.addAccount, { body: { ...fresh, team: fresh.team || null, payroll: fresh.payroll || null } });
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
const saveRules = () =>
  act(async () => {
    await call(routes.setRules, { body: { effectiveFrom: from.value, rules: edited.value! } });
    await rules.refetch();
  }, 'The new rules are kept with their date; earlier ones stay on record.');
const NUMBERS: readonly { key: 'validMonths' | 'leadDays' | 'graceDays' | 'keepAnniversaryDays'; name: string }[] = [
  { key: 'validMonths', name: 'A certificate holds, months' },
  { key: 'leadDays', name: 'Counts as due, days before' },
  { key: 'graceDays', name: 'Grace after it, days' },
  { key: 'keepAnniversaryDays', name: 'Renewal keeps the anniversary, days before' },
];
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
        <label class="field">Current <input v-model="passwords.current" class="plain" type="password" autocomplete="current-password" required /></label
        ><label class="field"
          >New, at least 10 characters <input v-model="passwords.next" class="plain" type="password" autocomplete="new-password" minlength="10" required /></label
        ><Button html-type="submit" style="align-self: flex-end">Change</Button>
      </form>
    </section>
    <section class="sheet pad stack">
      <h2>
        Certification rules <span v-if="rules.data.value" class="quiet">in force since {{ day(rules.data.value.effectiveFrom) }}</span>
      </h2>
      <StateBox :loading="rules.isPending.value" :error="rules.error.value" what="the rules" @retry="rules.refetch()">
        <form v-if="edited" class="stack" @submit.prevent="saveRules">
          <div class="grid">
            <label v-for="each in NUMBERS" :key="each.key" class="field"
              >{{ each.name }} <input v-model.number="edited[each.key]" class="plain" type="number" min="0" :disabled="!administers" required /></label
            ><label class="field">Minimum age <input v-model.number="edited.minimumAge" class="plain" type="number" min="0" max="99" :disabled="!administers" /></label>
          </div>
          <ul class="grid">
            <li v-for="(effect, trigger) in edited.triggers" :key="trigger">
              <strong>{{ String(trigger).replace('-', ' ') }}</strong>:
              {{
                effect === 'suspend'
                  ? 'suspends at once'
                  : effect === 'none'
                    ? 'changes nothing'
                    : effect.dueInDays === 0
                      ? 'evaluation due at once'
                      : `evaluation due within ${effect.dueInDays} days`
              }}
            </li>
          </ul>
          <div v-if="administers" class="row">
            <label class="field">From <input v-model="from" class="plain" type="date" required /></label
            ><Button html-type="submit" style="align-self: flex-end">Keep as new rules</Button>
          </div>
          <p class="quiet">The employer's rules and local law decide these figures.</p>
        </form>
      </StateBox>
    </section>
    <section v-if="administers" class="sheet pad stack">
      <h2>Accounts</h2>
      <StateBox :loading="accounts.isPending.value" :error="accounts.error.value" what="the accounts" @retry="accounts.refetch()">
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
                  <Button v-if="each.id !== session.account?.id" @click="toggle(each.id, !each.active)">{{ each.active ? 'Close' : 'Reopen' }}</Button>
                </td>
              </tr>
            </tbody>
          </table>
        </div>
      </StateBox>
      <h3>Add an account</h3>
      <form class="grid" @submit.prevent="addAccount">
        <label class="field">Name <input v-model="fresh.name" class="plain" required maxlength="200" /></label>
        <label class="field">Sign-in name <input v-model="fresh.login" class="plain" required maxlength="60" autocomplete="off" /></label>
        <label class="field">First password <input v-model="fresh.password" class="plain" type="password" minlength="10" required autocomplete="new-password" /></label>
        <label class="field"
          >Role
          <select v-model="fresh.role" class="plain">
            <option v-for="each in ROLES" :key="each" :value="each">{{ ROLE_WORDS[each] }}</option>
          </select></label
        >
        <label v-if="fresh.role === 'supervisor'" class="field">Team <input v-model="fresh.team" class="plain" required maxlength="80" /></label>
        <label v-if="fresh.role === 'operator'" class="field">Payroll number of the person <input v-model="fresh.payroll" class="plain" required maxlength="40" /></label>
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
