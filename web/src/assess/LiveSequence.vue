<script setup lang="ts">
import { momentWords, type SessionStep } from '@rounds/core/procedure';
import { onKeyStroke, useLocalStorage, useWakeLock } from '@vueuse/core';
import { Form, Textarea } from 'ant-design-vue';
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import SequenceRail from '../drawing/SequenceRail.vue';
import WaitArc from '../drawing/WaitArc.vue';
import FieldItem from '../parts/FieldItem.vue';
import DayCondition from './DayCondition.vue';
import { useBeep } from './useBeep';
import type { OpenEvaluation } from './useEvaluation';
import type { LiveClock, LiveSequence } from './useSequence';
import TokenButton from './TokenButton.vue';

/**
 * Beside the machine: the likeliest next acts as large tokens, a tap stamps the moment, clocks of waits and limits
 * run by themselves. Every tap is kept on the device at once.
 */
const props = defineProps<{ evaluation: OpenEvaluation; sequence: LiveSequence; readOnly: boolean }>();
const { open, live, seconds, tokens, all, rules, last, clocks, stepOf, words } = props.sequence;
const judgement = computed(() => live.value!.judgement);
const titles = computed(() => judgement.value.session.procedures.map((each) => each.title).join(', '));
const next = computed(() => new Set(tokens.value.slice(0, 1).map((each) => each.id)));
const panel = ref<'none' | 'all' | 'rules' | 'condition' | 'note'>('none');
const show = (which: typeof panel.value) => (panel.value = panel.value === which ? 'none' : which);
const wakeLock = useWakeLock();
onMounted(() => void wakeLock.request('screen').catch(() => undefined));
onBeforeUnmount(() => void wakeLock.release().catch(() => undefined));

const lastStep = computed(() => (last.value ? stepOf(last.value.token) : null));
const said = computed(() => {
  const found = words(live.value!).filter((each) => each.kind !== 'note');
  return found.at(0)?.says ?? '';
});

async function stamp(step: Pick<SessionStep, 'token'>, mark?: 'prompted' | 'wrong') {
  panel.value = 'none';
  if (props.readOnly) return;
  await props.sequence.act(step.token);
  if (mark && last.value) await props.sequence.mark(last.value.id, mark);
}
/** Puts a mark on the last act, or takes it off. */
async function markLast(mark: 'prompted' | 'wrong') {
  if (!last.value || props.readOnly) return;
  await props.sequence.mark(last.value.id, last.value.mark === mark ? 'done' : mark, [
    ...(last.value.failed ?? []),
  ]);
}
async function toggleHold(hold: string) {
  if (!last.value) return;
  const failed = last.value.failed ?? [];
  await props.sequence.mark(
    last.value.id,
    last.value.mark ?? 'done',
    failed.includes(hold) ? failed.filter((each) => each !== hold) : [...failed, hold],
  );
}
async function breakRule(rule: string) {
  panel.value = 'none';
  await props.sequence.breakRule(rule);
}

const noteText = ref('');
async function addNote() {
  const text = noteText.value.trim();
  panel.value = 'none';
  noteText.value = '';
  if (text) await props.evaluation.tap({ kind: 'noted', words: text });
}

const timed = computed(() => all.value.filter((each) => each.timing && each.timing.means !== 'none'));
async function stateCondition(says: string, lifts: string[]) {
  panel.value = 'none';
  await props.sequence.condition(says, lifts);
}

const shareOf = (each: LiveClock) => (each.bound === 0 ? 1 : each.seconds / each.bound);
const clockWords = (each: LiveClock) => {
  const now = `${momentWords(each.seconds)} of ${momentWords(each.bound)}`;
  if (each.means === 'limit') return each.seconds > each.bound ? `${now}: limit passed` : now;
  return each.seconds >= each.bound ? `${now}: waited long enough` : now;
};

