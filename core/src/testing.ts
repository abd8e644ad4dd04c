import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { z } from 'zod';
import { compose, type Pack, readPack } from './catalogue';
import { machineOf, type Trial, tryFailures, tryRules } from './machine';

const PACKS = join(import.meta.dirname, '..', '..', 'packs');

/** The text of a shipped pack, for tests. */
export function packSource(classId: string): string {
  return readFileSync(join(PACKS, `${classId}.yaml`), 'utf8');
}

/** A pack as shipped, for tests. */
export function shippedPack(classId: string): Pack {
  const reading = readPack(packSource(classId));
  if (!reading.pack)
    throw new Error(reading.errors.map((each) => `${classId}:${each.line}: ${each.message}`).join('\n'));
  return reading.pack;
}

/** Ids of every class whose pack ships with the product. */
export function shippedClasses(): string[] {
  return readdirSync(PACKS)
    .filter((name) => name.endsWith('.yaml'))
    .map((name) => name.replace(/\.yaml$/, ''))
    .sort();
}

const lines = z.array(z.string()).min(1).optional();
const scriptsSchema = z.record(
  z.string(),
  z.strictObject({
    features: z.record(z.string(), z.string()).optional(),
    does: lines,
    begins: lines,
    seen: lines,
    right: lines,
    wrong: lines,
  }),
);

/** Scripts of trials from their YAML text, by the row they bring about; see TrialScript. */
export const readScripts = (text: string): z.infer<typeof scriptsSchema> => scriptsSchema.parse(parse(text));

/** How rows of a shipped class's desk are brought about for which no way is found by itself, for tests. */
export function deskScripts(classId: string): z.infer<typeof scriptsSchema> {
  const file = join(PACKS, 'scripts', `${classId}.yaml`);
  return existsSync(file) ? readScripts(readFileSync(file, 'utf8')) : {};
}

/** A row of a desk, tried on every machine of its class that has it. */
export interface Tried {
  id: string;
  results: (Trial & { on: string })[];
}

/**
 * Tries every forbidden row, or every failure, of a class in all its variants or some, fitted as each row wants it.
 * A pack without a desk has no rows; a script of a row that is not there is an error.
 */
export function tryOut(
  kind: 'forbidden' | 'failures',
  pack: Pack,
  {
    scripts = deskScripts(pack.id),
    variants = pack.variants.map((each) => each.id),
  }: { scripts?: ReturnType<typeof deskScripts>; variants?: readonly string[] } = {},
): Tried[] {
  const { desk } = pack.machine;
  if (!desk) return [];
  for (const id of Object.keys(scripts))
    if (!(id in desk.forbidden) && !(id in desk.failures))
      throw new Error(`scripts of ${pack.id}: the desk has no row "${id}"`);
  const tries = kind === 'forbidden' ? tryRules : tryFailures;
  const rows = new Map<string, Tried>(Object.keys(desk[kind]).map((id) => [id, { id, results: [] }]));
  const fitted = Object.entries(scripts).filter(([id, { features }]) => features && rows.has(id));
  for (const variant of variants) {
    const asShipped = compose(pack, { variant });
    for (const trial of tries(asShipped, machineOf(asShipped)!, scripts, (id) => !scripts[id]?.features))
      rows.get(trial.id)!.results.push({ ...trial, on: variant });
    for (const [id, { features }] of fitted) {
      const own = compose(pack, { variant, features: features! });
      for (const trial of tries(own, machineOf(own)!, scripts, (each) => each === id))
        rows.get(id)!.results.push({ ...trial, on: variant });
    }
  }
  return [...rows.values()];
}

/** The forklift pack as shipped, for tests. */
export function forkliftPack(): Pack {
  return shippedPack('counterbalance-forklift');
}

/**
 * One way to break a pack's text, the rule that must name it, and a piece of the line it stands on (null
 * where the line is not fixed).
 */
export interface Breakage {
  what: string;
  rule: string;
  at: string | RegExp | null;
  change: (text: string) => string;
}

const swap =
  (from: string | RegExp, to: string): Breakage['change'] =>
  (text) => {
    const changed = text.replace(from, to);
    if (changed === text) throw new Error(`the pack does not have ${String(from)}`);
    return changed;
  };

