<script setup lang="ts" generic="Row extends object">
import { ColumnHeightOutlined } from '@ant-design/icons-vue';
import { useLocalStorage } from '@vueuse/core';
import { Checkbox, MenuItem, Table, type TablePaginationConfig } from 'ant-design-vue';
import type { Key } from 'ant-design-vue/es/_util/type';
import { computed, onMounted, onUpdated, ref } from 'vue';
import MenuButton from './MenuButton.vue';

/** A column of a table: what it shows, and how rows are put in its order. */
export interface Column<R> {
  key: string;
  title: string;
  /** The text of a cell, where no slot of the column's key draws it. */
  text?: (row: R) => string;
  /** Orders two rows here; true where the server orders. */
  sorts?: ((a: R, b: R) => number) | true;
  align?: 'right';
  width?: number | string;
  /** Choices that narrow the rows here. */
  filters?: { value: string; text: string; keeps: (row: R) => boolean }[];
  /** Not shown before it is chosen. */
  hidden?: boolean;
  /** Always shown. */
  fixed?: boolean;
}
/** Which page of the server's rows is shown, and in what order. */
export interface Place {
  page: number;
  sort?: string | undefined;
  order?: 'ascending' | 'descending' | undefined;
}

/**
 * A table of rows: a head that stays, orders by column, pages, and a choice of columns that is kept on the
 * device under `name`. With `total` the server pages and orders, and `place` says where.
 */
const props = defineProps<{
  rows: readonly Row[];
  columns: readonly Column<Row>[];
  rowKey: (row: Row) => string;
  /** What the table holds, for readers and for the kept choice of columns. */
  name: string;
  total?: number;
  pageSize?: number;
  loading?: boolean;
  /** An id for each row, for links that lead to it. */
  anchor?: (row: Row) => string;
  /** Lets columns be left out. */
  choose?: boolean;
}>();
const place = defineModel<Place>('place', { default: () => ({ page: 1 }) });
defineSlots<
  { [key: string]: (slot: { row: Row }) => unknown } & {
    above?: () => unknown;
    expanded?: (slot: { row: Row }) => unknown;
  }
>();

const left = useLocalStorage<string[]>(
  `rounds-columns-${props.name}`,
  props.columns.filter((each) => each.hidden).map((each) => each.key),
);
const shown = computed(() => props.columns.filter((each) => each.fixed || !left.value.includes(each.key)));
function toggle(key: string) {
  left.value = left.value.includes(key) ? left.value.filter((each) => each !== key) : [...left.value, key];
}
/** The library's table takes no name, which readers ask for, and names its arrows, which say nothing. */
const frame = ref<HTMLElement | null>(null);
function describe() {
  frame.value?.querySelector('table')?.setAttribute('aria-label', props.name);
  for (const arrow of frame.value?.querySelectorAll('.ant-table-column-sorter .anticon') ?? []) {
    arrow.removeAttribute('aria-label');
    arrow.setAttribute('aria-hidden', 'true');
  }
}
onMounted(describe);
onUpdated(describe);
const byServer = computed(() => props.total !== undefined);
const asked = (key: string): 'ascend' | 'descend' | null => {
  if (place.value.sort !== key) return null;
  return place.value.order === 'descending' ? 'descend' : 'ascend';
};
const heads = computed(() =>
  shown.value.map((each) => ({
    key: each.key,
    title: each.title,
    ...(each.align ? { align: each.align } : {}),
    ...(each.width ? { width: each.width } : {}),
    ...(each.sorts ? { sorter: each.sorts } : {}),
    ...(each.sorts && byServer.value ? { sortOrder: asked(each.key) } : {}),
    ...(each.filters
      ? {
          filters: each.filters.map(({ value, text }) => ({ value, text })),
          onFilter: (value: unknown, row: Row) =>
            each.filters!.find((choice) => choice.value === value)?.keeps(row) ?? true,
        }
      : {}),
  })),
);
const textOf = (key: unknown, row: Row) => props.columns.find((each) => each.key === key)?.text?.(row) ?? '';
const pagination = computed<TablePaginationConfig>(() => ({
  pageSize: props.pageSize ?? 25,
  hideOnSinglePage: true,
  showSizeChanger: false,
  showTotal: (total, [from, to]) => `${from} to ${to} of ${total}`,
  ...(byServer.value ? { total: props.total!, current: place.value.page } : {}),
}));
function changed(page: TablePaginationConfig, _filters: unknown, sorter: unknown) {
  const by = sorter as { columnKey?: string; order?: 'ascend' | 'descend' };
  const order = by.order === 'descend' ? 'descending' : 'ascending';
  const sort = by.order ? ({ sort: by.columnKey, order } as const) : {};
  const moved = place.value.sort !== sort.sort || (sort.sort && place.value.order !== order);
  place.value = { page: moved ? 1 : (page.current ?? 1), ...sort };
}
</script>

<template>
  <div ref="frame" class="data-table sheet" role="group" :aria-label="name" tabindex="0">
    <div v-if="choose || $slots['above']" class="above">
      <slot name="above" />
      <MenuButton v-if="choose" type="text" stays>
        <ColumnHeightOutlined :rotate="90" aria-hidden="true" /> Columns
        <template #items>
          <MenuItem
            v-for="each in props.columns.filter((column) => !column.fixed)"
            :key="each.key"
            @click="toggle(each.key)"
          >
            <Checkbox :checked="!left.includes(each.key)" :tabindex="-1">{{ each.title }}</Checkbox>
          </MenuItem>
        </template>
      </MenuButton>
    </div>
    <Table
      :columns="heads"
      :data-source="[...rows] as Row[]"
      :row-key="rowKey as (row: Row) => Key"
      :pagination="pagination"
      :loading="loading ?? false"
      :show-sorter-tooltip="false"
      :custom-row="(row: Row) => (anchor ? { id: anchor(row) } : {})"
      size="middle"
      @change="changed"
    >
      <template #bodyCell="{ column, record }">
        <slot :name="String(column.key)" :row="record as Row">{{ textOf(column.key, record as Row) }}</slot>
      </template>
      <template v-if="$slots['expanded']" #expandedRowRender="{ record }">
        <slot name="expanded" :row="record as Row" />
      </template>
    </Table>
  </div>
</template>

<style scoped>
.data-table {
  overflow-x: auto;
}
.above {
  display: flex;
  align-items: center;
  justify-content: flex-end;
  gap: 0.75rem;
  padding: 0.25rem 0.5rem 0;
}
</style>
