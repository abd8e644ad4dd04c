<script setup lang="ts">
import { routes } from '@rounds/contract';
import { compose, honestSeconds, needsMet, type Checkpoint, type Origin, type Pack } from '@rounds/core';
import { useQuery } from '@pinia/colada';
import { computed, reactive, ref, watch } from 'vue';
import { useRoute } from 'vue-router';
import StateBox from '../house/StateBox.vue';
import GradeDisc from '../drawing/GradeDisc.vue';
import PlanRing from '../drawing/PlanRing.vue';
import { call } from '../house/api';
import { GRADE_WORDS } from '../house/words';

const id = String(useRoute().params['id']);
const { data, error, isPending, refetch } = useQuery({ key: ['class', id], query: () => call(routes.machineClass, { params: { id } }) });
const pack = computed(() => (data.value?.pack ?? null) as Pack | null);
const variant = ref('');
const features = reactive<Record<string, string>>({});
const station = ref<string | null>(null);
const section = ref<'round' | 'faults' | 'procedures' | 'numbers' | 'sheet' | 'schools' | 'cautions'>('round');
watch(
  pack,
  (now) => {
    if (!now) return;
    variant.value = now.variants[0]!.id;
    for (const each of now.features) features[each.id] = each.default;
  },
  { immediate: true },
);

const effective = computed(() => (pack.value && variant.value ? compose(pack.value, { variant: variant.value, features: { ...features } }) : null));
const switches = computed(() => pack.value?.features.filter((each) => needsMet(each.needs, { variant: variant.value, ...features })) ?? []);
const stations = computed(() => effective.value?.plan.stations.filter((each) => effective.value!.checkpoints.some((c) => c.station === each.id)) ?? []);
const checksAt = (stationId: string) => effective.value?.checkpoints.filter((each) => each.station === stationId || each.alsoAt?.includes(stationId)) ?? [];
const faultsOf = (checkpoint: Checkpoint) => effective.value?.faults.filter((each) => each.checkpoint === checkpoint.id) ?? [];
const marks = computed(() => Object.fromEntries(stations.value.map((each) => [each.id, { done: 0, total: checksAt(each.id).length, state: 'untouched' as const }])));
const total = computed(() => effective.value?.checkpoints.reduce((sum, each) => sum + honestSeconds(each), 0) ?? 0);
const origin = (o: Origin) => [{ published: 'Published', practice: 'Common practice', memory: 'From memory' }[o.kind], o.cite, o.note].filter(Boolean).join(', ');
const conditions = computed(() => new Map(pack.value?.conditions.map((each) => [each.id, each.says]) ?? []));
const tabs = computed(() => [
  { id: 'round' as const, name: 'Round', count: effective.value?.checkpoints.length },
  { id: 'faults' as const, name: 'Faults', count: effective.value?.faults.length },
  { id: 'procedures' as const, name: 'Procedures', count: effective.value?.procedures.length },
  { id: 'numbers' as const, name: 'Numbers', count: effective.value?.numbers.length },
  { id: 'sheet' as const, name: 'Score sheet', count: effective.value?.sheet.sections.reduce((n, s) => n + s.criteria.length, 0) },
  { id: 'schools' as const, name: 'Schools', count: effective.value?.schools.length },
  { id: 'cautions' as const, name: 'Cautions', count: effective.value?.cautions.length },
]);
const shownStations = computed(() => (station.value ? stations.value.filter((each) => each.id === station.value) : stations.value));
</script>

