import { describe, expect, it } from 'vitest';
import { BREAKAGES, forkliftPack, packSource, shippedPack } from '../testing';
import {
  compose,
  CompositionError,
  contentHash,
  needsMet,
  type Pack,
  packIntegrity,
  packJsonSchema,
  prerequisites,
  readPack,
} from './index';

const source = packSource('counterbalance-forklift');
const pack = forkliftPack();

describe('the forklift pack', () => {
  it('is sound and carries what its trade asks for', () => {
    expect(packIntegrity(pack)).toEqual([]);
    expect(pack.checkpoints.length).toBe(72);
    expect(pack.faults.length).toBe(98);
    expect(pack.numbers.length).toBe(37);
    expect(pack.procedures.length).toBeGreaterThanOrEqual(20);
    expect(pack.sheet.sections.flatMap((each) => each.criteria).length).toBe(27);
    expect(pack.forbidden.length).toBe(17);
    expect(pack.schools.length).toBe(14);
  });

  it('composes for every variant and switch value, with order kept where steps fall away', () => {
    for (const variant of pack.variants)
      for (const feature of pack.features)
        for (const value of feature.values) {
          const effective = compose(pack, { variant: variant.id, features: { [feature.id]: value } });
          const steps = new Set(effective.procedures.flatMap((each) => each.steps.map((s) => s.id)));
          for (const procedure of effective.procedures)
            for (const step of procedure.steps)
              for (const before of prerequisites(step)) expect(steps.has(before)).toBe(true);
          for (const fault of effective.faults)
            expect(effective.checkpoints.some((each) => each.id === fault.checkpoint)).toBe(true);
        }
  });

  it('has gas checks only on a gas truck and a battery only on an electric one', () => {
    const has = (variant: string, id: string) =>
      compose(pack, { variant }).checkpoints.some((each) => each.id === id);
    expect([has('lpg', 'CF-29'), has('diesel', 'CF-29'), has('electric', 'CF-29')]).toEqual([
      true,
      false,
      false,
    ]);
    expect([has('electric', 'CF-49'), has('diesel', 'CF-49')]).toEqual([true, false]);
    expect([has('electric', 'CF-37'), has('diesel', 'CF-37')]).toEqual([false, true]);
  });

  it('bridges a step that falls away: without preheat and gas the crank waits for what they waited for', () => {
    const petrol = compose(pack, { variant: 'petrol' });
    const crank = petrol.procedures.flatMap((each) => each.steps).find((each) => each.id === 'CF-SU-6')!;
    expect(prerequisites(crank)).toEqual(['CF-SU-3', 'CF-SU-1']);
  });

  it('works a site choice into numbers and grades', () => {
    const school = pack.schools.find((each) => each.question.startsWith('Ramp rule'))!;
    const ramp = (option: string) =>
      compose(pack, { variant: 'diesel', choices: { [school.id]: option } }).numbers.find(
        (each) => each.id === 'CF-N20',
      )!.value;
    expect([ramp('always'), ramp('over-5'), ramp('over-10')]).toEqual([0, 5, 10]);
    const strict = pack.schools.find((each) => each.options.some((o) => o.id === 'everything'))!;
    const grades = new Set(
      compose(pack, { variant: 'diesel', choices: { [strict.id]: 'everything' } }).faults.map(
        (each) => each.grade,
      ),
    );
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
    expect(() => compose(pack, { variant: 'diesel', features: { wings: 'yes' } })).toThrow(
      /no feature "wings"/,
    );
    expect(() => compose(pack, { variant: 'diesel', features: { tyres: 'square' } })).toThrow(
      /no value "square"/,
    );
    expect(() => compose(pack, { variant: 'diesel', choices: { nobody: 'a' } })).toThrow(/no school/);
  });
});

