<script setup lang="ts">
import {
  EVALUATION_PARTS,
  PART_NAMES,
  partStates,
  partToOpen,
  roundSeconds,
  type EvaluationPart,
} from '@rounds/core/evaluation';
import { Button, Modal } from 'ant-design-vue';
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import StateBox from '../parts/StateBox.vue';
import { clock } from '../device/clock';
import { useOutbox } from '../device/useOutbox';
import { explain } from '../device/api';
import { minutes } from '../parts/words';
import RetrievePhase from './RetrievePhase.vue';
import ReviewPhase from './ReviewPhase.vue';
import RunPhase from './RunPhase.vue';
import SheetPhase from './SheetPhase.vue';
import SignPhase from './SignPhase.vue';
import { useEvaluation } from './useEvaluation';

const route = useRoute();
const router = useRouter();
const evaluation = useEvaluation(String(route.params['id']));
const { opened, pack, record, appraisal, heldBy, aside, lost, unsent, readOnly, working } = evaluation;
const outbox = useOutbox();
const now = ref(clock.now());
const takeOverReason = ref('');
const problem = ref<string | null>(null);
const ticking = setInterval(() => (now.value = clock.now()), 1000);
onBeforeUnmount(() => clearInterval(ticking));
onMounted(() => evaluation.load());

const parts = computed(() => {
  const states = partStates(record.value, appraisal.value);
  return EVALUATION_PARTS.map((id) => ({ id, name: PART_NAMES[id], hint: states[id] }));
});
const phase = computed<EvaluationPart>({
  get: () => {
    const asked = EVALUATION_PARTS.find((each) => each === route.query['part']);
    return asked ?? partToOpen(record.value, appraisal.value, working.value);
  },
  set: (part) => void router.replace({ query: { part } }),
});
const elapsed = computed(() => roundSeconds(record.value, now.value));
const saved = computed(() =>
  outbox.waiting === 0
    ? 'All on the server'
    : outbox.offline
      ? `${outbox.waiting} saved here, no connection`
      : `${outbox.waiting} saved here, sending`,
);
watch(
  () => [outbox.aside, outbox.waiting, outbox.held.length],
  () => void evaluation.merge(),
);

/** What the server will not take, as a file: it can be read by people and sent by hand. */
function exportAside() {
  const text = JSON.stringify({ evaluation: route.params['id'], taps: aside.value }, null, 2);
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type: 'application/json' }));
  link.download = `taps-not-taken-${String(route.params['id']).slice(-8)}.json`;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}
function dropAside() {
  Modal.confirm({
    title: 'Let them go for good?',
    content: 'They will be nowhere any more. Keep a copy first if they may matter.',
    okText: 'Let them go',
    cancelText: 'Keep them',
    onOk: () => evaluation.dropAside(),
  });
}

async function takeOver() {
  problem.value = null;
  try {
    await evaluation.takeOver(takeOverReason.value);
  } catch (error) {
    problem.value = explain(error).detail;
  }
}
</script>

