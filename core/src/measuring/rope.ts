import { lossPercent } from './wear';

/** What was counted and measured on a wire rope, by how it is used and made. */
export type RopeFindings =
  | { rope: 'running'; inOneLay: number; inOneStrand: number }
  | { rope: 'rotation_resistant'; inSixDiameters: number; inThirtyDiameters: number }
  | { rope: 'standing'; beyondEnds: number; atEnd: number };

/** Loss of diameter beyond which a rope is taken out of use, per cent. */
const MOST_LOSS = 5;

/**
 * Whether a crane's wire rope is taken out of use, with each reason: broken wires by the kind of rope (running: six in
 * one lay or three in one strand of it; rotation resistant: two in six diameters or four in thirty; standing: more than
 * two in one lay beyond the ends, or more than one at an end), and more than 5 % of its diameter gone.
 * Source: 29 CFR 1926.1413(a)(2)(ii), from memory.
 *
 * @example ropeWear({ rope: 'running', inOneLay: 6, inOneStrand: 1 }, 16, 15.8).remove // true
 */
export function ropeWear(found: RopeFindings, nominal: number, measured: number) {
  const reasons = brokenWires(found);
  const diameterReductionPercent = lossPercent(nominal, measured);
  if (diameterReductionPercent > MOST_LOSS + 1e-9) reasons.push('diameter-reduced-more-than-5-percent');
  return { diameterReductionPercent, reasons, remove: reasons.length > 0 };
}

function brokenWires(found: RopeFindings): string[] {
  switch (found.rope) {
    case 'running':
      return [
        ...(found.inOneLay >= 6 ? ['six-broken-in-one-lay'] : []),
        ...(found.inOneStrand >= 3 ? ['three-broken-in-one-strand-in-one-lay'] : []),
      ];
    case 'rotation_resistant':
      return [
        ...(found.inSixDiameters >= 2 ? ['two-broken-in-six-diameters'] : []),
        ...(found.inThirtyDiameters >= 4 ? ['four-broken-in-thirty-diameters'] : []),
      ];
    case 'standing':
      return [
        ...(found.beyondEnds > 2 ? ['more-than-two-broken-beyond-end-connections'] : []),
        ...(found.atEnd > 1 ? ['more-than-one-broken-at-an-end-connection'] : []),
      ];
  }
}

/**
 * Whether a wire-rope sling is taken out of use for broken wires: ten in one lay, or five in one strand of it.
 * Source: 29 CFR 1910.184(f)(5), from memory.
 *
 * @example ropeSlingBroken(10, 1) // true
 */
export function ropeSlingBroken(inOneLay: number, inOneStrand: number): boolean {
  return inOneLay >= 10 || inOneStrand >= 5;
}