<template>
  <div class="screen stack">
    <StateBox :loading="isPending" :error="error" what="this class" @retry="refetch()">
      <template v-if="data && !pack">
        <h1>{{ data.summary.title }}</h1>
        <div class="sheet pad stack">
          <p>
            This class has no checks, faults or score sheet in this installation yet. Certificates are kept for it; its round cannot be assessed here until a class pack
            is published.
          </p>
          <p v-if="data.units.length">Machines: {{ data.units.map((each) => each.name).join(', ') }}</p>
        </div>
      </template>
      <template v-if="data && pack && effective">
        <div class="row spread">
          <div>
            <h1>{{ pack.title }}</h1>
            <p class="quiet lead">{{ pack.summary }}</p>
          </div>
        </div>
        <div class="row switches" role="group" aria-label="Fit-out">
          <label class="field"
            >Power
            <select v-model="variant" class="plain">
              <option v-for="each in pack.variants" :key="each.id" :value="each.id">{{ each.name }}</option>
            </select></label
          >
          <details>
            <summary>{{ switches.length }} further switches</summary>
            <div class="more">
              <label v-for="each in switches" :key="each.id" class="field"
                >{{ each.name }}
                <select v-model="features[each.id]" class="plain">
                  <option v-for="value in each.values" :key="value">{{ value }}</option>
                </select></label
              >
            </div>
          </details>
          <span class="quiet">{{ effective.checkpoints.length }} checks, {{ Math.round(total / 60) }} min at an honest pace. Revision {{ pack.revision }}.</span>
        </div>
        <div class="tabs" role="tablist" aria-label="Parts of the class">
          <button v-for="tab in tabs" :id="`tab-${tab.id}`" :key="tab.id" role="tab" :aria-selected="section === tab.id" aria-controls="part" @click="section = tab.id">
            {{ tab.name }} <span class="quiet">{{ tab.count }}</span>
          </button>
        </div>
        <div id="part" role="tabpanel" :aria-labelledby="`tab-${section}`">
          <div v-if="section === 'round'" class="two">
            <div class="ring sheet">
              <PlanRing
                :plan="pack.plan"
                :marks="marks"
                :current="station"
                interactive
                :title="`Plan of the ${pack.title.toLowerCase()} with its stations`"
                @station="station = station === $event ? null : $event"
              />
              <p class="quiet caption">{{ pack.plan.note }}</p>
            </div>
            <div class="stack">
              <p v-if="station"><button class="link" @click="station = null">Show all stations</button></p>
              <section v-for="each in shownStations" :key="each.id" class="sheet pad">
                <h2>
                  {{ each.name }} <span class="quiet">{{ each.looks }}</span>
                </h2>
                <ul class="checks">
                  <li v-for="check in checksAt(each.id)" :key="check.id">
                    <div class="row spread">
                      <strong>{{ check.part }}</strong><span class="quiet">{{ honestSeconds(check) }} s, {{ check.methods.join(', ') }}</span>
                    </div>
                    <div>{{ check.sound }}</div>
                    <div class="quiet small">
                      {{ check.id }}.
                      <template v-if="check.when.length">Counts: {{ check.when.map((w) => conditions.get(w) ?? w.replace(/-/g, ' ')).join(', ') }}. </template
                      >{{ origin(check.origin) }}.
                    </div>
                    <div v-if="faultsOf(check).length" class="row discs">
                      <span v-for="f in faultsOf(check)" :key="f.id" :title="f.cues.map((c) => c.shows).join('; ')"
                        ><GradeDisc :grade="f.grade" :size="17" /> {{ f.cues[0]!.shows }}</span
                      >
                    </div>
                  </li>
                </ul>
              </section>
            </div>
          </div>
          <div v-else-if="section === 'faults'" class="sheet scrolls" tabindex="0" role="region" aria-label="List of faults">
            <table class="rows">
              <thead>
                <tr>
                  <th>Grade</th>
                  <th>What shows</th>
                  <th>Where</th>
                  <th>Why</th>
                  <th>Do</th>
                  <th>Planting</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="f in effective.faults" :key="f.id">
                  <td class="grade"><GradeDisc :grade="f.grade" /> {{ GRADE_WORDS[f.grade] }}</td>
                  <td>
                    <div v-for="c in f.cues" :key="c.shows">
                      <span class="quiet">{{ c.method }}:</span> {{ c.shows }}
                    </div>
                    <div class="quiet small">{{ f.id }}. {{ origin(f.origin) }}</div>
                  </td>
                  <td>{{ effective.checkpoints.find((c) => c.id === f.checkpoint)?.part }}</td>
                  <td>
                    {{ f.why }}
                    <div v-if="f.limit" class="small"><strong>Limit:</strong> {{ f.limit }}</div>
                    <div v-if="f.escalates" class="small">{{ f.escalates }}</div>
                  </td>
                  <td>
                    {{ f.do }}
                    <div v-if="f.cure" class="quiet small">{{ { operator: 'operator on the spot', competent: 'competent person', maker: 'maker' }[f.cure] }}</div>
                  </td>
                  <td>
                    <template v-if="f.plant"
                      >{{ f.plant.how }}
                      <div class="quiet small">Out again: {{ f.plant.retrieve }}</div></template
                    ><span v-else class="quiet">not planted{{ f.substitute ? `: ${f.substitute}` : '' }}</span>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
          <div v-else-if="section === 'procedures'" class="stack">
            <section v-for="p in effective.procedures" :key="p.id" class="sheet pad">
              <h2>{{ p.title }}</h2>
              <ol class="rail">
                <li v-for="s in p.steps" :key="s.id" :class="{ critical: s.critical, free: s.after.length === 0 }">
                  <strong>{{ s.do }}</strong><span v-if="s.timing" class="timing">{{ s.timing.says }}</span>
                  <div class="quiet small">
                    {{ s.id }}<template v-if="s.after.length">, after {{ s.after.map((a) => (typeof a === 'string' ? a : a.anyOf.join(' or '))).join(', ') }}</template
                    ><template v-if="s.holds.length">; holds: {{ s.holds.join(', ') }}</template
                    >. {{ s.why }}<template v-if="s.ifFails">. If not: {{ s.ifFails }}</template
                    >. {{ origin(s.origin) }}.
                  </div>
                </li>
              </ol>
              <p v-for="n in p.notes" :key="n" class="quiet">{{ n }}</p>
            </section>
            <section class="sheet pad">
              <h2>Forbidden</h2>
              <ul class="bullets">
                <li v-for="f in effective.forbidden" :key="f.id">{{ f.rule }}</li>
              </ul>
            </section>
          </div>
          <div v-else-if="section === 'numbers'" class="sheet scrolls" tabindex="0" role="region" aria-label="List of numbers">
            <table class="rows">
              <thead>
                <tr>
                  <th>Number</th>
                  <th>Value</th>
                  <th>Meaning</th>
                  <th>Where it comes from</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="n in effective.numbers" :key="n.id">
                  <td>
                    <strong>{{ n.name }}</strong>
                  </td>
                  <td>{{ n.says ?? (n.range ? `${n.range[0]} to ${n.range[1]}` : n.value) }} {{ n.unit === '-' ? '' : n.unit }}</td>
                  <td>{{ n.meaning }}</td>
                  <td>{{ origin(n.origin) }}</td>
                </tr>
              </tbody>
            </table>
            <section v-for="w in effective.workings" :key="w.id" class="pad">
              <h2>{{ w.title }}</h2>
              <p>{{ w.says }}</p>
              <p v-if="w.example"><strong>Example.</strong> {{ w.example }}</p>
              <p class="quiet small">{{ origin(w.origin) }}</p>
            </section>
          </div>
          <div v-else-if="section === 'sheet'" class="stack">
            <p>
              Pass mark {{ effective.sheet.cut }} %; a prompt earns {{ effective.sheet.promptCredit * 100 }} %; at most {{ effective.sheet.notApplicableMax * 100 }} % of
              the weight may be not applicable. {{ origin(effective.sheet.origin) }}.
            </p>
            <section v-for="s in effective.sheet.sections" :key="s.id" class="sheet pad">
              <h2>
                {{ s.title }} <span v-if="s.minimum" class="quiet">minimum {{ s.minimum }} %</span>
              </h2>
              <ul class="bullets">
                <li v-for="c in s.criteria" :key="c.id">
                  {{ c.says }} <span class="quiet">weight {{ c.weight }}{{ c.link ? ', filled by the round' : '' }}</span>
                </li>
              </ul>
            </section>
            <section class="sheet pad">
              <h2>Ends the evaluation at once</h2>
              <ul class="bullets">
                <li v-for="e in effective.sheet.criticalErrors" :key="e.id">{{ e.says }}</li>
              </ul>
            </section>
            <section class="sheet pad">
              <h2>Order of teaching</h2>
              <ol class="bullets numbered">
                <li v-for="t in effective.teaching.ladder" :key="t">{{ t }}</li>
              </ol>
            </section>
            <section class="sheet pad">
              <h2>Common mistakes</h2>
              <ul class="bullets">
                <li v-for="m in effective.mistakes" :key="m.id">{{ m.says }}</li>
              </ul>
            </section>
          </div>
          <div v-else-if="section === 'schools'" class="stack">
            <p class="quiet">Points on which good practitioners differ. What is marked applies here.</p>
            <section v-for="s in effective.schools" :key="s.id" class="sheet pad">
              <h2>{{ s.question }}</h2>
              <ul class="bullets">
                <li v-for="o in s.options" :key="o.id">
                  <strong v-if="effective.choices[s.id] === o.id">Here: {{ o.says }}</strong
                  ><template v-else>{{ o.says }}</template>
                </li>
              </ul>
            </section>
            <section class="sheet pad">
              <h2>Certification notes</h2>
              <ul class="bullets">
                <li v-for="c in effective.certification" :key="c.id">
                  {{ c.says }} <span class="quiet">{{ origin(c.origin) }}</span>
                </li>
              </ul>
            </section>
          </div>
          <div v-else class="stack">
            <section v-for="c in effective.cautions" :key="c.id" class="sheet pad">
              <h2>{{ c.point }}</h2>
              <p>{{ c.detail }}</p>
              <p class="quiet small">{{ origin(c.origin) }}</p>
            </section>
            <section class="sheet pad">
              <h2>Wear</h2>
              <ul class="bullets">
                <li v-for="p in effective.ppe" :key="p">{{ p }}</li>
              </ul>
            </section>
            <section class="sheet pad">
              <h2>About these figures</h2>
              <p v-for="p in effective.provenance" :key="p">{{ p }}</p>
            </section>
          </div>
        </div>
        <p class="quiet">A training aid: the maker's manual, the employer's rules, local law and licensed trades come first.</p>
      </template>
    </StateBox>
  </div>
