<script setup lang="ts">
import { originWords, valueWords } from '@rounds/core/catalogue';
import type { EffectivePack } from '@rounds/core/catalogue';

/** Numbers with where they come from, and worked arithmetic. */
defineProps<{ pack: EffectivePack; byChoice: ReadonlyMap<string, string> }>();
</script>

<template>
  <div class="stack">
    <div class="sheet scrolls" tabindex="0" role="region" aria-label="List of numbers">
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
          <tr v-for="n in pack.numbers" :id="`row-${n.id}`" :key="n.id">
            <td>
              <strong>{{ n.name }}</strong>
            </td>
            <td>
              {{ valueWords(n) }}
              <div v-if="byChoice.has(n.id)" class="by-choice">site choice: {{ byChoice.get(n.id) }}</div>
            </td>
            <td>{{ n.meaning }}</td>
            <td>{{ originWords(n.origin) }}</td>
          </tr>
        </tbody>
      </table>
    </div>
    <section v-for="w in pack.workings" :id="`row-${w.id}`" :key="w.id" class="sheet pad">
      <h2>{{ w.title }}</h2>
      <p>{{ w.says }}</p>
      <p v-if="w.example"><strong>Example.</strong> {{ w.example }}</p>
      <p class="quiet small">{{ originWords(w.origin) }}</p>
    </section>
  </div>
</template>
