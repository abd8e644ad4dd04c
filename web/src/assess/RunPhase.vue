<script setup lang="ts">
import { type Checkpoint, type Fault, type Grade, GRADES, type Method } from '@rounds/core/catalogue';
import {
  checksAlsoAt,
  checksAt,
  eventWords,
  faultName,
  faultNameIn,
  lastUndoable,
  stationMarks,
  stationsInUse,
} from '@rounds/core/evaluation';
import { GRADE_WORDS } from '@rounds/core/grading';
import { Form, Textarea } from 'ant-design-vue';
import { computed, ref } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import PlanRing from '../drawing/PlanRing.vue';
import FieldItem from '../parts/FieldItem.vue';
import type { OpenEvaluation } from './useEvaluation';

/**
 * The run: the ring fills the screen; a station's checks come up beside it with large targets. Every tap is
 * saved at once.
 */
const props = defineProps<{ evaluation: OpenEvaluation; readOnly: boolean }>();
defineEmits<{ go: ['sheet' | 'retrieve' | 'review'] }>();
const pack = computed(() => props.evaluation.pack.value!);
const record = computed(() => props.evaluation.record.value);
const { tap, undo } = props.evaluation;

const station = ref<string | null>(record.value.round.arrivals.at(-1)?.station ?? null);
const finding = ref<{
  checkpoint: Checkpoint;
  fault: Fault | null | undefined;
  prompted: boolean;
  real: boolean;
} | null>(null);
const noting = ref(false);
const noteText = ref('');

const latest = computed(() => new Map(record.value.round.checks.map((each) => [each.checkpoint, each])));
const checks = computed(() => (station.value ? checksAt(pack.value, station.value) : []));
const also = computed(() => (station.value ? checksAlsoAt(pack.value, station.value) : []));
const used = computed(() => stationsInUse(pack.value));
const walked = computed(() => record.value.round.arrivals.map((each) => each.station));
const marks = computed(() => stationMarks(pack.value, record.value.round));
const name = (id: string) => pack.value.plan.stations.find((each) => each.id === id)?.name ?? id;
const running = computed(() => record.value.startedAt !== null && record.value.endedAt === null);
const reportsOn = (id: string) => record.value.round.reports.filter((each) => each.checkpoint === id);
const undoable = computed(() => lastUndoable(record.value));
const undoWords = computed(() => (undoable.value ? eventWords(undoable.value.body, pack.value) : ''));

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

