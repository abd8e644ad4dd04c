import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { type ReferenceCase, runReferenceCase } from './reference';

const folder = new URL('../reference/', import.meta.url);

describe.each(readdirSync(folder).filter((name) => name.endsWith('.json')))(
  'reference cases of %s',
  (file) => {
    const { cases } = JSON.parse(readFileSync(new URL(file, folder), 'utf8')) as { cases: ReferenceCase[] };
    it.each(cases.map((each) => [each.kind, each.name, each] as const))('%s: %s', (_kind, _name, each) => {
      expect(runReferenceCase(each).differences).toEqual([]);
    });
  },
);

describe('the runner itself', () => {
  it('fails a wrong value, a missing value and a thrown error, and skips an unknown kind by name', () => {
    const base = { name: 'x', kind: 'wilson', inputs: { x: 81, n: 263, confidence: 0.95 }, tolerance: 1e-7 };
    expect(runReferenceCase({ ...base, expected: { low: 0.3 } }).outcome).toBe('failed');
    expect(runReferenceCase({ ...base, expected: { median: 0.3 } }).outcome).toBe('failed');
    expect(
      runReferenceCase({ ...base, inputs: { x: 5, n: 2 }, expected: { low: 0 } }).differences[0],
    ).toMatch(/threw/);
    expect(runReferenceCase({ ...base, kind: 'toString', expected: {} }).outcome).toBe('skipped');
  });
});
