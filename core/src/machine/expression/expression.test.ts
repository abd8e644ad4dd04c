import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  checkExpression,
  Compiler,
  ExpressionError,
  type Meaning,
  meantWords,
  parseExpression,
  type Reading,
  TICKS,
} from './index';

const VOCABULARY = new Map<string, Meaning>([
  ['key', { kind: 'choice', values: ['out', 'off', 'on'] }],
  ['gear', { kind: 'choice', values: ['R', 'N', '1', '2'] }],
  ['people.near', { kind: 'choice', values: ['none', 'front', 'behind'] }],
  ['horn', { kind: 'truth' }],
  ['engine.running', { kind: 'truth' }],
  ['engine.oilPressure', { kind: 'figure', measure: 'pressure' }],
  ['bucket.height', { kind: 'figure', measure: 'length' }],
  ['starter.turning', { kind: 'figure', measure: 'time' }],
  ['fuel', { kind: 'figure', measure: 'share' }],
  ['load', { kind: 'figure', measure: 'mass' }],
  ['rated', { kind: 'figure', measure: 'mass' }],
  ['brake', { kind: 'figure', measure: null, worked: true }],
  ['look-round', { kind: 'truth' }],
  ['a', { kind: 'truth' }],
  ['b', { kind: 'truth' }],
  ['preheat.lit', { kind: 'absent' }],
]);

/** What an expression comes to, tick by tick, for the readings of each. Kept and taken up again after `split` ticks. */
function through(
  text: string,
  history: readonly Readonly<Record<string, Reading>>[],
  split = Infinity,
): boolean[] {
  const compiler = new Compiler(VOCABULARY);
  const holds = compiler.truth(parseExpression(text));
  let memory = compiler.freshMemory();
  return history.map((given, tick) => {
    const readings = compiler.names.map((name) => given[name] ?? null);
    if (tick === split) memory = JSON.parse(JSON.stringify(memory)) as number[];
    memory = compiler.remember({ tick, readings, memory });
    return holds({ tick, readings, memory });
  });
}
const once = (text: string, given: Readonly<Record<string, Reading>>) => through(text, [given])[0];
const problems = (text: string, reaction = false) =>
  checkExpression(parseExpression(text), VOCABULARY, { reaction }).map((each) => each.message);

describe('reading an expression', () => {
  it('binds "not" to its comparison, times to what stands before, then "and", then "or"', () => {
    expect(parseExpression('not key = on')).toMatchObject({ kind: 'not', of: { kind: 'compare' } });
    expect(parseExpression('a or b and horn')).toMatchObject({
      kind: 'or',
      parts: [{ name: 'a' }, { kind: 'and' }],
    });
    expect(parseExpression('a and key = on for 3 s')).toMatchObject({
      kind: 'and',
      parts: [{ name: 'a' }, { kind: 'for', seconds: 3, of: { kind: 'compare' } }],
    });
    expect(parseExpression('(a and key = on) for 3 s')).toMatchObject({ kind: 'for', of: { kind: 'and' } });
    expect(parseExpression('not horn within 2 s of key = on')).toMatchObject({
      kind: 'and',
      parts: [
        { kind: 'not', of: { name: 'horn' } },
        { kind: 'within', seconds: 2, of: { kind: 'compare' } },
      ],
    });
    expect(parseExpression('since horn > 5 min')).toMatchObject({
      kind: 'compare',
      left: { kind: 'since', of: { name: 'horn' } },
      right: { value: 5, unit: 'min' },
    });
  });

  it('takes units beside or apart from their figure, and numbers below nothing', () => {
    for (const [text, value, unit] of [
      ['fuel > 20%', 20, '%'],
      ['fuel > 20 %', 20, '%'],
      ['bucket.height < -0.3 m', -0.3, 'm'],
      ['bucket.height < 30cm', 30, 'cm'],
      ['load > 90 kg', 90, 'kg'],
      ['load > 90', 90, null],
    ] as const)
      expect([text, parseExpression(text)]).toMatchObject([text, { right: { value, unit } }]);
  });

  it.each([
    ['key =', 5, 'a name is wanted'],
    ['key = on on', 9, '"and", "or" or the end is wanted'],
    ['(a and b', 8, '")" is wanted'],
    ['a for b', 6, 'a time is wanted'],
    ['a for 3', 6, 'needs a unit of time'],
    ['a for 3 bar', 6, 'needs a unit of time'],
    ['a for -3 s', 6, 'not below nothing'],
    ['a && b', 2, '"&" has no meaning'],
    ['count a', 6, '"(" is wanted'],
    ['done(not)', 5, 'a name is wanted'],
    ['', 0, 'a name is wanted'],
  ])('refuses "%s" at letter %d', (text, at, says) => {
    const refused = (() => {
      try {
        parseExpression(text);
      } catch (error) {
        return error;
      }
      return null;
    })();
    expect(refused).toBeInstanceOf(ExpressionError);
    expect(refused).toMatchObject({ at, message: expect.stringContaining(says) });
  });
});

