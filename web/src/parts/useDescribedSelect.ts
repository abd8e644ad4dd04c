import { nextTick, onMounted, onUpdated, ref, useTemplateRef, type ComponentPublicInstance } from 'vue';

/**
 * The library's select leaves its field without name and state while the list is closed, and points to lists
 * that are not there; this says them to readers. The component's select is its template ref "field"; `tell` gives
 * its name and whether it is wrong.
 */
export function useDescribedSelect(tell: () => { label: string; invalid?: boolean }) {
  const select = useTemplateRef<ComponentPublicInstance>('field');
  const open = ref(false);

  function describe(): void {
    const field = (select.value?.$el as HTMLElement | undefined)?.querySelector('input[role="combobox"]');
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
  return { toggled };
}