</template>

<style scoped>
.lead {
  max-width: 75ch;
}
.small {
  font-size: 0.88rem;
}
.switches {
  align-items: flex-end;
}
.switches details {
  border: 1px solid var(--line);
  border-radius: 3px;
  padding: 0.6rem 0.8rem;
  background: var(--sheet);
}
.more {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 0.6rem;
  padding-top: 0.6rem;
  min-width: min(70vw, 800px);
}
.tabs {
  display: flex;
  flex-wrap: wrap;
  border-bottom: 2px solid var(--ink);
  gap: 0.25rem;
}
.tabs button {
  font: inherit;
  color: var(--ink);
  background: none;
  border: 0;
  padding: 0.6rem 0.9rem;
  min-height: 48px;
  cursor: pointer;
  border-radius: 4px 4px 0 0;
}
.tabs button[aria-selected='true'] {
  background: var(--petrol);
  color: var(--on-petrol);
  font-weight: 700;
}
.tabs button[aria-selected='true'] .quiet {
  color: inherit;
}
.two {
  display: grid;
  grid-template-columns: minmax(360px, 46%) 1fr;
  gap: 1.25rem;
  align-items: start;
}
.ring {
  position: sticky;
  top: 0.75rem;
  padding: 0.5rem;
}
.ring .plan {
  height: min(54vh, 640px);
}
.caption {
  font-size: 0.85rem;
  padding: 0 0.5rem;
}
.checks li {
  padding: 0.6rem 0;
  border-top: 1px solid var(--line);
}
.checks li:first-child {
  border-top: 0;
}
.discs {
  font-size: 0.88rem;
  gap: 0.3rem 1rem;
  margin-top: 0.3rem;
}
.grade {
  white-space: nowrap;
}
.rail {
  list-style: none;
  border-left: 4px solid var(--petrol);
  padding-left: 1.1rem;
  margin: 0.5rem 0 0 0.4rem;
}
.rail li {
  position: relative;
  padding: 0.35rem 0;
}
.rail li::before {
  content: '';
  position: absolute;
  left: -1.62rem;
  top: 0.7rem;
  width: 0.75rem;
  height: 0.75rem;
  border-radius: 50%;
  background: var(--sheet);
  border: 3px solid var(--petrol);
}
.rail li.critical::before {
  background: var(--petrol);
}
.timing {
  margin-left: 0.6rem;
  border: 1px solid var(--quiet);
  border-radius: 3px;
  padding: 0 0.4rem;
  font-size: 0.88rem;
}
.bullets li {
  padding: 0.2rem 0 0.2rem 1.1rem;
  position: relative;
}
.bullets li::before {
  content: '';
  position: absolute;
  left: 0.1rem;
  top: 0.75rem;
  width: 0.4rem;
  height: 0.4rem;
  border: 2px solid var(--ink);
  border-radius: 50%;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .ring {
    position: static;
  }
}
</style>
