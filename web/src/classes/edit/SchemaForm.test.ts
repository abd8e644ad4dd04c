import { packJsonSchema } from '@rounds/core/catalogue';
import { forkliftPack } from '@rounds/core/testing';
import { describe, expect, it } from 'vitest';
import { computed, defineComponent, h, provide, ref, type Ref } from 'vue';
import { all, choose, click, eventually, show, text, the, type } from '../../testing/mount';
import { EDITED, EDITED_ROW, needChoices, rowChoices, unitOf } from './fields';
import SchemaForm from './SchemaForm.vue';
import { schemaAt, type SchemaNode } from './yamlContext';

const pack = forkliftPack();
const schema = packJsonSchema() as SchemaNode;

/** The form of a row, and what it makes of it. */
async function form(path: (string | number)[], value: unknown): Promise<Ref<Record<string, unknown>>> {
  const model = ref(structuredClone(value)) as Ref<Record<string, unknown>>;
  await show(
    defineComponent(() => {
      provide(
        EDITED,
        computed(() => pack),
      );
      provide(EDITED_ROW, model);
      return () =>
        h(SchemaForm, {
          schema: schemaAt(schema, path)!,
          name: 'row',
          needed: true,
          top: true,
          modelValue: model.value,
          'onUpdate:modelValue': (next: unknown) => (model.value = next as Record<string, unknown>),
        });
    }),
  );
  return model;
}
const check = pack.checkpoints.find((each) => each.id === 'CF-10')!;
const labelled = (name: RegExp) => [
  ...all('combobox', name),
  ...all('textbox', name),
  ...all('spinbutton', name),
];

describe('a reference to another row', () => {
  it('is chosen by name and kept by id', async () => {
    const model = await form(['checkpoints', 0], check);
    const station = pack.plan.stations.find((each) => each.id !== check.station)!;
    expect(the('combobox', 'Station').closest('.ant-select')!.textContent).toContain(
      pack.plan.stations.find((each) => each.id === check.station)!.name,
    );
    await choose('Station', new RegExp(`^${station.name}`));
    expect(model.value['station']).toBe(station.id);
  });
  it('offers conditions of every class and of this one', () => {
    const offered = rowChoices(pack, 'conditions').map((each) => each.value);
    expect(offered).toContain('engine-off');
    for (const { id } of pack.conditions) expect(offered).toContain(id);
  });
  it('to prerequisites is a choice of steps, with groups of which one must come before', async () => {
    const step = pack.procedures.flatMap((each) => each.steps).find((each) => each.after.length > 0)!;
    const model = await form(['procedures', 0, 'steps', 0], {
      ...step,
      after: ['CF-S01', { anyOf: ['CF-S02', 'CF-S03'] }],
    });
    expect(all('combobox', 'Comes after: all of these')).toHaveLength(1);
    expect(all('combobox', 'Comes after: one of group 1')).toHaveLength(1);
    await click('button', 'And one of several');
    expect((model.value['after'] as unknown[]).filter((each) => typeof each === 'object')).toHaveLength(2);
  });
  it('offers every switch and power variant both ways for what a row needs', () => {
    const offered = needChoices(pack).map((each) => each.value);
    for (const { id } of pack.variants) expect(offered).toContain(`variant=${id}`);
    for (const feature of pack.features) expect(offered.some((each) => each.includes(feature.id))).toBe(true);
    expect(new Set(offered).size).toBe(offered.length);
  });
});

describe('a number', () => {
  it('shows its own unit, or that of the measure it belongs to', () => {
    expect(unitOf('honestSeconds', undefined)).toBe('s');
    expect(unitOf('at', 'mm')).toBe('mm');
    expect(unitOf('value', '-')).toBe('');
    expect(unitOf('weight', 'mm')).toBe('');
  });
  it('counts when it is left, and an emptied one that may be empty is gone', async () => {
    const model = await form(['checkpoints', 0], check);
    expect(the('spinbutton', /^Honest time/).closest('.ant-form-item')!.textContent).toContain('s');
    await type(/^Honest time/, '45');
    await eventually(() => expect(model.value['honestSeconds']).toBe(45));
  });
});

