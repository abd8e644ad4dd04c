<script setup lang="ts">
import type { RowChange } from '@rounds/core/catalogue';
import { Button } from 'ant-design-vue';
import { computed, ref } from 'vue';
import { amount } from '../parts/words';

/** Differences between two packs, row by row, before beside after. */
const props = defineProps<{
  changes: readonly Omit<RowChange, 'section'>[];
  before: string;
  after: string;
}>();
const MANY = 60;
const all = ref(false);
const shown = computed(() => (all.value ? props.changes : props.changes.slice(0, MANY)));
const words = { added: 'Added', removed: 'Removed', changed: 'Changed' } as const;
const count = (kind: keyof typeof words) => props.changes.filter((each) => each.kind === kind).length;
</script>

<template>
  <div>
    <p>
      <strong>{{ amount(changes.length, 'row differs', 'rows differ') }}:</strong>
      {{ count('changed') }} changed, {{ count('added') }} added, {{ count('removed') }} removed.
    </p>
    <section
      v-for="c in shown"
      :key="`${c.sectionName}/${c.id}/${c.kind}`"
      class="change"
      :aria-label="`${words[c.kind]}: ${c.title}`"
    >
      <div>
        <span class="kind" :class="c.kind">{{ words[c.kind] }}</span> {{ c.sectionName }}
        <strong>{{ c.title }}</strong> <span class="quiet">{{ c.id }}</span>
      </div>
      <div v-if="c.kind === 'changed'" class="fields">
        <div class="quiet small">{{ before }}</div>
        <div class="quiet small">{{ after }}</div>
        <template v-for="f in c.fields" :key="f.field">
          <div class="side">
            <span class="quiet small">{{ f.field }}</span> <del v-if="f.before">{{ f.before }}</del><em v-else
              >nothing</em
            >
          </div>
          <div class="side">
            <span class="quiet small">{{ f.field }}</span> <ins v-if="f.after">{{ f.after }}</ins><em v-else
              >nothing</em
            >
          </div>
        </template>
      </div>
      <p v-else class="quiet small">
        {{
          c.fields
            .map((f) => f.after || f.before)
            .filter(Boolean)
            .slice(0, 4)
            .join('; ')
            .slice(0, 300)
        }}
      </p>
    </section>
    <Button v-if="changes.length > shown.length" type="link" @click="all = true"
      >Show all {{ changes.length }}</Button
    >
  </div>
</template>

<style scoped>
.kind {
  display: inline-block;
  min-width: 5.2rem;
  font-weight: 700;
}
.kind.removed {
  color: var(--crimson);
}
.kind.added {
  color: var(--petrol);
}
.fields {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.2rem 1rem;
  margin: 0.3rem 0 0 5.4rem;
}
.side {
  border-left: 3px solid var(--line);
  padding-left: 0.6rem;
  overflow-wrap: anywhere;
}
ins {
  text-decoration: none;
  font-weight: 700;
}
@media (max-width: 640px) {
  .fields {
    margin-left: 0;
  }
}
</style>
