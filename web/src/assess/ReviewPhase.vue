<script setup lang="ts">
import { assessRoutes } from '@rounds/contract/assess';
import { severity } from '@rounds/core/catalogue';
import {
  faultName,
  judgedSequence,
  type Outcome,
  OUTCOME_WORDS,
  overrideWords,
  RECORDING_WORDS,
  stationsInUse,
  walkedMarks,
} from '@rounds/core/evaluation';
import { judgementWords, momentWords } from '@rounds/core/procedure';
import { GRADE_WORDS } from '@rounds/core/grading';
import { Progress } from 'ant-design-vue';
import { computed } from 'vue';
import { fileAddress } from '../device/api';
import GradeDisc from '../drawing/GradeDisc.vue';
import PlanRing, { type RingMark } from '../drawing/PlanRing.vue';
import DataTable, { type Column } from '../parts/DataTable.vue';
import { amount, moment, percent } from '../parts/words';
import GradingGrid from './GradingGrid.vue';
import SequenceResult from './SequenceResult.vue';
import type { OpenEvaluation } from './useEvaluation';

/**
 * Review: the answer first, every reason, then the ring with its gaps, what was missed, grading, pace and
 * score.
 */
const props = defineProps<{ evaluation: OpenEvaluation }>();
defineEmits<{ go: ['sign' | 'sheet' | 'retrieve' | 'round'] }>();
const pack = computed(() => props.evaluation.pack.value!);
const record = computed(() => props.evaluation.record.value);
const a = computed(() => props.evaluation.appraisal.value!);
const evaluator = computed(() => props.evaluation.evaluator.value);
const id = computed(() => props.evaluation.opened.value!.summary.id);
const decided = computed(() => record.value.decision);
const outcome = computed<Outcome>(() => decided.value?.outcome ?? a.value.outcome);
const overridden = computed(() => decided.value !== null && decided.value.outcome !== a.value.outcome);
/** Entries that reached the server well after they were made. */
const LATE = 15 * 60_000;
const late = computed(() =>
  props.evaluation.events.value.filter(
    (each) => each.receivedAt && Date.parse(each.receivedAt) - Date.parse(each.at) > LATE,
  ),
);
const stationName = (s: string) => pack.value.plan.stations.find((each) => each.id === s)?.name ?? s;
const used = computed(() => stationsInUse(pack.value));
const gaps = computed(() => a.value.analysis.path.gaps.flat());
const marks = computed<Record<string, RingMark>>(() => walkedMarks(pack.value, a.value.analysis));
const sequences = computed(() =>
  record.value.sequences.flatMap((each) =>
    each.endedAt === null ? [] : (judgedSequence(pack.value, each) ?? []),
  ),
);
const falls = computed(() => a.value.analysis.detection);
type Planted = (typeof falls.value.planted)[number];
const plantColumns: Column<Planted>[] = [
  { key: 'fault', title: 'Fault', fixed: true },
  { key: 'found', title: 'Found', text: (row) => row.found },
  { key: 'grade', title: 'Graded' },
  { key: 'key', title: 'Key' },
];
const belowMinimum = (section: { minimum: number | null; score: number | null }) =>
  section.minimum !== null && section.score !== null && section.score < section.minimum;
</script>

