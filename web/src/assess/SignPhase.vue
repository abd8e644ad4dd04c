<script setup lang="ts">
import { useQueryCache } from '@pinia/colada';
import { assessRoutes } from '@rounds/contract/assess';
import {
  agreementNeeded,
  DECIDED,
  type Decided,
  LEAST_REASON,
  OUTCOME_WORDS,
  OVERRIDE_CHOICES,
  type OverrideKind,
  overrideWords,
} from '@rounds/core/evaluation';
import { Button, Form, FormItem, Input, InputPassword, Textarea } from 'ant-design-vue';
import { computed, reactive, ref, watch } from 'vue';
import { fileAddress } from '../device/api';
import { useSession } from '../device/session';
import ChoiceField from '../parts/ChoiceField.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { amount, day } from '../parts/words';
import SignatureField from './SignatureField.vue';
import type { OpenEvaluation } from './useEvaluation';

/**
 * Decide and sign: the computed outcome, or another with a reason that is shown for ever, and with a second
 * trainer's agreement where a critical error or a missed planted stop would be passed over; then trainer and
 * operator sign, drawn or by name.
 */
const props = defineProps<{ evaluation: OpenEvaluation }>();
const emit = defineEmits<{ go: ['review' | 'retrieve' | 'sheet'] }>();
const cache = useQueryCache();
const session = useSession();
const a = computed(() => props.evaluation.appraisal.value!);
const evaluator = computed(() => props.evaluation.evaluator.value);
const record = computed(() => props.evaluation.record.value);
const summary = computed(() => props.evaluation.opened.value!.summary);
const ready = computed(() => a.value.outcome !== 'blocked' && a.value.outcome !== 'incomplete');
const chosen = ref<Decided>('not-yet');
watch(
  () => a.value.outcome,
  (now) => {
    if (now === 'competent' || now === 'not-yet' || now === 'stopped') chosen.value = now;
  },
  { immediate: true },
);
const kind = ref<OverrideKind>(OVERRIDE_CHOICES[0]!.kind);
const reason = ref('');
const problem = ref<unknown>(null);
const busy = ref(false);
const override = computed(() => chosen.value !== a.value.outcome);
const letters = (text: string) => text.replace(/\s/g, '').length;
const lifted = computed(() =>
  agreementNeeded(props.evaluation.pack.value!, record.value, a.value, chosen.value),
);
const agreed = computed(
  () =>
    record.value.agreements.findLast(
      (each) => each.outcome === chosen.value && each.account !== session.account?.id,
    ) ?? null,
);
const second = reactive({ login: '', password: '', words: '' });
const decision = computed(() => record.value.decision);
const both = computed(() => record.value.signatures.size === 2);
const mayDecide = computed(
  () =>
    (!override.value || letters(reason.value) >= LEAST_REASON) &&
    (lifted.value.length === 0 || agreed.value !== null),
);

async function act(what: () => Promise<void>) {
  busy.value = true;
  problem.value = null;
  try {
    await what();
    void cache.invalidateQueries();
  } catch (error) {
    problem.value = error;
  } finally {
    busy.value = false;
  }
}
const decide = () =>
  act(() =>
    props.evaluation.settle({
      kind: 'decided',
      outcome: chosen.value,
      ...(override.value ? { override: { kind: kind.value, words: reason.value.trim() } } : {}),
    }),
  );
const agree = () =>
  act(async () => {
    await props.evaluation.agree(chosen.value, second.words.trim(), second.login, second.password);
    Object.assign(second, { login: '', password: '', words: '' });
  });
const draw = (role: 'trainer' | 'operator', strokes: string) =>
  act(() => props.evaluation.settle({ kind: 'signed', role, strokes }));
const type = (role: 'trainer' | 'operator', by: { name: string; login: string; password: string }) =>
  act(() => props.evaluation.signByName(role, by.name, by.login, by.password));
const signers = computed(() => [
  {
    role: 'trainer' as const,
    title: 'Trainer',
    name: session.account?.name ?? '',
    login: session.account?.login ?? '',
  },
  { role: 'operator' as const, title: 'Operator', name: summary.value.personName, login: '' },
]);
</script>

