<script setup lang="ts">
import type { RouteAnswer } from '@rounds/contract/route';
import type { assessRoutes } from '@rounds/contract/assess';
import { computed } from 'vue';
import DataTable, { type Column } from '../../parts/DataTable.vue';
import { amount, percent } from '../../parts/words';
import { useClassSequences } from '../queries';

/** The steps that the people of a class get wrong most, with honest intervals. */
const props = defineProps<{ classId: string }>();
const sequences = useClassSequences(() => props.classId);
const found = computed(() => sequences.data.value);
type Row = RouteAnswer<typeof assessRoutes.classSequences>['steps'][number];
/** Sessions under which a share says too little. */
const FEW = 10;
const slips = computed(() => (found.value?.steps ?? []).filter((each) => each.flawed > 0));
const columns: Column<Row>[] = [
  { key: 'do', title: 'Step', fixed: true, text: (row) => row.do },
  { key: 'critical', title: 'Critical', text: (row) => (row.critical ? 'critical' : '') },
  { key: 'flawed', title: 'Not right', align: 'right', text: (row) => `${row.flawed} of ${row.sessions}` },
  { key: 'skipped', title: 'Left out', align: 'right', text: (row) => String(row.skipped) },
  {
    key: 'share',
    title: 'Share, 95 % interval',
    align: 'right',
    text: (row) =>
      row.sessions < FEW
        ? 'too few to judge'
        : `${percent(row.flawed / row.sessions)} (${percent(row.low)} to ${percent(row.high)})`,
  },
];
</script>

<template>
  <section v-if="found && found.sessions > 0" class="sheet pad stack" aria-label="Where people slip">
    <h2>
      Where people slip
      <span class="quiet"
        >{{ amount(found.sessions, 'session') }} of {{ amount(found.people, 'person', 'people') }}</span
      >
    </h2>
    <p v-if="slips.length === 0" class="quiet">Every step was right every time.</p>
    <DataTable
      v-else
      name="Where people slip"
      :rows="slips"
      :columns="columns"
      :row-key="(row) => row.id"
      :page-size="10"
    />
  </section>
</template>
