<script setup lang="ts">
import { givesFigures, type Grade, GRADES, METHOD_WORDS, type Pack } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import { onKeyStroke } from '@vueuse/core';
import { Button, Drawer } from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import EvidenceDrawing from '../drawing/EvidenceDrawing.vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import MethodSign from '../drawing/MethodSign.vue';
import PlanRing, { type RingMark } from '../drawing/PlanRing.vue';
import { askFirst } from '../parts/askFirst';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import WorkHeader from '../parts/WorkHeader.vue';
import { duration } from '../parts/words';
import { useDrill } from './useDrill';

/**
 * A walk-round drill: walk the ring, choose a part and a way to check it, see what that shows, and call it. Everything
 * that is shown comes from the server when it is shown, and not before.
 */
const route = useRoute();
const router = useRouter();
const id = String(route.params['id']);
/** Made on this device without a network, for the learner alone. */
const offline = route.name === 'offline-drill';
const address = offline ? `/practise/offline/${id}` : `/practise/${id}`;
const drill = useDrill(id, offline);
const { error, refetch, progress, problem, refused, unanswered, busy, stations, here, parts, called } = drill;
const machineOpen = ref(false);
const partId = ref('');
const part = computed(() => here.value?.parts.find((each) => each.id === partId.value) ?? null);
watch(here, (station) => {
  partId.value =
    station?.parts.find((each) => drill.callOf(each.id) === null)?.id ?? station?.parts[0]?.id ?? '';
});
watch(
  progress,
  (now) => {
    if (now?.ended) void router.replace(`${address}/result`);
  },
  { immediate: true },
);

const whose = computed(() => {
  if (offline) return 'Without a network: for yourself, it counts for no readiness';
  return drill.drill.value ? (drill.drill.value.person?.name ?? 'A try-out, for nobody') : '';
});
const plan = computed(() => drill.drill.value?.plan as Pack['plan'] | undefined);
const marks = computed(() => {
  const shown: Record<string, RingMark> = {};
  for (const each of stations.value) {
    const done = each.parts.filter((one) => drill.callOf(one.id) !== null).length;
    const total = each.parts.length;
    const reached = progress.value?.arrivals.includes(each.id) ?? false;
    const state = !reached ? 'untouched' : done === total ? 'complete' : 'begun';
    shown[each.id] = { done, total, state } as RingMark;
  }
  return shown;
});
const readings = computed(() => (part.value ? [...drill.readingsOf(part.value.id)].reverse() : []));
const holding = computed(() => new Set(progress.value?.holding ?? []));
/** The machine's state in a few words: its power and how warm it is. */
const machineWords = computed(() =>
  (drill.drill.value?.conditions ?? [])
    .filter((each) => each.name !== 'Made sure')
    .flatMap((group) => group.conditions.filter((each) => holding.value.has(each.id)).slice(-1))
    .map((each) => each.says)
    .join(', '),
);
const share = computed(() => (parts.value.length === 0 ? 0 : called.value / parts.value.length));

async function callPart(grade: Grade) {
  if (!part.value) return;
  const own = part.value.id;
  if (!(await drill.call(own, grade))) return;
  const next = here.value?.parts.find((each) => drill.callOf(each.id) === null);
  if (next) partId.value = next.id;
}
function end() {
  const left = parts.value.length - called.value;
  if (left === 0) return void drill.end();
  askFirst(
    {
      title: 'End the drill?',
      content: `${left === 1 ? 'One part is' : `${left} parts are`} not called yet. What is not called counts as missed.`,
      act: 'End it',
      stay: 'Go on',
    },
    () => drill.end(),
  );
}
const key = (keys: string | string[], does: (event: KeyboardEvent) => void) =>
  onKeyStroke(keys, (event) => {
    const from = event.target;
    if (from instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(from.tagName)) return;
    if (event.ctrlKey || event.metaKey || event.altKey || machineOpen.value) return;
    event.preventDefault();
    does(event);
  });
const walk = (by: number) => {
  const to = drill.step(by);
  if (to) void drill.goTo(to.id);
};
key('ArrowRight', () => walk(1));
key('ArrowLeft', () => walk(-1));
const nextPart = (by: number) => {
  const list = here.value?.parts ?? [];
  if (list.length > 0)
    partId.value = list.at((list.findIndex((each) => each.id === partId.value) + by) % list.length)!.id;
};
key('ArrowDown', () => nextPart(1));
key('ArrowUp', () => nextPart(-1));
key(['1', '2', '3', '4', '5', '6', '7', '8', '9'], ({ key: digit }) => {
  const method = part.value?.methods[Number(digit) - 1];
  if (part.value && method) void drill.tryOn(part.value.id, method);
});
key(['s', 'w', 'm', 'x'], ({ key: letter }) => void callPart(GRADES['swmx'.indexOf(letter)]!));
</script>