<template>
  <div class="page">
    <header v-if="opened" class="top">
      <RouterLink to="/assess" class="back" aria-label="Back to all evaluations">&larr;</RouterLink>
      <div class="who">
        <strong>{{ opened.summary.personName }}</strong><span class="quiet"
          >{{ opened.summary.classTitle }}, {{ opened.summary.unitName }}</span
        >
      </div>
      <div class="parts" role="tablist" aria-label="Parts of the evaluation">
        <button
          v-for="each in parts"
          :key="each.id"
          role="tab"
          :aria-selected="phase === each.id"
          @click="phase = each.id"
        >
          <strong>{{ each.name }}</strong><span>{{ each.hint }}</span>
        </button>
      </div>
      <div class="right">
        <span v-if="elapsed !== null" class="clock" role="timer" aria-label="Time of the round">{{
          minutes(elapsed)
        }}</span>
        <span class="quiet saved" role="status">{{ saved }}</span>
      </div>
    </header>
    <div v-if="heldBy" class="notice" role="alert">
      <p>
        <strong>{{ heldBy.name }} has this evaluation open for writing.</strong> You can look at it here. Two
        devices never write at once, so nothing is overwritten.<template v-if="unsent">
          {{ unsent }} of your taps are kept on this device and will be sent if you take over.</template
        >
      </p>
      <form class="row" @submit.prevent="takeOver">
        <label class="field grow"
          >Why you take it over (kept on record)
          <input v-model="takeOverReason" class="plain" minlength="3" maxlength="500" required /></label
        ><Button html-type="submit" style="align-self: flex-end">Take it over</Button
        ><Button style="align-self: flex-end" @click="evaluation.load()">Look again</Button>
      </form>
      <p v-if="problem">{{ problem }}</p>
    </div>
    <div v-else-if="aside.length" class="notice" role="alert">
      <p>
        <strong
          >The server did not take {{ aside.length === 1 ? 'one tap' : `${aside.length} taps` }}:</strong
        >
        {{ aside[0]!.refusal.detail }} They are kept here; nothing is decided while they are.
      </p>
      <div class="row">
        <Button @click="evaluation.retryAside()">Send again</Button
        ><Button @click="exportAside">Keep a copy</Button><Button @click="dropAside">Let go</Button>
      </div>
    </div>
    <div v-if="lost" class="notice" role="alert">
      <p><strong>The last tap was not recorded.</strong> {{ lost }}</p>
    </div>
    <StateBox
      :loading="!opened"
      :error="evaluation.error.value"
      what="the evaluation"
      @retry="evaluation.load()"
    >
      <div v-if="opened?.keyHidden" class="screen">
        <div class="sheet pad stack">
          <h1>Not decided yet</h1>
          <p>
            What was seen and found in this evaluation is shown here once {{ opened.summary.trainerName }} has
            decided it.
          </p>
          <RouterLink to="/">Back to Today</RouterLink>
        </div>
      </div>
      <template v-else-if="opened && pack && appraisal">
        <RunPhase
          v-if="phase === 'round'"
          :evaluation="evaluation"
          :read-only="readOnly"
          @go="phase = $event"
        />
        <SheetPhase
          v-else-if="phase === 'sheet'"
          :evaluation="evaluation"
          :read-only="readOnly"
          @go="phase = $event"
        />
        <RetrievePhase
          v-else-if="phase === 'retrieve'"
          :evaluation="evaluation"
          :read-only="readOnly"
          @go="phase = $event"
        />
        <ReviewPhase v-else-if="phase === 'review'" :evaluation="evaluation" @go="phase = $event" />
        <SignPhase v-else :evaluation="evaluation" @go="phase = $event" />
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.page {
  min-height: 100vh;
  display: flex;
  flex-direction: column;
}
.top {
  display: flex;
  align-items: stretch;
  gap: 0.75rem;
  background: var(--sheet);
  border-bottom: 2px solid var(--ink);
  padding: 0 0.75rem 0 0;
  min-height: 64px;
  position: sticky;
  top: 0;
  z-index: 20;
}
.back {
  display: grid;
  place-items: center;
  width: 60px;
  font-size: 1.6rem;
  text-decoration: none;
  background: #12403d;
  color: #fff;
}
.who {
  display: flex;
  flex-direction: column;
  justify-content: center;
  line-height: 1.2;
  min-width: 150px;
  max-width: 260px;
}
.who .quiet {
  font-size: 0.85rem;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.parts {
  display: flex;
  flex: 1;
  justify-content: center;
}
.parts button {
  font: inherit;
  line-height: 1.15;
  color: var(--ink);
  background: none;
  border: 0;
  border-bottom: 6px solid transparent;
  border-top: 6px solid transparent;
  padding: 0 0.9rem;
  min-height: 64px;
  cursor: pointer;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
}
.parts button span {
  font-size: 0.82rem;
  color: var(--quiet);
}
.parts button[aria-selected='true'] {
  border-bottom-color: var(--petrol);
}
.right {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  justify-content: center;
  line-height: 1.1;
  min-width: 120px;
}
.clock {
  font-size: 1.5rem;
  font-weight: 700;
}
.saved {
  font-size: 0.82rem;
}
.notice {
  background: var(--amber);
  color: var(--on-amber);
  padding: 0.8rem 1.1rem;
  display: grid;
  gap: 0.5rem;
}
@media (max-width: 760px) {
  .top {
    flex-wrap: wrap;
    padding: 0;
  }
  .parts {
    order: 5;
    flex: 0 0 100%;
    overflow-x: auto;
    justify-content: flex-start;
  }
  .who {
    flex: 1;
  }
  .right {
    padding-right: 0.6rem;
  }
}
</style>
