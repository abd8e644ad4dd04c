<script setup lang="ts">
import type { CalibrationView } from '@rounds/contract/calibration';
import { REPLAY_SCORES, REPLAY_SECTIONS } from '@rounds/core/calibration';
import type { Pack } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import { Button, Result } from 'ant-design-vue';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import GradeDisc from '../drawing/GradeDisc.vue';
import PlanRing from '../drawing/PlanRing.vue';
import { askFirst } from '../parts/askFirst';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import WorkHeader from '../parts/WorkHeader.vue';
import { duration } from '../parts/words';
import { useCalibration, useCloseCalibration, useHandIn } from './queries';
import { useReplay, useScores } from './useReplay';
import { SCORE_WORDS, SECTION_WORDS } from './words';

/**
 * A replayed round to be scored: what is seen and heard, in time or moment by moment, beside the sheet. Neither the key
 * nor another's scores are here.
 */
const route = useRoute();
const router = useRouter();
const id = String(route.params['id']);
const query = useCalibration(() => id);
const view = computed<CalibrationView | null>(() => query.data.value ?? null);
const plan = computed(() => view.value!.plan as Pack['plan']);
const replay = useReplay(id, () => view.value);
const { scores, give, flush, problem, way, waiting } = useScores(id, () => view.value);
const { now, seen, over, playing, clock, step } = replay;
const begun = computed(() => seen.value.length > 0 || playing.value);
watch(
  () => view.value?.closedAt,
  (closed) => {
    if (closed) void router.replace(`/assess/calibration/${id}/report`);
  },
  { immediate: true },
);

const stationName = (station: string | null) =>
  plan.value.stations.find((each) => each.id === station)?.name ?? 'At the controls';
const walked = computed(() => [
  ...new Set(seen.value.flatMap((each) => (each.station ? [each.station] : []))),
]);
const used = computed(() => [
  ...new Set((view.value?.moments ?? []).flatMap((each) => (each.station ? [each.station] : []))),
]);
/** The sheet: checks by station, then the planted faults, then the start. */
const groups = computed(() =>
  REPLAY_SECTIONS.flatMap((section) => {
    const own = (view.value?.criteria ?? []).filter((each) => each.section === section);
    if (section !== 'checks')
      return own.length
        ? [{ key: section as string, title: SECTION_WORDS[section], station: null, list: own }]
        : [];
    return [...new Set(own.map((each) => each.station))].map((station) => ({
      key: `station-${station}`,
      title: stationName(station),
      station,
      list: own.filter((each) => each.station === station),
    }));
  }),
);
const sheet = ref<HTMLElement | null>(null);
const happening = ref<HTMLElement | null>(null);
/** The sheet follows the operator; who scrolls is left alone until the next station. */
watch(
  () => (now.value === null ? '' : (now.value.station ?? 'start')),
  async (place) => {
    await nextTick();
    const key = place === 'start' ? 'start' : `station-${place}`;
    const target = sheet.value?.querySelector<HTMLElement>(`[data-group="${key}"]`);
    if (!target || !sheet.value) return;
    const own = target.offsetTop - sheet.value.offsetTop;
    if (sheet.value.scrollHeight > sheet.value.clientHeight) sheet.value.scrollTop = own;
    // On a phone the page scrolls, under what happens now, which stays on top.
    else window.scrollTo({ top: target.offsetTop - (happening.value?.offsetHeight ?? 0) });
  },
);
const left = computed(() => (view.value?.criteria ?? []).filter((each) => !scores.value[each.id]).length);
function begin(how: 'in-time' | 'stepped') {
  way.value = how;
  if (how === 'in-time') playing.value = true;
  else step(1);
}

