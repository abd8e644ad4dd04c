<script setup lang="ts">
import { routes, type SchoolChoice } from '@rounds/contract';
import {
  meetNeeds,
  packRows,
  PARTS,
  startsOrStops,
  type Pack,
  type Part,
  PART_WORDS,
} from '@rounds/core/catalogue';
import { honestSeconds } from '@rounds/core/round';
import { useQuery, useQueryCache } from '@pinia/colada';
import { Button } from 'ant-design-vue';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import StateBox from '../parts/StateBox.vue';
import { call, fileAddress } from '../device/api';
import { useSession } from '../device/session';
import FitOutSwitches from '../parts/FitOutSwitches.vue';
import CautionsPart from './parts/CautionsPart.vue';
import FaultsPart from './parts/FaultsPart.vue';
import NumbersPart from './parts/NumbersPart.vue';
import ProceduresPart from './parts/ProceduresPart.vue';
import RoundPart from './parts/RoundPart.vue';
import SchoolsPart from './parts/SchoolsPart.vue';
import SheetPart from './parts/SheetPart.vue';
import TeachingPart from './parts/TeachingPart.vue';
import { useFitOut } from '../parts/useFitOut';

const route = useRoute();
const router = useRouter();
const session = useSession();
const cache = useQueryCache();
const id = computed(() => String(route.params['id']));
const site = ref(localStorage.getItem('rounds-site') ?? '');
watch(site, (now) => localStorage.setItem('rounds-site', now));
const { data, error, isPending, refetch } = useQuery({
  key: () => ['class', id.value, site.value],
  query: () =>
    call(routes.machineClass, {
      params: { id: id.value },
      ...(site.value ? { query: { site: site.value } } : {}),
    }),
});
watch(data, (now) => {
  if (now && site.value && !now.sites.includes(site.value)) site.value = '';
});
const pack = computed(() => (data.value?.pack ?? null) as Pack | null);
const choices = computed(() => data.value?.choices ?? {});
const { variant, features, effective } = useFitOut(pack, choices);

/** Rows that a choice other than the class's own changed, with the question. */
const byChoice = computed(() => {
  const rows = new Map<string, string>();
  for (const school of effective.value?.schools ?? [])
    if (effective.value!.choices[school.id] !== school.default)
      for (const set of school.options.find((each) => each.id === effective.value!.choices[school.id])
        ?.sets ?? [])
        rows.set(set.path.split('/')[1]!, school.question);
  return rows;
});

const part = computed<Part>({
  get: () => {
    const asked = String(route.query['part'] ?? '');
    return (PARTS as readonly string[]).includes(asked) ? (asked as Part) : 'round';
  },
  set: (now) => void router.push({ query: { part: now } }),
});
const row = computed(() => (typeof route.query['row'] === 'string' ? route.query['row'] : ''));
/** A row that a link leads to but that this fit-out does not have. */
const elsewhere = ref<{ title: string; changes: Record<string, string> | null } | null>(null);
watch(
  [row, part, () => effective.value?.hash],
  async () => {
    elsewhere.value = null;
    if (!row.value || !effective.value || !pack.value) return;
    await nextTick();
    document.querySelectorAll('.found').forEach((each) => each.classList.remove('found'));
    const target = document.getElementById(`row-${row.value}`);
    if (target) {
      target.classList.add('found');
      target.scrollIntoView({ block: 'center' });
      return;
    }
    const missing = packRows(pack.value).find((each) => each.id === row.value);
    if (!missing) return;
    const checkpoint = pack.value.checkpoints.find((each) => each.id === missing.row['checkpoint']);
    const procedure =
      missing.section === 'steps' ? pack.value.procedures[missing.path[1] as number] : undefined;
    const needs = [
      ...((missing.row['needs'] as string[] | undefined) ?? []),
      ...(checkpoint?.needs ?? []),
      ...(procedure?.needs ?? []),
    ];
    const values = new Map<string, readonly string[]>([
      ...pack.value.features.map((each) => [each.id, each.values] as const),
      ['variant', pack.value.variants.map((each) => each.id)],
    ]);
    elsewhere.value = { title: missing.title, changes: meetNeeds(needs, effective.value.fitOut, values) };
  },
  { immediate: true, flush: 'post' },
);
function showElsewhere() {
  const { variant: power, ...rest } = elsewhere.value!.changes!;
  if (power) variant.value = power;
  features.value = { ...features.value, ...rest };
}