<template>
  <div class="drill">
    <WorkHeader back="/practise" back-label="Back to practice">
      <strong>{{ drill.drill.value?.classTitle ?? 'Walk-round drill' }}</strong>
      <span class="quiet small">{{ whose }}</span>
      <template v-if="progress" #told>
        <strong>{{ called }} of {{ parts.length }} called</strong>
        <span class="quiet small">{{ duration(progress.seconds) }} of checking</span>
      </template>
    </WorkHeader>
    <div class="bar-of-all" aria-hidden="true"><span :style="{ width: `${share * 100}%` }"></span></div>
    <StateBox
      :loading="!drill.drill.value && !error"
      :error="drill.drill.value ? undefined : error"
      what="the drill"
      @retry="refetch()"
    >
      <div v-if="progress && plan" class="body">
        <section class="ring" aria-label="The machine from above">
          <PlanRing
            :plan="plan"
            :marks="marks"
            :walked="progress.arrivals"
            :current="here?.id ?? null"
            :only="stations.map((each) => each.id)"
            interactive
            small
            title="Stations of the round"
            @station="drill.goTo"
          />
        </section>
        <section class="hand" aria-label="At the machine">
          <h1 class="visually-hidden">Walk-round drill</h1>
          <div class="where">
            <button class="big step" aria-label="Station before" :disabled="busy" @click="walk(-1)">‹</button>
            <strong class="grow">{{ here ? `${here.order} ${here.name}` : 'Where do you begin?' }}</strong>
            <button class="big step" aria-label="Next station" :disabled="busy" @click="walk(1)">›</button>
          </div>
          <ProblemAlert :problem="problem" />
          <Button v-if="unanswered && !busy" @click="drill.deliver()">Send it again</Button>
          <p v-if="refused" class="refused" role="status">{{ refused }}</p>

          <template v-if="here">
            <p v-if="here.parts.length === 0" class="quiet">
              No part of this drill is here. Walk on to close the ring.
            </p>
            <div v-else class="parts" role="group" aria-label="Parts at this station">
              <button
                v-for="each in here.parts"
                :key="each.id"
                class="big chip"
                :aria-pressed="each.id === partId"
                @click="partId = each.id"
              >
                <GradeDisc
                  v-if="drill.callOf(each.id)"
                  :grade="drill.callOf(each.id)!"
                  :label="`called ${GRADE_WORDS[drill.callOf(each.id)!]}:`"
                />
                {{ each.part }}
              </button>
            </div>
            <template v-if="part">
              <div class="methods" role="group" :aria-label="`Ways to check: ${part.part}`">
                <button
                  v-for="method in part.methods"
                  :key="method"
                  class="big method"
                  :disabled="busy"
                  @click="drill.tryOn(part!.id, method)"
                >
                  <MethodSign :method="method" />{{ METHOD_WORDS[method] }}
                </button>
              </div>
              <ol class="log" aria-label="What it showed" aria-live="polite">
                <li v-for="(each, i) in readings" :key="each.at" :class="{ newest: i === 0 }">
                  <EvidenceDrawing
                    v-if="each.drawing && i === 0"
                    class="picture"
                    :evidence="each.drawing"
                    :figures="givesFigures(each.method)"
                  />
                  <span class="told">
                    <span class="by">{{ METHOD_WORDS[each.method] }}</span>
                    <span v-if="each.counts" class="capital">{{ each.shows }}</span>
                    <span v-else class="uncounted">Does not count. First: {{ each.unmet.join('; ') }}.</span>
                  </span>
                </li>
                <li v-if="readings.length === 0" class="quiet">Choose a way to check it.</li>
              </ol>
            </template>
          </template>
        </section>
        <footer class="thumb">
          <button class="big state" @click="machineOpen = true">
            <span class="quiet">Machine</span><span class="capital">{{ machineWords || 'as found' }}</span>
          </button>
          <div class="grades" role="group" :aria-label="part ? `Call: ${part.part}` : 'Call'">
            <button
              v-for="grade in GRADES"
              :key="grade"
              class="big"
              :disabled="!part || busy"
              :aria-pressed="part !== null && drill.callOf(part.id) === grade"
              @click="callPart(grade)"
            >
              <GradeDisc :grade="grade" :size="26" />{{ GRADE_WORDS[grade] }}
            </button>
          </div>
          <button class="big end" :class="{ primary: called === parts.length }" :disabled="busy" @click="end">
            End
          </button>
        </footer>
      </div>
    </StateBox>
    <Drawer
      v-model:open="machineOpen"
      title="Bring the machine into a state"
      placement="bottom"
      height="auto"
      :body-style="{ maxHeight: '70vh', overflowY: 'auto' }"
    >
      <p v-if="refused" class="refused" role="status">{{ refused }}</p>
      <section v-for="group in drill.drill.value?.conditions ?? []" :key="group.name" class="group">
        <h3>{{ group.name }}</h3>
        <div class="states" role="group" :aria-label="group.name">
          <button
            v-for="each in group.conditions"
            :key="each.id"
            class="big"
            :aria-pressed="holding.has(each.id)"
            :disabled="busy"
            @click="drill.bring(each.id)"
          >
            <span class="capital">{{ each.says }}</span>
          </button>
        </div>
      </section>
    </Drawer>
  </div>
