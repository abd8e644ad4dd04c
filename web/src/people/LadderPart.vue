<script setup lang="ts">
import { CheckOutlined } from '@ant-design/icons-vue';
import { type LadderRung, ladderRoutes } from '@rounds/contract/ladder';
import { Button, Form, Input, Modal } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref } from 'vue';
import { useSession } from '../device/session';
import ChoiceField from '../parts/ChoiceField.vue';
import DateField from '../parts/DateField.vue';
import FieldItem from '../parts/FieldItem.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import StateBox from '../parts/StateBox.vue';
import { useContractForm } from '../parts/useContractForm';
import { day } from '../parts/words';
import { useLadders, useSignRung, useTakeRungBack } from './queries';

/** How far somebody has come in what a class teaches: its rungs in order, signed off one by one. */
const props = defineProps<{ personId: string }>();
const session = useSession();
const today = session.installation?.today ?? '';
const signs = session.is('trainer', 'administrator') && session.account?.personId !== props.personId;
const classId = ref('');
const asked = useLadders(
  () => props.personId,
  () => classId.value,
);
const found = computed(() => asked.data.value);
const ladder = computed(() => {
  const all = found.value?.ladders ?? [];
  return all.find((each) => each.classId === classId.value) ?? (classId.value ? null : (all[0] ?? null));
});
const choices = computed(() => {
  const begun = new Set(found.value?.ladders.map((each) => each.classId));
  return (found.value?.classes ?? [])
    .map((each) => ({ value: each.id, label: each.title, more: begun.has(each.id) ? '' : 'not begun' }))
    .sort((a, b) => Number(a.more !== '') - Number(b.more !== ''));
});
const done = computed(() => ladder.value?.rungs.filter((each) => each.signed).length ?? 0);
const next = computed(() => ladder.value?.rungs.find((each) => !each.signed)?.id ?? null);

const [sign, takeBack] = [useSignRung(), useTakeRungBack()];
const rung = ref<LadderRung | null>(null);
const signing = ref(false);
const form = useContractForm(ladderRoutes.signRung.body, () => ({ on: today, note: '' }), {
  fields: { 'date-in-future': 'on' },
  read: ({ on, note }) => ({
    id: uuidv7(),
    classId: ladder.value?.classId ?? '',
    rung: rung.value?.id ?? '',
    on,
    note: note.trim() || null,
  }),
});
const { values, errors, problem, busy } = form;
function begin(one: LadderRung) {
  rung.value = one;
  form.clear();
  signing.value = true;
}
async function signOff() {
  if (await form.submit((body) => sign.mutateAsync({ params: { id: props.personId }, body })))
    signing.value = false;
}
const taking = ref(false);
const back = useContractForm(ladderRoutes.takeRungBack.body, () => ({ why: '' }));
const backErrors = back.errors;
const backProblem = back.problem;
const backBusy = back.busy;
function beginBack(one: LadderRung) {
  rung.value = one;
  back.clear();
  taking.value = true;
}
async function take() {
  const signOffId = rung.value?.signed?.id ?? '';
  const taken = await back.submit((body) =>
    takeBack.mutateAsync({ params: { id: props.personId, signOff: signOffId }, body }),
  );
  if (taken) taking.value = false;
}
</script>

