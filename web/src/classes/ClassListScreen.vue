<script setup lang="ts">
import { routes, type ClassSummary } from '@rounds/contract';
import { useQuery } from '@pinia/colada';
import { computed } from 'vue';
import StateBox from '../house/StateBox.vue';
import { call } from '../house/api';
import { FAMILY_WORDS } from '../house/words';

const { data, error, isPending, refetch } = useQuery({ key: ['classes'], query: () => call(routes.classes, {}) });
const families = computed(() => {
  const groups = new Map<string, ClassSummary[]>();
  for (const each of data.value?.classes ?? []) groups.set(each.family, [...(groups.get(each.family) ?? []), each]);
  return [...groups].sort((a, b) => Number(b[1].some((c) => c.revision !== null)) - Number(a[1].some((c) => c.revision !== null)));
});

/** Outline of a class as one SVG path with its frame. */
function thumbnail(each: ClassSummary): { box: string; paths: { d: string; part: string }[] } {
  const points = each.outlines.flatMap((o) => o.points);
  const xs = points.map((p) => p[0]!);
  const ys = points.map((p) => -p[1]!);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  const side = Math.max(Math.max(...xs) - x, Math.max(...ys) - y) * 1.12;
  return {
    box: `${(Math.min(...xs) + Math.max(...xs)) / 2 - side / 2} ${(Math.min(...ys) + Math.max(...ys)) / 2 - side / 2} ${side} ${side}`,
    paths: each.outlines.map((o) => ({ part: o.part, d: `M${o.points.map((p) => `${p[0]} ${-p[1]!}`).join('L')}Z` })),
  };
}
</script>

<template>
  <div class="screen stack">
    <h1>
      Machine classes
      <span v-if="data" class="quiet">{{ data.classes.filter((c) => c.revision !== null).length }} with checks and faults, {{ data.classes.length }} in all</span>
    </h1>
    <StateBox :loading="isPending" :error="error" :empty="data?.classes.length === 0" what="the machine classes" @retry="refetch()">
      <template #empty
        ><h2>No class is published</h2>
        <p>The administrator publishes a class pack first.</p></template
      >
      <section v-for="[family, list] in families" :key="family">
        <h2>{{ FAMILY_WORDS[family] ?? family }}</h2>
        <ul class="cards">
          <li v-for="each in list" :key="each.id">
            <RouterLink :to="`/classes/${each.id}`" class="sheet card" :class="{ bare: each.revision === null }">
              <svg v-if="each.outlines.length" :viewBox="thumbnail(each).box" width="84" height="84" aria-hidden="true">
                <path v-for="(part, i) in thumbnail(each).paths" :key="i" :d="part.d" :class="part.part" />
              </svg>
              <span class="grow"
                ><strong>{{ each.title }}</strong
                ><span v-if="each.revision !== null" class="quiet">{{ each.checkpoints }} checks, {{ each.faults }} faults, {{ each.units }} machines</span
                ><span v-else class="quiet">certificates only, {{ each.units }} machines</span></span
              >
            </RouterLink>
          </li>
        </ul>
      </section>
    </StateBox>
  </div>
</template>

<style scoped>
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(250px, 1fr));
  gap: 0.75rem;
  margin-top: 0.5rem;
}
.card {
  display: flex;
  gap: 1rem;
  align-items: center;
  padding: 0.8rem 1rem;
  color: var(--ink);
  text-decoration: none;
  min-height: 72px;
  height: 100%;
}
.card:hover {
  border-color: var(--petrol);
}
.card strong,
.card .quiet {
  display: block;
}
.card.bare {
  background: none;
  border-style: dashed;
}
path {
  fill: var(--machine);
  stroke: var(--machine-deep);
  stroke-width: 0.05;
}
path.wheel,
path.forks,
path.mast,
path.carriage {
  fill: var(--machine-deep);
}
path.guard,
path.seat {
  fill: none;
}
</style>
