<script setup lang="ts">
import { type EffectivePack, originWords, type Quantity, valueWords } from '@rounds/core/catalogue';
import DataTable, { type Column } from '../../parts/DataTable.vue';

/** Numbers with where they come from, and worked arithmetic. */
defineProps<{ pack: EffectivePack; byChoice: ReadonlyMap<string, string> }>();
const columns: Column<Quantity>[] = [
  { key: 'name', title: 'Number', fixed: true, sorts: (a, b) => a.name.localeCompare(b.name) },
  { key: 'value', title: 'Value', fixed: true },
  { key: 'meaning', title: 'Meaning', text: (n) => n.meaning },
  { key: 'origin', title: 'Where it comes from', text: (n) => originWords(n.origin) },
];
</script>

<template>
  <div class="stack">
    <DataTable
      class="prose"
      name="List of numbers"
      :rows="pack.numbers"
      :columns="columns"
      :row-key="(n) => n.id"
      :anchor="(n) => `row-${n.id}`"
      :page-size="500"
    >
      <template #name="{ row: n }"
        ><strong>{{ n.name }}</strong></template
      >
      <template #value="{ row: n }">
        {{ valueWords(n) }}
        <div v-if="byChoice.has(n.id)" class="by-choice">site choice: {{ byChoice.get(n.id) }}</div>
      </template>
    </DataTable>
    <section v-for="w in pack.workings" :id="`row-${w.id}`" :key="w.id" class="sheet pad">
      <h2>{{ w.title }}</h2>
      <p>{{ w.says }}</p>
      <p v-if="w.example"><strong>Example.</strong> {{ w.example }}</p>
      <p class="quiet small">{{ originWords(w.origin) }}</p>
    </section>
  </div>
</template>
