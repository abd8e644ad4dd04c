<script setup lang="ts">
import { ReloadOutlined } from '@ant-design/icons-vue';
import type { Unit } from '@rounds/contract/machines';
import type { Grade, Pack } from '@rounds/core/catalogue';
import { proposePlants } from '@rounds/core/evaluation';
import { refDebounced } from '@vueuse/core';
import { Alert, Button, Form, Input, Textarea } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { deviceName, instantNow, useOutbox } from '../device/useOutbox';
import GradeDisc from '../drawing/GradeDisc.vue';
import ChoiceField from '../parts/ChoiceField.vue';
import FieldItem from '../parts/FieldItem.vue';
import FitOutSwitches from '../parts/FitOutSwitches.vue';
import ProblemAlert from '../parts/ProblemAlert.vue';
import { useClasses, useMachineClass, usePeopleLike } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import { useFitOut } from '../parts/useFitOut';
import PlantedFault from './PlantedFault.vue';
import { faultChoice } from './plantList';
import { type Candidate, useAddUnit, useCandidate, useCreateEvaluation, usePrerequisites } from './queries';

/**
 * Prepare an evaluation: who, which machine, under what conditions, and which faults are planted in it. Or a practice
 * of start and stop, in which nothing is planted.
 */
const props = withDefaults(defineProps<{ purpose?: 'evaluation' | 'practice' }>(), { purpose: 'evaluation' });
const practice = computed(() => props.purpose === 'practice');
const MOST_PLANTS = 8;
const route = useRoute();
const router = useRouter();
const outbox = useOutbox();
const asked = (name: string) => (typeof route.query[name] === 'string' ? String(route.query[name]) : '');
const problem = ref<unknown>(null);

const search = ref('');
const settled = refDebounced(search, 180);
const candidates = usePeopleLike(() => settled.value);
const named = useCandidate(() => asked('person'));
const person = ref<Candidate | null>(null);
watch(
  () => named.data.value,
  (found) => (person.value ??= found?.person ?? null),
  { immediate: true },
);
const people = computed(() => {
  const found = candidates.data.value?.rows.map((each) => each.person) ?? [];
  const chosen = person.value;
  return chosen && !found.some((each) => each.id === chosen.id) ? [chosen, ...found] : found;
});
const personChoices = computed(() =>
  people.value.map((each) => ({
    value: each.id,
    label: `${each.givenName} ${each.familyName}`,
    more: `${each.payroll}, ${each.team}`,
  })),
);
function choosePerson(id: string) {
  person.value = people.value.find((each) => each.id === id) ?? null;
  search.value = '';
}

const classes = useClasses();
const usable = computed(() => classes.list.value.filter((each) => each.revision !== null));
const classId = ref(asked('class'));
watch(
  usable,
  (list) => {
    if (!classId.value && list.length === 1) classId.value = list[0]!.id;
  },
  { immediate: true },
);
const unitId = ref('');
function chooseClass(id: string) {
  classId.value = id;
  unitId.value = '';
  chosen.value = [];
}
const machineClass = useMachineClass(() => classId.value);
const pack = computed(() => {
  const found = machineClass.data.value;
  return found?.summary.id === classId.value ? (found.pack as Pack | null) : null;
});
const units = computed(() =>
  pack.value ? (machineClass.data.value?.units.filter((each) => each.inService) ?? []) : [],
);
/** What the machine's site chose between schools holds for the evaluation too. */
const unitSite = computed(() => units.value.find((each) => each.id === unitId.value)?.site ?? '');
const atSite = useMachineClass(
  () => (unitSite.value === '' ? '' : classId.value),
  () => unitSite.value,
);
const choices = computed(() => (unitSite.value === '' ? {} : (atSite.data.value?.choices ?? {})));
const policy = computed(() => (unitSite.value === '' ? [] : (atSite.data.value?.policy ?? [])));
const { variant, features, effective } = useFitOut(pack, choices, policy);
function takeUnit(unit: Unit) {
  unitId.value = unit.id;
  const usual = Object.fromEntries(pack.value!.features.map((each) => [each.id, each.default]));
  features.value = { ...usual, ...unit.features };
  variant.value = unit.variant ?? pack.value!.variants[0]!.id;
  propose();
}
const addUnit = useAddUnit();
const newUnit = ref('');
async function addMachine() {
  problem.value = null;
  try {
    const made = await addUnit.mutateAsync({
      body: {
        classId: classId.value,
        name: newUnit.value,
        site: person.value?.site ?? 'unknown',
        variant: pack.value!.variants[0]!.id,
        features: {},
      },
    });
    newUnit.value = '';
    takeUnit(made);
  } catch (error) {
    problem.value = error;
  }
}