async function reach(id: string) {
  if (station.value === id) return;
  station.value = id;
  finding.value = null;
  if (running.value && !props.readOnly) await tap({ kind: 'arrived', station: id });
}
async function mark(check: Checkpoint, result: 'done' | 'prompted' | 'missed') {
  const method = latest.value.get(check.id)?.method;
  await tap({
    kind: 'checked',
    checkpoint: check.id,
    result,
    ...(method && result !== 'missed' ? { method } : {}),
  });
}
async function how(check: Checkpoint, method: Method) {
  const now = latest.value.get(check.id);
  if (now && now.result !== 'missed')
    await tap({ kind: 'checked', checkpoint: check.id, result: now.result, method });
}
async function report(grade: Grade) {
  const { checkpoint, fault, prompted, real } = finding.value!;
  finding.value = null;
  await tap({ kind: 'reported', checkpoint: checkpoint.id, fault: fault?.id ?? null, grade, prompted, real });
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
          @click="tap({ kind: 'round-started' })"
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
            @click="$emit('go', record.inMachine.length > 0 ? 'retrieve' : 'sheet')"
          >
            {{ record.inMachine.length > 0 ? 'Take the faults out' : 'Go to the score sheet' }}
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
      <div v-if="finding" class="finding">
        <div class="row spread">
          <h2>Fault found: {{ finding.checkpoint.part }}</h2>
          <button class="big" @click="finding = null">Back</button>
        </div>
        <template v-if="finding.fault === undefined">
          <p>Which one did the operator name?</p>
          <ul class="which">
            <li v-for="f in pack.faults.filter((x) => x.checkpoint === finding!.checkpoint.id)" :key="f.id">
              <button class="big wide" @click="finding.fault = f">{{ faultName(f) }}</button>
            </li>
            <li>
              <button class="big wide" @click="finding.fault = null">Something else at this point</button>
            </li>
          </ul>
        </template>
        <template v-else>
          <p>
            <strong>{{ finding.fault ? faultName(finding.fault) : 'Something else' }}</strong>
          </p>
          <div class="ways" role="group" aria-label="How it was found">
            <button
              class="big"
              :aria-pressed="finding.prompted"
              @click="finding.prompted = !finding.prompted"
            >
              Only after a prompt
            </button>
            <button class="big" :aria-pressed="finding.real" @click="finding.real = !finding.real">
              Truly on the machine, not planted
            </button>
          </div>
          <p>What grade did the operator give?</p>
          <div class="grades" role="group" aria-label="Grade the operator gave">
            <button v-for="g in GRADES" :key="g" class="big" @click="report(g)">
              <GradeDisc :grade="g" :size="44" />{{ GRADE_WORDS[g] }}
            </button>
          </div>
        </template>
      </div>
      <template v-else-if="station">
        <div class="row spread">
          <h2>{{ name(station) }}</h2>
          <span class="quiet">{{ marks[station]?.done }} of {{ marks[station]?.total }}</span>
        </div>
        <p v-if="!record.startedAt" class="quiet">Start the round to record.</p>
        <p v-if="also.length" class="quiet">
          Also looked at here:
          {{ also.map((each) => `${each.part} (${each.id})`).join('; ') }}.
        </p>
        <ul>
          <li v-for="check in checks" :key="check.id" class="check" :class="latest.get(check.id)?.result">
            <div>
              <strong>{{ check.part }}</strong> <span class="quiet">{{ check.id }}</span>
              <div class="quiet">{{ check.sound }}</div>
            </div>
            <div class="three" role="group" :aria-label="`${check.id} ${check.part}`">
              <button
                v-for="[result, word] in [
                  ['done', 'Done'],
                  ['prompted', 'Prompted'],
                  ['missed', 'Missed'],
                ] as const"
                :key="result"
                class="big"
                :aria-pressed="latest.get(check.id)?.result === result"
                :disabled="!running || readOnly"
                @click="mark(check, result)"
              >
                {{ word }}
              </button>
              <button
                class="big found"
                :disabled="!running || readOnly"
                @click="
                  finding = {
                    checkpoint: check,
                    fault: undefined,
                    prompted: latest.get(check.id)?.result === 'prompted',
                    real: false,
                  }
                "
              >
                Fault found
              </button>
            </div>
            <div
              v-if="
                latest.get(check.id) && latest.get(check.id)!.result !== 'missed' && check.methods.length > 1
              "
              class="methods"
              role="group"
              :aria-label="`How, ${check.id}`"
            >
              <button
                v-for="m in check.methods"
                :key="m"
                class="big"
                :aria-pressed="latest.get(check.id)!.method === m"
                :disabled="!running || readOnly"
                @click="how(check, m)"
              >
                {{ m }}
              </button>
            </div>
            <p v-for="(each, i) in reportsOn(check.id)" :key="i" class="reported">
              <GradeDisc :grade="each.grade" /> {{ GRADE_WORDS[each.grade] }}:
              {{ each.fault ? faultNameIn(pack, each.fault) : 'something else'
              }}{{ each.prompted ? ' (prompted)' : '' }}{{ each.real ? ' (truly there)' : '' }}
            </p>
          </li>
        </ul>
      </template>
      <div v-else class="hint">
        <h2>
          {{ hint.title }}
        </h2>
        <p>
          {{ hint.says }}
        </p>
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
.wide {
  width: 100%;
  align-items: flex-start;
  text-align: left;
  font-weight: 400;
}
.panel {
  background: var(--sheet);
  border-left: 1px solid var(--line);
  overflow-y: auto;
  padding: 0.9rem 1rem 2rem;
}
.check {
  padding: 0.75rem 0 0.85rem 0.75rem;
  border-top: 1px solid var(--line);
  border-left: 6px solid transparent;
  display: grid;
  gap: 0.45rem;
}
.check.done {
  border-left-color: var(--petrol);
}
.check.prompted {
  border-left: 6px double var(--petrol);
}
.check.missed {
  border-left: 6px dotted var(--quiet);
}
.three {
  display: grid;
  grid-template-columns: repeat(3, 1fr) 1.25fr;
  gap: 0.4rem;
}
.three .big {
  padding-inline: 0.3rem;
}
.found {
  border-style: dashed;
}
.methods {
  display: flex;
  gap: 0.4rem;
  flex-wrap: wrap;
}
.methods .big {
  font-weight: 400;
  border-width: 1px;
}
.which {
  display: grid;
  gap: 0.4rem;
}
.finding {
  display: grid;
  gap: 0.75rem;
}
.grades {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 0.5rem;
}
.grades .big {
  min-height: 110px;
  gap: 0.4rem;
}
.ways {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.5rem;
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
  .three {
    grid-template-columns: repeat(2, 1fr);
  }
}
</style>
