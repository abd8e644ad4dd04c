<script setup lang="ts">
import { DownOutlined, SoundOutlined } from '@ant-design/icons-vue';
import { useQueryCache } from '@pinia/colada';
import { classRoutes, type SchoolChoice } from '@rounds/contract/classes';
import {
  meetNeeds,
  type Pack,
  packRows,
  type Part,
  PART_WORDS,
  PARTS,
  startsOrStops,
} from '@rounds/core/catalogue';
import { honestSeconds } from '@rounds/core/round';
import { useLocalStorage } from '@vueuse/core';
import { Button, MenuItem, MenuItemGroup } from 'ant-design-vue';
import { computed, nextTick, ref, watch } from 'vue';
import { useRoute, useRouter } from 'vue-router';
import { fileAddress } from '../device/api';
import { routeKey } from '../device/query';
import { useSession } from '../device/session';
import ChoiceField from '../parts/ChoiceField.vue';
import FitOutSwitches from '../parts/FitOutSwitches.vue';
import MenuButton from '../parts/MenuButton.vue';
import { useMachineClass } from '../parts/queries';
import StateBox from '../parts/StateBox.vue';
import TabRow from '../parts/TabRow.vue';
import { useFitOut } from '../parts/useFitOut';
import SayIt from './SayIt.vue';
import CautionsPart from './parts/CautionsPart.vue';
import FaultsPart from './parts/FaultsPart.vue';
import NumbersPart from './parts/NumbersPart.vue';
import ProceduresPart from './parts/ProceduresPart.vue';
import RoundPart from './parts/RoundPart.vue';
import SchoolsPart from './parts/SchoolsPart.vue';
import SheetPart from './parts/SheetPart.vue';
import TeachingPart from './parts/TeachingPart.vue';

const route = useRoute();
const router = useRouter();
const session = useSession();
const cache = useQueryCache();
const id = computed(() => String(route.params['id']));
const site = useLocalStorage('rounds-site', '');
const machineClass = useMachineClass(
  () => id.value,
  () => site.value || undefined,
);
/** Not the class that was shown before, while this one is on its way. */
const data = computed(() => {
  const found = machineClass.data.value;
  return found?.summary.id === id.value ? found : undefined;
});
watch(data, (now) => {
  if (now && site.value && !now.sites.includes(site.value)) site.value = '';
});
const pack = computed(() => (data.value?.pack ?? null) as Pack | null);
const choices = computed(() => data.value?.choices ?? {});
const policy = computed(() => data.value?.policy ?? []);
const { variant, features, effective } = useFitOut(pack, choices, policy);

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
/** What is read aloud, in the address, so that Back closes it; '' for nothing. */
const saying = computed({
  get: () => (typeof route.query['say'] === 'string' ? route.query['say'] : ''),
  set: (what) => {
    const query = { part: part.value, ...(what ? { say: what } : {}) };
    // From one thing said to another nothing is gone back to.
    void (saying.value && what ? router.replace({ query }) : router.push({ query }));
  },
});
const firstProcedure = computed(
  () => effective.value?.procedures.find((each) => each.kind === 'startup')?.id ?? 'round',
);
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
const facts = computed(() => {
  if (!effective.value || !pack.value) return '';
  const rows = byChoice.value.size;
  const follow = rows === 1 ? ' One row follows' : ` ${rows} rows follow`;
  return (
    `${effective.value.checkpoints.length} checks, ${Math.round(total.value / 60)} min at an honest pace. ` +
    `Revision ${pack.value.revision}.${rows ? `${follow} the site’s choices.` : ''}`
  );
});
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

const tabs = computed(() =>
  PARTS.map((key) => ({ key, name: PART_WORDS[key], hint: String(counts.value[key] ?? '') })),
);

