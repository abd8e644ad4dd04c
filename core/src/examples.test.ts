import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import * as calendar from './calendar';
import * as signature from './evaluation/signature';
import * as measuring from './measuring';
import * as statistics from './statistics';
import * as storable from './text/storable';

/** An example of a docstring: an expression, and what it gives as written. */
interface Example {
  of: string;
  code: string;
  gives: string;
}
interface Documented {
  name: string;
  doc: string;
}

/** The exported functions of a source file with the comment above each. */
function documented(file: string): Documented[] {
  const source = readFileSync(join(import.meta.dirname, file), 'utf8');
  return [...source.matchAll(/\/\*\*((?:(?!\*\/)[\s\S])*)\*\/\nexport function (\w+)/g)].map(
    ([, doc, name]) => ({
      name: name!,
      doc: doc!.replace(/^\s*\* ?/gm, '').trim(),
    }),
  );
}
const examplesOf = ({ name, doc }: Documented): Example[] =>
  doc
    .split(/^@/m)
    .filter((each) => each.startsWith('example'))
    .map((each) => {
      const text = each.slice('example'.length).trim();
      const cut = text.lastIndexOf(' // ');
      return { of: name, code: text.slice(0, cut), gives: text.slice(cut + 4).trim() };
    });

const run = (code: string, scope: object): unknown =>
  // The code stands in this repository's own comments.
  (new Function(...Object.keys(scope), `return ${code}`) as (...values: unknown[]) => unknown)(
    ...Object.values(scope),
  );

const MODULES = [
  {
    name: 'calendar',
    scope: calendar,
    files: ['calendar/plainDate.ts', 'calendar/timeZone.ts', 'calendar/elapsed.ts', 'calendar/longDate.ts'],
    all: true,
  },
  { name: 'measuring', scope: measuring, files: ['measuring/wear.ts', 'measuring/rope.ts'], all: false },
  {
    name: 'statistics',
    scope: statistics,
    files: [
      'beta',
      'bootstrap',
      'items',
      'kappa',
      'level',
      'location',
      'normal',
      'proportions',
      'random',
      'raters',
      'signalDetection',
    ].map((each) => `statistics/${each}.ts`),
    all: true,
  },
  { name: 'signatures', scope: signature, files: ['evaluation/signature.ts'], all: false },
  { name: 'text', scope: storable, files: ['text/storable.ts'], all: false },
];

describe.each(MODULES)('the examples of $name', ({ scope, files, all }) => {
  const functions = files.flatMap(documented);

  it('are there for every public function', () => {
    const without = functions.filter((each) => examplesOf(each).length === 0).map((each) => each.name);
    if (all) {
      expect(without).toEqual([]);
      const exported = Object.entries(scope).filter(([, each]) => typeof each === 'function');
      expect(functions.map((each) => each.name).sort()).toEqual(exported.map(([name]) => name).sort());
    } else expect(functions.length).toBeGreaterThan(without.length);
  });

  it.each(functions.flatMap(examplesOf))('$code gives $gives', ({ code, gives }) => {
    const value = run(code, scope);
    const written = run(gives, {});
    if (typeof written !== 'number') expect(value).toEqual(written);
    // A number agrees as far as it is written out.
    else expect(value).toBeCloseTo(written, gives.split('.')[1]?.length ?? 6);
  });
});
