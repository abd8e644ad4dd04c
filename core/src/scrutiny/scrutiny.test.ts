import { describe, expect, it } from 'vitest';
import { cronbachAlpha, cronbachAlphaInterval, itemStatistics, seededRandom } from '../statistics';
import {
  type ItemAnswer,
  type ItemReview,
  itemState,
  LEAST_PEOPLE,
  scrutinise,
  scrutiniseItems,
} from './index';

const random = seededRandom(21);
/** People of rising ability answer items; `bad` items are answered the other way round. */
function answersOf(people: number, items: number, bad: readonly number[] = []): ItemAnswer[] {
  return Array.from({ length: people }, (_, who) =>
    Array.from({ length: items }, (_unused, item) => {
      const knows = random() < (who + 1) / (people + 1);
      return { who: `p${who}`, item: `i${item}`, right: bad.includes(item) ? !knows : knows };
    }),
  ).flat();
}
const of = (list: ReturnType<typeof scrutiniseItems>, item: string) =>
  list.find((each) => each.item === item)!;

describe('items under scrutiny', () => {
  it('flags the item that good people fail, and no other', () => {
    const found = scrutiniseItems(answersOf(40, 10, [4]));
    expect(found.filter((each) => each.flags.includes('against-the-able')).map((each) => each.item)).toEqual([
      'i4',
    ]);
    expect(found[0]!.item).toBe('i4');
    expect(found[0]!.able!).toBeLessThan(found[0]!.others!);
    expect(found[0]!.says).toContain('the key or the wording is probably wrong');
  });

  it('flags what nearly all fail, and says to look at the key first', () => {
    const answers = [
      ...answersOf(30, 6),
      ...Array.from({ length: 30 }, (_, who) => ({ who: `p${who}`, item: 'hard', right: who === 3 })),
    ];
    const hard = of(scrutiniseItems(answers), 'hard');
    expect(hard.flags).toContain('nearly-all-fail');
    expect(hard.says).toContain('1 of 30');
  });

  it('judges nothing by too few people', () => {
    const found = scrutiniseItems(answersOf(LEAST_PEOPLE - 1, 5, [0]));
    for (const each of found) expect([each.enough, each.flags]).toEqual([false, []]);
    expect(found[0]!.says).toContain('too few');
  });

  it('has the difficulty of the statistics, and their discrimination where everybody answered all', () => {
    const answers = answersOf(25, 8);
    const people = [...new Set(answers.map((each) => each.who))];
    const items = [...new Set(answers.map((each) => each.item))];
    const table = people.map((who) =>
      items.map((item) => Number(answers.find((each) => each.who === who && each.item === item)!.right)),
    );
    const wanted = itemStatistics(table);
    const found = scrutiniseItems(answers);
    items.forEach((item, j) => {
      expect(of(found, item).difficulty).toBeCloseTo(wanted[j]!.difficulty, 12);
      expect(of(found, item).discrimination!).toBeCloseTo(wanted[j]!.correctedPointBiserial!, 12);
      const { low, high } = of(found, item).discriminationInterval!;
      expect(low).toBeLessThan(of(found, item).discrimination!);
      expect(high).toBeGreaterThan(of(found, item).discrimination!);
    });
  });

  it('takes people who answered different items, and the last of two answers', () => {
    const sparse = answersOf(40, 12, [5]).filter(() => random() < 0.7);
    const twice = [...sparse, { ...sparse[0]!, right: !sparse[0]!.right }];
    const [before, after] = [sparse, twice].map((each) => of(scrutiniseItems(each), sparse[0]!.item));
    expect(after!.people).toBe(before!.people);
    expect(Math.abs(after!.right - before!.right)).toBe(1);
    expect(of(scrutiniseItems(sparse), 'i5').flags).toContain('against-the-able');
  });

  it('says undefined of what does not vary', () => {
    const same = Array.from({ length: 12 }, (_, who) => [
      { who: `p${who}`, item: 'a', right: true },
      { who: `p${who}`, item: 'b', right: true },
    ]).flat();
    for (const each of scrutiniseItems(same))
      expect(each).toMatchObject({
        difficulty: 1,
        discrimination: null,
        discriminationInterval: null,
        flags: [],
      });
    expect(scrutiniseItems([])).toEqual([]);
  });
});

describe('how far items measure the same', () => {
  it('is Cronbach’s alpha where everybody answered everything, and that without each', () => {
    const answers = answersOf(30, 6, [2]);
    const people = [...new Set(answers.map((each) => each.who))];
    const items = [...new Set(answers.map((each) => each.item))];
    const table = people.map((who) =>
      items.map((item) => Number(answers.find((each) => each.who === who && each.item === item)!.right)),
    );
    const { items: found, scale } = scrutinise(answers);
    expect(scale).toMatchObject({ items: 6, people: 30 });
    expect(scale.alpha!).toBeCloseTo(cronbachAlpha(table)!, 12);
    expect(scale.interval).toEqual(cronbachAlphaInterval(scale.alpha!, 30, 6));
    itemStatistics(table).forEach((each, j) =>
      expect(of(found, items[j]!).alphaIfDropped!).toBeCloseTo(each.alphaIfDropped!, 12),
    );
    // Without the item that is keyed the wrong way round they measure the same better.
    expect(of(found, 'i2').alphaIfDropped!).toBeGreaterThan(scale.alpha!);
  });

  it('leaves out items that too few answered together with the others', () => {
    const early = answersOf(20, 4);
    const late = answersOf(12, 3).map((each) => ({
      who: `late ${each.who}`,
      item: `late ${each.item}`,
      right: each.right,
    }));
    const { items, scale } = scrutinise([...early, ...late]);
    expect(scale).toMatchObject({ items: 4, people: 20 });
    expect(of(items, 'late i0').alphaIfDropped).toBeNull();
    expect(scrutinise([]).scale).toEqual({ alpha: null, interval: null, people: 0, items: 0 });
  });
});

describe('where an item stands', () => {
  const flagged = { flags: ['nearly-all-fail'] as const, people: 24 };
  const calm = { flags: [] as const, people: 24 };
  const review = (decision: ItemReview['decision'], people = 20, changed = false) => ({
    decision,
    people,
    changed,
  });
  it.each([
    [flagged, null, 'to-review'],
    [calm, null, 'unflagged'],
    [flagged, review('keep'), 'kept'],
    [flagged, review('keep', 14), 'to-review'],
    [calm, review('keep', 2), 'kept'],
    [flagged, review('change'), 'to-change'],
    [calm, review('change', 20, true), 'changed'],
    [flagged, review('change', 20, true), 'to-review'],
    [flagged, review('retire'), 'retired'],
  ] as const)('%o after %o: %s', (found, newest, state) => {
    expect(itemState({ ...found, flags: [...found.flags] }, newest)).toBe(state);
  });
});
