import Ajv2020 from 'ajv/dist/2020';
import { describe, expect, it } from 'vitest';
import { parse } from 'yaml';
import { seededRandom } from '../statistics';
import { walkingLine } from '../round';
import { packSource, shippedClasses, shippedPack } from '../testing';
import {
  compose,
  contentHash,
  coverage,
  type EffectivePack,
  formatPackYaml,
  type Pack,
  packIntegrity,
  packJsonSchema,
  packToYaml,
  prerequisites,
  readPack,
} from './index';

const CLASSES = shippedClasses();
const packs = new Map(CLASSES.map((id) => [id, shippedPack(id)]));

/** Largest fit-out space that is walked whole; a larger one is sampled. */
const WHOLE_SPACE = 4096;
const SAMPLE = 160;

/** Every fit-out of a pack, or a seeded sample of them that has each value of each switch in it. */
function* fitOuts(pack: Pack): Generator<{ variant: string; features: Record<string, string> }> {
  const axes = [{ id: 'variant', values: pack.variants.map((each) => each.id) }, ...pack.features];
  const size = axes.reduce((product, each) => product * each.values.length, 1);
  const at = (pick: (axis: (typeof axes)[number], i: number) => string) => {
    const chosen = Object.fromEntries(axes.map((axis, i) => [axis.id, pick(axis, i)]));
    const { variant, ...features } = chosen;
    return { variant: variant!, features };
  };
  if (size <= WHOLE_SPACE) {
    for (let n = 0; n < size; n++) {
      let rest = n;
      yield at((axis) => {
        const value = axis.values[rest % axis.values.length]!;
        rest = Math.floor(rest / axis.values.length);
        return value;
      });
    }
    return;
  }
  for (const axis of axes)
    for (const value of axis.values)
      yield at((each) =>
        each.id === axis.id
          ? value
          : each.id === 'variant'
            ? each.values[0]!
            : (each as { default?: string }).default!,
      );
  const random = seededRandom(pack.checkpoints.length * 1009 + pack.faults.length);
  for (let n = 0; n < SAMPLE; n++)
    yield at((axis) => axis.values[Math.floor(random() * axis.values.length)]!);
}

/** What must hold of every composed class. */
function flaws(effective: EffectivePack): string[] {
  const found: string[] = [];
  const checkpoints = new Set(effective.checkpoints.map((each) => each.id));
  const steps = new Map(effective.procedures.flatMap((each) => each.steps.map((s) => [s.id, s] as const)));
  if (checkpoints.size < 5) found.push('hardly a check is left');
  if (effective.faults.length < 5) found.push('hardly a fault is left');
  if (!effective.faults.some((each) => each.plant)) found.push('nothing can be planted');
  for (const fault of effective.faults)
    if (!checkpoints.has(fault.checkpoint)) found.push(`${fault.id} has no check`);
  for (const step of steps.values())
    for (const before of prerequisites(step))
      if (!steps.has(before)) found.push(`${step.id} waits for ${before}, which is gone`);
  const done = new Set<string>();
  for (let moved = true; moved;) {
    moved = false;
    for (const step of steps.values())
      if (
        !done.has(step.id) &&
        step.after.every((each) =>
          typeof each === 'string' ? done.has(each) : each.anyOf.some((id) => done.has(id)),
        )
      ) {
        done.add(step.id);
        moved = true;
      }
  }
  if (done.size < steps.size)
    found.push(`no order does every step: ${[...steps.keys()].filter((id) => !done.has(id)).join(', ')}`);
  if (!effective.procedures.some((each) => each.kind === 'startup')) found.push('no start');
  if (!effective.procedures.some((each) => each.kind === 'shutdown')) found.push('no stop');
  if (effective.sheet.sections.length === 0) found.push('no score sheet');
  for (const each of effective.checkpoints)
    if (each.each && typeof each.each.count !== 'number') found.push(`${each.id} does not know how many`);
  return found;
}

