import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  agreementTable,
  betaCdf,
  betaQuantile,
  binomialTail,
  bootstrapInterval,
  clopperPearsonInterval,
  cohenKappa,
  fleissKappa,
  intraclassCorrelations,
  intraclassIntervals,
  krippendorffAlpha,
  levelShares,
  mean,
  normalCdf,
  normalQuantile,
  poolCounts,
  seededRandom,
  sensitivityFromRates,
  sensitivityLogLinear,
  wilsonInterval,
  wilsonIntervalCorrected,
} from './index';

/** Properties that must hold for any data; the numbers themselves are checked against the reference cases. */
const counts = fc
  .integer({ min: 1, max: 400 })
  .chain((n) => fc.tuple(fc.integer({ min: 0, max: n }), fc.constant(n)));
const shares = fc.double({ min: 0.001, max: 0.999, noNaN: true });

describe('the normal distribution', () => {
  it('and its quantile undo each other', () => {
    fc.assert(
      fc.property(fc.double({ min: -6, max: 6, noNaN: true }), (z) => {
        expect(normalQuantile(normalCdf(z))).toBeCloseTo(z, 6);
      }),
    );
    fc.assert(
      fc.property(shares, (p) => {
        expect(normalCdf(normalQuantile(p))).toBeCloseTo(p, 12);
      }),
    );
  });
  it('has the textbook points 1.959964 and 1.644854', () => {
    expect(normalQuantile(0.975)).toBeCloseTo(1.959963984540054, 12);
    expect(normalQuantile(0.95)).toBeCloseTo(1.6448536269514722, 12);
    expect([normalQuantile(0), normalQuantile(1)]).toEqual([-Infinity, Infinity]);
    expect(() => normalQuantile(1.2)).toThrow(RangeError);
  });
});

describe('the beta distribution', () => {
  it('and its quantile undo each other', () => {
    const shape = fc.double({ min: 0.5, max: 60, noNaN: true });
    fc.assert(
      fc.property(shares, shape, shape, (p, a, b) => {
        expect(betaCdf(betaQuantile(p, a, b), a, b)).toBeCloseTo(p, 8);
      }),
    );
  });
  it('is symmetric', () => {
    fc.assert(
      fc.property(
        shares,
        fc.double({ min: 0.5, max: 40, noNaN: true }),
        fc.double({ min: 0.5, max: 40, noNaN: true }),
        (x, a, b) => {
          expect(betaCdf(x, a, b)).toBeCloseTo(1 - betaCdf(1 - x, b, a), 10);
        },
      ),
    );
  });
  it('gives binomial tails that add up', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), shares, (n, p) => {
        for (let k = 0; k < n; k++)
          expect(binomialTail(n, p, k, 'le') + binomialTail(n, p, k + 1, 'ge')).toBeCloseTo(1, 10);
      }),
      { numRuns: 40 },
    );
  });
});

describe('intervals of a proportion', () => {
  it('hold the observed share, lie in 0 to 1, and mirror for failures', () => {
    fc.assert(
      fc.property(counts, ([x, n]) => {
        for (const interval of [wilsonInterval, wilsonIntervalCorrected, clopperPearsonInterval]) {
          const { low, high } = interval(x, n);
          expect(low).toBeGreaterThanOrEqual(0);
          expect(high).toBeLessThanOrEqual(1);
          expect(low - 1e-12).toBeLessThanOrEqual(x / n);
          expect(high + 1e-12).toBeGreaterThanOrEqual(x / n);
          const mirror = interval(n - x, n);
          expect(mirror.low).toBeCloseTo(1 - high, 9);
          expect(mirror.high).toBeCloseTo(1 - low, 9);
        }
      }),
    );
  });
  it('widen with confidence and from score to corrected score', () => {
    fc.assert(
      fc.property(counts, ([x, n]) => {
        const narrow = wilsonInterval(x, n, 0.8);
        const wide = wilsonInterval(x, n, 0.99);
        expect(wide.low).toBeLessThanOrEqual(narrow.low);
        expect(wide.high).toBeGreaterThanOrEqual(narrow.high);
        expect(wilsonIntervalCorrected(x, n).low).toBeLessThanOrEqual(wilsonInterval(x, n).low + 1e-12);
      }),
    );
  });
  it('refuse impossible counts', () => {
    for (const [x, n] of [
      [3, 2],
      [-1, 4],
      [0, 0],
      [1.5, 4],
    ] as const)
      expect(() => wilsonInterval(x, n)).toThrow(RangeError);
  });
});