<template>
  <div class="screen stack">
    <section class="answer sheet" :class="outcome" aria-label="Outcome">
      <div class="grow">
        <h1>{{ OUTCOME_WORDS[outcome] }}</h1>
        <p v-if="a.outcome === 'blocked'">
          <strong
            >{{ a.stillPlanted.length }} planted
            {{ a.stillPlanted.length === 1 ? 'fault is' : 'faults are' }} still in the machine.</strong
          >
          <button class="link" @click="$emit('go', 'retrieve')">Take out</button>
        </p>
        <p v-else-if="a.outcome === 'incomplete'">
          <template v-if="!record.endedAt"
            >The round has not ended.
            <button class="link" @click="$emit('go', 'round')">Round</button></template
          ><template v-else
            >{{ amount(a.unscored.length, 'criterion is', 'criteria are') }} not scored.
            <button class="link" @click="$emit('go', 'sheet')">Score sheet</button></template
          >
        </p>
        <p v-if="overridden" class="override">
          <strong>The trainer overrode the computed outcome ({{ OUTCOME_WORDS[a.outcome] }}).</strong>
          {{ decided?.override ? overrideWords(decided.override) : '' }}
        </p>
        <p v-for="each in record.agreements" :key="each.at">
          <strong>{{ each.by }} agreed to "{{ OUTCOME_WORDS[each.outcome] }}"</strong>, {{ moment(each.at) }}:
          {{ each.words }}
        </p>
        <p v-if="late.length" class="quiet">
          {{ late.length }} of {{ evaluation.events.value.length }} entries were made without a connection and
          reached the server later, the last {{ moment(late.at(-1)!.receivedAt!) }}.
        </p>
        <ul class="reasons">
          <li v-for="r in a.reasons" :key="r.text" :class="r.weighs">{{ r.text }}</li>
        </ul>
      </div>
      <div class="score">
        <strong>{{ a.score === null ? '–' : a.score }}</strong><span>% of 100, cut {{ pack.sheet.cut }}</span
        ><span v-if="a.standardError !== null" class="quiet"
          >standard error {{ a.standardError.toFixed(1) }}</span
        >
      </div>
    </section>
    <div class="row">
      <button
        class="act"
        :disabled="a.outcome === 'blocked' || a.outcome === 'incomplete'"
        @click="$emit('go', 'sign')"
      >
        {{ decided ? 'Decision and signatures' : 'Decide and sign' }}
      </button>
      <a class="act plain" :href="fileAddress(assessRoutes.report, { id })" target="_blank">Report (PDF)</a>
      <a
        v-if="evaluation.token.value"
        class="act plain"
        :href="fileAddress(assessRoutes.card, { token: evaluation.token.value })"
        target="_blank"
        >Card (PDF)</a
      >
    </div>
    <SequenceResult
      v-for="each in sequences"
      :key="each.sequence.id"
      :evaluation-id="id"
      :judged="each"
      :words="judgementWords(each.judgement, each.sequence.trace)"
    />
    <div class="two">
      <section class="sheet pad" aria-label="The ring">
        <h2>The ring {{ a.analysis.path.closed ? 'is closed' : 'has gaps' }}</h2>
        <div class="ringbox">
          <PlanRing
            :plan="pack.plan"
            :only="used"
            :marks="marks"
            :walked="a.analysis.path.sequence"
            :gaps="gaps"
            title="The round as walked"
            small
          />
        </div>
        <dl class="facts">
          <dt>Coverage</dt>
          <dd>
            {{ percent(a.analysis.coverage.share) }} weighted; {{ a.analysis.coverage.done }} done,
            {{ a.analysis.coverage.prompted }} prompted, {{ a.analysis.coverage.missed }} missed
          </dd>
          <template v-if="pack.format > 1">
            <dt>Hands-on</dt>
            <dd>
              {{ percent(a.analysis.handsOn.share) }} weighted; {{ a.analysis.handsOn.able }} of
              {{ a.analysis.handsOn.made }} checks by a method that can find their faults
            </dd>
            <dt>Recorded</dt>
            <dd>{{ RECORDING_WORDS[record.recording] }}</dd>
          </template>
          <dt>Gaps</dt>
          <dd>{{ gaps.length ? gaps.map(stationName).join(', ') : 'none' }}</dd>
          <dt>Left out that matters</dt>
          <dd>
            {{
              a.analysis.coverage.criticalOmissions.length
                ? a.analysis.coverage.criticalOmissions.map((c) => c.part).join('; ')
                : 'nothing'
            }}
          </dd>
          <dt>Path</dt>
          <dd>
            {{ a.analysis.path.direction ?? 'not walked' }}, {{ a.analysis.path.metres.toFixed(0) }} m; once
            round is {{ a.analysis.path.shortestTour.toFixed(0) }} m;
            {{ percent(a.analysis.path.backtracking) }} walked back
          </dd>
          <template v-if="evaluator">
            <dt>Evaluator</dt>
            <dd :class="{ uncalibrated: evaluator.state === 'due' || evaluator.state === 'never' }">
              {{ evaluator.says }}
            </dd>
          </template>
          <dt>Start</dt>
          <dd>
            {{ a.analysis.start.station ? stationName(a.analysis.start.station) : 'none'
            }}{{
              a.analysis.start.share === null
                ? ', first round on record'
                : `, same in ${percent(a.analysis.start.share)} of ${a.analysis.start.earlier} earlier`
            }}
          </dd>
          <dt>Pace</dt>
          <dd>
            <template v-if="a.analysis.pace.seconds !== null"
              >{{ momentWords(a.analysis.pace.seconds) }} against an honest floor of
              {{ momentWords(a.analysis.pace.floorSeconds)
              }}<span v-if="a.analysis.pace.plausible === false" class="needs-you"
                >too fast to be true</span
              ></template
            ><template v-else>round open</template
            ><span v-if="a.analysis.pace.hurried.length" class="quiet">
              Hurried:
              {{
                a.analysis.pace.hurried
                  .slice(0, 4)
                  .map((h) => `${h.checkpoint} ${h.seconds.toFixed(0)} of ${h.honestSeconds} s`)
                  .join(', ')
              }}</span
            >
          </dd>
        </dl>
      </section>
      <div class="stack">
        <section class="sheet pad" aria-label="Planted faults">
          <h2>Planted faults: {{ falls.hits }} of {{ falls.planted.length }} found</h2>
          <p v-if="falls.planted.length === 0" class="quiet">None planted.</p>
          <DataTable
            v-else
            name="Planted faults"
            :rows="falls.planted"
            :columns="plantColumns"
            :row-key="(row) => row.fault.id"
          >
            <template #fault="{ row }">
              {{ faultName(row.fault) }} <span v-if="row.criticalMiss" class="stopped">critical miss</span>
            </template>
            <template #grade="{ row }">
              <span v-if="row.grade" class="nowrap"
                ><GradeDisc :grade="row.grade" /> {{ GRADE_WORDS[row.grade]
                }}<strong v-if="severity(row.grade) < severity(row.key)"> too low</strong></span
              ><template v-else>–</template>
            </template>
            <template #key="{ row }"
              ><span class="nowrap"><GradeDisc :grade="row.key" /> {{ GRADE_WORDS[row.key] }}</span></template
            >
          </DataTable>
          <p v-if="falls.interval" class="quiet">
            Hit rate {{ percent(falls.hitRate) }}, 95 % interval {{ percent(falls.interval.low) }} to
            {{ percent(falls.interval.high) }} (Wilson). {{ falls.falseAlarms }} false
            {{ falls.falseAlarms === 1 ? 'alarm' : 'alarms' }}.<template v-if="falls.sensitivity">
              d′ {{ falls.sensitivity.dPrime.toFixed(2) }}, c
              {{ falls.sensitivity.criterion.toFixed(2) }}.</template
            >
            With so few faults the figures are rough.
          </p>
        </section>
        <GradingGrid v-if="a.grading.n > 0" :grading="a.grading" />
        <section class="sheet pad" aria-label="Score by section">
          <h2>Score by section</h2>
          <ul class="sections">
            <li v-for="s in a.sections" :key="s.id">
              <span>{{ s.title }}</span>
              <Progress
                :percent="s.score ?? 0"
                :show-info="false"
                :stroke-color="belowMinimum(s) ? 'var(--amber)' : 'var(--petrol)'"
                stroke-linecap="square"
                :aria-label="s.title"
              />
              <strong class="number"
                >{{ s.score === null ? 'n/a' : `${s.score} %`
                }}{{ belowMinimum(s) ? `, under ${s.minimum}` : '' }}</strong
              >
            </li>
          </ul>
        </section>
        <section v-if="record.notes.length" class="sheet pad" aria-label="Notes">
          <h2>Notes</h2>
          <p v-for="n in record.notes" :key="n.event">{{ n.words }}</p>
        </section>
      </div>
    </div>
  </div>
