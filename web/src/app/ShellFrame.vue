<script setup lang="ts">
import { DownOutlined, EllipsisOutlined, SearchOutlined } from '@ant-design/icons-vue';
import { onKeyStroke } from '@vueuse/core';
import { Alert, Button, Drawer, MenuDivider, MenuItem, MenuItemGroup, Modal } from 'ant-design-vue';
import { computed, defineAsyncComponent, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../device/session';
import { useChanges } from '../device/useChanges';
import { useNewVersion } from '../device/useNewVersion';
import { useOutbox } from '../device/useOutbox';
import { askFirst } from '../parts/askFirst';
import MenuButton from '../parts/MenuButton.vue';
import { THEMES, useTheme } from '../parts/theme';
import { ROLE_WORDS } from '../parts/words';
import { type Area, areasOf, phoneBar } from './areas';

/** The frame round every screen: areas on a rail, who is signed in, what is saved where, finding, shortcuts. */
defineProps<{ bare: boolean }>();
const CommandPalette = defineAsyncComponent(() => import('./CommandPalette.vue'));
const session = useSession();
const theme = useTheme();
const outbox = useOutbox();
const route = useRoute();
const router = useRouter();
useChanges(() => session.account !== null && !session.ended);
const help = ref(false);
const finding = ref(false);
const more = ref(false);

const shown = computed(() => areasOf(session.role));
const phone = computed(() => phoneBar(shown.value));
const isHere = (area: Area) => area.screens.includes(String(route.name));
watch(
  () => route.fullPath,
  () => (more.value = false),
);

const saved = computed(() => {
  if (outbox.aside > 0) return `${outbox.aside} not taken by the server, see Assess`;
  if (outbox.waiting === 0) return outbox.lastSent ? 'All on the server' : 'Nothing waiting';
  return `${outbox.waiting} saved here, ${outbox.offline ? 'no connection' : 'sending'}`;
});

const { ready: newVersion, takeUp } = useNewVersion();

/** Unsent taps stay on the device when their owner signs out; that is said before. */
function signOut() {
  const left = outbox.waiting + outbox.aside;
  if (left === 0) {
    void session.signOut();
    return;
  }
  askFirst(
    {
      title: `${left === 1 ? 'One tap is' : `${left} taps are`} not on the server yet`,
      content:
        'They stay on this device, sealed. Nobody else can read or send them; they go when you sign in here again.',
      act: 'Sign out',
      stay: 'Stay',
    },
    () => session.signOut(),
  );
}

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || target.isContentEditable);
/** A sheet over the screen takes the keys, until it leaves. */
const busy = () =>
  [...document.querySelectorAll<HTMLElement>('.ant-modal-wrap, .ant-drawer-open')].some(
    (each) => each.style.display !== 'none' && !each.querySelector('[class*="-leave"]'),
  );
onKeyStroke('Escape', () => (help.value = false));

/** How long a letter after g still goes with it; nobody need hurry. */
const CHORD_MS = 5000;
let goingUntil = 0;
/** Keys of the desk: g and a letter, n, / and ?; Ctrl K from anywhere. */
function onKey(event: KeyboardEvent) {
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
    event.preventDefault();
    finding.value = !finding.value;
    return;
  }
  if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target) || busy()) return;
  const going = event.timeStamp < goingUntil;
  goingUntil = 0;
  const area = going ? shown.value.find((each) => each.key === event.key) : undefined;
  if (area) void router.push(area.to);
  else if (event.key === 'g') goingUntil = event.timeStamp + CHORD_MS;
  else if (event.key === '?') help.value = true;
  else if (event.key === '/') toSearch(event);
  else if (event.key === 'n' && session.is('trainer', 'administrator')) void router.push('/assess/new');
}
function toSearch(event: KeyboardEvent) {
  const search = document.querySelector<HTMLInputElement>('input[type="search"]');
  if (!search) return;
  event.preventDefault();
  search.focus();
}
onKeyStroke(true, onKey, { eventName: 'keydown' });