const conditions = ref('');
const chosen = ref<string[]>([]);
const confirmed = ref<string[]>([]);
const plantable = computed(() => effective.value?.faults.filter((each) => each.plant) ?? []);
const faults = computed(() =>
  chosen.value.flatMap((id) => plantable.value.find((each) => each.id === id) ?? []),
);
const others = computed(() => plantable.value.filter((each) => !chosen.value.includes(each.id)));
function propose() {
  confirmed.value = [];
  if (practice.value) return;
  const seed = crypto.getRandomValues(new Uint32Array(1))[0]!;
  chosen.value = effective.value
    ? proposePlants(effective.value, 4, seed, chosen.value).map((each) => each.id)
    : [];
}
watch([variant, features], () => {
  chosen.value = chosen.value.filter((id) => plantable.value.some((each) => each.id === id));
  confirmed.value = confirmed.value.filter((id) => chosen.value.includes(id));
});
const without = (list: string[], id: string) => list.filter((each) => each !== id);
function swap(from: string, to: string) {
  confirmed.value = without(confirmed.value, from);
  chosen.value = chosen.value.map((each) => (each === from ? to : each));
}
function remove(id: string) {
  chosen.value = without(chosen.value, id);
  confirmed.value = without(confirmed.value, id);
}
function toggle(id: string) {
  confirmed.value = confirmed.value.includes(id) ? without(confirmed.value, id) : [...confirmed.value, id];
}
function add(id: string) {
  if (id) chosen.value = [...chosen.value, id];
}

/** What a pass would wait for; a practice passes nobody. */
const before = usePrerequisites(
  () => (practice.value ? '' : (person.value?.id ?? '')),
  () => classId.value,
);
const waitsFor = computed(() => before.data.value?.missing ?? []);

const missing = computed(() => {
  const list: string[] = [];
  if (!person.value) list.push('choose the operator');
  if (!classId.value) list.push('choose the class');
  else if (!unitId.value) list.push('choose the machine');
  const open = chosen.value.filter((each) => !confirmed.value.includes(each)).length;
  if (open === 1) list.push('confirm one fault as planted, or leave it out');
  if (open > 1) list.push(`confirm ${open} faults as planted, or leave them out`);
  return list;
});

/**
 * The evaluation's number, and its plants', for as long as the same one is being prepared: a second try is
 * the same evaluation.
 */
