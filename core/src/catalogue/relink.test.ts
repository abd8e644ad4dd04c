import { describe, expect, it } from 'vitest';
import { forkliftPack } from '../testing';
import { compose } from './compose';
import type { Pack, Step } from './schema';

/** A pack whose first procedure has these steps; `gone` needs a feature that the machine lacks. */
function withSteps(steps: { id: string; after: Step['after']; gone?: boolean }[]): Pack {
  const pack = forkliftPack();
  const model = pack.procedures[0]!.steps[0]!;
  const feature = pack.features[0]!;
  const other = feature.values.find((value) => value !== feature.default)!;
  const made = steps.map(({ id, after, gone }): Step => ({
    ...model,
    id,
    after,
    needs: gone ? [`${feature.id}=${other}`] : [],
  }));
  return { ...pack, procedures: [{ ...pack.procedures[0]!, needs: [], steps: made }] };
}
const after = (pack: Pack, id: string) =>
  compose(pack, { variant: pack.variants[0]!.id }).procedures[0]!.steps.find((each) => each.id === id)!.after;

describe('a step composed away', () => {
  it('that waited for one of several leaves "one of several" behind', () => {
    const pack = withSteps([
      { id: 'a', after: [] },
      { id: 'b', after: [] },
      { id: 'gone', after: [{ anyOf: ['a', 'b'] }], gone: true },
      { id: 'last', after: ['gone'] },
    ]);
    expect(after(pack, 'last')).toEqual([{ anyOf: ['a', 'b'] }]);
  });
  it('as the only one left of several alternatives hands on what each of them waited for', () => {
    const pack = withSteps([
      { id: 'a', after: [] },
      { id: 'b', after: [] },
      { id: 'c', after: [] },
      { id: 'gone1', after: ['a', 'b'], gone: true },
      { id: 'gone2', after: ['c'], gone: true },
      { id: 'last', after: [{ anyOf: ['gone1', 'gone2'] }] },
    ]);
    expect(after(pack, 'last')).toEqual([{ anyOf: ['a', 'c'] }, { anyOf: ['b', 'c'] }]);
  });
  it('that waited for nothing asks for nothing, also as one alternative', () => {
    const pack = withSteps([
      { id: 'a', after: [] },
      { id: 'free', after: [], gone: true },
      { id: 'bound', after: ['a'], gone: true },
      { id: 'last', after: ['free', { anyOf: ['free', 'bound'] }] },
    ]);
    expect(after(pack, 'last')).toEqual([]);
  });
  it('keeps plain order across the gap, each step once', () => {
    const pack = withSteps([
      { id: 'a', after: [] },
      { id: 'gone1', after: ['a'], gone: true },
      { id: 'gone2', after: ['gone1'], gone: true },
      { id: 'last', after: ['gone2', 'a'] },
    ]);
    expect(after(pack, 'last')).toEqual(['a']);
  });
});
