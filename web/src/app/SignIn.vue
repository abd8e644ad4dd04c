<script setup lang="ts">
import { accountRoutes } from '@rounds/contract/accounts';
import { Button, Form, Input, InputPassword } from 'ant-design-vue';
import { computed } from 'vue';
import { useSession } from '../device/session';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useContractForm } from '../parts/useContractForm';
import { ROLE_WORDS } from '../parts/words';
import { useCreateAdministrator } from './queries';

/**
 * Sign-in, the first administrator's set-up, and (with `again`) signing in over an open screen whose session
 * ended.
 */
const props = defineProps<{ again?: boolean }>();
const session = useSession();
const createAdministrator = useCreateAdministrator();
const first = computed(() => !props.again && session.installation?.needsAdministrator === true);

const entry = useContractForm(accountRoutes.signIn.body, () => ({
  login: props.again ? (session.account?.login ?? '') : '',
  password: '',
}));
const setUp = useContractForm(
  accountRoutes.createAdministrator.body,
  () => ({
    organisation: '',
    name: '',
    timeZone: Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC',
    login: '',
    password: '',
  }),
  { fields: { 'unknown-time-zone': 'timeZone' } },
);
const problem = computed(() => entry.problem.value ?? setUp.problem.value);

const signIn = () => entry.submit(({ login, password }) => session.signIn(login, password));
const create = () =>
  setUp.submit(async (body) => {
    await createAdministrator.mutateAsync({ body });
    await session.load();
  });

function choose(login: string) {
  Object.assign(entry.values, { login, password: session.installation?.demoPassword ?? '' });
}
</script>

<template>
  <component :is="again ? 'div' : 'main'" class="entry">
    <div class="mark" aria-hidden="true">
      <svg viewBox="0 0 400 400">
        <circle
          cx="200"
          cy="200"
          r="150"
          fill="none"
          stroke="currentColor"
          stroke-width="3"
          stroke-dasharray="10 9"
          opacity="0.55"
        />
        <path
          d="M200 50A150 150 0 1 1 70.1 125"
          fill="none"
          stroke="currentColor"
          stroke-width="13"
          stroke-linecap="round"
        />
        <g v-for="i in 10" :key="i" :transform="`rotate(${i * 36} 200 200)`">
          <circle
            cx="200"
            cy="50"
            r="15"
            :fill="i === 9 ? 'var(--amber)' : i > 7 && i !== 10 ? 'var(--petrol)' : 'var(--paper)'"
            stroke="var(--paper)"
            stroke-width="4"
          />
        </g>
        <rect
          x="158"
          y="128"
          width="84"
          height="132"
          rx="16"
          fill="none"
          stroke="currentColor"
          stroke-width="6"
        />
        <path d="M172 128V84M228 128V84M158 160h84" stroke="currentColor" stroke-width="6" fill="none" />
      </svg>
    </div>
    <div class="form stack">
      <p class="quiet">{{ session.installation?.organisation ?? 'New installation' }}</p>
      <h1>{{ again ? 'Your session has ended' : first ? 'Set up Rounds' : 'Rounds' }}</h1>
      <p v-if="again">Everything you tapped is kept on this device. Sign in to go on where you were.</p>
      <p v-else-if="first">
        Nobody is here yet. The first account is the administrator, who adds the trainers.
      </p>
      <p v-else class="quiet">Walk it, find it, grade it, sign it.</p>
      <Form v-if="first" layout="vertical" @submit.prevent="create">
        <FieldItem v-slot="{ id }" label="Organisation" :error="setUp.errors.value['organisation']"
          ><Input :id="id" v-model:value="setUp.values.organisation" :maxlength="200"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Your name" :error="setUp.errors.value['name']"
          ><Input :id="id" v-model:value="setUp.values.name" :maxlength="200" autocomplete="name"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Time zone of the site" :error="setUp.errors.value['timeZone']"
          ><Input :id="id" v-model:value="setUp.values.timeZone" :maxlength="60"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Sign-in name" :error="setUp.errors.value['login']"
          ><Input
            :id="id"
            v-model:value="setUp.values.login"
            autocomplete="username"
            autocapitalize="none"
            :maxlength="60"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Password" :error="setUp.errors.value['password']"
          ><InputPassword :id="id" v-model:value="setUp.values.password" autocomplete="new-password"
        /></FieldItem>
        <ProblemAlert :problem="problem" class="refused" />
        <Button type="primary" size="large" block html-type="submit" :loading="setUp.busy.value"
          >Create the administrator</Button
        >
      </Form>
      <Form v-else layout="vertical" @submit.prevent="signIn">
        <FieldItem v-slot="{ id }" label="Sign-in name" :error="entry.errors.value['login']"
          ><Input
            :id="id"
            v-model:value="entry.values.login"
            name="login"
            autocomplete="username"
            autocapitalize="none"
            :maxlength="60"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Password" :error="entry.errors.value['password']"
          ><InputPassword
            :id="id"
            v-model:value="entry.values.password"
            name="password"
            autocomplete="current-password"
        /></FieldItem>
        <ProblemAlert :problem="problem" class="refused" />
        <Button type="primary" size="large" block html-type="submit" :loading="entry.busy.value"
          >Sign in</Button
        >
      </Form>
      <section v-if="session.installation?.demo && !again" class="demo" aria-label="Demo accounts">
        <h2>This is the demo</h2>
        <p class="quiet">Choose who to be; the password is {{ session.installation.demoPassword }}.</p>
        <div class="who">
          <button
            v-for="each in session.installation.demoAccounts"
            :key="each.login"
            type="button"
            @click="choose(each.login)"
          >
            <strong>{{ each.name }}</strong><span class="quiet">{{ ROLE_WORDS[each.role] }}</span>
          </button>
        </div>
      </section>
    </div>
  </component>
</template>

<style scoped>
.entry {
  min-height: 100vh;
  display: grid;
  grid-template-columns: minmax(260px, 42%) 1fr;
}
.mark {
  --paper: #f3eee4;
  background: var(--rail);
  color: #f3eee4;
  display: grid;
  place-items: center;
}
.mark svg {
  width: min(78%, 380px);
}
.form {
  padding: clamp(1.25rem, 5vh, 4rem) clamp(1rem, 5vw, 4rem);
  max-width: 640px;
  align-self: center;
}
.form h1 {
  font-size: 2.1rem;
}
.refused {
  margin-bottom: 1rem;
}
.demo {
  margin-top: 0.5rem;
  border-top: 1px solid var(--line);
  padding-top: 0.9rem;
}
.who {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(170px, 1fr));
  gap: 0.4rem;
  margin-top: 0.5rem;
}
.who button {
  font: inherit;
  font-size: 0.9rem;
  text-align: left;
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 3px;
  color: var(--ink);
  padding: 0.35rem 0.6rem;
  min-height: 48px;
  cursor: pointer;
  display: flex;
  flex-direction: column;
  line-height: 1.2;
}
.who button:hover {
  border-color: var(--petrol);
}
@media (max-width: 760px) {
  .entry {
    grid-template-columns: 1fr;
  }
  .mark {
    padding: 1.2rem;
  }
  .mark svg {
    width: 120px;
  }
}
</style>
