<script setup lang="ts">
import { refDebounced } from '@vueuse/core';
import { Button, Input } from 'ant-design-vue';
import { computed, ref } from 'vue';
import DataTable, { type Column } from '../parts/DataTable.vue';
import StateBox from '../parts/StateBox.vue';
import { moment } from '../parts/words';
import { type AuditPage, useAudit } from './queries';

/** What was done by whom, newest first. Nothing in it can be changed. */
type Line = AuditPage['rows'][number] & { place: string };
const act = ref('');
const settled = refDebounced(act, 300);
const audit = useAudit(() => settled.value.trim());
const rows = computed<Line[]>(() =>
  (audit.data.value?.pages ?? [])
    .flatMap((page) => page.rows)
    .map((row, i) => ({ ...row, place: `${row.at} ${i}` })),
);
const columns: Column<Line>[] = [
  { key: 'at', title: 'When', text: (row) => moment(row.at), width: 210 },
  { key: 'by', title: 'By', text: (row) => row.by ?? 'nobody signed in', width: 180 },
  { key: 'act', title: 'Act', text: (row) => row.act.replaceAll('-', ' '), width: 190 },
  { key: 'subject', title: 'About', text: (row) => row.subject },
  { key: 'detail', title: 'Detail', text: (row) => (row.detail === null ? '' : JSON.stringify(row.detail)) },
];
</script>

<template>
  <div class="stack">
    <Input
      v-model:value="act"
      type="search"
      allow-clear
      placeholder="An act, as it stands in the list: person-changed"
      aria-label="Only acts called"
    />
    <StateBox
      :loading="!audit.data.value"
      :error="audit.data.value ? undefined : audit.error.value"
      :empty="rows.length === 0"
      what="the audit"
      @retry="audit.refetch()"
    >
      <template #empty>
        <h2>Nothing of that name</h2>
        <p>Acts are listed by their whole name, such as signed-in or rules-set.</p>
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
