<script setup lang="ts">
import {
  type Checkpoint,
  type EffectivePack,
  faultEvidence,
  METHOD_WORDS,
  originWords,
  shownEvidence,
} from '@rounds/core/catalogue';
import { limitsWords } from '@rounds/core/grading';
import { honestSeconds } from '@rounds/core/round';
import { Button, Popover } from 'ant-design-vue';
import { computed, ref } from 'vue';
import EvidenceDrawing from '../../drawing/EvidenceDrawing.vue';
import GradeDisc from '../../drawing/GradeDisc.vue';
import PlanRing from '../../drawing/PlanRing.vue';

/** The round: plan with stations, and every check in walking order with its faults. */
const props = defineProps<{ pack: EffectivePack; byChoice: ReadonlyMap<string, string> }>();
const station = ref<string | null>(null);
const stations = computed(() => props.pack.plan.stations.filter((each) => checksAt(each.id).length > 0));
const shown = computed(() =>
  station.value && stations.value.some((each) => each.id === station.value)
    ? stations.value.filter((each) => each.id === station.value)
    : stations.value,
);
const checksAt = (id: string) =>
  props.pack.checkpoints.filter((each) => each.station === id || each.alsoAt?.includes(id));
const faultsOf = (checkpoint: Checkpoint) =>
  props.pack.faults.filter((each) => each.checkpoint === checkpoint.id);
const marks = computed(() =>
  Object.fromEntries(
    stations.value.map((each) => [
      each.id,
      { done: 0, total: checksAt(each.id).length, state: 'untouched' as const },
    ]),
  ),
);
const drawn = (check: Checkpoint) => shownEvidence(props.pack, check, null, 'look');
const conditions = computed(() => new Map(props.pack.conditions.map((each) => [each.id, each.says])));
/** A check at several stations is anchored once. */
const anchor = (check: Checkpoint, id: string) => (check.station === id ? `row-${check.id}` : undefined);
</script>

<template>
  <div class="two">
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
      <p v-if="station"><Button type="link" @click="station = null">Show all stations</Button></p>
      <section v-for="each in shown" :id="`row-${each.id}`" :key="each.id" class="sheet pad">
        <h2>
          {{ each.name }} <span class="quiet">{{ each.looks }}</span>
        </h2>
        <ul class="checks">
          <li v-for="check in checksAt(each.id)" :id="anchor(check, each.id)" :key="check.id">
            <EvidenceDrawing v-if="drawn(check)" class="picture" :evidence="drawn(check)!" />
            <div class="row spread">
              <strong>{{ check.part }}</strong><span class="quiet"
                >{{ honestSeconds(check) }} s<template
                  v-if="check.each && typeof check.each.count === 'number'"
                  >, {{ check.each.count }} × {{ check.each.of }}</template
                ></span
              >
            </div>
            <div>
              {{ check.sound }}
              <span v-if="byChoice.has(check.id)" class="by-choice"
                >site choice: {{ byChoice.get(check.id) }}</span
              >
            </div>
            <dl class="appears small">
              <template v-for="method in check.methods" :key="method">
                <dt>{{ METHOD_WORDS[method] }}</dt>
                <dd>{{ check.appears[method] }}</dd>
              </template>
            </dl>
            <p v-for="gauge in check.gauges ?? []" :key="gauge.quantity" class="small">
              <strong class="capital">{{ gauge.quantity }}</strong>: {{ limitsWords(gauge) }}.
              <span class="quiet">{{ originWords(gauge.origin) }}</span>
            </p>
            <div class="quiet small">
              {{ check.id }}.
              <template v-if="check.when.length"
                >Counts:
                {{ check.when.map((w) => conditions.get(w) ?? w.replace(/-/g, ' ')).join(', ') }}. </template
              >{{ originWords(check.origin) }}.
            </div>
            <div v-if="faultsOf(check).length" class="row discs">
              <Popover v-for="f in faultsOf(check)" :key="f.id" :trigger="['click', 'hover']"
                ><template #content
                  ><EvidenceDrawing
                    v-if="faultEvidence(check, f)"
                    class="in-word"
                    v-bind="faultEvidence(check, f)!"
                  />{{ f.cues.map((c) => `${c.method}: ${c.shows}`).join('; ') }}</template
                ><Button type="text" class="fault"
                  ><GradeDisc :grade="f.grade" :size="17" /> {{ f.title }}</Button
                ></Popover
              >
            </div>
          </li>
        </ul>
      </section>
    </div>
  </div>
</template>

<style scoped>
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
.checks .picture {
  float: right;
  width: 96px;
  height: 96px;
  margin: 0 0 0.4rem 0.8rem;
}
.in-word {
  width: 150px;
  height: 150px;
  margin: 0 auto 0.4rem;
}
.checks li:first-child {
  border-top: 0;
}
.appears {
  display: grid;
  grid-template-columns: 5rem 1fr;
  gap: 0 0.6rem;
  margin: 0.25rem 0;
}
.appears dt {
  color: var(--quiet);
}
.fault {
  display: inline-flex;
  align-items: center;
  gap: 0.4rem;
  height: auto;
  min-height: 32px;
  padding: 0 0.3rem;
  white-space: normal;
  text-align: left;
  font-weight: 400;
}
.discs {
  font-size: 0.88rem;
  gap: 0 0.6rem;
  margin-top: 0.3rem;
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
