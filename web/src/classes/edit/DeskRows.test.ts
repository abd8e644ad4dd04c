import type { Pack, PackError } from '@rounds/core/catalogue';
import { shippedPack } from '@rounds/core/testing';
import { describe, expect, it } from 'vitest';
import { computed, defineComponent, h, ref } from 'vue';
import { Document } from 'yaml';
import { all, choose, click, eventually, show, text, the, type } from '../../testing/mount';
import RowsEditor from './RowsEditor.vue';

/** The rows of the loader under edit, with what the check says of them. */
async function editor(errors: PackError[] = []) {
  const document = ref(0);
  const doc = new Document(shippedPack('wheel-loader'));
  const value = computed(() => {
    void document.value;
    return doc.toJS() as Pack;
  });
  await show(
    defineComponent(
      () => () =>
        h(RowsEditor, {
          value: value.value,
          errors,
          onWrite: (change: (of: Document) => void) => {
            change(doc);
            document.value += 1;
          },
        }),
    ),
  );
  return () => value.value.machine.desk!;
}
const open = async (list: RegExp, row: RegExp) => {
  await choose('Rows', list);
  await eventually(() => expect(all('button', row).length).toBeGreaterThan(0));
  all('button', row)[0]!.click();
  await eventually(() => expect(all('form').length).toBe(1));
};

describe('the rows of a desk', () => {
  it('are forms: a place is chosen by its name, and one place stays a word', async () => {
    const desk = await editor();
    await open(/^Desk: controls/, /^Parking brake/);
    expect(the('form').textContent).toContain('In the seat');
    expect(desk().controls.find((each) => each.id === 'park-brake')!.at).toBe('cab');
    await type(/^Name$/, 'Hand brake');
    await eventually(() =>
      expect(desk().controls.find((each) => each.id === 'park-brake')!.name).toBe('Hand brake'),
    );
    // Positions are lines, not the text of a file.
    expect(desk().controls.find((each) => each.id === 'park-brake')!.positions).toEqual(['off', 'on']);
    await type(/^Positions/, 'off\non\nlocked');
    await eventually(() =>
      expect(desk().controls.find((each) => each.id === 'park-brake')!.positions).toEqual([
        'off',
        'on',
        'locked',
      ]),
    );
  });

  it('show what is wrong at its own field', async () => {
    const { machine } = shippedPack('wheel-loader');
    const at = machine.desk!.shows.findIndex((each) => each.when);
    await editor([
      {
        path: `machine/desk/shows/${at}/when`,
        rule: 'desk',
        message: 'there is no "engin.running"; meant is "engine.running"',
        line: 1,
      } as PackError,
    ]);
    await open(/^Desk: what can be perceived/, new RegExp(`^${machine.desk!.shows[at]!.name}`));
    await eventually(() =>
      expect(the('textbox', /^When \(an expression\)/).closest('.ant-form-item')!.textContent).toContain(
        'meant is "engine.running"',
      ),
    );
  });

  it('of a component are the fields of its kind', async () => {
    await editor();
    await open(/^Desk: components/, /^starter/);
    expect(text()).toMatch(/Allowed when/);
    expect(all('textbox', /^Limit/).length + all('spinbutton', /^Limit/).length).toBeGreaterThan(0);
  });

  it('of what the desk cannot show say why, and can be turned round', async () => {
    const desk = await editor();
    const [id, { asked }] = Object.entries(desk().forbidden).find(([, each]) => 'notHere' in each)!;
    const rule = shippedPack('wheel-loader').forbidden.find((each) => each.id === id)!.rule;
    await open(/^Desk: what shows the forbidden/, new RegExp(rule.slice(0, 20)));
    await eventually(() => the('textbox', /^Why the desk cannot show it/));
    await click('button', 'The desk shows it');
    await eventually(() => the('textbox', /^When \(an expression\)/));
    // What is asked about it is asked either way.
    expect(asked).toBeDefined();
    expect(desk().forbidden[id]).toEqual({ when: '', asked });
  });

  it('stand beside the desk as it is now, which can be worked', async () => {
    await editor();
    await choose('Rows', /^Desk: controls/);
    await eventually(() => the('region', 'The desk as it is now'));
    await eventually(() => the('button', /In the seat/));
    await click('button', /In the seat/);
    await eventually(() => the('button', /^Parking brake: on$/));
    await click('button', /^Parking brake: on$/);
    await eventually(() => expect(text()).toContain('Parking brake: on'));
  });
});
