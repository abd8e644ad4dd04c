<script setup lang="ts">
import { useEventListener } from '@vueuse/core';
import { Button, Dropdown, Menu } from 'ant-design-vue';
import {
  type ComponentPublicInstance,
  computed,
  nextTick,
  ref,
  shallowRef,
  useId,
  useTemplateRef,
} from 'vue';

/**
 * A button that opens a menu, walked as readers and keyboards expect: opening leads to the first item, the
 * arrows, Home and End move, Enter takes the item or follows its link, Escape and Tab close. Items are the
 * library's MenuItem, in the slot `items`.
 */
defineOptions({ inheritAttrs: false });
const props = defineProps<{
  /** Accessible name, where the button shows only a sign. */
  label?: string;
  type?: 'text';
  /** Keys of the items that hold now. */
  chosen?: string[];
  /** Stays open when an item is taken, for several in a row. */
  stays?: boolean;
}>();
const open = ref(false);
const id = useId();
const opener = useTemplateRef<ComponentPublicInstance>('opener');
const list = shallowRef<HTMLElement | null>(null);
const items = () => [
  ...(list.value?.querySelectorAll<HTMLElement>('[role="menuitem"]:not([aria-disabled="true"])') ?? []),
];
const expanded = computed(() => (open.value ? 'true' : 'false'));

async function toggled(now: boolean): Promise<void> {
  open.value = now;
  if (!now) return;
  await nextTick();
  list.value = document.getElementById(id);
  toFirst();
}
/** The list can take the focus only when it has been placed, a few frames later. */
function toFirst(frames = 20): void {
  const [first] = items();
  first?.focus({ preventScroll: true });
  if (frames > 0 && open.value && document.activeElement !== first)
    requestAnimationFrame(() => toFirst(frames - 1));
}
function close(): void {
  open.value = false;
  (opener.value?.$el as HTMLElement | undefined)?.focus();
}
function taken(): void {
  if (!props.stays) open.value = false;
}
useEventListener(
  list,
  'keydown',
  (event: KeyboardEvent) => {
    const all = items();
    const at = all.indexOf(document.activeElement as HTMLElement);
    const to: Partial<Record<string, number>> = {
      ArrowDown: (at + 1) % all.length,
      ArrowUp: (at - 1 + all.length) % all.length,
      Home: 0,
      End: all.length - 1,
    };
    const next = to[event.key];
    if (next !== undefined) all[next]?.focus();
    else if (event.key === 'Escape') close();
    else if (event.key === 'Enter' || event.key === ' ') {
      (all[at]?.querySelector('a') ?? all[at])?.click();
      if (!props.stays) close();
    } else if (event.key === 'Tab') return close();
    else return;
    event.preventDefault();
    event.stopPropagation();
  },
  { capture: true },
);
</script>

<template>
  <Dropdown :open="open" :trigger="['click']" placement="bottomRight" @update:open="toggled">
    <Button
      ref="opener"
      v-bind="$attrs"
      :type="type"
      :aria-label="label"
      aria-haspopup="menu"
      :aria-expanded="expanded"
      ><slot
    /></Button>
    <template #overlay>
      <Menu :id="id" :selected-keys="chosen ?? []" :selectable="false" @click="taken"
        ><slot name="items"
      /></Menu>
    </template>
  </Dropdown>
</template>
