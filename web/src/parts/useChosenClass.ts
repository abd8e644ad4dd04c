import type { Pack } from '@rounds/core/catalogue';
import { computed, ref, watch } from 'vue';
import { useClasses, useMachineClass } from './queries';

/** A class to be chosen among those with content, its pack once it is there, and its kind: the first until another is chosen. */
export function useChosenClass() {
  const classes = useClasses();
  const usable = computed(() => classes.list.value.filter((each) => each.revision !== null));
  const classId = ref('');
  const machineClass = useMachineClass(() => classId.value);
  const pack = computed(() => {
    const found = machineClass.data.value;
    return found?.summary.id === classId.value ? (found.pack as Pack | null) : null;
  });
  const variants = computed(() => pack.value?.variants ?? []);
  const variant = ref('');
  watch(pack, (now) => {
    if (now && !now.variants.some((each) => each.id === variant.value)) variant.value = now.variants[0]!.id;
  });
  const sites = computed(() => machineClass.data.value?.sites ?? []);
  return { usable, classId, pack, variants, variant, sites };
}
