import { accountRoutes as routes, type SessionAccount } from '@rounds/contract/accounts';
import type { Role, RouteAnswer } from '@rounds/contract/route';
import { defineStore } from 'pinia';
import { computed, ref } from 'vue';
import { ApiProblem, call, whenSessionEnds } from './api';
import { siteTime } from './siteTime';
import { EARLIER_OWNER, useOutbox } from './useOutbox';

export type Installation = RouteAnswer<typeof routes.installation>;

/**
 * What this installation is, kept so that the application opens without a network; nothing personal in it.
 */
const INSTALLATION = 'rounds-installation';
/** Who is signed in on this device, with their key. Gone when they sign out. */
const ACCOUNT = 'rounds-account';
/** Signed out here without a network: the server has yet to be told, and until then nobody is signed in. */
const LEFT = 'rounds-left';
/** Where the version before kept both. */
const EARLIER = 'rounds-last';

const isOffline = (error: unknown) => error instanceof ApiProblem && error.code === 'offline';

function kept<T>(key: string): T | null {
  const text = localStorage.getItem(key);
  return text === null ? null : (JSON.parse(text) as T);
}

/** Who is signed in, what installation this is, and whether the session ended under an open screen. */
export const useSession = defineStore('session', () => {
  const outbox = useOutbox();
  const account = ref<SessionAccount | null>(null);
  const installation = ref<Installation | null>(null);
  /**
   * True when the server said the session is over while somebody was at work: the sign-in sheet covers the
   * screen, nothing is lost.
   */
  const ended = ref(false);
  whenSessionEnds(() => {
    if (account.value) ended.value = true;
  });

  async function load(): Promise<void> {
    const earlier = kept<{ account?: { id?: string } }>(EARLIER)?.account?.id;
    if (earlier) localStorage.setItem(EARLIER_OWNER, earlier);
    localStorage.removeItem(EARLIER);
    try {
      if (localStorage.getItem(LEFT)) await tellLeft();
      installation.value = await call(routes.installation, {});
      siteTime.setZone(installation.value.timeZone);
      localStorage.setItem(
        INSTALLATION,
        JSON.stringify({ ...installation.value, demoAccounts: [], demoPassword: null }),
      );
      await take(await whoIsIt());
    } catch (error) {
      installation.value = kept<Installation>(INSTALLATION);
      if (!isOffline(error) || !installation.value) throw error;
      siteTime.setZone(installation.value.timeZone);
      // Without a network whoever was signed in works on; after a sign-out nobody does.
      await take(localStorage.getItem(LEFT) ? null : kept<SessionAccount>(ACCOUNT));
    }
  }

  async function whoIsIt(): Promise<SessionAccount | null> {
    try {
      return await call(routes.session, {});
    } catch (error) {
      if (error instanceof ApiProblem && error.code === 'not-signed-in') return null;
      throw error;
    }
  }

  async function tellLeft(): Promise<void> {
    await call(routes.signOut, {});
    localStorage.removeItem(LEFT);
  }

  /** Makes somebody, or nobody, the one at this device. */
  async function take(who: SessionAccount | null): Promise<void> {
    if (who) {
      localStorage.setItem(ACCOUNT, JSON.stringify(who));
      await outbox.signIn(who);
    } else {
      localStorage.removeItem(ACCOUNT);
      await outbox.signOut();
    }
    account.value = who;
  }

  async function signIn(login: string, password: string): Promise<void> {
    const before = account.value;
    const now = await call(routes.signIn, { body: { login, password } });
    localStorage.removeItem(LEFT);
    if (before && before.id !== now.id) {
      // Somebody else at the same device starts from a clean page, and without what was kept for the one
      // before.
      await outbox.signOut();
      localStorage.setItem(ACCOUNT, JSON.stringify(now));
      location.assign('/');
      return;
    }
    await take(now);
    ended.value = false;
  }

  /**
   * Ends the session here at once, with or without a network. What is personal goes; unsent taps stay
   * sealed for their owner.
   */
  async function signOut(): Promise<void> {
    localStorage.setItem(LEFT, 'yes');
    localStorage.removeItem(ACCOUNT);
    await outbox.signOut();
    try {
      await tellLeft();
    } catch (error) {
      if (!isOffline(error)) localStorage.removeItem(LEFT);
    }
    // A whole new page: nothing that was fetched for this person stays in memory.
    location.assign('/');
  }

  const role = computed<Role | null>(() => account.value?.role ?? null);
  const is = (...roles: Role[]) => role.value !== null && roles.includes(role.value);

  return { account, installation, ended, role, is, load, signIn, signOut };
});
