import { routes, type Account, type Role, type RouteAnswer } from '@rounds/contract';
import { defineStore } from 'pinia';
import { computed, ref, watch } from 'vue';
import { applyPalette, type ThemeName } from '../tokens';
import { ApiProblem, call, whenSessionEnds } from './api';

export type Installation = RouteAnswer<typeof routes.installation>;

/** Who is signed in, what installation this is, and whether the session ended under an open screen. */
export const useSession = defineStore('session', () => {
  const account = ref<Account | null>(null);
  const installation = ref<Installation | null>(null);
  /** True when the server said the session is over while somebody was at work: the sign-in sheet covers the screen, nothing is lost. */
  const ended = ref(false);
  const theme = ref<ThemeName>((localStorage.getItem('rounds-theme') as ThemeName | null) ?? (matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'paper'));

  whenSessionEnds(() => {
    if (account.value) ended.value = true;
  });

  /** Who was here last, so that the application opens without a network. */
  const LAST = 'rounds-last';

  async function load(): Promise<void> {
    try {
      installation.value = await call(routes.installation, {});
      try {
        account.value = await call(routes.session, {});
      } catch (error) {
        if (!(error instanceof ApiProblem) || error.code !== 'not-signed-in') throw error;
        account.value = null;
      }
    } catch (error) {
      const last = localStorage.getItem(LAST);
      if (!(error instanceof ApiProblem) || error.code !== 'offline' || !last) throw error;
      const kept = JSON.parse(last) as { installation: Installation; account: Account };
      installation.value = kept.installation;
      account.value = kept.account;
    }
  }

  watch([installation, account], () => {
    if (installation.value && account.value)
      localStorage.setItem(LAST, JSON.stringify({ installation: { ...installation.value, demoAccounts: [] }, account: account.value }));
    else if (installation.value) localStorage.removeItem(LAST);
  });

  async function signIn(login: string, password: string): Promise<void> {
    const now = await call(routes.signIn, { body: { login, password } });
    // Somebody else at the same device starts from a clean page.
    if (account.value && account.value.id !== now.id) location.assign('/');
    account.value = now;
    ended.value = false;
  }

  async function signOut(): Promise<void> {
    await call(routes.signOut, {});
    localStorage.removeItem(LAST);
    // A whole new page: nothing that was fetched for this person stays in memory.
    location.assign('/');
  }

  function setTheme(name: ThemeName): void {
    theme.value = name;
    localStorage.setItem('rounds-theme', name);
    applyPalette(name);
  }

  const role = computed<Role | null>(() => account.value?.role ?? null);
  const is = (...roles: Role[]) => role.value !== null && roles.includes(role.value);

  return { account, installation, ended, theme, role, is, load, signIn, signOut, setTheme };
});
