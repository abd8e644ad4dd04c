<script setup lang="ts">
import type { certificationRoutes } from '@rounds/contract/certification';
import type { RouteAnswer } from '@rounds/contract/route';
import {
  DEFAULT_RULES,
  type GivenCertificates,
  type RuleSet,
  STATUS_WORDS,
  type Trigger,
  TRIGGER_NAMES,
  TRIGGERS,
} from '@rounds/core/certification';
import {
  Alert,
  Button,
  Checkbox,
  Collapse,
  CollapsePanel,
  Form,
  FormItem,
  InputNumber,
  Radio,
  RadioGroup,
} from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import { useSession } from '../device/session';
import ChoiceField from '../parts/ChoiceField.vue';
import DataTable, { type Column } from '../parts/DataTable.vue';
import DateField from '../parts/DateField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import { day } from '../parts/words';
import { usePreviewRules, useRulesInForce, useRulesSets, useSetRules } from './queries';
import { FIGURES, GIVEN } from './ruleWords';

/**
 * Certification rules: for the organisation, and where a site or class has its own. New rules begin on a date
 * and say what becomes of certificates already given; who is affected is shown before they are kept.
 */
const session = useSession();
const sets = useRulesSets(true);
const inForce = useRulesInForce();
const previewRules = usePreviewRules();
const setRules = useSetRules();

const EVERYWHERE = '';
const today = session.installation?.today ?? '';
const site = ref(EVERYWHERE);
const classId = ref(EVERYWHERE);
const from = ref(today);
const given = ref<GivenCertificates>('keep');
const edited = ref<RuleSet | null>(null);
const preview = ref<RouteAnswer<typeof certificationRoutes.previewRules> | null>(null);
const said = ref<string | null>(null);
const problem = ref<unknown>(null);
const busy = ref(false);

const copyOf = (rules: RuleSet) => JSON.parse(JSON.stringify(rules)) as RuleSet;

/** The newest rule set of the scope that is chosen, else that of the organisation. */
const base = computed(() => {
  const of = sets.data.value?.sets.find(
    (each) => (each.site ?? EVERYWHERE) === site.value && (each.classId ?? EVERYWHERE) === classId.value,
  );
  return of?.rules ?? inForce.data.value?.rules ?? null;
});
const overridden = computed(() =>
  Boolean(
    (site.value || classId.value) &&
    sets.data.value?.sets.find(
      (each) => (each.site ?? EVERYWHERE) === site.value && (each.classId ?? EVERYWHERE) === classId.value,
    )?.rules,
  ),
);
watch(
  base,
  (now) => {
    edited.value = now ? copyOf(now) : null;
    preview.value = null;
  },
  { immediate: true },
);
watch([edited, from, given], () => (preview.value = null), { deep: true });

const effectOf = (trigger: Trigger) => {
  const effect = edited.value!.triggers[trigger];
  return typeof effect === 'string' ? effect : 'due';
};
const setEffect = (trigger: Trigger, effect: unknown) => {
  edited.value!.triggers[trigger] = effect === 'due' ? { dueInDays: 14 } : (effect as 'suspend' | 'none');
};
const daysOf = (trigger: Trigger) => {
  const effect = edited.value!.triggers[trigger];
  return typeof effect === 'string' ? null : effect.dueInDays;
};
const askHours = (asked: boolean) => (edited.value!.recency = asked ? { hours: 20, months: 12 } : null);
const whole = (value: unknown) => (typeof value === 'number' ? Math.round(value) : null);

const body = (rules: RuleSet | null) => ({
  site: site.value || null,
  classId: classId.value || null,
  effectiveFrom: from.value,
  rules,
  given: given.value,
});
async function act(what: () => Promise<void>) {
  busy.value = true;
  said.value = null;
  problem.value = null;
  try {
    await what();
  } catch (error) {
    problem.value = error;
  } finally {
    busy.value = false;
  }
}
const look = () =>
  act(async () => {
    preview.value = await previewRules.mutateAsync({ body: body(edited.value) });
  });
const keep = (rules: RuleSet | null) =>
  act(async () => {
    await setRules.mutateAsync({ body: body(rules) });
    said.value = `They begin on ${day(from.value)}. Earlier ones stay on record.`;
    preview.value = null;
  });

