<script setup lang="ts">
import type { Criterion } from '@rounds/core/catalogue';
import { type CriterionResult, proceduresOf, scoredByTrainer } from '@rounds/core/evaluation';
import { Form, Input, InputNumber } from 'ant-design-vue';
import { computed, ref } from 'vue';
import FieldItem from '../parts/FieldItem.vue';
import { amount } from '../parts/words';
import type { OpenEvaluation } from './useEvaluation';

/** The score sheet of the practical: one row a criterion, large targets, linked rows filled by the round. */
const props = defineProps<{ evaluation: OpenEvaluation; readOnly: boolean }>();
defineEmits<{ go: ['review' | 'stop' | 'start'] }>();
const pack = computed(() => props.evaluation.pack.value!);
const record = computed(() => props.evaluation.record.value);
const appraisal = computed(() => props.evaluation.appraisal.value!);
const stops = computed(() => proceduresOf(pack.value, 'stop').length > 0);
/** Kinds of criteria that are measured beside being seen. */
const MEASURES: Partial<Record<string, string>> = { levels: 'Level', timed: 'Seconds', errors: 'Errors' };
const excusing = ref<string | null>(null);
const reason = ref('');
const erring = ref(false);
const value = ref<Record<string, number | ''>>({});

/** The procedures a criterion is about, by name. */
const procedures = (criterion: Criterion) =>
  pack.value.procedures
    .filter((each) => criterion.link?.procedures?.includes(each.id))
    .map((each) => each.title.toLowerCase())
    .join(', ');
const byTrainer = (each: CriterionResult) => scoredByTrainer(each.criterion, record.value);
const scored = (id: string) => record.value.scores.get(id)?.result;
async function score(each: CriterionResult, result: 'done' | 'prompted' | 'not') {
  // An emptied field is no number, and is not sent as one.
  const given = value.value[each.criterion.id];
  const number =
    typeof given === 'number' && Number.isFinite(given) ? { value: Math.min(1000, Math.max(0, given)) } : {};
  await props.evaluation.tap({ kind: 'scored', criterion: each.criterion.id, result, ...number });
}
async function excuse() {
  if (!excusing.value || reason.value.trim().length < 3) return;
  await props.evaluation.tap({
    kind: 'scored',
    criterion: excusing.value,
    result: 'na',
    reason: reason.value.trim(),
  });
  excusing.value = null;
  reason.value = '';
}
</script>

<template>
  <div class="screen stack">
    <div class="row spread">
      <h1>
        Score sheet
        <span class="quiet">{{
          appraisal.unscored.length === 0
            ? 'complete'
            : `${amount(appraisal.unscored.length, 'criterion', 'criteria')} open`
        }}</span>
      </h1>
      <div class="row">
        <button v-if="!readOnly" class="big critical" :aria-expanded="erring" @click="erring = !erring">
          Critical error
        </button>
        <button v-if="!readOnly" class="big" @click="evaluation.undo()">Undo</button>
        <button v-if="stops" class="big primary" @click="$emit('go', 'stop')">Go to the stop</button>
        <button v-else class="big primary" @click="$emit('go', 'review')">Go to the review</button>
      </div>
    </div>
    <section v-if="erring" class="sheet pad" aria-label="Critical errors">
      <h2>Which one? It ends the evaluation.</h2>
      <div class="errors">
        <button
          v-for="e in pack.sheet.criticalErrors"
          :key="e.id"
          class="big wide"
          @click="
            evaluation.tap({ kind: 'critical-error', error: e.id });
            erring = false;
          "
        >
          {{ e.says }}
        </button>
      </div>
    </section>
    <p v-if="record.criticalErrors.length" class="stopped">
      Critical:
      {{
        record.criticalErrors
          .map((each) => pack.sheet.criticalErrors.find((e) => e.id === each.error)?.says)
          .join('; ')
      }}
    </p>
    <section v-for="section in appraisal.sections" :key="section.id" class="sheet pad">
      <h2 class="row spread">
        <span>{{ section.title }}</span><span class="quiet"
          >{{ section.score === null ? '' : `${section.score} %`
          }}{{ section.minimum === null ? '' : ` (minimum ${section.minimum} %)` }}</span
        >
      </h2>
      <ul>
        <li v-for="each in section.criteria" :key="each.criterion.id" class="criterion">
          <div class="grow">
            <strong>{{ each.criterion.says }}</strong>
            <span class="quiet">weight {{ each.criterion.weight }}</span>
            <div v-if="each.judged" class="quiet">From the judge: {{ each.because }}.</div>
            <div v-else-if="!byTrainer(each) || each.status === 'not-applicable'" class="quiet">
              {{ byTrainer(each) ? '' : 'From the round: ' }}{{ each.because }}
            </div>
            <div v-else-if="each.criterion.link?.measure === 'procedure'" class="quiet">
              Not stamped: you score it as you saw it, {{ procedures(each.criterion) }}.
              <button class="link" @click="$emit('go', section.id === 'stop' ? 'stop' : 'start')">
                Stamp it step by step
              </button>
            </div>
          </div>
          <FieldItem
            v-if="MEASURES[each.criterion.kind]"
            v-slot="{ id }"
            class="measure"
            :label="MEASURES[each.criterion.kind]!"
            ><InputNumber
              :id="id"
              v-model:value="value[each.criterion.id]"
              :min="0"
              :max="1000"
              :disabled="readOnly"
          /></FieldItem>
          <div v-if="byTrainer(each)" class="four" role="group" :aria-label="each.criterion.says">
            <button
              v-for="[result, word] in [
                ['done', 'Done'],
                ['prompted', 'Prompted'],
                ['not', 'Not done'],
              ] as const"
              :key="result"
              class="big"
              :aria-pressed="scored(each.criterion.id) === result"
              :disabled="readOnly"
              @click="score(each, result)"
            >
              {{ word }}
            </button>
            <button
              class="big"
              :aria-pressed="scored(each.criterion.id) === 'na'"
              :disabled="readOnly"
              @click="excusing = excusing === each.criterion.id ? null : each.criterion.id"
            >
              N/A
            </button>
          </div>
          <Form
            v-if="excusing === each.criterion.id"
            layout="vertical"
            class="excuse"
            @submit.prevent="excuse"
          >
            <FieldItem v-slot="{ id }" label="Why it does not apply" class="grow"
              ><Input :id="id" v-model:value="reason" :maxlength="500"
            /></FieldItem>
            <button class="big primary" type="submit" :disabled="reason.trim().length < 3">Keep</button>
          </Form>
        </li>
      </ul>
    </section>
    <p class="quiet">
      Not applicable needs a reason and may cover at most {{ pack.sheet.notApplicableMax * 100 }} % of the
      weight.
    </p>
  </div>
</template>

<style scoped>
.criterion {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0.75rem;
  padding: 0.6rem 0;
  border-top: 1px solid var(--line);
}
.four {
  display: grid;
  grid-template-columns: repeat(4, minmax(92px, 1fr));
  gap: 0.4rem;
}
.critical {
  border-color: var(--crimson);
  color: var(--crimson);
}
.errors {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(280px, 1fr));
  gap: 0.5rem;
  margin-top: 0.6rem;
}
.wide {
  text-align: left;
}
.measure {
  margin-bottom: 0;
  width: 120px;
}
.excuse {
  width: 100%;
  display: flex;
  gap: 0.5rem;
  align-items: flex-end;
}
p.stopped {
  padding: 0.7rem 1rem;
}
@media (max-width: 640px) {
  .four {
    grid-template-columns: repeat(2, 1fr);
    width: 100%;
  }
}
</style>
