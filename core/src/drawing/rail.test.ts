import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { compose } from '../catalogue';
import { judge, momentWords, session, wrongRuns } from '../procedure';
import { forkliftPack, shippedClasses, shippedPack } from '../testing';
import { railLayout, railSvg, RAIL_ON_PAPER } from './rail';
import { railLanes } from './railLanes';

/** Rows that lead to later rows. */
const someRows = fc
  .integer({ min: 1, max: 14 })
  .chain((size) =>
    fc.tuple(
      ...Array.from({ length: size }, (_, row) =>
        row === size - 1
          ? fc.constant([] as number[])
          : fc
              .uniqueArray(fc.integer({ min: row + 1, max: size - 1 }), { maxLength: 3 })
              .map((rows) => [...rows].sort((a, b) => a - b)),
      ),
    ),
  );

describe('the lanes of a rail', () => {
  it('never lead a line through the sign of another step, nor join lines that have nothing in common', () => {
    fc.assert(
      fc.property(someRows, (next) => {
        const { signs, ties } = railLanes(next);
        expect(signs).toHaveLength(next.length);
        expect(ties).toHaveLength(next.reduce((sum, each) => sum + each.length, 0));
        for (const tie of ties) {
          for (let row = tie.from + 1; row < tie.to; row++) expect(signs[row]).not.toBe(tie.lane);
          for (const other of ties) {
            const overlap = other.from < tie.to && tie.from < other.to && other.lane === tie.lane;
            if (overlap && other !== tie) expect(other.from === tie.from || other.to === tie.to).toBe(true);
          }
        }
      }),
      { seed: 1, numRuns: 500 },
    );
  });

  it('are one where every step waits for the one before, and fork where two are free of each other', () => {
    expect(railLanes([[1], [2], []]).signs).toEqual([0, 0, 0]);
    // After 0 both 1 and 2, free of each other: the line to 2 goes round the sign of 1.
    const { ties } = railLanes([[1, 2], [], []]);
    expect(ties.find((each) => each.to === 2)!.lane).toBe(1);
  });
});

describe('a procedure as a rail', () => {
  it('has every step of every class once, each in its own row, within the width', () => {
    for (const id of shippedClasses()) {
      const pack = shippedPack(id);
      const composed = compose(pack, { variant: pack.variants[0]!.id });
      for (const procedure of composed.procedures) {
        const own = session(composed, [procedure.id]);
        const { rows, width, height, textX } = railLayout(own, 320);
        expect(rows.map((each) => each.step.id).sort()).toEqual(own.steps.map((each) => each.id).sort());
        rows.forEach((row, i) => expect(row.top).toBe(i === 0 ? 0 : rows[i - 1]!.top + rows[i - 1]!.height));
        expect(rows.at(-1)!.top + rows.at(-1)!.height).toBe(height);
        expect(textX).toBeLessThan(width - 100);
      }
    }
  });

  it('says on paper what came of each step, in words that are no markup', () => {
    const pack = compose(forkliftPack(), { variant: 'diesel' });
    const [start] = pack.procedures.filter((each) => each.kind === 'startup').map((each) => each.id);
    const { trace, names } = wrongRuns(pack, [start!])[0]!;
    const judgement = judge(pack, [start!], trace);
    const svg = railSvg(railLayout(judgement.session, 500, judgement), RAIL_ON_PAPER, (act) =>
      momentWords(trace.events[act - 1]!.at),
    );
    expect(svg).toContain('left out');
    expect(svg).toContain(names.split(' ')[0]!);
    expect(svg.match(/<path/g)!.length).toBeGreaterThan(judgement.session.steps.length);
    expect(svg).not.toContain('& ');
  });
});
