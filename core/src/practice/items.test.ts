import { describe, expect, it } from 'vitest';
import { benchCandidates, benchItem, dealBench, dealNumbers } from '../bench';
import { compose } from '../catalogue';
import { caseItem, dealDrill, possibleCases } from '../drill';
import { forkliftPack, shippedClasses, shippedPack } from '../testing';
import { itemContent, itemRow, itemWords, numberItem, readingItem, stepItem } from './index';

const pack = forkliftPack();
const fault = pack.faults[0]!;
const items = {
  fault: `${fault.checkpoint}/${fault.id}`,
  sound: `${fault.checkpoint}/sound`,
  step: stepItem(pack.procedures[0]!.steps[0]!.id),
  number: numberItem(pack.numbers[0]!.id),
};

describe('an item of practice', () => {
  it('names the row that the editor opens for it', () => {
    expect(itemRow(items.fault)).toBe(fault.id);
    expect(itemRow(items.sound)).toBe(fault.checkpoint);
    expect(itemRow(readingItem('CF-30', 'heel'))).toBe('CF-30');
    expect(itemRow(items.step)).toBe(pack.procedures[0]!.steps[0]!.id);
    expect(itemRow(items.number)).toBe(pack.numbers[0]!.id);
  });

  it.each(Object.entries(items))(
    'of a %s reads otherwise once its row is changed, and only then',
    (_, item) => {
      const row = itemRow(item);
      const changed = JSON.parse(
        JSON.stringify(pack, (_key, value: unknown) =>
          value !== null && typeof value === 'object' && (value as { id?: string }).id === row
            ? { ...value, title: 'otherwise', part: 'otherwise', do: 'otherwise', name: 'otherwise' }
            : value,
        ),
      ) as typeof pack;
      const before = itemContent(pack, item);
      expect(before).not.toBeNull();
      expect(itemContent(forkliftPack(), item)).toBe(before);
      expect(itemContent(changed, item)).not.toBe(before);
      const other = pack.faults.find((each) => each.checkpoint !== fault.checkpoint)!;
      const elsewhere = `${other.checkpoint}/${other.id}`;
      expect(itemContent(changed, elsewhere)).toBe(itemContent(pack, elsewhere));
    },
  );

  it('is nothing where the class has none of it', () => {
    for (const item of [
      'XX-1/XX-2',
      `${fault.checkpoint}/none`,
      'step:none',
      'number:none',
      'reading:XX/heel',
    ])
      expect([item, itemContent(pack, item), itemWords(pack, item)]).toEqual([item, null, null]);
  });
});

describe('an item that is left out', () => {
  it.each(shippedClasses())('of %s is dealt in no drill, on no bench and in no question', (id) => {
    const shipped = shippedPack(id);
    const effective = compose(shipped, { variant: shipped.variants[0]!.id });
    const some = (list: readonly string[]) => new Set(list.filter((_, i) => i % 3 === 0));
    const cases = some(possibleCases(effective).map(caseItem));
    const benched = some([...new Set(benchCandidates(effective, 'all', 'si').map(benchItem))]);
    const numbers = some(effective.numbers.map((each) => numberItem(each.id)));
    for (let seed = 1; seed <= 8; seed++) {
      const drill = dealDrill(effective, { form: 'round', seed, without: cases });
      expect(drill.cases.length).toBeGreaterThan(0);
      expect(drill.cases.filter((each) => cases.has(caseItem(each)))).toEqual([]);
      const bench = dealBench(effective, { form: 'all', seed, size: 12, system: 'si', without: benched });
      expect(bench.cases.length).toBeGreaterThan(0);
      expect(bench.cases.filter((each) => benched.has(benchItem(each)))).toEqual([]);
      if (effective.numbers.length > 2)
        for (const each of dealNumbers(effective, { seed, size: 10, without: numbers }))
          expect(numbers.has(numberItem(each.number))).toBe(false);
    }
  });
});
