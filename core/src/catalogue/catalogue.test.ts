import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { forkliftPack } from '../testing';
import { compose, CompositionError, contentHash, needsMet, packIntegrity, packJsonSchema, prerequisites, readPack } from './index';

const source = readFileSync(new URL('../../../packs/counterbalance-forklift.yaml', import.meta.url), 'utf8');
const pack = forkliftPack();

/** The line (from 1) of the first match in the pack's text. */
const lineOf = (text: string, nth = 1) => {
  let at = -1;
  for (let i = 0; i < nth; i++) at = source.indexOf(text, at + 1);
  return source.slice(0, at).split('\n').length;
};

describe('the forklift pack', () => {
  it('is sound and carries what its trade brief asks for', () => {
    expect(packIntegrity(pack)).toEqual([]);
    expect(pack.checkpoints.length).toBe(72);
    expect(pack.faults.length).toBe(97);
    expect(pack.numbers.length).toBe(37);
    expect(pack.procedures.length).toBeGreaterThanOrEqual(20);
    expect(pack.sheet.sections.flatMap((each) => each.criteria).length).toBe(28);
    expect(pack.forbidden.length).toBe(17);
    expect(pack.schools.length).toBe(14);
  });

  it('composes for every variant and every value of every switch, with order kept where steps fall away', () => {
    for (const variant of pack.variants)
      for (const feature of pack.features)
        for (const value of feature.values) {
          const effective = compose(pack, { variant: variant.id, features: { [feature.id]: value } });
          const steps = new Set(effective.procedures.flatMap((each) => each.steps.map((s) => s.id)));
          for (const procedure of effective.procedures)
            for (const step of procedure.steps) for (const before of prerequisites(step)) expect(steps.has(before)).toBe(true);
          for (const fault of effective.faults) expect(effective.checkpoints.some((each) => each.id === fault.checkpoint)).toBe(true);
        }
  });

  it('has gas checks only on a gas truck and a battery only on an electric one', () => {
    const has = (variant: string, id: string) => compose(pack, { variant }).checkpoints.some((each) => each.id === id);
    expect([has('lpg', 'CF-29'), has('diesel', 'CF-29'), has('electric', 'CF-29')]).toEqual([true, false, false]);
    expect([has('electric', 'CF-49'), has('diesel', 'CF-49')]).toEqual([true, false]);
    expect([has('electric', 'CF-37'), has('diesel', 'CF-37')]).toEqual([false, true]);
  });

  it('bridges a step that falls away: without preheat the crank waits for what preheat waited for', () => {
    const petrol = compose(pack, { variant: 'petrol' });
    const crank = petrol.procedures.flatMap((each) => each.steps).find((each) => each.id === 'CF-SU-6')!;
    expect(prerequisites(crank)).toEqual(['CF-SU-3']);
  });

  it('works a site choice into numbers and grades', () => {
    const school = pack.schools.find((each) => each.question.startsWith('Ramp rule'))!;
    const ramp = (option: string) => compose(pack, { variant: 'diesel', choices: { [school.id]: option } }).numbers.find((each) => each.name === 'ramp threshold')!.value;
    expect([ramp('always'), ramp('over-5'), ramp('over-10')]).toEqual([0, 5, 10]);
    const strict = pack.schools.find((each) => each.options.some((o) => o.id === 'withdraw'))!;
    const grades = new Set(compose(pack, { variant: 'diesel', choices: { [strict.id]: 'withdraw' } }).faults.map((each) => each.grade));
    expect([...grades].sort()).toEqual(['sound', 'stop']);
  });

  it('gives equal content an equal hash and changed content another', () => {
    const a = compose(pack, { variant: 'diesel' });
    expect(compose(forkliftPack(), { variant: 'diesel' }).hash).toBe(a.hash);
    expect(compose(pack, { variant: 'diesel', features: { tyres: 'cushion' } }).hash).not.toBe(a.hash);
    expect(contentHash({ b: 1, a: [undefined, 2] })).toBe(contentHash({ a: [null, 2], b: 1 }));
  });

  it('refuses what it does not have', () => {
    expect(() => compose(pack, { variant: 'steam' })).toThrow(CompositionError);
    expect(() => compose(pack, { variant: 'diesel', features: { wings: 'yes' } })).toThrow(/no feature "wings"/);
    expect(() => compose(pack, { variant: 'diesel', features: { tyres: 'square' } })).toThrow(/no value "square"/);
    expect(() => compose(pack, { variant: 'diesel', choices: { nobody: 'a' } })).toThrow(/no school/);
  });
});