describe('signal detection', () => {
  it('rises with hits, falls with false alarms, and is nothing when they are equal', () => {
    fc.assert(
      fc.property(shares, shares, (h, f) => {
        const { dPrime, auc } = sensitivityFromRates(h, f);
        expect(Math.sign(Math.round(dPrime * 1e9))).toBe(
          Math.sign(Math.round((normalQuantile(h) - normalQuantile(f)) * 1e9)),
        );
        expect(auc > 0.5).toBe(dPrime > 0);
        expect(sensitivityFromRates(h, h).dPrime).toBeCloseTo(0, 12);
      }),
    );
  });
  it('is finite for a perfect inspector and for one who reports everything', () => {
    expect(
      Number.isFinite(
        sensitivityLogLinear({ hits: 12, misses: 0, falseAlarms: 0, correctRejections: 40 }).dPrime,
      ),
    ).toBe(true);
    expect(
      sensitivityLogLinear({ hits: 12, misses: 0, falseAlarms: 40, correctRejections: 0 }).criterion,
    ).toBeLessThan(-1);
  });
  it('pools by adding counts', () => {
    const one = { hits: 1, misses: 2, falseAlarms: 3, correctRejections: 4 };
    expect(poolCounts([one, one])).toEqual({ hits: 2, misses: 4, falseAlarms: 6, correctRejections: 8 });
    expect(poolCounts([])).toEqual({ hits: 0, misses: 0, falseAlarms: 0, correctRejections: 0 });
  });
});

describe('agreement of raters', () => {
  const table = fc.array(fc.array(fc.integer({ min: 0, max: 30 }), { minLength: 4, maxLength: 4 }), {
    minLength: 4,
    maxLength: 4,
  });
  it('of kappa is the same with the raters exchanged, and at most 1', () => {
    fc.assert(
      fc.property(table, fc.constantFrom('unweighted', 'linear', 'quadratic'), (t, weights) => {
        const { kappa } = cohenKappa(t, weights as 'linear');
        const turned = cohenKappa(
          t.map((_, i) => t.map((row) => row[i]!)),
          weights as 'linear',
        ).kappa;
        if (kappa === null) expect(turned).toBeNull();
        else {
          expect(turned).toBeCloseTo(kappa, 10);
          expect(kappa).toBeLessThanOrEqual(1 + 1e-12);
        }
      }),
    );
  });
  it('of a 2 x 2 table is the same for every weighting', () => {
    const t = [
      [20, 5],
      [10, 15],
    ];
    expect(cohenKappa(t, 'linear').kappa).toBeCloseTo(cohenKappa(t).kappa!, 12);
    expect(cohenKappa(t, 'quadratic').kappa).toBeCloseTo(cohenKappa(t).kappa!, 12);
  });
  it('refuses a table that is not square and labels nobody declared', () => {
    expect(() => cohenKappa([[1, 2]])).toThrow(RangeError);
    expect(() => agreementTable(['a'], ['c'], ['a', 'b'])).toThrow(/not among the categories/);
    expect(() => agreementTable(['a'], [], ['a'])).toThrow(RangeError);
  });
  it('of perfect raters is 1 by every coefficient', () => {
    expect(
      fleissKappa([
        [3, 0],
        [0, 3],
        [3, 0],
      ]).kappa,
    ).toBe(1);
    expect(
      krippendorffAlpha(
        [
          [1, 1, null],
          [2, 2, 2],
          [4, null, 4],
        ],
        'interval',
      ).alpha,
    ).toBe(1);
    expect(
      intraclassCorrelations([
        [1, 1],
        [3, 3],
        [8, 8],
      ]).icc21,
    ).toBeCloseTo(1, 12);
  });
  it('of Krippendorff does not care in which order the coders stand', () => {
    const unit = fc.array(fc.option(fc.integer({ min: 1, max: 5 }), { nil: null }), {
      minLength: 3,
      maxLength: 3,
    });
    fc.assert(
      fc.property(
        fc.array(unit, { minLength: 2, maxLength: 12 }),
        fc.constantFrom('nominal', 'ordinal', 'interval', 'ratio'),
        (units, level) => {
          const a = krippendorffAlpha(units, level as 'nominal');
          const b = krippendorffAlpha(
            units.map((each) => [each[2]!, each[0]!, each[1]!]),
            level as 'nominal',
          );
          if (a.alpha === null) expect(b.alpha).toBeNull();
          else expect(b.alpha).toBeCloseTo(a.alpha, 10);
        },
      ),
    );
  });
  it('refuses subjects with unequal numbers of ratings (Fleiss)', () => {
    expect(() =>
      fleissKappa([
        [3, 0],
        [1, 1],
      ]),
    ).toThrow(RangeError);
  });
});

