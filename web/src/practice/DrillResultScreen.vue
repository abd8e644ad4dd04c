<script setup lang="ts">
import { METHOD_WORDS, type Pack } from '@rounds/core/catalogue';
import type { CaseResult, DrillResult } from '@rounds/core/drill';
import { GRADE_WORDS } from '@rounds/core/grading';
import { Button } from 'ant-design-vue';
import { computed } from 'vue';
import { useRoute } from 'vue-router';
import EvidenceDrawing from '../drawing/EvidenceDrawing.vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import PlanRing, { type RingMark } from '../drawing/PlanRing.vue';
import StateBox from '../parts/StateBox.vue';
import { day, duration, percent } from '../parts/words';
import { useOfflineOutcome } from './useOfflineOutcome';
import { useDrillOutcome } from './queries';

/** What a drill says: the score, what was missed and what would have shown it, the grades, the way walked. */
const route = useRoute();
const id = String(route.params['id']);
const outcome = route.name === 'offline-result' ? useOfflineOutcome(id) : useDrillOutcome(() => id);
const found = computed(() => outcome.data.value ?? null);
const result = computed(() => (found.value?.result ?? null) as DrillResult | null);
const plan = computed(() => found.value?.plan as Pack['plan'] | undefined);
const of = (list: readonly CaseResult['outcome'][], wrong: boolean) =>
  result.value?.cases.filter((each) => list.includes(each.outcome) && each.right !== wrong) ?? [];
const groups = computed(() => [
  { name: 'Missed', cases: of(['miss'], true) },
  { name: 'Called, and nothing was wrong', cases: of(['false-alarm'], true) },
  { name: 'Found, but graded otherwise', cases: of(['hit'], true) },
  { name: 'Right', cases: of(['hit', 'right-sound'], false) },
]);
const stationName = (id: string) => found.value?.stations.find((each) => each.id === id)?.name ?? id;
const marks = computed(() => {
  const shown: Record<string, RingMark> = {};
  for (const each of result.value?.cases ?? []) {
    const mark = (shown[each.station] ??= { done: 0, total: 0, state: 'begun', faults: 0 } as RingMark);
    mark.total += 1;
    if (each.right) mark.done += 1;
    else mark.faults = (mark.faults ?? 0) + 1;
  }
  for (const mark of Object.values(shown)) if (mark.done === mark.total) mark.state = 'complete';
  for (const id of result.value?.path.gaps.flat() ?? [])
    shown[id] = { ...(shown[id] ?? { done: 0, total: 0 }), state: 'gap' } as RingMark;
  return shown;
});
const methods = (each: CaseResult) =>
  each.used.length === 0
    ? 'nothing'
    : each.used.map((method) => METHOD_WORDS[method].toLowerCase()).join(', ');
