<script setup lang="ts">
import { GRADE_WORDS } from '@rounds/core/grading';
import { routes, type RouteAnswer, type Unit } from '@rounds/contract';
import type { Fault, Pack } from '@rounds/core/catalogue';
import { proposePlants } from '@rounds/core/evaluation';
import { useQuery } from '@pinia/colada';
import { Button } from 'ant-design-vue';
import { v7 as uuidv7 } from 'uuid';
import { computed, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import StateBox from '../parts/StateBox.vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import { call, explain } from '../device/api';

import FitOutSwitches from '../parts/FitOutSwitches.vue';
import { useFitOut } from '../parts/useFitOut';
import { deviceName, instantNow, useOutbox } from '../device/useOutbox';

const route = useRoute();
const router = useRouter();
const outbox = useOutbox();
type Person = RouteAnswer<typeof routes.people>['rows'][number]['person'];

const search = ref('');
const people = ref<Person[]>([]);
const person = ref<Person | null>(null);
const classId = ref('');
const unitId = ref('');
const conditions = ref('');
const chosen = ref<string[]>([]);
const confirmed = ref<string[]>([]);
const busy = ref(false);
const problem = ref<{ title: string; detail: string } | null>(null);
const newUnit = ref('');

const classes = useQuery({ key: ['classes'], query: () => call(routes.classes, {}) });
const usable = computed(() => classes.data.value?.classes.filter((each) => each.revision !== null) ?? []);
const machineClass = useQuery({
  key: () => ['class', classId.value],
  query: () => call(routes.machineClass, { params: { id: classId.value } }),
  enabled: () => classId.value !== '',
});
const pack = computed(() =>
  machineClass.data.value?.summary.id === classId.value
    ? (machineClass.data.value.pack as Pack | null)
    : null,
);
const units = computed(() =>
  pack.value ? (machineClass.data.value?.units.filter((each) => each.inService) ?? []) : [],
);
/** What the machine's site chose between schools holds for the evaluation too. */
const unitSite = computed(() => units.value.find((each) => each.id === unitId.value)?.site ?? '');
const atSite = useQuery({
  key: () => ['class', classId.value, unitSite.value],
  query: () => call(routes.machineClass, { params: { id: classId.value }, query: { site: unitSite.value } }),
  enabled: () => unitSite.value !== '',
});
const choices = computed(() => atSite.data.value?.choices ?? {});
const { variant, features, effective } = useFitOut(pack, choices);
const plantable = computed(() => effective.value?.faults.filter((each) => each.plant) ?? []);
const faults = computed(() =>
  chosen.value.flatMap((id) => plantable.value.find((each) => each.id === id) ?? []),
);
const where = (fault: Fault) => {
  const checkpoint = effective.value?.checkpoints.find((each) => each.id === fault.checkpoint);
  return `${checkpoint?.part ?? ''} (${effective.value?.plan.stations.find((each) => each.id === checkpoint?.station)?.name ?? ''})`;
};

watch(
  usable,
  (list) => {
    if (!classId.value && list[0]) classId.value = list.length === 1 ? list[0].id : '';
  },
  { immediate: true },
);

async function findPeople() {
  try {
    people.value = (await call(routes.people, { query: { search: search.value, limit: 8 } })).rows.map(
      (each) => each.person,
    );
  } catch (error) {
    problem.value = explain(error);
  }
}
let typing: ReturnType<typeof setTimeout> | undefined;
watch(search, () => {
  clearTimeout(typing);
  typing = setTimeout(findPeople, 180);
});
async function start() {
  const wanted = route.query['person'];
  if (typeof wanted === 'string') {
    try {
      person.value = (await call(routes.person, { params: { id: wanted } })).person;
    } catch (error) {
      problem.value = explain(error);
    }
  } else await findPeople();
}
void start();

function takeUnit(unit: Unit) {
  unitId.value = unit.id;
  features.value = {
    ...Object.fromEntries(pack.value!.features.map((each) => [each.id, each.default])),
    ...unit.features,
  };
  variant.value = unit.variant ?? pack.value!.variants[0]!.id;
  propose();
}
function propose() {
  confirmed.value = [];
  chosen.value = effective.value
    ? proposePlants(effective.value, 4, crypto.getRandomValues(new Uint32Array(1))[0]!, chosen.value).map(
        (each) => each.id,
      )
    : [];
}
watch([variant, features], () => {
  chosen.value = chosen.value.filter((id) => plantable.value.some((each) => each.id === id));
  confirmed.value = confirmed.value.filter((id) => chosen.value.includes(id));
});
function swap(index: number, id: string) {
  confirmed.value = confirmed.value.filter((each) => each !== chosen.value[index]);
  chosen.value = chosen.value.map((each, i) => (i === index ? id : each));
}
function remove(id: string) {
  chosen.value = chosen.value.filter((each) => each !== id);
  confirmed.value = confirmed.value.filter((each) => each !== id);
}
function toggle(id: string) {
  confirmed.value = confirmed.value.includes(id)
    ? confirmed.value.filter((each) => each !== id)
    : [...confirmed.value, id];
}
async function addUnit() {
  try {
    const made = await call(routes.addUnit, {
      body: {
        classId: classId.value,
        name: newUnit.value,
        site: person.value?.site ?? 'unknown',
        variant: pack.value!.variants[0]!.id,
        features: {},
      },
    });
    newUnit.value = '';
    await machineClass.refetch();
    takeUnit(made);
  } catch (error) {
    problem.value = explain(error);
  }
}

const missing = computed(() => {
  const list: string[] = [];
  if (!person.value) list.push('choose the operator');
  if (!classId.value) list.push('choose the class');
  else if (!unitId.value) list.push('choose the machine');
  const open = chosen.value.filter((each) => !confirmed.value.includes(each)).length;
  if (open > 0)
    list.push(
      `confirm ${open === 1 ? 'one fault' : `${open} faults`} as planted, or leave ${open === 1 ? 'it' : 'them'} out`,
    );
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

async function go() {
  if (!person.value || busy.value) return;
  busy.value = true;
  problem.value = null;
  try {
    const { id, plants } = numbers();
    const opened = await call(routes.createEvaluation, {
      body: {
        id,
        personId: person.value.id,
        classId: classId.value,
        unitId: unitId.value,
        variant: variant.value,
        features: features.value,
        conditions: conditions.value,
        device: deviceName(),
      },
    });
    await outbox.keepDraft(id, opened);
    if (confirmed.value.length > 0)
      await outbox.put(
        id,
        confirmed.value.map((fault) => ({
          id: plants.get(fault)!,
          at: instantNow(),
          body: { kind: 'planted' as const, fault },
        })),
      );
    await router.push(`/assess/${id}`);
  } catch (error) {
    problem.value = explain(error);
  } finally {
    busy.value = false;
  }
}
</script>

<template>
  <div class="screen stack">
    <h1>Prepare an evaluation</h1>
    <StateBox
      :loading="classes.isPending.value"
      :error="classes.error.value"
      :empty="usable.length === 0"
      what="the machine classes"
      @retry="classes.refetch()"
    >
      <template #empty
        ><h2>No class can be assessed yet</h2>
        <p>The administrator publishes a class pack first.</p></template
      >
      <div class="two">
        <div class="stack">
          <section class="sheet pad stack" aria-label="Operator">
            <h2>Operator</h2>
            <div v-if="person" class="row spread">
              <span
                ><strong>{{ person.givenName }} {{ person.familyName }}</strong>
                <span class="quiet">{{ person.payroll }}, {{ person.team }}</span></span
              ><Button @click="person = null">Change</Button>
            </div>
            <template v-else>
              <label class="field"
                >Find by name or payroll number <input v-model="search" type="search" class="plain"
              /></label>
              <ul class="pick">
                <li v-for="each in people" :key="each.id">
                  <button @click="person = each">
                    <strong>{{ each.givenName }} {{ each.familyName }}</strong>
                    <span class="quiet">{{ each.payroll }}, {{ each.team }}</span>
                  </button>
                </li>
              </ul>
              <p v-if="search && people.length === 0" class="quiet">Nobody matches.</p>
            </template>
          </section>
          <section class="sheet pad stack" aria-label="Machine">
            <h2>Machine</h2>
            <label class="field"
              >Class
              <select v-model="classId" class="plain" @change="unitId = ''">
                <option value="" disabled>choose</option>
                <option v-for="each in usable" :key="each.id" :value="each.id">{{ each.title }}</option>
              </select></label
            >
            <template v-if="pack">
              <div class="units" role="group" aria-label="Machines of the class">
                <button
                  v-for="each in units"
                  :key="each.id"
                  :aria-pressed="unitId === each.id"
                  @click="takeUnit(each)"
                >
                  <strong>{{ each.name }}</strong><span>{{
                    pack.variants.find((v) => v.id === each.variant)?.name ?? ''
                  }}</span>
                </button>
              </div>
              <form class="row" @submit.prevent="addUnit">
                <label class="field grow"
                  >Not on the list? Add a machine
                  <input
                    v-model="newUnit"
                    class="plain"
                    maxlength="80"
                    placeholder="name or fleet number" /></label
                ><Button html-type="submit" :disabled="!newUnit.trim()" style="align-self: flex-end"
                  >Add</Button
                >
              </form>
              <template v-if="unitId">
                <FitOutSwitches
                  v-model:variant="variant"
                  v-model:features="features"
                  :pack="pack"
                  heading="Fit-out as on this machine"
                />
              </template>
            </template>
            <label class="field"
              >Conditions
              <textarea
                v-model="conditions"
                class="plain"
                rows="2"
                maxlength="2000"
                placeholder="weather, light, ground, load"
              ></textarea>
            </label>
          </section>
        </div>
        <section class="sheet pad stack" aria-label="Faults to plant">
          <div class="row spread">
            <h2>Faults to plant</h2>
            <Button v-if="effective && unitId" @click="propose">Propose another set</Button>
          </div>
          <p v-if="!unitId" class="quiet">
            Choose the machine; a balanced set of plantable faults is proposed for it.
          </p>
          <template v-else>
            <p class="quiet">
              Machine parked, isolated, key with you. Tick each fault when it is in place; each must be ticked
              out again before there is an outcome.
            </p>
            <p v-if="faults.length === 0">Nothing is planted: the round is assessed without hidden faults.</p>
            <ul class="plants">
              <li v-for="(fault, i) in faults" :key="fault.id" :class="{ in: confirmed.includes(fault.id) }">
                <div class="row spread nowrap">
                  <span
                    ><GradeDisc :grade="fault.grade" />
                    <strong
                      >{{ GRADE_WORDS[fault.grade]
                      }}{{ fault.grade === 'sound' ? ' (lookalike)' : '' }}</strong
                    >
                    <span class="quiet">{{ where(fault) }}</span></span
                  ><Button @click="remove(fault.id)">Leave out</Button>
                </div>
                <p>
                  <strong>{{ fault.plant!.how }}</strong>: {{ fault.cues.map((c) => c.shows).join('; ') }}
                </p>
                <div class="row spread">
                  <label class="grow"
                    ><span class="visually-hidden">Replace by</span
                    ><select
                      class="plain"
                      style="width: 100%"
                      :value="fault.id"
                      @change="swap(i, ($event.target as HTMLSelectElement).value)"
                    >
                      <option
                        v-for="each in plantable.filter((p) => p.id === fault.id || !chosen.includes(p.id))"
                        :key="each.id"
                        :value="each.id"
                      >
                        {{ GRADE_WORDS[each.grade] }}: {{ each.cues[0]!.shows }}
                      </option>
                    </select></label
                  >
                  <button
                    class="tick"
                    role="checkbox"
                    :aria-checked="confirmed.includes(fault.id)"
                    @click="toggle(fault.id)"
                  >
                    {{ confirmed.includes(fault.id) ? 'Planted' : 'Confirm planted' }}
                  </button>
                </div>
              </li>
            </ul>
            <label v-if="chosen.length < 8" class="field"
              >Add a fault
              <select
                class="plain"
                :value="''"
                @change="chosen = [...chosen, ($event.target as HTMLSelectElement).value]"
              >
                <option value="" disabled>choose from {{ plantable.length }}</option>
                <option
                  v-for="each in plantable.filter((p) => !chosen.includes(p.id))"
                  :key="each.id"
                  :value="each.id"
                >
                  {{ each.id }} {{ GRADE_WORDS[each.grade] }}: {{ each.cues[0]!.shows }}
                </option>
              </select></label
            >
          </template>
        </section>
      </div>
      <div v-if="problem" class="sheet pad" role="alert">
        <strong>{{ problem.title }}.</strong> {{ problem.detail }}
      </div>
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
.pick button,
.units button {
  font: inherit;
  color: var(--ink);
  background: var(--raised);
  border: 1px solid var(--line);
  border-radius: 3px;
  min-height: 48px;
  padding: 0.4rem 0.8rem;
  text-align: left;
  cursor: pointer;
}
.pick button {
  width: 100%;
  margin-bottom: 0.25rem;
}
.units {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(120px, 1fr));
  gap: 0.4rem;
}
.units button {
  display: flex;
  flex-direction: column;
  font-size: 0.9rem;
  line-height: 1.2;
  min-height: 56px;
}
.units button[aria-pressed='true'] {
  background: var(--petrol);
  color: var(--on-petrol);
  border-color: var(--petrol);
}
.more {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 0.6rem;
  padding-top: 0.6rem;
}
.plants li {
  border-left: 6px solid var(--line);
  padding: 0.5rem 0 0.7rem 0.9rem;
  margin-bottom: 0.6rem;
  display: grid;
  gap: 0.35rem;
}
.plants li.in {
  border-left-color: var(--amber);
}

.nowrap {
  flex-wrap: nowrap;
}
.tick {
  font: inherit;
  font-weight: 700;
  min-height: 56px;
  min-width: 170px;
  border: 2px solid var(--ink);
  border-radius: 3px;
  background: var(--raised);
  color: var(--ink);
  cursor: pointer;
}
.tick[aria-checked='true'] {
  background: var(--amber);
  color: var(--on-amber);
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
