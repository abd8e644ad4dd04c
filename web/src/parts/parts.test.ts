import { MenuItem } from 'ant-design-vue';
import { describe, expect, it, vi } from 'vitest';
import { type Component, defineComponent, h, nextTick, ref } from 'vue';
import { all, eventually, press, settled, show, text, the, type } from '../testing/mount';
import ChoiceField from './ChoiceField.vue';
import DataTable, { type Column, type Place } from './DataTable.vue';
import MenuButton from './MenuButton.vue';
import TabRow from './TabRow.vue';

/** The words of the list that is open; nothing when none is. */
const offered = () =>
  [...document.querySelectorAll<HTMLElement>('.ant-select-dropdown:not(.ant-select-dropdown-hidden)')]
    .flatMap((each) => [...each.querySelectorAll('.ant-select-item-option')])
    .map((each) => each.textContent?.trim() ?? '');

describe('a choice', () => {
  const choice = async (options: string[], props: Record<string, unknown> = {}) => {
    const value = ref('');
    const Holder = defineComponent(
      () => () =>
        h(ChoiceField as unknown as Component, {
          label: 'Site',
          options: options.map((each) => ({ value: each, label: each })),
          value: value.value,
          'onUpdate:value': (now: string) => (value.value = now),
          ...props,
        }),
    );
    await show(Holder);
    return { value, field: the('combobox', 'Site') as HTMLInputElement };
  };

  it('opens by key without taking anything; the next Enter takes what is marked', async () => {
    const { value, field } = await choice(['Quay', 'Quarry', 'Field']);
    for (const key of ['Enter', ' ', 'ArrowDown']) {
      field.focus();
      await press(key, field);
      expect([key, value.value, field.getAttribute('aria-expanded')]).toEqual([key, '', 'true']);
      await press('Escape', field);
    }
    await press('Enter', field);
    expect(offered()).toEqual(['Quay', 'Quarry', 'Field']);
    const enter = new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true });
    Object.defineProperty(enter, 'which', { value: 13 });
    field.dispatchEvent(enter);
    await settled();
    expect(value.value).toBe('Quay');
  });

  it('is found by typing where the list is long, by its second line too', async () => {
    const many = Array.from({ length: 9 }, (_, i) => `Yard ${i}`);
    const { field } = await choice([], {
      options: many.map((each, i) => ({ value: each, label: each, more: i === 4 ? 'under the crane' : '' })),
    });
    expect(field.readOnly).toBe(false);
    field.focus();
    await press('Enter', field);
    await type('Site', 'CRANE');
    await eventually(() => expect(offered()).toEqual(['Yard 4under the crane']));
  });

  it('is only picked from where the list is short', async () => {
    const { field } = await choice(Array.from({ length: 8 }, (_, i) => `Yard ${i}`));
    expect(field.readOnly).toBe(true);
  });
});

describe('a menu button', () => {
  it('leads the keyboard into the menu, through it and back', async () => {
    const taken = vi.fn();
    const Holder = defineComponent(
      () => () =>
        h(MenuButton, null, {
          default: () => 'More',
          items: () =>
            ['Print', 'Export', 'Withdraw'].map((name) =>
              h(MenuItem, { key: name, onClick: () => taken(name) }, () => name),
            ),
        }),
    );
    await show(Holder);
    const button = the('button', 'More');
    expect([button.getAttribute('aria-haspopup'), button.getAttribute('aria-expanded')]).toEqual([
      'menu',
      'false',
    ]);
    button.click();
    await eventually(() => expect(document.activeElement?.textContent).toBe('Print'));
    expect(button.getAttribute('aria-expanded')).toBe('true');
    await press('ArrowUp');
    expect(document.activeElement?.textContent).toBe('Withdraw');
    await press('ArrowDown');
    await press('ArrowDown');
    expect(document.activeElement?.textContent).toBe('Export');
    await press('Escape');
    expect(document.activeElement).toBe(button);
    expect(taken).not.toHaveBeenCalled();
    button.click();
    await eventually(() => expect(document.activeElement?.textContent).toBe('Print'));
    await press('End');
    await press('Enter');
    expect(taken.mock.calls).toEqual([['Withdraw']]);
    expect(button.getAttribute('aria-expanded')).toBe('false');
  });
});

