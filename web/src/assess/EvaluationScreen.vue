<script setup lang="ts">
import { ArrowLeftOutlined } from '@ant-design/icons-vue';
import {
  EVALUATION_PARTS,
  type EvaluationPart,
  PART_NAMES,
  partStates,
  partToOpen,
  proceduresOf,
  roundSeconds,
} from '@rounds/core/evaluation';
import { useIntervalFn } from '@vueuse/core';
import { Alert, Button, Form, Input, Modal, Result } from 'ant-design-vue';
import { computed, onMounted, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { clock } from '../device/clock';
import { useOutbox } from '../device/useOutbox';
import { askFirst } from '../parts/askFirst';
import { saveText } from '../parts/csv';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import TabRow from '../parts/TabRow.vue';
import { duration } from '../parts/words';
import RetrievePhase from './RetrievePhase.vue';
import ReviewPhase from './ReviewPhase.vue';
import RunPhase from './RunPhase.vue';
import SequencePhase from './SequencePhase.vue';
import SheetPhase from './SheetPhase.vue';
import SignPhase from './SignPhase.vue';
import { useEvaluation } from './useEvaluation';

/** An evaluation: who and where it is along the top, the part that is worked in under it. */
const route = useRoute();
const router = useRouter();
const evaluation = useEvaluation(String(route.params['id']));
const { opened, pack, record, appraisal, heldBy, aside, lost, unsent, readOnly, working } = evaluation;
const outbox = useOutbox();
const now = ref(clock.now());
useIntervalFn(() => (now.value = clock.now()), 1000);
onMounted(() => evaluation.load());

const practice = computed(() => opened.value?.summary.purpose === 'practice');
/** A class whose sheet asks for no procedure has nothing to stamp at its start or stop. */
const hasPart = (key: EvaluationPart) =>
  (key !== 'start' && key !== 'stop') || !pack.value || proceduresOf(pack.value, key).length > 0;
const parts = computed(() => {
  const states = partStates(record.value, appraisal.value);
  return EVALUATION_PARTS.filter(hasPart).map((key) => ({ key, name: PART_NAMES[key], hint: states[key] }));
});
/** Where it was opened; it does not jump away under the finger when the work there is done. */
const opening = ref<EvaluationPart | null>(null);
watch(opened, (now) => {
  if (now) opening.value ??= partToOpen(record.value, appraisal.value, working.value);
});
const part = computed<EvaluationPart>({
  get: () => EVALUATION_PARTS.find((each) => each === route.query['part']) ?? opening.value ?? 'round',
  set: (chosen) => void router.replace({ query: { part: chosen } }),
});
/** Goes on to a part, or to what follows where this class has none of it. */
function go(to: EvaluationPart): void {
  part.value = hasPart(to) ? to : to === 'start' ? 'sheet' : 'review';
}
const elapsed = computed(() => roundSeconds(record.value, now.value));
const saved = computed(() => {
  if (outbox.waiting === 0) return 'All on the server';
  return `${outbox.waiting} saved here, ${outbox.offline ? 'no connection' : 'sending'}`;
});
watch(
  () => [outbox.aside, outbox.waiting, outbox.held.length],
  () => void evaluation.merge(),
);

/** What the server will not take, as a file: it can be read by people and sent by hand. */
function exportAside() {
  const text = JSON.stringify({ evaluation: route.params['id'], taps: aside.value }, null, 2);
  saveText(text, `taps-not-taken-${String(route.params['id']).slice(-8)}.json`, 'application/json');
}
function dropAside() {
  askFirst(
    {
      title: 'Let them go for good?',
      content: 'They will be nowhere any more. Keep a copy first if they may matter.',
      act: 'Let them go',
      stay: 'Keep them',
      grave: true,
    },
    () => evaluation.dropAside(),
  );
}

const takingOver = ref(false);
const reason = ref('');
const problem = ref<unknown>(null);
async function takeOver() {
  problem.value = null;
  try {
    await evaluation.takeOver(reason.value);
    takingOver.value = false;
    reason.value = '';
  } catch (error) {
    problem.value = error;
  }
}
</script>

<template>
  <div class="page">
    <header v-if="opened" class="top">
      <RouterLink to="/assess" class="back" aria-label="Back to all evaluations"
        ><ArrowLeftOutlined aria-hidden="true"
      /></RouterLink>
      <div class="who">
        <strong>{{ opened.summary.personName }}</strong><span class="quiet"
          >{{ opened.summary.classTitle }}, {{ opened.summary.unitName }}</span
        >
      </div>
      <TabRow
        v-if="!practice"
        v-model:chosen="part"
        class="parts"
        label="Parts of the evaluation"
        :tabs="parts"
      />
      <span v-else class="parts practice">Practice of start and stop</span>
      <div class="right">
        <span v-if="elapsed !== null" class="clock" role="timer"
          ><span class="quiet">{{ record.endedAt ? 'Round took' : 'Round so far' }}</span>
          <strong>{{ duration(elapsed) }}</strong></span
        >
        <span class="quiet saved" role="status">{{ saved }}</span>
      </div>
    </header>
    <Alert v-if="heldBy" type="warning" banner :show-icon="false" role="alert">
      <template #message>
        <strong>{{ heldBy.name }} has this evaluation open for writing.</strong> You can look at it
        here.<template v-if="unsent"> {{ unsent }} of your taps are kept on this device.</template>
      </template>
      <template #action>
        <span class="row">
          <Button @click="evaluation.load()">Look again</Button>
          <Button @click="takingOver = true">Take it over</Button>
        </span>
      </template>
    </Alert>
    <Alert v-else-if="aside.length" type="warning" banner :show-icon="false" role="alert">
      <template #message>
        <strong
          >The server did not take {{ aside.length === 1 ? 'one tap' : `${aside.length} taps` }}:</strong
        >
        {{ aside[0]!.refusal.detail }} They are kept here; nothing is decided while they are.
      </template>
      <template #action>
        <span class="row">
          <Button @click="evaluation.retryAside()">Send again</Button>
          <Button @click="exportAside">Keep a copy</Button>
          <Button @click="dropAside">Let go</Button>
        </span>
      </template>
    </Alert>
    <Alert v-if="lost" type="error" banner role="alert">
      <template #message><strong>The last tap was not recorded.</strong> {{ lost }}</template>
    </Alert>
    <Modal v-model:open="takingOver" title="Take it over" :footer="null" destroy-on-close>
      <p>
        Two devices never write at once, so nothing is overwritten. {{ heldBy?.name }} is told who has it, and
        taps that are still on the other device are kept there.<template v-if="unsent">
          {{ unsent }} of your taps will be sent.</template
        >
      </p>
      <Form layout="vertical" class="taking" @submit.prevent="takeOver">
        <FieldItem v-slot="{ id }" label="Why you take it over" hint="Kept on record."
          ><Input :id="id" v-model:value="reason" :maxlength="500"
        /></FieldItem>
        <ProblemAlert :problem="problem" />
        <Button type="primary" block html-type="submit" :disabled="reason.trim().length < 3"
          >Take it over</Button
        >
      </Form>
    </Modal>
    <StateBox
      :loading="!opened"
      :error="evaluation.error.value"
      what="the evaluation"
      @retry="evaluation.load()"
    >
      <div v-if="opened?.keyHidden" class="screen">
        <h1 class="visually-hidden">Not decided yet</h1>
        <Result
          class="sheet"
          title="Not decided yet"
          :sub-title="`What was seen and found in this evaluation is shown here once ${opened.summary.trainerName} has decided it.`"
        >
          <template #icon><span></span></template>
          <template #extra><RouterLink to="/">Back to Today</RouterLink></template>
        </Result>
      </div>
      <SequencePhase
        v-else-if="opened && pack && practice"
        :evaluation="evaluation"
        :read-only="readOnly"
        :part="null"
      />
      <template v-else-if="opened && pack && appraisal">
        <RunPhase v-if="part === 'round'" :evaluation="evaluation" :read-only="readOnly" @go="go" />
        <SheetPhase v-else-if="part === 'sheet'" :evaluation="evaluation" :read-only="readOnly" @go="go" />
        <SequencePhase
          v-else-if="part === 'start' || part === 'stop'"
          :key="part"
          :evaluation="evaluation"
          :read-only="readOnly"
          :part="part"
          @go="go"
        />
        <RetrievePhase
          v-else-if="part === 'retrieve'"
          :evaluation="evaluation"
          :read-only="readOnly"
          @go="go"
        />
        <ReviewPhase v-else-if="part === 'review'" :evaluation="evaluation" @go="go" />
        <SignPhase v-else :evaluation="evaluation" @go="go" />
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
/* Ring and checks stand beside each other in what the header and a banner leave of the window. */
@media (min-width: 901px) {
  .page:has(> .run),
  .page:has(> .live) {
    height: 100vh;
  }
}
.top {
  display: flex;
  align-items: stretch;
  gap: 0.75rem;
  background: var(--sheet);
  border-bottom: 2px solid var(--ink);
  padding-right: 0.75rem;
  min-height: 64px;
  position: sticky;
  top: 0;
  z-index: 20;
}
.back {
  display: grid;
  place-items: center;
  width: 60px;
  font-size: 1.4rem;
  background: var(--rail);
  color: var(--on-rail);
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
  flex: 1;
}
.practice {
  align-self: center;
  text-align: center;
  font-weight: 700;
}
.parts :deep(.ant-tabs-tab) {
  min-height: 64px;
}
.parts :deep(.ant-tabs-nav-list) {
  margin-inline: auto;
}
/* The header has a line of its own. */
.parts :deep(.ant-tabs-nav)::before {
  border-bottom: 0 !important;
}
.right {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
  justify-content: center;
  line-height: 1.2;
  white-space: nowrap;
}
.clock strong {
  font-size: 1.2rem;
  margin-left: 0.3rem;
}
.clock .quiet,
.saved {
  font-size: 0.85rem;
}
.taking {
  margin-top: 1rem;
}
@media (max-width: 900px) {
  .top {
    flex-wrap: wrap;
    padding: 0;
    gap: 0 0.6rem;
  }
  .parts {
    order: 5;
    flex: 0 0 100%;
  }
  .parts :deep(.ant-tabs-tab) {
    min-height: 56px;
  }
  .who {
    flex: 1;
    min-width: 0;
  }
  .right {
    padding-right: 0.6rem;
  }
  .page > :deep(.ant-alert) {
    flex-wrap: wrap;
    row-gap: 0.4rem;
  }
  .page > :deep(.ant-alert > .ant-alert-content) {
    flex-basis: 100%;
  }
}
@media (max-width: 480px) {
  .clock {
    display: flex;
    flex-direction: column;
    align-items: flex-end;
    line-height: 1.1;
  }
  .clock strong {
    font-size: 1.05rem;
  }
}
</style>
