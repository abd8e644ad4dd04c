<script setup lang="ts">
import { type EffectivePack, originWords } from '@rounds/core/catalogue';
import { computed } from 'vue';

/** Cautions first by what hurts, then where to stand, what to wear and whom to defer to. */
const props = defineProps<{ pack: EffectivePack }>();
const GROUPS = [
  ['hazard', 'What hurts people'],
  ['stand', 'Where to stand'],
  ['wear', 'What to wear'],
  ['defer', 'Who decides'],
] as const;
const groups = computed(() =>
  GROUPS.map(([kind, title]) => ({
    kind,
    title,
    rows: props.pack.cautions.filter((each) => each.kind === kind),
  })).filter((each) => each.rows.length > 0),
);
</script>

<template>
  <div class="stack">
    <section v-for="g in groups" :key="g.kind">
      <h2>{{ g.title }}</h2>
      <div class="grid">
        <div v-for="c in g.rows" :id="`row-${c.id}`" :key="c.id" class="sheet pad">
          <h3>{{ c.point }}</h3>
          <p v-if="c.detail !== c.point">{{ c.detail }}</p>
          <p class="quiet small">{{ originWords(c.origin) }}</p>
        </div>
        <div v-if="g.kind === 'wear'" class="sheet pad">
          <h3>In short</h3>
          <ul class="bullets">
            <li v-for="p in pack.ppe" :key="p">{{ p }}</li>
          </ul>
        </div>
      </div>
    </section>
    <section class="sheet pad">
      <h2>About these figures</h2>
      <p v-for="p in pack.provenance" :key="p">{{ p }}</p>
    </section>
  </div>
</template>

<style scoped>
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(340px, 1fr));
  gap: 0.75rem;
  margin-top: 0.4rem;
}
@media (max-width: 640px) {
  .grid {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>