describe('intervals of agreement among several', () => {
  // The six targets and four judges of Shrout and Fleiss (1979), table 2.
  const ratings = [
    [9, 2, 5, 8],
    [6, 1, 3, 2],
    [8, 4, 6, 8],
    [7, 1, 2, 6],
    [10, 5, 6, 9],
    [6, 2, 4, 7],
  ];

  it('are those that the R package psych prints for the example of Shrout and Fleiss (from memory)', () => {
    const found = intraclassIntervals(ratings)!;
    const printed = {
      icc11: [-0.133, 0.723],
      icc21: [0.019, 0.761],
      icc31: [0.342, 0.946],
      icc1k: [-0.884, 0.912],
      icc2k: [0.071, 0.927],
      icc3k: [0.676, 0.986],
    };
    for (const [form, [low, high]] of Object.entries(printed)) {
      const { low: l, high: h } = found[form as keyof typeof printed];
      expect([form, Math.abs(l - low!) < 0.002, Math.abs(h - high!) < 0.002]).toEqual([form, true, true]);
    }
  });

  it('hold the value they are an interval of, and are none where nothing can be said', () => {
    const values = intraclassCorrelations(ratings);
    for (const [form, { low, high }] of Object.entries(intraclassIntervals(ratings)!)) {
      expect(values[form as 'icc11']).toBeGreaterThan(low);
      expect(values[form as 'icc11']).toBeLessThan(high);
    }
    expect(intraclassIntervals([[1, 2, 3]])).toBeNull();
    expect(intraclassIntervals([[1], [2]])).toBeNull();
    expect(
      intraclassIntervals([
        [1, 1],
        [2, 2],
      ]),
    ).toBeNull();
  });

  it('by drawing anew cover a known mean about as often as they say', () => {
    const random = seededRandom(11);
    let held = 0;
    for (let i = 0; i < 200; i++) {
      const sample = Array.from({ length: 40 }, () => random());
      const found = bootstrapInterval(sample, (each) => mean(each), i, { repeats: 200 })!;
      if (found.low <= 0.5 && found.high >= 0.5) held++;
    }
    expect(held / 200).toBeGreaterThan(0.88);
    expect(held / 200).toBeLessThan(0.99);
    expect(bootstrapInterval([1], (each) => mean(each), 1)).toBeNull();
    expect(bootstrapInterval([1, 2], () => null, 1)).toBeNull();
  });
});

describe('a level share', () => {
  it('gives everybody as much as the room allows, in all what there is', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 9 }), { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 0, max: 30 }),
        (rooms, total) => {
          const shares = [...levelShares(new Map(rooms.map((room, i) => [i, room])), total, seededRandom(3))];
          const most = Math.max(...shares.map(([, share]) => share));
          for (const [i, share] of shares) {
            expect(share).toBeLessThanOrEqual(rooms[i]!);
            if (share < rooms[i]!) expect(share).toBeGreaterThanOrEqual(most - 1);
          }
          expect(shares.reduce((sum, [, share]) => sum + share, 0)).toBe(
            Math.min(
              total,
              rooms.reduce((sum, each) => sum + each, 0),
            ),
          );
        },
      ),
    );
  });
});
