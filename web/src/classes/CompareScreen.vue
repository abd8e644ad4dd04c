<script setup lang="ts">
import { compareClasses, type Pack, valueWords } from '@rounds/core/catalogue';
import { Checkbox } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import MachineOutline from '../drawing/MachineOutline.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FitOutSwitches from '../parts/FitOutSwitches.vue';
import { useClasses, useMachineClass } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { useFitOut } from '../parts/useFitOut';

/** Two classes side by side: what differs in starting, stopping and numbers. */
const route = useRoute();
const router = useRouter();
const classes = useClasses();
const usable = computed(() => classes.list.value.filter((each) => each.revision !== null));
const asked = (key: string) =>
  computed(() => (typeof route.query[key] === 'string' ? String(route.query[key]) : ''));
const [a, b] = [asked('a'), asked('b')];
const choose = (key: 'a' | 'b', id: string) => void router.replace({ query: { ...route.query, [key]: id } });
const [left, right] = [useMachineClass(() => a.value), useMachineClass(() => b.value)];
const packOf = (query: typeof left, id: typeof a) =>
  computed(() => (query.data.value?.summary.id === id.value ? (query.data.value.pack as Pack | null) : null));
const leftPack = packOf(left, a);
const rightPack = packOf(right, b);
const leftFit = useFitOut(leftPack);
const rightFit = useFitOut(rightPack);
const result = computed(() =>
  leftFit.effective.value && rightFit.effective.value
    ? compareClasses(leftFit.effective.value, rightFit.effective.value)
    : null,
);
const onlyDifferent = ref(true);
const numbers = computed(
  () =>
    result.value?.numbers.filter(
      (each) =>
        !onlyDifferent.value || !each.left || !each.right || valueWords(each.left) !== valueWords(each.right),
    ) ?? [],
);
watch(
  [usable, a, b],
  () => {
    const [first, second] = usable.value;
    if (first && second && !a.value && !b.value)
      void router.replace({ query: { a: first.id, b: second.id } });
  },
  { immediate: true },
);
const sides = computed(
  () =>
    [
      { key: 'a', name: 'First class', id: a.value, pack: leftPack.value, query: left, fit: leftFit },
      { key: 'b', name: 'Second class', id: b.value, pack: rightPack.value, query: right, fit: rightFit },
    ] as const,
);
</script>

<template>
  <div class="screen stack">
    <h1>Compare two classes</h1>
    <StateBox
      :loading="classes.isPending.value"
      :error="classes.data.value ? undefined : classes.error.value"
      :empty="usable.length < 2"
      what="the machine classes"
      @retry="classes.refetch()"
    >
      <template #empty><p>It takes two classes with checks and faults to compare.</p></template>
      <div class="pair">
        <div v-for="side in sides" :key="side.key" class="sheet pad stack">
          <ChoiceField
            :value="side.id"
            :label="side.name"
            :options="usable.map((each) => ({ value: each.id, label: each.title }))"
            @update:value="choose(side.key, $event)"
          />
          <StateBox
            v-if="side.id"
            :loading="!side.query.data.value"
            :error="side.query.data.value ? undefined : side.query.error.value"
            what="this class"
            @retry="side.query.refetch()"
          >
            <div v-if="side.pack" class="row">
              <MachineOutline :outlines="side.pack.plan.outlines" :size="96" />
              <div class="grow row">
                <FitOutSwitches
                  v-model:variant="side.fit.variant.value"
                  v-model:features="side.fit.features.value"
                  :pack="side.pack"
                />
              </div>
            </div>
          </StateBox>
        </div>
      </div>
      <template v-if="result && leftPack && rightPack">
        <section v-for="p in result.procedures" :key="p.kind" class="sheet pad">
          <h2>{{ p.kind === 'startup' ? 'Starting' : 'Stopping' }}</h2>
          <div class="aligned head">
            <strong>{{ leftPack.title }}</strong><strong>{{ rightPack.title }}</strong>
          </div>
          <div v-for="(r, i) in p.rows" :key="i" class="aligned" :class="{ alike: r.left && r.right }">
            <div v-for="(s, k) in [r.left, r.right]" :key="k" :class="{ lone: !s }">
              <template v-if="s"
                ><strong v-if="s.critical">{{ s.do }}</strong
                ><template v-else>{{ s.do }}</template>
                <span v-if="s.timing" class="timing">{{ s.timing.says }}</span></template
              ><span v-else class="quiet">no such step</span>
            </div>
          </div>
          <p v-if="p.rows.length === 0" class="quiet">Neither class has such a procedure in this fit-out.</p>
        </section>
        <section class="sheet pad">
          <div class="row spread">
            <h2>Numbers</h2>
            <Checkbox v-model:checked="onlyDifferent">only what differs</Checkbox>
          </div>
          <div class="aligned head">
            <strong>{{ leftPack.title }}</strong><strong>{{ rightPack.title }}</strong>
          </div>
          <div v-for="(r, i) in numbers" :key="i" class="aligned" :class="{ alike: r.left && r.right }">
            <div v-for="(n, k) in [r.left, r.right]" :key="k" :class="{ lone: !n }">
              <template v-if="n"
                ><strong>{{ valueWords(n) }}</strong> {{ n.name }}
                <span class="quiet small">{{ n.meaning }}</span></template
              ><span v-else class="quiet">no such number</span>
            </div>
          </div>
        </section>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.pair,
.aligned {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0.75rem;
  overflow-wrap: break-word;
}
.aligned {
  border-top: 1px solid var(--line);
  padding: 0.4rem 0;
}
.aligned.head {
  border-top: 0;
}
.aligned.alike {
  background: var(--raised);
  box-shadow: inset 4px 0 0 var(--petrol);
  padding-left: 0.6rem;
}
.lone {
  font-size: 0.92rem;
}
.timing {
  border: 1px solid var(--quiet);
  border-radius: 3px;
  padding: 0 0.4rem;
  font-size: 0.88rem;
}
@media (max-width: 640px) {
  .pair {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