describe('a row of tabs', () => {
  it('is walked round by the arrows; Home and End go to the ends', async () => {
    const chosen = ref('b');
    const Holder = defineComponent(
      () => () =>
        h(TabRow as unknown as Component, {
          label: 'Parts',
          tabs: [
            { key: 'a', name: 'Round', hint: '64' },
            { key: 'b', name: 'Faults' },
            { key: 'c', name: 'Numbers' },
          ],
          chosen: chosen.value,
          'onUpdate:chosen': (now: string) => (chosen.value = now),
        }),
    );
    await show(Holder);
    const selected = () => all('tab').filter((each) => each.getAttribute('aria-selected') === 'true');
    for (const [key, to] of [
      ['ArrowRight', 'c'],
      ['ArrowRight', 'a'],
      ['ArrowLeft', 'c'],
      ['Home', 'a'],
      ['End', 'c'],
    ] as const) {
      await press(key, selected()[0]!);
      expect([key, chosen.value, selected().length]).toEqual([key, to, 1]);
    }
  });
});

/** A generic component, as the render function takes it. */
const Table = DataTable as unknown as Component;

describe('a table', () => {
  interface Row {
    name: string;
    hours: number;
  }
  const ROWS: Row[] = Array.from({ length: 30 }, (_, i) => ({ name: `Person ${i}`, hours: (i * 7) % 30 }));
  const COLUMNS: Column<Row>[] = [
    { key: 'name', title: 'Name', text: (row) => row.name, fixed: true },
    { key: 'hours', title: 'Hours', text: (row) => String(row.hours), sorts: (a, b) => a.hours - b.hours },
    { key: 'note', title: 'Note', text: () => 'noted', hidden: true },
  ];
  const first = () => document.querySelector('tbody tr:not([aria-hidden="true"])')?.textContent;
  const head = (title: string) =>
    [...document.querySelectorAll<HTMLElement>('th')].find((each) => each.textContent?.trim() === title);

  it('orders and pages the rows it has', async () => {
    const Holder = defineComponent(
      () => () => h(Table, { rows: ROWS, columns: COLUMNS, rowKey: (row: Row) => row.name, name: 'Hours' }),
    );
    await show(Holder);
    expect(document.querySelector('table')?.getAttribute('aria-label')).toBe('Hours');
    expect(first()).toContain('Person 0');
    expect(text()).toContain('1 to 25 of 30');
    head('Hours')!.click();
    await settled();
    head('Hours')!.click();
    await settled();
    expect(first()).toMatch(/29$/);
    document.querySelector<HTMLElement>('.ant-pagination-item-2')!.click();
    await settled();
    expect(text()).toContain('26 to 30 of 30');
    expect(first()).toMatch(/Person \d+4$/);
  });

  it('asks the server for another order and page, and starts at the first page of another order', async () => {
    const place = ref<Place>({ page: 2 });
    const Holder = defineComponent(
      () => () =>
        h(Table, {
          rows: ROWS.slice(0, 10),
          columns: COLUMNS.map((each) => (each.key === 'hours' ? { ...each, sorts: true as const } : each)),
          rowKey: (row: Row) => row.name,
          name: 'Hours',
          total: 45,
          pageSize: 10,
          place: place.value,
          'onUpdate:place': (now: Place) => (place.value = now),
        }),
    );
    await show(Holder);
    expect(text()).toContain('11 to 20 of 45');
    document.querySelector<HTMLElement>('.ant-pagination-item-4')!.click();
    await settled();
    expect(place.value).toEqual({ page: 4 });
    head('Hours')!.click();
    await settled();
    expect(place.value).toEqual({ page: 1, sort: 'hours', order: 'ascending' });
    expect(head('Hours')!.getAttribute('aria-sort')).toBe('ascending');
    head('Hours')!.click();
    await settled();
    expect(place.value).toEqual({ page: 1, sort: 'hours', order: 'descending' });
    head('Hours')!.click();
    await settled();
    expect(place.value).toEqual({ page: 1 });
  });

  it('keeps on the device which columns are shown', async () => {
    const props = {
      rows: ROWS,
      columns: COLUMNS,
      rowKey: (row: Row) => row.name,
      name: 'Hours',
      choose: true,
    };
    const Holder = defineComponent(() => () => h(Table, props));
    const { wrapper } = await show(Holder);
    expect(head('Note')).toBeUndefined();
    the('button', /Columns/).click();
    await eventually(() => expect(all('menuitem', 'Note')).toHaveLength(1));
    the('menuitem', 'Note').click();
    the('menuitem', 'Hours').click();
    await settled();
    expect([head('Note') !== undefined, head('Hours') === undefined]).toEqual([true, true]);
    wrapper.unmount();
    await nextTick();
    await show(Holder);
    expect([head('Name') !== undefined, head('Note') !== undefined, head('Hours')]).toEqual([
      true,
      true,
      undefined,
    ]);
  });
});