const decimal = (value: number) => value.toFixed(1);
const figures = computed(() => {
  if (!result.value) return [];
  const { detection, pace, handsOn, path, grading } = result.value;
  const range = detection.interval
    ? ` (95 % interval ${percent(detection.interval.low)} to ${percent(detection.interval.high)})`
    : '';
  return [
    {
      name: 'Found',
      says: `${detection.hits} of ${detection.hits + detection.misses}${range}`,
    },
    {
      name: 'False alarms',
      says: `${detection.falseAlarms} of ${detection.falseAlarms + detection.correctRejections} sound parts`,
    },
    {
      name: 'Telling bad from sound',
      says:
        detection.sensitivity && detection.sensitivityInterval
          ? `d′ ${decimal(detection.sensitivity.dPrime)} (95 % interval ${decimal(detection.sensitivityInterval.low)} to ${decimal(detection.sensitivityInterval.high)})`
          : 'too few to judge',
    },
    {
      name: 'Grades',
      says: `${grading.exact} of ${grading.n} as the key, ${grading.tooLow.count} too low, ${grading.tooHigh} too high`,
    },
    { name: 'Checked by a way that can find it', says: handsOn === null ? '–' : percent(handsOn) },
    {
      name: 'Way',
      says: `${path.closed ? 'ring closed' : 'ring not closed'}, ${Math.round(path.metres)} m, shortest ${Math.round(path.shortestTour)} m`,
    },
    {
      name: 'Pace',
      says: pace.plausible
        ? `${duration(pace.seconds)} of checking`
        : `${duration(pace.seconds)} for what takes at least ${duration(pace.floorSeconds)}`,
    },
    ...(pace.waited > 0
      ? [{ name: 'Waited', says: `${duration(pace.waited)} until it was cold or warm` }]
      : []),
  ];
});
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="!found && !outcome.error.value"
      :error="found ? undefined : outcome.error.value"
      what="the drill"
      @retry="outcome.refetch()"
    >
      <template v-if="found && result && plan">
        <div class="row spread">
          <div>
            <h1>
              <span class="score">{{ Math.round(result.score) }}</span> of 100
            </h1>
            <p class="quiet">
              {{ found.classTitle }}, {{ found.person?.name ?? 'a try-out' }}, {{ day(found.endedAt) }}.
              Always saying the same earns {{ Math.round(result.chance) }}.
            </p>
          </div>
          <RouterLink
            v-slot="{ navigate, href }"
            :to="{ path: '/practise', query: { class: found.classId, person: found.person?.id } }"
            custom
            ><Button type="primary" :href="href" @click="navigate">Practise again</Button></RouterLink
          >
        </div>
        <p v-if="found.offline" class="sheet pad">
          <strong>Practised without a network, for yourself.</strong> It joins the record as offline and
          counts for no readiness.
        </p>
        <p v-else-if="found.unmet.length === 0" class="sheet pad met">
          <strong>It meets what is asked before an assessment.</strong> Met on two separate days it makes
          ready.
        </p>
        <p v-else class="sheet pad">It does not count towards readiness. {{ found.unmet.join(' ') }}</p>
        <div class="columns">
          <section class="sheet pad stack" aria-label="The way">
            <div class="ring">
              <PlanRing
                :plan="plan"
                :marks="marks"
                :walked="result.path.sequence"
                :gaps="result.path.gaps.flat()"
                :only="found.stations.map((each) => each.id)"
                small
                title="The way walked, with its gaps"
              />
            </div>
            <dl class="figures">
              <div v-for="each in figures" :key="each.name">
                <dt>{{ each.name }}</dt>
                <dd>{{ each.says }}</dd>
              </div>
            </dl>
            <p v-if="found.earlier.length > 0" class="trend">
              <span class="quiet">Before:</span>
              <span v-for="each in found.earlier.slice(-8)" :key="each.endedAt">{{
                Math.round(each.score)
              }}</span>
            </p>
          </section>
          <div class="stack">
            <template v-for="group in groups" :key="group.name">
              <section v-if="group.cases.length > 0" class="sheet pad" :aria-label="group.name">
                <h2>
                  {{ group.name }} <span class="quiet">{{ group.cases.length }}</span>
                </h2>
                <ul>
                  <li
                    v-for="each in group.cases"
                    :key="each.checkpoint"
                    class="case"
                    :class="{ drawn: !each.right && each.drawing }"
                  >
                    <div class="row spread">
                      <strong>{{ each.part }}</strong>
                      <span class="discs">
                        <template v-if="!each.right">
                          <span v-if="each.called"
                            ><GradeDisc :grade="each.called" /> you: {{ GRADE_WORDS[each.called] }}</span
                          >
                          <span v-else class="quiet">not called</span>
                        </template>
                        <span><GradeDisc :grade="each.key" /> {{ GRADE_WORDS[each.key] }}</span>
                      </span>
                    </div>
                    <p v-if="each.fault">
                      {{ each.fault.title }}. <span class="quiet">{{ stationName(each.station) }}</span>
                    </p>
                    <template v-if="!each.right">
                      <EvidenceDrawing v-if="each.drawing" class="picture" :evidence="each.drawing" />
                      <p v-for="shown in each.shownBy" :key="shown.method">
                        <strong>{{ METHOD_WORDS[shown.method] }}</strong>
                        <span class="capital">{{ shown.shows }}</span>
                      </p>
                      <p class="quiet">You used: {{ methods(each) }}.</p>
                      <p v-if="each.act"><strong>Do:</strong> {{ each.act }}</p>
                      <p v-if="each.why" class="quiet">{{ each.why }}</p>
                    </template>
                    <p v-else-if="each.blind" class="quiet">Right, but called without a check that counts.</p>
                  </li>
                </ul>
              </section>
            </template>
          </div>
        </div>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.case.drawn {
  grid-template-columns: minmax(0, 1fr) 104px;
  align-content: start;
  column-gap: 0.8rem;
}
.case.drawn > .row {
  grid-column: 1 / -1;
}
.case.drawn > p {
  grid-column: 1;
}
.case > .picture {
  grid-column: 2;
  grid-row: 2 / span 8;
  width: 104px;
  height: 104px;
}
.score {
  font-size: 2.6rem;
}
.met {
  border-left: 8px solid var(--petrol);
}
.columns {
  display: grid;
  grid-template-columns: minmax(300px, 5fr) minmax(0, 7fr);
  gap: 1rem;
  align-items: start;
}
.ring {
  height: 320px;
}
.figures {
  display: grid;
  gap: 0.45rem;
}
.figures dt {
  color: var(--quiet);
  font-size: 0.88rem;
}
.figures dd {
  font-weight: 700;
}
.trend {
  display: flex;
  gap: 0.8rem;
  flex-wrap: wrap;
}
.case {
  border-top: 1px solid var(--line);
  padding: 0.55rem 0;
  display: grid;
  gap: 0.15rem;
}
.discs {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.9rem;
}
@media (max-width: 900px) {
  .columns {
    grid-template-columns: minmax(0, 1fr);
  }
  .columns > :first-child {
    order: 2;
  }
}
</style>
