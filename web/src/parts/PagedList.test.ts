import 'ant-design-vue/es/pagination';
import { describe, expect, it } from 'vitest';
import { defineComponent, h, nextTick, ref } from 'vue';
import { eventually, show, text } from '../testing/mount';
import PagedList from './PagedList.vue';

const rowsTo = (n: number) => Array.from({ length: n }, (_, i) => `row ${i + 1}`);
async function listOf(begun: string[]) {
  const rows = ref(begun);
  const Screen = defineComponent(() => () => {
    const props = { rows: rows.value, size: 3, nothing: 'None here.', name: 'Rows' };
    return h(PagedList<string>, props, { default: ({ row }: { row: string }) => row });
  });
  await show(Screen);
  return rows;
}
const shown = () => [...document.querySelectorAll('li.item')].map((each) => each.textContent!.trim());
const goTo = (page: string) =>
  document.querySelector<HTMLElement>(`.ant-pagination-item[title="${page}"]`)!.click();

describe('a list in pages', () => {
  it('says what an empty list means', async () => {
    await listOf([]);
    expect(text()).toContain('None here.');
    expect(document.querySelector('ul')).toBeNull();
  });
  it('shows no pages where all rows fit', async () => {
    await listOf(rowsTo(3));
    expect(shown()).toEqual(['row 1', 'row 2', 'row 3']);
    expect(document.querySelector('.pages')).toBeNull();
  });
  it('cuts nothing off silently: what does not fit is on the next page', async () => {
    await listOf(rowsTo(7));
    await eventually(() => expect(document.querySelectorAll('.ant-pagination-item')).toHaveLength(3));
    goTo('3');
    await nextTick();
    expect(shown()).toEqual(['row 7']);
  });
  it('goes to the last page that is left when rows go', async () => {
    const rows = await listOf(rowsTo(7));
    await eventually(() => expect(document.querySelectorAll('.ant-pagination-item')).toHaveLength(3));
    goTo('3');
    await nextTick();
    rows.value = rowsTo(5);
    await nextTick();
    expect(shown()).toEqual(['row 4', 'row 5']);
  });
});
