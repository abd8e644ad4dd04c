<script setup lang="ts">
import type { FindingView } from '@rounds/contract/bench';
import { givesFigures, METHOD_WORDS } from '@rounds/core/catalogue';
import { computed } from 'vue';
import EvidenceDrawing from '../drawing/EvidenceDrawing.vue';
import MethodSign from '../drawing/MethodSign.vue';
import { TODAY_WORDS } from './findingWords';

/** A finding as it is put: the part, what was found, and what the machine is used for today. */
const props = defineProps<{ finding: FindingView; figures?: boolean; small?: boolean }>();
/** Figures stand below only where somebody measured or read. */
const measured = computed(
  () => props.finding.readings.length > 0 || props.finding.words.some((each) => givesFigures(each.method)),
);
</script>

<template>
  <article class="finding" :class="{ small }" :aria-label="finding.part">
    <EvidenceDrawing
      v-if="finding.drawing"
      class="picture"
      :evidence="finding.drawing"
      :figures="(figures ?? false) && measured"
    />
    <div class="told">
      <p class="quiet">{{ finding.station }}</p>
      <h2>{{ finding.part }}</h2>
      <p v-for="use in finding.uses" :key="use" class="use">{{ TODAY_WORDS[use] }}</p>
      <ul v-if="finding.words.length" class="words">
        <li v-for="each in finding.words" :key="each.method">
          <MethodSign :method="each.method" /><span
            ><span class="quiet">{{ METHOD_WORDS[each.method] }}</span
            ><span class="shows capital">{{ each.shows }}</span></span
          >
        </li>
      </ul>
      <dl v-if="finding.readings.length" class="readings">
        <div v-for="each in finding.readings" :key="each.name">
          <dt class="capital">{{ each.name }}</dt>
          <dd>{{ each.says }}</dd>
        </div>
      </dl>
    </div>
  </article>
</template>

<style scoped>
.finding {
  display: flex;
  gap: 1.2rem;
  align-items: flex-start;
  flex-wrap: wrap;
}
.picture {
  flex: none;
  width: clamp(150px, 42vmin, 420px);
  height: clamp(150px, 42vmin, 420px);
}
.told {
  flex: 1 1 240px;
  display: grid;
  gap: 0.5rem;
}
.use {
  border-left: 6px solid var(--amber);
  padding-left: 0.6rem;
  font-weight: 700;
}
.words {
  list-style: none;
  display: grid;
  gap: 0.6rem;
}
.words li {
  display: flex;
  gap: 0.7rem;
  align-items: center;
}
.shows {
  display: block;
  font-size: 1.2rem;
}
.readings {
  display: grid;
  gap: 0.5rem;
}
.readings dd {
  font-size: 1.9rem;
  font-weight: 700;
  font-variant-numeric: tabular-nums;
}
.small .picture {
  width: 96px;
  height: 96px;
}
.small h2 {
  font-size: 1rem;
}
.small .shows {
  font-size: 1rem;
}
.small .readings dd {
  font-size: 1.1rem;
}
@media (max-width: 640px) {
  .finding {
    gap: 0.7rem;
  }
  .readings dd {
    font-size: 1.5rem;
  }
}
</style>
