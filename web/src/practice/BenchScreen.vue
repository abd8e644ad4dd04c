<script setup lang="ts">
import type { AnsweredFinding } from '@rounds/contract/bench';
import { onKeyStroke, useIntervalFn } from '@vueuse/core';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { askFirst } from '../parts/askFirst';
import FindingCard from '../parts/FindingCard.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import WorkHeader from '../parts/WorkHeader.vue';
import { BENCH_WORDS } from './benchWords';
import FindingKey from './FindingKey.vue';
import GradeAnswer from './GradeAnswer.vue';
import { useBench } from './useBench';

/** The bench: one finding or number after the other, each answered with its key and the reasons for it. */
const route = useRoute();
const router = useRouter();
const id = String(route.params['id']);
const { bench, error, refetch, now, shown, over, problem, busy, tell, next, end } = useBench(id);
watch(over, (ended) => {
  if (ended) void router.replace(`/practise/bench/${id}/result`);
});
const whose = computed(() => (bench.value ? (bench.value.person?.name ?? 'A try-out, for nobody') : ''));
const done = computed(() => bench.value?.answered.length ?? 0);
const finding = computed(() => {
  const put = shown.value ?? now.value;
  return put && 'finding' in put ? put.finding : null;
});
const question = computed(() => {
  const put = shown.value ?? now.value;
  return put && 'number' in put ? put.number : null;
});
const key = computed(() => (shown.value && 'key' in shown.value ? (shown.value as AnsweredFinding) : null));
const number = computed(() => (shown.value && 'choice' in shown.value ? shown.value : null));

/** Seconds since the case was put, where a time was asked for. */
const begun = ref(performance.now());
const passed = ref(0);
useIntervalFn(() => {
  if (now.value) passed.value = (performance.now() - begun.value) / 1000;
}, 250);
watch(
  () => now.value?.n,
  () => {
    begun.value = performance.now();
    passed.value = 0;
  },
);
const left = computed(() =>
  bench.value?.timed ? Math.max(0, Math.ceil(bench.value.timed - passed.value)) : null,
);
const seconds = () => (bench.value?.timed ? (performance.now() - begun.value) / 1000 : null);

const goOn = ref<HTMLButtonElement>();
async function give(answer: Parameters<typeof tell>[0]) {
  if (!(await tell(answer, seconds()))) return;
  await nextTick();
  goOn.value?.focus();
}
onKeyStroke(['1', '2', '3', '4'], ({ key: pressed }) => {
  const choice = Number(pressed) - 1;
  if (question.value && !shown.value && question.value.options[choice] !== undefined) void give({ choice });
});
function finish() {
  const open = (bench.value?.of ?? 0) - done.value;
  askFirst(
    {
      title: 'End here?',
      content: `${open} ${open === 1 ? 'is' : 'are'} not answered. What you answered counts.`,
      act: 'End it',
      stay: 'Go on',
    },
    end,
  );
}
</script>

<template>
  <div class="bench">
    <StateBox
      :loading="!bench && !error"
      :error="bench ? undefined : error"
      what="the bench"
      @retry="refetch()"
    >
      <template v-if="bench">
        <WorkHeader back="/practise" back-label="Back to practice">
          <h1>{{ BENCH_WORDS[bench.kind].name }}, {{ bench.classTitle }}</h1>
          <span class="quiet">{{ whose }}</span>
          <template #acts>
            <span v-if="left !== null && !shown" class="clock" :class="{ gone: left === 0 }" role="timer"
              >{{ left }} s</span
            >
            <button class="big end" :disabled="busy" @click="finish">End</button>
          </template>
          <template #told>
            <strong>{{ Math.min(done + (shown ? 0 : 1), bench.of) }} of {{ bench.of }}</strong>
          </template>
        </WorkHeader>
        <div class="bar-of-all"><span :style="{ width: `${(100 * done) / bench.of}%` }"></span></div>
        <section class="body" aria-label="What was found" tabindex="0">
          <div class="card sheet pad">
            <FindingCard v-if="finding" :finding="finding" :figures="shown !== null" />
            <template v-else-if="question">
              <p class="quiet">A number of this class</p>
              <h2 class="asked">{{ question.name }}</h2>
              <p class="capital">{{ question.meaning }}</p>
              <div class="options" role="group" aria-label="Your answer">
                <button
                  v-for="(option, i) in question.options"
                  :key="option"
                  class="big option"
                  :class="{ right: number?.right === i, wrong: number?.choice === i && number.right !== i }"
                  :aria-pressed="number?.choice === i"
                  :disabled="busy || number !== null"
                  @click="give({ choice: i })"
                >
                  {{ option }}
                </button>
              </div>
              <p v-if="number" role="status" class="verdict">
                <strong>{{
                  number.choice === number.right ? 'Right.' : `It is ${question.options[number.right]}.`
                }}</strong>
                <span class="quiet">{{ ' ' }}{{ number.origin }}</span>
              </p>
            </template>
            <FindingKey v-if="key" :answered="key" />
          </div>
        </section>
        <footer class="thumb">
          <ProblemAlert :problem="problem" />
          <button v-if="shown" ref="goOn" class="big primary" @click="next">
            {{ bench.ended ? 'See what it comes to' : 'Next' }}
          </button>
          <GradeAnswer v-else-if="finding && now" :key="now.n" :busy="busy" @answer="give" />
        </footer>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.bench {
  height: 100dvh;
  display: flex;
  flex-direction: column;
}
h1 {
  font-size: 1rem;
}
.bar-of-all {
  height: 6px;
  flex: none;
  background: var(--line);
}
.bar-of-all span {
  display: block;
  height: 100%;
  background: var(--petrol);
}
.clock {
  font-size: 1.4rem;
  font-weight: 700;
  font-variant-numeric: tabular-nums;
}
.gone {
  color: var(--crimson);
}
.body {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 0.75rem;
}
.card {
  max-width: 980px;
  margin: 0 auto;
  display: grid;
  gap: 1rem;
}
.asked {
  font-size: 1.6rem;
}
.options {
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 0.6rem;
}
.option {
  min-height: 76px;
  font-size: 1.25rem;
}
.option.right {
  background: var(--petrol);
  color: var(--on-petrol);
  opacity: 1;
}
.option.wrong[aria-pressed='true'] {
  background: var(--raised);
  color: var(--ink);
  border-color: var(--crimson);
  text-decoration: line-through;
}
.verdict {
  font-size: 1.15rem;
}
.thumb {
  flex: none;
  border-top: 2px solid var(--ink);
  background: var(--ground);
  padding: 0.5rem 0.75rem;
}
.thumb > * {
  max-width: 980px;
  margin: 0 auto;
  width: 100%;
}
.thumb .primary {
  display: flex;
  min-height: 60px;
}
@media (max-width: 640px) {
  .body {
    padding: 0.4rem;
  }
  .thumb {
    padding: 0.35rem;
  }
}
</style>
