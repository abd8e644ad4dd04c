<script setup lang="ts">
import type { Checkpoint, Grade, Method } from '@rounds/core/catalogue';
import {
  checksAlsoAt,
  checksAt,
  eventWords,
  faultNameIn,
  lastUndoable,
  nextStation,
  observedRound,
  type Recording,
  RECORDINGS,
  stationMarks,
  stationsInUse,
} from '@rounds/core/evaluation';
import { GRADE_WORDS } from '@rounds/core/grading';
import { namedMethod, needsLiveMachine, type ObservedCheck } from '@rounds/core/round';
import { useLocalStorage } from '@vueuse/core';
import { Form, Textarea } from 'ant-design-vue';
import { computed, ref } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import PlanRing from '../drawing/PlanRing.vue';
import FieldItem from '../parts/FieldItem.vue';
import CheckLine from './CheckLine.vue';
import FindingPanel from './FindingPanel.vue';
import type { OpenEvaluation } from './useEvaluation';

/**
 * The run: the ring fills the screen; a station's checks come up beside it with large targets. Every tap is
 * saved at once.
 */
const props = defineProps<{ evaluation: OpenEvaluation; readOnly: boolean }>();
defineEmits<{ go: ['start' | 'retrieve'] }>();
const pack = computed(() => props.evaluation.pack.value!);
const record = computed(() => props.evaluation.record.value);
const { tap, undo } = props.evaluation;

const station = ref<string | null>(record.value.round.arrivals.at(-1)?.station ?? null);
const finding = ref<Checkpoint | null>(null);
const noting = ref(false);
const noteText = ref('');
/** How this trainer last recorded, on this device; what holds for a round is on record once it begins. */
const wanted = useLocalStorage<Recording>('rounds-recording', 'each-check');
const RECORDING_CHOICES: Readonly<Record<Recording, { name: string; says: string }>> = {
  'each-check': { name: 'Each check', says: 'One tap for every check.' },
  'by-exception': {
    name: 'By exception',
    says: 'A station’s checks count as done when it is left; tap only what was prompted, missed or looked at only.',
  },
};
const recording = computed(() => (record.value.startedAt ? record.value.recording : wanted.value));
const byException = computed(() => recording.value === 'by-exception');

const observed = computed(() => observedRound(pack.value, record.value));
const latest = computed(() => new Map(observed.value.checks.map((each) => [each.checkpoint, each])));
const checks = computed(() => (station.value ? checksAt(pack.value, station.value) : []));
const also = computed(() => (station.value ? checksAlsoAt(pack.value, station.value) : []));
const used = computed(() => stationsInUse(pack.value));
const walked = computed(() => record.value.round.arrivals.map((each) => each.station));
const marks = computed(() => stationMarks(pack.value, observed.value));
const name = (id: string) => pack.value.plan.stations.find((each) => each.id === id)?.name ?? id;
const running = computed(() => record.value.startedAt !== null && record.value.endedAt === null);
const disabled = computed(() => !running.value || props.readOnly);
const reportsOn = (id: string) => record.value.round.reports.filter((each) => each.checkpoint === id);
const undoable = computed(() => lastUndoable(record.value));
const undoWords = computed(() => (undoable.value ? eventWords(undoable.value.body, pack.value) : ''));

/** The station along the way, whose checks follow once those of this one are marked. */
const next = computed(() => (running.value ? nextStation(pack.value, observed.value, station.value) : null));
const complete = computed(() => station.value === null || marks.value[station.value]?.state === 'complete');
const ahead = computed(() =>
  next.value && !byException.value && complete.value ? checksAt(pack.value, next.value) : [],
);
/** Checks here that walking past does not make. */
const live = computed(() => checks.value.filter(needsLiveMachine));
const closed = computed(() => record.value.round.stationsDone.some((each) => each.station === station.value));

const hint = computed(() => {
  if (record.value.endedAt)
    return { title: 'The round has ended', says: 'Tap a station to see what was recorded there.' };
  if (record.value.startedAt)
    return {
      title: 'Tap the station the operator reaches',
      says: 'Its checks come up here. The line fills as the ring is walked.',
    };
  return {
    title: 'Ready at the machine',
    says: 'Start the round when the operator starts. Nothing needs typing while they move.',
  };
});

