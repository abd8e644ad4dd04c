<script setup lang="ts">
import { routes, type RouteAnswer } from '@rounds/contract';
import {
  DEFAULT_RULES,
  TRIGGERS,
  type GivenCertificates,
  type RuleSet,
  type Trigger,
  STATUS_WORDS,
  TRIGGER_NAMES,
} from '@rounds/core/certification';
import { useQuery } from '@pinia/colada';
import {
  Alert,
  Button,
  Checkbox,
  DatePicker,
  Form,
  FormItem,
  InputNumber,
  Radio,
  RadioGroup,
  Table,
} from 'ant-design-vue';
import { computed, ref, watch } from 'vue';
import StateBox from '../parts/StateBox.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import { call, explain } from '../device/api';
import { useSession } from '../device/session';
import { day } from '../parts/words';

/**
 * Certification rules: for the organisation, and where a site or class has its own. New rules begin on a date
 * and say what becomes of certificates already given; who is affected is shown before they are kept.
 */
defineProps<{ administers: boolean }>();
const session = useSession();
const sets = useQuery({
  key: ['rules-sets'],
  query: () => call(routes.rulesSets, {}),
  enabled: () => session.is('trainer', 'supervisor', 'administrator'),
});
const inForce = useQuery({ key: ['rules'], query: () => call(routes.rules, {}) });

const EVERYWHERE = '';
const site = ref(EVERYWHERE);
const classId = ref(EVERYWHERE);
const from = ref(session.installation?.today ?? '');
const given = ref<GivenCertificates>('keep');
const edited = ref<RuleSet | null>(null);
const preview = ref<RouteAnswer<typeof routes.previewRules> | null>(null);
const said = ref<{ type: 'success' | 'error'; message: string; description: string } | null>(null);
const busy = ref(false);

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
    edited.value = now ? (JSON.parse(JSON.stringify(now)) as RuleSet) : null;
    preview.value = null;
  },
  { immediate: true },
);
watch([edited, from, given], () => (preview.value = null), { deep: true });

const NUMBERS: readonly {
  key: 'validMonths' | 'leadDays' | 'graceDays' | 'keepAnniversaryDays';
  name: string;
  unit: string;
  max: number;
  min: number;
}[] = [
  { key: 'validMonths', name: 'A certificate holds', unit: 'months', min: 1, max: 120 },
  { key: 'leadDays', name: 'Counts as due before its end', unit: 'days', min: 0, max: 365 },
  { key: 'graceDays', name: 'Grace after its end, supervised', unit: 'days', min: 0, max: 365 },
  {
    key: 'keepAnniversaryDays',
    name: 'Renewal keeps the anniversary',
    unit: 'days before',
    min: 0,
    max: 365,
  },
];
const GIVEN: readonly { value: GivenCertificates; name: string; says: string }[] = [
  {
    value: 'keep',
    name: 'They keep their end',
    says: 'Each runs to the day on its card. Notice, grace, age, medical and hours follow the new rules.',
  },
  {
    value: 'at-renewal',
    name: 'They change at renewal',
    says: 'Everything stays as it was until the person is evaluated again.',
  },
  {
    value: 'at-once',
    name: 'They change at once',
    says: 'Their end is counted anew from their date. Nothing before the new rules begin changes.',
  },
];
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
  try {
    await what();
  } catch (error) {
    const { title, detail } = explain(error);
    said.value = { type: 'error', message: title, description: detail };
  } finally {
    busy.value = false;
  }
}
const look = () =>
  act(async () => {
    preview.value = await call(routes.previewRules, { body: body(edited.value) });
  });
const keep = (rules: RuleSet | null) =>
  act(async () => {
    await call(routes.setRules, { body: body(rules) });
    said.value = {
      type: 'success',
      message: 'The new rules are kept',
      description: `They begin on ${day(from.value)}. Earlier ones stay on record.`,
    };
    preview.value = null;
    await Promise.all([sets.refetch(), inForce.refetch()]);
  });
const columns = [
  { title: 'Person', dataIndex: 'personName', key: 'personName' },
  { title: 'Class', dataIndex: 'classTitle', key: 'classTitle' },
  { title: 'Stands now', key: 'before' },
  { title: 'Would stand', key: 'after' },
];
type Effect = RouteAnswer<typeof routes.previewRules>['rows'][number];
const stands = (then: Effect['before']) =>
  `${STATUS_WORDS[then.status]}${then.until ? `, until ${day(then.until)}` : ''}${then.mayOperate === 'yes' ? '' : `, may operate: ${then.mayOperate}`}`;
