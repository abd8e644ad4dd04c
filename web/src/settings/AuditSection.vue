<script setup lang="ts">
import { AUDIT_ACTS } from '@rounds/contract/accounts';
import { Button } from 'ant-design-vue';
import { computed, ref } from 'vue';
import ChoiceField from '../parts/ChoiceField.vue';
import DataTable, { type Column } from '../parts/DataTable.vue';
import StateBox from '../parts/StateBox.vue';
import { moment } from '../parts/words';
import { type AuditPage, useAudit } from './queries';

/** What was done by whom, newest first. Nothing in it can be changed. */
type Line = AuditPage['rows'][number] & { place: string };
const act = ref('');
const audit = useAudit(() => act.value);
const actWords = (name: string) => name.replaceAll('-', ' ');
const acts = AUDIT_ACTS.map((value) => ({ value, label: actWords(value) }));
const rows = computed<Line[]>(() =>
  (audit.data.value?.pages ?? [])
    .flatMap((page) => page.rows)
    .map((row, i) => ({ ...row, place: `${row.at} ${i}` })),
);
const columns: Column<Line>[] = [
  { key: 'at', title: 'When', text: (row) => moment(row.at), width: 210 },
  { key: 'by', title: 'By', text: (row) => row.by ?? 'nobody signed in', width: 180 },
  { key: 'act', title: 'Act', text: (row) => actWords(row.act), width: 190 },
  { key: 'subject', title: 'About', text: (row) => row.about ?? 'something no longer kept' },
  { key: 'detail', title: 'Detail', text: (row) => (row.detail === null ? '' : JSON.stringify(row.detail)) },
];
</script>

<template>
  <div class="stack">
    <ChoiceField
      v-model:value="act"
      class="chooser"
      label="Act"
      placeholder="Every act"
      clearable
      :options="acts"
    />
    <StateBox
      :loading="!audit.data.value"
      :error="audit.data.value ? undefined : audit.error.value"
      :empty="rows.length === 0"
      what="the audit"
      @retry="audit.refetch()"
    >
      <template #empty>
        <h2>Nobody did this yet</h2>
      </template>
      <DataTable
        class="prose"
        name="Audit"
        choose
        :rows="rows"
        :columns="columns"
        :row-key="(row) => row.place"
        :page-size="50"
      />
      <Button v-if="audit.hasNextPage.value" :loading="audit.isLoading.value" @click="audit.loadNextPage()"
        >Fetch older ones</Button
      >
    </StateBox>
  </div>
</template>

<style scoped>
.chooser {
  max-width: 360px;
}
</style>