describe('reading a pack names the line and the rule of each error', () => {
  const broken = (change: (text: string) => string) => readPack(change(source)).errors;
  it.each([
    [
      'a station that does not exist',
      (t: string) => t.replace('    station: st-01\n    part: Fork heel', '    station: st-99\n    part: Fork heel'),
      'unresolved-station',
      lineOf('    station: st-01\n    part: Fork heel'),
    ],
    ['an id used twice', (t: string) => t.replace('  - id: CF-11\n', '  - id: CF-10\n'), 'unique-id', lineOf('  - id: CF-11\n')],
    [
      'steps that wait for each other',
      (t: string) => t.replace('  - id: CF-FM-1\n        do:', '  - id: CF-FM-1\n        after: [CF-FM-2]\n        do:'),
      'cyclic-steps',
      null,
    ],
    [
      'a method that is none',
      (t: string) => t.replace('methods: [look, wipe, touch]', 'methods: [look, sniff, touch]'),
      'schema:invalid_value',
      lineOf('methods: [look, wipe, touch]'),
    ],
    [
      'a fault nobody can detect',
      (t: string) => t.replace('methods: [look, wipe]\n    sound: "dry, or only water"', 'methods: [smell]\n    sound: "dry, or only water"'),
      'undetectable-fault',
      null,
    ],
    ['an unknown switch', (t: string) => t.replace('needs: ["tyres=pneumatic"]', 'needs: ["tires=pneumatic"]'), 'unknown-feature', lineOf('needs: ["tyres=pneumatic"]')],
    [
      'limits that turn back',
      (t: string) => t.replace('          - grade: watch\n            at: 5\n', '          - grade: watch\n            at: 15\n'),
      'gauge-direction',
      null,
    ],
    ['a key twice', (t: string) => t.replace('revision: 1\n', 'revision: 1\nrevision: 2\n'), 'yaml', null],
    ['broken YAML', (t: string) => t.replace('variants:\n', 'variants: [\n'), 'yaml', null],
    ['a published origin without its clause', (t: string) => t.replace('origin: { kind: practice }', 'origin: { kind: published }'), 'origin-cite', null],
    ['a field that is not in the schema', (t: string) => t.replace('revision: 1\n', 'revision: 1\nsticker: yes\n'), 'schema:unrecognized_keys', null],
  ] as const)('%s', (_what, change, rule, line) => {
    const errors = broken(change);
    expect(errors.map((each) => each.rule)).toContain(rule);
    const found = errors.find((each) => each.rule === rule)!;
    expect(found.line).toBeGreaterThan(0);
    if (line !== null) expect(Math.abs(found.line - line)).toBeLessThanOrEqual(1);
  });

  it('never throws, whatever it is given', () => {
    for (const text of ['', '[]', 'null', '{', 'a: &x [*x]', '\u0000', 'x'.repeat(10_000), '- '.repeat(2000)]) expect(readPack(text).pack).toBeNull();
  });
});

describe('needs', () => {
  it('read as fitted, not fitted, equal, unequal and one of', () => {
    const fit = { variant: 'lpg', beacon: 'yes', camera: 'no', attachment: 'none' };
    expect(needsMet(['beacon', '!camera', 'variant=lpg|diesel', 'variant!=electric', '!attachment', '!unknown'], fit)).toBe(true);
    for (const each of ['camera', '!beacon', 'variant=diesel', 'variant!=lpg', 'attachment']) expect(needsMet([each], fit)).toBe(false);
  });
});

it('publishes a JSON Schema of draft 2020-12', () => {
  const schema = packJsonSchema();
  expect(schema['$schema']).toBe('https://json-schema.org/draft/2020-12/schema');
  expect(Object.keys(schema['properties'] as object)).toContain('checkpoints');
});