const mayEdit = session.is('trainer', 'administrator');
const mayLookBack = mayEdit || session.is('supervisor');
const paper = computed(() => ({
  variant: variant.value,
  features: JSON.stringify(features.value),
  ...(site.value ? { site: site.value } : {}),
}));
const PAPERS = [
  [classRoutes.roundCard, 'Pocket round card', 'A6'],
  [classRoutes.findingCards, 'Finding cards to grade', 'A4, both sides'],
  [classRoutes.checkSheet, 'Daily check sheet', 'A4, a week'],
  [classRoutes.startStopCard, 'Start and stop card', 'A4'],
] as const;
const FILES = [
  [classRoutes.classYaml, 'Whole class', 'YAML'],
  [classRoutes.classJson, 'Whole class', 'JSON'],
  [classRoutes.checkpointsCsv, 'Checks', 'CSV'],
  [classRoutes.faultsCsv, 'Faults', 'CSV'],
  [classRoutes.planSvg, 'Plan', 'SVG'],
] as const;
function chosen(answer: { choices: Record<string, string>; choiceLog: SchoolChoice[] }) {
  const asked = { params: { id: id.value }, query: { site: site.value || undefined } };
  cache.setQueryData(routeKey(classRoutes.machineClass, asked), { ...data.value!, ...answer });
}
</script>

<template>
  <div class="screen stack">
    <StateBox
      :loading="!data"
      :error="data ? undefined : machineClass.error.value"
      what="this class"
      :lines="12"
      @retry="machineClass.refetch()"
    >
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
            <Button v-if="effective" @click="saying = part === 'start-stop' ? firstProcedure : 'round'"
              ><template #icon><SoundOutlined /></template>Say it</Button
            >
            <MenuButton>
              Print <DownOutlined aria-hidden="true" />
              <template #items>
                <MenuItem v-for="[spec, name, size] in PAPERS" :key="name">
                  <a :href="fileAddress(spec, { id }, paper)" target="_blank" rel="noopener"
                    >{{ name }} <span class="quiet">{{ size }}</span></a
                  >
                </MenuItem>
              </template>
            </MenuButton>
            <MenuButton>
              More <DownOutlined aria-hidden="true" />
              <template #items>
                <MenuItem v-if="mayLookBack" key="revisions">
                  <RouterLink :to="`/classes/${id}/history`">Revisions</RouterLink>
                </MenuItem>
                <MenuItemGroup title="Export">
                  <MenuItem v-for="[spec, name, format] in FILES" :key="spec.path">
                    <a :href="fileAddress(spec, { id })" :download="`${id}.${format.toLowerCase()}`"
                      >{{ name }} <span class="quiet">{{ format }}</span></a
                    >
                  </MenuItem>
                  <MenuItem key="schema">
                    <a :href="fileAddress(classRoutes.packSchema)" download="pack.schema.json"
                      >Format of these files <span class="quiet">JSON Schema</span></a
                    >
                  </MenuItem>
                </MenuItemGroup>
              </template>
            </MenuButton>
            <RouterLink v-if="mayEdit" v-slot="{ navigate, href }" :to="`/classes/${id}/edit`" custom
              ><Button :href="href" @click="navigate">Edit</Button></RouterLink
            >
          </div>
        </div>
        <div role="group" aria-label="Fit-out">
          <FitOutSwitches v-model:variant="variant" v-model:features="features" :pack="pack">
            <ChoiceField
              v-if="data.sites.length"
              v-model:value="site"
              label="Site"
              placeholder="No site chosen"
              clearable
              :options="data.sites.map((each) => ({ value: each, label: each }))"
            />
            <span class="quiet grow">{{ facts }}</span>
          </FitOutSwitches>
        </div>
        <div v-if="elsewhere" class="sheet pad row spread" role="status">
          <span
            ><strong>{{ elsewhere.title }}</strong> ({{ row }}) belongs to another fit-out than the one
            shown.</span
          >
          <Button v-if="elsewhere.changes" type="primary" @click="showElsewhere">Show that fit-out</Button>
        </div>
        <TabRow v-model:chosen="part" label="Parts of the class" :tabs="tabs" />
        <div id="part" role="tabpanel" :aria-label="PART_WORDS[part]">
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
        <SayIt
          v-if="saying"
          :what="saying"
          :pack="effective"
          @update:what="saying = $event"
          @close="saying = ''"
        />
        <p class="quiet">
          A training aid: the maker's manual, the employer's rules, local law and licensed trades come first.
        </p>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.head > .grow {
  flex: 1 1 300px;
}
.head {
  align-items: flex-start;
}
.tools {
  gap: 0.5rem;
}
@media (max-width: 640px) {
  .lead {
    display: -webkit-box;
    -webkit-line-clamp: 2;
    -webkit-box-orient: vertical;
    overflow: hidden;
  }
}
</style>
