import { describe, expect, it } from 'vitest';
import { forkliftPack, shippedClasses, shippedPack } from '../testing';
import {
  applyTable,
  compareClasses,
  compose,
  contentHash,
  libraryRows,
  LibrarySearch,
  type Pack,
  packDifferences,
  packTable,
} from './index';

const pack = forkliftPack();
const library = new LibrarySearch(shippedClasses().flatMap((id) => libraryRows(shippedPack(id))));

describe('searching the library', () => {
  it('finds what trainers look for, in every class that says it', () => {
    const cool = library.find('cool down');
    expect(new Set(cool.map((each) => each.classId)).size).toBeGreaterThan(5);
    expect(library.find('belt')[0]!.title.toLowerCase()).toContain('belt');
    const wraps = library.find('two wraps');
    expect(wraps.map((each) => each.classId)).toContain('overhead-crane');
    expect(wraps.map((each) => each.classId)).toContain('mobile-crane');
    expect(library.find('two wraps').map((each) => each.id)).toEqual(
      expect.arrayContaining(['OC-27', 'MC-47']),
    );
  });
  it('takes a row id, a number spelled or in digits, plurals, hyphens and accents as typed', () => {
    expect(library.find('OC-27')[0]).toMatchObject({ id: 'OC-27', part: 'round' });
    expect(library.find('2 wraps').map((each) => each.id)).toContain('OC-27');
    expect(library.find('CÔOL-DÓWN').length).toBe(library.find('cool down').length);
  });
  it('wants every word, at the start of a word, and finds nothing for nothing', () => {
    for (const hit of library.find('parking brake'))
      expect(`${hit.title} ${hit.says}`.toLowerCase()).toMatch(/park[\s\S]*brake|brake[\s\S]*park/);
    expect(library.find('arking')).toEqual([]);
    for (const nothing of ['', '   ', '()*+?[', 'zzzz']) expect(library.find(nothing)).toEqual([]);
  });
});

describe('differences between packs', () => {
  const changed = (change: (copy: Pack) => void): Pack => {
    const copy = structuredClone(pack);
    change(copy);
    return copy;
  };
  it('are none for the same content in another order', () => {
    expect(
      packDifferences(
        pack,
        changed((p) => p.checkpoints.reverse()),
      ),
    ).toEqual([]);
    expect(packDifferences(pack, { ...pack, revision: 9 })).toEqual([]);
  });
  it('name the row and the field, with both readings', () => {
    const result = packDifferences(
      pack,
      changed((p) => {
        p.checkpoints[0]!.sound = 'as new';
        p.faults.splice(3, 1);
        p.numbers.push({
          id: 'CF-N99',
          name: 'new number',
          value: 4,
          unit: 'm',
          meaning: 'for the test',
          needs: [],
          origin: { kind: 'memory' },
        });
        p.procedures[2]!.steps[0]!.critical = !p.procedures[2]!.steps[0]!.critical;
        p.summary = 'Another summary';
      }),
    );
    expect(result.map((each) => [each.section, each.kind, each.id])).toEqual([
      ['class', 'changed', pack.id],
      ['checkpoints', 'changed', pack.checkpoints[0]!.id],
      ['steps', 'changed', pack.procedures[2]!.steps[0]!.id],
      ['numbers', 'added', 'CF-N99'],
      ['faults', 'removed', pack.faults[3]!.id],
    ]);
    expect(result[1]!.fields).toEqual([
      { field: 'sound', before: pack.checkpoints[0]!.sound, after: 'as new' },
    ]);
  });
});