const total = computed(
  () => effective.value?.checkpoints.reduce((sum, each) => sum + honestSeconds(each), 0) ?? 0,
);
const counts = computed<Partial<Record<Part, number>>>(() => {
  const now = effective.value;
  if (!now) return {};
  return {
    round: now.checkpoints.length,
    faults: now.faults.length,
    'start-stop': now.procedures.filter((each) => startsOrStops(each.kind)).length,
    procedures: now.procedures.filter((each) => !startsOrStops(each.kind)).length,
    numbers: now.numbers.length,
    sheet: now.sheet.sections.reduce((n, s) => n + s.criteria.length, 0),
    schools: now.schools.length,
    cautions: now.cautions.length,
  };
});

const mayEdit = computed(() => ['trainer', 'administrator'].includes(session.account?.role ?? ''));
const mayLookBack = computed(() => mayEdit.value || session.account?.role === 'supervisor');
const paper = computed(() => ({
  variant: variant.value,
  features: JSON.stringify(features.value),
  ...(site.value ? { site: site.value } : {}),
}));
const PAPERS = [
  [routes.roundCard, 'Pocket round card', 'A6'],
  [routes.checkSheet, 'Daily check sheet', 'A4, a week'],
  [routes.startStopCard, 'Start and stop card', 'A4'],
] as const;
const FILES = [
  [routes.classYaml, 'Whole class', 'YAML'],
  [routes.classJson, 'Whole class', 'JSON'],
  [routes.checkpointsCsv, 'Checks', 'CSV'],
  [routes.faultsCsv, 'Faults', 'CSV'],
  [routes.planSvg, 'Plan', 'SVG'],
] as const;
function chosen(answer: { choices: Record<string, string>; choiceLog: SchoolChoice[] }) {
  cache.setQueryData(['class', id.value, site.value], { ...data.value!, ...answer });
}
</script>