const shortcuts = computed(() => [
  ...shown.value.map((each) => ({ keys: ['g', each.key], does: `Go to ${each.name}` })),
  ...(session.is('trainer', 'administrator') ? [{ keys: ['n'], does: 'New evaluation' }] : []),
  { keys: ['Ctrl', 'K'], does: 'Find anything' },
  { keys: ['/'], does: 'Search on this screen' },
  { keys: ['?'], does: 'Show this' },
]);
</script>

<template>
  <div class="frame" :class="{ bare }">
    <a class="visually-hidden skip" href="#work">Skip to the work</a>
    <nav v-if="!bare" class="rail" aria-label="Areas">
      <RouterLink to="/" class="home" aria-label="Rounds, home"
        ><svg viewBox="0 0 32 32" width="34" height="34" aria-hidden="true">
          <path
            d="M16 4a12 12 0 1 1-10.4 6"
            fill="none"
            stroke="currentColor"
            stroke-width="3.6"
            stroke-linecap="round"
          />
          <circle cx="8.5" cy="6.6" r="2.8" fill="#f0a11f" /></svg
      ></RouterLink>
      <RouterLink
        v-for="(area, i) in shown"
        :key="area.name"
        :to="area.to"
        class="area"
        :class="{
          here: isHere(area),
          first: i > 0 && shown[i - 1]!.group !== area.group,
          'off-phone': phone.more.includes(area),
        }"
        :aria-current="isHere(area) ? 'page' : undefined"
      >
        <svg viewBox="0 0 24 24" width="26" height="26" aria-hidden="true">
          <path
            :d="area.sign"
            fill="none"
            stroke="currentColor"
            stroke-width="1.8"
            stroke-linecap="round"
            stroke-linejoin="round"
          />
        </svg>
        {{ area.name }}
      </RouterLink>
      <button
        v-if="phone.more.length"
        class="area more"
        :class="{ here: phone.more.some(isHere) }"
        aria-haspopup="dialog"
        @click="more = true"
      >
        <EllipsisOutlined aria-hidden="true" />More
      </button>
    </nav>
    <div class="body">
      <header v-if="!bare" class="strip">
        <span class="organisation"
          >{{ session.installation?.organisation
          }}<span v-if="session.installation?.demo" class="quiet"> demo, invented data</span></span
        >
        <Button class="find" @click="finding = true">
          <SearchOutlined aria-hidden="true" /><span class="words">Find</span><kbd class="words">Ctrl K</kbd>
        </Button>
        <span class="grow"></span>
        <span class="saved" role="status" :class="{ 'needs-you': outbox.aside > 0 }">{{ saved }}</span>
        <MenuButton class="me" :chosen="[theme.name]">
          <span class="who"
            ><strong>{{ session.account?.name }}</strong
            ><span class="quiet">{{ ROLE_WORDS[session.role ?? ''] }}</span></span
          ><span class="visually-hidden">, your menu</span><DownOutlined aria-hidden="true" />
          <template #items>
            <MenuItemGroup title="Light">
              <MenuItem v-for="each in THEMES" :key="each.id" @click="theme.choose(each.id)"
                ><strong>{{ each.name }}</strong> <span class="quiet">{{ each.says }}</span></MenuItem
              >
            </MenuItemGroup>
            <MenuDivider />
            <MenuItem key="shortcuts" @click="help = true">Shortcuts <kbd>?</kbd></MenuItem>
            <MenuItem key="sign-out" @click="signOut"><strong>Sign out</strong></MenuItem>
          </template>
        </MenuButton>
      </header>
      <Alert
        v-if="newVersion && !bare"
        banner
        type="info"
        :show-icon="false"
        role="status"
        message="A newer version of Rounds is ready. Nothing you entered is lost when you take it up."
      >
        <template #action><Button @click="takeUp">Take it up now</Button></template>
      </Alert>
      <main id="work" tabindex="-1"><slot /></main>
    </div>
    <Drawer v-model:open="more" title="More" placement="bottom" height="auto">
      <nav aria-label="More areas" class="drawer">
        <RouterLink v-for="area in phone.more" :key="area.name" :to="area.to">{{ area.name }}</RouterLink>
      </nav>
    </Drawer>
    <Modal v-model:open="help" title="Shortcuts" :footer="null" :width="420">
      <dl class="keys">
        <template v-for="each in shortcuts" :key="each.does"
          ><dt>
            <kbd v-for="key in each.keys" :key="key">{{ key }}</kbd>
          </dt>
          <dd>{{ each.does }}</dd></template
        >
      </dl>
    </Modal>
    <CommandPalette v-if="finding" v-model:open="finding" :areas="shown" />
  </div>