<template>
  <div class="screen stack narrow">
    <template v-if="!decision">
      <h1>Decide</h1>
      <div v-if="!ready" class="sheet pad stack" role="alert">
        <h2>No outcome yet</h2>
        <p v-if="a.outcome === 'blocked'">
          {{ a.stillPlanted.length }} planted
          {{ a.stillPlanted.length === 1 ? 'fault is' : 'faults are' }} not ticked out. Take
          {{ a.stillPlanted.length === 1 ? 'it' : 'them' }} out first.
        </p>
        <p v-else-if="a.unscored.length">
          {{ amount(a.unscored.length, 'criterion is', 'criteria are') }} not scored.
        </p>
        <p v-else>The round has not been started and ended.</p>
        <button class="act" @click="emit('go', a.outcome === 'blocked' ? 'retrieve' : 'sheet')">
          {{ a.outcome === 'blocked' ? 'Take out' : 'Score sheet' }}
        </button>
      </div>
      <template v-else>
        <p>
          The computed outcome is <strong>{{ OUTCOME_WORDS[a.outcome] }}</strong> with {{ a.score }} %.
        </p>
        <p v-if="evaluator && (evaluator.state === 'due' || evaluator.state === 'never')">
          <span class="needs-you">Evaluator</span> {{ evaluator.says }} The report says so.
        </p>
        <div class="choices" role="radiogroup" aria-label="Outcome">
          <button
            v-for="each in DECIDED"
            :key="each"
            role="radio"
            :aria-checked="chosen === each"
            @click="chosen = each"
          >
            {{ OUTCOME_WORDS[each] }}
          </button>
        </div>
        <Form v-if="override" layout="vertical" class="sheet pad" @submit.prevent>
          <h2><span class="needs-you">Override</span> Why the computed outcome does not stand</h2>
          <p class="quiet">
            It stays on record: in the report, the person's history and standing, the card and exports.
          </p>
          <FormItem label="What kind of reason">
            <ChoiceField
              v-model:value="kind"
              :options="OVERRIDE_CHOICES.map((each) => ({ value: each.kind, label: each.words }))"
              label="What kind of reason"
            />
          </FormItem>
          <FormItem
            :label="`In words, at least ${LEAST_REASON} letters`"
            :help="
              reason && letters(reason) < LEAST_REASON ? `${LEAST_REASON - letters(reason)} more` : undefined
            "
          >
            <Textarea v-model:value="reason" :rows="3" :maxlength="2000" aria-label="The reason in words" />
          </FormItem>
        </Form>
        <section v-if="lifted.length" class="sheet pad stack" aria-label="Agreement of a second trainer">
          <h2><span class="needs-you">A second trainer must agree</span></h2>
          <p>Deciding "{{ OUTCOME_WORDS[chosen] }}" passes over:</p>
          <ul>
            <li v-for="each in lifted" :key="each">{{ each }}</li>
          </ul>
          <p v-if="agreed">
            <strong>{{ agreed.by }} agreed:</strong> {{ agreed.words }}
          </p>
          <Form v-else layout="vertical" class="two" @submit.prevent="agree">
            <FormItem label="Sign-in name of the second trainer"
              ><Input
                v-model:value="second.login"
                autocomplete="off"
                size="large"
                aria-label="Sign-in name of the second trainer"
            /></FormItem>
            <FormItem label="Their password"
              ><InputPassword
                v-model:value="second.password"
                autocomplete="off"
                size="large"
                aria-label="Their password"
            /></FormItem>
            <FormItem :label="`Why they agree, at least ${LEAST_REASON} letters`" class="wide"
              ><Textarea v-model:value="second.words" :rows="2" :maxlength="2000" aria-label="Why they agree"
            /></FormItem>
            <Button
              html-type="submit"
              size="large"
              :disabled="busy || !second.login || !second.password || letters(second.words) < LEAST_REASON"
              >They agree</Button
            >
          </Form>
        </section>
        <div>
          <button class="act" :disabled="busy || !mayDecide" @click="decide">
            Decide: {{ OUTCOME_WORDS[chosen] }}
          </button>
        </div>
      </template>
    </template>
    <template v-else>
      <h1>{{ OUTCOME_WORDS[decision.outcome] }}</h1>
      <p v-if="decision.override"><strong>Overridden.</strong> {{ overrideWords(decision.override) }}</p>
      <template v-if="!both">
        <p>Both sign here. Then the result is on record and, where competent, the card can be printed.</p>
        <div class="two">
          <section
            v-for="each in signers"
            :key="each.role"
            class="sheet pad stack"
            :aria-label="`${each.title} signs`"
          >
            <h2>{{ each.title }}: {{ each.name }}</h2>
            <p v-if="record.signatures.has(each.role)">
              Signed{{ each.role === 'trainer' ? ` by ${record.signatures.get('trainer')!.by}` : '' }}.
            </p>
            <SignatureField
              v-else
              :role="each.role"
              :name="each.name"
              :login="each.login"
              :busy="busy"
              @drawn="draw(each.role, $event)"
              @typed="type(each.role, $event)"
            />
          </section>
        </div>
      </template>
      <div v-else class="sheet pad stack" role="status">
        <h2>Signed and on record</h2>
        <p>
          <strong>{{ summary.personName }}</strong> on the {{ summary.classTitle.toLowerCase() }}
          {{ summary.unitName }}: {{ summary.score ?? a.score }} %, evaluated by
          {{ decision.by ?? summary.trainerName }}, {{ day(decision.at) }}.
          <template v-if="evaluator">Evaluator: {{ evaluator.says }}</template>
          {{
            evaluation.token.value
              ? 'The standing and the card follow from it.'
              : 'No card follows from it; the standing shows why.'
          }}
        </p>
        <ul>
          <li v-for="r in a.reasons" :key="r.text">{{ r.text }}</li>
        </ul>
        <div class="row">
          <a
            v-if="evaluation.token.value"
            class="act"
            :href="fileAddress(assessRoutes.card, { token: evaluation.token.value })"
            target="_blank"
            >Print the card</a
          >
          <a class="act plain" :href="fileAddress(assessRoutes.report, { id: summary.id })" target="_blank"
            >Report (PDF)</a
          >
          <RouterLink class="act plain" :to="`/people/${summary.personId}`">{{
            summary.personName
          }}</RouterLink>
          <RouterLink class="act plain" to="/people/matrix">Standing matrix</RouterLink>
        </div>
      </div>
    </template>
    <ProblemAlert :problem="problem" />
  </div>
</template>

<style scoped>
.narrow {
  max-width: 1060px;
}
.choices {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 0.6rem;
}
.choices button {
  font: inherit;
  font-weight: 700;
  min-height: 72px;
  border: 2px solid var(--ink);
  background: var(--raised);
  color: var(--ink);
  border-radius: 3px;
  cursor: pointer;
}
.choices [aria-checked='true'] {
  background: var(--petrol);
  color: var(--on-petrol);
  border-color: var(--petrol);
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 1rem;
}
.problem {
  border-left: 6px solid var(--crimson);
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 760px) {
  .two,
  .choices {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