<template>
  <div class="screen stack">
    <StateBox :loading="isPending" :error="error" what="this class" @retry="refetch()">
      <template v-if="data && !pack">
        <h1>{{ data.summary.title }}</h1>
        <div class="sheet pad stack">
          <p>
            This class has no checks, faults or score sheet in this installation yet. Certificates are kept
            for it; its round cannot be assessed here until a class pack is published or imported.
          </p>
          <p v-if="data.units.length">Machines: {{ data.units.map((each) => each.name).join(', ') }}</p>
        </div>
      </template>
      <template v-if="data && pack && effective">
        <div class="row spread head">
          <div class="grow">
            <h1>{{ pack.title }}</h1>
            <p class="quiet lead">{{ pack.summary }}</p>
          </div>
          <div class="row tools">
            <details class="menu">
              <summary class="act plain">Print</summary>
              <ul class="sheet">
                <li v-for="[spec, name, size] in PAPERS" :key="name">
                  <a :href="fileAddress(spec, { id }, paper)" target="_blank" rel="noopener"
                    >{{ name }} <span class="quiet">{{ size }}</span></a
                  >
                </li>
              </ul>
            </details>
            <details class="menu">
              <summary class="act plain">Export</summary>
              <ul class="sheet">
                <li v-for="[spec, name, format] in FILES" :key="spec.path">
                  <a :href="fileAddress(spec, { id })" :download="`${id}.${format.toLowerCase()}`"
                    >{{ name }} <span class="quiet">{{ format }}</span></a
                  >
                </li>
                <li>
                  <a :href="fileAddress(routes.packSchema)" download="pack.schema.json"
                    >Format of these files <span class="quiet">JSON Schema</span></a
                  >
                </li>
              </ul>
            </details>
            <RouterLink v-if="mayLookBack" :to="`/classes/${id}/history`" class="act plain"
              >Revisions</RouterLink
            >
            <RouterLink v-if="mayEdit" :to="`/classes/${id}/edit`" class="act plain">Edit</RouterLink>
          </div>
        </div>
        <div class="row switches" role="group" aria-label="Fit-out">
          <FitOutSwitches v-model:variant="variant" v-model:features="features" :pack="pack" />
          <label v-if="data.sites.length" class="field"
            >Site
            <select v-model="site" class="plain">
              <option value="">no site</option>
              <option v-for="each in data.sites" :key="each">{{ each }}</option>
            </select></label
          >
          <span class="quiet"
            >{{ effective.checkpoints.length }} checks, {{ Math.round(total / 60) }} min at an honest pace.
            Revision {{ pack.revision }}.{{
              byChoice.size
                ? ` ${byChoice.size === 1 ? 'One row follows' : `${byChoice.size} rows follow`} the site’s choices.`
                : ''
            }}</span
          >
        </div>
        <div v-if="elsewhere" class="sheet pad row spread" role="status">
          <span
            ><strong>{{ elsewhere.title }}</strong> ({{ row }}) belongs to another fit-out than the one
            shown.</span
          >
          <Button v-if="elsewhere.changes" type="primary" @click="showElsewhere">Show that fit-out</Button>
        </div>
        <div class="tabs" role="tablist" aria-label="Parts of the class">
          <button
            v-for="each in PARTS"
            :id="`tab-${each}`"
            :key="each"
            role="tab"
            :aria-selected="part === each"
            aria-controls="part"
            @click="part = each"
          >
            {{ PART_WORDS[each] }}
            <span v-if="counts[each] !== undefined" class="quiet">{{ counts[each] }}</span>
          </button>
        </div>
        <div id="part" role="tabpanel" :aria-labelledby="`tab-${part}`">
          <RoundPart v-if="part === 'round'" :pack="effective" :by-choice="byChoice" />
          <FaultsPart v-else-if="part === 'faults'" :pack="effective" :by-choice="byChoice" />
          <ProceduresPart
            v-else-if="part === 'start-stop' || part === 'procedures'"
            :key="part"
            :pack="effective"
            :which="part"
            :by-choice="byChoice"
          />
          <NumbersPart v-else-if="part === 'numbers'" :pack="effective" :by-choice="byChoice" />
          <SheetPart v-else-if="part === 'sheet'" :pack="effective" />
          <SchoolsPart
            v-else-if="part === 'schools'"
            :pack="effective"
            :site="site"
            :choices="choices"
            :log="site ? data.choiceLog : []"
            :may-choose="mayEdit"
            @chosen="chosen"
          />
          <CautionsPart v-else-if="part === 'cautions'" :pack="effective" />
          <TeachingPart v-else :pack="effective" />
        </div>
        <p class="quiet">
          A training aid: the maker's manual, the employer's rules, local law and licensed trades come first.
        </p>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.head {
  align-items: flex-start;
}
.switches {
  align-items: flex-end;
}
.tools {
  gap: 0.5rem;
}
.menu {
  position: relative;
}
.menu summary {
  list-style: none;
  cursor: pointer;
}
.menu summary::-webkit-details-marker {
  display: none;
}
.menu ul {
  position: absolute;
  right: 0;
  z-index: 5;
  min-width: 250px;
  padding: 0.3rem;
  margin-top: 0.25rem;
}
.menu a {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  align-items: center;
  min-height: 48px;
  padding: 0 0.7rem;
}
@media (max-width: 640px) {
  .menu ul {
    right: auto;
    left: 0;
  }
}
</style>
