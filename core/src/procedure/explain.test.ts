import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { maximumWeightAntichain } from './antichain';
import { byHand } from './byHand';
import { explain } from './explain';
import { type OrderStep, Precedence, StepOrder } from './order';

/** Greatest weight of an antichain, by trying every set. */
function heaviestByHand(size: number, less: (a: number, b: number) => boolean, weights: number[]): number {
  let best = 0;
  for (let set = 0; set < 1 << size; set++) {
    const chosen = weights.flatMap((_, i) => (set & (1 << i) ? [i] : []));
    if (chosen.every((a) => chosen.every((b) => !less(a, b))))
      best = Math.max(
        best,
        chosen.reduce((sum, i) => sum + weights[i]!, 0),
      );
  }
  return best;
}

describe('a maximum-weight antichain', () => {
  it('is as heavy as the heaviest of all sets, and has no related pair', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 10 }),
        fc.array(fc.tuple(fc.nat(9), fc.nat(9)), { maxLength: 25 }),
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 10, maxLength: 10 }),
        (size, edges, all) => {
          const order = new Precedence(size);
          for (const [a, b] of edges) if (a < size && b < size) order.add(a, b);
          const less = (a: number, b: number) => order.has(a, b);
          const weights = all.slice(0, size);
          const found = maximumWeightAntichain({ size, less, weights });
          for (const a of found) for (const b of found) expect(less(a, b)).toBe(false);
          const weight = found.reduce((sum, i) => sum + weights[i]!, 0);
          expect(weight).toBe(heaviestByHand(size, less, weights));
        },
      ),
      { seed: 1, numRuns: 400 },
    );
  });
});

const NAMES = ['a', 'b', 'c', 'd', 'e', 'f', 'g'];
/** Up to seven steps, each after some that are written before it, in groups of one to three. */
const someSteps = fc.integer({ min: 1, max: 7 }).chain((n) =>
  fc.tuple(
    ...NAMES.slice(0, n).map((id, i) =>
      fc.record({
        id: fc.constant(id),
        token: fc.constant(id),
        weight: fc.constantFrom(1, 3),
        optional: fc.boolean().map((each) => each && i % 2 === 1),
        after:
          i === 0
            ? fc.constant([] as OrderStep['after'])
            : fc.array(
                fc.oneof(
                  fc.constantFrom(...NAMES.slice(0, i)),
                  fc
                    .uniqueArray(fc.constantFrom(...NAMES.slice(0, i)), { minLength: 1, maxLength: 3 })
                    .map((anyOf) => ({ anyOf })),
                ),
                { maxLength: 2 },
              ),
      }),
    ),
  ),
);
const someTokens = fc.array(fc.constantFrom(...NAMES, 'x'), { maxLength: 10 });

describe('the explanation of a trace', () => {
  it('is what brute force finds, on random orders with groups', () => {
    fc.assert(
      fc.property(someSteps, someTokens, (steps, tokens) => {
        const order = new StepOrder(steps);
        const { eventOf, stepOf, skippedWeight, kept } = explain(order, tokens);
        const hand = byHand(steps, tokens);
        expect(skippedWeight).toBe(hand.skipped);
        // What is matched is what it says, and in an order that may be kept.
        eventOf.forEach((e, s) => {
          if (e === null) return;
          expect(tokens[e]).toBe(steps[s]!.token);
          expect(stepOf[e]).toBe(s);
          eventOf.forEach((f, t) => {
            if (f !== null && kept.has(s, t)) expect(e).toBeLessThan(f);
          });
        });
        const free = steps.reduce(
          (sum, { optional, weight }, s) => sum + (optional && eventOf[s] !== null ? weight : 0),
          0,
        );
        expect(free).toBe(hand.free);
      }),
      { seed: 2, numRuns: 3000 },
    );
  });

  it('never explains less once an unrelated event is added', () => {
    fc.assert(
      fc.property(someSteps, someTokens, fc.nat(10), (steps, tokens, at) => {
        const order = new StepOrder(steps);
        const more = [...tokens.slice(0, at), 'unrelated', ...tokens.slice(at)];
        expect(explain(order, more).skippedWeight).toBe(explain(order, tokens).skippedWeight);
      }),
      { seed: 3, numRuns: 300 },
    );
  });

  it('takes the first of repeated acts, and the last of an act that may be tried again', () => {
    const order = new StepOrder([{ id: 'crank', token: 'crank', weight: 1, optional: false, after: [] }]);
    expect(explain(order, ['crank', 'crank', 'crank']).eventOf).toEqual([0]);
    expect(explain(order, ['crank', 'crank', 'crank'], { lastCounts: new Set(['crank']) }).eventOf).toEqual([
      2,
    ]);
  });

  it('lets one event be one step only, where two steps share a token', () => {
    const step = (id: string, after: string[] = []): OrderStep => ({
      id,
      token: 'horn',
      weight: 1,
      optional: false,
      after,
    });
    const free = new StepOrder([step('first'), step('second')]);
    expect(explain(free, ['horn']).eventOf.filter((each) => each !== null)).toEqual([0]);
    expect(explain(free, ['horn', 'horn']).eventOf).toEqual([0, 1]);
    expect(
      explain(new StepOrder([step('later', ['first']), step('first')]), ['horn', 'horn']).eventOf,
    ).toEqual([1, 0]);
  });

  it('asks for one member of a group: the one that was done, before its owner', () => {
    const step = (id: string, optional: boolean, after: OrderStep['after'] = []): OrderStep => ({
      id,
      token: id,
      weight: 1,
      optional,
      after,
    });
    const order = new StepOrder([
      step('key', true),
      step('cord', true),
      step('choke', false, [{ anyOf: ['key', 'cord'] }]),
    ]);
    expect(explain(order, ['cord', 'choke']).skippedWeight).toBe(0);
    expect(explain(order, ['choke']).skippedWeight).toBe(1);
    expect(explain(order, ['choke', 'key']).skippedWeight).toBe(1);
    expect(explain(order, ['key', 'cord', 'choke']).eventOf).toEqual([0, 1, 2]);
  });

  it('says where an order runs in a circle', () => {
    const step = (id: string, after: string[]): OrderStep => ({
      id,
      token: id,
      weight: 1,
      optional: false,
      after,
    });
    expect(() => new StepOrder([step('a', ['b']), step('b', ['a'])])).toThrow(/in a circle at step/);
  });
});
