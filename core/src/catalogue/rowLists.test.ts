import { describe, expect, it } from 'vitest';
import { shippedClasses, shippedPack } from '../testing';
import { findListedRow, keyedBy, listedRows, pointsTo, ROW_LISTS } from './rowLists';
import { packJsonSchema } from './schema';

describe.each(shippedClasses())('the lists of rows of %s', (classId) => {
  const pack = shippedPack(classId);
  it('hold every row once, each with its place, id and a title', () => {
    for (const { id: list } of ROW_LISTS)
      for (const row of listedRows(pack, list)) {
        const at = row.path.reduce<unknown>((node, key) => (node as Record<string, unknown>)[key], pack);
        expect(keyedBy(list) ? row.path.at(-1) : ((at as { id?: string }).id ?? '')).toBe(row.id);
        expect([list, row.id, row.title.length > 0]).toEqual([list, row.id, true]);
      }
    expect(listedRows(pack, 'steps').length).toBe(
      pack.procedures.reduce((sum, each) => sum + each.steps.length, 0),
    );
  });
  it('find a row by its id', () => {
    const step = pack.procedures[0]!.steps[0]!;
    expect(findListedRow(pack, step.id)).toMatchObject({ list: 'steps', row: { title: step.do } });
    expect(findListedRow(pack, 'no such row')).toBeNull();
  });
});

describe('a draft that is not whole', () => {
  it.each([[undefined], [null], [{}], [{ checkpoints: 'text' }], [{ checkpoints: [null, 3, {}] }]])(
    'is read as far as it goes: %j',
    (draft) => {
      for (const { id } of ROW_LISTS) expect(Array.isArray(listedRows(draft, id))).toBe(true);
    },
  );
});

describe('references', () => {
  /** Every field of the pack's schema with the field it stands in. */
  function* fields(
    node: unknown,
    within = '',
  ): Generator<[field: string, within: string, description: object]> {
    const { properties, items, anyOf } = node as Record<string, unknown>;
    for (const [field, each] of Object.entries((properties ?? {}) as Record<string, object>)) {
      yield [field, within, each];
      yield* fields(each, field);
    }
    for (const each of [items, ...((anyOf as unknown[] | undefined) ?? [])])
      if (each && typeof each === 'object') yield* fields(each, within);
  }
  it('are those fields of the schema that hold the id of another row', () => {
    const found = [...fields(packJsonSchema())]
      .filter(([field, within]) => pointsTo(field, within) !== null)
      .map(([field, within]) => `${within}.${field}`);
    for (const wanted of [
      'checkpoints.station',
      'checkpoints.alsoAt',
      'checkpoints.when',
      'stations.spurFrom',
      'faults.checkpoint',
      'steps.after',
      'steps.holds',
      'timing.since',
      'count.feature',
      'link.checkpoints',
      'link.stations',
      'forbidden.procedures',
    ])
      expect(found).toContain(wanted);
  });
  it('of a desk lead to its places, to what can be perceived, and to its commands', () => {
    expect(pointsTo('at', 'row', 'deskControls')).toBe('deskPlaces');
    expect(pointsTo('seen', 'row', 'deskFailures')).toBe('deskShows');
    expect(pointsTo('opposite', 'row', 'deskCommands')).toBe('deskCommands');
    // A condition there is an expression, no list of the class's conditions.
    expect(pointsTo('when', 'row', 'deskShows')).toBeNull();
    const loader = shippedPack('wheel-loader');
    expect(listedRows(loader, 'deskSteps')[0]!.title).toBe(
      listedRows(loader, 'steps').find((each) => each.id === listedRows(loader, 'deskSteps')[0]!.id)!.title,
    );
  });
  it('and no plain text', () => {
    for (const field of ['title', 'part', 'sound', 'do', 'why', 'unit', 'cite'])
      expect(pointsTo(field, 'steps')).toBeNull();
  });
});