type Effect = RouteAnswer<typeof certificationRoutes.previewRules>['rows'][number];
function stands({ status, until, mayOperate }: Effect['before']): string {
  const end = until ? `, until ${day(until)}` : '';
  return `${STATUS_WORDS[status]}${end}${mayOperate === 'yes' ? '' : `, may operate: ${mayOperate}`}`;
}
const columns: Column<Effect>[] = [
  { key: 'person', title: 'Person', text: (row) => row.personName },
  { key: 'class', title: 'Class', text: (row) => row.classTitle },
  { key: 'before', title: 'Stands now', text: (row) => stands(row.before) },
  { key: 'after', title: 'Would stand', text: (row) => stands(row.after) },
];
function scopeWords(each: { site: string | null; classId: string | null }): string {
  const titled = sets.data.value?.classes.find((c) => c.id === each.classId)?.title ?? each.classId;
  return [titled, each.site].filter(Boolean).join(' at ') || 'The organisation';
}
const givenWords = (value: GivenCertificates) =>
  GIVEN.find((each) => each.value === value)!
    .name.replace('They ', '')
    .toLowerCase();
const EFFECTS = [
  { value: 'suspend', label: 'suspends at once' },
  { value: 'due', label: 'evaluation due within' },
  { value: 'none', label: 'changes nothing' },
] as const;
</script>

