<script setup lang="ts">
import { SearchOutlined } from '@ant-design/icons-vue';
import type { LibraryHit } from '@rounds/core/catalogue';
import { refDebounced } from '@vueuse/core';
import { Input, Modal } from 'ant-design-vue';
import { computed, nextTick, onMounted, ref, watch } from 'vue';
import { useRouter } from 'vue-router';
import { useSession } from '../device/session';
import MachineOutline from '../drawing/MachineOutline.vue';
import { useClasses, useLibrary, useUnits } from '../parts/queries';
import type { Area } from './areas';
import { type Destination, destinations, KIND_WORDS } from './palette';
import { useFoundPeople } from './queries';

/** One field over everything: type, choose with the arrows, go with Enter. */
const props = defineProps<{ areas: readonly Area[] }>();
const open = defineModel<boolean>('open', { required: true });
const session = useSession();
const router = useRouter();
const words = ref('');
const settled = refDebounced(words, 120);
const seesPeople = session.is('trainer', 'supervisor', 'administrator');
const people = useFoundPeople(() => (seesPeople ? settled.value.trim() : ''));
const classes = useClasses();
const units = useUnits();
const library = useLibrary(() => settled.value.trim().length > 1);
const hits = computed<LibraryHit[]>(() => library.engine.value?.find(settled.value, 12) ?? []);
const found = computed(() =>
  destinations(words.value, {
    areas: props.areas,
    role: session.role,
    people: words.value.trim() === '' ? [] : (people.data.value?.rows.map((each) => each.person) ?? []),
    classes: classes.list.value,
    units: units.data.value?.units ?? [],
    hits: hits.value,
  }),
);
const at = ref(0);
watch(words, () => (at.value = 0));
const chosen = computed(() => found.value[Math.min(at.value, found.value.length - 1)]);
const outline = (each: Destination) =>
  each.kind === 'class' ? (classes.list.value.find((one) => one.id === each.id)?.outlines ?? []) : [];

function go(each: Destination | undefined) {
  if (!each) return;
  open.value = false;
  void router.push(each.to);
}
function onKey(event: KeyboardEvent) {
  const steps: Record<string, number> = { ArrowDown: 1, ArrowUp: -1 };
  const step = steps[event.key];
  if (step) {
    event.preventDefault();
    at.value = (at.value + step + found.value.length) % Math.max(1, found.value.length);
    void nextTick(() => document.getElementById(optionId(at.value))?.scrollIntoView({ block: 'nearest' }));
  } else if (event.key === 'Enter') go(chosen.value);
}
const optionId = (i: number) => `find-${i}`;
const field = ref<{ focus: () => void } | null>(null);
onMounted(() => void nextTick(() => field.value?.focus()));
</script>

<template>
  <Modal
    v-model:open="open"
    :footer="null"
    :closable="false"
    :width="720"
    title="Find anything"
    wrap-class-name="palette"
    destroy-on-close
  >
    <Input
      ref="field"
      v-model:value="words"
      size="large"
      placeholder="a person, a machine, a class, a screen, a row"
      :maxlength="100"
      role="combobox"
      aria-label="Find anything"
      aria-expanded="true"
      aria-controls="find-list"
      aria-autocomplete="list"
      :aria-activedescendant="chosen ? optionId(at) : undefined"
      @keydown="onKey"
    >
      <template #prefix><SearchOutlined aria-hidden="true" /></template>
    </Input>
    <ul id="find-list" role="listbox" aria-label="Found" class="found-list">
      <template v-for="(each, i) in found" :key="each.kind + each.id">
        <li v-if="i === 0 || found[i - 1]!.kind !== each.kind" role="presentation" class="kind">
          {{ KIND_WORDS[each.kind] }}
        </li>
        <li
          :id="optionId(i)"
          role="option"
          :aria-selected="i === at"
          :class="{ here: i === at }"
          @click="go(each)"
          @pointermove="at = i"
        >
          <MachineOutline v-if="outline(each).length" :outlines="outline(each)" :size="34" />
          <span class="grow"
            ><strong>{{ each.title }}</strong></span
          >
          <span class="quiet">{{ each.more }}</span>
        </li>
      </template>
    </ul>
    <p v-if="found.length === 0" class="quiet none" role="status">
      {{ people.isLoading.value || library.isLoading.value ? 'Looking' : 'Nothing is called that.' }}
    </p>
  </Modal>
</template>

<style scoped>
.found-list {
  max-height: min(56vh, 520px);
  overflow-y: auto;
  margin-top: 0.6rem;
}
.kind {
  padding: 0.6rem 0.6rem 0.15rem;
  font-size: 0.88rem;
  color: var(--quiet);
  border-bottom: 1px solid var(--line);
}
[role='option'] {
  display: flex;
  align-items: center;
  gap: 0.8rem;
  min-height: 44px;
  padding: 0.2rem 0.6rem;
  cursor: pointer;
  border-left: 5px solid transparent;
}
[role='option'].here {
  background: var(--ground);
  border-left-color: var(--amber);
}
.none {
  padding: 0.9rem 0.6rem;
}
</style>
