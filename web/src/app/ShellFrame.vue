<script setup lang="ts">
import type { Role } from '@rounds/contract';
import { computed, onBeforeUnmount, onMounted, ref } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { Modal } from 'ant-design-vue';
import { useOutbox } from '../device/useOutbox';
import { useNewVersion } from '../device/useNewVersion';
import type { ThemeName } from './tokens';
import { useSession } from '../device/session';
import { ROLE_WORDS } from '../parts/words';

/** The frame round every screen: areas on a rail, who is signed in, what is saved where, shortcuts. */
defineProps<{ bare: boolean }>();
const session = useSession();
const outbox = useOutbox();
const route = useRoute();
const router = useRouter();
const help = ref(false);

interface Area {
  name: string;
  to: string;
  key: string;
  match: readonly string[];
  roles?: readonly Role[];
  /** Strokes of its sign, drawn on a 24 grid. */
  sign: string;
}
const areas: readonly Area[] = [
  {
    name: 'Today',
    to: '/',
    key: 't',
    match: ['today'],
    sign: 'M12 3v4M12 17v4M3 12h4M17 12h4M12 8.5a3.5 3.5 0 1 0 0 7a3.5 3.5 0 0 0 0-7',
  },
  {
    name: 'Assess',
    to: '/assess',
    key: 'a',
    match: ['assess', 'prepare', 'evaluation'],
    roles: ['trainer', 'supervisor', 'administrator', 'operator'],
    sign: 'M12 4a8 8 0 1 1-6.9 4M8.5 12l2.5 2.5 4.5-5',
  },
  {
    name: 'People',
    to: '/people',
    key: 'p',
    match: ['people', 'person', 'import'],
    roles: ['trainer', 'supervisor', 'administrator'],
    sign: 'M9 4.5a3.2 3.2 0 1 0 0 6.4a3.2 3.2 0 0 0 0-6.4M3 20c.4-4 2.600-6 6-6s5.600 2 6 6M15.500 5.500a3 3 0 0 1 0 5.500M17 14.500c2.400.700 3.700 2.600 4 5.500',
  },
  {
    name: 'Matrix',
    to: '/people/matrix',
    key: 'm',
    match: ['matrix'],
    roles: ['trainer', 'supervisor', 'administrator'],
    sign: 'M6 4.500a2 2 0 1 0 0 4a2 2 0 0 0 0-4M6 15.500a2 2 0 1 0 0 4a2 2 0 0 0 0-4M18 4.500a2 2 0 1 0 0 4a2 2 0 0 0 0-4M18 15.500a2 2 0 1 0 0 4a2 2 0 0 0 0-4M12 10a2 2 0 1 0 0 4a2 2 0 0 0 0-4',
  },
  {
    name: 'Classes',
    to: '/classes',
    key: 'c',
    match: ['classes', 'class'],
    sign: 'M8 10V4M16 10V4M5.500 10h13v7h-13zM8 17v3M16 17v3',
  },
  {
    name: 'Settings',
    to: '/settings',
    key: 's',
    match: ['settings'],
    sign: 'M4 7h9M17 7h3M4 17h3M11 17h9M15 5v4M9 15v4',
  },
];
const shown = computed(() =>
  areas.filter((each) => !each.roles || (session.role && each.roles.includes(session.role))),
);

const saved = computed(() => {
  if (outbox.waiting === 0) return outbox.lastSent ? 'All on the server' : 'Nothing waiting';
  return outbox.offline
    ? `${outbox.waiting} saved here, no connection`
    : `${outbox.waiting} saved here, sending`;
});

const { ready: newVersion, takeUp } = useNewVersion();

/** Unsent taps stay on the device when their owner signs out; that is said before. */
function signOut() {
  if (outbox.waiting + outbox.aside === 0) {
    void session.signOut();
    return;
  }
  const left = outbox.waiting + outbox.aside;
  Modal.confirm({
    title: `${left === 1 ? 'One tap is' : `${left} taps are`} not on the server yet`,
    content:
      'They stay on this device, sealed. Nobody else can read or send them; they go when you sign in here again.',
    okText: 'Sign out',
    cancelText: 'Stay',
    onOk: () => session.signOut(),
  });
}

