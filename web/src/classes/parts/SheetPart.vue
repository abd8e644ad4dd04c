<script setup lang="ts">
import { type Criterion, type EffectivePack, originWords } from '@rounds/core/catalogue';
import { scoredByTrainer } from '@rounds/core/evaluation';
import { computed } from 'vue';

/** The evaluation sheet. */
const props = defineProps<{ pack: EffectivePack }>();
/** Where the credit of a linked criterion comes from. */
const filledBy = (criterion: Criterion) =>
  scoredByTrainer(criterion) ? 'scored by the trainer as seen' : 'filled by the round';
const total = computed(() =>
  props.pack.sheet.sections.reduce((sum, each) => sum + each.criteria.reduce((s, c) => s + c.weight, 0), 0),
);
</script>

<template>
  <div class="stack">
    <p>
      Pass mark {{ pack.sheet.cut }} %; a prompt earns {{ pack.sheet.promptCredit * 100 }} %; at most
      {{ pack.sheet.notApplicableMax * 100 }} % of the weight may be not applicable.
      {{ originWords(pack.sheet.origin) }}.
    </p>
    <div class="grid">
      <section v-for="s in pack.sheet.sections" :key="s.id" class="sheet pad">
        <h2>
          {{ s.title }} <span v-if="s.minimum" class="quiet">minimum {{ s.minimum }} %</span>
        </h2>
        <ul>
          <li v-for="c in s.criteria" :id="`row-${c.id}`" :key="c.id" class="row spread">
            <span class="grow"
              >{{ c.says }} <span v-if="c.link" class="quiet small">{{ filledBy(c) }}</span></span
            ><span class="weight">weight {{ c.weight }}, {{ Math.round((100 * c.weight) / total) }} %</span>
          </li>
        </ul>
      </section>
    </div>
    <section class="sheet pad">
      <h2>Ends the evaluation at once</h2>
      <ul class="bullets">
        <li v-for="e in pack.sheet.criticalErrors" :id="`row-${e.id}`" :key="e.id">{{ e.says }}</li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(380px, 1fr));
  gap: 0.75rem;
  align-items: start;
}
li.row {
  padding: 0.25rem 0;
  flex-wrap: nowrap;
  align-items: baseline;
}
.weight {
  color: var(--quiet);
  white-space: nowrap;
}
@media (max-width: 640px) {
  .grid {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
