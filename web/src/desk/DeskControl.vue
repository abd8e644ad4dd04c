<script setup lang="ts">
import { type Control, type DeskAct, pedalDepths } from '@rounds/core/machine';
import { computed, ref, watch } from 'vue';
import ControlDrawing from './ControlDrawing.vue';
import type { RunningMachine } from './useMachine';

/**
 * One control in reach. What stays is put there with a tap; what falls back is held, by pressing on it or by a key, or
 * kept there for those who cannot hold.
 */
const props = defineProps<{ desk: RunningMachine; control: Control }>();
const { id, kind, name, positions = [], springs, choice = false } = props.control;

/** Held, it is let go when the finger leaves; kept, with another tap. */
const kept = ref(false);
const holding = ref<string | null>(null);
const reads = computed(() => props.desk.read(id));
const holds = kind === 'hold' || kind === 'lever' || kind === 'pedal';
const depths = kind === 'pedal' ? pedalDepths(props.desk.machine.desk, id) : [];
const depth = computed(() => (typeof reads.value === 'number' ? reads.value : 0));
const worked = computed(() =>
  kind === 'lever' ? reads.value !== springs : kind === 'pedal' ? depth.value > 0 : reads.value === true,
);
const at = computed(() => Math.max(0, positions.indexOf(String(reads.value))));
const rest = Math.max(0, positions.indexOf(springs ?? ''));
const positionWords = (to: string) => (choice ? to.replaceAll('-', ' ') : to);
const percentOf = (share: number) => `${Math.round(100 * share)} %`;
const stateWords = computed(() => {
  if (kind === 'pedal') return depth.value === 0 ? 'not pressed' : `pressed ${percentOf(depth.value)}`;
  if (kind === 'hold') return worked.value ? 'held' : 'let go';
  return kind === 'press' || kind === 'pull' ? '' : positionWords(String(reads.value));
});

const workAct = (to: string): DeskAct =>
  kind === 'pedal'
    ? { kind: 'pedal', control: id, to: Number(to) }
    : kind === 'hold'
      ? { kind: 'hold', control: id }
      : { kind: 'set', control: id, to };
function begin(to: string) {
  if (kind === 'lever' && to === springs) {
    // Put to where it rests it is made sure of, also where it rests already.
    holding.value = null;
    props.desk.act(workAct(to), `${name}: ${to}`);
    return;
  }
  if (holding.value === to) {
    // A second tap lets go what is kept.
    if (kept.value) letGo();
    return;
  }
  const says =
    kind === 'pedal'
      ? `${name}: pressed ${percentOf(Number(to))}`
      : kind === 'hold'
        ? `${name}: held`
        : `${name}: ${to}`;
  if (props.desk.act(workAct(to), says)) holding.value = to;
}
function letGo() {
  if (holding.value === null && !worked.value) return;
  holding.value = null;
  props.desk.act(
    kind === 'pedal' ? { kind: 'pedal', control: id, to: 0 } : { kind: 'release', control: id },
    `${name}: let go`,
  );
}
const lift = () => {
  if (!kept.value) letGo();
};
function keep() {
  kept.value = !kept.value;
  if (!kept.value) letGo();
}
// Whoever walks away has let go.
watch(worked, (now) => {
  if (!now) holding.value = null;
});
const put = (to: string) => props.desk.act({ kind: 'set', control: id, to }, `${name}: ${positionWords(to)}`);
const strike = () =>
  props.desk.act({ kind: 'press', control: id }, kind === 'pull' ? `${name}: pulled` : `${name}: pressed`);

/** What there is to press: a position, a depth, or the thing itself. */
const touches = computed(() =>
  kind === 'pedal'
    ? depths.map((each) => ({ to: String(each), says: percentOf(each), on: depth.value === each }))
    : kind === 'hold'
      ? [{ to: 'held', says: 'Hold', on: worked.value }]
      : positions.map((each) => ({ to: each, says: positionWords(each), on: reads.value === each })),
);
</script>

<template>
  <section class="card" :class="{ worked }" :aria-label="name">
    <ControlDrawing
      v-if="!choice"
      :kind="kind"
      :stops="positions.length"
      :at="at"
      :rest="rest"
      :worked="worked"
      :depth="depth"
    />
    <div class="grow">
      <h3>{{ name }}</h3>
      <p v-if="stateWords" class="quiet small state" aria-live="off">{{ stateWords }}</p>
      <div class="touches">
        <template v-if="kind === 'selector'">
          <button
            v-for="each in touches"
            :key="each.to"
            type="button"
            class="touch"
            :aria-pressed="each.on"
            :aria-label="`${name}: ${each.says}`"
            @click="put(each.to)"
          >
            {{ each.says }}
          </button>
        </template>
        <button
          v-else-if="kind === 'press' || kind === 'pull'"
          type="button"
          class="touch"
          :aria-label="`${name}: ${kind === 'pull' ? 'pull' : 'press'}`"
          @click="strike"
        >
          {{ kind === 'pull' ? 'Pull' : 'Press' }}
        </button>
        <template v-else>
          <button
            v-for="each in touches"
            :key="each.to"
            type="button"
            class="touch hold"
            :aria-pressed="each.on"
            :aria-label="`${name}: ${each.says}`"
            @pointerdown.prevent="(($event.currentTarget as HTMLElement).focus(), begin(each.to))"
            @pointerup="lift"
            @pointercancel="lift"
            @pointerleave="holding === each.to && lift()"
            @keydown.space.prevent="!$event.repeat && begin(each.to)"
            @keydown.enter.prevent="!$event.repeat && begin(each.to)"
            @keyup.space="lift"
            @keyup.enter="lift"
            @blur="lift"
            @contextmenu.prevent
          >
            {{ each.says }}
          </button>
          <button
            v-if="holds"
            type="button"
            class="touch keep"
            :aria-pressed="kept"
            :aria-label="`${name}: keep it where it is put`"
            title="For those who cannot hold it: a tap keeps it, another lets it go"
            @click="keep"
          >
            Keep
          </button>
        </template>
      </div>
    </div>
  </section>
</template>

<style scoped>
.card {
  display: flex;
  gap: 0.6rem;
  align-items: flex-start;
  padding: 0.55rem 0.65rem;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sheet);
}
.card.worked {
  border-color: var(--petrol);
  box-shadow: inset 4px 0 0 var(--petrol);
}
h3 {
  margin: 0;
  font-size: 0.98rem;
  line-height: 1.2;
}
.state {
  min-height: 1.2em;
}
.touches {
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
  margin-top: 0.3rem;
}
.touch {
  font: inherit;
  min-height: 48px;
  min-width: 52px;
  padding: 0.2rem 0.7rem;
  border: 2px solid var(--ink);
  border-radius: 3px;
  background: var(--raised);
  color: var(--ink);
  font-weight: 700;
  cursor: pointer;
  touch-action: none;
  user-select: none;
}
.touch[aria-pressed='true'] {
  background: var(--petrol);
  border-color: var(--petrol);
  color: var(--on-petrol);
}
.hold {
  border-style: dashed;
}
.hold[aria-pressed='true'] {
  border-style: solid;
}
.keep {
  border: 1px solid var(--line);
  font-weight: 400;
  margin-left: auto;
}
</style>