const reached = (id: string) => record.value.round.arrivals.at(-1)?.station === id;
/** Where the operator is said to be while that is being kept: a second tap says nothing new. */
let going: string | null = null;
/** The panel follows once the arrival is kept, so that what comes next is counted from there. */
async function reach(id: string) {
  finding.value = null;
  if (!running.value || props.readOnly || (station.value === id && reached(id))) {
    station.value = id;
    return;
  }
  if (going === id) return;
  going = id;
  if (await tap({ kind: 'arrived', station: id })) station.value = id;
  going = null;
}
/** Marks a check; one of the station ahead says that the operator is there. */
async function mark(check: Checkpoint, result: ObservedCheck['result'], method?: Method) {
  const how = result === 'missed' ? undefined : (method ?? latest.value.get(check.id)?.method);
  const arrives = !checks.value.includes(check) && check.station === next.value && check.station !== going;
  if (arrives) going = check.station;
  const kept = await tap(...(arrives ? [{ kind: 'arrived' as const, station: check.station }] : []), {
    kind: 'checked',
    checkpoint: check.id,
    result,
    ...(how ? { method: how } : {}),
  });
  if (!arrives) return;
  if (kept) station.value = check.station;
  going = null;
}
async function report(given: { fault: string | null; grade: Grade; prompted: boolean; real: boolean }) {
  const checkpoint = finding.value!.id;
  finding.value = null;
  await tap({ kind: 'reported', checkpoint, ...given });
}
async function addNote() {
  const words = noteText.value.trim();
  noting.value = false;
  noteText.value = '';
  if (words) await tap({ kind: 'noted', words });
}
</script>

<template>
  <div class="run">
    <h1 class="visually-hidden">Round of {{ evaluation.opened.value?.summary.personName }}</h1>
    <section class="ring" aria-label="Ring">
      <PlanRing
        :plan="pack.plan"
        :only="used"
        :marks="marks"
        :walked="walked"
        :current="station"
        :interactive="true"
        :title="`Ring of the ${pack.title.toLowerCase()}: choose a station`"
        @station="reach"
      />
      <div class="acts">
        <button
          v-if="!record.startedAt && !readOnly"
          class="big primary"
          @click="tap({ kind: 'round-started', recording: wanted })"
        >
          Start the round
        </button>
        <template v-else-if="running && !readOnly">
          <button class="big" :disabled="!undoable" @click="undo">
            Undo<span>{{ undoWords }}</span>
          </button>
          <button class="big" @click="noting = !noting">Note</button>
          <button class="big" @click="tap({ kind: 'round-ended' })">End the round</button>
        </template>
        <template v-else-if="record.endedAt">
          <p>The round has ended.</p>
          <button v-if="!readOnly" class="big" :disabled="!undoable" @click="undo">
            Undo<span>{{ undoWords }}</span>
          </button>
          <button
            class="big primary"
            @click="$emit('go', record.inMachine.length > 0 ? 'retrieve' : 'start')"
          >
            {{ record.inMachine.length > 0 ? 'Take the faults out' : 'Go to the start' }}
          </button>
        </template>
      </div>
      <Form v-if="noting" layout="vertical" class="note" @submit.prevent="addNote">
        <FieldItem v-slot="{ id }" label="Note" class="grow"
          ><Textarea :id="id" v-model:value="noteText" :rows="2" :maxlength="2000" autofocus
        /></FieldItem>
        <button class="big primary" type="submit">Keep the note</button>
      </Form>
    </section>

    <section class="panel" aria-label="Checks" aria-live="polite" tabindex="0">
      <FindingPanel
        v-if="finding"
        :pack="pack"
        :checkpoint="finding"
        :prompted="latest.get(finding.id)?.result === 'prompted'"
        @back="finding = null"
        @report="report"
      />
      <template v-else-if="station">
        <div class="row spread">
          <h2>{{ name(station) }}</h2>
          <span class="quiet">{{ marks[station]?.done }} of {{ marks[station]?.total }}</span>
        </div>
        <p v-if="!record.startedAt" class="quiet">Start the round to record.</p>
        <div v-if="byException && running && !readOnly" class="onward">
          <button
            class="big"
            :disabled="closed || checks.length === 0"
            @click="tap({ kind: 'station-done', station })"
          >
            All done here
          </button>
          <button v-if="next" class="big primary" @click="reach(next)">Next: {{ name(next) }}</button>
        </div>
        <p v-if="byException && running && live.length && !closed" class="quiet">
          {{ live.map((each) => each.part).join('; ') }}: made with the machine alive, so
          {{ live.length === 1 ? 'it counts' : 'they count' }} with "All done here" or on a second visit.
        </p>
        <p v-if="also.length" class="quiet">
          Also looked at here:
          {{ also.map((each) => `${each.part} (${each.id})`).join('; ') }}.
        </p>
        <template
          v-for="group in [
            { at: station, list: checks },
            { at: next, list: ahead },
          ]"
          :key="group.at ?? ''"
        >
          <h2 v-if="group.list === ahead && ahead.length" class="ahead">
            Next: {{ name(next!) }} <span class="quiet">a tap here says that the operator is there</span>
          </h2>
          <button
            v-else-if="group.list === ahead && next && !byException && complete && !readOnly"
            class="big primary"
            @click="reach(next)"
          >
            Next: {{ name(next) }}
          </button>
          <ul>
            <CheckLine
              v-for="check in group.list"
              :key="check.id"
              :check="check"
              :observed="latest.get(check.id)"
              :named="namedMethod(pack, check)"
              :recording="recording"
              :disabled="disabled"
              @mark="(result, method) => mark(check, result, method)"
              @found="finding = check"
            >
              <p v-for="(each, i) in reportsOn(check.id)" :key="i" class="reported">
                <GradeDisc :grade="each.grade" /> {{ GRADE_WORDS[each.grade] }}:
                {{ each.fault ? faultNameIn(pack, each.fault) : 'something else'
                }}{{ each.prompted ? ' (prompted)' : '' }}{{ each.real ? ' (truly there)' : '' }}
              </p>
            </CheckLine>
          </ul>
        </template>
      </template>
      <div v-else class="hint">
        <h2>
          {{ hint.title }}
        </h2>
        <p>
          {{ hint.says }}
        </p>
        <div v-if="!record.startedAt && !readOnly" class="ways" role="group" aria-label="How to record">
          <button
            v-for="each in RECORDINGS"
            :key="each"
            class="big"
            :aria-pressed="wanted === each"
            @click="wanted = each"
          >
            {{ RECORDING_CHOICES[each].name }}<span>{{ RECORDING_CHOICES[each].says }}</span>
          </button>
        </div>
        <p v-if="record.planted.length" class="planted">
          <strong>{{ record.planted.length }} planted:</strong>
          {{ record.planted.map((id) => faultNameIn(pack, id)).join('; ') }}
        </p>
      </div>
    </section>
  </div>