const handing = useHandIn();
const closing = useCloseCalibration();
const other = ref<unknown>(null);
async function attempt(what: () => Promise<unknown>) {
  other.value = null;
  try {
    await what();
    await query.refetch();
  } catch (error) {
    other.value = error;
  }
}
function handIn() {
  askFirst(
    {
      title: 'Hand in your scores?',
      content: 'They are not changed any more. What it shows is seen by everybody once it is closed.',
      act: 'Hand in',
      stay: 'Look again',
    },
    () =>
      attempt(async () => {
        if (await flush()) await handing.mutateAsync({ params: { id } });
      }),
  );
}
function close() {
  askFirst(
    {
      title: 'Close this calibration?',
      content: 'Nobody scores any more, and every evaluator sees what it showed.',
      act: 'Close it',
      stay: 'Leave it open',
    },
    () => attempt(() => closing.mutateAsync({ params: { id } })),
  );
}
const handed = computed(() => view.value?.mine?.handedInAt ?? null);
</script>

<template>
  <div class="replaying">
    <StateBox
      :loading="!view && !query.error.value"
      :error="view ? undefined : query.error.value"
      what="the calibration"
      @retry="query.refetch()"
    >
      <template v-if="view">
        <WorkHeader back="/assess/calibration" back-label="Back to calibrations">
          <h1>{{ view.title }}</h1>
          <span class="quiet">{{ view.classTitle }}</span>
          <template #acts>
            <Button v-if="!handed" type="primary" size="large" :disabled="left > 0" @click="handIn">{{
              left > 0 ? `${left} left to score` : 'Hand in'
            }}</Button>
            <Button
              v-if="view.own && view.handedIn.length > 0"
              size="large"
              :loading="closing.isLoading.value"
              @click="close"
              >Close it</Button
            >
          </template>
        </WorkHeader>
        <div v-if="problem || other" class="pad stack" role="alert">
          <ProblemAlert :problem="problem ?? other" />
          <div v-if="waiting">
            {{ waiting }} of your scores are kept on this device only.
            <Button @click="flush">Send again</Button>
          </div>
        </div>
        <Result
          v-if="handed"
          class="sheet handed"
          title="Handed in"
          :sub-title="`So have: ${view.handedIn.join(', ')}. What it showed is seen once ${view.madeBy} has closed it.`"
        >
          <template #icon><span></span></template>
          <template #extra><RouterLink to="/assess/calibration">Back to calibrations</RouterLink></template>
        </Result>
        <div v-else class="both">
          <section ref="happening" class="round" aria-label="The round">
            <PlanRing
              :plan="plan"
              :only="used"
              :walked="walked"
              :current="now?.station ?? null"
              small
              title="Where the operator is"
              class="ring"
            />
            <div v-if="!begun" class="sheet pad stack start">
              <h2>Score what you see and hear, as you would beside the machine</h2>
              <p>
                Of the operator’s own accord: <strong>Done</strong>. After a word of yours:
                <strong>Prompted</strong>. A look where the hand is needed, a word instead of a check, or
                nothing at all: <strong>Not</strong>.
              </p>
              <div class="ways">
                <button class="big primary" type="button" @click="begin('in-time')">
                  Play it in time<span>{{ duration(view.seconds) }}</span>
                </button>
                <button class="big" type="button" @click="begin('stepped')">
                  Step by step<span>at your own pace</span>
                </button>
              </div>
            </div>
            <template v-else>
              <div class="sheet pad now" role="status" aria-live="polite">
                <span class="quiet">{{ now ? stationName(now.station) : 'It begins' }}</span>
                <strong v-if="now?.about">{{ now.about }}</strong>
                <p class="says">{{ now?.says ?? '' }}</p>
              </div>
              <div class="ways" role="group" aria-label="The replay">
                <template v-if="way === 'in-time'">
                  <button class="big" type="button" :disabled="over" @click="playing = !playing">
                    {{ over ? 'It is over' : playing ? 'Hold' : 'Go on'
                    }}<span>{{ duration(clock) }} of {{ duration(view.seconds) }}</span>
                  </button>
                </template>
                <template v-else>
                  <button class="big" type="button" :disabled="seen.length <= 1" @click="step(-1)">
                    Back
                  </button>
                  <button class="big primary" type="button" :disabled="over" @click="step(1)">
                    {{ over ? 'It is over' : 'Next'
                    }}<span>{{ seen.length }} of {{ view.moments.length }}</span>
                  </button>
                </template>
              </div>
              <ol class="before" aria-label="Before that">
                <li v-for="(each, i) in seen.slice(0, -1).reverse().slice(0, 5)" :key="seen.length - i">
                  <strong v-if="each.about">{{ each.about }}: </strong>{{ each.says }}
                </li>
              </ol>
            </template>
          </section>
          <section ref="sheet" class="scores" aria-label="Your sheet" tabindex="0">
            <div
              v-for="group in groups"
              :key="group.key"
              :data-group="group.key"
              class="group"
              :class="{
                here:
                  now &&
                  (group.station ? group.station === now.station : !now.station && group.key === 'start'),
              }"
            >
              <h2>{{ group.title }}</h2>
              <ul>
                <li v-for="each in group.list" :key="each.id" :class="{ scored: scores[each.id] }">
                  <div>
                    <GradeDisc v-if="each.grade" :grade="each.grade" :size="20" />
                    <strong>{{ each.title }}</strong>
                    <div class="quiet capital">
                      {{
                        each.grade
                          ? `It is ${GRADE_WORDS[each.grade].toLowerCase()}. ${each.says}.`
                          : each.says
                      }}
                    </div>
                  </div>
                  <div class="three" role="group" :aria-label="each.title">
                    <button
                      v-for="score in REPLAY_SCORES"
                      :key="score"
                      type="button"
                      class="big"
                      :aria-pressed="scores[each.id] === score"
                      @click="give(each.id, score)"
                    >
                      {{ SCORE_WORDS[score] }}
                    </button>
                  </div>
                </li>
              </ul>
            </div>
          </section>
        </div>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.replaying {
  min-height: 100vh;
  display: flex;
  flex-direction: column;
}
.both {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 5fr) minmax(0, 6fr);
  min-height: 0;
}
@media (min-width: 901px) {
  .replaying {
    height: 100vh;
  }
  .scores,
  .round {
    overflow-y: auto;
  }
}
.round {
  display: flex;
  flex-direction: column;
  gap: 0.75rem;
  padding: 0.9rem;
}
.ring {
  height: 260px;
  flex: none;
}
.start p {
  max-width: 60ch;
}
.now {
  display: grid;
  gap: 0.3rem;
  min-height: 7.5rem;
  align-content: start;
  border-left: 6px solid var(--petrol);
}
.says {
  font-size: 1.3rem;
  line-height: 1.3;
}
.ways {
  display: flex;
  gap: 0.6rem;
}
.ways .big {
  flex: 1;
}
.ways span {
  font-weight: 400;
  font-size: 0.88rem;
}
.before {
  list-style: none;
  color: var(--quiet);
  display: grid;
  gap: 0.35rem;
}
.scores {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  padding: 0 0.9rem 2rem;
}
.group {
  padding-top: 0.9rem;
}
.group h2 {
  padding-left: 0.6rem;
  border-left: 6px solid transparent;
}
.group.here h2 {
  border-left-color: var(--petrol);
}
.group li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0.5rem 0.9rem;
  align-items: center;
  padding: 0.6rem 0 0.6rem 0.6rem;
  border-left: 6px solid transparent;
  border-bottom: 1px solid var(--line);
}
.three {
  display: grid;
  grid-template-columns: repeat(3, minmax(84px, 1fr));
  gap: 0.35rem;
}
.three .big {
  padding-inline: 0.3rem;
}
.handed {
  margin: 2rem auto;
  max-width: 640px;
}
@media (max-width: 900px) {
  .both {
    grid-template-columns: minmax(0, 1fr);
  }
  .round {
    position: sticky;
    top: 0;
    background: var(--ground);
    z-index: 5;
    border-bottom: 1px solid var(--line);
    padding: 0.6rem;
  }
  .ring,
  .before {
    display: none;
  }
  .says {
    font-size: 1.1rem;
  }
  .now {
    min-height: 0;
  }
  .group li {
    grid-template-columns: minmax(0, 1fr);
  }
  .scores {
    border-left: 0;
  }
}
</style>
