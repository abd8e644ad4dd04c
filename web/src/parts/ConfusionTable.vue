<script setup lang="ts">
import { GRADES } from '@rounds/core/catalogue';
import { GRADE_WORDS } from '@rounds/core/grading';
import { computed } from 'vue';
import GradeDisc from '../drawing/GradeDisc.vue';

/** What was said of what, by grade: rows are the key, columns what was given; the diagonal is right. */
const props = defineProps<{ confusion: readonly (readonly number[])[] }>();
const most = computed(() => Math.max(1, ...props.confusion.flat()));
/** The more, the darker: as a share of the fullest cell. */
const shade = (count: number) => `${Math.round((60 * count) / most.value)}%`;
const what = (key: number, given: number) => (key === given ? 'right' : given < key ? 'too low' : 'too high');
</script>

<template>
  <table class="confusion">
    <caption>
      Down: what it is. Across: what was said.
    </caption>
    <thead>
      <tr>
        <td></td>
        <th v-for="grade in GRADES" :key="grade" scope="col">
          <GradeDisc :grade="grade" :size="18" /> {{ GRADE_WORDS[grade] }}
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="(row, i) in confusion" :key="GRADES[i]">
        <th scope="row"><GradeDisc :grade="GRADES[i]!" :size="18" /> {{ GRADE_WORDS[GRADES[i]!] }}</th>
        <td
          v-for="(count, j) in row"
          :key="GRADES[j]"
          :class="{ right: i === j, low: j < i && count > 0 }"
          :style="{ '--share': shade(count) }"
        >
          {{ count || '' }}<span v-if="count" class="visually-hidden"> {{ what(i, j) }}</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.confusion {
  border-collapse: collapse;
  font-variant-numeric: tabular-nums;
}
caption {
  caption-side: bottom;
  text-align: left;
  color: var(--quiet);
  font-size: 0.88rem;
  padding-top: 0.3rem;
}
th {
  font-weight: 400;
  padding: 0.25rem 0.5rem;
  text-align: left;
  white-space: nowrap;
}
tbody td {
  width: 4.5rem;
  height: 2.6rem;
  text-align: center;
  font-weight: 700;
  border: 1px solid var(--line);
  background: color-mix(in srgb, var(--machine) var(--share), transparent);
}
tbody td.right {
  outline: 2px solid var(--petrol);
  outline-offset: -3px;
}
tbody td.low {
  outline: 2px dashed var(--crimson);
  outline-offset: -3px;
}
@media (max-width: 640px) {
  tbody td {
    width: 3rem;
  }
  th {
    padding: 0.2rem 0.3rem;
    font-size: 0.88rem;
  }
}
</style>