<template>
  <section class="sheet pad stack" aria-label="Certification rules">
    <h2>
      Certification rules
      <span v-if="inForce.data.value" class="quiet"
        >the organisation's in force since {{ day(inForce.data.value.effectiveFrom) }}</span
      >
    </h2>
    <StateBox
      :loading="!edited"
      :error="edited ? undefined : inForce.error.value"
      what="the rules"
      @retry="inForce.refetch()"
    >
      <Form v-if="edited" layout="vertical" @submit.prevent="look">
        <div class="grid">
          <FieldItem v-slot="{ id }" label="Rules of site"
            ><ChoiceField
              :id="id"
              v-model:value="site"
              label="Rules of site"
              placeholder="Every site"
              clearable
              :options="(sets.data.value?.sites ?? []).map((each) => ({ value: each, label: each }))"
          /></FieldItem>
          <FieldItem v-slot="{ id }" label="Rules of class"
            ><ChoiceField
              :id="id"
              v-model:value="classId"
              label="Rules of class"
              placeholder="Every class"
              clearable
              :options="
                (sets.data.value?.classes ?? []).map((each) => ({ value: each.id, label: each.title }))
              "
          /></FieldItem>
          <FieldItem v-slot="{ id }" label="They begin on"
            ><DateField :id="id" v-model:value="from" label="They begin on" :clearable="false" :from="today"
          /></FieldItem>
        </div>
        <p v-if="site || classId" class="quiet">
          {{
            overridden
              ? 'This site or class has rules of its own.'
              : 'No rules of its own yet: the organisation’s hold and are shown to start from.'
          }}
        </p>
        <div class="grid">
          <FieldItem v-for="each in FIGURES" :key="each.key" v-slot="{ id }" :label="each.name"
            ><InputNumber
              :id="id"
              v-model:value="edited[each.key]"
              :min="each.min"
              :max="each.max"
              :precision="0"
              :addon-after="each.unit"
          /></FieldItem>
          <FieldItem v-slot="{ id }" label="Minimum age" optional
            ><InputNumber
              :id="id"
              :value="edited.minimumAge ?? ''"
              :min="0"
              :max="99"
              :precision="0"
              addon-after="years"
              @change="edited.minimumAge = whole($event)"
          /></FieldItem>
          <FieldItem v-slot="{ id }" label="Medical holds" optional
            ><InputNumber
              :id="id"
              :value="edited.medicalMonths ?? ''"
              :min="1"
              :max="120"
              :precision="0"
              addon-after="months"
              @change="edited.medicalMonths = whole($event)"
          /></FieldItem>
          <FieldItem v-slot="{ id }" label="Evaluators calibrated every" optional
            ><InputNumber
              :id="id"
              :value="edited.calibrationMonths ?? ''"
              :min="1"
              :max="120"
              :precision="0"
              addon-after="months"
              @change="edited.calibrationMonths = whole($event)"
          /></FieldItem>
        </div>
        <div class="checks">
          <Checkbox v-model:checked="edited.requireLesson"
            >A lesson must be attended before a pass certifies</Checkbox
          >
          <Checkbox v-model:checked="edited.requireTheory"
            >Theory must be passed before a pass certifies</Checkbox
          >
          <Checkbox v-model:checked="edited.requireDrill"
            >The drill standard must be met before a pass certifies</Checkbox
          >
          <Checkbox v-model:checked="edited.endOfMonth"
            >Certificates run to the end of their last month</Checkbox
          >
          <Checkbox :checked="edited.recency !== null" @change="askHours($event.target.checked)"
            >Hours must be logged to go on operating</Checkbox
          >
        </div>
        <div v-if="edited.recency" class="grid">
          <FieldItem v-slot="{ id }" label="At least"
            ><InputNumber
              :id="id"
              v-model:value="edited.recency.hours"
              :min="1"
              :max="5000"
              addon-after="hours"
          /></FieldItem>
          <FieldItem v-slot="{ id }" label="Within the last"
            ><InputNumber
              :id="id"
              v-model:value="edited.recency.months"
              :min="1"
              :max="120"
              :precision="0"
              addon-after="months"
          /></FieldItem>
        </div>
        <h3>What each event does</h3>
        <ul class="triggers">
          <li v-for="trigger in TRIGGERS" :key="trigger">
            <strong>{{ TRIGGER_NAMES[trigger] }}</strong>
            <ChoiceField
              :value="effectOf(trigger)"
              :label="`What ${TRIGGER_NAMES[trigger]} does`"
              :options="EFFECTS"
              @update:value="setEffect(trigger, $event)"
            />
            <InputNumber
              v-if="effectOf(trigger) === 'due'"
              :value="daysOf(trigger) ?? 0"
              :min="0"
              :max="3650"
              :precision="0"
              addon-after="days"
              :aria-label="`Days for ${TRIGGER_NAMES[trigger]}`"
              @change="edited.triggers[trigger] = { dueInDays: whole($event) ?? 0 }"
            />
          </li>
        </ul>
        <FormItem label="Certificates already given">
          <RadioGroup v-model:value="given" class="given">
            <Radio v-for="each in GIVEN" :key="each.value" :value="each.value"
              ><strong>{{ each.name }}.</strong> {{ each.says }}</Radio
            >
          </RadioGroup>
        </FormItem>
        <div class="row">
          <Button html-type="submit" type="primary" :loading="busy">Look who is affected</Button>
          <Button v-if="overridden" :disabled="busy" @click="keep(null)"
            >Back to the wider rules from that day</Button
          >
          <Button :disabled="busy" @click="edited = copyOf(DEFAULT_RULES)"
            >Start from the shipped rules</Button
          >
        </div>
        <p class="quiet after">The employer's rules and local law decide these figures.</p>
      </Form>
    </StateBox>
    <ProblemAlert :problem="problem" />
    <Alert
      v-if="said"
      type="success"
      show-icon
      role="status"
      message="The new rules are kept"
      :description="said"
    />
    <section v-if="preview" class="stack" aria-label="Who is affected">
      <h3>
        {{
          preview.affected === 0
            ? `Nobody stands otherwise on ${day(preview.on)}`
            : `${preview.affected} standings change on ${day(preview.on)}`
        }}
      </h3>
      <DataTable
        v-if="preview.affected > 0"
        name="Who stands otherwise"
        :columns="columns"
        :rows="preview.rows"
        :row-key="(row) => row.personId + row.classId"
        :page-size="10"
      />
      <p v-if="preview.affected > preview.rows.length" class="quiet">
        and {{ preview.affected - preview.rows.length }} more
      </p>
      <div>
        <Button type="primary" :loading="busy" @click="keep(edited)">Keep these rules</Button>
      </div>
    </section>
    <Collapse v-if="sets.data.value?.sets.length" ghost>
      <CollapsePanel key="sets" :header="`Every rule set that was made (${sets.data.value.sets.length})`">
        <ul class="bullets">
          <li v-for="each in sets.data.value.sets" :key="each.id">
            <strong>{{ scopeWords(each) }}</strong>, from {{ day(each.effectiveFrom) }}:
            {{ each.rules ? `${each.rules.validMonths} months` : 'back to the wider rules' }}, certificates
            already given {{ givenWords(each.given) }}. Made by {{ each.by }}.
          </li>
        </ul>
      </CollapsePanel>
    </Collapse>
  </section>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(230px, 1fr));
  gap: 0 1rem;
}
.checks {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(400px, 100%), 1fr));
  gap: 0 1rem;
  margin-bottom: 1rem;
}
.triggers {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(420px, 100%), 1fr));
  gap: 0.5rem 1.5rem;
  margin: 0.5rem 0 1rem;
}
.triggers li {
  display: grid;
  grid-template-columns: 11.5rem 1fr 9rem;
  gap: 0.5rem;
  align-items: center;
}
.after {
  margin-top: 0.75rem;
}
.given {
  display: grid;
  gap: 0.6rem;
}
.given :deep(.ant-radio-wrapper) {
  white-space: normal;
}
@media (max-width: 760px) {
  .triggers {
    grid-template-columns: minmax(0, 1fr);
  }
  .triggers li {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
