import { useEventListener } from '@vueuse/core';
import { type ComponentPublicInstance, nextTick, onMounted, onUpdated, ref, useTemplateRef } from 'vue';

/** Keys that open a closed list. The library's list takes its first entry by the Enter that opens it. */
const OPENING = ['Enter', ' ', 'ArrowDown', 'ArrowUp'];

/**
 * Makes the library's select usable by readers and by the keyboard alone: it leaves its field without name
 * and state while the list is closed, points to lists that are not there, and takes an entry by the key that
 * opens it. The component's select is its template ref "field", bound to `open`; `tell` gives its name and whether
 * it is wrong. With `typed` the keys are left to the text.
 */
export function useDescribedSelect(
  tell: () => { label: string; invalid?: boolean },
  { typed = false }: { typed?: boolean } = {},
) {
  const select = useTemplateRef<ComponentPublicInstance>('field');
  const open = ref(false);
  const root = () => select.value?.$el as HTMLElement | undefined;

  function describe(): void {
    const field = root()?.querySelector('input[role="combobox"]');
    if (!field) return;
    const { label, invalid } = tell();
    field.setAttribute('aria-label', label);
    field.setAttribute('aria-expanded', String(open.value));
    if (invalid) field.setAttribute('aria-invalid', 'true');
    else field.removeAttribute('aria-invalid');
    for (const name of ['aria-controls', 'aria-owns', 'aria-activedescendant']) {
      const target = field.getAttribute(name);
      if (target && !document.getElementById(target)) field.removeAttribute(name);
    }
  }
  onMounted(describe);
  onUpdated(describe);
  function toggled(now: boolean): void {
    open.value = now;
    void nextTick(describe);
  }
  useEventListener(
    root,
    'keydown',
    (event: KeyboardEvent) => {
      if (typed || open.value || !OPENING.includes(event.key)) return;
      event.preventDefault();
      event.stopPropagation();
      toggled(true);
    },
    { capture: true },
  );
  return { open, toggled };
}