let pendingGo = 0;
function onKey(event: KeyboardEvent) {
  const target = event.target as HTMLElement;
  if (
    event.ctrlKey ||
    event.metaKey ||
    event.altKey ||
    /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
    target.isContentEditable
  )
    return;
  if (event.key === '?') help.value = !help.value;
  else if (event.key === 'Escape') help.value = false;
  else if (event.key === 'g') pendingGo = Date.now();
  else if (event.key === '/') {
    const search = document.querySelector<HTMLInputElement>('input[type="search"]');
    if (search) {
      event.preventDefault();
      search.focus();
    }
  } else if (Date.now() - pendingGo < 1200) {
    const area = shown.value.find((each) => each.key === event.key);
    pendingGo = 0;
    if (area) void router.push(area.to);
  } else if (event.key === 'n' && session.is('trainer', 'administrator') && route.name !== 'evaluation')
    void router.push('/assess/new');
}
onMounted(() => {
  addEventListener('keydown', onKey);
});
onBeforeUnmount(() => removeEventListener('keydown', onKey));

const themes: readonly { id: ThemeName; name: string }[] = [
  { id: 'paper', name: 'Paper' },
  { id: 'night', name: 'Night' },
  { id: 'sun', name: 'Sun' },
];
</script>

<template>
  <div class="frame" :class="{ bare }">
    <a class="visually-hidden skip" href="#work">Skip to the work</a>
    <nav v-if="!bare" class="rail" aria-label="Areas">
      <RouterLink to="/" class="home" aria-label="Rounds, home"
        ><svg viewBox="0 0 32 32" width="38" height="38" aria-hidden="true">
          <path
            d="M16 4a12 12 0 1 1-10.400 6"
            fill="none"
            stroke="currentColor"
            stroke-width="3.600"
            stroke-linecap="round"
          />
          <circle cx="8.500" cy="6.600" r="2.800" fill="#f0a11f" /></svg
      ></RouterLink>
      <RouterLink
        v-for="area in shown"
        :key="area.name"
        :to="area.to"
        class="area"
        :class="{ here: area.match.includes(String(route.name)) }"
        :aria-current="area.match.includes(String(route.name)) ? 'page' : undefined"
      >
        <svg viewBox="0 0 24 24" width="28" height="28" aria-hidden="true">
          <path
            :d="area.sign"
            fill="none"
            stroke="currentColor"
            stroke-width="1.800"
            stroke-linecap="round"
            stroke-linejoin="round"
          />
        </svg>
        {{ area.name }}
      </RouterLink>
    </nav>
    <div class="body">
      <header v-if="!bare" class="strip">
        <span class="organisation">{{ session.installation?.organisation }}</span>
        <span v-if="session.installation?.demo" class="quiet">demo, invented data</span>
        <span class="grow"></span>
        <span class="saved" role="status" :class="{ 'needs-you': outbox.aside > 0 }">{{
          outbox.aside > 0 ? `${outbox.aside} not taken by the server, see Assess` : saved
        }}</span>
        <label class="theme"
          ><span class="visually-hidden">Light</span>
          <select
            class="plain"
            :value="session.theme"
            @change="session.setTheme(($event.target as HTMLSelectElement).value as ThemeName)"
          >
            <option v-for="each in themes" :key="each.id" :value="each.id">{{ each.name }}</option>
          </select>
        </label>
        <span class="who"
          ><strong>{{ session.account?.name }}</strong
          ><span class="quiet">{{ ROLE_WORDS[session.role ?? ''] }}</span></span
        >
        <button class="plain-button" @click="signOut">Sign out</button>
        <button class="plain-button" aria-label="Shortcuts" @click="help = true">?</button>
      </header>
      <div v-if="newVersion && !bare" class="version" role="status">
        <span>A newer version of Rounds is ready. Nothing you entered is lost when you take it up.</span>
        <button class="plain-button" @click="takeUp">Take it up now</button>
      </div>
      <main id="work" tabindex="-1"><slot /></main>
    </div>
    <div
      v-if="help"
      class="help"
      role="dialog"
      aria-modal="true"
      aria-label="Shortcuts"
      @click.self="help = false"
    >
      <div class="sheet stack">
        <h2>Shortcuts</h2>
        <dl>
          <template v-for="area in shown" :key="area.key"
            ><dt>
              <kbd>g</kbd> <kbd>{{ area.key }}</kbd>
            </dt>
            <dd>Go to {{ area.name }}</dd></template
          >
          <dt v-if="session.is('trainer', 'administrator')"><kbd>n</kbd></dt>
          <dd v-if="session.is('trainer', 'administrator')">New evaluation</dd>
          <dt><kbd>/</kbd></dt>
          <dd>Search on this screen</dd>
          <dt><kbd>?</kbd></dt>
          <dd>Show or hide this</dd>
        </dl>
        <button class="plain-button" autofocus @click="help = false">Close</button>
      </div>
    </div>
  </div>