const scopeWords = (each: { site: string | null; classId: string | null }) =>
  [
    each.classId
      ? (sets.data.value?.classes.find((c) => c.id === each.classId)?.title ?? each.classId)
      : null,
    each.site,
  ]
    .filter(Boolean)
    .join(' at ') || 'The organisation';
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
      :loading="inForce.isPending.value"
      :error="inForce.error.value"
      what="the rules"
      @retry="inForce.refetch()"
    >
      <Form v-if="edited" layout="vertical" @submit.prevent="look">
        <div v-if="administers" class="grid">
          <FormItem label="Rules of site"
            ><ChoiceField
              v-model:value="site"
              label="Rules of site"
              :options="[
                { value: '', label: 'Every site' },
                ...(sets.data.value?.sites ?? []).map((each) => ({ value: each, label: each })),
              ]"
          /></FormItem>
          <FormItem label="Rules of class"
            ><ChoiceField
              v-model:value="classId"
              searchable
              label="Rules of class"
              :options="[
                { value: '', label: 'Every class' },
                ...(sets.data.value?.classes ?? []).map((each) => ({ value: each.id, label: each.title })),
              ]"
          /></FormItem>
        </div>
        <p v-if="site || classId" class="quiet">
          {{
            overridden
              ? 'This site or class has rules of its own.'
              : 'No rules of its own yet: the organisation’s hold and are shown to start from.'
          }}
        </p>
        <div class="grid">
          <FormItem v-for="each in NUMBERS" :key="each.key" :label="each.name"
            ><InputNumber
              v-model:value="edited[each.key]"
              :min="each.min"
              :max="each.max"
              :precision="0"
              :addon-after="each.unit"
              :disabled="!administers"
              size="large"
              :aria-label="each.name"
          /></FormItem>
          <FormItem label="Minimum age (empty for none)"
            ><InputNumber
              :value="edited.minimumAge ?? ''"
              :min="0"
              :max="99"
              :precision="0"
              addon-after="years"
              :disabled="!administers"
              size="large"
              aria-label="Minimum age"
              @change="edited.minimumAge = whole($event)"
          /></FormItem>
          <FormItem label="Medical holds (empty for none)"
            ><InputNumber
              :value="edited.medicalMonths ?? ''"
              :min="1"
              :max="120"
              :precision="0"
              addon-after="months"
              :disabled="!administers"
              size="large"
              aria-label="Medical holds"
              @change="edited.medicalMonths = whole($event)"
          /></FormItem>
        </div>
        <div class="checks">
          <Checkbox v-model:checked="edited.requireTheory" :disabled="!administers"
            >Theory must be passed before a pass certifies</Checkbox
          >
          <Checkbox v-model:checked="edited.requireDrill" :disabled="!administers"
            >The drill standard must be met before a pass certifies</Checkbox
          >
          <Checkbox v-model:checked="edited.endOfMonth" :disabled="!administers"
            >Certificates run to the end of their last month</Checkbox
          >
          <Checkbox
            :checked="edited.recency !== null"
            :disabled="!administers"
            @change="
              edited.recency = ($event.target as HTMLInputElement).checked ? { hours: 20, months: 12 } : null
            "
            >Hours must be logged to go on operating</Checkbox
          >
        </div>
        <div v-if="edited.recency" class="grid">
          <FormItem label="At least"
            ><InputNumber
              v-model:value="edited.recency.hours"
              :min="1"
              :max="5000"
              addon-after="hours"
              :disabled="!administers"
              size="large"
              aria-label="At least hours"
          /></FormItem>
          <FormItem label="Within the last"
            ><InputNumber
              v-model:value="edited.recency.months"
              :min="1"
              :max="120"
              :precision="0"
              addon-after="months"
              :disabled="!administers"
              size="large"
              aria-label="Within the last months"
          /></FormItem>
        </div>
        <h3>What each event does</h3>
        <ul class="triggers">
          <li v-for="trigger in TRIGGERS" :key="trigger">
            <strong>{{ TRIGGER_NAMES[trigger] }}</strong>
            <ChoiceField
              :value="effectOf(trigger)"
              :disabled="!administers"
              :label="`What ${TRIGGER_NAMES[trigger]} does`"
              :options="[
                { value: 'suspend', label: 'suspends at once' },
                { value: 'due', label: 'evaluation due within' },
                { value: 'none', label: 'changes nothing' },
              ]"
              @update:value="setEffect(trigger, $event)"
            />
            <InputNumber
              v-if="effectOf(trigger) === 'due'"
              :value="daysOf(trigger) ?? 0"
              :min="0"
              :max="3650"
              :precision="0"
              addon-after="days"
              :disabled="!administers"
              size="large"
              :aria-label="`Days for ${TRIGGER_NAMES[trigger]}`"
              @change="edited.triggers[trigger] = { dueInDays: whole($event) ?? 0 }"
            />
          </li>
        </ul>
        <template v-if="administers">
          <div class="grid">
            <FormItem label="They begin on" html-for="rules-begin"
              ><DatePicker
                id="rules-begin"
                v-model:value="from"
                value-format="YYYY-MM-DD"
                format="D MMMM YYYY"
                :allow-clear="false"
                size="large"
            /></FormItem>
          </div>
          <FormItem label="Certificates already given">
            <RadioGroup v-model:value="given" class="given">
              <Radio v-for="each in GIVEN" :key="each.value" :value="each.value"
                ><strong>{{ each.name }}.</strong> {{ each.says }}</Radio
              >
            </RadioGroup>
          </FormItem>
          <div class="row">
            <Button html-type="submit" type="primary" size="large" :loading="busy"
              >Look who is affected</Button
            >
            <Button v-if="overridden" size="large" :disabled="busy" @click="keep(null)"
              >Back to the wider rules from that day</Button
            >
            <Button size="large" :disabled="busy" @click="edited = JSON.parse(JSON.stringify(DEFAULT_RULES))"
              >Start from the shipped rules</Button
            >
          </div>
        </template>
        <p class="quiet">The employer's rules and local law decide these figures.</p>
      </Form>
    </StateBox>
    <Alert
      v-if="said"
      :type="said.type"
      :message="said.message"
      :description="said.description"
      show-icon
      role="status"
    />
    <section v-if="preview" class="stack" aria-label="Who is affected">
      <h3>
        {{
          preview.affected === 0
            ? `Nobody stands otherwise on ${day(preview.on)}`
            : `${preview.affected} standings change on ${day(preview.on)}`
        }}
      </h3>
      <Table
        v-if="preview.affected > 0"
        :columns="columns"
        :data-source="preview.rows"
        :row-key="(row: Effect) => row.personId + row.classId"
        :pagination="{ pageSize: 10, hideOnSinglePage: true }"
        size="small"
        :scroll="{ x: 'max-content' }"
      >
        <template #bodyCell="{ column, record }">
          <template v-if="column.key === 'before'">{{ stands(record.before) }}</template>
          <template v-else-if="column.key === 'after'">{{ stands(record.after) }}</template>
        </template>
      </Table>
      <p v-if="preview.affected > preview.rows.length" class="quiet">
        and {{ preview.affected - preview.rows.length }} more
      </p>
      <div>
        <Button type="primary" size="large" :loading="busy" @click="keep(edited)">Keep these rules</Button>
      </div>
    </section>
    <details v-if="sets.data.value?.sets.length">
      <summary>Every rule set that was made ({{ sets.data.value.sets.length }})</summary>
      <ul>
        <li v-for="each in sets.data.value.sets" :key="each.id">
          <strong>{{ scopeWords(each) }}</strong>, from {{ day(each.effectiveFrom) }}:
          {{ each.rules ? `${each.rules.validMonths} months` : 'back to the wider rules' }}, certificates
          already given
          {{
            GIVEN.find((g) => g.value === each.given)!
              .name.replace('They ', '')
              .toLowerCase()
          }}. Made by {{ each.by }}.
        </li>
      </ul>
    </details>
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
  gap: 0.6rem;
  margin-bottom: 1rem;
}
.triggers {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(420px, 1fr));
  gap: 0.5rem 1.5rem;
  margin: 0.5rem 0 1rem;
}
.triggers li {
  display: grid;
  grid-template-columns: 11.5rem 1fr 9rem;
  gap: 0.5rem;
  align-items: center;
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