const sound = useLocalStorage('rounds-sequence-sound', false);
const beep = useBeep();
/** Clocks that have told already that their wait is over or their limit passed. */
const told = new Set<string>();
watch(clocks, (running) => {
  for (const each of running)
    if (each.bound > 0 && each.seconds >= each.bound && !told.has(each.act)) {
      told.add(each.act);
      if (sound.value) beep(each.means === 'limit' ? 'passed' : 'reached');
    }
});

const inField = (event: KeyboardEvent) =>
  event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName);
const onKey = (keys: string | string[], act: (event: KeyboardEvent) => void) =>
  onKeyStroke(keys, (event) => {
    if (inField(event) || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    act(event);
  });
onKey(['1', '2', '3', '4', '5', '6', '7', '8'], ({ key }) => {
  const step = tokens.value[Number(key) - 1];
  if (step) void stamp(step);
});
onKey('p', () => void markLast('prompted'));
onKey('w', () => void markLast('wrong'));
onKey('u', () => void props.evaluation.undo());
onKey('e', () => {
  const ending = clocks.value.find((each) => each.endable);
  if (ending) void props.sequence.end(ending.act);
});

/** The rail shows what comes next in its middle. */
const track = ref<HTMLElement | null>(null);
watch(
  () => tokens.value[0]?.id,
  async (id) => {
    await nextTick();
    const row = id ? track.value?.querySelector<SVGGElement>(`[data-step="${CSS.escape(id)}"]`) : null;
    const frame = track.value;
    if (!row || !frame || frame.scrollHeight <= frame.clientHeight) return;
    const top = row.getBoundingClientRect().top - frame.getBoundingClientRect().top + frame.scrollTop;
    frame.scrollTo({ top: top - frame.clientHeight / 3 });
  },
  { immediate: true },
);
</script>

<template>
  <div class="live">
    <h1 class="visually-hidden">Live: {{ titles }}</h1>
    <section ref="track" class="track" aria-label="Rail" tabindex="0">
      <SequenceRail
        :session="judgement.session"
        :judgement="judgement"
        :trace="open!.trace"
        :next="next"
        :label="`Steps of ${titles}`"
      />
    </section>

    <section class="hand" aria-label="What happens now">
      <div class="row spread head">
        <strong class="elapsed" role="timer" aria-label="Time since it began">{{
          momentWords(seconds)
        }}</strong>
        <span class="said" role="status">{{ said }}</span>
      </div>
      <ul v-if="clocks.length" class="clocks" aria-label="Clocks that run">
        <li
          v-for="each in clocks"
          :key="each.act"
          :class="{ over: each.means === 'limit' && each.seconds > each.bound }"
        >
          <WaitArc :share="shareOf(each)" :means="each.means" />
          <span class="grow"
            ><strong>{{ each.step.do }}</strong
            ><span class="count">{{ clockWords(each) }}</span></span
          >
          <button v-if="each.endable && !readOnly" class="big" @click="sequence.end(each.act)">
            {{ each.means === 'limit' ? 'It ended' : 'Wait over' }}
          </button>
        </li>
      </ul>

      <div v-if="panel === 'none' || panel === 'all'" class="tokens" role="group" aria-label="Next acts">
        <TokenButton
          v-for="(step, i) in panel === 'all' ? all : tokens"
          :key="step.id"
          :step="step"
          :number="panel === 'all' ? null : i + 1"
          :likely="panel === 'none' && i === 0"
          :disabled="readOnly"
          @stamp="stamp(step)"
          @mark="stamp(step, $event)"
        />
        <button v-if="panel === 'all'" class="big token plain" @click="stamp({ token: 'something-else' })">
          An act that is no step of this
        </button>
      </div>
      <div v-else-if="panel === 'rules'" class="list" role="group" aria-label="Rules">
        <p v-if="rules.length === 0" class="quiet">No rule of this class speaks of these procedures.</p>
        <button v-for="each in rules" :key="each.id" class="big wide" @click="breakRule(each.id)">
          {{ each.rule }}
        </button>
      </div>
      <Form v-else-if="panel === 'note'" layout="vertical" @submit.prevent="addNote">
        <FieldItem v-slot="{ id }" label="Note"
          ><Textarea :id="id" v-model:value="noteText" :rows="3" :maxlength="2000"
        /></FieldItem>
        <button class="big primary" type="submit">Keep the note</button>
      </Form>
      <DayCondition v-else :steps="timed" @state="stateCondition" />

      <div
        v-if="
          last && lastStep && panel === 'none' && lastStep.holds.length && (last.mark || last.failed?.length)
        "
        class="holds"
        role="group"
        aria-label="What did not hold"
      >
        <span class="quiet">What did not hold?</span>
        <button
          v-for="hold in lastStep.holds"
          :key="hold"
          class="big"
          :aria-pressed="last.failed?.includes(hold) ?? false"
          @click="toggleHold(hold)"
        >
          {{ judgement.session.condition(hold) }}
        </button>
      </div>
    </section>

    <div v-if="!readOnly" class="bar" role="group" aria-label="Acts of the trainer">
      <button class="big" :disabled="!last" @click="evaluation.undo()">Undo</button>
      <button
        class="big"
        :disabled="!last"
        :aria-pressed="last?.mark === 'prompted'"
        @click="markLast('prompted')"
      >
        Prompted
      </button>
      <button class="big" :disabled="!last" :aria-pressed="last?.mark === 'wrong'" @click="markLast('wrong')">
        Wrong
      </button>
      <button class="big" :aria-expanded="panel === 'all'" @click="show('all')">Something else</button>
      <button class="big" :aria-expanded="panel === 'rules'" @click="show('rules')">Rule broken</button>
      <button class="big" :aria-expanded="panel === 'condition'" @click="show('condition')">Condition</button>
      <button class="big" :aria-expanded="panel === 'note'" @click="show('note')">Note</button>
      <button class="big" :aria-pressed="sound" @click="sound = !sound">Sound</button>
      <button class="big primary" @click="sequence.finish()">It is over</button>
    </div>
  </div>
</template>

<style scoped>
.live {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 0.9fr) minmax(430px, 1fr);
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 460px;
}
.track {
  overflow-y: auto;
  padding: 1rem;
}
.hand {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 0.75rem 1rem;
  overflow-y: auto;
  display: flex;
  flex-direction: column;
  gap: 0.7rem;
}
.head {
  flex-wrap: nowrap;
  align-items: baseline;
}
.elapsed {
  font-size: 1.6rem;
  font-variant-numeric: tabular-nums;
}
.said {
  text-align: right;
  min-height: 1.4em;
}
.clocks {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
}
.clocks li {
  display: flex;
  align-items: center;
  gap: 0.7rem;
  border: 2px solid var(--line);
  border-radius: 3px;
  padding: 0.4rem 0.6rem;
  background: var(--raised);
}
.clocks .over {
  border-color: var(--crimson);
}
.clocks .grow {
  display: flex;
  flex-direction: column;
  line-height: 1.25;
}
.count {
  font-variant-numeric: tabular-nums;
}
.over .count {
  color: var(--crimson);
  font-weight: 700;
}
.tokens {
  display: grid;
  grid-template-columns: repeat(2, minmax(120px, 1fr));
  grid-auto-rows: minmax(88px, auto);
  gap: 0.6rem;
}
.list {
  display: grid;
  gap: 0.5rem;
}
.wide {
  align-items: flex-start;
  text-align: left;
}
.holds {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}
.bar {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  padding: 0.5rem 0.75rem;
  border-top: 2px solid var(--ink);
  background: var(--ground);
  position: sticky;
  bottom: 0;
}
.bar .primary {
  margin-left: auto;
}
@media (max-width: 900px) {
  .live {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto;
  }
  .hand {
    order: -1;
    border-left: 0;
  }
  .track {
    overflow: visible;
  }
}
@media (max-width: 480px) {
  .bar {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 0.35rem;
    padding: 0.35rem;
    order: -1;
    position: static;
  }
  .bar .big {
    min-width: 0;
    padding-inline: 0.3rem;
    font-size: 0.9rem;
  }
  .bar .primary {
    margin-left: 0;
  }
}
</style>