describe('checkpoints and faults as tables', () => {
  const lines = (cells: readonly unknown[]) => cells.map((_, i) => i + 1);
  it.each(shippedClasses())('%s comes back from both tables as it went', (id) => {
    const shipped = shippedPack(id);
    for (const kind of ['checkpoints', 'faults'] as const) {
      const cells = packTable(shipped, kind);
      const back = applyTable(shipped, kind, cells, lines(cells));
      expect(back.errors).toEqual([]);
      expect(contentHash(back.pack)).toBe(contentHash(shipped));
    }
  });
  it('take an edit, a new row and a missing row', () => {
    const cells = packTable(pack, 'checkpoints');
    const header = cells[0]!;
    const sound = header.indexOf('sound');
    const edited = cells
      .filter((row) => row[0] !== 'CF-02')
      .map((row) => (row[0] === 'CF-01' ? row.map((cell, i) => (i === sound ? 'changed here' : cell)) : row));
    const fresh = cells[1]!.map((cell, i) => (i === 0 ? 'CF-99' : cell));
    const withoutFaults = { ...pack, faults: pack.faults.filter((each) => each.checkpoint !== 'CF-02') };
    const result = applyTable(withoutFaults, 'checkpoints', [...edited, fresh], lines([...edited, fresh]));
    expect(result.errors).toEqual([]);
    expect(packDifferences(withoutFaults, result.pack!).map((each) => [each.kind, each.id])).toEqual([
      ['changed', 'CF-01'],
      ['added', 'CF-99'],
      ['removed', 'CF-02'],
    ]);
  });
  it('keep gauges, which do not fit a table, with their row', () => {
    const cells = packTable(pack, 'checkpoints');
    const back = applyTable(pack, 'checkpoints', cells, lines(cells)).pack!;
    expect(back.checkpoints.filter((each) => each.gauges).length).toBe(
      pack.checkpoints.filter((each) => each.gauges).length,
    );
  });
  it.each([
    [
      'an unknown column',
      (c: string[][]) => c.map((row, i) => [...row, i === 0 ? 'colour' : 'red']),
      'table-header',
      1,
    ],
    ['no id column', (c: string[][]) => c.map((row) => row.slice(1)), 'table-header', 1],
    ['a column twice', (c: string[][]) => c.map((row) => [...row, row[0]!]), 'table-header', 1],
    [
      'a number that is none',
      (c: string[][]) =>
        c.map((row, i) =>
          i === 3 ? row.map((cell, j) => (c[0]![j] === 'honest seconds' ? 'soon' : cell)) : row,
        ),
      'table-cell',
      4,
    ],
    [
      'an unknown station',
      (c: string[][]) =>
        c.map((row, i) => (i === 5 ? row.map((cell, j) => (j === 1 ? 'st-77' : cell)) : row)),
      'unresolved-station',
      6,
    ],
    [
      'an unknown system',
      (c: string[][]) =>
        c.map((row, i) => (i === 2 ? row.map((cell, j) => (c[0]![j] === 'system' ? 'magic' : cell)) : row)),
      'schema:invalid_value',
      3,
    ],
    [
      'an id twice',
      (c: string[][]) => c.map((row, i) => (i === 4 ? [c[3]![0]!, ...row.slice(1)] : row)),
      'unique-id',
      5,
    ],
    [
      'a needed cell left blank',
      (c: string[][]) =>
        c.map((row, i) => (i === 6 ? row.map((cell, j) => (c[0]![j] === 'sound' ? '' : cell)) : row)),
      'schema:invalid_type',
      7,
    ],
  ] as const)('refuse %s and name the line', (_what, change, rule, line) => {
    const cells = change(packTable(pack, 'checkpoints'));
    const result = applyTable(pack, 'checkpoints', cells, lines(cells));
    expect(result.pack).toBeNull();
    expect(result.errors.map((each) => [each.rule, each.line])).toContainEqual([rule, line]);
  });
});

describe('comparing two classes', () => {
  const loader = compose(shippedPack('wheel-loader'), { variant: 'diesel-turbo' });
  const grader = compose(shippedPack('motor-grader'), { variant: 'diesel' });
  it('puts like beside like: the rest between cranking tries differs, the limit does not', () => {
    const { numbers } = compareClasses(loader, grader);
    const pair = (id: string) => numbers.find((each) => each.left?.id === id);
    expect(pair('wl-n01')?.right).toMatchObject({ id: 'mg-n01', value: 30 });
    expect([pair('wl-n02')?.left?.value, pair('wl-n02')?.right?.value]).toEqual([2, 1]);
  });
  it('keeps the order of each start and stop, and loses no step', () => {
    for (const { kind, rows } of compareClasses(loader, grader).procedures) {
      for (const [side, composed] of [
        ['left', loader],
        ['right', grader],
      ] as const) {
        const own = composed.procedures
          .filter((each) => each.kind === kind)
          .flatMap((each) => each.steps.map((s) => s.id));
        expect(rows.flatMap((row) => (row[side] ? [row[side].id] : []))).toEqual(own);
      }
      expect(rows.some((row) => row.left && row.right)).toBe(true);
    }
  });
  it('finds a class the same as itself', () => {
    const { procedures, numbers } = compareClasses(loader, loader);
    expect(
      [...procedures.flatMap((each) => each.rows), ...numbers].every((row) => row.left?.id === row.right?.id),
    ).toBe(true);
  });
});
