<script setup lang="ts">
import { ConfigProvider } from 'ant-design-vue';
import { computed, defineAsyncComponent, onMounted, ref } from 'vue';
import { useRoute } from 'vue-router';
import { useSession } from '../device/session';
import { MessagePage } from '../parts/messagePage';
import QuestionHost from '../parts/QuestionHost.vue';
import StateBox from '../parts/StateBox.vue';
import { useTheme } from '../parts/theme';

// Who is signed in needs no form, who is not needs no shell: each is fetched when it is due.
const toSignIn = () => import('./SignIn.vue');
const SignIn = defineAsyncComponent(toSignIn);
const ShellFrame = defineAsyncComponent(() => import('./ShellFrame.vue'));
const session = useSession();
const theme = useTheme();
const route = useRoute();
const error = ref<unknown>(null);
const ready = ref(false);

async function begin() {
  error.value = null;
  try {
    await session.load();
    ready.value = true;
    // Who signs out with no network, or whose session ends, finds the form on the device.
    toSignIn().catch(() => undefined);
  } catch (problem) {
    error.value = problem;
  }
}
onMounted(begin);
const denied = computed(() =>
  Boolean(route.meta.roles && session.role && !route.meta.roles.includes(session.role)),
);
</script>

<template>
  <ConfigProvider :theme="theme.ant" :auto-insert-space-in-button="false">
    <QuestionHost />
    <main v-if="!ready" class="screen">
      <StateBox :loading="!error" :error="error" what="this installation" @retry="begin" />
    </main>
    <RouterView v-else-if="route.meta.open" />
    <SignIn v-else-if="!session.account" />
    <template v-else>
      <ShellFrame :bare="route.meta.bare ?? false">
        <div v-if="denied" class="screen" role="alert">
          <h1 class="visually-hidden">Not open to your role</h1>
          <MessagePage
            class="sheet"
            title="Not open to your role"
            :sub-title="`${route.meta.title} is not part of the work of a ${session.role}. Ask the administrator if it should be.`"
          >
            <template #icon><span></span></template>
            <template #extra><RouterLink to="/">Back to Today</RouterLink></template>
          </MessagePage>
        </div>
        <RouterView v-else :key="route.path" />
      </ShellFrame>
      <div v-if="session.ended" class="over" role="dialog" aria-modal="true" aria-label="Sign in again">
        <SignIn again />
      </div>
    </template>
  </ConfigProvider>
</template>

<style scoped>
.over {
  position: fixed;
  inset: 0;
  z-index: 3000;
  background: var(--ground);
  overflow: auto;
}
</style>