<template>
  <section class="stack" aria-label="Order of teaching">
    <div class="row spread">
      <h2>
        Order of teaching
        <span v-if="ladder" class="quiet">{{ done }} of {{ ladder.rungs.length }} signed off</span>
      </h2>
      <ChoiceField
        class="class"
        :value="ladder?.classId ?? classId"
        label="Class of the ladder"
        placeholder="Choose a class"
        :options="choices"
        @update:value="classId = $event"
      />
    </div>
    <StateBox
      :loading="!found && !asked.error.value"
      :error="found ? undefined : asked.error.value"
      :empty="!!found && !ladder"
      what="the order of teaching"
      @retry="asked.refetch()"
    >
      <template #empty>
        <h3>Nothing begun</h3>
        <p>Choose a class to see what it teaches, rung by rung.</p>
      </template>
      <ol v-if="ladder" class="sheet rungs">
        <li
          v-for="(each, i) in ladder.rungs"
          :key="each.id"
          :class="{ signed: each.signed, next: each.id === next }"
        >
          <span class="mark" aria-hidden="true"
            ><CheckOutlined v-if="each.signed" /><template v-else>{{ i + 1 }}</template></span
          >
          <div class="grow">
            <strong>{{ each.says }}</strong>
            <p class="quiet">{{ each.criterion ?? 'Shown once alone, without a prompt' }}</p>
            <p v-if="each.shown" class="small" :class="each.met ? 'met' : 'quiet'">{{ each.shown }}</p>
          </div>
          <div class="done">
            <template v-if="each.signed">
              <span>{{ day(each.signed.on) }}, {{ each.signed.by }}</span>
              <span v-if="each.signed.note" class="quiet small">{{ each.signed.note }}</span>
              <Button
                v-if="signs"
                type="link"
                :aria-label="`Take back: ${each.says}`"
                @click="beginBack(each)"
                >Take back</Button
              >
            </template>
            <Button
              v-else-if="signs"
              :type="each.id === next ? 'primary' : 'default'"
              :aria-label="`Sign off: ${each.says}`"
              @click="begin(each)"
              >Sign off</Button
            >
          </div>
        </li>
      </ol>
      <p v-for="each in ladder?.gone ?? []" :key="each.id" class="quiet small">
        Signed off {{ day(each.on) }}, {{ each.by }}: {{ each.says }} (no rung of this class any more)
      </p>
    </StateBox>
    <Modal v-model:open="signing" title="Sign off" :footer="null" destroy-on-close>
      <Form layout="vertical" @submit.prevent="signOff">
        <p class="asked">
          <strong>{{ rung?.says }}</strong><br />{{ rung?.criterion }}
        </p>
        <FieldItem v-slot="{ id, invalid }" label="Shown on" :error="errors['on']"
          ><DateField :id="id" v-model:value="values.on" label="Shown on" :to="today" :invalid="invalid"
        /></FieldItem>
        <FieldItem v-slot="{ id }" label="Note" optional :error="errors['note']"
          ><Input :id="id" v-model:value="values.note" :maxlength="200"
        /></FieldItem>
        <ProblemAlert :problem="problem" />
        <Button type="primary" block html-type="submit" :loading="busy">Sign off</Button>
      </Form>
    </Modal>
    <Modal v-model:open="taking" title="Take a sign-off back" :footer="null" destroy-on-close>
      <Form layout="vertical" @submit.prevent="take">
        <p class="asked">
          <strong>{{ rung?.says }}</strong><br />Both stay on record.
        </p>
        <FieldItem v-slot="{ id }" label="Why" :error="backErrors['why']"
          ><Input :id="id" v-model:value="back.values.why" :maxlength="200"
        /></FieldItem>
        <ProblemAlert :problem="backProblem" />
        <Button danger block html-type="submit" :loading="backBusy">Take it back</Button>
      </Form>
    </Modal>
  </section>
</template>

<style scoped>
.class {
  flex: 0 1 320px;
}
.rungs li {
  display: flex;
  gap: 0.9rem;
  align-items: flex-start;
  padding: 0.6rem 1rem;
  border-bottom: 1px solid var(--line);
  border-left: 8px solid transparent;
}
.rungs li:last-child {
  border-bottom: 0;
}
.rungs li.next {
  border-left-color: var(--amber);
}
.rungs li.signed {
  border-left-color: var(--petrol);
}
.mark {
  flex: 0 0 2rem;
  height: 2rem;
  display: grid;
  place-content: center;
  border: 2px solid var(--ink);
  border-radius: 50%;
  font-weight: 700;
}
.signed .mark {
  background: var(--petrol);
  border-color: var(--petrol);
  color: var(--on-petrol);
}
.done {
  flex: 0 0 14rem;
  display: grid;
  justify-items: end;
  text-align: right;
}
.met {
  color: var(--petrol);
  font-weight: 700;
}
.asked {
  margin-bottom: 0.8rem;
}
@media (max-width: 640px) {
  .rungs li {
    flex-wrap: wrap;
    padding: 0.6rem 0.6rem;
  }
  .done {
    flex: 1 0 100%;
  }
  .class {
    width: 100%;
  }
}
</style>
