<script setup lang="ts">
import { routes } from '@rounds/contract';
import { Button, Input } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { call, explain } from '../device/api';
import { useSession } from '../device/session';
import { ROLE_WORDS } from '../parts/words';

/**
 * Sign-in, the first administrator's set-up, and (with `again`) signing in over an open screen whose
 * session ended.
 */
const props = defineProps<{ again?: boolean }>();
const session = useSession();
const login = ref(props.again ? (session.account?.login ?? '') : '');
const password = ref('');
const organisation = ref('');
const name = ref('');
const timeZone = ref(Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC');
const busy = ref(false);
const problem = ref<{ title: string; detail: string } | null>(null);
const first = computed(() => !props.again && session.installation?.needsAdministrator);

async function submit() {
  busy.value = true;
  problem.value = null;
  try {
    if (first.value) {
      await call(routes.createAdministrator, {
        body: {
          organisation: organisation.value,
          name: name.value,
          login: login.value,
          password: password.value,
          timeZone: timeZone.value,
        },
      });
      await session.load();
    } else await session.signIn(login.value, password.value);
    password.value = '';
  } catch (error) {
    problem.value = explain(error);
  } finally {
    busy.value = false;
  }
}

function choose(chosen: string) {
  login.value = chosen;
  password.value = session.installation?.demoPassword ?? '';
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
    <form class="form stack" @submit.prevent="submit">
      <p class="quiet">{{ session.installation?.organisation ?? 'New installation' }}</p>
      <h1>{{ again ? 'Your session has ended' : first ? 'Set up Rounds' : 'Rounds' }}</h1>
      <p v-if="again">Everything you tapped is kept on this device. Sign in to go on where you were.</p>
      <p v-else-if="first">
        Nobody is here yet. The first account is the administrator, who adds the trainers.
      </p>
      <p v-else class="quiet">Walk it, find it, grade it, sign it.</p>
      <template v-if="first">
        <label class="field"
          >Organisation <Input v-model:value="organisation" required :maxlength="200"
        /></label>
        <label class="field"
          >Your name <Input v-model:value="name" required :maxlength="200" autocomplete="name"
        /></label>
        <label class="field">Time zone of the site <Input v-model:value="timeZone" required /></label>
      </template>
      <label class="field"
        >Sign-in name
        <Input
          v-model:value="login"
          name="login"
          autocomplete="username"
          autocapitalize="none"
          required
          :maxlength="60"
      /></label>
      <label class="field"
        >Password
        <Input
          v-model:value="password"
          name="password"
          type="password"
          :autocomplete="first ? 'new-password' : 'current-password'"
          required
          :minlength="first ? 10 : undefined"
      /></label>
      <div v-if="problem" class="sheet problem" role="alert">
        <strong>{{ problem.title }}.</strong> {{ problem.detail }}
      </div>
      <Button type="primary" size="large" html-type="submit" :loading="busy">{{
        first ? 'Create the administrator' : 'Sign in'
      }}</Button>
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
    </form>
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
  background: #12504b;
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
.problem {
  padding: 0.75rem 1rem;
  border-left: 6px solid var(--crimson);
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
