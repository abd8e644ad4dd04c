<script setup lang="ts">
import { Segmented } from 'ant-design-vue';
import { computed } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { useSession } from '../device/session';
import TabRow from '../parts/TabRow.vue';
import { type ThemeName, THEMES, useTheme } from '../parts/theme';
import AccountsSection from './AccountsSection.vue';
import AuditSection from './AuditSection.vue';
import OwnPassword from './OwnPassword.vue';
import PolicySection from './PolicySection.vue';
import RulesInForce from './RulesInForce.vue';
import RulesSection from './RulesSection.vue';

/** Settings: what is one's own, the certification rules, the grading policy, and, for the administrator, accounts and audit. */
const session = useSession();
const theme = useTheme();
const route = useRoute();
const router = useRouter();
const administers = session.is('administrator');
const tabs = [
  { key: 'own', name: 'Yours' },
  { key: 'rules', name: 'Certification rules' },
  ...(session.is('trainer', 'supervisor', 'administrator')
    ? [{ key: 'grading', name: 'Grading policy' }]
    : []),
  ...(administers
    ? [
        { key: 'accounts', name: 'Accounts' },
        { key: 'audit', name: 'Audit' },
      ]
    : []),
];
const tab = computed({
  get: () => tabs.find((each) => each.key === route.query['part'])?.key ?? 'own',
  set: (part) => void router.replace({ query: { part } }),
});
const lights = THEMES.map((each) => ({ value: each.id, label: each.name }));
</script>

<template>
  <div class="screen stack">
    <h1>Settings</h1>
    <TabRow v-model:chosen="tab" label="Parts of the settings" :tabs="tabs" />
    <div v-if="tab === 'own'" class="two">
      <OwnPassword />
      <section class="sheet pad stack" aria-label="Light">
        <h2>Light</h2>
        <p class="quiet">Kept on this device, whoever is signed in.</p>
        <Segmented
          :value="theme.name"
          :options="lights"
          aria-label="Light"
          @change="theme.choose($event as ThemeName)"
        />
        <p v-for="each in THEMES" :key="each.id">
          <strong>{{ each.name }}</strong>: {{ each.says }}
        </p>
      </section>
    </div>
    <template v-else-if="tab === 'rules'">
      <RulesSection v-if="administers" />
      <RulesInForce v-else />
    </template>
    <PolicySection v-else-if="tab === 'grading'" />
    <AccountsSection v-else-if="tab === 'accounts'" />
    <AuditSection v-else />
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(300px, 520px));
  gap: 1rem;
  align-items: start;
}
</style>