</template>

<style scoped>
.run {
  flex: 1;
  display: grid;
  grid-template-columns: minmax(0, 1.12fr) minmax(430px, 1fr);
  grid-template-rows: minmax(0, 1fr);
  min-height: 460px;
}
.ring {
  position: relative;
  display: flex;
  flex-direction: column;
  min-height: 0;
  padding: 0.25rem;
}
.ring .plan {
  flex: 1;
  min-height: 0;
}
.acts {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  padding: 0.4rem;
  flex-wrap: wrap;
}
.big span {
  font-weight: 400;
  font-size: 0.8rem;
  max-width: 150px;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.panel {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  overflow-y: auto;
  padding: 0.9rem 1rem 2rem;
}
.onward {
  display: grid;
  grid-template-columns: 1fr 1.4fr;
  gap: 0.5rem;
  margin: 0.6rem 0;
}
.ahead {
  margin-top: 1.4rem;
  border-top: 3px solid var(--petrol);
  padding-top: 0.6rem;
}
.ways {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.5rem;
}
.ways .big span {
  max-width: none;
  white-space: normal;
}
.hint {
  display: grid;
  gap: 0.6rem;
  padding-top: 1rem;
}
.planted {
  border-left: 6px solid var(--amber);
  padding-left: 0.75rem;
}
.note {
  display: flex;
  gap: 0.5rem;
  align-items: flex-end;
  padding: 0.4rem;
}
.note .field {
  flex: 1;
}
@media (max-width: 900px) {
  .run {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: auto;
  }
  .ring .plan {
    height: 62vh;
  }
  .panel {
    border-left: 0;
    border-top: 1px solid var(--line);
  }
}
</style>