</template>

<style scoped>
.uncalibrated {
  font-weight: 700;
}
.answer {
  display: flex;
  gap: 1.5rem;
  padding: 1.1rem 1.4rem;
  border-left: 10px solid var(--petrol);
}
.answer h1 {
  font-size: 2rem;
}
.answer.not-yet,
.answer.incomplete,
.answer.blocked {
  border-left-color: var(--amber);
}
.answer.stopped {
  border-left-color: var(--crimson);
  background: var(--sheet);
  color: var(--ink);
  font-weight: 400;
  border-radius: 4px;
}
.reasons li {
  padding-left: 1.3rem;
  position: relative;
}
.reasons li::before {
  position: absolute;
  left: 0.2rem;
  content: '·';
  font-weight: 700;
}
.reasons li.against::before {
  content: '–';
}
.reasons li.for::before {
  content: '+';
}
.reasons li.against {
  font-weight: 700;
}
.reasons li.note {
  color: var(--quiet);
}
.override {
  border: 2px solid var(--ink);
  padding: 0.4rem 0.7rem;
  margin: 0.4rem 0;
}
.score {
  display: flex;
  flex-direction: column;
  align-items: flex-end;
}
.score strong {
  font-size: 2.8rem;
  line-height: 1;
}
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  gap: 1.1rem;
  align-items: start;
}
.ringbox {
  height: 380px;
}
.facts {
  display: grid;
  grid-template-columns: 9.5rem 1fr;
  gap: 0.3rem 0.8rem;
}
.facts dt {
  font-weight: 700;
}
.nowrap {
  white-space: nowrap;
}
.sections {
  display: grid;
  grid-template-columns: 1fr 1fr auto;
}
.sections li {
  display: grid;
  grid-column: 1 / -1;
  grid-template-columns: subgrid;
  gap: 0.8rem;
  align-items: center;
  padding: 0.3rem 0;
  border-top: 1px solid var(--line);
}
@media (max-width: 640px) {
  .nowrap {
    white-space: normal;
  }
  .pad {
    padding: 0.8rem 0.6rem;
    overflow-wrap: anywhere;
  }
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .answer {
    flex-direction: column;
  }
  .score {
    align-items: flex-start;
  }
  .facts {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
