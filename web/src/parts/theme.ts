import { useLocalStorage, usePreferredDark } from '@vueuse/core';
import { defineStore } from 'pinia';
import { computed, watch } from 'vue';
import { antTheme, applyPalette, type ThemeName } from './tokens';

/** Lights to work in, by name. */
export type { ThemeName };

export const THEMES: readonly { id: ThemeName; name: string; says: string }[] = [
  { id: 'paper', name: 'Paper', says: 'the office' },
  { id: 'night', name: 'Night', says: 'the cab in the dark' },
  { id: 'sun', name: 'Sun', says: 'the yard at noon' },
];

/** The light chosen on this device; until one is chosen, what the device prefers. */
export const useTheme = defineStore('theme', () => {
  const dark = usePreferredDark();
  const chosen = useLocalStorage<ThemeName | ''>('rounds-theme', '');
  const name = computed<ThemeName>(() => {
    if (THEMES.some((each) => each.id === chosen.value)) return chosen.value as ThemeName;
    return dark.value ? 'night' : 'paper';
  });
  watch(name, applyPalette, { immediate: true });
  return {
    name,
    choose: (theme: ThemeName) => (chosen.value = theme),
    ant: computed(() => antTheme(name.value)),
  };
});
