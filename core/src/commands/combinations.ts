import type { Control, Reading } from '../machine';

/** How far a pedal is pressed, in tenths of the way. */
const PEDAL = Array.from({ length: 11 }, (_, tenths) => tenths / 10);

/** Everything that a control can be. */
function valuesOf({ kind, positions }: Control): Exclude<Reading, null>[] {
  if (kind === 'selector' || kind === 'lever') return positions!;
  return kind === 'pedal' ? PEDAL : [false, true];
}

/** Every way in which controls can stand together, each as a list in their order. */
export function combinations(controls: readonly Control[]): Exclude<Reading, null>[][] {
  return controls.reduce<Exclude<Reading, null>[][]>(
    (all, control) => all.flatMap((each) => valuesOf(control).map((value) => [...each, value])),
    [[]],
  );
}
