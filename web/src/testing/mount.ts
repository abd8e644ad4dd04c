import { PiniaColada } from '@pinia/colada';
import type { SessionAccount } from '@rounds/contract/accounts';
import type { Role } from '@rounds/contract/route';
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils';
import { ConfigProvider } from 'ant-design-vue';
import { createPinia, setActivePinia } from 'pinia';
import { vi } from 'vitest';
import { type Component, defineComponent, h } from 'vue';
import { createMemoryHistory, createRouter, type Router, RouterView } from 'vue-router';
import { useSession } from '../device/session';
import { useOutbox } from '../device/useOutbox';
import QuestionHost from '../parts/QuestionHost.vue';

const TODAY = '2026-03-02';

/** An account of a role, for tests. */
export function account(role: Role, personId: string | null = null): SessionAccount {
  return {
    id: '01900000-0000-7000-8000-0000000000aa',
    name: `Some ${role}`,
    login: role,
    role,
    team: role === 'supervisor' ? 'Blue' : null,
    personId,
    active: true,
    deviceKey: 'A'.repeat(43),
  };
}

interface Options {
  props?: Record<string, unknown>;
  role?: Role;
  personId?: string | null;
  /** The address the component is shown at, and the pattern of its route. */
  at?: string;
  path?: string;
}

/** A component as it stands in the application: with its session, router, cache and theme provider. */
export async function show(component: Component, options: Options = {}): Promise<Shown> {
  const pinia = createPinia();
  setActivePinia(pinia);
  const session = useSession();
  session.account = account(options.role ?? 'trainer', options.personId ?? null);
  session.installation = {
    organisation: 'Lower Yard',
    demo: false,
    needsAdministrator: false,
    today: TODAY,
    timeZone: 'Europe/Oslo',
    demoAccounts: [],
    demoPassword: null,
  };
  await useOutbox().signIn(session.account);
  const Page = defineComponent(() => () => h(component, options.props ?? {}));
  const Elsewhere = defineComponent(() => () => h('p', 'another screen'));
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [
      { path: options.path ?? '/', name: 'shown', component: Page, meta: { title: 'Shown' } },
      { path: '/:rest(.*)*', name: 'elsewhere', component: Elsewhere, meta: { title: 'Elsewhere' } },
    ],
  });
  await router.push(options.at ?? '/');
  const Root = defineComponent(
    () => () =>
      h(ConfigProvider, { theme: { token: { motion: false } as object } }, () => [
        h(QuestionHost),
        h(RouterView),
      ]),
  );
  const wrapper = mount(Root, {
    global: { plugins: [pinia, [PiniaColada, { queryOptions: { gcTime: 60_000 } }], router] },
    attachTo: document.body,
  });
  await settled();
  return { wrapper, router, session };
}
export interface Shown {
  wrapper: VueWrapper;
  router: Router;
  session: ReturnType<typeof useSession>;
}

/** Waits until what was asked is answered and shown, as far as nothing waits for a clock. */
export async function settled(): Promise<void> {
  for (let i = 0; i < 8; i++) await flushPromises();
}

const nameOf = (element: Element): string => {
  const labelled = element.getAttribute('aria-label');
  if (labelled) return labelled;
  if (element.id) {
    const label = document.querySelector(`label[for="${CSS.escape(element.id)}"]`);
    if (label) return (label.textContent ?? '').trim();
  }
  const spoken = element.cloneNode(true) as Element;
  for (const silent of spoken.querySelectorAll('[aria-hidden="true"]')) silent.remove();
  return (spoken.textContent ?? '').replace(/\s+/g, ' ').trim();
};
const ROLES: Readonly<Record<string, string>> = {
  button: 'button, [role="button"], a.ant-btn',
  link: 'a[href]',
  textbox: 'input:not([type="checkbox"]):not([type="radio"]):not([role]), textarea, [role="textbox"]',
  combobox: '[role="combobox"]',
  checkbox: 'input[type="checkbox"], [role="checkbox"]',
  spinbutton: 'input[role="spinbutton"]',
  option: '[role="option"]',
  tab: '[role="tab"]',
  gridcell: '[role="gridcell"]',
  alert: '[role="alert"]',
  heading: 'h1, h2, h3',
  dialog: '[role="dialog"]',
  menuitem: '[role="menuitem"]',
  img: 'img, [role="img"]',
  form: 'form[aria-label]',
  region: 'section[aria-label], [role="region"]',
};

/** Every element of a role whose name is, or matches, this one: what a person would call it. */
export function all(role: keyof typeof ROLES, name?: string | RegExp): HTMLElement[] {
  return [...document.querySelectorAll<HTMLElement>(ROLES[role]!)].filter((each) => {
    if (name === undefined) return true;
    const own = nameOf(each);
    return typeof name === 'string' ? own === name : name.test(own);
  });
}

/** The one element of a role with this name. Throws, with what there is, where there is none. */
export function the(role: keyof typeof ROLES, name?: string | RegExp): HTMLElement {
  const [first] = all(role, name);
  if (first) return first;
  const there = all(role).map(nameOf).join(' | ');
  throw new Error(`there is no ${String(role)} "${String(name)}"; there are: ${there}`);
}

export async function click(role: keyof typeof ROLES, name?: string | RegExp): Promise<void> {
  the(role, name).click();
  await settled();
}

/** Types a text into a field, as a whole, and leaves it. */
export async function type(name: string | RegExp, text: string): Promise<void> {
  const field = [...all('textbox', name), ...all('spinbutton', name), ...all('combobox', name)][0];
  if (!field)
    throw new Error(
      `there is no field "${String(name)}"; there are: ${all('textbox').map(nameOf).join(' | ')}`,
    );
  field.focus();
  (field as HTMLInputElement).value = text;
  field.dispatchEvent(new Event('input', { bubbles: true }));
  field.dispatchEvent(new Event('change', { bubbles: true }));
  await settled();
  field.dispatchEvent(new FocusEvent('blur'));
  await settled();
}

export async function press(
  key: string,
  target: EventTarget = document.activeElement ?? document.body,
): Promise<void> {
  target.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  await settled();
}

/** Opens a choice by its label and takes an option by its words. */
export async function choose(label: string | RegExp, option: string | RegExp): Promise<void> {
  const field = the('combobox', label);
  const selector = field.closest('.ant-select')!.querySelector('.ant-select-selector')!;
  selector.dispatchEvent(new MouseEvent('mousedown', { bubbles: true }));
  await settled();
  const matches = (text: string) => (typeof option === 'string' ? text === option : option.test(text));
  const options = [...document.querySelectorAll<HTMLElement>('.ant-select-item-option')];
  const found = options.find((each) => matches(each.textContent?.replace(/\s+/g, ' ').trim() ?? ''));
  if (!found)
    throw new Error(
      `no option "${String(option)}"; there are: ${options.map((each) => each.textContent).join(' | ')}`,
    );
  found.click();
  await settled();
}

/** What stands on the page, as one line of text. */
export function text(): string {
  return (document.body.textContent ?? '').replace(/\s+/g, ' ').trim();
}

/** Waits until something holds that goes through the device's own store and the network. */
export function eventually(holds: () => void): Promise<void> {
  return vi.waitFor(holds, { timeout: 10_000, interval: 10 });
}
