import { SIGNATURE, signatureProblem } from '@rounds/core/evaluation';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { strokesPath } from './strokes';

const ON = { width: 300, height: 100 };
const stroke = (...points: [number, number][]) => ({ points: points.map(([x, y]) => ({ x, y })) });

describe('strokes of a pen', () => {
  it('become a path on the field that signatures are kept on', () => {
    expect(strokesPath([stroke([0, 0], [150, 50]), stroke([300, 100])], ON)).toBe('M0 0L300 100M600 200');
    expect(strokesPath([], ON)).toBe('');
    expect(strokesPath([stroke()], ON)).toBe('');
  });

  it('that leave the field stay on its edge, and the path is one the server takes', () => {
    const at = fc.integer({ min: -500, max: 900 });
    const strokes = fc.array(fc.array(fc.tuple(at, at), { maxLength: 40 }), { maxLength: 8 });
    fc.assert(
      fc.property(strokes, (all) => {
        const path = strokesPath(
          all.map((each) => stroke(...each)),
          ON,
        );
        const numbers = path.match(/-?\d+/g)?.map(Number) ?? [];
        numbers.forEach((n, i) => {
          expect(n).toBeGreaterThanOrEqual(0);
          expect(n).toBeLessThanOrEqual(i % 2 === 0 ? SIGNATURE.width : SIGNATURE.height);
        });
        // That it is too little may be said of it, never that it cannot be read.
        if (path) expect(signatureProblem(path) ?? 'is too short to be a signature').toMatch(/too short/);
      }),
    );
  });
});