describe('where a fact comes from', () => {
  it('is a small form of its own: kind, citation and what it covers', async () => {
    const model = await form(['checkpoints', 0], { ...check, origin: { kind: 'memory' } });
    const kinds = [...document.querySelectorAll<HTMLElement>('.origin .ant-segmented-item')].map((each) =>
      each.textContent!.trim(),
    );
    expect(kinds).toEqual(['Published', 'Common practice', 'From memory']);
    document.querySelectorAll<HTMLElement>('.origin .ant-segmented-item input')[0]!.click();
    await eventually(() => expect(model.value['origin']).toEqual({ kind: 'published' }));
    await type(/standard, clause or document$/, 'ISO 5057');
    await eventually(() => expect(model.value['origin']).toEqual({ kind: 'published', cite: 'ISO 5057' }));
    await type(/standard, clause or document$/, '');
    await eventually(() => expect(model.value['origin']).toEqual({ kind: 'published' }));
  });
});

describe('a text', () => {
  it('counts when it is left, trimmed, and not with every key', async () => {
    const model = await form(['checkpoints', 0], check);
    const field = the('textbox', /^Part/) as HTMLInputElement;
    field.focus();
    field.value = '  Fork blades  ';
    field.dispatchEvent(new Event('input', { bubbles: true }));
    expect(model.value['part']).toBe(check.part);
    field.dispatchEvent(new FocusEvent('blur'));
    await eventually(() => expect(model.value['part']).toBe('Fork blades'));
  });
  it('that may be empty leaves the row when it is emptied', async () => {
    const model = await form(['checkpoints', 0], { ...check, whenNote: 'cold' });
    await type(/^Conditions in words/, '');
    await eventually(() => expect('whenNote' in model.value).toBe(false));
  });
});

describe('what a sound part shows', () => {
  it('is a line for each method the check allows, and says which one is missing or left over', async () => {
    const { pull: _gone, ...appears } = { look: 'Whole', pull: 'It does not move' };
    const model = await form(['checkpoints', 0], { ...check, methods: ['look', 'pull'], appears });
    expect(text()).toContain('Say what a sound part shows to it.');
    await type(/^Pull$/, 'It stays put');
    await eventually(() => expect(model.value['appears']).toEqual({ look: 'Whole', pull: 'It stays put' }));
    await form(['checkpoints', 0], {
      ...check,
      methods: ['look'],
      appears: { look: 'Whole', smell: 'None' },
    });
    expect(text()).toContain('The check does not allow this method: empty the line.');
  });
});

describe('how far a mend may go on', () => {
  const mend = {
    ...pack.faults[0],
    grade: 'mend',
    until: { bound: 'days', n: 3, says: 'Three days at most' },
  };
  it('asks how many of hours and days only', async () => {
    const model = await form(['faults', 0], mend);
    expect(all('spinbutton', 'How many')).toHaveLength(1);
    await choose('Until', /^this shift$/);
    expect(model.value['until']).toEqual({ bound: 'shift', says: 'Three days at most' });
    await eventually(() => expect(all('spinbutton', 'How many')).toHaveLength(0));
  });
  it('is not asked of what is no mend', async () => {
    const { until: _until, ...stop } = mend;
    await form(['faults', 0], { ...stop, grade: 'stop' });
    expect(all('combobox', 'Until')).toHaveLength(0);
  });
  it('of what has become a stop is taken out', async () => {
    const model = await form(['faults', 0], { ...mend, grade: 'stop' });
    await click('button', 'Take it out');
    expect('until' in model.value).toBe(false);
  });
});

