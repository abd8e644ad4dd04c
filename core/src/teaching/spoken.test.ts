import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { shippedClasses, shippedPack } from '../testing';
import { spokenProcedure, spokenRound } from './index';

describe.each(shippedClasses())('%s, said aloud', (id) => {
  const raw = shippedPack(id);
  const pack = compose(raw, { variant: raw.variants[0]!.id });
  it('says every check of the round once, in walking order, with what each method shows', () => {
    const lines = spokenRound(pack);
    expect(new Set(lines.map((each) => each.id)).size).toBe(lines.length);
    expect(lines.length).toBe(pack.checkpoints.length);
    for (const line of lines) {
      const check = pack.checkpoints.find((each) => each.id === line.id)!;
      expect(line.details.filter((each) => each.label !== 'When').length).toBe(check.methods.length);
      for (const { text } of line.details) expect(text).not.toMatch(/^[a-z]+(-[a-z]+)+$/);
    }
  });
  it('says every step of every procedure, and nothing of one it does not have', () => {
    for (const procedure of pack.procedures)
      expect(spokenProcedure(pack, procedure.id).map((each) => each.id)).toEqual(
        procedure.steps.map((each) => each.id),
      );
    expect(spokenProcedure(pack, 'nothing')).toEqual([]);
  });
});
