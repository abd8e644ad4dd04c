import { compose, needsMet, type Pack, type PolicyRaise } from '@rounds/core/catalogue';
import { computed, ref, type Ref, watch } from 'vue';

/**
 * A machine's fit-out as chosen on a screen, and the class composed for it with a site's choices and policy;
 * everything follows a change at once.
 */
export function useFitOut(
  pack: Ref<Pack | null>,
  choices: Ref<Readonly<Record<string, string>>> = ref({}),
  policy: Ref<readonly PolicyRaise[]> = ref([]),
) {
  const variant = ref('');
  const features = ref<Record<string, string>>({});
  const reset = () => {
    variant.value = pack.value?.variants[0]?.id ?? '';
    features.value = Object.fromEntries(pack.value?.features.map((each) => [each.id, each.default]) ?? []);
  };
  watch(() => pack.value?.id, reset, { immediate: true });
  const effective = computed(() => {
    const now = pack.value;
    if (!now || !now.variants.some((each) => each.id === variant.value)) return null;
    try {
      return compose(now, {
        variant: variant.value,
        features: features.value,
        choices: choices.value,
        policy: policy.value,
      });
    } catch {
      return null;
    }
  });
  /** Switches that mean something for this power variant. */
  const switches = computed(
    () =>
      pack.value?.features.filter((each) =>
        needsMet(each.needs, { ...features.value, variant: variant.value }),
      ) ?? [],
  );
  return { variant, features, effective, switches, reset };
}