</template>

<style scoped>
.drill {
  height: 100dvh;
  display: flex;
  flex-direction: column;
}
.bar-of-all {
  height: 6px;
  background: var(--line);
}
.bar-of-all span {
  display: block;
  height: 100%;
  background: var(--petrol);
}
.body {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(420px, 1fr);
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
}
.ring {
  padding: 0.75rem;
  min-height: 0;
}
.hand {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 0.75rem 1rem;
  display: flex;
  flex-direction: column;
  gap: 0.7rem;
  overflow-y: auto;
}
.where {
  display: flex;
  align-items: center;
  gap: 0.6rem;
  text-align: center;
  font-size: 1.15rem;
}
.step {
  font-size: 1.7rem;
}
.parts,
.states {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
}
.chip {
  flex-direction: row;
  gap: 0.4rem;
  text-align: left;
  font-weight: 400;
}
.chip[aria-pressed='true'] {
  font-weight: 700;
}
.methods {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(84px, 1fr));
  gap: 0.5rem;
}
.method {
  gap: 0.2rem;
  min-height: 72px;
  padding: 0.3rem;
}
.log {
  list-style: none;
  display: grid;
  gap: 0.4rem;
}
.log li {
  display: flex;
  align-items: center;
  gap: 0.9rem;
  color: var(--quiet);
}
.log .told {
  flex: 1;
  display: flex;
  gap: 0 0.6rem;
}
.log .picture + .told {
  flex-direction: column;
}
.log .newest {
  color: var(--ink);
  font-size: 1.15rem;
}
.log .picture {
  flex: none;
  width: clamp(96px, 24vmin, 230px);
  height: clamp(96px, 24vmin, 230px);
}
.log .by {
  flex: none;
  min-width: 4.2rem;
  font-weight: 700;
}
.big[aria-pressed='true'] :deep(.disc) {
  color: var(--on-petrol);
}
.refused,
.uncounted {
  border-left: 6px solid var(--amber);
  padding-left: 0.6rem;
}
.thumb {
  grid-column: 1 / -1;
  display: flex;
  gap: 0.5rem;
  padding: 0.5rem 0.75rem;
  border-top: 2px solid var(--ink);
  background: var(--ground);
}
.thumb .grades {
  flex: 1;
  display: grid;
  grid-template-columns: repeat(4, minmax(0, 1fr));
  gap: 0.5rem;
}
.thumb .big {
  gap: 0.2rem;
  min-height: 64px;
}
.state {
  font-weight: 400;
  max-width: 16rem;
}
.state .quiet {
  font-size: 0.82rem;
}
.group {
  display: grid;
  gap: 0.4rem;
  margin-bottom: 1rem;
}
@media (max-width: 900px) {
  .body {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: 26dvh minmax(0, 1fr) auto;
  }
  .hand {
    border-left: 0;
    border-top: 1px solid var(--line);
  }
  .ring {
    padding: 0.2rem;
  }
}
@media (max-width: 640px) {
  .thumb {
    display: grid;
    grid-template-columns: 1fr auto;
    gap: 0.35rem;
    padding: 0.35rem;
  }
  .thumb .grades {
    grid-column: 1 / -1;
    order: -1;
    gap: 0.35rem;
  }
  .thumb .state,
  .thumb .end {
    min-height: 56px;
    max-width: none;
  }
}
</style>
