<script setup lang="ts">
import { CloseOutlined, LeftOutlined, RightOutlined } from '@ant-design/icons-vue';
import type { EffectivePack } from '@rounds/core/catalogue';
import { spokenProcedure, spokenRound } from '@rounds/core/teaching';
import { useEventListener } from '@vueuse/core';
import { Button, Modal, Progress } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';

/** The class read aloud: one check or step at a time in large type, onward by tap, space or arrow. */
const props = defineProps<{ pack: EffectivePack; what: string }>();
const emit = defineEmits<{ close: []; 'update:what': [what: string] }>();

const lines = computed(() =>
  props.what === 'round' ? spokenRound(props.pack) : spokenProcedure(props.pack, props.what),
);
const choices = computed(() => [
  { value: 'round', label: 'The round' },
  ...props.pack.procedures.map((each) => ({ value: each.id, label: each.title })),
]);
const at = ref(0);
watch(lines, () => (at.value = 0));
const line = computed(() => lines.value[at.value]);
function go(to: number) {
  at.value = Math.max(0, Math.min(lines.value.length - 1, to));
}
const KEYS: Readonly<Record<string, () => void>> = {
  ' ': () => go(at.value + 1),
  ArrowRight: () => go(at.value + 1),
  ArrowDown: () => go(at.value + 1),
  PageDown: () => go(at.value + 1),
  ArrowLeft: () => go(at.value - 1),
  ArrowUp: () => go(at.value - 1),
  PageUp: () => go(at.value - 1),
  Home: () => go(0),
  End: () => go(lines.value.length - 1),
};
useEventListener(document, 'keydown', (event: KeyboardEvent) => {
  // A choice that is open, or a button that has the focus, has its own use for them.
  const target = event.target as HTMLElement;
  if (target.closest('.ant-select') || (event.key === ' ' && target.closest('button'))) return;
  const act = KEYS[event.key];
  if (!act || event.ctrlKey || event.metaKey || event.altKey) return;
  event.preventDefault();
  act();
});
</script>

<template>
  <Modal
    open
    :footer="null"
    :closable="false"
    width="100%"
    wrap-class-name="say-it"
    :title="undefined"
    aria-label="Say it"
    @cancel="emit('close')"
  >
    <div class="page">
      <div class="row spread">
        <ChoiceField
          class="what"
          :value="what"
          label="What is said"
          :options="choices"
          searchable
          @update:value="emit('update:what', $event)"
        />
        <span class="quiet grow">{{ pack.title }}</span>
        <Button aria-label="Close" @click="emit('close')"
          ><template #icon><CloseOutlined /></template>Close</Button
        >
      </div>
      <Progress
        :percent="lines.length ? (100 * (at + 1)) / lines.length : 0"
        :show-info="false"
        size="small"
        aria-hidden="true"
      />
      <article v-if="line" class="line" aria-live="polite" @click="go(at + 1)">
        <p class="over">{{ line.over }}</p>
        <p class="says" :class="{ critical: line.critical }">{{ line.says }}</p>
        <dl>
          <template v-for="each in line.details" :key="each.label">
            <dt>{{ each.label }}</dt>
            <dd>{{ each.text }}</dd>
          </template>
        </dl>
      </article>
      <p v-else class="line quiet">Nothing is left to say for this fit-out.</p>
      <div class="onward">
        <Button size="large" :disabled="at === 0" @click="go(at - 1)"
          ><template #icon><LeftOutlined /></template>Back</Button
        >
        <span class="quiet">{{ lines.length ? `${at + 1} of ${lines.length}` : '' }}</span>
        <Button size="large" type="primary" :disabled="at >= lines.length - 1" @click="go(at + 1)"
          >Next <RightOutlined
        /></Button>
      </div>
    </div>
  </Modal>
</template>

<style>
.say-it .ant-modal {
  top: 0;
  max-width: 100%;
  margin: 0;
  padding: 0;
}
.say-it .ant-modal-content {
  border-radius: 0;
  min-height: 100vh;
  background: var(--sheet);
}
</style>

<style scoped>
.page {
  display: flex;
  flex-direction: column;
  gap: 0.6rem;
  min-height: calc(100vh - 48px);
}
.what {
  flex: 0 1 320px;
}
.line {
  flex: 1;
  display: grid;
  align-content: center;
  gap: 1.2rem;
  padding: 1rem clamp(0.5rem, 6vw, 6rem);
  cursor: pointer;
}
.over {
  font-size: clamp(1.1rem, 2.2vw, 1.7rem);
  color: var(--quiet);
}
.says {
  font-size: clamp(1.9rem, 5vw, 4rem);
  line-height: 1.15;
  font-weight: 700;
  border-left: 10px solid transparent;
  padding-left: 1rem;
}
.says.critical {
  border-left-color: var(--petrol);
}
dl {
  display: grid;
  grid-template-columns: minmax(5rem, max-content) 1fr;
  gap: 0.4rem 1.2rem;
  font-size: clamp(1.1rem, 2.4vw, 1.9rem);
  line-height: 1.3;
  padding-left: calc(1rem + 10px);
}
dt {
  color: var(--quiet);
}
.onward {
  display: grid;
  grid-template-columns: 1fr auto 1.6fr;
  gap: 1rem;
  align-items: center;
}
.onward .ant-btn {
  min-height: 64px;
  font-size: 1.15rem;
}
@media (max-width: 640px) {
  dl {
    grid-template-columns: 1fr;
    gap: 0 0;
  }
  dd {
    margin-bottom: 0.5rem;
  }
}
</style>