</template>

<style scoped>
.frame {
  display: grid;
  grid-template-columns: 92px minmax(0, 1fr);
  min-height: 100vh;
}
.frame.bare {
  grid-template-columns: minmax(0, 1fr);
}
.rail {
  background: var(--rail);
  color: var(--on-rail);
  display: flex;
  flex-direction: column;
  position: sticky;
  top: 0;
  height: 100vh;
  padding: 0.6rem 0 0.4rem;
}
.home {
  color: inherit;
  align-self: center;
  margin-bottom: 0.4rem;
}
.area {
  font: inherit;
  font-size: 0.88rem;
  line-height: 1.15;
  color: inherit;
  background: none;
  border: 0;
  text-decoration: none;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 0.1rem;
  /* Eleven places and their groups fit a window of 800 px. */
  flex: 0 1 64px;
  min-height: 52px;
  border-left: 5px solid transparent;
  border-right: 5px solid transparent;
  cursor: pointer;
}
.area.first {
  margin-top: 0.55rem;
  position: relative;
}
.area.first::before {
  content: '';
  position: absolute;
  top: -0.3rem;
  width: 30px;
  border-top: 2px solid currentColor;
  opacity: 0.45;
}
.area:hover {
  background: var(--rail-over);
}
.area.here {
  background: var(--ground);
  color: var(--ink);
  font-weight: 700;
  border-left-color: #f0a11f;
}
.more {
  display: none;
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
  padding: 0.4rem 1.5rem;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  min-height: 60px;
}
.organisation {
  font-weight: 700;
}
.organisation .quiet {
  font-weight: 400;
}
.find kbd {
  margin-left: 0.7rem;
  font-weight: 400;
}
:deep(.me) {
  height: auto;
  min-height: 44px;
  padding-block: 0.15rem;
}
.who {
  display: inline-flex;
  flex-direction: column;
  line-height: 1.15;
  text-align: left;
  font-size: 0.9rem;
  margin-right: 0.5rem;
}
.who .quiet {
  font-weight: 400;
}
.saved {
  font-size: 0.9rem;
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
.keys {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.45rem 1.2rem;
}
kbd {
  font: inherit;
  font-weight: 700;
  border: 1px solid var(--quiet);
  border-radius: 2px;
  padding: 0 0.4rem;
  margin-right: 0.25rem;
}
.drawer {
  display: grid;
  gap: 0.25rem;
}
.drawer a {
  display: flex;
  align-items: center;
  min-height: 56px;
  font-size: 1.1rem;
  font-weight: 700;
  border-bottom: 1px solid var(--line);
}
@media (max-width: 760px) {
  .frame {
    grid-template-columns: minmax(0, 1fr);
  }
  .rail {
    position: fixed;
    inset: auto 0 0 0;
    height: auto;
    flex-direction: row;
    justify-content: space-around;
    z-index: 900;
    padding: 0;
  }
  .home,
  .area.off-phone,
  .organisation .quiet {
    display: none;
  }
  .find .words {
    position: absolute;
    clip-path: inset(50%);
  }
  .area,
  .more {
    display: flex;
    border: 0;
    border-top: 4px solid transparent;
    flex: 1;
    font-size: 0.82rem;
    min-height: 60px;
    margin: 0 !important;
  }
  .area.first::before {
    display: none;
  }
  .area.off-phone {
    display: none;
  }
  .area.here {
    border-top-color: #f0a11f;
  }
  .strip {
    padding: 0.35rem 0.7rem;
    gap: 0.5rem;
  }
  .organisation,
  .who .quiet {
    display: none;
  }
}
</style>