describe('the time of a step', () => {
  const step = pack.procedures[0]!.steps[0]!;
  it('has the figures of its meaning, and loses the others with another meaning', async () => {
    const model = await form(['procedures', 0, 'steps', 0], {
      ...step,
      timing: { means: 'limit', most: 30, unit: 's', tries: 3, rest: 120, says: 'at most 30 s' },
    });
    expect(all('spinbutton', /^(At most|Tries|Rest between tries)$/)).toHaveLength(3);
    await choose('What it means', /^wait at least$/);
    expect(model.value['timing']).toEqual({ means: 'dwell', most: 30, unit: 's', says: 'at most 30 s' });
    await type(/^Or until$/, 'the lamp is out');
    await eventually(() => expect(model.value['timing']).toMatchObject({ until: 'the lamp is out' }));
    await choose('What it means', /^said only$/);
    expect(model.value['timing']).toEqual({ means: 'none', says: 'at most 30 s' });
    await click('button', 'Take the time out');
    expect('timing' in model.value).toBe(false);
  });
});

describe('a drawing', () => {
  const fault = pack.faults.find((each) => each.id === 'CF-F06')!;
  it('starts from that of its check, keeps what differs, and is seen and said beside its fields', async () => {
    const model = await form(['faults', 0], fault);
    const cues = () => model.value['cues'] as typeof fault.cues;
    expect(the('img', /^Fork arms: the heel worn thin, worn at the heel 12 %/)).toBeTruthy();
    await type('Worn at the heel', '4');
    await eventually(() => expect(cues()[0]!.drawing!.params).toEqual({ wear: 4 }));
    await type('Worn at the heel', '3');
    // As the sound one: nothing differs any more.
    await eventually(() => expect(cues()[0]!.drawing!.params).toEqual({}));
    await choose('Lock', /^Out/);
    expect(cues()[0]!.drawing!.params).toEqual({ lock: 'out' });
  });
  it('may be of another kind than that of its check, or be taken out', async () => {
    const model = await form(['faults', 0], { ...fault, cues: [fault.cues[0]!] });
    const drawing = () => (model.value['cues'] as typeof fault.cues)[0]!.drawing;
    await choose('Drawn as', /^Ram/);
    expect(drawing()).toEqual({ kind: 'cylinder', params: {} });
    await click('button', 'Take the drawing out');
    expect(drawing()).toBeUndefined();
  });
  it('of a check is the sound one', async () => {
    const own = pack.checkpoints.find((each) => each.id === 'CF-11')!;
    const model = await form(['checkpoints', 0], own);
    await choose('Lock', /^Out/);
    expect(model.value['evidence']).toEqual({ kind: 'fork', sound: { wear: 3, crack: 0, lock: 'out' } });
  });
});

describe('every row of the class', () => {
  const rows: [string, (string | number)[], unknown][] = [
    ['a check', ['checkpoints', 0], pack.checkpoints[0]],
    ['a fault', ['faults', 0], pack.faults[0]],
    ['a step', ['procedures', 0, 'steps', 0], pack.procedures[0]!.steps[0]],
    ['a station', ['plan', 'stations', 0], pack.plan.stations[0]],
    ['a number', ['numbers', 0], pack.numbers[0]],
    ['a criterion', ['sheet', 'sections', 0, 'criteria', 0], pack.sheet.sections[0]!.criteria[0]],
    ['a school', ['schools', 0], pack.schools[0]],
    ['a switch', ['features', 0], pack.features[0]],
  ];
  it.each(rows)('%s has a named field for each of its parts', async (_what, path, value) => {
    await form(path, value);
    const fields = Object.keys(schemaAt(schema, path)!.properties!);
    const shown = document.querySelectorAll('.ant-form-item, fieldset, .tick').length;
    expect(shown).toBeGreaterThanOrEqual(fields.length);
    for (const control of labelled(/.*/))
      expect([
        control.id,
        (control.getAttribute('aria-label') ??
          document.querySelector(`label[for="${control.id}"]`)?.textContent ??
          '') !== '',
      ]).toEqual([control.id, true]);
  });
});