describe('checking an expression', () => {
  it('finds nothing wrong in what a desk says', () => {
    for (const text of [
      'engine.running and (key = on or people.near != none)',
      'starter.turning > 30 s or (starter.turning > 0 s and not horn)',
      'load > rated or load > 0',
      'gear = 1 or gear = R',
      'brake and brake > 0 and not brake = 1',
      'engine.oilPressure < 1 bar for 10 s',
      'done(look-round) and since (brake > 0) > 3 s',
      'preheat.lit or preheat.lit = lit',
      'count(horn) >= 3',
    ])
      expect([text, problems(text)]).toEqual([text, []]);
    expect(problems('horn within 10 s', true)).toEqual([]);
    expect(problems('horn before brake', true)).toEqual([]);
  });

  it.each([
    ['engin.running', 'there is no "engin.running"; "engine.running" is meant?'],
    ['done(look-rond)', 'there is no "look-rond"; "look-round" is meant?'],
    ['xyzzy', 'there is no "xyzzy"'],
    ['key = onn', '"onn" is none of its positions (out, off, on); "on" is meant?'],
    ['gear = 3', '3 is none of its positions (R, N, 1, 2)'],
    ['key > off', 'positions are compared with = or != only'],
    ['key', 'say which position: out, off, on'],
    ['fuel', 'a figure does not hold or not; compare it'],
    ['horn = 1', 'what holds or not is not compared; say it or "not" it'],
    ['fuel > 3 m', 'share is not compared with length'],
    ['fuel > horn', 'a figure is wanted after it'],
    ['key = horn', 'a position is wanted after it'],
    ['horn within 10 s', '"within" needs "of" and of what; alone it stands in reactions'],
    ['horn before brake', '"before" stands in reactions only'],
  ])('of "%s": %s', (text, says) => {
    expect(problems(text)).toEqual([says]);
  });

  it('means the nearest word, and none that is far', () => {
    expect(meantWords('Horm', ['horn', 'key'])).toBe('; "horn" is meant?');
    expect(meantWords('q', ['horn', 'key'])).toBe('');
  });
});

describe('working an expression out', () => {
  it('compares figures in their own units, and positions as they are written', () => {
    expect(once('bucket.height < 30 cm', { 'bucket.height': 0.29 })).toBe(true);
    expect(once('bucket.height < 30 cm', { 'bucket.height': 0.3 })).toBe(false);
    expect(once('starter.turning >= 2 min', { 'starter.turning': 120 })).toBe(true);
    expect(once('gear = 1', { gear: '1' })).toBe(true);
    expect(once('key != on', { key: 'off' })).toBe(true);
    expect(once('brake', { brake: 0.4 })).toBe(true);
    expect(once('brake', { brake: 0 })).toBe(false);
    expect(once('load > rated', { load: 5, rated: 4 })).toBe(true);
  });

  it('reads as false what is not fitted, whatever it is compared with', () => {
    for (const text of ['preheat.lit', 'preheat.lit = on', 'preheat.lit != on', 'preheat.lit < 3'])
      expect([text, once(text, {})]).toEqual([text, false]);
    expect(once('not preheat.lit', {})).toBe(true);
  });

  it('takes what holds at the start as never having become so', () => {
    const steady = Array.from({ length: 5 }, () => ({ a: true, b: false }));
    expect(through('within 1 s of a', steady)).toEqual([false, false, false, false, false]);
    expect(through('count(a) >= 1', steady)).toEqual([false, false, false, false, false]);
    expect(through('a for 0.2 s', steady)).toEqual([false, false, true, true, true]);
    expect(through('since b > 0 s', steady)).toEqual([false, false, false, false, false]);
  });

  it('knows what came before what', () => {
    const ab = (pairs: readonly [boolean, boolean][]) => pairs.map(([a, b]) => ({ a, b }));
    expect(
      through(
        'a before b',
        ab([
          [false, false],
          [true, false],
          [false, true],
        ]),
      ),
    ).toEqual([false, true, true]);
    expect(
      through(
        'a before b',
        ab([
          [false, true],
          [true, true],
        ]),
      ),
    ).toEqual([false, false]);
    expect(
      through(
        'a within 0.1 s',
        ab([
          [true, false],
          [true, false],
          [true, false],
        ]),
      ),
    ).toEqual([true, true, false]);
  });

  it('is what the whole history says, also when it is kept and taken up again', () => {
    const steps = fc.array(fc.record({ a: fc.boolean(), b: fc.boolean() }), { minLength: 1, maxLength: 60 });
    const seconds = fc.integer({ min: 0, max: 12 });
    fc.assert(
      fc.property(steps, seconds, fc.nat(60), (history, ticks, split) => {
        const s = ticks / TICKS;
        const a = history.map((each) => each.a);
        const rises = a.map((now, i) => i > 0 && now && !a[i - 1]!);
        const expected: Record<string, (i: number) => boolean> = {
          [`a for ${s} s`]: (i) => i - ticks >= 0 && a.slice(i - ticks, i + 1).every(Boolean),
          [`b and within ${s} s of a`]: (i) =>
            history[i]!.b && rises.slice(Math.max(0, i - ticks), i + 1).some(Boolean),
          [`since a > ${s} s`]: (i) => {
            const last = a.lastIndexOf(true, i);
            return last >= 0 && i - last > ticks;
          },
          'count(a) >= 2': (i) => rises.slice(0, i + 1).filter(Boolean).length >= 2,
          'done(a)': (i) => a.slice(0, i + 1).some(Boolean),
          [`(a for ${s} s) for 0.2 s`]: (i) =>
            [0, 1, 2].every((back) => {
              const at = i - back;
              return at - ticks >= 0 && a.slice(at - ticks, at + 1).every(Boolean);
            }),
        };
        for (const [text, holds] of Object.entries(expected)) {
          const wanted = history.map((_, i) => holds(i));
          expect([text, through(text, history)]).toEqual([text, wanted]);
          expect([text, through(text, history, split)]).toEqual([text, wanted]);
        }
      }),
      { numRuns: 200 },
    );
  });
});