let number: { of: string; id: string; plants: Map<string, string> } | null = null;
function numbers() {
  const of = `${person.value!.id} ${unitId.value}`;
  if (number?.of !== of) number = { of, id: uuidv7(), plants: new Map() };
  for (const fault of confirmed.value) if (!number.plants.has(fault)) number.plants.set(fault, uuidv7());
  return number;
}
const createEvaluation = useCreateEvaluation();
const busy = ref(false);
async function go() {
  if (!person.value || busy.value) return;
  busy.value = true;
  problem.value = null;
  try {
    const { id, plants } = numbers();
    const opened = await createEvaluation.mutateAsync({
      body: {
        id,
        personId: person.value.id,
        classId: classId.value,
        unitId: unitId.value,
        purpose: props.purpose,
        variant: variant.value,
        features: features.value,
        conditions: conditions.value,
        device: deviceName(),
      },
    });
    await outbox.keepDraft(id, opened);
    const planted = confirmed.value.map((fault) => ({
      id: plants.get(fault)!,
      at: instantNow(),
      body: { kind: 'planted' as const, fault },
    }));
    if (planted.length > 0) await outbox.put(id, planted);
    await router.push(`/assess/${id}`);
  } catch (error) {
    problem.value = error;
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="screen stack">
    <h1>{{ practice ? 'Practise start and stop' : 'Prepare an evaluation' }}</h1>
    <StateBox
      :loading="classes.isPending.value"
      :error="classes.data.value ? undefined : classes.error.value"
      :empty="usable.length === 0"
      what="the machine classes"
      @retry="classes.refetch()"
    >
      <template #empty>
        <h2>No class can be assessed yet</h2>
        <p>The administrator publishes a class pack first.</p>
      </template>
      <div :class="{ two: !practice }">
        <div class="stack">
          <section class="sheet pad" aria-label="Operator">
            <Form layout="vertical">
              <FieldItem v-slot="{ id }" label="Operator">
                <ChoiceField
                  :id="id"
                  :value="person?.id ?? ''"
                  label="Operator"
                  placeholder="Find by name or payroll number"
                  remote
                  clearable
                  :loading="candidates.isLoading.value"
                  :options="personChoices"
                  @search="search = $event"
                  @update:value="choosePerson"
                />
              </FieldItem>
              <FieldItem v-slot="{ id }" label="Class">
                <ChoiceField
                  :id="id"
                  :value="classId"
                  label="Class"
                  placeholder="Choose the class"
                  :options="usable.map((each) => ({ value: each.id, label: each.title }))"
                  @update:value="chooseClass"
                />
              </FieldItem>
              <template v-if="pack">
                <div class="units" role="group" aria-label="Machines of the class">
                  <button
                    v-for="each in units"
                    :key="each.id"
                    type="button"
                    class="big"
                    :aria-pressed="unitId === each.id"
                    @click="takeUnit(each)"
                  >
                    <strong>{{ each.name }}</strong><span>{{
                      pack.variants.find((v) => v.id === each.variant)?.name ?? ''
                    }}</span>
                  </button>
                </div>
                <FieldItem v-slot="{ id }" label="Not on the list? Add a machine">
                  <div class="adding">
                    <Input
                      :id="id"
                      v-model:value="newUnit"
                      :maxlength="80"
                      placeholder="name or fleet number"
                      @press-enter.prevent="newUnit.trim() && addMachine()"
                    /><Button
                      :disabled="!newUnit.trim()"
                      :loading="addUnit.isLoading.value"
                      @click="addMachine"
                      >Add</Button
                    >
                  </div>
                </FieldItem>
                <FitOutSwitches
                  v-if="unitId"
                  v-model:variant="variant"
                  v-model:features="features"
                  class="fit"
                  :pack="pack"
                  heading="Fit-out of this machine"
                />
              </template>
              <FieldItem v-slot="{ id }" label="Conditions" optional>
                <Textarea
                  :id="id"
                  v-model:value="conditions"
                  :rows="2"
                  :maxlength="2000"
                  placeholder="weather, light, ground, load"
                />
              </FieldItem>
            </Form>
          </section>
        </div>
        <section v-if="!practice" class="sheet pad stack" aria-label="Faults to plant">
          <div class="row spread">
            <h2>Faults to plant</h2>
            <Button v-if="effective && unitId" @click="propose"
              ><template #icon><ReloadOutlined /></template>Propose another set</Button
            >
          </div>
          <p v-if="!unitId" class="quiet">
            Choose the machine; a balanced set of plantable faults is proposed for it.
          </p>
          <template v-else-if="effective">
            <p class="quiet">
              Machine parked, isolated, key with you. Tick each fault when it is in place; each must be ticked
              out again before there is an outcome.
            </p>
            <p v-if="faults.length === 0">Nothing is planted: the round is assessed without hidden faults.</p>
            <ul>
              <PlantedFault
                v-for="fault in faults"
                :key="fault.id"
                :pack="effective"
                :fault="fault"
                :confirmed="confirmed.includes(fault.id)"
                :others="others"
                @remove="remove(fault.id)"
                @confirm="toggle(fault.id)"
                @swap="swap(fault.id, $event)"
              />
            </ul>
            <ChoiceField
              v-if="chosen.length < MOST_PLANTS"
              :value="''"
              label="Add a fault"
              :placeholder="`Add a fault: type to find one of ${others.length}`"
              searchable
              :options="others.map((each) => faultChoice(effective!, each))"
              @update:value="add"
            >
              <template #option="option">
                <GradeDisc :grade="(option as unknown as { grade: Grade }).grade" :size="18" />
                {{ option.label }} <span class="quiet">{{ option.more }}</span>
              </template>
            </ChoiceField>
          </template>
        </section>
      </div>
      <Alert
        v-if="waitsFor.length"
        type="warning"
        show-icon
        :message="`${person!.givenName} ${person!.familyName} is not ready by the rules in force: ${waitsFor.join(', ')} not on record`"
        description="You may assess all the same; a pass certifies only once it is."
      />
      <ProblemAlert :problem="problem" />
      <div class="row">
        <Button type="primary" size="large" :disabled="missing.length > 0" :loading="busy" @click="go"
          >Go to the machine</Button
        ><span v-if="missing.length" class="quiet">Still to do: {{ missing.join('; ') }}</span>
      </div>
    </StateBox>
  </div>
</template>

<style scoped>
.two {
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1.25fr);
  gap: 1.1rem;
  align-items: start;
}
.units {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(130px, 1fr));
  gap: 0.4rem;
  margin-bottom: 1rem;
}
.units .big {
  align-items: flex-start;
  border-width: 1px;
  font-weight: 400;
  font-size: 0.92rem;
  text-align: left;
}
.adding {
  display: flex;
  gap: 0.5rem;
}
.fit {
  margin-bottom: 1rem;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