</template>

<style scoped>
.version {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem 1rem;
  align-items: center;
  justify-content: space-between;
  padding: 0.4rem 1rem;
  background: var(--sheet);
  border-bottom: 2px solid var(--petrol);
}
.frame {
  display: grid;
  grid-template-columns: 92px 1fr;
  min-height: 100vh;
}
.frame.bare {
  grid-template-columns: 1fr;
}
.rail {
  background: #12403d;
  color: #e6efe9;
  display: flex;
  flex-direction: column;
  position: sticky;
  top: 0;
  height: 100vh;
  padding: 0.75rem 0 0.5rem;
  gap: 0.15rem;
}
.home {
  color: inherit;
  align-self: center;
  margin-bottom: 0.6rem;
}
.area {
  color: inherit;
  text-decoration: none;
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 0.15rem;
  padding: 0.55rem 0.25rem;
  font-size: 0.9rem;
  min-height: 64px;
  justify-content: center;
  border-left: 5px solid transparent;
  border-right: 5px solid transparent;
}
.area:hover {
  background: #1b524e;
}
.area.here {
  background: var(--ground);
  color: var(--ink);
  font-weight: 700;
  border-left-color: #f0a11f;
}
.body {
  min-width: 0;
  display: flex;
  flex-direction: column;
}
.strip {
  display: flex;
  align-items: center;
  gap: 0.9rem;
  padding: 0.5rem 1.5rem;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  min-height: 60px;
}
.organisation {
  font-weight: 700;
}
.who {
  display: flex;
  flex-direction: column;
  line-height: 1.15;
  text-align: right;
  font-size: 0.9rem;
}
.theme select {
  min-height: 40px;
  padding-block: 0.25rem;
}
.saved {
  font-size: 0.9rem;
}
.plain-button {
  font: inherit;
  color: var(--ink);
  background: none;
  border: 1px solid var(--quiet);
  border-radius: 3px;
  min-height: 44px;
  padding: 0 0.8rem;
  cursor: pointer;
}
.skip:focus {
  position: fixed;
  clip-path: none;
  width: auto;
  height: auto;
  left: 0.5rem;
  top: 0.5rem;
  background: var(--raised);
  padding: 0.75rem;
  z-index: 4000;
}
main {
  flex: 1;
  min-width: 0;
}
main:focus {
  outline: none !important;
  box-shadow: none;
}
.help {
  position: fixed;
  inset: 0;
  background: color-mix(in srgb, var(--ink) 55%, transparent);
  display: grid;
  place-items: center;
  z-index: 2500;
}
.help .sheet {
  padding: 1.5rem;
  min-width: 320px;
  background: var(--raised);
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.4rem 1rem;
}
kbd {
  font: inherit;
  font-weight: 700;
  border: 1px solid var(--quiet);
  border-radius: 3px;
  padding: 0.05rem 0.4rem;
}
@media (max-width: 760px) {
  .strip {
    justify-content: space-between;
  }
  .frame {
    grid-template-columns: 1fr;
  }
  .rail {
    position: fixed;
    inset: auto 0 0 0;
    height: auto;
    flex-direction: row;
    justify-content: space-around;
    z-index: 1000;
    padding: 0;
  }
  .home {
    display: none;
  }
  .area {
    border: 0;
    border-top: 4px solid transparent;
    flex: 1;
    font-size: 0.8rem;
    min-height: 60px;
  }
  .area.here {
    border-top-color: #f0a11f;
  }
  .strip {
    padding: 0.4rem 0.9rem;
    gap: 0.5rem;
    flex-wrap: wrap;
  }
  .organisation,
  .who,
  .strip > .grow,
  .strip > .quiet,
  .strip > .plain-button:last-child {
    display: none;
  }
}
</style>