it('ships a pack for each of the twenty-three classes', () => {
  expect(CLASSES).toHaveLength(23);
  expect(new Set([...packs.values()].map((each) => each.title)).size).toBe(23);
});

describe.each(CLASSES)('%s', (id) => {
  const pack = packs.get(id)!;

  it('is sound, every row says where it comes from, every step why, every fault can be found', () => {
    expect(packIntegrity(pack)).toEqual([]);
    const found = coverage(pack);
    expect(found.withoutOrigin).toEqual([]);
    expect(found.undetectable).toEqual([]);
    expect(found.withoutReason).toEqual([]);
    expect(found.dangling).toEqual([]);
    expect(found.counts.lookalikes).toBeGreaterThan(0);
    for (const kind of [
      'checkpoints',
      'faults',
      'procedures',
      'steps',
      'numbers',
      'criteria',
      'forbidden',
      'schools',
      'cautions',
      'failures',
      'mistakes',
      'certification',
    ] as const)
      expect(found.counts[kind], kind).toBeGreaterThan(0);
  });

  it('composes soundly for every fit-out', () => {
    for (const request of fitOuts(pack)) {
      const effective = compose(pack, request);
      const found = flaws(effective);
      if (found.length > 0) expect.fail(`${JSON.stringify(request)}: ${found.join('; ')}`);
    }
  });

  it('composes for every option of every school, and an option that sets something changes it', () => {
    const base = compose(pack, { variant: pack.variants[0]!.id });
    for (const school of pack.schools)
      for (const option of school.options) {
        const chosen = compose(pack, { variant: pack.variants[0]!.id, choices: { [school.id]: option.id } });
        expect(chosen.choices[school.id]).toBe(option.id);
        expect(flaws(chosen)).toEqual([]);
        if (option.id === school.default) expect(chosen.hash).toBe(base.hash);
        else expect(chosen.hash).not.toBe(base.hash);
      }
  });

  it('has its own outline, to scale, and can be walked round', () => {
    const points = pack.plan.outlines.flatMap((each) => each.points);
    const length = Math.max(...points.map((p) => p[1])) - Math.min(...points.map((p) => p[1]));
    expect(length).toBeGreaterThan(1);
    expect(length).toBeLessThan(25);
    expect(pack.plan.outlines.length).toBeGreaterThan(6);
    const line = walkingLine(pack.plan);
    expect(line.ring.length).toBeGreaterThan(3);
    const orders = line.ring.map((each) => each.id);
    expect(new Set(orders).size).toBe(orders.length);
    for (const station of pack.plan.stations)
      if (!station.at) expect(station.spurFrom, `${station.id} hangs in the air`).toBeDefined();
  });

  it('reads the same after going out as YAML or JSON and coming in again', () => {
    const hash = contentHash(pack);
    for (const text of [packToYaml(pack), JSON.stringify(pack)]) {
      const back = readPack(text);
      expect(back.errors).toEqual([]);
      expect(contentHash(back.pack)).toBe(hash);
    }
    expect(formatPackYaml(packSource(id))).toBe(packSource(id));
  });
});

it('passes the published JSON Schema in a general validator, which refuses what is broken', () => {
  const validate = new Ajv2020({ allErrors: true, strict: false }).compile(packJsonSchema());
  for (const id of CLASSES) {
    expect(validate(parse(packSource(id))), `${id}: ${JSON.stringify(validate.errors?.slice(0, 3))}`).toBe(
      true,
    );
  }
  const broken: unknown[] = [
    {},
    { ...packs.get('push-mower')!, family: 'flying' },
    { ...packs.get('push-mower')!, checkpoints: [] },
    { ...packs.get('push-mower')!, sticker: true },
    {
      ...packs.get('push-mower')!,
      faults: packs.get('push-mower')!.faults.map((each) => ({ ...each, grade: 'bad' })),
    },
  ];
  for (const each of broken) expect(validate(each)).toBe(false);
});