describe('reading a pack names the line and the rule of each error', () => {
  it('knows at least twenty kinds of error', () => {
    expect(BREAKAGES.length).toBeGreaterThanOrEqual(20);
  });
  it.each(BREAKAGES.map((each) => [each.what, each] as const))('%s', (_what, { change, rule, at }) => {
    const text = change(source);
    const { pack: read, errors } = readPack(text);
    expect(read).toBeNull();
    const found = errors.find((each) => each.rule === rule);
    expect(found, JSON.stringify(errors.slice(0, 3))).toBeDefined();
    expect(found!.line).toBeGreaterThan(0);
    expect(found!.message.length).toBeGreaterThan(5);
    if (at !== null) {
      const lines = text.split('\n').slice(Math.max(0, found!.line - 2), found!.line + 1);
      expect(
        lines.some((line) => (typeof at === 'string' ? line.includes(at) : at.test(line))),
        `line ${found!.line}: ${lines.join(' / ')}`,
      ).toBe(true);
    }
  });

  it('refuses a zero character and half of a character, however they are written', () => {
    for (const escape of ['\\0', '\\ud83d']) {
      const reading = readPack(
        packSource('push-mower').replace(/^summary: .*$/m, `summary: "half ${escape} of it"`),
      );
      expect(reading.errors.map((each) => each.message)).toEqual([
        expect.stringMatching(/zero character or half/),
      ]);
      expect(reading.errors[0]!.line).toBeGreaterThan(1);
    }
  });
  it('lists no more errors than an author reads, and no text with more lines than any pack', () => {
    expect(readPack(`checkpoints:\n${'  - {}\n'.repeat(400)}`).errors.length).toBe(200);
    expect(readPack('a: b\n'.repeat(40_000)).errors[0]!.message).toMatch(/lines is not read/);
  });
  it('refuses coordinates and counts that no machine has, which drawing and printing would choke on', () => {
    const pack = shippedPack('push-mower');
    const reject = (change: (copy: Pack) => void) => {
      const copy = structuredClone(pack);
      change(copy);
      return readPack(JSON.stringify(copy)).errors.map((each) => each.rule);
    };
    expect(reject(() => undefined)).toEqual([]);
    expect(reject((copy) => (copy.plan.outlines[0]!.points[0] = [1e300, 0]))).toEqual(['schema:too_big']);
    expect(reject((copy) => (copy.revision = 99_999_999_999))).toEqual(['schema:too_big']);
    expect(
      reject(
        (copy) =>
          (copy.checkpoints = Array.from({ length: 700 }, (_, i) => ({
            ...pack.checkpoints[0]!,
            id: `c${i}`,
          }))),
      ),
    ).toEqual(['schema:too_big']);
  });
  it('never throws, whatever it is given', () => {
    for (const text of ['', '[]', 'null', '{', 'a: &x [*x]', '\u0000', 'x'.repeat(10_000), '- '.repeat(2000)])
      expect(readPack(text).pack).toBeNull();
  });
});

describe('a file of the earlier format', () => {
  it('is read as what it said, and what it lacks is named row by row', () => {
    const old = JSON.parse(JSON.stringify(shippedPack('push-mower'))) as Record<string, unknown> & {
      faults: Record<string, unknown>[];
      checkpoints: Record<string, unknown>[];
    };
    delete old['format'];
    for (const each of old.checkpoints) delete each['appears'];
    for (const fault of old.faults) {
      delete fault['title'];
      const until = fault['until'] as { says: string } | undefined;
      if (until) fault['limit'] = until.says;
      delete fault['until'];
    }
    const { errors } = readPack(JSON.stringify(old, null, 1));
    expect(errors.length).toBeGreaterThan(20);
    const rules = errors.map((each) => each.rule);
    expect(rules).toContain('appearance');
    expect(rules.filter((each) => each.startsWith('schema:'))).toEqual([]);
  });
  it('that is no pack at all is refused as such', () => {
    for (const text of ['faults: 3', 'checkpoints: []\nfaults: [null]\nprocedures: []'])
      expect(readPack(text).errors.some((each) => each.rule.startsWith('schema:'))).toBe(true);
  });
});

describe('needs', () => {
  it('read as fitted, not fitted, equal, unequal and one of', () => {
    const fit = { variant: 'lpg', beacon: 'yes', camera: 'no', attachment: 'none' };
    expect(
      needsMet(
        ['beacon', '!camera', 'variant=lpg|diesel', 'variant!=electric', '!attachment', '!unknown'],
        fit,
      ),
    ).toBe(true);
    for (const each of ['camera', '!beacon', 'variant=diesel', 'variant!=lpg', 'attachment'])
      expect(needsMet([each], fit)).toBe(false);
  });
});

it('publishes a JSON Schema of draft 2020-12', () => {
  const schema = packJsonSchema();
  expect(schema['$schema']).toBe('https://json-schema.org/draft/2020-12/schema');
  expect(Object.keys(schema['properties'] as object)).toContain('checkpoints');
});