/** Every kind of error a pack can have, made from the shipped forklift pack. */
export const BREAKAGES: readonly Breakage[] = [
  { what: 'broken YAML', rule: 'yaml', at: null, change: swap('variants:\n', 'variants: [\n') },
  {
    what: 'a key twice',
    rule: 'yaml',
    at: 'revision: 3',
    change: swap('revision: 2\n', 'revision: 2\nrevision: 3\n'),
  },
  {
    what: 'a field that is not in the schema',
    rule: 'schema:unrecognized_keys',
    at: null,
    change: swap('revision: 2\n', 'revision: 2\nsticker: yes\n'),
  },
  {
    what: 'a family that is none',
    rule: 'schema:invalid_value',
    at: 'family: flying',
    change: swap('family: lifting', 'family: flying'),
  },
  {
    what: 'a method that is none',
    rule: 'schema:invalid_value',
    at: 'sniff',
    change: swap('methods: [ look, wipe, touch ]', 'methods: [ look, sniff, touch ]'),
  },
  {
    what: 'a row without a field it needs',
    rule: 'schema:invalid_type',
    at: 'id: CF-01',
    change: swap(/(- id: CF-01\n(?: {4}.*\n)*?) {4}sound: .*\n/, '$1'),
  },
  {
    what: 'a text too long',
    rule: 'schema:too_big',
    at: 'summary:',
    change: swap(/summary: .*/, `summary: ${'word '.repeat(300)}`),
  },
  {
    what: 'an id used twice',
    rule: 'unique-id',
    at: /- id: CF-10$/,
    change: swap('  - id: CF-11\n', '  - id: CF-10\n'),
  },
  {
    what: 'a station that does not exist',
    rule: 'unresolved-station',
    at: 'station: st-99',
    change: swap('    station: st-01\n    part: Fork heel', '    station: st-99\n    part: Fork heel'),
  },
  {
    what: 'a station both on the line and off it',
    rule: 'station-position',
    at: null,
    change: swap(/(- id: st-02\n)/, '$1      place: cab\n'),
  },
  {
    what: 'a condition nobody knows',
    rule: 'unknown-condition',
    at: 'full-moon',
    change: swap('when: [ engine-off', 'when: [ full-moon, engine-off'),
  },
  {
    what: 'limits that turn back',
    rule: 'gauge-direction',
    at: null,
    change: swap('rising: [ { grade: watch, at: 5 }', 'rising: [ { grade: watch, at: 15 }'),
  },
  {
    what: 'a fault of no check',
    rule: 'unresolved-checkpoint',
    at: 'checkpoint: CF-990',
    change: swap(/checkpoint: CF-\d+\n/, 'checkpoint: CF-990\n'),
  },
  {
    what: 'a fault nobody can detect',
    rule: 'undetectable-fault',
    at: null,
    change: swap(/methods: \[ look, wipe \](\n {4}sound: )/, 'methods: [ smell ]$1'),
  },
  {
    what: 'steps that wait for each other',
    rule: 'cyclic-steps',
    at: null,
    change: swap('  - id: CF-FM-1\n        do:', '  - id: CF-FM-1\n        after: [CF-FM-2]\n        do:'),
  },
  {
    what: 'a step that waits for nothing there',
    rule: 'unresolved-step',
    at: null,
    change: swap(/after: \[ CF-[A-Z]+-\d+/, 'after: [ CF-ZZ-9'),
  },
  {
    what: 'an unknown switch',
    rule: 'unknown-feature',
    at: 'tires=pneumatic',
    change: swap('needs: [ tyres=pneumatic ]', 'needs: [ tires=pneumatic ]'),
  },
  {
    what: 'an unknown value of a switch',
    rule: 'unknown-feature',
    at: 'tyres=square',
    change: swap('needs: [ tyres=pneumatic ]', 'needs: [ tyres=square ]'),
  },
  {
    what: 'a default that is no value',
    rule: 'feature-default',
    at: 'default: steel',
    change: swap('default: pneumatic', 'default: steel'),
  },
  {
    what: 'a number without a value',
    rule: 'number-value',
    at: null,
    change: swap(/(- id: CF-N01\n {4}name: .*\n) {4}(value|range): .*\n( {4}says: .*\n)?/, '$1'),
  },
  {
    what: 'a choice that leads nowhere',
    rule: 'unresolved-path',
    at: 'numbers/CF-N990/value',
    change: swap(/path: numbers\/[^/]+\/value/, 'path: numbers/CF-N990/value'),
  },
  {
    what: 'a choice that sets what cannot be',
    rule: 'school-set',
    at: 'value: many',
    change: swap(/(path: numbers\/[^/]+\/value\n\s+)value: \d+/, '$1value: many'),
  },
  {
    what: 'a published origin without its clause',
    rule: 'origin-cite',
    at: null,
    change: swap('origin: { kind: practice }', 'origin: { kind: published }'),
  },
];
